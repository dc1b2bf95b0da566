"""A figure: one or two poses of a move, the view of them, and the props that belong to them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from extendum.core.figure.pose import Pose, mirrored, other_side, pose_from
from extendum.core.figure.skeleton import Body, body_of
from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError

#: Things that a figure may have, and what is given of each.
THINGS = ("chair", "wall", "mat", "strap", "cushion", "block", "ball", "stick", "towel")
#: What a figure may be drawn close: the whole body otherwise.
CLOSE = ("", "upper", "head", "hands", "feet")


@dataclass(frozen=True, slots=True)
class Thing:
    """A prop in the figure: where it stands, or between which joints it is held."""

    name: str
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)
    size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    turn: float = 0.0
    along: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Figure:
    """What is drawn of a move, for its left side where it has sides.

    ``view``: degrees from the side (0: looking to the right) to the front (90); ``above``: how far the eye looks
    down. ``then``: the other end of a movement. ``tag``: the joint that carries the letter of the side.
    """

    pose: Pose
    then: Pose | None = None
    view: float = 0.0
    above: float = 9.0
    things: tuple[Thing, ...] = ()
    close: str = ""
    tag: str = ""

    @property
    def poses(self) -> tuple[Pose, ...]:
        """One pose, or the two ends of a movement."""
        return (self.pose,) if self.then is None else (self.pose, self.then)


def for_side(figure: Figure, side: Side) -> Figure:
    """The figure of a side: the right one is the mirror image, seen in the mirror too."""
    if side is not Side.RIGHT:
        return figure
    things = tuple(
        replace(
            one,
            at=(one.at[0], one.at[1], -one.at[2]),
            turn=-one.turn,
            along=tuple(other_side(name) for name in one.along),
        )
        for one in figure.things
    )
    then = figure.then and mirrored(figure.then)
    return replace(
        figure,
        pose=mirrored(figure.pose),
        then=then,
        view=180.0 - figure.view,
        things=things,
        tag=other_side(figure.tag),
    )


def read_figures(plain: Mapping[str, Any]) -> dict[str, Figure]:
    """Figures by the key of their move; RefusedError names the figure and the part that is wrong."""
    poses: dict[str, Pose] = {}
    for name, given in plain["poses"].items():
        poses[name] = _pose(given, poses, f"poses.{name}")
    return {key: _figure(given, poses, f"figures.{key}") for key, given in plain["figures"].items()}


def _pose(given: Mapping[str, Any], known: Mapping[str, Pose], path: str) -> Pose:
    rest = {name: value for name, value in given.items() if name != "from"}
    base = given.get("from")
    if base is not None and base not in known:
        raise RefusedError(f"{path}.from", "a pose given before", base)
    try:
        return pose_from(rest, known[base] if base else Pose())
    except RefusedError as error:
        raise error.within(path) from None


def _figure(given: Mapping[str, Any], poses: Mapping[str, Pose], path: str) -> Figure:
    unknown = set(given) - {"from", "pose", "then", "view", "above", "things", "close", "tag"}
    if unknown:
        raise RefusedError(path, "from, pose, then, view, above, things, close and tag", ", ".join(sorted(unknown)))
    pose = _pose({"from": given["from"], **given.get("pose", {})}, poses, path)
    then = _pose(given["then"], {"": pose}, path) if "from" in given.get("then", {}) else None
    if then is None and "then" in given:
        then = pose_from(given["then"], pose)
    things = tuple(_thing(one, f"{path}.things[{n}]") for n, one in enumerate(given.get("things", ())))
    close = given.get("close", "")
    if close not in CLOSE:
        raise RefusedError(f"{path}.close", "one of " + ", ".join(CLOSE[1:]), close)
    return Figure(pose, then, given.get("view", 0.0), given.get("above", 9.0), things, close, given.get("tag", ""))


def _thing(given: Mapping[str, Any], path: str) -> Thing:
    if given.get("name") not in THINGS:
        raise RefusedError(f"{path}.name", "one of " + ", ".join(THINGS), given.get("name", ""))
    return Thing(
        given["name"],
        tuple(given.get("at", (0, 0, 0))),
        tuple(given.get("size", (0, 0, 0))),
        given.get("turn", 0.0),
        tuple(given.get("along", ())),
    )


@lru_cache(maxsize=2048)
def body_in(pose: Pose) -> Body:
    """The body in a pose, computed once."""
    return body_of(pose)
