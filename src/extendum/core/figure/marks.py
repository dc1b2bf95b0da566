"""Where on a body a region lies: the lines along which a figure marks what is stretched or worked."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.figure.skeleton import Body
from extendum.core.figure.vector import Vec, add, cross, dot, length, sub, unit
from extendum.core.model.body import Region, Side
from extendum.core.model.move import Effect, Move, OnSide


@dataclass(frozen=True, slots=True)
class Mark:
    """A region on a side (both: in the middle, or on each), as a line over the body."""

    region: Region
    side: Side
    stretches: bool

    def of_side(self, side: Side) -> Mark:
        """The mark as it is when the other side is worked."""
        return replace(self, side=self.side.other) if side is Side.RIGHT else self

    def points(self, body: Body) -> tuple[Vec, ...]:
        """The line on the surface of the body."""
        return _line(self.region, "r" if self.side is Side.RIGHT else "l", body)


#: Regions of which both sides are marked where both are worked; the others are one line in the middle.
_PAIRED = frozenset(
    {Region.BACK_THIGH, Region.FRONT_THIGH, Region.INNER_THIGH, Region.CALF, Region.HIP_FRONT, Region.DEEP_HIP}
    | {Region.HIP_SIDE, Region.ANKLE, Region.FOOT, Region.UPPER_ARM, Region.FOREARM, Region.WRIST, Region.HAND}
    | {Region.SHOULDERS, Region.SIDE_BODY}
)
_NOWHERE = frozenset({Region.WHOLE_BODY, Region.EYES, Region.BREATH})


def marks_of(move: Move) -> tuple[Mark, ...]:
    """What a figure marks of a move that is done on its left side: its main targets."""
    found: list[Mark] = []
    for target in move.targets:
        if not target.main or target.region in _NOWHERE:
            continue
        stretches = target.effect is Effect.STRETCH
        named = Side.LEFT if target.side is not OnSide.OTHER else Side.RIGHT
        both = not move.sided or target.side is OnSide.BOTH
        sides = (Side.LEFT, Side.RIGHT) if both and target.region in _PAIRED else (named,)
        found += [Mark(target.region, side, stretches) for side in sides]
    return tuple(found)


def leg_front(body: Body, end: str) -> tuple[Vec, Vec]:
    """Where the front of a thigh and of its shin look: from the knee's bend, or from the foot of a straight leg."""
    j = body.joints
    t, s = unit(sub(j[f"knee_{end}"], j[f"hip_{end}"])), unit(sub(j[f"ankle_{end}"], j[f"knee_{end}"]))
    along = dot(t, s)
    front = (t[0] * along - s[0], t[1] * along - s[1], t[2] * along - s[2])
    if length(front) > 0.25:
        shin = (t[0] - s[0] * along, t[1] - s[1] * along, t[2] - s[2] * along)
        return unit(front), unit(shin)
    toes = unit(sub(j[f"toes_{end}"], j[f"heel_{end}"]))
    square = sub(toes, (s[0] * dot(toes, s), s[1] * dot(toes, s), s[2] * dot(toes, s)))
    return unit(square), unit(square)


def _line(region: Region, end: str, body: Body) -> tuple[Vec, ...]:
    """Where a region's line runs on one side of the body."""
    if region in _LEGS:
        return _leg_line(region, end, body)
    if region in _ARMS:
        return _arm_line(region, end, body)
    if region in _HIPS:
        return _hip_line(region, end, body)
    return _trunk_line(region, end, body)


def _outside(end: str) -> float:
    return 1.0 if end == "l" else -1.0


def _leg_line(region: Region, end: str, body: Body) -> tuple[Vec, ...]:
    j = body.joints
    hip, knee, ankle = j[f"hip_{end}"], j[f"knee_{end}"], j[f"ankle_{end}"]
    front, shin = leg_front(body, end)
    if region is Region.CALF:
        return _beside(knee, ankle, shin, -6.0, 0.12, 0.82)
    if region is Region.ANKLE:
        return add(ankle, shin, -6), add(ankle, shin, 6)
    if region is Region.FOOT:
        return add(j[f"heel_{end}"], (0, -3, 0)), add(j[f"toes_{end}"], (0, -3, 0))
    if region in (Region.BACK_THIGH, Region.FRONT_THIGH):
        return _beside(hip, knee, front, 8.5 if region is Region.FRONT_THIGH else -8.5, 0.2, 0.9)
    inner = cross(front, unit(sub(knee, hip)))
    inwards = dot(inner, body.pelvis[2]) * _outside(end) < 0
    return _beside(hip, knee, inner if inwards else (-inner[0], -inner[1], -inner[2]), 8.0, 0.2, 0.9)


def _arm_line(region: Region, end: str, body: Body) -> tuple[Vec, ...]:
    j, side = body.joints, _arm_side(body, end)
    shoulder, elbow, wrist, hand = (j[f"{name}_{end}"] for name in ("shoulder", "elbow", "wrist", "hand"))
    if region is Region.FOREARM:
        return _beside(elbow, wrist, side, 4.0, 0.1, 0.9)
    if region is Region.WRIST:
        return _beside(elbow, hand, side, 4.0, 0.5, 0.85)
    if region is Region.HAND:
        return _beside(wrist, hand, side, 4.0, 0.05, 1.0)
    return _beside(shoulder, elbow, side, 5.5, 0.15, 0.9)


def _hip_line(region: Region, end: str, body: Body) -> tuple[Vec, ...]:
    hip, (ahead, up, left) = body.joints[f"hip_{end}"], body.pelvis
    thigh = unit(sub(body.joints[f"knee_{end}"], hip))
    if region is Region.HIP_FRONT:
        front, _ = leg_front(body, end)
        return add(add(hip, up, 9), ahead, 9), add(add(hip, front, 9), thigh, 15)
    if region is Region.DEEP_HIP:
        seat = add(hip, ahead, -10)
        return add(seat, up, 7), add(seat, thigh, 9)
    out = add(hip, left, _outside(end) * 10)
    return add(out, up, 9), add(out, thigh, 12)


def _trunk_line(region: Region, end: str, body: Body) -> tuple[Vec, ...]:
    j, (ahead, up, left), pelvis, head = body.joints, body.chest, body.pelvis, body.head
    shoulder, outside = j[f"shoulder_{end}"], _outside(end)
    match region:
        case Region.SIDE_BODY:
            low = add(add(j["pelvis"], pelvis[2], outside * 13), pelvis[1], 6)
            middle = add(add(j["waist"], left, outside * 12), up, 3)
            return low, middle, add(add(shoulder, up, -7), left, outside * 3)
        case Region.SHOULDERS:
            return add(add(shoulder, up, 7), left, -outside * 6), add(shoulder, left, outside * 7)
        case Region.CHEST:
            middle = add(add(j["neck"], up, -11), ahead, 12)
            return add(middle, left, 13), add(middle, left, -13)
        case Region.NECK:
            return add(j["neck"], left, outside * 8), add(add(j["head"], head[2], outside * 8), head[1], -6)
        case Region.JAW:
            chin = add(add(j["head"], head[1], -7), head[0], 9)
            return add(chin, head[2], 5), add(chin, head[2], -5)
        case Region.UPPER_BACK:
            return add(add(j["neck"], up, -2), ahead, -10), add(add(j["waist"], up, 8), ahead, -11)
        case Region.LOWER_BACK:
            return add(add(j["waist"], up, 4), ahead, -10), add(add(j["pelvis"], pelvis[1], 2), pelvis[0], -10)
        case _:
            return add(j["neck"], ahead, -9), add(j["waist"], ahead, -10), add(j["pelvis"], pelvis[0], -10)


_HIPS = frozenset({Region.HIP_FRONT, Region.DEEP_HIP, Region.HIP_SIDE})
_LEGS = frozenset({Region.CALF, Region.ANKLE, Region.FOOT, Region.BACK_THIGH, Region.FRONT_THIGH, Region.INNER_THIGH})
_ARMS = frozenset({Region.UPPER_ARM, Region.FOREARM, Region.WRIST, Region.HAND})


def _arm_side(body: Body, end: str) -> Vec:
    """The side of an arm that looks down or back, away from the elbow's bend."""
    j = body.joints
    a = unit(sub(j[f"elbow_{end}"], j[f"shoulder_{end}"]))
    b = unit(sub(j[f"wrist_{end}"], j[f"elbow_{end}"]))
    bend = sub(a, b)
    return unit(bend) if length(bend) > 0.3 else unit(cross(a, body.chest[2]))


def _beside(a: Vec, b: Vec, direction: Vec, offset: float, start: float, end: float) -> tuple[Vec, Vec]:
    """A part of the line from a to b, moved to the surface."""
    way = sub(b, a)
    return add(add(a, way, start), direction, offset), add(add(a, way, end), direction, offset)
