"""A figure as a picture: ground, body, things, what is stretched, the start behind it, the way of it and its side.

A picture has one moment or, for a movement, as many as its poses; all of them have the same layers.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely

from extendum.core.figure.builds import Build
from extendum.core.figure.figure import Figure, body_in
from extendum.core.figure.marks import Mark
from extendum.core.figure.motion import poses_of, stops_of
from extendum.core.figure.muscles import strips
from extendum.core.figure.pose import Pose
from extendum.core.figure.props import solids_of
from extendum.core.figure.rings import Points
from extendum.core.figure.surface import surface_of
from extendum.core.model.body import Region, Side
from extendum.draw.figures import ground
from extendum.draw.figures.arrow import arrow, line_of
from extendum.draw.figures.body import BODY, far_parts, paint, paint_small, under
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.order import SURE, Votes, far_to_near
from extendum.draw.figures.outline import aligned, ring_of
from extendum.draw.figures.scene import Layer, Moment, Scene, Seen, look
from extendum.draw.figures.tints import seen_share, tint, tint_small

#: The least that a picture shows, in centimetres: a neck is not drawn as large as a class room.
LEAST = {"": 118.0, "upper": 66.0, "head": 40.0, "hands": 44.0, "feet": 46.0}
MARGIN = 0.065
#: The gap round what is nearer, as a share of the picture's side; and in a small picture.
GAP, SMALL_GAP = 0.0062, 0.013
#: The radius of the letter's ring, as a share of the picture's side.
LETTER = 0.045
#: The parts that a close picture is about.
_CLOSE = {
    "upper": ("head", "trunk", "hand", "fore", "upper", "sleeve"),
    "head": ("head", "neck"),
    "hands": ("hand", "fore"),
    "feet": ("foot",),
}


@dataclass(frozen=True, slots=True)
class Picture:
    """What is drawn: a square (left, top, size in centimetres), its moments, and where the letter of the side is.

    ``breath``: by outline, what is added when the body is full of air. ``stops``: the moments at which a movement
    stops, ``held`` the one of them that a still picture shows; ``turns``: a circle.
    """

    square: ground.Square
    moments: tuple[Moment, ...]
    parts: tuple[str, ...]
    letter: tuple[float, float] | None
    breath: dict[str, Points]
    stops: tuple[int, ...] = (0,)
    held: int = 0
    turns: bool = False


def picture_of(
    figure: Figure,
    marks: Sequence[Mark] = (),
    build: Build = Build.SLIGHT,
    *,
    moving: bool = False,
    coarse: float = 0.0,
) -> Picture:
    """The picture of a figure as it is written, for the left side; ``moving``: with every moment of its movement.

    ``coarse``: for a picture of 96 px, the share of its side by which an outline may be off.
    """
    small = coarse > 0
    eye = Eye(figure.view, figure.above)
    stops = [scene_of(figure, pose, eye, build) for pose in figure.poses]
    square = _square(figure, stops)
    way = line_of(figure, eye, square[2]) if len(stops) > 1 else np.zeros((0, 2))
    if small:
        way = way[:0]
    if len(way):  # and the picture holds its arrow
        square = _square(figure, stops, way)
    poses = poses_of(figure) if moving else (figure.poses[figure.held],)
    scenes = [scene_of(figure, pose, eye, build) for pose in poses]
    low = ground.low_parts(scenes)
    far = far_parts(scenes[0])
    moments: list[Moment] = []
    for scene in scenes:
        moment = Moment()
        _ground(moment, figure, scene, square, low, small=small)
        if len(stops) > 1 and not small:
            _ghost(moment, stops[figure.poses.index(figure.other or figure.pose)], square)
        if small:
            paint_small(scene, moment, far, square[2] * coarse)
        else:
            paint(scene, moment, far, detail=bool(figure.close))
        gap = (SMALL_GAP if small else GAP) * square[2]
        _tints(moment, scene, scenes[0], marks, gap, build, small=small)
        _sights(moment, figure, scene, square[2])
        arrow(moment, way, square[2], both=not figure.round and figure.held == 0)
        moments.append(moment)
    _steady(moments)
    _order(moments, scenes, apart=bool(figure.close) and not small)
    letter = _letter(figure, stops, square, way) if figure.tag else None
    breath = _breath(figure, eye, build, moments[0]) if moving else {}
    parts = tuple(dict.fromkeys(part for moment in moments for part in moment.order))
    at, held = (stops_of(figure), figure.held) if moving else ((0,), 0)
    return Picture(square, tuple(moments), parts, letter, breath, at, held, figure.round)


@lru_cache(maxsize=128)
def scene_of(figure: Figure, pose: Pose, eye: Eye, build: Build, breath: float = 0.0) -> Scene:
    """A pose of a figure with its things, looked at."""
    surface = surface_of(pose, body_in(pose), build, breath)
    for number, thing in enumerate(figure.things):
        for part in solids_of(thing, number, surface):
            surface.parts[part.name] = part
    return look(surface, eye)


def _square(figure: Figure, scenes: Sequence[Scene], way: Points | None = None) -> ground.Square:
    """Left, top and size of the square that holds every moment of a figure, and the arrow of its way."""
    points: list[Points] = [] if way is None else [way]
    for scene in scenes:
        for name, seen in scene.seen.items():
            if not figure.close or name.split("_")[0] in _CLOSE[figure.close]:
                points.append(np.asarray(seen.shape.exterior.coords))
        if figure.close == "upper":  # hands that hang are not what it is about
            hips = scene.eye(np.array([scene.surface.body.joints["waist"]]))[0, 1] + 8
            points = [one[one[:, 1] < hips] for one in points]
    every = np.vstack([one for one in points if len(one)])
    low, high = every.min(axis=0), every.max(axis=0)
    wide, tall = high - low
    size = max(float(max(wide, tall)) * (1 + 2 * MARGIN), LEAST[figure.close])
    left = (low[0] + high[0] - size) / 2
    spare = size - tall
    top = low[1] - spare * (0.5 if figure.close or tall > 0.8 * size else 0.56)
    if figure.close in ("upper", "head"):  # the body goes on below
        top = low[1] - min(spare / 2, size * 0.07)
    return float(left), float(top), float(size)


def _ground(moment: Moment, figure: Figure, scene: Scene, square: ground.Square, low: set[str], *, small: bool) -> None:
    moment.layers["ground"] = []
    middle = np.array(scene.surface.body.joints["pelvis"]) if figure.above < 45 else np.zeros(3)
    if figure.close not in ("upper", "head", "hands") or figure.above > 40:
        ground.floor(moment, scene.eye, square, middle * np.array((1.0, 0.0, 1.0)))
    for thing in figure.things:
        if thing.name == "wall":
            ground.wall(moment, scene.eye, thing, square)
    mats = []
    for number, thing in enumerate(figure.things):
        if thing.name == "mat":
            mats.append(f"mat {number}")
            ground.mat(moment, scene.eye, thing, mats[-1])
    if not small:
        ground.shadow(moment, scene, low, mats)


def _ghost(moment: Moment, scene: Scene, square: ground.Square) -> None:
    """The other end of a movement, as an outline behind the body."""
    body = [one.shape for one in scene.seen.values() if one.part.tone in BODY]
    whole = shapely.union_all(body)
    for n, one in enumerate(getattr(whole, "geoms", [whole])):
        line = np.asarray(one.exterior.simplify(0.3).coords)[:-1]
        moment.add("ghost", Layer("ghost", f"ghost {n}", curved=False), line)
        moment.add("ghost", Layer("ghost-line", f"ghost {n}", line=square[2] * 0.0045, curved=False))


def _sights(moment: Moment, figure: Figure, scene: Scene, size: float) -> None:
    """Where the eyes look, where a figure says it."""
    for number, thing in enumerate(figure.things):
        if thing.name == "sight":
            head, face = scene.surface.head, np.array(scene.surface.body.joints["face"])
            begins = face + head.frame[1] * 0.8 + head.frame[0] * 1.5
            line = scene.eye(np.array([begins, np.array(thing.at)]))
            layer = Layer("sight", f"sight {number}", line=size * 0.007, curved=False, closed=False)
            moment.add("arrow", layer, line)


def _tints(
    moment: Moment, scene: Scene, first: Scene, marks: Sequence[Mark], gap: float, build: Build, *, small: bool
) -> None:
    for number, mark in enumerate(marks):
        end = "r" if mark.side is Side.RIGHT else "l"
        some = strips(scene.surface, mark.region, end, build, scene.eye.towards)
        if len(some) > 1 and mark.region is not Region.CHEST:
            begins = strips(first.surface, mark.region, end, build, first.eye.towards)
            shares = [seen_share(one, first.eye) for one in begins]
            some = [some[shares.index(max(shares))]]
        for n, strip in enumerate(some):
            hosts = strip.hosts
            if mark.form == "dots":
                order = first.order()
                hosts = (max(hosts, key=order.index),)
            name = f"mark {number} {n}"
            if small:
                tint_small(moment, mark, strip, hosts[0], scene.seen[hosts[0]].shape, scene.eye, gap, name)
            else:
                twin = any(one.region is mark.region and one.side is not mark.side for one in marks)
                tint(moment, mark, strip, hosts, scene.eye, gap, name, hollow=not twin)


def _steady(moments: list[Moment]) -> None:
    """Every outline begun where it was begun a moment before."""
    for before, after in pairwise(moments):
        for name, points in after.outlines.items():
            weights = points.shape[1] == 1
            if weights or (name.startswith(("mark", "ghost", "arrow")) and " rim" not in name and "mark" not in name):
                continue
            closed = name.startswith(("mark", "shadow", "limb", "hair", "ear")) or name in after.layers
            if closed and len(before.outlines.get(name, ())) == len(points):
                turned = aligned(points, before.outlines[name])
                for rim in (f"rim {name}", f"edge {name}"):
                    if rim in after.outlines:
                        shift = int(np.argmin(np.sum((points - turned[0]) ** 2, axis=1)))
                        after.outlines[rim] = np.roll(after.outlines[rim], -shift, axis=0)
                after.outlines[name] = turned


def _order(moments: list[Moment], scenes: Sequence[Scene], *, apart: bool) -> None:
    """Who is painted over whom: as near the truth as it gets without two that overlap changing places.

    ``apart``: hands and feet are taken apart.
    """
    before: dict[str, list[str]] = {}
    for moment, scene in zip(moments, scenes, strict=True):
        before[""] = _kept(scene.seen, scene.votes, before.get(""))
        order = []
        for name in before[""]:
            if apart and name in scene.taken_apart:
                before[name] = _kept(scene.taken_apart[name], scene.digit_votes(name), before.get(name))
                order += [under(name), *(f"{name} {digit}" for digit in before[name])]
            order.append(name)
        moment.order = ["ground", "ghost", *order, "arrow"]


def _kept(seen: Mapping[str, Seen], votes: Votes, before: Sequence[str] | None) -> list[str]:
    """Parts from far to near; of two that overlap, in the order that they had a moment before."""
    found = dict(votes)
    for n, a in enumerate(before or ()):
        for b in (before or ())[n + 1 :]:
            if seen[a].shape.intersects(seen[b].shape):
                found.pop((a, b), None)
                found[(b, a)] = 10 * SURE
    return far_to_near(list(seen), found)


def _breath(figure: Figure, eye: Eye, build: Build, moment: Moment) -> dict[str, Points]:
    """By how much the trunk's outline goes out when the body is full of air."""
    empty = moment.outlines["trunk"]
    full = ring_of(scene_of(figure, figure.pose, eye, build, 1.0).seen["trunk"].shape, len(empty))
    return {"trunk": aligned(full, empty) - empty}


def _letter(figure: Figure, scenes: Sequence[Scene], square: ground.Square, way: Points) -> tuple[float, float] | None:
    """A free place for the letter of the side, near what it names: not on the body at any stop, nor on the arrow."""
    left, top, size = square
    radius, held = size * LETTER, scenes[figure.held]
    taken = [scene.body() for scene in scenes]
    if len(way) > 1:
        taken.append(shapely.LineString(way).buffer(size * 0.02))
    body = shapely.union_all(taken).simplify(size * 0.004)
    wanted = held.eye(np.array([held.surface.body.joints[figure.tag]]))[0]
    xs = np.linspace(left + radius * 1.3, left + size - radius * 1.3, 26)
    ys = np.linspace(top + radius * 1.3, top + size - radius * 1.3, 26)
    grid = np.array([(x, y) for x in xs for y in ys])
    gaps = shapely.distance(body, shapely.points(grid)) - radius
    far = np.linalg.norm(grid - wanted, axis=1) + np.where(gaps > size * 0.028, 0.0, 2.0)
    far[gaps < size * 0.02] = np.inf
    best = int(np.argmin(far))
    return (float(grid[best, 0]), float(grid[best, 1])) if np.isfinite(far[best]) else None
