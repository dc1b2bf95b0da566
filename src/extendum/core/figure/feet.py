"""Feet: heel, arch, ball and toes, flat or with the toes bent back, spread or curled."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from extendum.core.figure.rings import Points, ball, cross, turned, unit

#: Slices ahead of the ankle: how far ahead, how high the instep is over the sole, half the width, the sole's height.
_SLICES = (
    *((-6.4, 3.6, 1.6, 1.0), (-5.6, 5.2, 2.5, 0.3), (-3.6, 7.0, 3.1, 0.0), (-0.5, 9.3, 3.3, 0.0)),
    *((2.8, 8.2, 3.3, 0.3), (6.0, 6.4, 3.5, 0.7), (9.0, 4.9, 4.0, 0.4), (11.6, 3.9, 4.5, 0.0)),
)
#: The ball of the foot is so far ahead of the ankle, and the ankle so far above the sole.
BALL, HIGH = 11.6, 6.5
#: Across the foot from the big toe outwards: where each toe starts, its length and its thickness.
TOES = ((3.05, 6.4, 1.5), (1.1, 6.0, 1.05), (-0.5, 5.3, 0.98), (-1.95, 4.5, 0.92), (-3.2, 3.6, 0.9))
#: How far toes turn apart when they are spread, in degrees.
_SPREAD = (20.0, 9.0, -3.0, -15.0, -27.0)


def _slice(centre: Points, ahead: Points, side: Points, up: Points, given: tuple[float, float, float, float]) -> Points:
    far, high, wide, low = given
    foot = centre + ahead * far - up * HIGH
    # A foot's section: flat below, round above.
    points = [(-0.86, low), (0.86, low), (1.0, low + 0.3 * (high - low)), (0.8, low + 0.7 * (high - low))]
    points += [(0.35, high), (-0.3, high), (-0.78, low + 0.7 * (high - low)), (-1.0, low + 0.3 * (high - low))]
    return np.array([foot + side * (x * wide) + up * y for x, y in points])


def foot(
    ankle: Points, ahead: Points, sole: Points, outside: float, bend: float = 0.0, spread: float = 0.0
) -> tuple[list[Points], list[list[Points]]]:
    """The slices of a foot, and its toes as hulls.

    ``ahead``: where it points; ``sole``: where the sole looks; ``bend``: degrees that the toes are bent back (below 0:
    curled); ``spread``: from 0 to 1.
    """
    up = -unit(sole)
    inside = cross(ahead, up) * -outside
    slices = [_slice(ankle, ahead, inside, up, one) for one in _SLICES]
    return slices, list(_toes(ankle, ahead, inside, up, bend, spread))


def _toes(
    ankle: Points, ahead: Points, inside: Points, up: Points, bend: float, spread: float
) -> Iterator[list[Points]]:
    hinge = ankle + ahead * BALL - up * HIGH
    for (across, length, thick), apart in zip(TOES, _SPREAD, strict=True):
        way = turned(ahead, cross(ahead, inside), apart * spread)
        way = turned(way, cross(way, up), bend)
        high = turned(up, cross(ahead, up), bend)
        root = (
            hinge + inside * across * (1 + 0.1 * spread) + high * (thick + 0.2) - ahead * (abs(across - 2) * 0.25 + 0.6)
        )
        end = root + way * (length - thick) - high * 0.15
        yield [*ball(root, thick + 0.25), *ball(end, thick)]
