"""Sections of a class and their groups: items in order, side plan, rounds, pins."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from enum import StrEnum
from itertools import product

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.item import Item, MoveItem

LONGEST_CADENCE_S = 120
#: How many other routes a group may keep ready.
MOST_ROUTES = 6


class Role(StrEnum):
    """What a section is for."""

    OPENING = "opening"
    WARM_UP = "warm-up"
    MAIN = "main"
    TEACHING = "teaching"
    CLOSING = "closing"


class SidePlan(StrEnum):
    """How a group orders its sides."""

    EACH_MOVE = "each move"
    CHAIN = "whole chain"
    INTERLEAVED = "interleaved"


@dataclass(frozen=True, slots=True)
class PassRef(Checked):
    """One pass of an interleaved group: which item, on which side, in which direction; empty: in both."""

    item: str = identifier()
    side: Side = Side.BOTH
    direction: str = text(40, "", "as the move has it; empty for both")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Route(Checked):
    """Another way through a group, with items of its own: the floor route, the one without props."""

    name: str = text(120, shortest=1)
    items: tuple[Item, ...] = ()
    extra: Extra = extra()

    @property
    def props(self) -> tuple[str, ...]:
        """What it needs; nothing in a route without props."""
        moves = (item for item in self.items if isinstance(item, MoveItem))
        return tuple(dict.fromkeys(prop.name for item in moves for prop in item.move.props if prop.required))


@dataclass(frozen=True, slots=True)
class Group(Checked):
    """A named block of items inside a section, with its own side plan, rounds and cadence."""

    id: str = identifier()
    name: str = text(200, "")
    items: tuple[Item, ...] = ()
    side_plan: SidePlan = SidePlan.EACH_MOVE
    passes: tuple[PassRef, ...] = ()
    rounds: int = whole(1, 20, 1)
    taper_percent: int = whole(10, 100, 100, "of every dose from one round to the next")
    lead_side: Side | None = None
    reset_s: int = whole(0, 60, 0, "a little reset between items, under the transition")
    cadence_s: int = whole(0, LONGEST_CADENCE_S, 0, "from the end of one pass to the next; 0: as long as it takes")
    routes: tuple[Route, ...] = ()
    route: str = text(120, "", "the name of the route that is taken now")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)
        if len(self.routes) > MOST_ROUTES:
            raise RefusedError("routes", f"at most {MOST_ROUTES} other routes", len(self.routes))
        if self.side_plan is SidePlan.INTERLEAVED:
            self._check_passes()

    def _check_passes(self) -> None:
        """Every item on each of its sides, in each direction, as often on one side as on the other."""
        ways = {item.id: ways_of(item) for item in self.items}
        sides = {item.id: sides_of(item) for item in self.items}
        counts: Counter[tuple[str, Side, str]] = Counter()
        for index, ref in enumerate(self.passes):
            told = f"{ref.item} {ref.side} {ref.direction}".rstrip()
            if ref.side not in sides.get(ref.item, ()):
                must = "a pass of this group's items: left or right where the item has sides, otherwise both"
                raise RefusedError(f"passes[{index}]", must, told)
            if ref.direction and ref.direction not in ways[ref.item]:
                must = "one of " + ", ".join(filter(None, ways[ref.item])) if any(ways[ref.item]) else "no direction"
                raise RefusedError(f"passes[{index}].direction", must, ref.direction)
            counts.update((ref.item, ref.side, way) for way in ([ref.direction] if ref.direction else ways[ref.item]))
        for item in self.items:
            for side, way in product(sides[item.id], ways[item.id]):
                found = counts[item.id, side, way]
                if found == 0 or found != counts[item.id, side.other, way]:
                    must = f"as many of {item.id} {side} as of its other side, at least one"
                    raise RefusedError("passes", must + (f", {way}" if way else ""), len(self.passes))


def sides_of(item: Item) -> tuple[Side, ...]:
    """The sides that an item has a pass for; both together where it has none."""
    sided = isinstance(item, MoveItem) and item.move.sided
    return (Side.LEFT, Side.RIGHT) if sided else (Side.BOTH,)


def ways_of(item: Item) -> tuple[str, ...]:
    """The directions that an item has a pass for, as they are written; one without a name where it has none."""
    both = isinstance(item, MoveItem) and item.move.sidedness.by_direction
    return item.move.directions if isinstance(item, MoveItem) and both else ("",)


@dataclass(frozen=True, slots=True)
class Pin(Checked):
    """What an order that is proposed must keep: this move first in its group, or after another."""

    item: str = identifier()
    after: str = text(40, "", "another move of the group; empty for first of all")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Section(Checked):
    """A part of the class with a name, a role, and pins for its order.

    ``music``: what is played under it; empty: that of the class.
    """

    id: str = identifier()
    name: str = text(200, "", shortest=0)
    role: Role = Role.MAIN
    groups: tuple[Group, ...] = ()
    pins: tuple[Pin, ...] = ()
    music: str = text(80, "")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.pins:
            _check_pins(self)

    @property
    def items(self) -> tuple[Item, ...]:
        """All items of the section in order."""
        return tuple(item for group in self.groups for item in group.items)


def _check_pins(section: Section) -> None:
    """Pins name moves of one group, each once as first, and none waits for itself."""
    home = {item.id: group.id for group in section.groups for item in group.items if isinstance(item, MoveItem)}
    afters: dict[str, list[str]] = {}
    first: dict[str, str] = {}
    for n, pin in enumerate(section.pins):
        if pin.item not in home:
            raise RefusedError(f"pins[{n}].item", "a move of this section", pin.item)
        if not pin.after:
            other = first.setdefault(home[pin.item], pin.item)
            if other != pin.item:
                raise RefusedError(f"pins[{n}]", f"the only first of its group, beside {other}", pin.item)
        elif home.get(pin.after) != home[pin.item]:
            raise RefusedError(f"pins[{n}].after", f"a move of the same group as {pin.item}", pin.after)
        else:
            afters.setdefault(pin.item, []).append(pin.after)
    for start in afters:
        seen, todo = set[str](), list(afters[start])
        while todo:
            one = todo.pop()
            if one == start or first.get(home[start]) == start:
                raise RefusedError("pins", f"an order in which {start} does not wait for itself or come first", one)
            if one not in seen:
                seen.add(one)
                todo += afters.get(one, [])
