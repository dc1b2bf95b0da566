"""Another order for a section: head to feet, feet to head, or with the fewest changes of posture and props.

What is proposed keeps the pins, and time without a move stays where it is. For a group of up to twelve
moves the order is the best there is (dynamic programming over sets of moves); beyond that it is a good
one, found by moving and turning stretches of it until nothing gets better.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum

import numpy as np

from extendum.core.edit.script_edits import with_items
from extendum.core.model.body import Region
from extendum.core.model.dose_values import Ints
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Pin, Section, SidePlan
from extendum.core.model.talk import Talk
from extendum.core.order.best_order import EXACT_UP_TO, Costs, best_tour
from extendum.core.timing.layout import lay_out, length_of, step_s
from extendum.core.timing.sequence import Arrival, Pass, Step, Still, is_between, steps_of
from extendum.core.timing.way import Situation, situation_after

#: The body from head to feet; breath and the whole body are at no height.
HEIGHT = (
    *(Region.EYES, Region.JAW, Region.NECK, Region.SHOULDERS, Region.UPPER_ARM, Region.FOREARM, Region.WRIST),
    *(Region.HAND, Region.CHEST, Region.UPPER_BACK, Region.SIDE_BODY, Region.ABDOMINALS),
    *(
        Region.SPINE,
        Region.LOWER_BACK,
        Region.HIP_FRONT,
        Region.HIP_SIDE,
        Region.DEEP_HIP,
        Region.INNER_THIGH,
        Region.FRONT_THIGH,
    ),
    *(Region.BACK_THIGH, Region.CALF, Region.ANKLE, Region.FOOT),
)


class OrderBy(StrEnum):
    """What an order is made for."""

    HEAD_TO_FEET = "head to feet"
    FEET_TO_HEAD = "feet to head"
    FEWEST_CHANGES = "fewest changes"


@dataclass(frozen=True, slots=True)
class Changes:
    """How often a section changes posture, and how often a prop is picked up or put down."""

    postures: int
    props: int


@dataclass(frozen=True, slots=True)
class Proposal:
    """An order of a section's items, what it costs against the present one, and whether it is proved best.

    It is for one group of up to twelve moves, done each by itself; elsewhere it is good, not proved.
    """

    by: OrderBy
    order: tuple[str, ...]
    script: Script
    seconds: int
    before: Changes
    after: Changes
    exact: bool

    @property
    def same(self) -> bool:
        """Whether it is the present order."""
        return not self.moved

    moved: int = 0


def section_of(script: Script, section_id: str) -> Section:
    """A section by its id; RefusedError when there is none."""
    for section in script.sections:
        if section.id == section_id:
            return section
    raise RefusedError("section", "a section of this class", section_id)


def changes_of(script: Script, section_id: str) -> Changes:
    """The changes of posture and props on the way into and through a section."""
    own = {item.id for item in section_of(script, section_id).items}
    postures = props = 0
    for one in lay_out(script):
        if one.step.item.id in own:
            moved, handled = _changes(one.step, one.before)
            postures, props = postures + moved, props + handled
    return Changes(postures, props)


def _changes(step: Step, before: Situation) -> tuple[int, int]:
    """Whether a step begins in another posture, and how many props change hands."""
    after = situation_after(step, before)
    held, then = {one.prop.name for one in before.props}, {one.prop.name for one in after.props}
    starts = step.item.move.posture if isinstance(step, Pass) else before.stance.posture
    return int(starts is not before.stance.posture), len(held ^ then)


def apply_order(script: Script, section_id: str, order: Iterable[str]) -> Script:
    """The script with the items of each group of a section in the order given.

    RefusedError when the order does not name every item of the section once.
    """
    section, place = section_of(script, section_id), {item: n for n, item in enumerate(order)}
    if set(place) != {item.id for item in section.items}:
        raise RefusedError(
            "order", f"every item of the section once, {len(section.items)} in all", f"{len(place)} items"
        )
    groups = tuple(with_items(g, tuple(sorted(g.items, key=lambda item: place[item.id]))) for g in section.groups)
    made = replace(section, groups=groups)
    return replace(script, sections=tuple(made if one is section else one for one in script.sections))


def set_pins(script: Script, section_id: str, pins: tuple[Pin, ...]) -> Script:
    """The script with other pins for a section."""
    section = section_of(script, section_id)
    made = replace(section, pins=pins)
    return replace(script, sections=tuple(made if one is section else one for one in script.sections))


def broken_pins(section: Section) -> list[Pin]:
    """The pins that the present order does not keep."""
    found = []
    for group in section.groups:
        order = [item.id for item in group.items if isinstance(item, MoveItem)]
        for pin in (pin for pin in section.pins if pin.item in order):
            before = order.index(pin.after) + 1 if pin.after else 0
            if order.index(pin.item) < before or (not pin.after and order.index(pin.item) > 0):
                found.append(pin)
    return found


def proposals(script: Script, section_id: str) -> list[Proposal]:
    """An order for each aim, with its cost in seconds and changes."""
    section, now = section_of(script, section_id), length_of(script)
    before, present = changes_of(script, section_id), tuple(item.id for item in section.items)
    found = []
    for by in OrderBy:
        made, proved = script, list[bool]()
        for group in section.groups:
            made, exact = _ordered(made, section, group.id, by)
            proved += [] if exact is None else [exact]
        order = tuple(item.id for item in section_of(made, section_id).items)
        moved = sum(a != b for a, b in zip(order, present, strict=True))
        after = changes_of(made, section_id)
        found.append(Proposal(by, order, made, length_of(made) - now, before, after, proved in ([], [True]), moved))
    return found


def _ordered(script: Script, section: Section, group_id: str, by: OrderBy) -> tuple[Script, bool | None]:
    """The script with one group in its best order, and whether that is proved; None where there is nothing to order."""
    group = next(g for s in script.sections for g in s.groups if g.id == group_id)
    free = [n for n, item in enumerate(group.items) if _is_free(group, item)]
    if len(free) < 2:
        return script, None
    if group.side_plan is SidePlan.INTERLEAVED:  # its passes are ordered by hand
        return script, False
    tour = best_tour(_costs(script, section, group, free, by))
    items = list(group.items)
    for place, which in zip(free, tour, strict=True):
        items[place] = group.items[free[which]]
    groups = {group_id: with_items(group, tuple(items))}
    order = [i.id for g in section_of(script, section.id).groups for i in groups.get(g.id, g).items]
    return apply_order(script, section.id, order), len(free) <= EXACT_UP_TO and group.side_plan is SidePlan.EACH_MOVE


def _is_free(group: Group, item: Item) -> bool:
    """Whether an item may change its place: a move that is in, and not one between the sides of a chain."""
    chained = group.side_plan is SidePlan.CHAIN and is_between(item)
    return isinstance(item, MoveItem) and item.present and not chained


def _height(item: Item) -> int | None:
    if not isinstance(item, MoveItem):
        return None
    heights = [HEIGHT.index(t.region) for t in item.move.targets if t.main and t.region in HEIGHT]
    return heights[0] if heights else None


#: What weighs more than any sum of what comes after it: a move out of the order of heights, a change, a second,
#: and at last a place away from the present one.
_OUT_OF_LINE, _CHANGE, _SECOND = 10**13, 10**8, 10**3


class _Neighbours:
    """What it costs when one move of a group comes straight after another, in every lane of the group.

    A lane is a round, or a side of a round of a chain: in each the moves come in the same order.
    """

    def __init__(self, script: Script, group: Group, free: list[int]) -> None:
        self._script, self._group = script, group
        self._moves = [group.items[n] for n in free]
        laid = lay_out(script)
        own = {item.id for item in group.items if item.present}
        inside = [n for n, one in enumerate(laid) if one.step.item.id in own]
        self._entry, self._facts = laid[inside[0]].before, laid[inside[0]].facts
        coming = laid[inside[-1] + 1 :]
        first = next((n for n, one in enumerate(coming) if isinstance(one.step, Pass)), None)
        self._waiting = [one.step for one in coming[:first]]
        following = None if first is None else coming[first].step
        self._following = following if isinstance(following, Pass) else None
        bounds = zip([-1, *free], [*free, len(group.items)], strict=True)
        self._gaps = [tuple(i for i in group.items[a + 1 : b] if not isinstance(i, MoveItem)) for a, b in bounds]
        self._lanes = [self._lanes_of(move) for move in self._moves]

    def _lanes_of(self, move: Item) -> list[list[Pass]]:
        """The passes of a move lane by lane."""
        chain = self._group.side_plan is SidePlan.CHAIN
        lead = self._group.lead_side or self._script.style.lead_side
        found: dict[tuple[int, bool], list[Pass]] = {}
        for step in steps_of(self._group, self._script.style.lead_side, (move,)):
            if isinstance(step, Pass):
                other = chain and step.side is lead.other
                come_back = step._replace(arrival=Arrival.OTHER) if other else step
                found.setdefault((step.round, other), []).append(come_back)
        return [found[key] for key in sorted(found)]

    def _past(self, situation: Situation, slot: int) -> Situation:
        for item in self._gaps[slot]:
            if item.present:
                situation = situation_after(Still(item, self._group), situation)
        return situation

    def _cost(self, step: Pass, before: Situation) -> int:
        seconds = step_s(step, before, self._script.style, self._facts)
        return _CHANGE * sum(_changes(step, before)) + _SECOND * seconds

    def _tail(self, move: int, lane: int) -> Situation:
        return situation_after(self._lanes[move][min(lane, len(self._lanes[move]) - 1)][-1], self._entry)

    def begin(self, move: int) -> int:
        """What coming first costs, in the first lane."""
        return self._cost(self._lanes[move][0][0], self._past(self._entry, 0))

    def pair(self, before: int, after: int, slot: int) -> int:
        """What coming at a slot straight after another costs, in all lanes."""
        lanes = enumerate(self._lanes[after])
        return sum(self._cost(steps[0], self._past(self._tail(before, n), slot)) for n, steps in lanes)

    def wrap(self, last: int, first: int) -> int:
        """What beginning again after the last costs, in every lane but the first."""
        ends = len(self._moves)
        total = 0
        for n, steps in enumerate(self._lanes[first][1:], 1):
            total += self._cost(steps[0], self._past(self._past(self._tail(last, n - 1), ends), 0))
        return total

    def finish(self, move: int) -> int:
        """What coming last costs the move that follows the group."""
        if self._following is None:
            return 0
        situation = self._past(self._tail(move, len(self._lanes[move]) - 1), len(self._moves))
        for step in self._waiting:
            situation = situation_after(step, situation)
        return self._cost(self._following, situation)

    def inert(self, slot: int) -> bool:
        """Whether nothing is picked up or put down at a slot."""
        return not any(isinstance(i, Talk) and (i.picks_up or i.puts_down) for i in self._gaps[slot])


def _costs(script: Script, section: Section, group: Group, free: list[int], by: OrderBy) -> Costs:
    """What each order of a group's moves costs: first by height if that is asked, then in changes, then in seconds."""
    near, size = _Neighbours(script, group, free), len(free)
    every = range(size)
    inert = next((k for k in every if near.inert(k)), 0)
    plain = _pairs(near, size, inert)
    pairs = [plain if near.inert(k) else _pairs(near, size, k) for k in every]
    ids = [group.items[n].id for n in free]
    pins = [pin for pin in section.pins if pin.item in ids]
    first = next((ids.index(pin.item) for pin in pins if not pin.after), None)
    return Costs(
        begin=np.array([near.begin(j) for j in every], dtype=np.int64),
        pair=tuple(pairs),
        finish=np.array([near.finish(j) for j in every], dtype=np.int64),
        wrap=np.array([[near.wrap(i, j) for j in every] for i in every], dtype=np.int64),
        above=_above([_height(group.items[n]) for n in free], by),
        place=np.abs(np.subtract.outer(np.arange(size), np.arange(size))).astype(np.int64),
        needs=tuple(frozenset(ids.index(p.after) for p in pins if p.item == one and p.after in ids) for one in ids),
        first=first,
    )


def _above(heights: list[int | None], by: OrderBy) -> Ints:
    """What it costs that one thing comes anywhere before another, against the order of heights that is asked for."""
    if by is OrderBy.FEWEST_CHANGES:
        return np.zeros((len(heights), len(heights)), dtype=np.int64)
    down = 1 if by is OrderBy.HEAD_TO_FEET else -1
    wrong = [[a is not None and b is not None and (a - b) * down > 0 for b in heights] for a in heights]
    return _OUT_OF_LINE * np.array(wrong, dtype=np.int64)


def _pairs(near: _Neighbours, size: int, slot: int) -> Ints:
    every = range(size)
    return np.array([[near.pair(i, j, slot) if i != j else 0 for j in every] for i in every], dtype=np.int64)
