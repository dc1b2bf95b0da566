"""A picture of a body in the making: outlines by name, and layers that paint them one over the other.

An outline has a fixed number of points, and every moment of a movement has the same layers, so that what is between
two moments can be drawn by going from point to point. Nothing is but filled or stroked, in a tone, clipped to an
outline at most.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
import shapely

from extendum.core.figure.part import Part
from extendum.core.figure.rings import Points
from extendum.core.figure.surface import COLLAR, Surface
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.order import CELL, SURE, Depths, Votes, depths, far_to_near, votes
from extendum.draw.figures.outline import hulls, largest, ring_of, rounded

#: How many points the outline of a part has.
COUNTS = {"hand": 84, "foot": 52, "head": 60, "trunk": 56, "pelvis": 36, "thigh": 40, "shin": 40, "base": 40}
USUAL, DIGIT = 36, 26
#: The side of a cell in which the depths of fingers and toes are compared, in centimetres.
FINE = 0.7


@dataclass(frozen=True, slots=True)
class Layer:
    """A fill of an outline, or a stroke of ``line`` units along it.

    ``shift``: moved by so much; ``clip``: only inside of that outline; ``grown``: a set of weights by which the outline
    is pushed out; ``curved``: a smooth line through its points, ``closed`` or not.
    """

    tone: str
    outline: str
    shift: tuple[float, float] = (0.0, 0.0)
    clip: str = ""
    grown: str = ""
    line: float = 0.0
    curved: bool = True
    closed: bool = True


@dataclass(slots=True)
class Moment:
    """A moment of a figure: its outlines, how opaque its layers are where they are not wholly, by part and in order.

    Outlines of weights have one column.
    """

    outlines: dict[str, Points] = field(default_factory=dict)
    layers: dict[str, list[tuple[Layer, float]]] = field(default_factory=dict)
    order: list[str] = field(default_factory=list)

    def add(self, part: str, layer: Layer, points: Points | None = None, opacity: float = 1.0) -> None:
        """A layer of a part, with its outline where that is not there yet."""
        if points is not None:
            self.outlines[layer.outline] = points
        self.layers.setdefault(part, []).append((layer, opacity))


@dataclass
class Seen:
    """A part as it is seen; ``cell``: the side of a cell in which its depths are compared, in centimetres."""

    part: Part
    shape: shapely.Polygon
    eye: Eye
    cell: float = CELL

    @cached_property
    def depths(self) -> Depths:
        """How near it is in each cell."""
        cloud = self.part.cloud
        return depths(self.eye(cloud), self.eye.depth(cloud), self.cell)


@dataclass
class Scene:
    """A surface looked at: its parts as they are seen, and who is before whom."""

    eye: Eye
    surface: Surface
    seen: dict[str, Seen]

    @cached_property
    def votes(self) -> Votes:
        """Who is before whom."""
        found = votes({name: one.depths for name, one in self.seen.items()})
        for end in ("l", "r"):  # cloth lies over skin
            found.pop((f"upper_{end}", f"sleeve_{end}"), None)
            found[(f"sleeve_{end}", f"upper_{end}")] = SURE
        # Who looks into the collar sees the neck before the cloth, who looks at it from outside does not.
        chest = np.array(self.surface.body.chest)
        into = float((chest[1] + chest[0] * COLLAR) @ self.eye.towards)
        found.pop(("trunk", "neck"), None)
        found[("neck", "trunk")] = SURE if into > 0 else -SURE
        return found

    @cached_property
    def taken_apart(self) -> dict[str, dict[str, Seen]]:
        """Hands and feet as what fingers or toes grow out of, and the five of them."""
        found = {}
        for name, one in self.seen.items():
            if one.part.digit:
                found[name] = {part.name: _seen(part, self.eye, 0.2, FINE) for part in one.part.digits()}
                base = next(iter(found[name].values()))
                base.shape = largest(rounded(base.shape, 0.35))
        return found

    def digit_votes(self, name: str) -> Votes:
        """Who is before whom in a hand or a foot."""
        return votes({part: one.depths for part, one in self.taken_apart[name].items()})

    def order(self) -> list[str]:
        """The parts from far to near."""
        return far_to_near(list(self.seen), self.votes)

    def body(self) -> shapely.Polygon:
        """Everything that is seen, as one shape."""
        return shapely.union_all([one.shape for one in self.seen.values()])


def look(surface: Surface, eye: Eye) -> Scene:
    """What is seen of a surface."""
    seen: dict[str, Seen] = {}
    for name, part in surface.parts.items():
        crease = 0.35 if part.limb.startswith(("hand", "foot")) else 0.0 if name == "head" else 1.1
        seen[name] = _seen(part, eye, crease, CELL)
    _fill_creases(seen, eye)
    return Scene(eye, surface, seen)


def _seen(part: Part, eye: Eye, crease: float, cell: float) -> Seen:
    shape = hulls(eye(points) for points in part.hulls())
    return Seen(part, largest(rounded(shape, crease)), eye, cell)


#: Parts between which the fold of a joint is rounded: it is given to the second.
_FOLDS = (("thigh", "shin"), ("upper", "fore"))


def _fill_creases(seen: dict[str, Seen], eye: Eye) -> None:
    for first, second in _FOLDS:
        for end in ("l", "r"):
            a, b = seen[f"{first}_{end}"], seen[f"{second}_{end}"]
            joint = eye(b.part.joints[0][0])
            around = shapely.Point(joint).buffer(16, quad_segs=4)
            both = a.shape.intersection(around).union(b.shape.intersection(around))
            crease = rounded(both, 2.0).difference(both)
            web = crease.intersection(shapely.Point(joint).buffer(13))
            if web.area > 0.3:
                b.shape = largest(b.shape.union(web.buffer(0.15)))


def outline_of(seen: Seen, share: float = 1.0) -> Points:
    """The outline of a part; ``share``: of how many points it usually has."""
    name = seen.part.name
    usual = DIGIT if name.startswith("digit") else COUNTS.get(name.split("_")[0], USUAL)
    return ring_of(seen.shape, max(12, round(usual * share)))


def rim_weights(seen: Seen, eye: Eye, outline: Points) -> Points:
    """How far the gap round a part goes at each point, from 1 to a little below 0 where it grows out of another."""
    share = np.ones(len(outline))
    for point, reach in seen.part.joints:
        far = np.linalg.norm(outline - eye(point), axis=1)
        share = np.minimum(share, np.clip((far - reach * 0.75) / (reach * 0.45), 0, 1))
    return np.asarray(share - 0.25 * (1 - share))[:, None]


def whole_limbs(scene: Scene, share: float = 1.0) -> dict[str, Points]:
    """The outlines of limbs of several parts, by name: what is shaded together."""
    limbs: dict[str, list[Seen]] = {}
    for seen in scene.seen.values():
        limbs.setdefault(seen.part.limb, []).append(seen)
    made = {}
    for limb, some in limbs.items():
        if len(some) > 1:
            shape = largest(rounded(shapely.union_all([one.shape for one in some]), 1.0))
            made[limb] = ring_of(shape, round(56 * share))
    return made
