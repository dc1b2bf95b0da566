"""A drawing as plain shapes for print: nothing clipped, nothing used twice, each with its colour."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import shapely

from extendum.core.figure.rings import Points
from extendum.core.model.body import Side
from extendum.draw.figures.drawing import Drawing, Stroke
from extendum.draw.figures.outline import outwards
from extendum.draw.figures.svg import straight
from extendum.draw.figures.tones import LINES, Skin, tones
from extendum.draw.svg import tag

#: What is smaller than so many square units is not printed.
CRUMB = 40.0


def sampled(points: Points, *, curved: bool, closed: bool) -> Points:
    """The points of a line as it is drawn: a smooth one at two places of each piece."""
    if not curved or not closed:
        return points
    after = np.roll(points, -1, axis=0)
    middle, before = (points + after) / 2, (points + np.roll(points, 1, axis=0)) / 2
    bow = 0.25 * before + 0.5 * points + 0.25 * middle
    return np.asarray(np.stack((bow, middle), axis=1).reshape(-1, 2))


def flat_svg(drawing: Drawing, side: Side, skin: Skin = Skin.MIDDLE, *, flipped: bool = False) -> str:
    """A drawing that stands still on a side as SVG without styles, and without the letter of the side."""
    units, colours = drawing.units, tones(skin)
    mirrored = (side is Side.RIGHT) != flipped
    drawn = [tag("path", d=f"M0 0h{units}v{units}h-{units}z", fill=colours["paper"])]
    for stroke, shape, opacity in _shapes(drawing):
        looks: dict[str, object] = {"opacity": f"{opacity:.2f}"} if opacity < 0.98 else {}
        if stroke.tone in LINES:
            looks |= {"fill": "none", "stroke": colours[stroke.tone], "stroke_width": stroke.line}
            looks |= {"stroke_linecap": "round", "stroke_linejoin": "round"}
        else:
            looks |= {"fill": colours[stroke.tone]}
        for points in shape:
            placed = points * np.array((-1, 1)) + np.array((units, 0)) if mirrored else points
            whole = np.rint(placed).astype(int)
            drawn.append(tag("path", d=straight(whole, closed=stroke.closed), **looks))
    box = f"0 0 {units} {units}"
    return tag("svg", "".join(drawn), viewBox=box, xmlns="http://www.w3.org/2000/svg")


def _shapes(drawing: Drawing) -> Iterator[tuple[Stroke, list[Points], float]]:
    """The layers from far to near, each as lines of points."""
    outlines = [points.astype(float) for points in drawing.points]
    frame = shapely.box(0, 0, drawing.units, drawing.units)
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
        inside = frame
        if stroke.clip >= 0:
            clip = sampled(outlines[stroke.clip], curved=True, closed=True)
            inside = frame.intersection(shapely.Polygon(clip).buffer(0))
        cut = shapely.Polygon(points).buffer(0).intersection(inside)
        pieces = [one for one in getattr(cut, "geoms", [cut]) if one.geom_type == "Polygon" and one.area > CRUMB]
        yield stroke, [np.asarray(one.exterior.coords)[:-1] for one in pieces], opacity
