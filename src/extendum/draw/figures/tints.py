"""The muscle of a region tinted on the body: long fibres stretch, bars across strengthen, a chain of dots mobilises."""

from __future__ import annotations

from math import cos, pi, sin

import numpy as np
import shapely

from extendum.core.figure.marks import Mark
from extendum.core.figure.muscles import ACROSS, LONG, Strip
from extendum.core.figure.rings import Points
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.outline import largest, outwards, ring_of, simple
from extendum.draw.figures.scene import Layer, Moment

#: Points of a tint's outline, and how much of a strip has to be seen to be painted on the skin.
COUNT, SHOWN = 32, 0.3
_FIBRES, _BARS = (0.25, 0.5, 0.75), range(3, LONG - 2, 3)
_ROUND = np.array([(cos(2 * pi * k / 12), sin(2 * pi * k / 12)) for k in range(12)])
#: From how far down a dot is hollow: it is on the far side.
_HOLLOW = -0.15
#: How opaque the tint of a muscle is that the body hides.
UNDER = 0.6


def visible(strip: Strip, eye: Eye) -> tuple[shapely.Polygon, shapely.Polygon]:
    """What of a strip looks at the eye, and all of it, in the picture."""
    flat = _flat(strip, eye)
    looks = strip.out @ eye.towards
    corners = np.stack((flat[:-1, :-1], flat[:-1, 1:], flat[1:, 1:], flat[1:, :-1]), axis=2)
    facing = (looks[:-1, :-1] + looks[:-1, 1:] + looks[1:, 1:] + looks[1:, :-1]) / 4
    shapes = shapely.convex_hull(shapely.multipoints(corners.reshape(-1, 4, 2)))
    shown = shapes[(facing > 0.03).ravel()]
    return tuple(largest(shapely.union_all(shapely.buffer(some, 0.04, quad_segs=1))) for some in (shown, shapes))


def _flat(strip: Strip, eye: Eye) -> Points:
    return eye(strip.points.reshape(-1, 3)).reshape(LONG, ACROSS, 2)


def seen_share(strip: Strip, eye: Eye) -> float:
    """How much of a strip's outline is seen, from 0 to 1."""
    shown, whole = visible(strip, eye)
    return float(shown.area / whole.area) if whole.area > 1e-6 else 0.0


def tint_small(
    moment: Moment, mark: Mark, strip: Strip, part: str, host: shapely.Polygon, eye: Eye, gap: float, name: str
) -> None:
    """A mark in a picture of 96 px: a shape with a rim and one line along or three across, or two dots."""
    flat = _flat(strip, eye)
    if mark.form == "dots":
        for n, place in enumerate((LONG // 5, LONG // 2, LONG - 1 - LONG // 5)):
            moment.add(
                part, Layer("tint", f"{name} {n}", curved=False), flat[place, ACROSS // 2] + _ROUND[::2] * gap * 1.2
            )
        return
    shown, whole = visible(strip, eye)
    here = whole.area > 1e-6 and shown.area / whole.area >= SHOWN
    outline = simple((shown if here else whole).intersection(host), gap * 0.35)
    lines = [flat[2:-2:4, ACROSS // 2]] if mark.form == "fibres" else [flat[n, 1:-1:3] for n in (6, 10)]
    if here:
        moment.add(part, Layer("tint-small", name, line=gap * 0.9, curved=False), outline)
        for n, line in enumerate(lines):
            moment.add(part, Layer("fibre", f"{name} {n}", line=gap * 0.55, curved=False, closed=False), line)
    else:
        moment.add(part, Layer("tint-under", name, curved=False), outline, UNDER)
        moment.add(part, Layer("tint-far", name, line=gap * 0.6, curved=False))


def tint(
    moment: Moment,
    mark: Mark,
    strip: Strip,
    hosts: tuple[str, ...],
    eye: Eye,
    gap: float,
    name: str,
    *,
    hollow: bool = True,
) -> None:
    """The layers of a mark on its parts; ``name`` tells it from other marks of the figure.

    ``hollow``: whether dots on the far side are shown, hollow; where the other side is marked too they say nothing.
    """
    flat = _flat(strip, eye)
    if mark.form == "dots":
        looks = strip.out[:, ACROSS // 2] @ eye.towards
        _dots(moment, flat[:, ACROSS // 2], looks, hosts[0], gap, name, hollow=hollow)
        return
    shown, whole = visible(strip, eye)
    share = shown.area / whole.area if whole.area > 1e-6 else 0.0
    here = float(share >= SHOWN and shown.area > 2.0)
    outline = ring_of(shown if here else whole, COUNT)
    moment.outlines[name] = outline
    moment.outlines[f"{name} rim"] = outline + outwards(outline) * gap * 0.55
    lines = {}
    if mark.form == "fibres":
        lines = {f"{name} {n}": _between_edges(flat, strip, eye, place) for n, place in enumerate(_FIBRES)}
    else:
        lines = {f"{name} {n}": flat[n, 1:-1] for n in _BARS}
    moment.outlines |= lines
    for host in hosts:
        moment.add(host, Layer("tint-rim", f"{name} rim", clip=host), opacity=here)
        moment.add(host, Layer("tint", name, clip=host), opacity=here)
        width = gap * (0.42 if mark.form == "fibres" else 0.75)
        for line in lines:
            moment.add(host, Layer("fibre", line, clip=name, line=width, closed=False), opacity=here)
        moment.add(host, Layer("tint-under", name, clip=host), opacity=(1.0 - here) * UNDER)
        moment.add(host, Layer("tint-far-rim", name, clip=host, line=gap * 1.5), opacity=1.0 - here)
        moment.add(host, Layer("tint-far", name, clip=host, line=gap * 0.9), opacity=1.0 - here)


def _between_edges(flat: Points, strip: Strip, eye: Eye, share: float) -> Points:
    """A fibre from end to end, between the edges that are seen."""
    looks = strip.out @ eye.towards
    made = []
    for n in range(1, LONG - 1, 2):
        seen = np.flatnonzero(looks[n] > 0.03)
        first, last = (int(seen[0]), int(seen[-1])) if len(seen) else (ACROSS // 2, ACROSS // 2)
        place = first + (last - first) * share
        low = min(int(place), ACROSS - 2)
        made.append(flat[n, low] + (flat[n, low + 1] - flat[n, low]) * (place - low))
    return np.array(made)


def _dots(moment: Moment, line: Points, looks: Points, host: str, gap: float, name: str, *, hollow: bool) -> None:
    """A chain of dots along a line; those on the far side are hollow, or not there."""
    step = np.linalg.norm(np.diff(line, axis=0), axis=1)
    along = np.concatenate(([0.0], np.cumsum(step)))
    for n, far in enumerate(np.linspace(0.04, 0.96, 4) * along[-1]):
        centre = np.array([np.interp(far, along, line[:, k]) for k in (0, 1)])
        near = float(np.interp(far, along, looks) > _HOLLOW)
        moment.add(host, Layer("tint-rim", f"{name} {n} rim"), centre + _ROUND * gap * 1.8, near)
        moment.add(host, Layer("tint", f"{name} {n}"), centre + _ROUND * gap * 1.25, near)
        if hollow:
            moment.add(host, Layer("tint-far", f"{name} {n}", line=gap * 0.5), opacity=1.0 - near)
