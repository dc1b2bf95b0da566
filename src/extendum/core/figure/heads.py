"""A head: a smooth skull with a face, hair from a hairline, nose, ears, and the lines of eyes, brows and mouth.

All in the frame of the head, in centimetres from its middle: ahead, up, to the left.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import cos, pi, sin

import numpy as np

from extendum.core.figure.rings import Points
from extendum.core.figure.vector import Frame

#: Levels of the skull: height, how far it reaches ahead and back, and half its width.
_LEVELS = (
    *((11.6, 0.2, 1.8, 0.6), (11.2, 3.0, 4.4, 3.2), (10.2, 5.3, 6.6, 4.9), (8.4, 7.3, 8.5, 6.3)),
    *((6.2, 8.5, 9.7, 7.1), (3.6, 8.9, 10.3, 7.4), (1.2, 8.5, 10.2, 7.4), (-1.2, 8.5, 9.5, 7.2), (-3.4, 8.5, 8.1, 6.8)),
    *((-5.4, 8.5, 6.0, 6.2), (-7.2, 8.2, 3.4, 5.5), (-8.8, 8.0, 0.6, 4.6), (-10.2, 7.9, -2.0, 3.3)),
    *((-11.2, 7.1, -3.6, 2.2), (-11.7, 6.0, -4.4, 0.8)),
)
_HEIGHTS, _REACH = np.array(_LEVELS)[::-1, 0], np.array(_LEVELS)[::-1, 1:]
COLUMNS = 32
#: What is below this height belongs to the jaw, which turns about a hinge before the ear.
_JAW, _HINGE = -4.6, (0.5, -2.0)
#: The lowest hair, by degrees from the front.
_HAIRLINE = (
    *((0, 6.6), (28, 6.3), (48, 5.2), (62, 3.2), (74, 0.4), (84, -1.8), (92, -1.6), (99, 1.2), (107, 0.8)),
    *((114, -3.2), (124, -5.8), (140, -7.0), (180, -7.2)),
)
#: How far hair stands off the skull.
HAIR = 0.9


@dataclass(frozen=True, slots=True)
class Features:
    """How a face looks: the jaw opened by so many centimetres and slid to the left, eyes open (0 to 1) and where to."""

    jaw: float = 0.0
    slide: float = 0.0
    eyes: float = 0.0
    gaze: float = 0.0


@dataclass(frozen=True, slots=True)
class Head:
    """The surfaces of a head in space: grids of points (rows, columns, 3), and the lines of its face."""

    skull: Points
    hair: Points
    bumps: list[Points]
    ears: tuple[Points, Points]
    lines: dict[str, Points]
    frame: Points


def _oval(ahead: float | Points, back: float | Points, wide: float | Points, turn: Points) -> tuple[Points, Points]:
    middle, half = (ahead - back) / 2, (ahead + back) / 2
    # A little squarer than an ellipse: a forehead and a jaw have corners.
    c, s = np.cos(turn), np.sin(turn)
    power = 0.9
    return middle + half * np.sign(c) * np.abs(c) ** power, wide * np.sign(s) * np.abs(s) ** power


@lru_cache(maxsize=64)
def _skull(jaw: float, slide: float) -> Points:
    turn: Points = np.asarray(np.arange(COLUMNS) * (2 * pi / COLUMNS), dtype=np.float64)
    rows = []
    for high, ahead, back, wide in _LEVELS:
        x, z = _oval(ahead, back, wide, turn)
        y = np.full(COLUMNS, high)
        rows.append(np.stack((x, y, z), axis=1))
    made = np.array(rows)
    low = np.clip((_JAW - made[:, :, 1]) / 3.0, 0, 1) * np.clip((made[:, :, 0] + 4) / 8, 0, 1)
    return _jawed(made, low, jaw, slide)


def _jawed(points: Points, share: Points, jaw: float, slide: float) -> Points:
    """Points of the jaw turned about its hinge and slid; ``share``: how much each belongs to it."""
    a = share * (jaw / 9.0)
    x, y = points[..., 0] - _HINGE[0], points[..., 1] - _HINGE[1]
    moved = points.copy()
    moved[..., 0] = _HINGE[0] + x * np.cos(a) + y * np.sin(a)
    moved[..., 1] = _HINGE[1] - x * np.sin(a) + y * np.cos(a)
    moved[..., 2] = points[..., 2] + share * slide
    return moved


def _on_skull(places: Points, off: float | Points = 0.0) -> Points:
    """Points of the skull (n, 3), so far off it; of places (n, 2): degrees to the left of the front, and height."""
    turn, high = np.radians(places[:, 0]), places[:, 1]
    ahead, back, wide = (np.interp(high, _HEIGHTS, _REACH[:, k]) for k in range(3))
    x, z = _oval(ahead, back, wide, turn)
    out = 1 + off / np.maximum(np.hypot(x, z), 1e-9)
    return np.stack((x * out, high, z * out), axis=1)


@lru_cache(maxsize=1)
def _hair() -> Points:
    """Columns of hair from the hairline to the crown."""
    known = np.array(_HAIRLINE)
    columns = []
    for n in range(COLUMNS * 2):
        degree = n * 180 / COLUMNS
        low = float(np.interp(min(degree, 360 - degree), known[:, 0], known[:, 1]))
        heights = low + (11.7 - low) * np.sin(np.linspace(0, pi / 2, 12))
        places = np.stack((np.full(len(heights), degree), np.minimum(heights, 11.6)), axis=1)
        column = _on_skull(places, HAIR * np.minimum(1.0, 0.25 + np.arange(len(heights)) / 3))
        column[:, 1] += HAIR * np.clip((heights - 2) / 6, 0.0, 1.0)
        columns.append(column)
    return np.array(columns).transpose(1, 0, 2)[::-1]


def _arc(start: float, end: float, high: float, rise: float, count: int = 9) -> list[tuple[float, float]]:
    """A shallow curve on the face: (degrees, height) from one end to the other, highest in the middle."""
    return [(start + (end - start) * k / (count - 1), high + rise * sin(pi * k / (count - 1))) for k in range(count)]


def _lines(features: Features) -> dict[str, Points]:
    """The lines of a face on the skull."""
    made: dict[str, list[tuple[float, float]]] = {}
    for side, sign in (("l", 1.0), ("r", -1.0)):
        made[f"brow_{side}"] = _arc(sign * 11, sign * 37, 3.4, 0.75)
        open_ = features.eyes
        made[f"lid_{side}"] = _arc(sign * 13, sign * 34, 0.75, 0.9 * open_ - 0.55 * (1 - open_))
        if open_ > 0.3:
            under = _arc(sign * 14, sign * 33, 0.75, -0.6 * open_)
            made[f"under_{side}"] = under
            made[f"white_{side}"] = [*made[f"lid_{side}"], *under[::-1]]
    made["mouth"] = _arc(-13, 13, -6.05, -0.35)
    lines = {}
    for name, some in made.items():
        lines[name] = _on_skull(np.array(some), 0.08)
    if features.eyes > 0.3:
        for side, sign in (("l", 1.0), ("r", -1.0)):
            centre = sign * 23.5 + features.gaze * 2.2
            ring = [(centre + 4.9 * cos(2 * pi * k / 12), 0.98 + 0.85 * sin(2 * pi * k / 12)) for k in range(12)]
            lines[f"iris_{side}"] = _on_skull(np.array(ring), 0.08)
    gap = features.jaw * 0.55
    low = [(d, h - 0.35 - gap) for d, h in _arc(11, -11, -6.0, -0.4)]
    lip = [*_arc(-13, 13, -6.05, -0.35 + 0.2), *low]
    lines["lips"] = _on_skull(np.array(lip), 0.05)
    for name in ("mouth", "lips"):
        lines[name][..., 2] += features.slide
    return lines


#: What stands out of a face, as point sets whose hulls are part of it: nose, lips and chin.
_NOSE = np.array(
    (
        *((8.6, 2.4, 0.5), (8.6, 2.4, -0.5), (9.5, 0.8, 0.5), (9.5, 0.8, -0.5), (11.3, -2.2, 0.5), (11.3, -2.2, -0.5)),
        *((11.5, -2.9, 0.4), (11.5, -2.9, -0.4), (10.8, -3.7, 0.7), (10.8, -3.7, -0.7), (8.6, -3.7, 1.75)),
        *((8.6, -3.7, -1.75), (9.2, -2.6, 1.65), (9.2, -2.6, -1.65)),
    )
)
_LIP = np.array(
    [(x, y, z) for x, z in ((9.35, 0.0), (8.9, 1.2), (8.9, -1.2), (7.5, 2), (7.5, -2)) for y in (-5.1, -5.8)]
)
_UNDER = np.array(
    [(x, y, z) for x, z in ((9.1, 0.0), (8.7, 1.1), (8.7, -1.1), (7.5, 2), (7.5, -2)) for y in (-6.4, -7.1)]
)
_CHIN = np.array(
    [(x, y, z) for x, z in ((8.75, 0.0), (8.4, 1.2), (8.4, -1.2), (6.0, 2), (6.0, -2)) for y in (-9.0, -10.4)]
)


def head_of(centre: Points, frame: Frame, features: Features) -> Head:
    """The head in space."""
    axes = np.array(frame)

    def placed(points: Points) -> Points:
        return np.asarray(centre + points @ axes)

    ears = []
    for sign in (1.0, -1.0):
        rim = []
        for k in range(14):
            a = 2 * pi * k / 14
            x, y = 1.75 * cos(a) * (1 + 0.18 * sin(a)), 3.1 * sin(a)
            rim.append((-0.7 + x * 0.97 - y * 0.16, -0.6 + y, sign * (7.35 - 0.42 * x)))
        ears.append(placed(np.array(rim)))
    low = [_jawed(one, np.ones(len(one)), features.jaw, features.slide) for one in (_UNDER, _CHIN)]
    lines = {name: placed(points) for name, points in _lines(features).items()}
    lines["nose"] = placed(np.array(((10.9, -2.3, 0.9), (10.3, -3.2, 1.5), (9.6, -3.5, 1.2), (9.9, -3.7, 0.0))))
    lines["nose_r"] = placed(np.array(((10.9, -2.3, -0.9), (10.3, -3.2, -1.5), (9.6, -3.5, -1.2), (9.9, -3.7, 0.0))))
    return Head(
        placed(_skull(features.jaw, features.slide)),
        placed(_hair()),
        [placed(one) for one in (_NOSE, _LIP, *low)],
        (ears[0], ears[1]),
        lines,
        axes,
    )
