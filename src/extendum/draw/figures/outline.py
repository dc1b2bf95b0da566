"""Outlines of solids as they are seen: hulls united, creases rounded, and a fixed number of points."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
import shapely
from shapely.geometry.base import BaseGeometry

from extendum.core.figure.rings import Points

#: Creases narrower than twice this are closed, in centimetres.
CREASE = 1.1


def hulls(sets: Iterable[Points]) -> BaseGeometry:
    """The union of the hulls of point sets (n, 2)."""
    some = list(sets)
    owners = np.repeat(np.arange(len(some)), [len(points) for points in some])
    return shapely.union_all(shapely.convex_hull(shapely.linestrings(np.vstack(some), indices=owners)))


def rounded(shape: BaseGeometry, crease: float = CREASE) -> BaseGeometry:
    """A shape whose narrow creases are closed: grown and shrunk again."""
    return shape.buffer(crease, quad_segs=3).buffer(-crease, quad_segs=3) if crease else shape


def largest(shape: BaseGeometry) -> BaseGeometry:
    """The largest polygon of a shape, without its holes; an empty one where there is none."""
    polygons = [one for one in getattr(shape, "geoms", [shape]) if one.geom_type == "Polygon" and not one.is_empty]
    if not polygons:
        return shapely.Polygon()
    return shapely.Polygon(max(polygons, key=lambda one: one.area).exterior)


def ring_of(shape: BaseGeometry, count: int) -> Points:
    """The outline of a polygon as so many points (count, 2), evenly along it, counter-clockwise in the picture."""
    polygon = largest(shape)
    if polygon.is_empty:
        return np.zeros((count, 2))
    line = np.asarray(polygon.exterior.coords)[:-1]
    if _area(line) < 0:
        line = line[::-1]
    return _evenly(line, count)


def simple(shape: BaseGeometry, tolerance: float) -> Points:
    """The outline of a polygon with as few points as keep it within a tolerance, counter-clockwise."""
    polygon = largest(shape).simplify(tolerance)
    if polygon.is_empty:
        return np.zeros((3, 2))
    line = np.asarray(polygon.exterior.coords)[:-1]
    return line[::-1] if _area(line) < 0 else line


def _area(line: Points) -> float:
    x, y = line[:, 0], line[:, 1]
    return float(np.sum(x * np.roll(y, -1) - np.roll(x, -1) * y))


def _evenly(line: Points, count: int) -> Points:
    """Points along a closed line, denser where it bends."""
    closed = np.vstack((line, line[:1]))
    step = np.linalg.norm(np.diff(closed, axis=0), axis=1)
    along = np.concatenate(([0.0], np.cumsum(step)))
    fine = np.linspace(0, along[-1], 4 * count, endpoint=False)
    dense = np.stack([np.interp(fine, along, closed[:, k]) for k in (0, 1)], axis=1)
    before, after = np.roll(dense, 2, axis=0), np.roll(dense, -2, axis=0)
    a, b = dense - before, after - dense
    turn = np.abs(np.arctan2(a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0], np.sum(a * b, axis=1)))
    weight = 0.35 + np.minimum(turn, 1.6)
    weight = (np.roll(weight, 1) + weight + np.roll(weight, -1)) / 3
    sums = np.concatenate(([0.0], np.cumsum(weight)))
    want = np.linspace(0, sums[-1], count, endpoint=False)
    place = np.interp(want, sums, np.arange(len(sums)))
    ringed = np.vstack((dense, dense[:1]))
    return np.stack([np.interp(place, np.arange(len(ringed)), ringed[:, k]) for k in (0, 1)], axis=1)


def aligned(line: Points, before: Points) -> Points:
    """A closed line begun where it is nearest to another of as many points."""
    best = min(range(len(line)), key=lambda k: float(np.sum((np.roll(line, -k, axis=0) - before) ** 2)))
    return np.roll(line, -best, axis=0)


def outwards(line: Points) -> Points:
    """The directions out of a closed counter-clockwise line, a little smoothed."""
    way = np.roll(line, -1, axis=0) - np.roll(line, 1, axis=0)
    normal = np.stack((way[:, 1], -way[:, 0]), axis=1)
    size = np.linalg.norm(normal, axis=1, keepdims=True)
    return np.asarray(normal / np.maximum(size, 1e-9))
