"""Parts of a frame that need no more than what is seen: the count, the side, and where a figure is in its movement."""

from __future__ import annotations

import zlib
from collections import OrderedDict
from collections.abc import Callable, Hashable, Sequence

import aggdraw
import numpy as np
from PIL import Image

from extendum.core.model.body import Side
from extendum.core.model.timeline import Segment, SegmentKind
from extendum.core.run.seen import SWING_MS, Seen, eased
from extendum.draw.film.layout import Layout, Place
from extendum.draw.film.paint import BOLD, TEXT, Canvas, Planes, planes, width
from extendum.draw.film.pen import Pen

#: Seconds of the cards at both ends of a class that has no words there.
ENDS_S = 4


def place_of(pen: Pen, seen: Seen) -> float:
    """Where a figure is in its movement: with the beats, from side to side where they alternate, round for a circle."""
    if not pen.moves:
        return 0.0
    if not seen.works:
        return pen.still
    timed = seen.segment.kind in (SegmentKind.TIMED, SegmentKind.OPEN)
    if pen.drawing.turns:
        if timed:
            return seen.into_ms % (2 * SWING_MS) / (2 * SWING_MS)
        return {"out": seen.part / 2, "back": 0.5 + seen.part / 2}.get(seen.word, 0.0)
    if timed:
        return eased(abs(seen.into_ms / SWING_MS % 2 - 1))
    if not seen.word:
        return pen.still
    if pen.drawing.held == 0 and seen.side in (Side.LEFT, Side.RIGHT):
        return 0.5 + (-0.5 if seen.side is Side.LEFT else 0.5) * eased(seen.out)
    return eased(seen.out)


def ends(segments: Sequence[Segment]) -> tuple[int, int]:
    """Until when the title is shown, and from when the end, in milliseconds."""
    talk = (SegmentKind.TALK, SegmentKind.QUIET, SegmentKind.CHECK_IN, SegmentKind.NOTICE)
    first = 0
    while first < len(segments) and segments[first].kind in talk:
        first += 1
    last = len(segments)
    while last > first and segments[last - 1].kind in talk:
        last -= 1
    length = segments[-1].end_s if segments else 0
    title = segments[first - 1].end_s if first else min(ENDS_S, length // 3)
    end = segments[last].start_s if last < len(segments) else max(title, length - ENDS_S)
    return title * 1000, end * 1000


def comma(side: Side | None) -> str:
    """A side behind a name."""
    return f", {side}" if side in (Side.LEFT, Side.RIGHT) else ""


def put_count(canvas: Canvas, place: Place, text: str, of: str, colour: str, soft: str, *, heavy: bool) -> None:
    """The count, and of how many; light where nothing is held yet."""
    size = place.size if len(text) < 3 else round(place.size * 0.72)
    right = float(place.wide)
    if of:
        small = round(place.size * 0.22)
        canvas.text(of, right, place.tall * 0.9, small, soft, TEXT, anchor="rs")
        right -= width(of, TEXT, small) + place.size * 0.06
    canvas.text(text, right, place.tall * 0.94, size, colour, BOLD if heavy else TEXT, anchor="rs")


def put_side(canvas: Canvas, place: Place, side: Side | None, colour: str, places: Layout) -> None:
    """The side as a word and a direction."""
    if side is None:
        return
    size = place.size
    wide = width(side.value, BOLD, size)
    arrow = size * 0.8
    if places.upright:
        x, y = 0.0, place.tall - size * 0.42
        top = size * 0.35
        _arrow(canvas, x, top, arrow, colour, side)
        canvas.text(side.value, x, y, size, colour, BOLD, anchor="lm")
        return
    x = place.wide - wide
    canvas.text(side.value, x, place.tall * 0.46, size, colour, BOLD, anchor="lm")
    _arrow(canvas, x - arrow * 1.25, place.tall * 0.52, arrow, colour, side)


def _arrow(canvas: Canvas, x: float, y: float, wide: float, colour: str, side: Side) -> None:
    """An arrow around a height."""
    tall = wide * 0.62
    shape = [(0, 0), (0.42, -0.5), (0.42, -0.2), (1, -0.2), (1, 0.2), (0.42, 0.2), (0.42, 0.5)]
    points = [(a if side is Side.LEFT else 1 - a, b) for a, b in shape]
    draw = aggdraw.Draw(canvas.image)
    draw.polygon([n for a, b in points for n in (x + a * wide, y + b * tall)], aggdraw.Brush(colour))
    draw.flush()


class Kept:
    """Pictures that were painted, the latest ones; all but the very latest packed: most of each is of one colour."""

    def __init__(self, most: int, fresh: int) -> None:
        self.most, self.fresh = most, fresh
        self._packed: OrderedDict[Hashable, list[tuple[bytes, tuple[int, int]]]] = OrderedDict()
        self._fresh: OrderedDict[Hashable, Planes] = OrderedDict()

    def get(self, key: Hashable, draw: Callable[[], Image.Image]) -> Planes:
        """A picture as planes, painted where it is not there."""
        if key in self._fresh:
            self._fresh.move_to_end(key)
            return self._fresh[key]
        if key in self._packed:
            self._packed.move_to_end(key)
            made = _unpacked(self._packed[key])
        else:
            made = planes(draw())
            self._packed[key] = [(zlib.compress(one.tobytes(), 1), one.shape) for one in made]
            if len(self._packed) > self.most:
                self._packed.popitem(last=False)
        self._fresh[key] = made
        if len(self._fresh) > self.fresh:
            self._fresh.popitem(last=False)
        return made


def _unpacked(some: list[tuple[bytes, tuple[int, int]]]) -> Planes:
    bright, blue, red = (np.frombuffer(zlib.decompress(packed), np.uint8).reshape(shape) for packed, shape in some)
    return bright, blue, red
