"""What a body can do, and what it must touch: the faults of a pose, in words.

Limits are those that able adults reach, a little widened, in degrees.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import acos, degrees

from extendum.core.figure.skeleton import FLESH, Body
from extendum.core.figure.vector import Frame, Vec, dot, length, sub, unit

ELBOW, KNEE = 155.0, 160.0
HIP_FLEXION, HIP_EXTENSION, HIP_ABDUCTION = 156.0, 35.0, 75.0
SHOULDER_BACK = 80.0
#: Between pelvis and chest, and between chest and head: bent forward, back, to a side, turned.
SPINE = {"waist": (95.0, 45.0, 50.0, 75.0), "neck": (70.0, 75.0, 50.0, 85.0)}
#: How far into the floor flesh may seem to go.
SINKS_CM = 3.0


def _angle(a: Vec, b: Vec) -> float:
    return degrees(acos(max(-1.0, min(1.0, dot(unit(a), unit(b))))))


def faults(body: Body) -> Iterator[str]:
    """What a pose asks for that a body cannot do, or that is nowhere."""
    j = body.joints
    for name in body.missed:
        yield f"{name} does not get where it reaches"
    for end in ("l", "r"):
        upper, lower = sub(j[f"elbow_{end}"], j[f"shoulder_{end}"]), sub(j[f"wrist_{end}"], j[f"elbow_{end}"])
        if (bend := _angle(upper, lower)) > ELBOW:
            yield f"elbow_{end} bent by {bend:.0f}"
        yield from _shoulder(body, end, upper)
        yield from _leg(body, end)
    yield from _joint("waist", body.pelvis, body.chest)
    yield from _joint("neck", body.chest, body.head)
    low = min(FLESH, key=lambda name: j[name][1] - FLESH[name])
    if (deep := FLESH[low] - j[low][1]) > SINKS_CM:
        yield f"{low} is {deep:.0f} cm in the floor"


def _shoulder(body: Body, end: str, upper: Vec) -> Iterator[str]:
    ahead, up, _ = body.chest
    arm = unit(upper)
    back, down = -dot(arm, ahead), -dot(arm, up)
    if down > 0.2 and back > 0 and (far := _angle((back, down, 0.0), (0.0, 1.0, 0.0))) > SHOULDER_BACK:
        yield f"shoulder_{end} behind the back by {far:.0f}"


def _leg(body: Body, end: str) -> Iterator[str]:
    j, (ahead, up, left) = body.joints, body.pelvis
    thigh, shin = sub(j[f"knee_{end}"], j[f"hip_{end}"]), sub(j[f"ankle_{end}"], j[f"knee_{end}"])
    bend = _angle(thigh, shin)
    if bend > KNEE:
        yield f"knee_{end} bent by {bend:.0f}"
    t = unit(thigh)
    forward, down, out = dot(t, ahead), -dot(t, up), dot(t, left) * (1.0 if end == "l" else -1.0)
    flexed = _angle((forward, down, 0.0), (0.0, 1.0, 0.0)) * (1 if forward > 0 else -1)
    if flexed > HIP_FLEXION or flexed < -HIP_EXTENSION:
        yield f"hip_{end} bent by {flexed:.0f}"
    if (wide := 90 - _angle((out, length((forward, down, 0.0)), 0.0), (1.0, 0.0, 0.0))) > HIP_ABDUCTION:
        yield f"hip_{end} opened by {wide:.0f}"
    front = sub((t[0] * dot(t, unit(shin)), t[1] * dot(t, unit(shin)), t[2] * dot(t, unit(shin))), unit(shin))
    kneecap = dot(front, ahead) * down + dot(front, up) * forward
    if bend > 20 and kneecap < -0.3 and out < 0.5 and abs(dot(front, left)) < 0.5:
        yield f"knee_{end} bends the wrong way"


def _joint(name: str, below: Frame, above: Frame) -> Iterator[str]:
    forward, back, aside, turned = SPINE[name]
    up = above[1]
    lean = degrees(acos(max(-1.0, min(1.0, dot(up, below[1])))))
    toward, across = dot(up, below[0]), abs(dot(up, below[2]))
    if abs(toward) > across:
        if lean > (forward if toward > 0 else back):
            yield f"{name} bent {'forward' if toward > 0 else 'back'} by {lean:.0f}"
    elif lean > aside:
        yield f"{name} bent to the side by {lean:.0f}"
    level = sub(above[0], (up[0] * dot(above[0], up), up[1] * dot(above[0], up), up[2] * dot(above[0], up)))
    twist = _angle(
        level, sub(below[0], (up[0] * dot(below[0], up), up[1] * dot(below[0], up), up[2] * dot(below[0], up)))
    )
    if lean < 60 and twist > turned:
        yield f"{name} turned by {twist:.0f}"
