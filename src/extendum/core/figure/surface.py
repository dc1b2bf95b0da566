"""The surface of a body in a pose: its parts as solids in space, ready to be looked at from anywhere.

Every part is a row of rings (`rings`); two that follow each other are joined by their hull, and the part is the union
of those. Nothing here knows where it is seen from.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from extendum.core.figure.builds import GIRTHS, Build, Girths
from extendum.core.figure.feet import BALL, HIGH, foot
from extendum.core.figure.hands import SHAPES, Shape, hand
from extendum.core.figure.heads import Features, Head, head_of
from extendum.core.figure.part import Part
from extendum.core.figure.pose import Limb, Pose
from extendum.core.figure.rings import (
    Points,
    Radii,
    along,
    angle,
    at,
    ball,
    blend,
    cross,
    fan,
    hermite,
    ring,
    square_to,
    unit,
)
from extendum.core.figure.skeleton import CHEST, WAIST, Body, leg_front
from extendum.core.figure.vector import towards

ENDS = (("l", 1.0), ("r", -1.0))
#: Where sleeves and trousers end, as shares of the bone.
SLEEVE, HEM = 0.5, 0.9
#: How far a collar falls towards the front.
COLLAR = 0.42


@dataclass(frozen=True, slots=True)
class Surface:
    """A body in a pose: its parts by name, its head, where palms look, and the line of its spine."""

    body: Body
    parts: dict[str, Part]
    head: Head
    palms: dict[str, Points]
    spine: Points
    spine_frames: tuple[Points, Points]


def surface_of(pose: Pose, body: Body, build: Build = Build.SLIGHT, breath: float = 0.0) -> Surface:
    """The surface of a body; ``breath`` is how full it is of air, from 0 to 1."""
    girths = GIRTHS[build]
    parts: dict[str, Part] = {}
    spine, ahead, left = spine_of(body)
    _trunk(parts, body, girths, (spine, ahead, left), breath)
    palms = {}
    for end, outside in ENDS:
        _leg(parts, body, girths, pose, end, outside)
        palms[end] = _arm(parts, body, girths, pose, end, outside)
    head = _head(parts, body, girths, pose)
    return Surface(body, parts, head, palms, spine, (ahead, left))


#: From so far below the hips to the neck, in centimetres along the spine.
SPINE_LOW, SPINE_HIGH = -8.0, WAIST + CHEST
_STEPS = 20


def spine_of(body: Body) -> tuple[Points, Points, Points]:
    """The line of the spine from the hips to the neck, and ahead and left along it: three arrays (41, 3)."""
    j = body.joints
    pelvis, chest = (np.array(frame) for frame in (body.pelvis, body.chest))
    points = [at(j["pelvis"]), at(j["waist"]), at(j["neck"])]
    trunk = unit(points[1] - points[0])
    middle = unit(blend(trunk, chest[1], 0.5))
    line = hermite(points, [blend(pelvis[1], trunk, 0.35), middle, chest[1]], _STEPS)
    ahead, left = [], []
    ways = np.gradient(line, axis=0)
    for n in range(len(line)):
        share = min(1.0, max(0.0, (n / (len(line) - 1) - 0.08) / 0.7))
        share = share * share * (3 - 2 * share)
        way = unit(ways[n])
        front = square_to(blend(pelvis[0], chest[0], share), way)
        ahead.append(front)
        left.append(cross(front, way))
    return line, np.array(ahead), np.array(left)


def on_spine(spine: tuple[Points, Points, Points], high: float) -> tuple[Points, Points, Points]:
    """The place on the spine so many centimetres above the hips, and ahead and left there."""
    line, ahead, left = spine
    place = high / SPINE_HIGH * (len(line) - 1)
    if place <= 0:
        way = unit(line[1] - line[0])
        return line[0] + way * high, ahead[0], left[0]
    low = min(int(place), len(line) - 2)
    share = min(place - low, 1.0)
    point = line[low] + (line[low + 1] - line[low]) * share
    return point, ahead[low] + (ahead[low + 1] - ahead[low]) * share, left[low] + (left[low + 1] - left[low]) * share


def _trunk(
    parts: dict[str, Part], body: Body, girths: Girths, spine: tuple[Points, Points, Points], breath: float
) -> None:
    j = body.joints
    seat, chest = np.array(body.pelvis), np.array(body.chest)
    hips = [(at(j[f"hip_{end}"]), 17.0) for end, _ in ENDS]
    pelvis = Part("pelvis", "trousers", limb="pelvis", joints=[*hips, (at(j["pelvis"]) + seat[1] * 6, 17.0)])
    for high, radii in girths.pelvis:
        point, ahead, left = on_spine(spine, high)
        if high < 2:
            point, ahead, left = at(j["pelvis"]) + seat[1] * high, seat[0], seat[2]
        pelvis.rings.append(ring(point, ahead, left, radii))
    trunk = Part("trunk", "top", limb="trunk", joints=[(at(j["pelvis"]) + seat[1] * 2, 18.0)])
    trunk.joints.append((at(j["neck"]) - chest[1] * 0.8, 11.0))
    for high, (front, back, side) in girths.trunk:
        point, ahead, left = on_spine(spine, high)
        more = breath * (0.9 if 5 < high < 24 else 0.7 if 24 <= high < 40 else 0)
        trunk.rings.append(ring(point, ahead, left, (front + more, back, side + more * 0.5)))
    for end, outside in ENDS:
        shoulder = at(j[f"shoulder_{end}"])
        neck = at(j["neck"]) + chest[1] * -1.6 + chest[2] * outside * 4.2 - chest[0] * 1.0
        low = at(j["neck"]) - chest[1] * 10 + chest[2] * outside * 8.5 - chest[0] * 0.5
        top = shoulder + (neck - shoulder) * 0.2
        trunk.more.append([*ball(neck, 4.0), *ball(top, girths.shoulder * 0.86), *ball(low, 8.0)])
    parts["pelvis"], parts["trunk"] = pelvis, trunk
    base = at(j["neck"]) - chest[1] * 0.8
    tilt = unit(chest[0] - chest[1] * COLLAR)
    collar = Part("collar", "collar", limb="trunk", joints=[(base, 30.0)])
    collar.rings = [
        ring(base - chest[1] * 0.4, tilt, chest[2], (7.2, 6.4, 7.5)),
        ring(base + chest[1] * 0.9, tilt, chest[2], (6.6, 6.0, 6.9)),
    ]
    parts["collar"] = collar


def _head(parts: dict[str, Part], body: Body, girths: Girths, pose: Pose) -> Head:
    j, chest, frame = body.joints, np.array(body.chest), np.array(body.head)
    base = at(j["neck"]) - chest[1] * 1.2
    middle = at(j["head"])
    top = middle - frame[1] * 4.5 - frame[0] * 1.8
    line = hermite([base, top], [unit(chest[1] + chest[0] * 0.12), unit(frame[1] * 1.0 + frame[0] * 0.2)], 6)
    neck = Part("neck", "skin", limb="neck", joints=[(base, 10.0), (top, 9.0)])
    heights = [t for t, _ in girths.neck]
    tilt = unit(chest[0] - chest[1] * 0.38)
    for n, point in enumerate(line):
        t = n / (len(line) - 1)
        way = unit(line[min(n + 1, len(line) - 1)] - line[max(n - 1, 0)])
        front = square_to(blend(tilt if n == 0 else chest[0], frame[0], t), way) if n else tilt
        side = cross(front, way) if n else chest[2]
        front_, back, wide = (float(np.interp(t, heights, [radii[k] for _, radii in girths.neck])) for k in range(3))
        neck.rings.append(ring(point, front, side, (front_, back, wide)))
    features = Features(pose.jaw, pose.slide, pose.eyes, pose.gaze)
    head = head_of(middle, body.head, features)
    parts["neck"] = neck
    skull = Part("head", "skin", limb="head", joints=[(top, 10.5)])
    skull.rings = list(head.skull)
    skull.more = [[one] for one in head.bumps]
    parts["head"] = skull
    return head


def _leg(parts: dict[str, Part], body: Body, girths: Girths, pose: Pose, end: str, outside: float) -> None:
    j, seat = body.joints, np.array(body.pelvis)
    hip, knee, ankle = (at(j[f"{name}_{end}"]) for name in ("hip", "knee", "ankle"))
    thigh_front, shin_front = (at(one) for one in leg_front(body, end))
    down, calf = unit(knee - hip), unit(ankle - knee)
    wide = girths.thigh[0][1]
    thigh = Part(f"thigh_{end}", "trousers", limb=f"leg_{end}", joints=[(hip, 17.0), (knee, 9.0)])
    # A bent hip folds: the thigh has less in front of it there, and the seat rounds.
    fold = 1 - 0.42 * max(0.0, float(down @ seat[0])) ** 2
    bent_wide: Radii = (wide[0] * fold, wide[1], wide[2])
    (share, (front_, back, side)), *rest = girths.thigh[1:]
    thigh.rings = fan(hip, (-seat[1], down), (seat[0], thigh_front), (wide, bent_wide))
    near: Radii = (front_ * (1 + fold) / 2, back, side)
    thigh.rings += along(hip, knee, thigh_front, ((share, near), *rest))
    bend = fan(knee, (down, calf), (thigh_front, shin_front), (girths.thigh[-1][1], girths.shin[0][1]))
    thigh.rings += bend
    shin = Part(f"shin_{end}", "trousers", limb=f"leg_{end}", joints=[(knee, 9.0), (ankle, 7.0)])
    cut = tuple((t, radii) for t, radii in girths.shin if 0 < t < HEM)
    hem: Radii = tuple(r + 0.35 for r in cut[-1][1])  # type: ignore[assignment]
    shin.rings = bend + along(knee, ankle, shin_front, (*cut[:-1], (cut[-1][0], hem), (HEM, hem)))
    parts[thigh.name], parts[shin.name] = thigh, shin
    heel, ball_ = at(j[f"heel_{end}"]), at(j[f"ball_{end}"])
    ahead = unit(ball_ - heel)
    sole = square_to(heel - ankle, ahead)
    bent = pose.toes[0 if end == "l" else 1]
    if bent is None:
        ball_at = ankle + ahead * BALL + sole * HIGH
        tucked = ball_at[1] < 4.5 and ahead[1] < -0.2 and sole[1] < 0.35
        bent = float(np.degrees(np.arcsin(-ahead[1]))) if tucked else 0.0
    slices, digits = foot(ankle, ahead, sole, outside, bent, pose.toe_spread)
    part = Part(f"foot_{end}", "skin", limb=f"foot_{end}", joints=[(ankle, 8.0)], digit=1)
    leg = along(knee, ankle, shin_front, [(t, r) for t, r in girths.shin if t >= 0.86])
    part.rings = slices
    part.more = [*([a, b] for a, b in pairwise(leg)), [leg[-1], *slices[2:5]], *digits]
    parts[part.name] = part


def _arm(parts: dict[str, Part], body: Body, girths: Girths, pose: Pose, end: str, outside: float) -> Points:
    j, chest = body.joints, np.array(body.chest)
    shoulder, elbow, wrist, tip = (at(j[f"{name}_{end}"]) for name in ("shoulder", "elbow", "wrist", "hand"))
    down, low, pointing = unit(elbow - shoulder), unit(wrist - elbow), unit(tip - wrist)
    bend = low - down
    front = square_to(bend if float(bend @ bend) > 0.02 else cross(chest[2], down), down)
    low_front = square_to(front + (down if float(bend @ bend) > 0.02 else 0) * -1.0 * float(front @ low), low)
    palm = palm_of(pose, body, end, outside)
    table = girths.upper_arm
    sleeve = _sleeve(body, girths, end, outside, front)
    joint = fan(elbow, (down, low), (front, low_front), (table[-1][1], girths.forearm[0][1]))
    upper = Part(
        f"upper_{end}", "skin", limb=f"arm_{end}", joints=[(elbow, 7.0), (shoulder + (elbow - shoulder) * SLEEVE, 7.0)]
    )
    upper.rings = along(shoulder, elbow, front, [(t, r) for t, r in table if 0.15 < t < 1]) + joint
    lower = Part(f"fore_{end}", "skin", limb=f"arm_{end}", joints=[(elbow, 7.0), (wrist, 5.0)])
    thick = square_to(palm, low)
    thick = thick if float(thick @ low_front) >= 0 else -thick
    lower.rings = list(joint)
    for t, girth in girths.forearm[1:]:
        f = square_to(blend(low_front, thick, t**1.5), low)
        lower.rings.append(ring(elbow + (wrist - elbow) * t, f, cross(low, f), girth))
    made = hand(wrist, pointing, palm, outside, _held(pose, end), girths.hand)
    fist = Part(f"hand_{end}", "skin", limb=f"hand_{end}", joints=[(wrist, 5.0)], digit=3)
    fist.more = made.hulls()
    fist.more[0] = [*fist.more[0], ring(wrist - low * 0.5, thick, cross(low, thick), (1.75, 1.8, 2.45))]
    for part in (upper, lower, sleeve, fist):
        parts[part.name] = part
    return palm


def _sleeve(body: Body, girths: Girths, end: str, outside: float, front: Points) -> Part:
    """A sleeve: cloth round the arm and over the shoulder, and what spans the armpit of a lifted arm."""
    j, chest, table = body.joints, np.array(body.chest), girths.upper_arm
    shoulder, elbow = at(j[f"shoulder_{end}"]), at(j[f"elbow_{end}"])
    cloth: list[tuple[float, Radii]] = []
    for t in (0.0, 0.12, 0.24, 0.36, SLEEVE):
        radii = [float(np.interp(t, [s for s, _ in table], [r[k] for _, r in table])) for k in range(3)]
        loose = 0.1 + 1.3 * t
        cloth.append((t, (radii[0] + loose, radii[1] + loose, radii[2] + loose)))
    sleeve = Part(
        f"sleeve_{end}",
        "top",
        limb=f"sleeve_{end}",
        joints=[(shoulder, 13.5), (shoulder + (elbow - shoulder) * SLEEVE, 6.5)],
    )
    sleeve.rings = along(shoulder, elbow, front, cloth)
    lifted = angle(unit(elbow - shoulder), -chest[1])
    round_ = [*ball(shoulder, girths.shoulder), *along(shoulder, elbow, front, cloth[:2])]
    sleeve.more = [round_]
    if lifted > 55:  # what spans the armpit of a lifted arm
        share = min(1.0, (lifted - 55) / 60)
        rib = at(j["neck"]) - chest[1] * (9 + 7 * share) + chest[2] * outside * 10.5
        sleeve.more.append(
            [*ball(rib, 4.2), *along(shoulder, elbow, front, [(0.02, (4.4, 4.4, 4.4)), (0.2, (3.8,) * 3)])]
        )
        sleeve.joints.append((rib, 11.0))
    return sleeve


def _held(pose: Pose, end: str) -> Shape:
    """The shape of a hand in a pose, or on the way to that of another."""
    number = 0 if end == "l" else 1
    shape = SHAPES[pose.shapes[number] or _shape(pose, end)]
    if pose.closing:
        shape = shape.towards(SHAPES[pose.closing[0][number] or _shape(pose, end)], pose.closing[1])
    return shape


def _shape(pose: Pose, end: str) -> str:
    """The shape of a hand that is not named: laid on what it reaches, flat where it leans, otherwise at rest."""
    arm: Limb = pose.arm_l if end == "l" else pose.arm_r
    if (pose.hand_l if end == "l" else pose.hand_r) is not None:
        return "flat"
    return "resting" if arm.to else "relaxed"


def palm_of(pose: Pose, body: Body, end: str, outside: float) -> Points:
    """Where a palm looks: as given, towards what it rests on or leans on, otherwise to the middle of the body."""
    elbow, wrist, tip = (at(body.joints[f"{name}_{end}"]) for name in ("elbow", "wrist", "hand"))
    low, pointing = unit(wrist - elbow), unit(tip - wrist)
    given = pose.palm_l if end == "l" else pose.palm_r
    if given is not None:
        return square_to(at(towards(*given, outside)), pointing)
    j, chest = body.joints, np.array(body.chest)
    arm: Limb = pose.arm_l if end == "l" else pose.arm_r
    if (pose.hand_l if end == "l" else pose.hand_r) is not None and angle(low, pointing) > 25:
        return square_to(low, pointing)
    grip = at(j[f"grip_{end}"])
    if grip[1] < 8 and abs(pointing[1]) < 0.5:
        return square_to(np.array((0.0, -1.0, 0.0)), pointing)
    if arm.to and isinstance(arm.to[0], str):
        goal = at(j[str(arm.to[0])])
        if float(np.linalg.norm(goal - grip)) > 2.5:
            return square_to(goal - grip, pointing)
    inwards = -outside * chest[2]
    aside = abs(float(inwards @ pointing))
    return square_to(inwards * (1 - aside) + chest[0] * max(0.0, aside - 0.55) * 2, pointing)
