"""Where on the body a region lies: a strip on its surface for each, to be tinted.

A strip is a line along the skin with the direction out of the body at each of its points, and half a width.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from extendum.core.figure.builds import GIRTHS, Build, Table
from extendum.core.figure.rings import Points, at, cross, square_to, unit
from extendum.core.figure.skeleton import leg_front
from extendum.core.figure.surface import SPINE_HIGH, Surface, on_spine
from extendum.core.model.body import Region

#: Points along a strip and across it.
LONG, ACROSS = 17, 9
#: A strip is moved by so many degrees to the eye where it is farther from it than ``STRAIGHT``, up to ``WIDEST``.
TURNS, STRAIGHT, WIDEST = 38.0, 35.0, 112.0
#: The cosine of how far an elbow may be bent in a straight arm.
STRAIGHT_ARM = 0.85


@dataclass(frozen=True, slots=True)
class Strip:
    """A part of the surface: grid of points and of directions out of it, (LONG, ACROSS, 3), and the parts it is on."""

    points: Points
    out: Points
    hosts: tuple[str, ...]

    @property
    def middle(self) -> Points:
        """The line along its middle."""
        return np.asarray(self.points[:, ACROSS // 2])


def _smooth(some: list[Points], count: int = LONG) -> Points:
    """Points along a smooth line through a few (Catmull-Rom)."""
    known = np.array(some)
    if len(known) == 2:
        t = np.linspace(0, 1, count)[:, None]
        return np.asarray(known[0] * (1 - t) + known[1] * t)
    ends = np.vstack((2 * known[0] - known[1], known, 2 * known[-1] - known[-2]))
    made = []
    for u in np.linspace(0, len(known) - 1, count):
        k = min(int(u), len(known) - 2)
        t = u - k
        a, b, c, d = ends[k : k + 4]
        made.append(0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t**3))
    return np.array(made)


def _strip(line: list[Points], out: list[Points], half: float, bend: float, hosts: tuple[str, ...]) -> Strip:
    """A spindle along a line; ``bend``: the radius of the body across it."""
    middle, normals = _smooth(line), _smooth(out)
    ways = np.gradient(middle, axis=0)
    points, outs = [], []
    for n in range(LONG):
        normal, way = unit(normals[n]), unit(ways[n])
        across = cross(square_to(normal, way), way)
        width = half * max(0.02, np.sin(np.pi * n / (LONG - 1))) ** 0.75
        turn = np.linspace(-1, 1, ACROSS) * width / bend
        row = [middle[n] + across * bend * np.sin(a) - normal * bend * (1 - np.cos(a)) + normal * 0.15 for a in turn]
        points.append(row)
        outs.append([normal * np.cos(a) + across * np.sin(a) for a in turn])
    return Strip(np.array(points), np.array(outs), hosts)


def _radius(table: Table, t: float, turn: float) -> float:
    """The radius of a bone at a share of its way, at degrees from its front."""
    shares = [s for s, _ in table]
    front, back, side = (float(np.interp(t, shares, [r[k] for _, r in table])) for k in range(3))
    c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    return float(np.hypot((front if c > 0 else back) * c, side * s))


class _Places:
    """The places of a body from which strips are made."""

    def __init__(self, surface: Surface, end: str, build: Build, towards: Points | None) -> None:
        self.surface, self.end, self.girths, self.towards = surface, end, GIRTHS[build], towards
        self.j = {name: at(point) for name, point in surface.body.joints.items()}
        self.out = 1.0 if end == "l" else -1.0
        self.seat, self.chest, self.head = (
            np.array(frame) for frame in (surface.body.pelvis, surface.body.chest, surface.body.head)
        )
        self.thigh_front, self.shin_front = (at(one) for one in leg_front(surface.body, end))

    def joint(self, name: str) -> Points:
        return self.j[f"{name}_{self.end}"]

    def bone(
        self, names: tuple[str, str], front: Points, table: Table, turn: float, ends: tuple[float, float]
    ) -> tuple[list[Points], list[Points]]:
        """A line along a bone, at degrees from its front (90: to the body's left when it hangs)."""
        a, b = self.joint(names[0]), self.joint(names[1])
        way = unit(b - a)
        f = square_to(front, way)
        turn = self.shown(turn, f, cross(way, f))
        n = f * np.cos(np.radians(turn)) + cross(way, f) * np.sin(np.radians(turn))
        shares = np.linspace(*ends, 5)
        return [a + (b - a) * t + n * _radius(table, float(t), turn) for t in shares], [n] * 5

    def shown(self, turn: float, front: Points, side: Points) -> float:
        """A turn about a part moved a little towards the eye: a muscle is broad, and its edge says little."""
        if self.towards is None:
            return turn
        eye = float(np.degrees(np.arctan2(self.towards @ side, self.towards @ front)))
        off = (eye - turn + 180) % 360 - 180
        if abs(off) > WIDEST:
            return turn
        return turn + float(np.sign(off)) * min(TURNS, max(0.0, abs(off) - STRAIGHT))

    def trunk(self, heights: tuple[float, ...], turn: float) -> tuple[list[Points], list[Points]]:
        """A line along the trunk, at degrees from its front (90: the left)."""
        line, out = [], []
        turn = self.shown(turn, self.chest[0], self.chest[2])
        spine = (self.surface.spine, *self.surface.spine_frames)
        for high in heights:
            point, ahead, left = on_spine(spine, min(high, SPINE_HIGH))
            c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
            front, back, side = (
                float(np.interp(high, [h for h, _ in self.girths.trunk], [r[k] for _, r in self.girths.trunk]))
                for k in range(3)
            )
            n = ahead * c * (front if c > 0 else back) + left * s * side
            line.append(point + n)
            out.append(unit(ahead * c * side + left * s * (front if c > 0 else back)))
        return line, out

    def arm_front(self) -> Points:
        down = unit(self.joint("elbow") - self.joint("shoulder"))
        bend = unit(self.joint("wrist") - self.joint("elbow")) - down
        return square_to(bend if float(bend @ bend) > 0.02 else cross(self.chest[2], down), down)


def strips(
    surface: Surface, region: Region, end: str, build: Build = Build.SLIGHT, towards: Points | None = None
) -> list[Strip]:
    """The strips of a region on one side of a body, turned a little ``towards`` an eye; none for what has no place."""
    p, e = _Places(surface, end, build, towards), f"_{end}"
    if region in _LEG:
        return _leg(p, region, e)
    if region in _ARM:
        return _arm(p, region, e)
    return _trunk_strips(p, region, e)


def _leg(p: _Places, region: Region, e: str) -> list[Strip]:
    thigh, shin = ("hip", "knee"), ("knee", "ankle")
    inner = -90.0 * p.out
    hosts_thigh, hosts_shin = (f"thigh{e}", "pelvis"), (f"shin{e}", f"foot{e}")
    match region:
        case Region.CALF:
            return [_strip(*p.bone(shin, p.shin_front, p.girths.shin, 180, (0.06, 0.62)), 4.2, 5.4, hosts_shin)]
        case Region.ANKLE:
            return [_strip(*p.bone(shin, p.shin_front, p.girths.shin, 20 * p.out, (0.72, 1.02)), 2.2, 3.4, hosts_shin)]
        case Region.BACK_THIGH:
            return [_strip(*p.bone(thigh, p.thigh_front, p.girths.thigh, 180, (0.12, 0.93)), 4.8, 7.5, hosts_thigh)]
        case Region.FRONT_THIGH:
            return [
                _strip(*p.bone(thigh, p.thigh_front, p.girths.thigh, 8 * p.out, (0.1, 0.92)), 4.8, 7.5, hosts_thigh)
            ]
        case Region.INNER_THIGH:
            return [
                _strip(*p.bone(thigh, p.thigh_front, p.girths.thigh, inner * 0.9, (0.1, 0.88)), 4.4, 7.5, hosts_thigh)
            ]
        case Region.HIP_FRONT:
            hip, seat = p.joint("hip"), p.seat
            fold = unit(seat[0] + p.thigh_front)
            bone, _ = p.bone(thigh, p.thigh_front, p.girths.thigh, 0, (0.36, 0.4))
            line = [hip + seat[1] * 9 + seat[0] * 9.2 - seat[2] * p.out, hip + fold * 8.8, bone[0]]
            return [_strip(line, [seat[0], fold, p.thigh_front], 3.6, 8.0, (f"thigh{e}", "pelvis", "trunk"))]
        case Region.DEEP_HIP:
            hip, seat = p.joint("hip"), p.seat
            side = seat[2] * p.out
            bone, n = p.bone(thigh, p.thigh_front, p.girths.thigh, 140 * p.out, (0.12, 0.2))
            middle = unit(side * 0.55 - seat[0] + n[0] * 0.8)
            line = [hip - side * 4.5 - seat[0] * 10.3 + seat[1] * 4.5, hip + middle * 9.9, bone[-1]]
            return [_strip(line, [-seat[0], middle, n[0]], 4.6, 9.0, (f"thigh{e}", "pelvis"))]
        case Region.HIP_SIDE:
            hip, seat = p.joint("hip"), p.seat
            side = seat[2] * p.out
            bone, n = p.bone(thigh, p.thigh_front, p.girths.thigh, 90 * p.out, (0.32, 0.4))
            line = [hip + seat[1] * 9 + side * 6.2 - seat[0], hip + unit(side + n[0]) * 8.9, bone[0]]
            return [_strip(line, [side, unit(side + n[0]), n[0]], 3.8, 8.5, (f"thigh{e}", "pelvis", "trunk"))]
        case _:
            heel, toes, ankle = p.joint("heel"), p.joint("toes"), p.joint("ankle")
            ahead = unit(p.joint("ball") - heel)
            sole = square_to(heel - ankle, ahead)
            inside = cross(ahead, -sole) * -p.out
            line = [heel - ahead * 0.5 + sole * 2.3, heel + ahead * 8 + sole * 1.6, toes - ahead * 6 + sole * 2.3]
            flat = [_strip(line, [sole] * 3, 2.6, 30.0, (f"foot{e}",))]
            edge = [one - sole * 1.7 + inside * 2.4 for one in line]
            return [*flat, _strip(edge, [inside] * 3, 1.3, 20.0, (f"foot{e}",))]


def _arm(p: _Places, region: Region, e: str) -> list[Strip]:
    front = p.arm_front()
    upper, fore = ("shoulder", "elbow"), ("elbow", "wrist")
    elbow, wrist, tip = p.joint("elbow"), p.joint("wrist"), p.joint("hand")
    low, pointing = unit(wrist - elbow), unit(tip - wrist)
    palm = p.surface.palms[p.end]
    away = low * float(low @ pointing) - pointing  # the side that a bent wrist draws out
    drawn = square_to(away if float(away @ away) > 0.05 else palm, low)
    if region is Region.UPPER_ARM:
        # An arm that is straight and behind is drawn out in front, one that is bent or lifted behind.
        behind = float((elbow - p.joint("shoulder")) @ p.chest[0]) < 0
        turn = 0.0 if behind and float(low @ unit(elbow - p.joint("shoulder"))) > STRAIGHT_ARM else 180.0
        places = p.bone(upper, front, p.girths.upper_arm, turn, (0.2, 0.92))
        return [_strip(*places, 3.2, 4.6, (f"sleeve{e}", f"upper{e}"))]
    if region is Region.FOREARM:
        return [_strip(*p.bone(fore, drawn, p.girths.forearm, 0, (0.08, 0.86)), 2.8, 3.8, (f"fore{e}",))]
    if region is Region.WRIST:
        line = [
            elbow + (wrist - elbow) * 0.72 + drawn * 2.6,
            wrist + square_to(drawn, unit(low + pointing)) * 2.0,
            wrist + pointing * 4 + square_to(drawn, pointing) * 1.8,
        ]
        return [_strip(line, [drawn, drawn, square_to(drawn, pointing)], 1.9, 3.0, (f"fore{e}", f"hand{e}"))]
    line = [wrist + pointing * t for t in (1.5, 6.0, 11.0)]
    return [
        _strip([one + palm * sign * 1.6 for one in line], [palm * sign] * 3, 2.6, 12.0, (f"hand{e}",))
        for sign in (1.0, -1.0)
    ]


def _trunk_strips(p: _Places, region: Region, e: str) -> list[Strip]:
    whole = ("trunk", "pelvis", f"sleeve{e}")
    match region:
        case Region.SIDE_BODY:
            return [_strip(*p.trunk((3, 12, 20, 28, 36, 42), 88 * p.out), 4.6, 11.0, whole)]
        case Region.SHOULDERS:
            return [_shoulder(p, whole)]
        case Region.CHEST:
            chest, side, shoulder = p.chest, p.chest[2] * p.out, p.joint("shoulder")
            first, out = p.trunk((37.0,), 12 * p.out)
            second, out2 = p.trunk((40.0,), 46 * p.out)
            down = unit(p.joint("elbow") - shoulder)
            end = shoulder + chest[0] * 4.6 - chest[1] * 1.5 - side * 1.5 + down * 1.5
            return [_strip([first[0], second[0], end], [out[0], out2[0], chest[0]], 4.4, 12.0, whole)]
        case Region.NECK:
            return [_neck(p)]
        case Region.JAW:
            head, skull = p.head, p.j["head"]
            left = head[2] * p.out
            line = [
                skull - head[1] * 2.0 + left * 6.9 + head[0] * 1.5,
                skull - head[1] * 6.0 + left * 6.1 + head[0] * 2.6,
                skull - head[1] * 8.8 + left * 4.0 + head[0] * 5.0,
            ]
            return [_strip(line, [left, left, unit(left + head[0] * 0.4)], 1.7, 6.0, ("head",))]
        case Region.UPPER_BACK:
            return [_strip(*p.trunk((20, 26, 32, 38, 45), 180), 6.6, 15.0, whole)]
        case Region.LOWER_BACK:
            return [_strip(*p.trunk((0, 5, 10, 15, 21), 180), 5.4, 13.0, whole)]
        case Region.ABDOMINALS:
            return [_strip(*p.trunk((4, 9, 14, 20, 26, 31), 0), 5.6, 12.0, whole)]
        case Region.SPINE:
            return [_strip(*p.trunk((0, 8, 16, 24, 32, 39, 46), 180), 3.6, 12.0, whole)]
        case _:
            return []


def _shoulder(p: _Places, hosts: tuple[str, ...]) -> Strip:
    """From the neck over the shoulder down the arm; it is round, so what is shown of it looks half to the eye."""
    chest, neck, shoulder = p.chest, p.j["neck"], p.joint("shoulder")
    side, down = chest[2] * p.out, unit(p.joint("elbow") - shoulder)
    outer = square_to(side + chest[1] * 0.6 - chest[0] * 0.25, down)
    top = unit(chest[1] + side * 0.35)
    if p.towards is not None:
        outer = square_to(outer + square_to(p.towards, down) * 0.9, down)
        top = unit(top + square_to(p.towards, side) * 0.5)
    line = [neck + side * 6.5 + chest[1] * 1.2, shoulder + top * 5.2 - side * 2, shoulder + down * 12 + outer * 5.4]
    return _strip(line, [top, unit(top + outer), outer], 3.1, 6.0, hosts)


def _neck(p: _Places) -> Strip:
    """The side of the neck, as broad as it is: what is shown of it looks half to the eye."""
    chest, head, neck, skull = p.chest, p.head, p.j["neck"], p.j["head"]
    side, left, axis = chest[2] * p.out, head[2] * p.out, unit(skull - neck)
    toward = square_to(p.towards, axis) if p.towards is not None else left
    turned = float(left @ toward) > -0.5
    aside = square_to(left + toward * 0.7 if turned else left, axis)
    low = square_to(side + toward * 0.6 if turned else side, chest[1])
    line = [
        skull - head[1] * 4.5 + aside * 5.2 - head[0] * 1.5,
        neck + axis * 5.5 + aside * 5.2,
        neck + low * 6.6 + side * 2.0 + chest[1] * 0.6,
    ]
    return _strip(line, [aside, aside, unit(low * 0.6 + chest[1])], 2.4, 5.0, ("neck", "head", "trunk"))


_LEG = frozenset(
    {Region.CALF, Region.ANKLE, Region.FOOT, Region.BACK_THIGH, Region.FRONT_THIGH, Region.INNER_THIGH}
    | {Region.HIP_FRONT, Region.DEEP_HIP, Region.HIP_SIDE}
)
_ARM = frozenset({Region.UPPER_ARM, Region.FOREARM, Region.WRIST, Region.HAND})
