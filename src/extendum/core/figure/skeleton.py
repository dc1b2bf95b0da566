"""Where every joint of a pose is: forward kinematics, reaches, and letting the body down to the floor.

Proportions of a body of 170 cm: thigh and shin 41 each, upper arm 29, forearm 25, hand 17, foot 24, as anthropometric
tables have them to a few per cent.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

from extendum.core.figure.pose import Limb, Pose
from extendum.core.figure.vector import Frame, Vec, add, dot, frame, length, sub, towards, unit
from extendum.core.model.errors import RefusedError

HIP, SHOULDER, WAIST, CHEST, NECK = 9.0, 17.0, 20.0, 29.0, 17.5
UPPER_ARM, FOREARM, GRIP, HAND = 29.0, 25.0, 8.0, 17.0
#: So far below the neck's root the shoulders hang.
DROP = 7.5
THIGH, SHIN, ANKLE, HEEL, BALL, TOES = 41.0, 41.0, 6.5, 5.0, 11.6, 18.0
#: How far flesh stands out round a joint: what touches the floor.
FLESH = {
    f"{name}_{end}": flesh
    for end in ("l", "r")
    for name, flesh in (
        *(("hip", 9.5), ("shoulder", 5.2), ("elbow", 4.0), ("wrist", 2.6), ("hand", 1.6)),
        *(("knee", 5.5), ("ankle", 4.0), ("heel", 2.5), ("toes", 2.0)),
    )
} | {"waist": 8.0, "neck": 6.0, "head": 10.5}


@dataclass(frozen=True, slots=True)
class Body:
    """The joints of a pose by name, and the frames of pelvis, chest and head (ahead, up, left)."""

    joints: dict[str, Vec]
    pelvis: Frame
    chest: Frame
    head: Frame
    missed: tuple[str, ...] = ()
    gaze: float = 0.0

    @property
    def lowest(self) -> float:
        """The height of what is lowest, flesh included."""
        return min(self.joints[name][1] - flesh for name, flesh in FLESH.items())


def body_of(pose: Pose) -> Body:
    """The body in a pose, on the floor or on its seat. ``missed`` names limbs that do not get where they reach."""
    at = pose.at or (0.0, pose.seat + FLESH["hip_l"] if pose.seat else 0.0, 0.0)
    body = _placed(pose, at)
    for _ in range(4):  # toes lie down as they meet the floor, which may let the body down a little more
        if pose.at is not None or pose.seat or abs(body.lowest) < 1e-9:
            break
        at = (at[0], at[1] - body.lowest, at[2])
        body = _placed(pose, at)
    return body


def _placed(pose: Pose, at: Vec) -> Body:
    pelvis, trunk = frame(*pose.pelvis), frame(*pose.trunk)
    chest, head = frame(*pose.chest), frame(*pose.head)
    joints: dict[str, Vec] = {"pelvis": at}
    joints["waist"] = add(at, trunk[1], WAIST)
    joints["neck"] = add(joints["waist"], chest[1], CHEST)
    joints["head"] = add(joints["neck"], head[1], NECK)
    for end, outside, lifted in (("l", 1.0, pose.shrug[0]), ("r", -1.0, pose.shrug[1])):
        joints[f"hip_{end}"] = add(at, pelvis[2], outside * HIP)
        level = add(joints["neck"], chest[1], lifted - DROP)
        joints[f"shoulder_{end}"] = add(level, chest[2], outside * SHOULDER)
    _landmarks(joints, chest, head)
    chin = add(add(joints["head"], head[1], -10.5 - pose.jaw), head[0], 8 - pose.jaw / 2)
    joints["chin"] = add(chin, head[2], pose.slide)
    missed: list[str] = []
    for end, outside, leg, foot in (("l", 1.0, pose.leg_l, pose.foot_l), ("r", -1.0, pose.leg_r, pose.foot_r)):
        names = (f"hip_{end}", f"knee_{end}", f"ankle_{end}")
        missed += _limb(joints, names, leg, (THIGH, SHIN), outside)
        _foot(joints, end, foot, outside)
    arms = [("l", 1.0, pose.arm_l, pose.hand_l), ("r", -1.0, pose.arm_r, pose.hand_r)]
    if _needs_other(pose.arm_l):
        arms.reverse()
    for end, outside, arm, hand in arms:
        _carry(joints, end, arm, chest, outside)
        missed += _arm(joints, end, arm, hand, outside)
    return Body(joints, pelvis, chest, head, tuple(missed), pose.gaze)


def _carry(joints: dict[str, Vec], end: str, arm: Limb, chest: Frame, outside: float) -> None:
    """The shoulder blade goes with the arm: up and in as it is lifted, forward or back as it reaches."""
    shoulder = joints[f"shoulder_{end}"]
    way = unit(sub(_goal(joints, arm), shoulder)) if arm.to else towards(*arm.upper, outside)
    up, ahead = dot(way, chest[1]), dot(way, chest[0])
    lifted = max(0.0, up + 0.2) / 1.2
    shoulder = add(add(shoulder, chest[1], 5.5 * lifted), chest[2], -outside * 2.5 * lifted)
    joints[f"shoulder_{end}"] = add(shoulder, chest[0], 3.0 * ahead if ahead > 0 else 2.0 * ahead)


def _arm(joints: dict[str, Vec], end: str, arm: Limb, hand: tuple[float, float] | None, outside: float) -> list[str]:
    """An arm: it reaches with the middle of its hand, or with the wrist where the hand has a direction of its own."""
    shoulder, elbow, grip = f"shoulder_{end}", f"elbow_{end}", f"grip_{end}"
    reach = FOREARM if hand else FOREARM + GRIP
    missed = _limb(joints, (shoulder, elbow, grip), arm, (UPPER_ARM, reach), outside)
    forearm = unit(sub(joints[grip], joints[elbow]))
    wrist = joints[f"wrist_{end}"] = add(joints[elbow], forearm, FOREARM)
    pointing = towards(*hand, outside) if hand else forearm
    joints[grip] = add(wrist, pointing, GRIP)
    joints[f"hand_{end}"] = add(wrist, pointing, HAND)
    return missed


def _needs_other(arm: Limb) -> bool:
    goal = str(arm.to[0]) if arm.to else ""
    return goal.endswith("_r") and goal.split("_")[0] in ("elbow", "grip", "wrist", "hand")


def _landmarks(joints: dict[str, Vec], chest: Frame, head: Frame) -> None:
    """Places on the trunk and the head that hands reach for."""
    joints["breastbone"] = add(add(joints["neck"], chest[1], -12), chest[0], 11)
    joints["belly"] = add(joints["waist"], chest[0], 10)
    joints["back"] = add(joints["waist"], chest[0], -11)
    joints["nape"] = add(add(joints["neck"], head[1], 4), head[0], -8)
    joints["crown"] = add(joints["head"], head[1], 12)
    joints["face"] = add(joints["head"], head[0], 13)
    joints["temple_l"] = add(joints["head"], head[2], 12)
    joints["temple_r"] = add(joints["head"], head[2], -12)
    joints["ribs_l"] = add(add(joints["waist"], chest[1], 8), chest[2], 15)
    joints["ribs_r"] = add(add(joints["waist"], chest[1], 8), chest[2], -15)
    joints["waist_l"] = add(add(joints["waist"], chest[1], -9), chest[2], 15)
    joints["waist_r"] = add(add(joints["waist"], chest[1], -9), chest[2], -15)


def _goal(joints: dict[str, Vec], limb: Limb) -> Vec:
    if isinstance(limb.to[0], str):
        name = limb.to[0]
        if name not in joints:
            raise RefusedError("to", "a joint that is placed before: " + ", ".join(joints), name)
        x, y, z = (float(v) for v in (*limb.to[1:], 0, 0, 0)[:3])
        return add(joints[name], (x, y, z))
    x, y, z = (float(v) for v in limb.to)
    return x, y, z


def _limb(
    joints: dict[str, Vec], names: tuple[str, str, str], limb: Limb, bones: tuple[float, float], outside: float
) -> list[str]:
    root, a, b = joints[names[0]], *bones
    if not limb.to:
        joints[names[1]] = add(root, towards(*limb.upper, outside), a)
        joints[names[2]] = add(joints[names[1]], towards(*limb.lower, outside), b)
        return []
    goal = _goal(joints, limb)
    way = sub(goal, root)
    far = min(max(length(way), abs(a - b) + 0.1), a + b - 0.01)
    along = unit(way)
    pole = towards(*limb.pole, outside)
    across = unit(sub(pole, (along[0] * dot(pole, along), along[1] * dot(pole, along), along[2] * dot(pole, along))))
    shift = (a * a - b * b + far * far) / (2 * far)
    out = sqrt(max(0.0, a * a - shift * shift))
    joints[names[1]] = add(add(root, along, shift), across, out)
    joints[names[2]] = add(root, along, far)
    return [names[2]] if abs(length(way) - far) > 1.5 else []


def _foot(joints: dict[str, Vec], end: str, given: tuple[float, float] | None, outside: float) -> None:
    """Heel and toes: as given, otherwise square to the shin on the side that the knee points to."""
    hip, knee, ankle = (joints[f"{name}_{end}"] for name in ("hip", "knee", "ankle"))
    shin = unit(sub(ankle, knee))
    if given:
        ahead = towards(*given, outside)
    else:
        thigh = unit(sub(knee, hip))
        bent = sub(thigh, (shin[0] * dot(thigh, shin), shin[1] * dot(thigh, shin), shin[2] * dot(thigh, shin)))
        level = (1.0 - shin[0] * shin[0], -shin[0] * shin[1], -shin[0] * shin[2])
        ahead = unit(bent) if length(bent) > 0.2 else unit(level)
    # The sole lies below the ankle, square to where the toes point and as near to the shin as it can.
    down = unit(sub(shin, (ahead[0] * dot(shin, ahead), ahead[1] * dot(shin, ahead), ahead[2] * dot(shin, ahead))))
    sole = add(ankle, down, ANKLE - 2.5)
    joints[f"heel_{end}"] = add(sole, ahead, -HEEL)
    ball = joints[f"ball_{end}"] = add(sole, ahead, BALL)
    # Toes that the floor meets lie flat on it.
    tucked = ball[1] < 5.0 and ahead[1] < -0.2 and down[1] < 0.35
    along = unit((ahead[0], 0.0, ahead[2])) if tucked else ahead
    joints[f"toes_{end}"] = add(ball, along, TOES - BALL)


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
