"""Cross-sections in space: what the surface of a body is made of.

A ring is an array of shape (24, 3) in centimetres; two rings that follow each other are joined by their hull.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from math import acos, ceil, cos, degrees, pi, sin

import numpy as np
from numpy.typing import NDArray

from extendum.core.figure.vector import Vec

Points = NDArray[np.float64]
#: How many points a ring has, and the turn of each: 0 is the front, a quarter turn the side.
AROUND = 24
_TURN = np.arange(AROUND) * (2 * pi / AROUND)
_COS, _SIN = np.cos(_TURN), np.sin(_TURN)
#: A fan at a joint has a ring for so many degrees.
FAN_DEGREES = 13.0
#: Radii in centimetres to the front, to the back and to either side.
Radii = tuple[float, float, float]


def at(point: Vec | Points) -> Points:
    """A point or a direction as an array of shape (3,)."""
    return np.asarray(point, dtype=np.float64)


def unit(v: Points) -> Points:
    """The direction of a vector; the y axis where it has none."""
    size = float(np.sqrt(v @ v))
    return v / size if size > 1e-9 else np.array((0.0, 1.0, 0.0))


def cross(a: Points, b: Points) -> Points:
    """The vector across two others (numpy's own takes its time for what may have any shape)."""
    ax, ay, az = a.tolist()
    bx, by, bz = b.tolist()
    return np.array((ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx))


def square_to(v: Points, axis: Points) -> Points:
    """The direction of what is left of a vector when its part along a unit axis is taken away."""
    left = v - axis * float(v @ axis)
    if float(left @ left) < 1e-6:
        left = cross(axis, np.array((0.31, 0.17, 0.93)))
    return unit(left)


def turned(v: Points, axis: Points, degree: float) -> Points:
    """A vector turned about a unit axis by so many degrees (Rodrigues)."""
    a = degree * pi / 180
    return v * cos(a) + cross(axis, v) * sin(a) + axis * float(axis @ v) * (1 - cos(a))


def angle(a: Points, b: Points) -> float:
    """Degrees between two directions."""
    return degrees(acos(max(-1.0, min(1.0, float(unit(a) @ unit(b))))))


def blend(a: Points, b: Points, share: float) -> Points:
    """A direction on the way from one to another, by the angle between them."""
    far = angle(a, b)
    if far < 0.01:
        return unit(a)
    axis = cross(a, b)
    if float(axis @ axis) < 1e-9:
        axis = square_to(np.array((0.2, 0.9, 0.4)), unit(a))
    return unit(turned(unit(a), unit(axis), far * share))


def ring(centre: Points, front: Points, side: Points, radii: Radii) -> Points:
    """A cross-section: an oval whose front and back half may differ."""
    ahead, behind, wide = radii
    reach = np.where(_COS > 0, ahead, behind) * _COS
    return np.asarray(centre + np.outer(reach, front) + np.outer(wide * _SIN, side))


_BALL = [ring(np.zeros(3), np.eye(3)[k], np.eye(3)[(k + 1) % 3], (1.0, 1.0, 1.0))[::2] for k in range(3)]


def ball(centre: Points, radius: float) -> list[Points]:
    """A ball as three rings across each other."""
    return [centre + one * radius for one in _BALL]


def along(a: Points, b: Points, front: Points, table: Iterable[tuple[float, Radii]]) -> list[Points]:
    """Rings along a bone from a to b; ``table`` gives the share of the way and the radii there."""
    way = unit(b - a)
    f = square_to(front, way)
    s = cross(way, f)
    return [ring(a + (b - a) * t, f, s, radii) for t, radii in table]


def fan(
    joint: Points, ways: tuple[Points, Points], fronts: tuple[Points, Points], radii: tuple[Radii, Radii]
) -> list[Points]:
    """Rings that turn about a joint, from the way and the front of one bone to those of the next."""
    steps = max(1, ceil(angle(*ways) / FAN_DEGREES))
    made = []
    for n in range(steps + 1):
        share = n / steps
        way = blend(*ways, share)
        front = square_to(blend(*fronts, share), way)
        size = tuple(a + (b - a) * share for a, b in zip(*radii, strict=True))
        made.append(ring(joint, front, cross(way, front), (size[0], size[1], size[2])))
    return made


def hermite(points: Sequence[Points], tangents: Sequence[Points], steps: int) -> Points:
    """A smooth line through points with a direction at each: shape (steps * (points - 1) + 1, 3)."""
    made = [points[0]]
    for n in range(len(points) - 1):
        far = float(np.linalg.norm(points[n + 1] - points[n]))
        for k in range(1, steps + 1):
            t = k / steps
            a, b = 2 * t**3 - 3 * t**2 + 1, t**3 - 2 * t**2 + t
            c, d = -2 * t**3 + 3 * t**2, t**3 - t**2
            made.append(a * points[n] + b * far * tangents[n] + c * points[n + 1] + d * far * tangents[n + 1])
    return np.array(made)
