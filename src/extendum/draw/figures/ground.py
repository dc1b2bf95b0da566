"""What a body is on and at: floor, wall, mat and the shadow on them. Floor and wall run to the edge of the frame."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np
import shapely

from extendum.core.figure.figure import Thing
from extendum.core.figure.props import wall_face
from extendum.core.figure.rings import Points, at
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.outline import ring_of
from extendum.draw.figures.scene import Layer, Moment, Scene

#: How far behind a body the floor ends, and how far a wall goes on beside it, in centimetres.
BEHIND, BESIDE = 95.0, 62.0
_FAR = 600.0
Square = tuple[float, float, float]


def floor(moment: Moment, eye: Eye, square: Square, middle: Points) -> None:
    """The floor, from its far end down to the edge of the picture; looked at from above it fills it."""
    away = np.array((eye.towards[0], 0.0, eye.towards[2]))
    size = float(np.linalg.norm(away))
    back = middle - (away / size if size > 1e-6 else away) * BEHIND
    left, top, side = square
    y = max(float(eye(np.array([(back[0], 0.0, back[2])]))[0, 1]), top)
    if y < top + side:
        corners = ((left, y), (left + side, y), (left + side, top + side), (left, top + side))
        moment.add("ground", Layer("floor", "floor", curved=False), np.array(corners))


def wall(moment: Moment, eye: Eye, thing: Thing, square: Square) -> None:
    """A wall: it runs out of the picture; where it ends beside the body it shows what it is cut from."""
    face = wall_face(thing)
    along = np.array((-face[2], 0.0, face[0]))
    foot = np.array((thing.at[0], 0.0, thing.at[2]))
    left, top, side = square
    near = along if float(along @ eye.towards) > 0 else -along
    level = np.array((eye.towards[0], 0.0, eye.towards[2])) / max(float(np.hypot(*eye.towards[::2])), 1e-6)
    # It goes back to where the floor ends: to the corner of the room.
    back = (BEHIND + float(foot @ level)) / max(float(near @ level), 0.15)
    edge, far = foot + near * BESIDE, foot - near * back
    high = np.array((0.0, _FAR, 0.0))
    if abs(float(face @ eye.towards)) > 0.75:  # seen from the front it is the background
        y = float(eye(foot[None])[0, 1])
        corners = np.array(((left, top), (left + side, top), (left + side, y), (left, y)))
        moment.add("ground", Layer("wall", "wall", curved=False), corners)
        return
    moment.add("ground", Layer("wall", "wall", curved=False), eye(np.array([far, edge, edge + high, far + high])))
    behind = edge - face * _FAR
    moment.add(
        "ground", Layer("wall-cut", "wall cut", curved=False), eye(np.array([edge, behind, behind + high, edge + high]))
    )


def mat(moment: Moment, eye: Eye, thing: Thing, name: str) -> None:
    """A mat, as thin as it is."""
    c, s = cos(radians(thing.turn)), sin(radians(thing.turn))
    x, _, z = thing.size
    for tone, key, high in (("mat-edge", f"{name} edge", -1.4), ("mat", name, 0.0)):
        corners = [
            (i * x / 2 * c - k * z / 2 * s, high, i * x / 2 * s + k * z / 2 * c)
            for i, k in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
        points = eye(np.array(corners) + at((thing.at[0], 0.0, thing.at[2])))
        moment.add("ground", Layer(tone, key, curved=False), points)


#: What is lower than this throws a shadow on the floor, in centimetres.
LOW = 16.0


def shadow(moment: Moment, scene: Scene, names: set[str], mats: list[str]) -> None:
    """The shadows of parts on the floor, and on the mats there in a tone of their own."""
    for name in sorted(names):
        points = np.vstack(scene.seen[name].part.hulls())
        flat = points[points[:, 1] < max(LOW, float(points[:, 1].min()) + 3)].copy()
        flat[:, 1] = 0.0
        shape = shapely.MultiPoint(scene.eye(flat)).convex_hull.buffer(1.0, quad_segs=3)
        near = float(points[:, 1].min() < LOW)
        moment.add("ground", Layer("shadow", f"shadow {name}"), ring_of(shape, 20), near)
        for one in mats:
            moment.add("ground", Layer("mat-shadow", f"shadow {name}", clip=one), opacity=near)


def low_parts(scenes: list[Scene]) -> set[str]:
    """The parts that are near the floor at one moment at least."""
    found = set()
    for scene in scenes:
        for name, seen in scene.seen.items():
            if name != "collar" and min(float(one[:, 1].min()) for one in seen.part.hulls()) < LOW:
                found.add(name)
    return found
