"""The script of a class: brief, cueing style, sections of groups of items."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.audience import Setting, WhatNext, check_texts
from extendum.core.model.body import Posture, Region, Side
from extendum.core.model.dose_values import allowed, stepped
from extendum.core.model.errors import RefusedError
from extendum.core.model.extent import check_extent
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.style import CueStyle
from extendum.core.model.words import CLASS_PLACEHOLDERS, check_placeholders

LONGEST_CLASS_S = 4 * 3600
LONGEST_CADENCE_S = 120
MOST_ITEMS = 400


class Role(StrEnum):
    """What a section is for."""

    OPENING = "opening"
    WARM_UP = "warm-up"
    MAIN = "main"
    CLOSING = "closing"


class Priority(StrEnum):
    """What a fit gives up first, where moves may be left out."""

    MOVES = "keep moves, shorten holds"
    EVEN = "some of both"
    HOLDS = "keep holds, drop moves"


@dataclass(frozen=True, slots=True)
class AtHand(Checked):
    """A prop that the group has, and what it is like: ``chair``, ``stable, with arms``."""

    name: str = text(60, shortest=1)
    like: str = text(200, "")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Brief(Checked):
    """What the class is for and has to keep to, how long its slot is, and what a fit gives up first.

    Empty postures, props or areas mean that nothing was said, not that there are none. ``warm``: people come
    to it warm from activity.
    """

    group: str = text(200, "")
    audience: str = text(80, "", "the name of the profile that it started from")
    target_s: int = whole(1, LONGEST_CLASS_S, 600)
    priority: Priority = Priority.EVEN
    setting: Setting = Setting.LIVE
    postures: tuple[Posture, ...] = ()
    props: tuple[AtHand, ...] = ()
    areas: tuple[Region, ...] = ()
    before: WhatNext = WhatNext.NOTHING
    warm: bool = False
    conditions: tuple[str, ...] = ()
    avoid: tuple[str, ...] = ()
    notes: str = text(4000, "")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_texts("conditions", self.conditions)
        check_texts("avoid", self.avoid)


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
class Meanwhile(Checked):
    """What goes on under several items and costs no time: feet that keep moving, talk over a march."""

    id: str = identifier()
    from_item: str = identifier()
    to_item: str = identifier()
    name: str = text(200, "Meanwhile", shortest=1)
    words: str = text(2000, "")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, CLASS_PLACEHOLDERS)


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


@dataclass(frozen=True, slots=True)
class Kept(Checked):
    """A finding that the teacher keeps as it is, and why; ``mark`` tells when its place has changed since."""

    code: str = text(60, shortest=1)
    because: str = text(300, shortest=1)
    item: str = text(40, "", "the first item it is about; empty for the whole class")
    mark: str = text(40, "")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Script(Checked):
    """A whole class as the instructor wrote it."""

    title: str = text(200, shortest=1)
    brief: Brief = Brief()
    style: CueStyle = CueStyle()
    start_posture: Posture = Posture.STANDING
    sections: tuple[Section, ...] = ()
    meanwhiles: tuple[Meanwhile, ...] = ()
    kept: tuple[Kept, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        seen: set[str] = set()
        count = 0
        for s, section in enumerate(self.sections):
            _claim(seen, section.id, f"sections[{s}].id")
            for g, group in enumerate(section.groups):
                _claim(seen, group.id, f"sections[{s}].groups[{g}].id")
                for i, item in enumerate(group.items):
                    path = f"sections[{s}].groups[{g}].items[{i}]"
                    _claim(seen, item.id, f"{path}.id")
                    _check_steps(item, self.style, path)
                count += len(group.items)
        if count > MOST_ITEMS:
            raise RefusedError("sections", f"at most {MOST_ITEMS} items in all", f"{count} items")
        check_extent(self.sections)
        order = [item.id for item in self.items()]
        for n, meanwhile in enumerate(self.meanwhiles):
            _claim(seen, meanwhile.id, f"meanwhiles[{n}].id")
            for name in ("from_item", "to_item"):
                if getattr(meanwhile, name) not in order:
                    raise RefusedError(f"meanwhiles[{n}].{name}", "an item of this class", getattr(meanwhile, name))
            if order.index(meanwhile.from_item) > order.index(meanwhile.to_item):
                raise RefusedError(f"meanwhiles[{n}].to_item", f"not before {meanwhile.from_item}", meanwhile.to_item)

    def under(self, group: Group) -> Meanwhile | None:
        """What runs under the whole of a group."""
        ends = [item.id for item in (*group.items[:1], *group.items[-1:])]
        return next((one for one in self.meanwhiles if [one.from_item, one.to_item] == ends), None)

    def items(self) -> Iterator[Item]:
        """All items in the order of the class, those left out too."""
        return (item for section in self.sections for group in section.groups for item in group.items)

    def moves(self) -> tuple[MoveItem, ...]:
        """The moves that are in, in the order of the class."""
        return tuple(item for item in self.items() if isinstance(item, MoveItem) and item.present)

    def item(self, item_id: str) -> Item:
        """The item with this id; RefusedError when there is none."""
        for item in self.items():
            if item.id == item_id:
                return item
        raise RefusedError("item", "an item of this class", item_id)


def _claim(seen: set[str], name: str, path: str) -> None:
    if name in seen:
        raise RefusedError(path, "different from every other id in the class", name)
    seen.add(name)


def _check_steps(item: Item, style: CueStyle, path: str) -> None:
    if isinstance(item, MoveItem):
        for stage, dose in enumerate(item.doses):
            try:
                if stepped(dose):
                    allowed(dose, style.breath_ms)
            except RefusedError as error:
                raise error.within(f"{path}.then[{stage - 1}]" if stage else path) from None


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
