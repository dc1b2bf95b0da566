"""A head as it is seen: skull, hair, ears and the lines of the face."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from extendum.core.figure.heads import Head
from extendum.core.figure.rings import Points
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.outline import hulls, largest, ring_of, rounded

HAIR_POINTS, EAR_POINTS = 56, 20


def front_of(grid: Points, eye: Eye, *, closed: bool = True) -> BaseGeometry:
    """The union of what of a grid of points (rows, columns, 3) looks at the eye."""
    flat = eye(grid.reshape(-1, 3)).reshape(*grid.shape[:2], 2)
    next_ = np.roll(flat, -1, axis=1)
    a, b, c, d = flat[:-1], next_[:-1], next_[1:], flat[1:]
    if not closed:
        a, b, c, d = a[:, :-1], b[:, :-1], c[:, :-1], d[:, :-1]
    area = _cross(b - a, c - a) + _cross(c - a, d - a)
    quads = np.stack((a, b, c, d), axis=2)[area > 1e-6]
    if not len(quads):
        return shapely.Polygon()
    return shapely.union_all(shapely.convex_hull(shapely.polygons(quads)))


def _cross(a: Points, b: Points) -> Points:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def hair(head: Head, eye: Eye) -> BaseGeometry:
    """The hair that is seen."""
    return largest(rounded(front_of(head.hair, eye), 0.5))


def ear(head: Head, end: int, eye: Eye) -> tuple[Points, float]:
    """An ear's outline, and how much it looks at the eye."""
    sign = 1.0 if end == 0 else -1.0
    facing = float((head.frame[2] * sign - head.frame[0] * 0.25) @ eye.towards)
    return ring_of(hulls([eye(head.ears[end])]), EAR_POINTS), facing


def facing(head: Head, points: Points, eye: Eye) -> float:
    """How much a place on the face looks at the eye."""
    out = points.mean(axis=0) - head.skull.reshape(-1, 3).mean(axis=0)
    out = out - head.frame[1] * float(out @ head.frame[1]) * 0.6
    return float(out @ eye.towards) / float(np.linalg.norm(out))
