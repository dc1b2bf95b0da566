"""Sides, postures and regions of the body, and the seconds it takes to get from one posture to another.

The seconds are estimates for an able mixed group, to be scaled by the group's pace
(`CueStyle.pace_percent`): the slowest person decides. They count moving only, not words or props.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Side(StrEnum):
    """A side of the class's own body, as it is spoken."""

    LEFT = "left"
    RIGHT = "right"
    BOTH = "both"

    @property
    def other(self) -> Side:
        """The opposite side; both stays both."""
        return {Side.LEFT: Side.RIGHT, Side.RIGHT: Side.LEFT}.get(self, self)


class Posture(StrEnum):
    """Base of support. Chair and floor are never one 'seated': it decides who can take part."""

    STANDING = "standing"
    ONE_LEG = "one-leg stand"
    LUNGE = "lunge"
    DEEP_SQUAT = "deep squat"
    FORWARD_FOLD = "forward fold"
    PLANK = "plank"
    CHAIR = "on a chair"
    CHAIR_EDGE = "chair's edge"
    LONG_SITTING = "long sitting"
    STRADDLE = "straddle"
    CROSS_LEGGED = "cross-legged"
    HEELS = "sitting on heels"
    KNEELING = "kneeling"
    HALF_KNEELING = "half-kneeling"
    ALL_FOURS = "all fours"
    SUPINE = "supine"
    PRONE = "prone"
    SIDE_LYING = "side-lying"


_STAND, _CHAIR, _SIT, _KNEEL, _LIE = range(5)
_LEVEL = dict(
    zip(Posture, [_STAND] * 5 + [_KNEEL] + [_CHAIR] * 2 + [_SIT] * 3 + [_KNEEL] * 4 + [_LIE] * 3, strict=True)
)
# Rows: from standing, chair, floor sitting, kneeling, lying; columns: to the same.
_BETWEEN_LEVELS_S = (
    (3, 5, 9, 6, 11),
    (4, 2, 8, 7, 12),
    (8, 8, 4, 4, 5),
    (6, 7, 4, 3, 5),
    (10, 12, 5, 6, 4),
)
# Pairs that the levels misjudge.
_PAIR_S = {
    (Posture.FORWARD_FOLD, Posture.STANDING): 5,  # slowly, head last
    (Posture.DEEP_SQUAT, Posture.STANDING): 4,
    (Posture.LUNGE, Posture.HALF_KNEELING): 3,
    (Posture.HALF_KNEELING, Posture.LUNGE): 4,
    (Posture.CROSS_LEGGED, Posture.LONG_SITTING): 3,
    (Posture.LONG_SITTING, Posture.CROSS_LEGGED): 3,
    (Posture.ALL_FOURS, Posture.PLANK): 2,
    (Posture.PLANK, Posture.ALL_FOURS): 2,
    (Posture.ALL_FOURS, Posture.PRONE): 4,
    (Posture.PRONE, Posture.ALL_FOURS): 4,
}
# Postures that are themselves one-sided: changing the side means setting up again.
_OTHER_SIDE_S = {
    Posture.LUNGE: 4,
    Posture.ONE_LEG: 3,
    Posture.HALF_KNEELING: 5,
    Posture.SIDE_LYING: 6,
}
OTHER_SIDE_SAME_BASE_S = 2


class Base(StrEnum):
    """Where a posture is taken: what decides who can take part, coarser than the posture itself."""

    STANDING = "standing"
    CHAIR = "on a chair"
    FLOOR = "kneeling or sitting on the floor"
    LYING = "lying"

    @staticmethod
    def of(posture: Posture) -> Base:
        """The base of a posture; a plank is taken from the floor."""
        return {_STAND: Base.STANDING, _CHAIR: Base.CHAIR, _LIE: Base.LYING}.get(_LEVEL[posture], Base.FLOOR)


FLOOR = frozenset(p for p, level in _LEVEL.items() if level >= _SIT)


@dataclass(frozen=True, slots=True)
class Stance:
    """Where bodies are between passes: a posture, and the side last worked (None: none yet)."""

    posture: Posture
    side: Side | None = None


def body_seconds(before: Stance, after: Stance) -> int:
    """Seconds from one stance to the next at pace 1, without words and props.

    The same stance costs nothing; the other side of the same posture costs the change of sides
    when the posture is one-sided or a side was just worked.
    """
    if before.posture is after.posture:
        one_sided = after.posture in _OTHER_SIDE_S
        if before.side is after.side or not one_sided:
            return 0
        return _OTHER_SIDE_S[after.posture]
    pair = (before.posture, after.posture)
    if pair in _PAIR_S:
        return _PAIR_S[pair]
    return _BETWEEN_LEVELS_S[_LEVEL[before.posture]][_LEVEL[after.posture]]


def switch_seconds(posture: Posture) -> int:
    """Seconds to change to the other side of the same move at pace 1."""
    return _OTHER_SIDE_S.get(posture, OTHER_SIDE_SAME_BASE_S)


class Region(StrEnum):
    """Body regions that a move can be for."""

    NECK = "neck"
    JAW = "jaw"
    EYES = "eyes"
    SHOULDERS = "shoulders"
    CHEST = "chest"
    UPPER_BACK = "upper back"
    LOWER_BACK = "lower back"
    SPINE = "spine"
    SIDE_BODY = "side body"
    ABDOMINALS = "abdominals"
    UPPER_ARM = "upper arm"
    FOREARM = "forearm"
    WRIST = "wrist"
    HAND = "hand"
    HIP_FRONT = "front of hip"
    HIP_SIDE = "side of hip"
    DEEP_HIP = "deep hip"
    INNER_THIGH = "inner thigh"
    FRONT_THIGH = "front of thigh"
    BACK_THIGH = "back of thigh"
    CALF = "calf"
    ANKLE = "ankle"
    FOOT = "foot"
    BREATH = "breath"
    WHOLE_BODY = "whole body"


_R = Region
#: Which part of the body a region belongs to: moving one region of a part warms the others of it.
PARTS: dict[Region, str] = {
    **dict.fromkeys((_R.NECK, _R.JAW, _R.SHOULDERS, _R.CHEST, _R.UPPER_BACK), "upper"),
    **dict.fromkeys((_R.UPPER_ARM, _R.FOREARM, _R.WRIST, _R.HAND), "arms"),
    **dict.fromkeys((_R.LOWER_BACK, _R.SPINE, _R.SIDE_BODY, _R.ABDOMINALS), "trunk"),
    **dict.fromkeys((_R.HIP_FRONT, _R.HIP_SIDE, _R.DEEP_HIP, _R.INNER_THIGH, _R.FRONT_THIGH, _R.BACK_THIGH), "legs"),
    **dict.fromkeys((_R.CALF, _R.ANKLE, _R.FOOT), "legs"),
}
