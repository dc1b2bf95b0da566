"""A drawing as SVG: every outline once, used by its layers; mirrored for the right side."""

from __future__ import annotations

import re
from collections import Counter

import numpy as np

from extendum.core.model.body import Side
from extendum.draw.figures.drawing import Drawing, Stroke, Whole
from extendum.draw.figures.outline import outwards
from extendum.draw.figures.picture import LETTER
from extendum.draw.svg import tag


def curve(points: Whole) -> str:
    """A smooth closed line round points: a quadratic spline, each piece the mirror of the one before.

    Each middle is chosen so that the control point it gives to the next piece is within a unit of where it should be.
    """
    count = len(points)
    control = points[0]
    x, y = (int(one) for one in (points[-1] + points[0]) // 2)
    told = f"M{x} {y}Q{control[0]} {control[1]} "
    steps = []
    for n in range(count):
        middle = (control + points[(n + 1) % count]) // 2
        if n == 0:
            told += f"{middle[0]} {middle[1]}t"
        else:
            steps.append(f"{int(middle[0]) - x} {int(middle[1]) - y}")
        x, y = int(middle[0]), int(middle[1])
        control = 2 * middle - control
    return f"{told}{_short(' '.join(steps))}Z"


def _short(numbers: str) -> str:
    return re.sub(r" (?=-)", "", numbers)


def straight(points: Whole, *, closed: bool) -> str:
    """Straight lines from point to point."""
    steps = " ".join(f"{dx} {dy}" for dx, dy in np.diff(points, axis=0))
    return f"M{points[0][0]} {points[0][1]}l{_short(steps)}{'Z' if closed else ''}"


def smooth_line(points: Whole) -> str:
    """A smooth open line from end to end, along the points between."""
    if len(points) < 3:
        return straight(points, closed=False)
    told = f"M{points[0][0]} {points[0][1]}"
    for n in range(1, len(points) - 1):
        end = points[n + 1] if n == len(points) - 2 else (points[n] + points[n + 1]) // 2
        told += f"Q{points[n][0]} {points[n][1]} {end[0]} {end[1]}"
    return told


def _path(stroke: Stroke, points: Whole) -> str:
    if stroke.curved and stroke.closed:
        return curve(points)
    return smooth_line(points) if stroke.curved else straight(points, closed=stroke.closed)


def inside_svg(drawing: Drawing) -> str:
    """A drawing as it is when it stands still, without its frame. Every id in it begins with ``@``."""
    return _Writer(drawing).written()


class _Writer:
    """A drawing being written."""

    def __init__(self, drawing: Drawing) -> None:
        self.of, self.points = drawing, drawing.points
        self.painted = [(stroke, opacity) for stroke, opacity in drawing.painted if opacity > 0.02]
        self.counts = Counter(stroke.outline for stroke, _ in self.painted if stroke.grown < 0)
        self.counts.update({stroke.clip for stroke, _ in self.painted})
        self.defined: dict[str, str] = {}

    def written(self) -> str:
        drawn = "".join(self._element(stroke, opacity) for stroke, opacity in self.painted)
        return tag("defs", "".join(self.defined.values())) + drawn

    def _element(self, stroke: Stroke, opacity: float) -> str:
        looks: dict[str, object] = {"class_": f"f-{stroke.tone}"}
        looks |= {"opacity": f"{opacity:.2f}"} if opacity < 0.98 else {}
        looks |= {"stroke_width": stroke.line} if stroke.line else {}
        points = self.points[stroke.outline]
        if stroke.grown >= 0:
            out = outwards(points.astype(float)) * (self.points[stroke.grown][:, None] / 100) * self.of.gap
            drawn = tag("path", d=_path(stroke, np.rint(points + out).astype(int)), **looks)
        elif self.counts[stroke.outline] > 1:
            moved = {"transform": "translate({} {})".format(*stroke.shift)} if stroke.shift != (0, 0) else {}
            drawn = tag("use", href=f"#{self._shape(stroke.outline, stroke)}", **looks, **moved)
        else:
            drawn = tag("path", d=_path(stroke, points + np.array(stroke.shift)), **looks)
        if stroke.clip < 0:
            return drawn
        name = f"@c{stroke.clip}"
        if name not in self.defined:
            shape = next((one for one, _ in self.painted if one.outline == stroke.clip and not one.line), None)
            used = tag("use", href=f"#{self._shape(stroke.clip, shape or Stroke('', stroke.clip, True, True))}")
            self.defined[name] = tag("clipPath", used, id=name)
        return f'<g clip-path="url(#{name})">{drawn}</g>'

    def _shape(self, outline: int, stroke: Stroke) -> str:
        name = f"@{outline}"
        if name not in self.defined:
            self.defined[name] = tag("path", id=name, d=_path(stroke, self.points[outline]))
        return name


def framed(
    inside: str,
    units: int,
    letter: tuple[int, int] | None,
    side: Side,
    about: str = "",
    prefix: str = "f",
    *,
    flipped: bool = False,
) -> str:
    """What is inside of a drawing as a picture of a side; ``about``: its words, without them it is decoration.

    ``prefix`` tells its ids from those of other pictures of the same page; ``flipped``: left and right change places.
    """
    mirrored = (side is Side.RIGHT) != flipped
    drawn = inside.replace('"@', f'"{prefix}').replace("#@", f"#{prefix}")
    if mirrored:
        drawn = tag("g", drawn, transform=f"matrix(-1 0 0 1 {units} 0)")
    if letter and side is not Side.BOTH:
        drawn += _letter(letter, units, side, mirrored=mirrored)
    named: dict[str, object] = {"role": "img", "aria_label": about} if about else {"aria_hidden": "true"}
    paper = tag("path", d=f"M0 0h{units}v{units}h-{units}z", class_="f-paper")
    box = f"0 0 {units} {units}"
    return tag("svg", paper + drawn, class_="figure", viewBox=box, xmlns="http://www.w3.org/2000/svg", **named)


def _letter(place: tuple[int, int], units: int, side: Side, *, mirrored: bool) -> str:
    x, y, r = units - place[0] if mirrored else place[0], place[1], round(units * LETTER)
    ring = tag("circle", cx=x, cy=y, r=r, class_="f-tag", stroke_width=round(r / 6))
    place_ = {"x": x, "y": y + round(r * 0.43), "font_size": round(r * 1.2)}
    return ring + tag("text", side.value[0].upper(), class_="f-letter", text_anchor="middle", **place_)


def with_style(svg: str, style: str) -> str:
    """A picture as a file of its own, with its style inside."""
    head, _, rest = svg.partition(">")
    return f"{head}><style>{style}</style>{rest}"
