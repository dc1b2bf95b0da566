"""One pass of an item, drawn as it runs: the ways, the dose on its own band, the first rep or breath large.

The shapes are those of the minute sheet. Short parts have a width that can be read; the work has a scale of its own, on
which the band with its limits lies. Beside the drawing stand the places where a part is typed, and where it is dragged.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.body import Side
from extendum.core.model.dose import COUNTED, Breaths, Dose, Pulses, Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.prompts import PromptKind
from extendum.core.model.timeline import Cue, CueKind, Segment, SegmentKind
from extendum.draw.ruling import Piece
from extendum.draw.shapes import SHAPES
from extendum.draw.svg import n, tag, text

SHORT, GAP, BAR = 58.0, 3.0, 26.0
#: Where the rows begin: what is typed of the dose, its band, what is typed of the parts, and the lines.
BAND_Y, PARTS_Y, LINES_Y, LINE = 31.0, 48.0, 72.0, 44.0
_AFTER = 62.0
#: A strip that is narrower says less.
_NARROW = 560.0
_WAYS = (SegmentKind.TRANSITION, SegmentKind.SWITCH, SegmentKind.TURN)
_NAMES = {
    SegmentKind.DEMONSTRATION: ("shown", "demonstrate_s"),
    SegmentKind.TRANSITION: ("way", "way_s"),
    SegmentKind.SWITCH: ("change", "switch_s"),
    SegmentKind.TURN: ("turn", "turn_s"),
    SegmentKind.SETUP: ("there", ""),
    SegmentKind.SETTLE: ("settle", "settle_s"),
    SegmentKind.REST: ("rest", "rest_s"),
    SegmentKind.RELEASE: ("let go", ""),
}


@dataclass(frozen=True, slots=True)
class Typed:
    """Where a value is typed, or only told where it has no ``field``."""

    field: str
    word: str
    value: str
    x: float
    y: float
    wide: float
    unit: str = ""

    @property
    def about(self) -> str:
        """What it is, read out."""
        return f"{self.word}, {self.unit or 's'}"


@dataclass(frozen=True, slots=True)
class Handle:
    """What can be dragged: a field, where it is, how much of its unit a pixel is, and its limits."""

    field: str
    x: float
    y: float
    high: float
    per_px: float
    value: float
    least: float
    most: float
    about: str


@dataclass(frozen=True, slots=True)
class Strip:
    """A pass as a picture with what is typed and dragged in it."""

    drawing: str
    width: float
    height: float
    typed: tuple[Typed, ...]
    handles: tuple[Handle, ...]


@dataclass(frozen=True, slots=True)
class _Lane:
    """What the shapes of the sheet ask of a ruling, for one line of the strip."""

    second: float
    top: float
    track: float = BAR

    def place(self, line: int) -> tuple[float, float]:
        return 0.0, self.top


class _Scale:
    """Where an amount of the dose lies: seconds evenly; of what is counted the first is large."""

    def __init__(self, quantity: Elastic, left: float, wide: float, *, counted: bool = False) -> None:
        self.left, self.counted = left, counted
        longest = max(quantity.most, quantity.value, quantity.wanted, 1)
        self.top = max(1, min(longest, 3 * max(quantity.value, quantity.wanted, quantity.least, 1)))
        self.first = min(230.0, wide * 0.36) if self.counted and self.top > 1 else wide
        self.rest = (wide - self.first) / (self.top - 1) if self.top > 1 else 0.0
        self.each = wide / self.top

    def __call__(self, amount: float) -> float:
        amount = min(amount, self.top)
        if not self.counted:
            return self.left + amount * self.each
        return self.left + (self.first * amount if amount <= 1 else self.first + (amount - 1) * self.rest)

    @property
    def per_px(self) -> float:
        return 1 / (self.rest or self.first) if self.counted else 1 / self.each


def draw_pass(dose: Dose, lines: Sequence[Sequence[Segment]], cues: Sequence[Cue], width: float) -> Strip:
    """The passes of an item, each a line of the segments of one stage, over the band of their dose."""
    # The label of what a second line begins with stands before it.
    before = max((len(_before(line)) + (row > 0) for row, line in enumerate(lines)), default=0)
    left = 8 + before * (SHORT + GAP)
    counted = isinstance(dose, COUNTED) and dose.stretch_s is None
    scale = _Scale(dose.quantity, left, max(80.0, width - left - _AFTER), counted=counted)
    drawn = [_band(dose.quantity, scale)]
    typed, handles = (
        list(_dose_typed(dose.quantity, dose.measure, left, width)),
        list(_dose_handles(dose.quantity, scale)),
    )
    for row, line in enumerate(lines):
        top = LINES_Y + row * LINE
        x = left - (SHORT + GAP) * len(_before(line))
        for segment in line:
            if segment.kind.works:
                drawn += _worked(segment, dose, scale, top, cues)
                x = scale(dose.quantity.value) + GAP
                continue
            drawn += _short(segment, x, top)
            told, handle = _part(segment, x, top, first=row == 0)
            if row == 0 or segment.kind in _WAYS:
                typed.append(told)
            handles += handle
            x += SHORT + GAP
    phases, ends = _phases(dose, scale)
    if phases:  # what is said of the release makes room for them
        past = phases[-1].x + phases[-1].wide
        typed = [replace(one, x=max(one.x, past)) if one.word == "let go" and one.x > left else one for one in typed]
    height = LINES_Y + LINE * len(lines)
    return Strip("".join(drawn), width, height, (*typed, *phases), (*handles, *ends))


def draw_amount(quantity: Elastic, width: float) -> Strip:
    """The band of a talk or a quiet alone."""
    scale = _Scale(quantity, 8, width - 16)
    typed, handles = tuple(_dose_typed(quantity, "s", 8, width)), tuple(_dose_handles(quantity, scale))
    return Strip(_band(quantity, scale, foot=6), width, LINES_Y - 8, typed, handles)


def _before(line: Sequence[Segment]) -> list[Segment]:
    """What comes before the work of a line."""
    work = next((n for n, s in enumerate(line) if s.kind.works), len(line))
    return list(line[:work])


def _part(segment: Segment, x: float, top: float, *, first: bool) -> tuple[Typed, list[Handle]]:
    """Where a short part is typed (over the first line; before the second one), and its end to drag."""
    word, field = _NAMES.get(segment.kind, (segment.kind.value, ""))
    where = (x, PARTS_Y) if first else (x - SHORT - GAP - 6, top + 2)
    told = Typed(field, word, str(segment.seconds), *where, SHORT if first else SHORT + 6)
    end = Handle(field, x + SHORT, top, BAR, segment.seconds / SHORT, segment.seconds, 0, 120, word)
    return told, [end] if field and (first or segment.kind in _WAYS) else []


def _band(quantity: Elastic, x: _Scale, foot: float = LINES_Y + BAR - BAND_Y - 4) -> str:
    """The line from least to most with its brackets, a tick at the wish, and the peg through to the lines below."""
    least, most, now = x(quantity.least), x(quantity.most), x(quantity.value)
    drawn = tag("path", d=f"M{n(x.left)} {n(BAND_Y)}H{n(now)}", class_="band-now")
    drawn += tag("path", d=f"M{n(now)} {n(BAND_Y)}H{n(most)}", class_="reach")
    drawn += tag("path", d=f"M{n(least + 5)} {n(BAND_Y - 8)}h-5v16h5", class_="bracket")
    drawn += tag("path", d=f"M{n(most - 5)} {n(BAND_Y - 8)}h5v16h-5", class_="bracket")
    drawn += tag("path", d=f"M{n(x(quantity.wanted))} {n(BAND_Y - 7)}v14", class_="wish")
    shape = f"M{n(now)} {n(BAND_Y + 2)}v{n(foot)}M{n(now - 6)} {n(BAND_Y - 10)}h12l-2.5 12h-7z"
    return drawn + tag("path", d=shape, class_="locked-peg" if quantity.locked else "peg-shape")


def _dose_typed(quantity: Elastic, unit: str, left: float, width: float) -> Iterator[Typed]:
    middle, narrow = (left + width) / 2, width < _NARROW
    yield Typed("least", "least", str(quantity.least), 0 if narrow else left - 8, 0, 70)
    fitted = "" if quantity.value == quantity.wanted else f"{unit}, fitted to {quantity.value} {unit}"
    if narrow and fitted:
        fitted = f"{unit}, now {quantity.value}"
    fitted = f"{unit}, locked at {quantity.value}" if quantity.locked else fitted
    yield Typed(
        "wanted", "wanted", str(quantity.wanted), 84 if narrow else max(left + 64, middle - 96), 0, 230, fitted or unit
    )
    yield Typed("most", "most", str(quantity.most), width - 72, 0, 70)


def _dose_handles(quantity: Elastic, x: _Scale) -> Iterator[Handle]:
    per, y, high = x.per_px, BAND_Y - 12, 24.0
    yield Handle("least", x(quantity.least), y, high, per, quantity.least, 0, quantity.wanted, "least")
    yield Handle("most", x(quantity.most), y, high, per, quantity.most, quantity.wanted, 7200, "most")
    yield Handle("wanted", x(quantity.value), y, high, per, quantity.value, 0, 7200, "wanted")


def _short(segment: Segment, x: float, top: float) -> Iterator[str]:
    """A part of readable width, with a bar of how much of its time is spoken in."""
    lane = _Lane(SHORT / segment.seconds, top)
    piece = Piece(segment, 0, segment.start_s, segment.end_s)
    shape = SHAPES[segment.kind](piece, x, top, SHORT, BAR, lane, [])
    yield tag("g", shape, class_=f"seg k-{segment.kind} s-{segment.side or 'none'}")
    said = segment.words_ms / 1000
    if said:
        fits, y = min(1.0, said / segment.seconds) * SHORT, top + BAR + 4
        yield tag("rect", x=n(x), y=n(y), width=n(SHORT), height="4", class_="room")
        over = "fits" if said <= segment.seconds else "over"
        yield tag("rect", x=n(x), y=n(y), width=n(fits), height="4", class_=over)


def _worked(segment: Segment, dose: Dose, x: _Scale, top: float, cues: Sequence[Cue]) -> Iterator[str]:
    """The work itself with its prompts under it, and dotted what it could still become."""
    end, most = x(dose.quantity.value), x(dose.quantity.most)
    wide = max(4.0, end - x.left)
    if most > end + 2:
        yield tag("path", d=f"M{n(end)} {n(top)}H{n(most)}V{n(top + BAR)}H{n(end)}", class_="could")
    own = [cue for cue in cues if cue.segment == segment.id]
    if x.counted and isinstance(dose, COUNTED):
        yield tag("g", "".join(_cycles(dose, x, top)), class_=f"counted {dose.tag}")
    else:
        piece, lane = Piece(segment, 0, segment.start_s, segment.end_s), _Lane(wide / segment.seconds, top)
        shape = SHAPES[segment.kind](piece, x.left, top, wide, BAR, lane, own)
        yield tag("g", shape, class_=f"seg k-{segment.kind} s-{segment.side or 'none'}")
    side = segment.side.value if segment.side in (Side.LEFT, Side.RIGHT) else segment.direction or ""
    if side:
        yield text(side, x.left + 16, top + BAR / 2 + 4.5, class_="side")
    for cue in own if not x.counted else ():
        if cue.kind in _PROMPTS:
            a, b = ((ms / 1000 - segment.start_s) / segment.seconds * wide for ms in (cue.start_ms, cue.end_ms))
            y = top + BAR + 4
            yield tag("rect", x=n(x.left + a), y=n(y), width=n(max(2.0, b - a)), height="4", class_="fits")


_PROMPTS = frozenset(CueKind(kind.value) for kind in PromptKind)


def _cycles(dose: Reps | Breaths | Pulses, x: _Scale, top: float) -> Iterator[str]:
    """Reps, breaths or pulses: a curve that rises and falls with the phases; the first large, each with its number."""
    many, foot = dose.quantity.value, top + BAR - 1
    yield tag("rect", x=n(x.left), y=n(top), width=n(x(many) - x.left), height=n(BAR), class_="ground")
    phases = [(name, ms) for name, ms in dose.named_phases if ms]
    whole, curve, numbers = sum(ms for _, ms in phases) or 1, "", ""
    for number in range(min(many, int(x.top))):
        a, b = x(number), x(number + 1)
        at, level = a, 0.0
        curve += f"M{n(a)} {n(foot)}"
        for place, (name, ms) in enumerate(phases):
            to, goal = at + ms / whole * (b - a), _level(dose, name, place)
            bend = (to - at) * 0.42
            y1, y2 = (foot - one * (BAR - 3) for one in (level, goal))
            curve += f"L{n(at)} {n(y1)}C{n(at + bend)} {n(y1)} {n(to - bend)} {n(y2)} {n(to)} {n(y2)}"
            at, level = to, goal
        if number and b - a > 15:
            numbers += text(str(number + 1), (a + b) / 2, foot - 2, class_="nth", text_anchor="middle")
    yield tag("path", d=curve or "M0 0", class_="curve")
    yield numbers


def _level(dose: Reps | Breaths | Pulses, phase: str, place: int) -> float:
    """How high the curve is at the end of a phase: out or full of air is up."""
    if isinstance(dose, Pulses):
        return 1.0 if place % 2 == 0 else 0.25
    up = ("in", "full") if isinstance(dose, Breaths) else ("out", "stay")
    return 1.0 if phase in up else 0.0


def _phases(dose: Dose, x: _Scale) -> tuple[list[Typed], list[Handle]]:
    """The seconds of each phase of the first rep or breath, over it, and the ends of its phases to drag."""
    if not isinstance(dose, Reps | Breaths) or not x.counted:
        return [], []
    wide = max(x.first, 236.0) / 4
    whole = sum(ms for _, ms in dose.named_phases) or 1
    typed, handles, at = [], [], x.left
    for place, (name, ms) in enumerate(dose.named_phases):
        field, seconds = f"{name}_ms", ms / 1000
        word = "hold" if name in ("full", "empty") else name
        typed.append(Typed(field, word, f"{seconds:g}", x.left + place * wide, PARTS_Y, wide - 2))
        at += ms / whole * x.first
        if ms and place < 3:
            handles.append(Handle(field, at, LINES_Y, BAR, whole / 1000 / x.first, seconds, 0.5, 60, name))
    return typed, handles
