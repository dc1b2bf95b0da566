"""Sections of a class and their groups: items in order, side plan, rounds, pins."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.item import Item, MoveItem

LONGEST_CADENCE_S = 120


class Role(StrEnum):
    """What a section is for."""

    OPENING = "opening"
    WARM_UP = "warm-up"
    MAIN = "main"
    CLOSING = "closing"


class SidePlan(StrEnum):
    """How a group orders its sides."""

    EACH_MOVE = "each move"
    CHAIN = "whole chain"
    INTERLEAVED = "interleaved"


@dataclass(frozen=True, slots=True)
class PassRef(Checked):
    """One pass of an interleaved group: which item, on which side."""

    item: str = identifier()
    side: Side = Side.BOTH
    extra: Extra = extra()


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
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)
        if self.side_plan is SidePlan.INTERLEAVED:
            self._check_passes()

    def _check_passes(self) -> None:
        wanted: set[tuple[str, Side]] = set()
        for item in self.items:
            sided = isinstance(item, MoveItem) and item.move.sided
            wanted |= {(item.id, side) for side in ((Side.LEFT, Side.RIGHT) if sided else (Side.BOTH,))}
        given = [(ref.item, ref.side) for ref in self.passes]
        for index, pair in enumerate(given):
            if pair not in wanted:
                must = "a pass of this group's items: left or right where the item has sides, otherwise both"
                raise RefusedError(f"passes[{index}]", must, f"{pair[0]} {pair[1]}")
        counts = Counter(given)
        for item_id, side in sorted(wanted):
            if counts[item_id, side] == 0 or counts[item_id, side] != counts[item_id, side.other]:
                raise RefusedError(
                    "passes", f"as many of {item_id} {side} as of its other side, at least one", len(given)
                )


@dataclass(frozen=True, slots=True)
class Pin(Checked):
    """What an order that is proposed must keep: this move first in its group, or after another."""

    item: str = identifier()
    after: str = text(40, "", "another move of the group; empty for first of all")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Section(Checked):
    """A part of the class with a name, a role, and pins for its order."""

    id: str = identifier()
    name: str = text(200, "", shortest=0)
    role: Role = Role.MAIN
    groups: tuple[Group, ...] = ()
    pins: tuple[Pin, ...] = ()
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
