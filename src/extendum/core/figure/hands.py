"""Hands: palm, thumb and four fingers in the shapes that a pose names.

A hand is a set of short rods with round ends; lengths and widths are those of a hand of 17 cm.
"""

from __future__ import annotations

from dataclasses import dataclass

from extendum.core.figure.rings import Points, ball, cross, square_to, turned, unit

#: From the wrist to the knuckles, and the way of each finger: across the palm, its length and its thickness.
PALM = 9.3
FINGERS = ((3.0, 7.2, 0.92), (1.0, 8.0, 0.95), (-1.05, 7.4, 0.9), (-2.95, 5.8, 0.8))
_BONES = (0.46, 0.3, 0.24)


@dataclass(frozen=True, slots=True)
class Shape:
    """How the fingers are bent at their three joints and spread, from the index to the little one, and the thumb.

    ``thumb``: degrees away from the index, and towards the palm.
    """

    bent: tuple[tuple[float, float, float], ...]
    spread: tuple[float, float, float, float] = (2.5, 0.5, -1.5, -4.0)
    thumb: tuple[float, float] = (34.0, 18.0)

    def towards(self, other: Shape, share: float) -> Shape:
        """A shape on the way to another."""

        def mid(a: tuple[float, ...], b: tuple[float, ...]) -> tuple[float, ...]:
            return tuple(x + (y - x) * share for x, y in zip(a, b, strict=True))

        bent = tuple(mid(a, b) for a, b in zip(self.bent, other.bent, strict=True))
        return Shape(bent, mid(self.spread, other.spread), mid(self.thumb, other.thumb))  # type: ignore[arg-type]


def _all(a: float, b: float, c: float) -> tuple[tuple[float, float, float], ...]:
    return ((a, b, c),) * 4


SHAPES: dict[str, Shape] = {
    "flat": Shape(_all(1, 3, 2), thumb=(40.0, 0.0)),
    "relaxed": Shape(((14, 20, 10), (18, 24, 12), (22, 28, 14), (26, 30, 14)), thumb=(30.0, 26.0)),
    "resting": Shape(((6, 14, 8), (7, 16, 8), (8, 18, 8), (9, 18, 8)), (3.0, 1.0, -2.0, -6.0), (38.0, 14.0)),
    "fist": Shape(_all(84, 98, 60), (0.0, 0.0, 0.0, 0.0), (14.0, 62.0)),
    "grip": Shape(_all(52, 66, 40), (2.0, 1.0, -1.0, -2.0), (24.0, 64.0)),
    "hook": Shape(_all(24, 52, 30), (1.0, 0.0, -1.0, -2.0), (20.0, 20.0)),
    "spread": Shape(_all(0, 2, 2), (15.0, 4.0, -8.0, -21.0), (58.0, 6.0)),
    "pointing": Shape(((0, 3, 2), (80, 92, 55), (82, 92, 55), (84, 92, 55)), (0.0, 0.0, 0.0, 0.0), (20.0, 60.0)),
    "prayer": Shape(_all(0, 1, 1), (0.8, 0.2, -0.6, -1.6), (16.0, 4.0)),
    "cupped": Shape(((18, 22, 14),) * 4, (1.0, 0.2, -0.8, -2.0), (12.0, 30.0)),
    "thumb": Shape(((76, 96, 55),) * 4, (0.0, 0.0, 0.0, 0.0), (68.0, -20.0)),
    "thumbed": Shape(((8, 14, 8),) * 4, (2.5, 0.5, -1.5, -4.0), (72.0, -16.0)),
    "interlaced": Shape(_all(48, 30, 12), (6.0, 2.0, -2.0, -6.0), (26.0, 30.0)),
    "tap": Shape(((30, 34, 20), (8, 10, 6), (8, 10, 6), (8, 12, 6)), thumb=(12.0, 52.0)),
}


@dataclass(frozen=True, slots=True)
class Hand:
    """A hand in space: rods (two ends and their thickness) by finger, the palm's slab, and where the palm looks."""

    palm: list[Points]
    fingers: list[list[tuple[Points, Points, float]]]
    normal: Points
    across: Points

    def hulls(self) -> list[list[Points]]:
        """Everything as point sets of which each hull is part of the hand."""
        rods = [[*ball(a, r), *ball(b, r * 0.94)] for finger in self.fingers for a, b, r in finger]
        return [self.palm, *rods]


def hand(wrist: Points, pointing: Points, normal: Points, outside: float, held: Shape, size: float = 1.0) -> Hand:
    """A hand at a wrist. ``pointing``: where straight fingers go; ``normal``: where the palm looks."""
    d = unit(pointing)
    p = square_to(normal, d)
    t = cross(d, p) * outside  # towards the thumb
    palm: list[Points] = []
    for far, wide, thick in ((0.2, 2.3, 1.75), (3.0, 3.2, 1.9), (6.5, 3.9, 1.5), (PALM - 0.2, 4.0, 1.15)):
        centre = wrist + d * far * size - p * 0.2
        for across in (wide - thick * 0.6, -wide + thick * 0.6):
            palm += ball(centre + t * across * size, thick * 0.92 * size)
    fingers = []
    for (across, length, thick), bends, spread in zip(FINGERS, held.bent, held.spread, strict=True):
        point = wrist + (d * (PALM - 0.4 - abs(across - 0.6) * 0.22) + t * across) * size
        way = turned(d, cross(d, t), spread)
        side = cross(way, p)
        rods, bent = [], 0.0
        for bone, bend in zip(_BONES, bends, strict=True):
            bent += bend
            on = turned(way, side, bent)
            end = point + on * length * bone * size
            rods.append((point, end, thick * size))
            point = end
        fingers.append(rods)
    away, over = held.thumb
    root = wrist + (d * 2.4 + t * 2.6 + p * 0.5) * size
    way = turned(d, cross(d, t), away)
    way = unit(way * (1 - over / 130) + p * (over / 90))
    middle = root + way * 3.6 * size
    curled = unit(way + (d - t * (over / 60)) * 0.35)
    joint = middle + curled * 2.9 * size
    tip = joint + unit(curled * 0.8 + d * 0.25 - t * (over / 90) * 0.7) * 2.3 * size
    thumb = [(root, middle, 1.45 * size), (middle, joint, 1.1 * size), (joint, tip, 0.98 * size)]
    return Hand(palm, [thumb, *fingers], p, t)
