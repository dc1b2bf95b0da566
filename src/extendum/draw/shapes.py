"""How each kind of segment looks on the sheet: told apart by shape and texture first, colour second."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from extendum.core.model.body import Side
from extendum.core.model.timeline import Cue, CueKind, SegmentKind
from extendum.draw.ruling import Piece
from extendum.draw.svg import n, tag


class Lane(Protocol):
    """What a shape asks of the ruling that it lies on: the width of a second, and where a line and its track are."""

    @property
    def second(self) -> float:
        """Width of one second."""

    @property
    def track(self) -> float:
        """Height of the track of a line."""

    def place(self, line: int) -> tuple[float, float]:
        """Left end and top of the track of a line."""


def _solid(piece: Piece, x: float, y: float, wide: float, height: float) -> str:
    """A bar whose pointed end tells the side: left points left, right points right."""
    point = min(5.0, wide / 2)
    side, middle = piece.segment.side, y + height / 2
    left_point = side is Side.LEFT and piece.first
    right_point = side is Side.RIGHT and piece.last
    d = f"M{n(x + point)} {n(y)}" if left_point else f"M{n(x)} {n(y)}"
    if right_point:
        d += f"L{n(x + wide - point)} {n(y)}L{n(x + wide)} {n(middle)}L{n(x + wide - point)} {n(y + height)}"
    else:
        d += f"L{n(x + wide)} {n(y)}L{n(x + wide)} {n(y + height)}"
    if left_point:
        d += f"L{n(x + point)} {n(y + height)}L{n(x)} {n(middle)}Z"
    else:
        d += f"L{n(x)} {n(y + height)}Z"
    return tag("path", d=d, class_="body")


def _hold(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    marks = ""
    for cue in beats:
        at = cue.start_ms / 1000
        if p.from_s <= at < p.to_s:
            cx = x + (at - p.from_s) * ruling.second
            deep = h if cue.kind is CueKind.HALFWAY else h * 0.45
            marks += f"M{n(cx)} {n(y + h)}v-{n(deep)}"
    return _solid(p, x, y, w, h) + (tag("path", d=marks, class_="mark") if marks else "")


def _reps(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    bars = ""
    for cue in beats:
        at = cue.start_ms / 1000
        if cue.kind is CueKind.REP_PHASE and p.from_s <= at < p.to_s:
            cx = x + (at - p.from_s) * ruling.second + 1
            tall = h if cue.text.startswith("out") else h * 0.45
            bars += f"M{n(cx)} {n(y + h)}v-{n(tall)}"
    return _solid(p, x, y, w, h) + tag("path", d=bars or "M0 0", class_="beat")


def _breaths(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    wave = ""
    for cue in beats:
        start, end = cue.start_ms / 1000, cue.end_ms / 1000
        if end <= p.from_s or start >= p.to_s or cue.kind is not CueKind.BREATH_PHASE:
            continue
        levels = {"in": (0.0, 1.0), "full": (1.0, 1.0), "out": (1.0, 0.0), "empty": (0.0, 0.0)}[cue.text]
        low = min(max(start, p.from_s), p.to_s), levels[0]
        high = min(max(end, p.from_s), p.to_s), levels[1]
        share = [(t - start) / (end - start) for t in (low[0], high[0])]
        a, b = (levels[0] + (levels[1] - levels[0]) * s for s in share)
        x1, x2 = (x + (t - p.from_s) * ruling.second for t in (low[0], high[0]))
        y1, y2 = (y + h - 2 - level * (h - 4) for level in (a, b))
        bend = (x2 - x1) * 0.4
        wave += f"M{n(x1)} {n(y1)}" if not wave else ""
        wave += f"C{n(x1 + bend)} {n(y1)} {n(x2 - bend)} {n(y2)} {n(x2)} {n(y2)}"
    return _solid(p, x, y, w, h) + tag("path", d=wave or "M0 0", class_="wave")


def _transition(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    _, top = ruling.place(p.line)
    return tag("path", d=f"M{n(x + 1)} {n(top + ruling.track / 2)}h{n(w - 1)}", class_="line")


def _switch(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    _, top = ruling.place(p.line)
    up = p.segment.side is Side.LEFT
    y1, y2 = top + ruling.track * (0.75 if up else 0.25), top + ruling.track * (0.25 if up else 0.75)
    return tag("path", d=f"M{n(x + 1)} {n(y1)}L{n(x + w)} {n(y2)}", class_="line")


def _setup(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    middle = y + h / 2
    return tag(
        "path",
        d=f"M{n(x + 1)} {n(middle - 1.8)}h{n(w - 1)}M{n(x + 1)} {n(middle + 1.8)}h{n(w * 0.7)}",
        class_="line",
    )


def _settle(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    return tag("path", d=f"M{n(x)} {n(y + h / 2)}L{n(x + w)} {n(y)}v{n(h)}Z", class_="body")


def _release(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    return tag("path", d=f"M{n(x)} {n(y)}v{n(h)}L{n(x + w)} {n(y + h / 2)}Z", class_="body")


def _pulses(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    """Each phase is parted from the next; every second one is lower, as the muscle lets go."""
    starts = [cue.start_ms / 1000 for cue in beats if cue.kind is CueKind.PULSE_PHASE]
    names = [cue.text for cue in beats if cue.kind is CueKind.PULSE_PHASE]
    drawn = ""
    for index, start in enumerate(starts):
        end = starts[index + 1] if index + 1 < len(starts) else p.segment.end_s
        a, b = max(start, p.from_s), min(end, p.to_s)
        if a < b:
            tall = h if names[index] == names[0] else h * 0.4
            left = x + (a - p.from_s) * ruling.second
            wide = max(0.5, (b - a) * ruling.second - 1.2)
            drawn += tag("rect", x=n(left), y=n(y + h - tall), width=n(wide), height=n(tall), class_="body")
    return drawn or _solid(p, x, y, w, h)


def _timed(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    """Moving without a count: slanted strokes."""
    slant = min(h * 0.6, 7)
    strokes = ""
    at = x + 3
    while at + slant < x + w:
        strokes += f"M{n(at)} {n(y + h)}l{n(slant)} -{n(h)}"
        at += 7
    return _solid(p, x, y, w, h) + tag("path", d=strokes or "M0 0", class_="beat")


def _open(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    """A hold whose end is left open."""
    d = f"M{n(x + w)} {n(y + 0.7)}H{n(x + 0.7)}V{n(y + h - 0.7)}H{n(x + w)}"
    return tag("path", d=d, class_="body")


def _shown(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    frame = tag("rect", x=n(x + 0.5), y=n(y + 1), width=n(w), height=n(h - 2), class_="frame")
    return frame + _talk(p, x + 3, y, max(0.5, w - 6), h, ruling, beats)


def _talk(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    rows = "".join(f"M{n(x)} {n(y + h * part)}h{n(w * share)}" for part, share in ((0.25, 1), (0.5, 0.92), (0.75, 0.6)))
    return tag("path", d=rows, class_="line")


def _quiet(p: Piece, x: float, y: float, w: float, h: float, ruling: Lane, beats: list[Cue]) -> str:
    return tag("rect", x=n(x + 0.5), y=n(y + 1), width=n(w), height=n(h - 2), rx=2, class_="body")


Shape = Callable[[Piece, float, float, float, float, Lane, list[Cue]], str]

#: The drawing of each kind: piece, left, top, width, height, ruling, and the beats and marks inside.
SHAPES: dict[SegmentKind, Shape] = {
    SegmentKind.HOLD: _hold,
    SegmentKind.REPS: _reps,
    SegmentKind.BREATHS: _breaths,
    SegmentKind.PULSES: _pulses,
    SegmentKind.TIMED: _timed,
    SegmentKind.OPEN: _open,
    SegmentKind.TRANSITION: _transition,
    SegmentKind.TURN: _switch,
    SegmentKind.DEMONSTRATION: _shown,
    SegmentKind.CHECK_IN: _talk,
    SegmentKind.RECHECK: _talk,
    SegmentKind.STATION: _talk,
    SegmentKind.NOTICE: _quiet,
    SegmentKind.REST: _quiet,
    SegmentKind.PROPS: _transition,
    SegmentKind.SWITCH: _switch,
    SegmentKind.SETUP: _setup,
    SegmentKind.SETTLE: _settle,
    SegmentKind.RELEASE: _release,
    SegmentKind.TALK: _talk,
    SegmentKind.QUIET: _quiet,
}
