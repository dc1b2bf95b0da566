"""The order in which everything is done: passes by side, direction and set, chains, rounds.

Passes are generated from the script, so that no side, direction or set can be forgotten.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Sequence
from enum import StrEnum
from itertools import zip_longest
from typing import NamedTuple

from extendum.core.model.body import Side
from extendum.core.model.dose_values import actual, tapered
from extendum.core.model.item import DirectionOrder, Item, MoveItem, ReleaseAfter, SetOrder
from extendum.core.model.placeholders import fill
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.model.talk import Quiet, Talk


class Arrival(StrEnum):
    """How a pass is reached."""

    FIRST = "first"  # the item's first pass in the class: the full set-up
    AGAIN = "again"  # a later pass that others came before: the short set-up
    OTHER = "other"  # on its other side, with others between: what a chain comes back to
    SWITCH = "switch"  # straight from its other side
    TURN = "turn"  # straight from its other direction
    OVER = "over"  # straight from its other side and direction, where the sides of a direction come first
    SET = "set"  # straight from its set before, after the rest


class Pass(NamedTuple):
    """One doing of an item: on a side, in a direction, of a set, in a round.

    ``way`` is the direction's place among those of the move. ``ends`` says that its end posture is reached, and
    ``released`` that the release words are said. ``opens_side``: the first pass on its side in its round.
    """

    item: MoveItem
    group: Group
    number: int
    side: Side
    lead: Side
    direction: str | None = None
    way: int = 0
    set_number: int = 1
    round: int = 1
    arrival: Arrival = Arrival.FIRST
    after_rest: bool = False
    last: bool = True
    ends: bool = True
    released: bool = True
    opens_side: bool = True

    def value(self, stage: int, breath_ms: int, value: int | None = None) -> int:
        """The value of its dose in a stage (from 1) in this round, now or for another value of the quantity."""
        dose = self.item.dose_at(stage)
        real = actual(dose, breath_ms, value)
        return tapered(dose, real, self.round, self.group.taper_percent, breath_ms, even=self.item.even(stage))


class Still(NamedTuple):
    """An item without a move, once in the sequence; in a chain it has the side that the chain is on, or comes to."""

    item: Talk | Quiet
    group: Group
    round: int = 1
    number: int = 1
    side: Side = Side.BOTH
    lead: Side = Side.LEFT


Step = Pass | Still


def own_passes(item: MoveItem, group: Group, class_lead: Side) -> list[Pass]:
    """The passes of one item on its own, in the order of its sides, directions and sets."""
    lead = item.lead_side or group.lead_side or class_lead
    sides = (lead, lead.other) if item.move.sided else (Side.BOTH,)
    ways = (0, 1) if item.move.sidedness.by_direction else (0,)
    sets = range(1, item.sets + 1)
    if item.direction_order is DirectionOrder.SIDE_BY_SIDE:
        once = [(side, way) for side in sides for way in ways]
    else:
        once = [(side, way) for way in ways for side in sides]
    if item.set_order is SetOrder.SET_BY_SET:
        order = [(side, way, n) for n in sets for side, way in once]
    else:
        order = [(side, way, n) for side, way in once for n in sets]
    return [Pass(item, group, 0, side, lead, _named(item, way, side), way, n) for side, way, n in order]


def _named(item: MoveItem, way: int, side: Side) -> str | None:
    if not item.move.sidedness.by_direction:
        return None
    return named_direction(item, item.move.directions[way], side)


def named_direction(item: MoveItem, written: str, side: Side) -> str:
    """A direction on a side, which it has by its name, as it is listed and shown."""
    return fill(item.move.direction_on(written, side), {"side": side.value, "other": side.other.value})


def is_between(item: Item) -> bool:
    """Whether an item of a chain is done once between the sides."""
    return not isinstance(item, Quiet) and item.between


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
                yield from visit(by_id[ref.item], group, class_lead, ref.side, ref.direction)
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


def visit(item: Item, group: Group, class_lead: Side, side: Side | None, direction: str = "") -> Iterator[Step]:
    """The steps of an item: all, or those on one side or in one direction; what has no sides is done each time."""
    if not isinstance(item, MoveItem):
        lead = group.lead_side or class_lead
        chained = group.side_plan is SidePlan.CHAIN
        # What is said once between the sides leads over to the other one.
        own = (lead.other if side is None else side) if chained else Side.BOTH
        yield Still(item, group, 1, 1, own, lead)
        return
    passes = [one for one in own_passes(item, group, class_lead) if side in (None, one.side) or one.side is Side.BOTH]
    if direction:
        passes = [one for one in passes if item.move.directions[one.way] == direction]
    yield from coming_out(passes)


def coming_out(passes: Iterable[Pass]) -> Iterator[Pass]:
    """Passes that follow straight on one another, each knowing whether the class comes out of it."""
    passes = list(passes)
    for this, after in zip_longest(passes, passes[1:]):
        released = after is None or _released(this, after)
        by_way = this.item.move.sidedness.by_direction
        yield this._replace(released=released, ends=released or not by_way or this.way == 1)


def _released(this: Pass, after: Pass) -> bool:
    """Whether the release words are said after a pass that another one follows straight on."""
    change, item = change_between(this, after), this.item
    if after.set_number > this.set_number and item.rest_s:
        return True
    match item.release_after:
        case ReleaseAfter.ALWAYS:
            return True
        case ReleaseAfter.EACH_SIDE:
            return this.side is not after.side or change is Arrival.SET
        case ReleaseAfter.ONCE:
            return False
    if change is Arrival.SWITCH:
        return not item.move.sidedness.by_direction
    return change is Arrival.SET


def change_between(before: Pass, this: Pass) -> Arrival:
    """What changes between two passes of an item that follow straight on one another.

    Where both side and direction change, a change of sides begins with the first direction again.
    """
    if before.side is not this.side:
        by_way = this.item.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION
        over = by_way and before.way != this.way and before.set_number == this.set_number
        return Arrival.OVER if over else Arrival.SWITCH
    return Arrival.TURN if before.way != this.way else Arrival.SET


def steps_of(group: Group, class_lead: Side, items: Collection[Item]) -> list[Step]:
    """The steps of a group with only these of its items, in order; each knows how it is reached."""
    return all_rounds(group, list(one_round(group, class_lead, items)))


def all_rounds(group: Group, order: Sequence[Step]) -> list[Step]:
    """The steps of all rounds of a group, given those of one round; each knows how it is reached."""
    steps: list[Step] = []
    seen: set[str] = set()
    for round_ in range(1, group.rounds + 1):
        numbers: dict[str, int] = {}
        sides: dict[str, Side] = {}
        opened: set[tuple[str, Side]] = set()
        straight: Pass | None = None
        for index, step in enumerate(order, 1):
            item = step.item
            number = numbers[item.id] = numbers.get(item.id, 0) + 1
            last = index == len(order) or order[index].item is not item
            other = isinstance(step, Pass) and step.side is not sides.get(item.id, step.side)
            opens = (item.id, step.side) not in opened
            opened.add((item.id, step.side))
            steps.append(
                arrived(step, straight, round_, number, again=item.id in seen, other=other, last=last, opens=opens)
            )
            straight = None if last or not isinstance(step, Pass) else step
            sides[item.id] = step.side
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


def arrived(
    step: Step,
    straight: Pass | None,
    round_: int,
    number: int,
    *,
    again: bool,
    other: bool = False,
    last: bool = True,
    opens: bool = True,
) -> Step:
    """A step in its place: its round, its number, and how it is reached.

    ``straight`` is the pass directly before when it is of the same item, in the same round; ``again`` says that
    the item was done before in the class, ``other`` that it was on its other side last in this round, ``last`` that it
    does not go straight on, ``opens`` that it is the first on its side in its round.
    """
    if isinstance(step, Still):
        return step._replace(round=round_, number=number)
    arrival, rested = Arrival.AGAIN if again else Arrival.FIRST, False
    if straight is not None:
        rested = step.set_number > straight.set_number and step.item.rest_s > 0
        arrival = change_between(straight, step)
    elif other:
        arrival = Arrival.OTHER
    return step._replace(number=number, round=round_, arrival=arrival, after_rest=rested, last=last, opens_side=opens)


def passes_of(item: MoveItem, steps: list[Step]) -> list[Pass]:
    """The passes of one item in a sequence."""
    return [step for step in steps if isinstance(step, Pass) and step.item.id == item.id]
