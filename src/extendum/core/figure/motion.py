"""The way from one pose of a figure to the next: so many poses between that no bone turns far from one to another.

Angles are interpolated, never points, so that bones keep their length. A hand or a foot that is where it was stays
there; one that reaches for the same place of the body goes on reaching for it.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from itertools import pairwise
from math import atan2, ceil, degrees

import numpy as np

from extendum.core.figure.figure import Figure, body_in
from extendum.core.figure.pose import Limb, Pair, Pose, between
from extendum.core.figure.rings import Points, angle, at, blend, square_to, unit
from extendum.core.figure.skeleton import Body
from extendum.core.figure.surface import palm_of

#: No bone turns farther from one picture to the next, in degrees; and how near a hand stays where it was, in cm.
STEP, STAYS = 20.0, 4.0
_LIMBS = (
    *(("hip", "knee"), ("knee", "ankle"), ("heel", "ball"), ("shoulder", "elbow"), ("elbow", "wrist")),
    ("wrist", "hand"),
)
_BONES = (
    *(("pelvis", "waist"), ("waist", "neck"), ("neck", "head"), ("hip_r", "hip_l"), ("shoulder_r", "shoulder_l")),
    *((f"{a}_{end}", f"{b}_{end}") for end in "lr" for a, b in _LIMBS),
)


def farthest_turn(a: Body, b: Body) -> float:
    """How far the bone turns that turns farthest between two bodies, in degrees."""
    turns = [angle(_bone(a, *names), _bone(b, *names)) for names in _BONES]
    heads = [angle(at(x), at(y)) for x, y in zip(a.head, b.head, strict=True)]
    return max(*turns, *heads)


def _bone(body: Body, a: str, b: str) -> Points:
    return at(body.joints[b]) - at(body.joints[a])


def direction(way: Points, outside: float) -> Pair:
    """The angles of a direction, as `vector.towards` takes them."""
    x, y, z = (float(one) for one in unit(way))
    around = degrees(atan2(z * outside, x)) if abs(x) + abs(z) > 1e-9 else 0.0
    return around, degrees(float(np.arccos(max(-1.0, min(1.0, -y)))))


def poses_of(figure: Figure) -> tuple[Pose, ...]:
    """The poses of a figure's movement, its stops and what is between them; a circle ends where it began."""
    return _way(figure)[0]


def stops_of(figure: Figure) -> tuple[int, ...]:
    """At which of those poses a figure's stops are."""
    return _way(figure)[1]


@lru_cache(maxsize=512)
def _way(figure: Figure) -> tuple[tuple[Pose, ...], tuple[int, ...]]:
    stops = (*figure.poses, figure.poses[0]) if figure.round else figure.poses
    made, places = [stops[0]], [0]
    for a, b in pairwise(stops):
        count = max(1, ceil(farthest_turn(body_in(a), body_in(b)) / (STEP * 0.8)))
        while True:
            way = [midway(a, b, n / count) for n in range(1, count)] + [b]
            turns = [farthest_turn(body_in(x), body_in(y)) for x, y in pairwise((a, *way))]
            if max(turns) <= STEP or count > 40:
                break
            count += 1
        made += way
        places.append(len(made) - 1)
    return tuple(made), tuple(places)


@lru_cache(maxsize=4096)
def midway(a: Pose, b: Pose, share: float) -> Pose:
    """A pose on the way from one to another, from 0 to 1."""
    if share in (0.0, 1.0):
        return a if share == 0 else b
    one, other = body_in(a), body_in(b)
    made = between(a, b, share)
    pelvis = tuple(
        float(x + (y - x) * share) for x, y in zip(one.joints["pelvis"], other.joints["pelvis"], strict=True)
    )
    changes: dict[str, object] = {"at": pelvis, "seat": 0.0}
    for end, outside in (("l", 1.0), ("r", -1.0)):
        for limb in ("arm", "leg"):
            changes |= _limb(limb, end, outside, (a, b), (one, other), share)
        palms = [palm_of(pose, body, end, outside) for pose, body in ((a, one), (b, other))]
        changes[f"palm_{end}"] = direction(blend(palms[0], palms[1], share), outside)
    changes["toes"] = tuple(
        None if x is None or y is None else x + (y - x) * share for x, y in zip(a.toes, b.toes, strict=True)
    )
    changes["shapes"], changes["closing"] = a.shapes, (b.shapes, share)
    made = replace(made, **changes)  # type: ignore[arg-type]
    sunk = min(one.lowest, other.lowest, 0.0) - body_in(made).lowest
    return replace(made, at=(pelvis[0], pelvis[1] + sunk, pelvis[2])) if sunk > 0.1 else made


_NAMES = {"arm": ("shoulder", "elbow", "wrist"), "leg": ("hip", "knee", "ankle")}


def _limb(
    limb: str, end: str, outside: float, poses: tuple[Pose, Pose], bodies: tuple[Body, Body], share: float
) -> dict[str, object]:
    """An arm or a leg on the way, and where its hand or foot points."""
    root, middle, tip = (f"{name}_{end}" for name in _NAMES[limb])
    tail = f"{'hand' if limb == 'arm' else 'foot'}_{end}"
    first, second = (getattr(pose, f"{limb}_{end}") for pose in poses)
    points = ("wrist", "hand") if limb == "arm" else ("heel", "ball")
    tails = [_bone(body, *(f"{name}_{end}" for name in points)) for body in bodies]
    pointing = direction(blend(tails[0], tails[1], share), outside)
    named = [one.to[0] if one.to and isinstance(one.to[0], str) else "" for one in (first, second)]
    if named[0] and named[0] == named[1] and bool(getattr(poses[0], tail)) == bool(getattr(poses[1], tail)):
        return {} if getattr(poses[0], tail) is None else {tail: pointing}
    ends = [at(body.joints[tip]) for body in bodies]
    bones = [(_bone(body, root, middle), _bone(body, middle, tip)) for body in bodies]
    poles = [_pole(*two) for two in bones]
    stays = float(np.linalg.norm(ends[0] - ends[1])) < STAYS
    if stays or (poles[0] is not None and poles[1] is not None and _both_reach(first, second)):
        goal = ends[0] + (ends[1] - ends[0]) * share
        known = [one for one in poles if one is not None]
        pole = blend(known[0], known[1], share) if len(known) == 2 else known[0] if known else at((0.0, 0.0, 1.0))
        return {f"{limb}_{end}": Limb(to=tuple(map(float, goal)), pole=direction(pole, outside)), tail: pointing}
    upper = direction(blend(bones[0][0], bones[1][0], share), outside)
    lower = direction(blend(bones[0][1], bones[1][1], share), outside)
    return {f"{limb}_{end}": Limb(upper, lower), tail: pointing}


def _both_reach(a: Limb, b: Limb) -> bool:
    """Whether both go for a place in the room."""
    return all(one.to and not isinstance(one.to[0], str) for one in (a, b))


def _pole(upper: Points, lower: Points) -> Points | None:
    """Where the middle joint of a limb points to; None for a straight one."""
    if angle(upper, lower) < 4:
        return None
    return square_to(unit(upper) - unit(lower), unit(upper + lower))
