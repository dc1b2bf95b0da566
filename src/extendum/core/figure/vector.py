"""Vectors of three numbers: x forward, y up, z to the body's left; in centimetres."""

from __future__ import annotations

from math import cos, hypot, radians, sin

Vec = tuple[float, float, float]
ORIGIN: Vec = (0.0, 0.0, 0.0)


def add(a: Vec, b: Vec, times: float = 1.0) -> Vec:
    """a + times * b."""
    return a[0] + times * b[0], a[1] + times * b[1], a[2] + times * b[2]


def sub(a: Vec, b: Vec) -> Vec:
    """a - b."""
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def dot(a: Vec, b: Vec) -> float:
    """The inner product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vec, b: Vec) -> Vec:
    """The vector across two others."""
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def length(a: Vec) -> float:
    """How long a vector is."""
    return hypot(*a)


def unit(a: Vec) -> Vec:
    """The direction of a vector; the y axis where it has none."""
    size = length(a)
    return (a[0] / size, a[1] / size, a[2] / size) if size > 1e-9 else (0.0, 1.0, 0.0)


def towards(az: float, el: float, outside: float) -> Vec:
    """A direction in degrees: ``el`` up from straight down, ``az`` from ahead to the outside of the limb.

    ``outside`` is 1 for what is on the left of the body and -1 for what is on its right.
    """
    a, e = radians(az), radians(el)
    return sin(e) * cos(a), -cos(e), outside * sin(e) * sin(a)


Frame = tuple[Vec, Vec, Vec]


def frame(lean: float, side: float, turn: float) -> Frame:
    """Ahead, up and left of a part of the trunk: leant forward, bent to the left, turned to the left, in degrees.

    It is turned about its own length first, then leant, then bent.
    """

    def placed(v: Vec) -> Vec:
        t, p, s = radians(turn), radians(lean), radians(side)
        x, y, z = v[0] * cos(t) - v[2] * sin(t), v[1], v[0] * sin(t) + v[2] * cos(t)
        x, y = x * cos(p) + y * sin(p), -x * sin(p) + y * cos(p)
        return x, y * cos(s) - z * sin(s), y * sin(s) + z * cos(s)

    return placed((1.0, 0.0, 0.0)), placed((0.0, 1.0, 0.0)), placed((0.0, 0.0, 1.0))
