"""The Words screen: the whole script as a page to be read aloud, editable in place."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import zip_longest
from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.utils.safestring import SafeString
from django.views.decorators.http import require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from extendum.core.edit.script_edits import set_style
from extendum.core.model.dose import COUNTED
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.limits import LONGEST_S, whole_number
from extendum.core.model.marks import without_marks
from extendum.core.model.placeholders import CLASS_PLACEHOLDERS, PLACEHOLDERS
from extendum.core.model.prompts import Prompt, PromptKind, Scope
from extendum.core.model.script import Script
from extendum.core.model.talk import Quiet, Talk, TalkPace
from extendum.core.model.timeline import Cue, CueKind, Timeline, Unsaid, clock
from extendum.core.moves.further import further_lines
from extendum.core.outputs.wording import (
    SAMPLE,
    THERE_MOST_S,
    Reading,
    calibrated,
    literal_sides,
    readings,
    repeated,
    talk_share,
)
from extendum.core.timing.cues import RULES
from extendum.core.timing.layout import WayTold, ways_told
from extendum.core.timing.speech import speaking_ms
from extendum.draw.strip import draw_strip
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.classes.panels import unsaid_words
from extendum.web.classes.posted_words import prompt_prefix, wordings_typed
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import options, refusal, whole

_LABELS = {
    "demonstration": "while showing it",
    "moving": "while moving",
    "there": "once there",
    "short": "short, later on",
    "switch": "at the switch",
    "turn": "change of direction",
    "again": "before a further set",
    "each": "as each side comes",
    "release": "release",
    "words": "said",
}
LONGEST_TEXT = 4000


@dataclass(frozen=True, slots=True)
class Line:
    """One text of the page with its strip and what is to be said of it."""

    reading: Reading
    label: str
    strip: SafeString
    seconds: str
    over: str

    @property
    def plain(self) -> str:
        """The text without its marks: what is said, where it has no placeholder."""
        return without_marks(self.reading.words)


@dataclass(frozen=True, slots=True)
class PromptLine:
    """One prompt of a move: in which passes it is wanted, when each of its wordings is said, or why not."""

    field: str
    prefix: str
    index: int
    label: str
    typed: str
    scopes: list[tuple[str, bool]]
    in_round: int | None
    said: list[tuple[str, str]]
    unsaid: str


@dataclass(frozen=True, slots=True)
class PhaseLine:
    """Words of a phase of a rep, breath or pulse, and when they are said."""

    stage: int
    nth: int
    label: str
    words: str
    said_at: str
    unsaid: str


@dataclass(frozen=True, slots=True)
class TalkLine:
    """A sentence of a talk, when it is said, and the whole seconds of quiet after it, with what is waited for."""

    at: str
    text: str
    quiet_s: int
    until: str


@dataclass(frozen=True, slots=True)
class Passage:
    """An item as the page shows it."""

    item: Item
    number: int
    starts: str
    lines: list[Line]
    prompts: list[PromptLine]
    phases: list[PhaseLine]
    spoken: list[TalkLine]
    paces: list[tuple[str, bool]]
    talk: str
    unsaid: list[str]
    way: WayTold | None = None
    way_at: str = ""
    further: tuple[Prompt, ...] = ()


def words_context(of: StretchClass) -> dict[str, Any]:
    """Everything that the Words screen shows of a class."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    texts, ways = readings(script), ways_told(script)
    passages: dict[str, Passage] = {}
    for number, item in enumerate(script.items(), 1):
        if not isinstance(item, Quiet):
            told = _passage(item, number, texts.get(item.id, []), timeline)
            said = [c for c in timeline.cues if c.of.item == item.id and c.kind is CueKind.WAY]
            at = ", ".join(clock(cue.start_ms // 1000) for cue in said)
            further = further_lines(item) if isinstance(item, MoveItem) else ()
            way = ways.get(item.id) if item.present else None
            passages[item.id] = replace(told, way=way, way_at=at, further=further)
    sections = [(s, [passages[i.id] for i in s.items if i.id in passages]) for s in script.sections]
    return {
        "class": of,
        "script": script,
        "length": clock(timeline.length_s),
        "sections": sections,
        "repeated": repeated(timeline),
        "unsaid": len(timeline.unsaid),
        "rate": script.style.words_per_minute,
        "sample": SAMPLE,
        "placeholders": list(PLACEHOLDERS.items()),
        "class_placeholders": sorted(CLASS_PLACEHOLDERS),
        "talk": _class_talk(timeline),
        "can_undo": of.present.parent_id is not None,
        "can_redo": of.present.forward_id is not None,
    }


def _class_talk(timeline: Timeline) -> str:
    if not timeline.segments:
        return "nothing yet"
    whole_class = replace(timeline.segments[0], start_s=0, end_s=timeline.length_s)
    share = talk_share(timeline, whole_class)
    return f"{share.percent} % talk, longest quiet {share.longest_quiet_s} s"


def _passage(item: Item, number: int, texts: list[Reading], timeline: Timeline) -> Passage:
    segments = timeline.of_item(item.id)
    lines = [Line(r, _label(r), _strip(r), *_told(r)) for r in texts]
    work = [s for s in segments if s.kind.works]
    shares = [talk_share(timeline, s) for s in work]
    talk = (
        f"{max(s.percent for s in shares)} % talk, quiet {max(s.longest_quiet_s for s in shares)} s" if shares else ""
    )
    prompts = _prompts(item, timeline) if isinstance(item, MoveItem) else []
    phases = _phases(item, timeline) if isinstance(item, MoveItem) else []
    spoken = _spoken(item, timeline) if isinstance(item, Talk) else []
    paces = options(TalkPace, item.pace) if isinstance(item, Talk) else []
    own = [u for u in timeline.unsaid if u.of.item == item.id and u.kind not in _LISTED]
    unsaid = [f"“{text}”: {why}" for text, why, _ in unsaid_words(own)]
    starts = clock(segments[0].start_s) if segments else "–"
    return Passage(item, number, starts, lines, prompts, phases, spoken, paces, talk, unsaid)


#: What a passage lists beside its own text, said or not.
_LISTED = frozenset({*(CueKind(kind.value) for kind in PromptKind), CueKind.PHASE_WORDS})


def _strip(reading: Reading) -> SafeString:
    patient = THERE_MOST_S * 1000 if reading.field == "there" else None
    return drawn(draw_strip(reading.said_ms, reading.room_ms, patient_ms=patient))


def _label(reading: Reading) -> str:
    short = "in short, " if reading.field.startswith("stage-short-") else ""
    return _LABELS.get(reading.field) or f"{short}before part {reading.field.rsplit('-', 1)[1]}"


def _told(reading: Reading) -> tuple[str, str]:
    seconds = f"{reading.said_ms / 1000:.1f} s"
    if reading.room_ms is not None:
        seconds += f" of {reading.room_ms / 1000:.1f}".removesuffix(".0") + " s"
    if reading.waits_s:
        return seconds, f"everybody waits in position {reading.waits_s} s longer than {THERE_MOST_S} s"
    if not reading.over_s:
        return seconds, ""
    if reading.field == "words":
        return seconds, f"{reading.over_s} s too long: unsaid"
    return seconds, f"delays the hold by {reading.over_s} s"


def _prompts(item: MoveItem, timeline: Timeline) -> list[PromptLine]:
    found = []
    for stage in range(1, len(item.doses) + 1):
        part = f", part {stage}" if stage > 1 else ""
        for index, prompt in enumerate(item.prompts_at(stage)):
            own = (item.id, stage, CueKind(prompt.kind.value), index)
            found.append(
                PromptLine(
                    f"{prompt_prefix(stage)}_{index}",
                    prompt_prefix(stage),
                    index,
                    f"{prompt.kind}{part}",
                    wordings_typed(prompt),
                    options(Scope, prompt.when),
                    prompt.in_round if prompt.when is Scope.ROUND else None,
                    *_said(timeline, own),
                )
            )
    return found


def _said(timeline: Timeline, own: tuple[str, int, CueKind, int]) -> tuple[list[tuple[str, str]], str]:
    """Each text of a cue with the times at which it is said; and how often it is not, and why."""
    at: dict[str, list[str]] = {}
    for cue in timeline.cues:
        if (cue.of.item, cue.of.stage, cue.of.kind, cue.of.nth) == own:
            at.setdefault(cue.text, []).append(clock(cue.start_ms // 1000))
    missed = [u for u in timeline.unsaid if (u.of.item, u.of.stage, u.of.kind, u.of.nth) == own]
    why = f"{len(missed)} × unsaid: {RULES[missed[0].rule]}" if missed else ""
    return [(", ".join(times), text) for text, times in at.items()], why


def _phases(item: MoveItem, timeline: Timeline) -> list[PhaseLine]:
    found = []
    for stage, dose in enumerate(item.doses, 1):
        if not isinstance(dose, COUNTED):
            continue
        names = [name for name, _ in dose.named_phases]
        for nth, told in enumerate(dose.says):
            mine = (item.id, stage, names.index(told.phase))
            own = [c for c in timeline.cues if c.kind is CueKind.PHASE_WORDS and _phase_of(c, names) == mine]
            missed = [u for u in timeline.unsaid if u.kind is CueKind.PHASE_WORDS and _phase_of(u, names) == mine]
            at = ", ".join(clock(cue.start_ms // 1000) for cue in own[:3]) + (" …" if len(own) > 3 else "")
            why = f"{len(missed)} × unsaid: {RULES[missed[0].rule]}" if missed else ""
            found.append(PhaseLine(stage, nth, f"in each: {told.phase}", told.words, at, why))
    return found


def _phase_of(one: Cue | Unsaid, names: Sequence[str]) -> tuple[str, int, int]:
    return one.of.item, one.of.stage, one.of.nth % len(names)


def _spoken(item: Talk, timeline: Timeline) -> list[TalkLine]:
    """The sentences of a talk as they are said the first time, each with the quiet after it."""
    segment = next(iter(timeline.of_item(item.id)), None)
    if segment is None:
        return []
    own = [c for c in timeline.cues if c.segment == segment.id and c.kind in (CueKind.TALK, CueKind.WAIT)]
    found: list[TalkLine] = []
    for cue, after in zip_longest(own, own[1:]):
        until = after.start_ms if after else segment.end_s * 1000
        if cue.kind is CueKind.TALK:
            found.append(TalkLine(clock(cue.start_ms // 1000), cue.text, round((until - cue.end_ms) / 1000), ""))
        elif found:
            quiet = found[-1].quiet_s + round((until - cue.start_ms) / 1000)
            told = cue.text if cue.text.startswith("until") else ""
            found[-1] = replace(found[-1], quiet_s=quiet, until=told)
    return found


@require_safe
@vary_on_headers("HX-Request")
def words(request: Asked, pk: int) -> HttpResponse:
    """The class's words, as a page or as its fragment."""
    return words_page(request, own_class(request, pk))


def words_page(request: Asked, of: StretchClass) -> HttpResponse:
    """The page, or its fragment for a request of htmx."""
    template = "classes/_words.html" if request.htmx else "classes/words.html"
    return render(request, template, words_context(of))


@require_POST
def speech(request: Asked, pk: int) -> HttpResponse:
    """The strip of a text while it is typed: nothing is stored."""
    of, form = own_class(request, pk), request.POST
    script: Script = store.script_of(of.present)
    text = form.get("text", "")[:LONGEST_TEXT]
    room = form.get("room", "")
    room_ms = whole_number(room, most=LONGEST_S * 1000)
    reading = Reading("", form.get("field", ""), text, (), speaking_ms(text, script.style.speech), room_ms)
    literal = literal_sides(text) if form.get("sided") == "1" else []
    seconds, over = _told(reading)
    line = Line(replace(reading, literal=tuple(literal)), "", _strip(reading), seconds, over)
    return render(request, "classes/_strip.html", {"line": line})


@require_POST
def calibrate(request: Asked, pk: int) -> HttpResponse:
    """Set the speaking rate from a reading of the sample; a step like any other."""
    of = own_class(request, pk)
    try:
        rate = calibrated(whole(request.POST, "milliseconds"))

        def change(script: Script) -> Script:
            return set_style(script, replace(script.style, words_per_minute=rate))

        of = store.change(of, whole(request.POST, "stamp"), f"Speaking rate {rate} words a minute", change)
    except store.StaleEditError as stale:
        return render(request, "classes/_notice.html", {"class": of, "happened": stale.happened}, status=409)
    except RefusedError as error:
        return render(request, "classes/_notice.html", {"class": of, **refusal(error)}, status=422)
    return words_page(request, of)
