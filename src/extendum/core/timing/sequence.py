"""The order in which everything is done: passes by side, direction and set, chains, rounds.

Passes are generated from the script, so that no side, direction or set can be forgotten.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from enum import StrEnum
from typing import NamedTuple

from extendum.core.model.body import Side
from extendum.core.model.dose_values import actual, tapered
from extendum.core.model.item import Item, MoveItem, Quiet, SetOrder, Talk
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.model.words import fill


class Arrival(StrEnum):
    """How a pass is reached."""

    FIRST = "first"  # the item's first pass in the class: the full set-up
    AGAIN = "again"  # a later pass that others came before: the short set-up
    SWITCH = "switch"  # straight from its other side
    TURN = "turn"  # straight from its other direction
    SET = "set"  # straight from its set before, after the rest


class Pass(NamedTuple):
    """One doing of an item: on a side, in a direction, of a set, in a round."""

    item: MoveItem
    group: Group
    number: int
    side: Side
    lead: Side
    direction: str | None = None
    set_number: int = 1
    round: int = 1
    arrival: Arrival = Arrival.FIRST
    after_rest: bool = False
    last: bool = True

    def value(self, stage: int, breath_ms: int, value: int | None = None) -> int:
        """The value of its dose in a stage (from 1) in this round, now or for another value of the quantity."""
        dose = self.item.dose_at(stage)
        real = actual(dose, breath_ms, value)
        even = stage == 1 and self.item.even
        return tapered(dose, real, self.round, self.group.taper_percent, breath_ms, even=even)


class Still(NamedTuple):
    """An item without a move, once in the sequence."""

    item: Talk | Quiet
    group: Group
    round: int = 1
    number: int = 1


Step = Pass | Still


def own_passes(item: MoveItem, group: Group, class_lead: Side) -> list[Pass]:
    """The passes of one item on its own, in the order of its sides, directions and sets."""
    lead = item.lead_side or group.lead_side or class_lead
    sides = (lead, lead.other) if item.move.sided else (Side.BOTH,)
    directions = {side: _directions(item, side) for side in sides}
    sets = range(1, item.sets + 1)
    if item.set_order is SetOrder.SIDE_BY_SIDE:
        order = [(side, way, n) for side in sides for way in directions[side] for n in sets]
    else:
        order = [(side, way, n) for n in sets for side in sides for way in directions[side]]
    return [Pass(item, group, 0, side, lead, way, n) for side, way, n in order]


def _directions(item: MoveItem, side: Side) -> tuple[str | None, ...]:
    if not item.move.sidedness.by_direction:
        return (None,)
    return tuple(named_direction(item, one, side) for one in item.move.directions)


def named_direction(item: MoveItem, written: str, side: Side) -> str:
    """A direction on a side, which it has by its name, as it is listed and shown."""
    return fill(item.move.direction_on(written, side), {"side": side.value, "other": side.other.value})


def is_between(item: Item) -> bool:
    """Whether an item of a chain is done once between the sides."""
    return isinstance(item, MoveItem) and item.between


def one_round(group: Group, class_lead: Side, items: Collection[Item]) -> Iterator[Step]:
    """One round of these items of a group, in the order of its side plan; how each step is reached is still open."""
    if group.side_plan is SidePlan.EACH_MOVE:
        for item in items:
            yield from visit(item, group, class_lead, None)
        return
    if group.side_plan is SidePlan.INTERLEAVED:
        by_id = {item.id: item for item in items}
        for ref in group.passes:
            if ref.item in by_id:
                yield from visit(by_id[ref.item], group, class_lead, ref.side)
        return
    lead = group.lead_side or class_lead
    chain = [item for item in items if not is_between(item)]
    between = [item for item in items if is_between(item)]
    for item in chain:
        yield from visit(item, group, class_lead, lead)
    for item in between:
        yield from visit(item, group, class_lead, None)
    for item in chain:
        yield from visit(item, group, class_lead, lead.other)


def visit(item: Item, group: Group, class_lead: Side, side: Side | None) -> Iterator[Step]:
    """The steps of an item: all, or those on one side; what has no sides is done each time."""
    if not isinstance(item, MoveItem):
        yield Still(item, group)
        return
    for one in own_passes(item, group, class_lead):
        if on_side(one, side):
            yield one


def on_side(step: Step, side: Side | None) -> bool:
    """Whether a step is done on a side; what has no sides is done on each, and everything where none is given."""
    return side is None or isinstance(step, Still) or step.side is side or step.side is Side.BOTH


def steps_of(group: Group, class_lead: Side, items: Collection[Item]) -> list[Step]:
    """The steps of a group with only these of its items, in order; each knows how it is reached."""
    return all_rounds(group, list(one_round(group, class_lead, items)))


def all_rounds(group: Group, order: Sequence[Step]) -> list[Step]:
    """The steps of all rounds of a group, given those of one round; each knows how it is reached."""
    steps: list[Step] = []
    seen: set[str] = set()
    for round_ in range(1, group.rounds + 1):
        numbers: dict[str, int] = {}
        straight: Pass | None = None
        for index, step in enumerate(order, 1):
            item = step.item
            number = numbers[item.id] = numbers.get(item.id, 0) + 1
            last = index == len(order) or order[index].item is not item
            steps.append(arrived(step, straight, round_, number, again=item.id in seen, last=last))
            straight = None if last or not isinstance(step, Pass) else step
            seen.add(item.id)
    return steps


def sequence(script: Script) -> list[Step]:
    """Every step of the class in order, without the items that are left out."""
    found: list[Step] = []
    for section in script.sections:
        for group in section.groups:
            items = tuple(item for item in group.items if item.present)
            found += steps_of(group, script.style.lead_side, items)
    return found


def arrived(step: Step, straight: Pass | None, round_: int, number: int, *, again: bool, last: bool = True) -> Step:
    """A step in its place: its round, its number, and how it is reached.

    ``straight`` is the pass directly before when it is of the same item, in the same round; ``again`` says that
    the item was done before in the class, ``last`` that it does not go straight on.
    """
    if isinstance(step, Still):
        return Still(step.item, step.group, round_, number)
    arrival, rested = Arrival.AGAIN if again else Arrival.FIRST, False
    if straight is not None:
        rested = step.set_number > straight.set_number and step.item.rest_s > 0
        if straight.side is not step.side:
            arrival = Arrival.SWITCH
        else:
            arrival = Arrival.TURN if straight.direction != step.direction else Arrival.SET
    return Pass(
        step.item,
        step.group,
        number,
        step.side,
        step.lead,
        step.direction,
        step.set_number,
        round_,
        arrival,
        rested,
        last,
    )


def passes_of(item: MoveItem, steps: list[Step]) -> list[Pass]:
    """The passes of one item in a sequence."""
    return [step for step in steps if isinstance(step, Pass) and step.item.id == item.id]
