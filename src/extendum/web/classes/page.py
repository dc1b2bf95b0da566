"""What the Desk shows of a class, put together for its templates."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.utils.safestring import SafeString

from extendum.core.checks.finding import Severity
from extendum.core.fit.fit import Fitter
from extendum.core.model.audience import Setting, WhatNext
from extendum.core.model.item import Item, MoveItem, dose_words
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.limits import whole_number
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Section
from extendum.core.model.talk import Quiet
from extendum.core.model.timeline import Timeline, clock
from extendum.core.moves.objections import objections
from extendum.core.moves.suggest import missing_areas
from extendum.core.outputs.summary import Summary, summarise
from extendum.core.timing.compile import compile_script
from extendum.draw.band import draw_band, draw_dose_band, section_spans
from extendum.draw.flags import draw_flag
from extendum.draw.ruling import ruling_in
from extendum.draw.sheet import Flag, draw_sheet
from extendum.web.classes import store
from extendum.web.classes.class_settings import settings_of
from extendum.web.classes.findings import Told, flags_of, report_of, told_counts
from extendum.web.classes.group_panel import group_words
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.classes.own import Own
from extendum.web.classes.panels import newer_than, panel_of
from extendum.web.library.figures import figure_address
from extendum.web.library.look import areas, positions
from extendum.web.library.store import Library
from extendum.web.shared.drawn import drawn

#: What the panel tells anyway, with everything that could stand in.
AGAINST_BRIEF = frozenset({"against-condition", "posture-out", "to-avoid", "prop-missing", "prop-wrong"})


@lru_cache(maxsize=64)
def compiled(document: bytes) -> Timeline:
    """The timeline of a stored document."""
    return compile_script(store.unpack(document))


@lru_cache(maxsize=64)
def fitter(document: bytes) -> Fitter:
    """What a stored document can be fitted to."""
    return Fitter(store.unpack(document))


#: What is chosen when it is the settings of the class.
SETTINGS = "settings"
#: How high the panel of what is chosen is, and how wide the drawer of the settings, as app.css has them.
PANEL_PX, DRAWER_PX = 352, 432
#: How wide the list is, and what stands beside the band.
LIST_PX, BESIDE_BAND_PX = 416, 330
#: What stands beside the strips of a move, and from which width on it does.
BESIDE_STRIP_PX, STACKED_PX = 230, 640


@dataclass(frozen=True, slots=True)
class Room:
    """The room that a window has for the sheet and what is beneath it, in pixels."""

    wide: int = 824
    high: int = 604
    tabs: bool = False

    def __str__(self) -> str:
        return f"{self.wide}x{self.high}{'x1' * self.tabs}"

    @classmethod
    def read(cls, told: str) -> Room:
        """As a page tells it; the usual one where it tells nothing that could be."""
        wide, high, *tabs = (*told.split("x"), "", "")[:3]
        measures = whole_number(wide, 100, 8000), whole_number(high, 100, 8000)
        return cls(*measures, tabs == ["1"]) if all(measures) else cls()  # type: ignore[arg-type]

    @property
    def band(self) -> int:
        """How wide the band is: the window without the list's share, the length told and the form to fit it."""
        return max(300, self.wide) if self.tabs else max(300, self.wide + LIST_PX - BESIDE_BAND_PX)

    @property
    def strip(self) -> int:
        """How wide the strips of the panel are: beside the figure where there is room, under it where there is not."""
        return max(430, self.wide - BESIDE_STRIP_PX * (self.wide >= STACKED_PX))

    def sheet(self, *, panel: bool, drawer: bool) -> tuple[int, int]:
        """What is left for the sheet beside the panel or the drawer."""
        if self.tabs:
            return self.wide, self.high
        return max(300, self.wide - DRAWER_PX * drawer), max(120, self.high - PANEL_PX * panel)


#: Before a page has told.
USUAL = Room()


@dataclass(frozen=True, slots=True)
class Row:
    """One line of the running order."""

    item: Item
    number: int
    dose: str
    start: str
    band: SafeString
    posture: str
    chosen: bool
    marks: str
    present: bool
    against: bool
    newer: bool
    flag: SafeString
    figure: str


@dataclass(frozen=True, slots=True)
class Block:
    """A group of the running order with its rows; the first of a section carries the section's name."""

    section: Section
    group: Group
    first: bool
    plan: str
    rows: list[Row]
    length: str


def desk_context(of: StretchClass, chosen_id: str | None, room: Room = USUAL) -> dict[str, Any]:
    """Everything that the Desk shows, for a class and what is chosen on it: an item, a group, or its settings."""
    head = of.present
    assert head is not None  # noqa: S101 - a class is made with its first revision
    document = bytes(head.document)
    script, timeline, fits = store.script_of(head), compiled(document), fitter(document)
    chosen = next((item for item in script.items() if item.id == chosen_id), None)
    group = next((g for x in script.sections for g in x.groups if g.id == chosen_id), None)
    length, target, settings = timeline.length_s, script.brief.target_s, chosen_id == SETTINGS
    ruling = ruling_in(max(length, target), *room.sheet(panel=bool(chosen or group), drawer=settings))
    own = Own(of.owner)
    report = report_of(script, timeline, own)
    flags = flags_of(report)
    spans = section_spans(timeline, [(s.name, {i.id for i in s.items}) for s in script.sections])
    return {
        "class": of,
        "taught_times": of.sessions.exclude(run=None).count(),
        "next_times": list(of.next_times.filter(done_at=None)),
        "script": script,
        "length": clock(length),
        "target": clock(target),
        "on_target": length == target,
        "off_target": difference_words(length, target),
        "band": drawn(draw_band(spans, length, fits.least_s, fits.most_s, target, room.band)),
        "sheet": drawn(draw_sheet(timeline, script, chosen.id if chosen else None, flags, ruling)),
        "blocks": _blocks(script, timeline, chosen, own.library, flags),
        "chosen": chosen,
        "group": group,
        "settings": settings,
        "chosen_id": chosen_id if chosen or group or settings else "",
        "panel": _panel(script, timeline, chosen or group, own, room, settings=settings),
        "room": str(room),
        "recorded": brief_recorded(script),
        "findings": [Told(one) for one in report.at(chosen.id) if one.code not in AGAINST_BRIEF] if chosen else [],
        "checks": told_counts(report),
        "brief_told": brief_words(script),
        "missing": missing_areas(script),
        "summary": summary_line(summarise(script, timeline)),
        "moves": len(script.moves()),
        "look_areas": areas(),
        "look_positions": positions(),
        "can_undo": head.parent_id is not None,
        "can_redo": head.forward_id is not None,
        "undo_label": head.label,
        "steps": Revision.objects.filter(of=of).count(),
    }


def _panel(
    script: Script, timeline: Timeline, chosen: Item | Group | None, own: Own, room: Room, *, settings: bool
) -> dict[str, Any]:
    if chosen is not None:
        return panel_of(script, timeline, chosen, own, room.wide, room.strip)
    return settings_of(script, own.styles) if settings else {}


def brief_recorded(script: Script) -> bool:
    """Whether the class is to be recorded: then the way to record it stands beside the one to teach it."""
    return script.brief.setting is not Setting.LIVE


def difference_words(length: int, target: int) -> str:
    """How far a length is from the one that is wanted."""
    if length == target:
        return "to the second"
    return f"{clock(abs(length - target))} {'over' if length > target else 'short of'} {clock(target)}"


def _blocks(
    script: Script, timeline: Timeline, chosen: Item | None, library: Library, flags: dict[str, Flag]
) -> list[Block]:
    starts: dict[str, int] = {}
    for segment in timeline.segments:
        starts.setdefault(segment.item, segment.start_s)
    number, blocks = 0, []
    for section in script.sections:
        for group in section.groups:
            rows = []
            for item in group.items:
                number += 1
                rows.append(
                    Row(
                        item,
                        number,
                        dose_words(item),
                        clock(starts[item.id]) if item.id in starts else "–",
                        drawn(draw_dose_band(item.quantity)),
                        item.move.posture.value if isinstance(item, MoveItem) else item.tag,
                        item is chosen,
                        mark_words(item),
                        item.present,
                        isinstance(item, MoveItem) and bool(objections(item.move, script.brief)),
                        newer_than(item, library),
                        _row_flag(flags.get(item.id)),
                        figure_address(item.move) if isinstance(item, MoveItem) else "",
                    )
                )
            own = {item.id for item in group.items}
            seconds = sum(s.seconds for s in timeline.segments if s.item in own)
            first = group is section.groups[0]
            blocks.append(Block(section, group, first, group_words(group), rows, clock(seconds)))
    return blocks


def _row_flag(flag: Flag | None) -> SafeString:
    """The mark of what should be changed; what is only worth knowing stays on the sheet."""
    return drawn(draw_flag(flag.severity)) if flag and flag.severity is not Severity.NOTE else SafeString()


def brief_words(script: Script) -> str:
    """Whom the class is for and how it is given, in a few words."""
    brief = script.brief
    told = [brief.audience or brief.group, str(brief.setting) if brief.audience or brief.group else ""]
    told += [f"before {brief.before}"] if brief.before is not WhatNext.NOTHING else []
    return ", ".join(filter(None, told)) or "not set yet: who, where and what for"


def mark_words(item: Item) -> str:
    """How an item is marked, in a few words; empty for one like the others."""
    if isinstance(item, Quiet):
        return ""
    told = {Keep.ALWAYS: [], Keep.OPTIONAL: ["may go"], Keep.OUT: ["left out"]}[item.keep]
    if item.keep is Keep.OPTIONAL and item.dropped:
        told = ["left out by the fit"]
    told += [] if item.matters is Matters.AS_OTHERS else [item.matters.value]
    return ", ".join(told)


def summary_line(s: Summary) -> list[tuple[str, str]]:
    """The facts of a class that a glance should tell."""
    if s.sides_equal:
        sides = f"left and right {clock(s.left_s)} each"
    else:
        sides = f"left {clock(s.left_s)}, right {clock(s.right_s)}"
    ups = "stays up" if not s.floor_changes else f"down or up {s.floor_changes}×"
    return [
        ("Sides", sides),
        ("Talk", f"{s.talk_percent} %"),
        ("Longest quiet", f"{s.longest_quiet_s} s" if s.longest_quiet_s < 100 else clock(s.longest_quiet_s)),
        ("Floor", ups),
        ("Unsaid", f"{s.unsaid}"),
    ]
