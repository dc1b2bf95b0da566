"""Things in a figure as solids in space."""

from __future__ import annotations

from itertools import pairwise
from math import cos, radians, sin

import numpy as np

from extendum.core.figure.figure import Thing
from extendum.core.figure.part import Part
from extendum.core.figure.rings import Points, at, ball, ring, square_to, unit
from extendum.core.figure.surface import Surface

SEAT, BACK = 45.0, 90.0
#: Things that are one box of a size of their own.
BOXES = ("block", "cushion", "step")


def _box(thing: Thing, low: tuple[float, float, float], high: tuple[float, float, float]) -> Points:
    """The corners of a box beside the middle of a thing's foot, turned with it."""
    c, s = cos(radians(thing.turn)), sin(radians(thing.turn))
    corners = []
    for x in (low[0], high[0]):
        for y in (low[1], high[1]):
            for z in (low[2], high[2]):
                corners.append(at(thing.at) + np.array((x * c - z * s, y, x * s + z * c)))
    return np.array(corners)


def _filled(corners: Points) -> list[Points]:
    """The corners of a box with points between them, to ask how near each place is."""
    a, x, y, z = corners[0], corners[4] - corners[0], corners[2] - corners[0], corners[1] - corners[0]
    along = [np.linspace(0, 1, max(2, int(np.linalg.norm(v) / 2.0) + 1)) for v in (x, y, z)]
    shares = np.stack(np.meshgrid(*along, indexing="ij"), axis=-1).reshape(-1, 3)
    return [a + shares @ np.array((x, y, z))]


def _solid(name: str, tone: str, boxes: list[Points]) -> Part:
    part = Part(name, tone, limb=name)
    part.more = [[box] for box in boxes]
    part.dense = [grid for box in boxes for grid in _filled(box)]
    return part


def _chair(thing: Thing, name: str) -> list[Part]:
    """A chair: ``at`` is the middle of its seat on the floor, its front looks ahead."""
    parts = []
    for x in (-19.0, 19.0):
        for z in (-19.0, 19.0):
            top = BACK if x < 0 else SEAT - 3
            lean = -3.0 if x < 0 else 0.0
            leg = _box(thing, (x - 1.5, 0, z - 1.5), (x + 1.5, top, z + 1.5))
            c, s = cos(radians(thing.turn)), sin(radians(thing.turn))
            for corner in leg:
                share = max(0.0, corner[1] - SEAT) / (BACK - SEAT)
                corner += np.array((lean * share * c, 0, lean * share * s))
            if x < 0:
                parts.append(
                    _solid(
                        f"{name}-post{z:+.0f}",
                        "wood-dark",
                        [_box(thing, (x - 1.5, 0, z - 1.5), (x + 1.5, SEAT, z + 1.5)), leg],
                    )
                )
            else:
                parts.append(_solid(f"{name}-leg{z:+.0f}", "wood-dark", [leg]))
    parts.append(_solid(f"{name}-seat", "wood", [_box(thing, (-21, SEAT - 3.5, -21), (21, SEAT, 21))]))
    parts.append(_solid(f"{name}-back", "wood", [_box(thing, (-23.5, 66, -20), (-20.5, 86, 20))]))
    return parts


def _line(points: list[Points], radii: tuple[float, float]) -> list[list[Points]]:
    """A band or a rod along points, as pieces."""
    made = []
    for a, b in pairwise(points):
        way = unit(b - a)
        flat = square_to(np.array((0.1, 1.0, 0.2)), way)
        side = np.cross(flat, way)
        steps = max(2, int(np.linalg.norm(b - a) / 3))
        rings = [ring(a + (b - a) * t, flat, side, (radii[0], radii[0], radii[1])) for t in np.linspace(0, 1, steps)]
        made += [[x, y] for x, y in pairwise(rings)]
    return made


def wall_face(thing: Thing) -> Points:
    """The direction in which a wall looks at the body, which is at the origin or thereabouts."""
    a = radians(thing.turn)
    face = np.array((cos(a), 0.0, sin(a)))
    return -face if float(face @ at(thing.at)) > 0 else face


def solids_of(thing: Thing, number: int, surface: Surface | None) -> list[Part]:
    """A thing's solids; wall and mat have none: they are ground. What is held is where the body is."""
    name = f"{thing.name}{number}"
    if thing.name == "chair":
        return _chair(thing, name)
    if thing.along and surface:
        points = [at(surface.body.joints[one]) for one in thing.along]
        part = Part(name, thing.name, limb=name)
        if thing.name == "stick":
            a, b = points[0], points[-1]
            part.more = _line([a + (a - b) * 0.3, b + (b - a) * 0.3], (1.5, 1.5))
        else:
            part.more = _line(points, (0.8, 1.7) if thing.name == "strap" else (1.6, 2.8))
        return [part]
    if thing.name == "ball":
        part = Part(name, "ball", limb=name)
        part.more = [ball(at(thing.at) + np.array((0, thing.size[0], 0)), thing.size[0])]
        return [part]
    if thing.name == "doorway":
        x, y, z = thing.size
        posts = ((s * z / 2 - 4, s * z / 2 + 4) for s in (-1, 1))
        return [
            _solid(f"{name}{low:+.0f}", "wood", [_box(thing, (-x / 2, 0, low), (x / 2, y, high))])
            for low, high in posts
        ]
    if thing.name in BOXES:
        x, y, z = thing.size
        box = _box(thing, (-x / 2, 0, -z / 2), (x / 2, y, z / 2))
        return [_solid(name, "wood" if thing.name == "step" else thing.name, [box])]
    return []
