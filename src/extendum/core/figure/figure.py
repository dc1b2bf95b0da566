"""A figure: one or two poses of a move, the view of them, and the props that belong to them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from extendum.core.figure.pose import Pose, pose_from
from extendum.core.figure.skeleton import Body, body_of
from extendum.core.model.errors import RefusedError

#: Things that a figure may have, and what is given of each.
THINGS = ("chair", "wall", "mat", "strap", "cushion", "block", "ball", "stick", "towel", "sight", "step", "doorway")
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
    down. ``then``: where a movement goes to from ``pose``, through several stops if it has them; ``round``: and back to
    where it began. ``held``: the number of the stop that a still picture shows. ``tag``: the joint near which the
    letter of the side is; ``path``: the joint whose way the arrow tells, or the one that moves farthest.
    """

    pose: Pose
    then: tuple[Pose, ...] = ()
    view: float = 0.0
    above: float = 9.0
    things: tuple[Thing, ...] = ()
    close: str = ""
    tag: str = ""
    round: bool = False
    held: int = 0
    path: str = ""

    @property
    def poses(self) -> tuple[Pose, ...]:
        """One pose, the two ends of a movement, or all its stops."""
        return (self.pose, *self.then)

    @property
    def other(self) -> Pose | None:
        """The stop that is farthest from the one that is held; None for what does not move."""
        if not self.then:
            return None
        return self.poses[len(self.poses) // 2 if self.round else 0 if self.held else -1]


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
    if unknown := set(given) - _GIVEN:
        raise RefusedError(path, "from, pose, then, view, above, things, close and tag", ", ".join(sorted(unknown)))
    pose = _pose({"from": given["from"], **given.get("pose", {})}, poses, path)
    stops = given.get("then", ())
    then = tuple(_then(one, pose, poses, path) for one in ([stops] if isinstance(stops, dict) else stops))
    things = tuple(_thing(one, f"{path}.things[{n}]") for n, one in enumerate(given.get("things", ())))
    held = frozenset(name for thing in things for name in thing.along)
    pose, then = _gripping(pose, held), tuple(_gripping(one, held) for one in then)
    close = given.get("close", "")
    if close not in CLOSE:
        raise RefusedError(f"{path}.close", "one of " + ", ".join(CLOSE[1:]), close)
    looked = (given.get("view", 0.0), given.get("above", 9.0))
    turns, held = given.get("round", False), given.get("held", int(len(then) == 1))
    return Figure(pose, then, *looked, things, close, given.get("tag", ""), turns, held, given.get("path", ""))


_GIVEN = {"from", "pose", "then", "round", "held", "view", "above", "things", "close", "tag", "path"}


def _gripping(pose: Pose, held: frozenset[str]) -> Pose:
    """A pose with its hands closed round what they hold, where their shape is not given."""
    ends = zip(pose.shapes, "lr", strict=True)
    left, right = (shape or ("grip" if f"grip_{end}" in held else "") for shape, end in ends)
    return replace(pose, shapes=(left, right))


def _then(given: Mapping[str, Any], pose: Pose, poses: Mapping[str, Pose], path: str) -> Pose:
    """Another end of a movement: on top of the figure's pose, or of one that it names."""
    return _pose(given, poses, path) if "from" in given else pose_from(given, pose)


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
