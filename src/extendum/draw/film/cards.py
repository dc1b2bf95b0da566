"""The cards of a film: what the class is and what it needs, and at its end what was done."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from extendum.core.model.body import Side
from extendum.draw.film.layout import Layout
from extendum.draw.film.paint import BOLD, NAME, TEXT, Canvas, Palette, fitted
from extendum.draw.film.pen import Pen

if TYPE_CHECKING:
    from extendum.draw.film.painter import Told

#: So many moves are shown at the end.
MOST_SHOWN = 6
_Pens = Mapping[tuple[str, int, Side], Pen]


def title(canvas: Canvas, told: Told, pens: _Pens, palette: Palette, places: Layout, bottom: int) -> None:
    """The name, the length, for whom, what is needed, and the caution; a figure beside it, down to a height."""
    margin, unit = places.margin, places.wide / 9.4 if places.upright else places.tall / 7.2
    pen = _pen(pens, told.cover)
    room = places.wide - 2 * margin
    if pen:
        size = min(round(places.wide * 0.8), round(bottom * 0.5)) if places.upright else round(bottom * 0.86)
        size = size // 2 * 2
        x = (places.wide - size) // 2 if places.upright else places.wide - margin - size
        floor = bottom - size * pen.ground
        canvas.box(0, floor, places.wide, bottom - floor, palette.floor)
        canvas.put(pen.picture(size, pen.step(pen.still, 0.5)), x, bottom - size)
        room = room if places.upright else x - 2 * margin
    y = unit * (0.9 if places.upright else 0.55)
    size, lines = fitted(told.title, NAME, round(unit), room, 3)
    y = canvas.lines(lines, margin, y, size, palette.ink, NAME, lead=1.04) + unit * 0.34
    small = round(unit * 0.36)
    for text, colour in ((told.about, palette.ink), (_needs(told), palette.soft)):
        size, lines = fitted(text, TEXT, small, room, 2)
        y = canvas.lines(lines, margin, y, size, colour) + unit * 0.05
    _care(canvas, told.care, margin, y + unit * 0.12, room, round(unit * 0.27), palette)


def end(canvas: Canvas, told: Told, pens: _Pens, palette: Palette, places: Layout) -> None:
    """What was done, what to do at home, and the caution."""
    margin, unit = places.margin, places.wide / 9.4 if places.upright else places.tall / 7.2
    room = places.wide - 2 * margin
    y = canvas.lines(["You are done."], margin, unit * (0.9 if places.upright else 0.4), round(unit), palette.ink, NAME)
    size, lines = fitted(told.done, TEXT, round(unit * 0.36), room, 2)
    y = canvas.lines(lines, margin, y, size, palette.ink) + unit * 0.25
    y = _shown(canvas, told, pens, palette, places, y, unit)
    if told.home:
        size, lines = fitted(told.home, BOLD, round(unit * 0.32), room, 2)
        y = canvas.lines(lines, margin, y, size, palette.ink, BOLD) + unit * 0.1
    _care(canvas, told.after, margin, y, room, round(unit * 0.29), palette)


def _shown(canvas: Canvas, told: Told, pens: _Pens, palette: Palette, places: Layout, y: float, unit: float) -> float:
    """Figures of the class with their names, in rows; where they end."""
    columns = 3 if places.upright else MOST_SHOWN
    gap = unit * 0.14
    cell = (places.wide - 2 * places.margin - gap * (columns - 1)) / columns
    size, below = round(min(cell, unit * 2.2)), round(unit * 0.2)
    for first in range(0, len(told.shown), columns):
        for n, (item, name) in enumerate(told.shown[first : first + columns]):
            x = places.margin + n * (cell + gap)
            pen = _pen(pens, item)
            if pen:
                canvas.put(pen.picture(size, pen.step(pen.still, 0.5)), x, y)
            at, lines = fitted(name, TEXT, below, cell, 2)
            canvas.lines(lines, x, y + size + unit * 0.06, at, palette.ink)
        y += size + below * 2.9
    return y + unit * 0.05


def _pen(pens: _Pens, item: str) -> Pen | None:
    return next((pen for side in (Side.BOTH, Side.LEFT) if (pen := pens.get((item, 1, side)))), None)


def _needs(told: Told) -> str:
    return f"have ready: {', '.join(told.needs)}" if told.needs else "no equipment"


def _care(canvas: Canvas, words: str, x: float, y: float, room: float, size: int, palette: Palette) -> None:
    """A caution in its box."""
    edge = max(4, size // 5)
    size, lines = fitted(words, TEXT, size, room - 4 * edge, 4)
    tall = len(lines) * size * 1.22 + size * 0.9
    canvas.box(x, y, room, tall, palette.wash)
    canvas.box(x, y, edge, tall, palette.clay)
    canvas.lines(lines, x + 3 * edge, y + size * 0.4, size, palette.ink)
