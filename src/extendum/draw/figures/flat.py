"""A drawing as plain shapes for print: nothing clipped, nothing used twice, each with its colour."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from extendum.core.figure.rings import Points
from extendum.core.model.body import Side
from extendum.draw.figures.drawing import Drawing, Stroke
from extendum.draw.figures.outline import outwards
from extendum.draw.figures.tones import DASHES, LINES, Skin, tones

#: What is smaller than so many square units is not printed; a line may be off by so many units, a hundredth of a mm.
CRUMB, OFF = 40.0, 1.6


@dataclass(frozen=True, slots=True)
class Flat:
    """A shape of one colour: its points in shares of the picture's side, filled or, where it has a width, a line."""

    colour: str
    points: tuple[tuple[float, float], ...]
    width: float = 0.0
    closed: bool = True
    opacity: float = 1.0
    dash: tuple[float, float] | None = None


def sampled(points: Points, *, curved: bool, closed: bool) -> Points:
    """The points of a line as it is drawn: a smooth one at two places of each piece."""
    if not curved or not closed:
        return points
    after = np.roll(points, -1, axis=0)
    middle, before = (points + after) / 2, (points + np.roll(points, 1, axis=0)) / 2
    bow = 0.25 * before + 0.5 * points + 0.25 * middle
    return np.asarray(np.stack((bow, middle), axis=1).reshape(-1, 2))


def flat(drawing: Drawing, side: Side, skin: Skin = Skin.MIDDLE, *, flipped: bool = False) -> list[Flat]:
    """A drawing that stands still on a side, from far to near, without the letter of the side."""
    units, colours = drawing.units, tones(skin)
    mirrored = (side is Side.RIGHT) != flipped
    found = [Flat(colours["paper"], ((0, 0), (1, 0), (1, 1), (0, 1)))]
    for stroke, shape, opacity in _shapes(drawing):
        dash = DASHES.get(stroke.tone)
        for points in shape:
            share = np.round(points / units, 5)
            placed = tuple((1 - x if mirrored else x, y) for x, y in share.tolist())
            width = stroke.line / units if stroke.tone in LINES else 0.0
            dashed = (dash[0] / units, dash[1] / units) if dash else None
            found.append(Flat(colours[stroke.tone], placed, width, stroke.closed, opacity, dashed))
    return found


def _shapes(drawing: Drawing) -> Iterator[tuple[Stroke, list[Points], float]]:
    """The layers from far to near, each as lines of points."""
    outlines = [points.astype(float) for points in drawing.points]
    frame = shapely.box(0, 0, drawing.units, drawing.units)
    clips: dict[int, BaseGeometry] = {-1: frame}
    for stroke, opacity in drawing.painted:
        if opacity <= 0.02:
            continue
        points = outlines[stroke.outline]
        if stroke.grown >= 0:
            points = points + outwards(points) * (outlines[stroke.grown][:, None] / 100) * drawing.gap
        points = sampled(points + np.array(stroke.shift), curved=stroke.curved, closed=stroke.closed)
        if stroke.tone in LINES:
            yield stroke, [points], opacity
            continue
        if stroke.clip not in clips:
            clips[stroke.clip] = _filled(sampled(outlines[stroke.clip], curved=True, closed=True)).intersection(frame)
        cut = _filled(points).intersection(clips[stroke.clip])
        pieces = [one for one in getattr(cut, "geoms", [cut]) if one.geom_type == "Polygon" and one.area > CRUMB]
        yield stroke, [np.asarray(one.exterior.coords)[:-1] for one in pieces], opacity


def _filled(points: Points) -> BaseGeometry:
    """A polygon of as few points as show it."""
    shape = shapely.Polygon(points)
    return (shape if shape.is_valid else shape.buffer(0)).simplify(OFF)
