"""The minute sheet: one ruled line is one minute, and the segments run along the lines like handwriting.

Within a line the upper half is the spoken left side, the lower half the right, the full height both.
Kinds differ by shape and texture first, colour second.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from html import escape
from types import MappingProxyType

from extendum.core.checks.finding import Severity
from extendum.core.model.body import Side
from extendum.core.model.dose import COUNTED
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.timeline import Cue, CueKind, Segment, SegmentKind, Timeline, clock
from extendum.draw.flags import FLAG_PX, flag_shape
from extendum.draw.ruling import Piece, Ruling, box, pieces, ruling_for
from extendum.draw.shapes import SHAPES
from extendum.draw.svg import SIGN, clip, n, tag, text

LABEL_PX = 12.0


@dataclass(frozen=True, slots=True)
class Flag:
    """What is found at an item: the weightiest severity, and all of it in words."""

    severity: Severity
    words: str


def draw_sheet(
    timeline: Timeline,
    script: Script | None = None,
    chosen: str | None = None,
    flags: Mapping[str, Flag] = MappingProxyType({}),
    ruling: Ruling | None = None,
) -> str:
    """The sheet as SVG: every segment can be reached, says what it is and why it lasts so long.

    ``flags`` are what the checks found, by item: each stands before the item's first name.
    """
    target = script.brief.target_s if script else timeline.length_s
    ruling = ruling or ruling_for(max(timeline.length_s, target))
    drawn = list(_rules(ruling, timeline.length_s, target))
    beats = _beats_by_segment(timeline)
    first = True
    ends = _ends(script) if script else {}
    for piece in pieces(timeline.segments):
        end = ends.get((piece.segment.item, piece.segment.stage or 1)) if _gives(piece) else None
        drawn.append(_piece(piece, ruling, beats, chosen, end, focusable=piece.first, tabindex=0 if first else -1))
        first = False
    drawn += _round_brackets(timeline, ruling, script)
    drawn += _underlays(timeline, ruling)
    drawn += _unsaid_marks(timeline, ruling)
    drawn += _labels(timeline, ruling, script, flags)
    return tag(
        "svg",
        "".join(drawn),
        class_="sheet",
        id="sheet",
        viewBox=f"0 0 {n(ruling.width)} {n(ruling.height)}",
        role="group",
        aria_label=f"Minute sheet, {clock(timeline.length_s)}",
        data_ruling=measures(ruling),
    )


def measures(ruling: Ruling) -> str:
    """What a drawing over the sheet needs of its ruling, as numbers: see preview.js."""
    x, y = ruling.place(0)
    told = (x, y, ruling.column + ruling.between, ruling.pitch, ruling.track, ruling.second)
    return " ".join(f"{one:.3f}" for one in told) + f" {ruling.per_column} {ruling.columns}"


def _rules(ruling: Ruling, length_s: int, target_s: int) -> Iterator[str]:
    for line in range(ruling.lines):
        x, y = ruling.place(line)
        base = y + ruling.track + 1.5
        yield tag("path", d=f"M{n(x)} {n(base)}h{n(ruling.second * 60)}", class_="rule")
        ticks = "".join(f"M{n(x + s * ruling.second)} {n(base)}v-3" for s in (15, 30, 45))
        yield tag("path", d=ticks, class_="tick")
        yield text(str(line), x - 8, y + ruling.track * 0.72, class_="minute", text_anchor="end")
    for seconds, kind in ((length_s, "end"), (target_s, "target")):
        if seconds:
            line = (seconds - 1) // 60
            x, y = ruling.place(line)
            at = x + (seconds - line * 60) * ruling.second
            yield tag("path", d=f"M{n(at)} {n(y - 3)}v{n(ruling.track + 6)}", class_=kind)


def _beats_by_segment(timeline: Timeline) -> dict[str, list[Cue]]:
    found: dict[str, list[Cue]] = {}
    kinds = (CueKind.BREATH_PHASE, CueKind.REP_PHASE, CueKind.PULSE_PHASE, CueKind.COUNT, CueKind.HALFWAY)
    for cue in timeline.cues:
        if cue.kind in kinds:
            found.setdefault(cue.segment, []).append(cue)
    return found


def spoken_name(segment: Segment) -> str:
    """A segment as it is read out: times, move, side, kind and reason."""
    side = f", {segment.side}" if segment.side and segment.side is not Side.BOTH else ""
    return f"{clock(segment.start_s)} to {clock(segment.end_s)}, {segment.name}{side}, {segment.kind}: {segment.reason}"


def _piece(
    piece: Piece,
    ruling: Ruling,
    beats: dict[str, list[Cue]],
    chosen: str | None,
    end: _End | None,
    *,
    focusable: bool,
    tabindex: int,
) -> str:
    segment = piece.segment
    x, y, height = box(piece, ruling)
    wide = max(0.6, (piece.to_s - piece.from_s) * ruling.second - 0.8)
    shape = SHAPES[segment.kind](piece, x, y, wide, height, ruling, beats.get(segment.id, []))
    _, line_y = ruling.place(piece.line)
    hit = tag("rect", x=n(x), y=n(line_y), width=n(wide + 0.8), height=n(ruling.track), class_="hit")
    edge = _edge(end, x + wide, line_y, ruling) if end else ""
    state = " chosen" if segment.item == chosen else ""
    about = spoken_name(segment)
    reach: dict[str, object] = (
        {"role": "button", "tabindex": tabindex, "aria_label": about} if focusable else {"aria_hidden": "true"}
    )
    return tag(
        "g",
        hit + shape + edge,
        class_=f"seg k-{segment.kind} s-{segment.side or 'none'}{state}",
        id=f"seg-{segment.id}" if focusable else None,
        data_item=segment.item,
        data_about=about,
        **reach,
    )


@dataclass(frozen=True, slots=True)
class _End:
    """The end of a dose on the sheet, to be dragged: what it is now, and how many seconds one more of it takes."""

    stage: int
    value: int
    seconds: float
    unit: str


def _ends(script: Script) -> dict[tuple[str, int], _End]:
    """By item and stage what its end is worth; locked ones and phases that stretch are not dragged."""
    found = {}
    for item in script.items():
        if isinstance(item, MoveItem):
            for stage, dose in enumerate(item.doses, 1):
                if not dose.quantity.locked and (dose.measure == "s" or isinstance(dose, COUNTED)):
                    seconds = 1.0 if dose.measure == "s" else dose.cycle_ms / 1000
                    found[item.id, stage] = _End(stage, dose.quantity.value, seconds, dose.measure)
        elif not item.quantity.locked:
            found[item.id, 1] = _End(1, item.quantity.value, 1.0, "s")
    return found


def _gives(piece: Piece) -> bool:
    """Whether a piece ends with a dose as it is written: work of the first round, a talk, a quiet."""
    own = piece.segment.kind.works or piece.segment.kind in (SegmentKind.TALK, SegmentKind.QUIET)
    return piece.last and own and piece.segment.round <= 1


def _edge(end: _End, right: float, top: float, ruling: Ruling) -> str:
    grip = tag("rect", x=n(right - 4), y=n(top), width="9", height=n(ruling.track), class_="hit")
    grip += tag("rect", x=n(right - 2.5), y=n(top + 2), width="5", height=n(ruling.track - 4), rx="2.5", class_="grip")
    told = {"data_stage": end.stage, "data_value": end.value, "data_seconds": f"{end.seconds:g}", "data_unit": end.unit}
    return tag("g", grip, class_="edge", **told)


def _underlays(timeline: Timeline, ruling: Ruling) -> Iterator[str]:
    """What runs under the main lane: a thin line along the foot of its hosts, named where it begins."""
    for piece in pieces(timeline.underlays):
        x, y = ruling.place(piece.line)
        left = x + (piece.from_s - piece.line * 60) * ruling.second
        wide = (piece.to_s - piece.from_s) * ruling.second - 1
        about = f"{piece.segment.name}, {piece.segment.kind}: {piece.segment.reason}"
        line = tag("path", d=f"M{n(left)} {n(y + ruling.track + 0.6)}h{n(wide)}", class_="under")
        yield tag("g", tag("title", escape(about)) + line, class_=f"k-{piece.segment.kind}")


def _round_brackets(timeline: Timeline, ruling: Ruling, script: Script | None) -> Iterator[str]:
    """A corner where each round of a group that repeats begins, and one where it ends."""
    groups = [g for section in script.sections for g in section.groups if g.rounds > 1] if script else []
    for group in groups:
        own = {item.id for item in group.items}
        for round_ in range(1, group.rounds + 1):
            inside = [s for s in timeline.segments if s.item in own and s.round == round_]
            for second, arm in ((inside[0].start_s, 12), (inside[-1].end_s, -12)) if inside else ():
                line = (second - (arm < 0)) // 60
                x, y = ruling.place(line)
                at, foot = x + (second - line * 60) * ruling.second, y + ruling.track
                yield tag("path", d=f"M{n(at)} {n(foot)}V{n(y - ruling.label + 1)}h{arm}", class_="bracket")


def _unsaid_marks(timeline: Timeline, ruling: Ruling) -> Iterator[str]:
    """A ring at the end of every pass that has something left unsaid."""
    ends: dict[tuple[str, int, int], Segment] = {}
    for segment in timeline.segments:
        key = segment.item, segment.pass_number, segment.round
        if segment.kind.works or key not in ends:
            ends[key] = segment
    texts: dict[tuple[str, int, int], list[str]] = {}
    for one in timeline.unsaid:
        key = one.of.item, one.of.pass_number, one.of.round
        texts.setdefault(key, []).append(f"{one.text} ({one.rule})")
    for key, unsaid in texts.items():
        if key in ends:
            line, rest = divmod(ends[key].end_s - 1, 60)
            x, y = ruling.place(line)
            about = tag("title", escape("Unsaid: " + "; ".join(unsaid)))
            yield tag(
                "g", about + tag("circle", cx=n(x + (rest + 1) * ruling.second - 4), cy=n(y), r="2.6"), class_="unsaid"
            )


def _labels(timeline: Timeline, ruling: Ruling, script: Script | None, flags: Mapping[str, Flag]) -> Iterator[str]:
    """Numbers and names over each run of an item, as long as the room to the next; then holds by side and length."""
    numbers = {item.id: f"{i} " for i, item in enumerate(script.items(), 1)} if script else {}
    runs: list[Segment] = []
    for segment in timeline.segments:
        if not runs or (runs[-1].item, runs[-1].round) != (segment.item, segment.round):
            runs.append(segment)
    following = [segment.start_s for segment in runs[1:]]
    taken: list[tuple[float, float]] = []  # seconds covered by names, in order
    waiting = dict(flags)
    for segment, end in zip(runs, [*following, timeline.length_s], strict=False):
        again = f" · round {segment.round}" if segment.round > 1 else ""
        label = f"{numbers.get(segment.item, '')}{segment.name}{again}"
        flag = waiting.pop(segment.item, None)
        beside = FLAG_PX + 3 if flag else 0
        at, room = _roomiest(segment.start_s, end, len(label) * LABEL_PX * SIGN + beside, ruling)
        shown = clip(label, room - beside, LABEL_PX)
        line, rest = divmod(at, 60)
        x, y = ruling.place(line)
        left = x + rest * ruling.second
        if flag:
            yield _flag(flag, left, y - FLAG_PX - 1.5, segment.item)
        if shown:
            taken.append((at, at + (len(shown) * LABEL_PX * SIGN + beside + 8) / ruling.second))
            yield text(shown, left + beside, y - 2.5, class_="label", data_item=segment.item)
    for piece in pieces(timeline.segments):
        if piece.first and piece.segment.kind in (SegmentKind.HOLD, SegmentKind.PULSES, SegmentKind.OPEN):
            yield from _hold_label(piece, ruling, taken)


def _flag(flag: Flag, x: float, y: float, item: str) -> str:
    about = tag("title", escape(flag.words))
    return tag(
        "g",
        about + flag_shape(flag.severity),
        class_=f"flag f-{flag.severity}",
        transform=f"translate({n(x)} {n(y)})",
        data_choose=item,
    )


def _roomiest(start: int, end: int, needed: float, ruling: Ruling) -> tuple[int, float]:
    """The first line of a stretch with room enough for a label, or the one with most: second and width."""
    best, at = (start, 0.0), start
    while at < end and best[1] < needed:
        to = min(end, (at // 60 + 1) * 60)
        room = (to - at) * ruling.second - 4
        if room > best[1]:
            best = (at, room)
        at = to
    return best


def _hold_label(piece: Piece, ruling: Ruling, taken: list[tuple[float, float]]) -> Iterator[str]:
    """Side and seconds of a hold: inside its bar where that is tall enough, otherwise above it."""
    segment = piece.segment
    side = f"{segment.side} " if segment.side in (Side.LEFT, Side.RIGHT) else ""
    shown = f"{side}{segment.seconds} s"
    x, y, height = box(piece, ruling)
    width = len(shown) * 11 * SIGN * 1.1 + 10
    if width > (piece.to_s - piece.from_s) * ruling.second:
        return
    if height >= 10 and segment.kind is SegmentKind.HOLD:
        yield text(shown, x + 8, y + height / 2 + 3.8, class_="inner")
    elif not any(a < piece.from_s + width / ruling.second and piece.from_s < b for a, b in taken):
        _, top = ruling.place(piece.line)
        yield text(shown, x + 4, top - 2.5, class_="outer")
