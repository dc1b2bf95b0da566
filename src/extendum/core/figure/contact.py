"""What a body touches and what it must not go through: the faults of a figure beside its things, in words.

Surfaces give way a little, as flesh does; what is deeper than that is a fault. A hand or a foot that reaches for a
place in the room rests there: on the floor, a chair, a block, a wall or the body itself.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from math import cos, radians, sin

import numpy as np
import shapely

from extendum.core.figure.figure import Figure, Thing, body_in
from extendum.core.figure.pose import Pose
from extendum.core.figure.props import BACK, BOXES, SEAT, solids_of, wall_face
from extendum.core.figure.rings import Points, angle, at
from extendum.core.figure.surface import Surface, surface_of

#: So deep flesh and cloth may seem to give way, in centimetres; a seat gives way more.
GIVES, SEAT_GIVES = 2.5, 4.5
#: So far off what it rests on something may seem.
HOVERS = 3.0
#: An arm that carries is not bent by more than this, in degrees.
STRAIGHT = 15.0
#: So far outside of what carries it the weight may be, in centimetres.
TIPS = 5.0
#: The share of the body's weight in each part, about as tables of segments have it.
_WEIGHTS = {"trunk": 0.36, "pelvis": 0.14, "head": 0.08, "thigh": 0.1, "shin": 0.045, "foot": 0.015}
_WEIGHTS |= {"upper": 0.028, "fore": 0.016, "hand": 0.006}


@lru_cache(maxsize=16)
def _surface(pose: Pose) -> Surface:
    return surface_of(pose, body_in(pose))


def _inside(points: Points, thing: Thing, low: tuple[float, ...], high: tuple[float, ...]) -> Points:
    """How deep each point is in a box of a thing, 0 outside."""
    a = radians(thing.turn)
    shifted = points - at(thing.at)
    x = shifted[:, 0] * cos(a) + shifted[:, 2] * sin(a)
    z = -shifted[:, 0] * sin(a) + shifted[:, 2] * cos(a)
    local = np.stack((x, shifted[:, 1], z), axis=1)
    depth = np.minimum(local - np.array(low), np.array(high) - local).min(axis=1)
    return np.asarray(np.maximum(depth, 0.0))


def faults_of(figure: Figure, pose: Pose) -> Iterator[str]:
    """What a pose of a figure goes through, and what hovers that should rest."""
    surface = _surface(pose)
    for name, part in surface.parts.items():
        cloud = part.cloud
        if (deep := -float(cloud[:, 1].min())) > GIVES:
            yield f"{name} is {deep:.0f} cm in the floor"
        for thing in figure.things:
            yield from _through(name, cloud, thing)
    yield from _hovering(figure, pose, surface)
    yield from _bent(pose, surface)


def _through(name: str, cloud: Points, thing: Thing) -> Iterator[str]:
    if thing.name == "wall":
        face = wall_face(thing)
        if (deep := -float(((cloud - at(thing.at)) @ face).min())) > GIVES:
            yield f"{name} is {deep:.0f} cm in the wall"
    if thing.name == "chair":
        seat = float(_inside(cloud, thing, (-21, SEAT - 12, -21), (21, SEAT, 21)).max())
        back = float(_inside(cloud, thing, (-23.5, SEAT + 8, -20), (-15.5, BACK, 20)).max())
        if seat > SEAT_GIVES:
            yield f"{name} is {seat:.0f} cm in the seat"
        if back > 4.0 + GIVES / 2:
            yield f"{name} is {back:.0f} cm in the chair's back"
    if thing.name in BOXES:
        x, y, z = thing.size
        deep = float(_inside(cloud, thing, (-x / 2, 0, -z / 2), (x / 2, y, z / 2)).max())
        if deep > (SEAT_GIVES if thing.name == "cushion" else GIVES):
            yield f"{name} is {deep:.0f} cm in the {thing.name}"


def _hovering(figure: Figure, pose: Pose, surface: Surface) -> Iterator[str]:
    for end in ("l", "r"):
        for limb, last in (("arm", "hand"), ("leg", "foot")):
            reached = getattr(pose, f"{limb}_{end}").to
            if not reached or isinstance(reached[0], str):
                continue
            cloud = surface.parts[f"{last}_{end}"].cloud
            off = min(_gaps(figure, cloud))
            if off > HOVERS:
                yield f"{last}_{end} hovers {off:.0f} cm off what it rests on"


def _gaps(figure: Figure, cloud: Points) -> Iterator[float]:
    """How far something is from the floor and from each thing."""
    yield float(cloud[:, 1].min())
    for thing in figure.things:
        if thing.name == "wall":
            yield float(((cloud - at(thing.at)) @ wall_face(thing)).min())
        elif _is_solid(thing):
            yield float(_off(cloud, thing).min())


def _is_solid(thing: Thing) -> bool:
    return thing.name in ("chair", "ball", *BOXES)


def _off(cloud: Points, thing: Thing) -> Points:
    """How far each point is from a thing, 0 inside."""
    if thing.name == "ball":
        centre = at(thing.at) + np.array((0.0, thing.size[0], 0.0))
        return np.asarray(np.maximum(np.linalg.norm(cloud - centre, axis=1) - thing.size[0], 0.0))
    found = []
    for corner, axes in _boxes(thing):
        share = np.clip((cloud - corner) @ axes.T / (axes**2).sum(axis=1), 0.0, 1.0)
        found.append(np.linalg.norm(cloud - corner - share @ axes, axis=1))
    return np.asarray(np.min(found, axis=0))


@lru_cache(maxsize=64)
def _boxes(thing: Thing) -> tuple[tuple[Points, Points], ...]:
    """The boxes that a thing is made of: a corner and the three edges from it."""
    every = [corners for solid in solids_of(thing, 0, None) for (corners,) in solid.more]
    return tuple((corners[0], corners[[4, 2, 1]] - corners[0]) for corners in every)


def _bent(pose: Pose, surface: Surface) -> Iterator[str]:
    """Arms that carry: the hand is far below the shoulder and on the ground, and the forearm does not lie there."""
    j = surface.body.joints
    for end in ("l", "r"):
        shoulder, elbow, wrist = (at(j[f"{name}_{end}"]) for name in ("shoulder", "elbow", "wrist"))
        carries = wrist[1] < 8 and shoulder[1] - wrist[1] > 42 and elbow[1] - wrist[1] > 12
        if carries and (bend := angle(elbow - shoulder, wrist - elbow)) > STRAIGHT:
            yield f"arm_{end} carries, bent by {bend:.0f}"


def weight_off(figure: Figure, pose: Pose) -> float:
    """How far the weight is outside of what carries it, in centimetres: 0 where it is over it.

    What carries is everything that touches the floor, a seat or a block; who leans on a wall is not asked.
    """
    surface = _surface(pose)
    if any(thing.name == "wall" for thing in figure.things):
        return 0.0
    touching: list[Points] = []
    weight, sum_ = np.zeros(3), 0.0
    for name, part in surface.parts.items():
        cloud = part.cloud
        share = _WEIGHTS.get(name.split("_")[0], 0.0)
        weight, sum_ = weight + cloud.mean(axis=0) * share, sum_ + share
        touching.append(cloud[cloud[:, 1] < HOVERS + 1])
        for thing in figure.things:
            if _is_solid(thing):
                touching.append(cloud[_off(cloud, thing) < HOVERS + 1])
    every = np.vstack(touching)
    if len(every) < 3:
        return 99.0
    base = shapely.MultiPoint(every[:, (0, 2)]).convex_hull
    middle = weight / sum_
    return float(base.distance(shapely.Point(middle[0], middle[2])))
