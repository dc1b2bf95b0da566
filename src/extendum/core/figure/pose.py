"""A pose as data: angles in degrees and reaches in centimetres, and what it becomes for the other side.

``trunk``, ``chest``, ``head`` and ``pelvis`` are (leant forward, bent to the left, turned to the left), each in the
world and not against its neighbour. A limb is either four angles (`towards` of its upper and its lower bone) or
reaches for a place, with the direction in which its elbow or knee points.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any

from extendum.core.model.errors import RefusedError

Triple = tuple[float, float, float]
Pair = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Limb:
    """How an arm or a leg lies: its two bones by angle, or what its end reaches and where its middle joint points."""

    upper: Pair = (0.0, 0.0)
    lower: Pair = (0.0, 0.0)
    to: tuple[str | float, ...] = ()
    pole: Pair = (0.0, 90.0)


@dataclass(frozen=True, slots=True)
class Pose:
    """A whole body. ``at``: where the pelvis is, or None to be let down until it touches the floor.

    ``seat``: the pelvis sits on a seat of this height. Hands and feet point by angles of their own, or as their limb
    does; ``palm``: where a palm looks, by angles like a limb's; ``shapes``: of the left and of the right hand,
    on the way to others in ``closing``.
    ``toes``: degrees that they are bent back, or None: as the floor bends them. ``shrug``: how far each shoulder is
    lifted; ``jaw``: opened and slid, in centimetres; ``eyes``: from closed (0) to open (1); ``gaze``: how far they
    look to the left.
    """

    trunk: Triple = (0.0, 0.0, 0.0)
    chest: Triple = (0.0, 0.0, 0.0)
    head: Triple = (0.0, 0.0, 0.0)
    pelvis: Triple = (0.0, 0.0, 0.0)
    arm_l: Limb = Limb((20.0, 8.0), (10.0, 12.0))
    arm_r: Limb = Limb((20.0, 8.0), (10.0, 12.0))
    leg_l: Limb = Limb((90.0, 3.0), (90.0, 1.0))
    leg_r: Limb = Limb((90.0, 3.0), (90.0, 1.0))
    hand_l: Pair | None = None
    hand_r: Pair | None = None
    foot_l: Pair | None = None
    foot_r: Pair | None = None
    at: Triple | None = None
    seat: float = 0.0
    shrug: Pair = (0.0, 0.0)
    palm_l: Pair | None = None
    palm_r: Pair | None = None
    shapes: tuple[str, str] = ("", "")
    closing: tuple[tuple[str, str], float] | None = None
    toes: tuple[float | None, float | None] = (None, None)
    toe_spread: float = 0.0
    jaw: float = 0.0
    slide: float = 0.0
    eyes: float = 0.75
    gaze: float = 0.0


_SIDES = ("arm", "leg", "hand", "foot", "palm")


def other_side(name: str) -> str:
    """The name of the same part on the other side: ``knee_l`` becomes ``knee_r``."""
    if name.endswith("_l"):
        return name[:-1] + "r"
    return name[:-1] + "l" if name.endswith("_r") else name


def mirrored(pose: Pose) -> Pose:
    """The same pose for the other side."""

    def over(t: Triple) -> Triple:
        return t[0], -t[1], -t[2]

    def reach(limb: Limb) -> Limb:
        if not limb.to:
            return limb
        named = isinstance(limb.to[0], str)
        head = (other_side(str(limb.to[0])),) if named else ()
        x, y, z = (float(v) for v in (limb.to[1:] if named else limb.to))
        return replace(limb, to=(*head, x, y, -z))

    swapped: dict[str, Any] = {}
    for part in _SIDES:
        left, right = getattr(pose, f"{part}_l"), getattr(pose, f"{part}_r")
        if part in ("arm", "leg"):
            left, right = reach(left), reach(right)
        swapped[f"{part}_l"], swapped[f"{part}_r"] = right, left
    at = pose.at and (pose.at[0], pose.at[1], -pose.at[2])
    swapped |= {name: over(getattr(pose, name)) for name in ("trunk", "chest", "head", "pelvis")}
    swapped |= {name: getattr(pose, name)[::-1] for name in ("shrug", "shapes", "toes")}
    swapped["closing"] = pose.closing and (pose.closing[0][::-1], pose.closing[1])
    return replace(pose, **swapped, at=at, gaze=-pose.gaze, slide=-pose.slide)


_NAMES = {field.name for field in fields(Pose)}


def pose_from(plain: Mapping[str, Any], base: Pose) -> Pose:
    """A pose that differs from another in what is given; ``arm``, ``leg``, ``hand`` or ``foot`` is for both sides.

    ``chest`` and ``head`` follow ``trunk`` where only that is given, and ``head`` follows ``chest``.
    """
    given: dict[str, Any] = {}
    for name, value in plain.items():
        if name in _SIDES:
            given[f"{name}_l"] = given[f"{name}_r"] = value
        elif name in _NAMES:
            given[name] = value
        else:
            raise RefusedError(name, "a part of a pose: " + ", ".join((*_SIDES, *sorted(_NAMES))), value)
    if "trunk" in given:
        given.setdefault("chest", given["trunk"])
        given.setdefault("pelvis", [given["trunk"][0], 0, 0])
    if "chest" in given:
        given.setdefault("head", given["chest"])
    changes: dict[str, Any] = {}
    changes |= {name: _limb(value) if name[:3] in ("arm", "leg") else _numbers(value) for name, value in given.items()}
    return replace(base, **changes)


def _limb(value: Any) -> Limb:
    if isinstance(value, dict):
        return Limb(to=tuple(value["to"]), pole=tuple(value.get("pole", (0, 90))))
    a, b, c, d = value
    return Limb((a, b), (c, d))


def _numbers(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def between(a: Pose, b: Pose, share: float) -> Pose:
    """A pose on the way from one to another; a limb that reaches in only one of them changes over half-way."""

    def mid(x: Any, y: Any) -> Any:
        if isinstance(x, int | float) and isinstance(y, int | float):
            return x + (y - x) * share
        if isinstance(x, tuple) and isinstance(y, tuple) and len(x) == len(y):
            return tuple(mid(p, q) for p, q in zip(x, y, strict=True))
        if isinstance(x, Limb) and isinstance(y, Limb) and bool(x.to) == bool(y.to) and _same_goal(x, y):
            return Limb(mid(x.upper, y.upper), mid(x.lower, y.lower), mid(x.to, y.to), mid(x.pole, y.pole))
        return x if share < 0.5 else y

    return Pose(**{field.name: mid(getattr(a, field.name), getattr(b, field.name)) for field in fields(Pose)})


def _same_goal(x: Limb, y: Limb) -> bool:
    named = [limb.to[0] if limb.to and isinstance(limb.to[0], str) else "" for limb in (x, y)]
    return named[0] == named[1]
