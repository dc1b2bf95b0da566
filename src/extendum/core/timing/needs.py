"""What a class needs, in a sentence that a person would say: its props, and the room that it takes."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.item import MoveItem
from extendum.core.model.move import Move, Prop

#: What the things of the library are called when people are asked to have them ready.
_KNOWN = {
    "chair": "a sturdy chair",
    "wall": "some wall space",
    "mat": "a mat",
    "strap": "a strap or a long towel",
    "cushion": "a cushion or a folded blanket",
    "block": "a block or a thick book",
    "ball": "a ball the size of your fist",
    "stick": "a light stick",
    "step": "a firm step with something to hold",
    "doorway": "an open doorway",
}
#: What more is said of a chair, by what it must be.
_CHAIR = (("without arms", " without arms"), ("against a wall", " with its back against the wall"))
#: Rooms that a chair, a mat or a wall has anyway, and those that are asked for, by what is free to move.
_THERE_ANYWAY = re.compile(r"^(?:a mat|the chair|a wall|a doorway|a step with)\b|\bchair (?:at hand|within reach)\b")
_ROOMS = (
    (re.compile(r"\bsteps?\b|\bstance\b"), "step in every direction"),
    (re.compile(r"\barms?\b"), "stretch out your arms"),
    (re.compile(r"\blegs?\b"), "swing a leg"),
)


@dataclass(frozen=True, slots=True)
class Needed:
    """A prop that somebody needs: what else serves, what it must be, and whether it can be done without."""

    name: str
    or_else: tuple[str, ...] = ()
    must_be: str = ""
    required: bool = True


@dataclass(frozen=True, slots=True)
class Needs:
    """What moves need: props and rooms, each once, in the order in which they come."""

    props: tuple[Needed, ...] = ()
    rooms: tuple[str, ...] = ()

    def and_of(self, move: Move) -> Needs:
        """Together with what one more move needs."""
        props = {one.name: one for one in self.props}
        for prop in move.props:
            props[prop.name] = _merged(props.get(prop.name), prop)
        rooms = self.rooms if not move.space or move.space in self.rooms else (*self.rooms, move.space)
        return Needs(tuple(props.values()), rooms)

    @property
    def told(self) -> str:
        """As sentences; empty when nothing is needed."""
        have = [one for one in self.props if one.required]
        return _sentences(have, [one for one in self.props if not one.required], self.rooms)

    @property
    def longest(self) -> str:
        """At least as many words as what any of the same moves need: what may be done without is asked for twice."""
        return _sentences(self.props, [one for one in self.props if not one.required], self.rooms)


def needs_of(moves: Iterable[MoveItem]) -> Needs:
    """What the moves of a class need."""
    found = Needs()
    for item in moves:
        found = found.and_of(item.move)
    return found


def _merged(before: Needed | None, prop: Prop) -> Needed:
    now = Needed(prop.name, prop.or_else, prop.must_be, prop.required)
    if before is None:
        return now
    must_be = before.must_be if now.must_be in before.must_be else f"{before.must_be}; {now.must_be}".strip("; ")
    or_else = tuple(dict.fromkeys((*before.or_else, *now.or_else)))
    return replace(now, or_else=or_else, must_be=must_be, required=before.required or now.required)


def _sentences(have: Sequence[Needed], may: Sequence[Needed], rooms: Sequence[str]) -> str:
    asked = [_called(one) for one in have]
    free, other = [], []
    for room in rooms:
        if not _THERE_ANYWAY.search(room):
            found = [what for pattern, what in _ROOMS if pattern.search(room)]
            free += found
            other += [] if found else [room]
    if free:
        asked.append(f"room to {_listed(list(dict.fromkeys(free)))}")
    lines = [f"You'll need {_listed(asked)}."] if asked else []
    lines += [f"If you like, have {_listed([_called(one) for one in may])} ready as well."] if may else []
    lines += [f"You'll also need this much room: {'; '.join(other)}."] if other else []
    return " ".join(lines)


def _called(one: Needed) -> str:
    if one.or_else:
        return _listed([_article(name) for name in (one.name, *one.or_else)], "or")
    known = _KNOWN.get(one.name.casefold())
    if known:
        return known + "".join(said for sign, said in _CHAIR if one.name == "chair" and sign in one.must_be)
    plain = re.sub(r"^(?:an?|the) ", "", one.must_be)
    if plain.endswith(one.name):
        return _article(plain)
    return _article(f"{plain} {one.name}" if 0 < len(plain.split()) <= 2 and "," not in plain else one.name)


def _article(name: str) -> str:
    return f"{'an' if name[:1].casefold() in 'aeiou' else 'a'} {name}"


def _listed(some: Sequence[str], last: str = "and") -> str:
    return f" {last} ".join(filter(None, (", ".join(some[:-1]), *some[-1:])))
