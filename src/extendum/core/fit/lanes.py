"""The lanes of a group: stretches of its rounds that its items go through in their order.

Each move by itself has a lane for the first round and one for the later ones; a chain has three for
each: the lead side, what is done between the sides, and the other side. A lane begins where another one
ends.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from extendum.core.model.body import Base, Side
from extendum.core.model.item import Item
from extendum.core.model.section import Group, SidePlan
from extendum.core.timing.sequence import Pass, Step, is_between, visit
from extendum.core.timing.way import Situation, situation_after

#: The pass that a lane begins after: item, side, place of its direction, set.
Trace = tuple[str, Side, int, int]


class Before(NamedTuple):
    """What a step meets: a situation by its number, and where it matters the pass directly before."""

    at: int
    trace: Trace | None = None


@dataclass(frozen=True, slots=True)
class Lane:
    """Some rounds of a group's items on a side.

    ``enters`` is the lane at whose end it begins, if any, and ``new_round`` says that a round lies between.
    ``twin`` is the lane of the first round that must end as this one does, so that all later rounds are
    alike. In a ``fresh`` lane items are met for the first time, in an ``other`` one those with sides are on their
    second; a ``traced`` one remembers its last pass.
    """

    rounds: tuple[int, ...]
    side: Side | None = None
    between: bool | None = None
    enters: int | None = None
    twin: int | None = None
    fresh: bool = False
    other: bool = False
    traced: bool = False
    new_round: bool = False

    def steps(self, item: Item, group: Group, class_lead: Side) -> list[Step]:
        """The steps of an item in one round of this lane; none where it is not in it."""
        if self.between is not None and is_between(item) is not self.between:
            return []
        return list(visit(item, group, class_lead, self.side))

    def entry(self, group_entry: int, ends: tuple[Before, ...]) -> Before:
        """Where the lane begins when the lanes end so."""
        if self.enters is None:
            return Before(group_entry)
        end = ends[self.enters]
        return Before(end.at) if self.new_round else end

    def straight(self, before: Before, passes: list[Step]) -> Pass | None:
        """The pass directly before the lane's first when it is of the same item, in the same round."""
        first = passes[0] if passes else None
        if before.trace is None or not isinstance(first, Pass) or before.trace[0] != first.item.id:
            return None
        _, side, way, set_number = before.trace
        return first._replace(side=side, way=way, set_number=set_number)


def lanes_of(group: Group, class_lead: Side) -> list[Lane]:
    """The lanes of a group; it ends where its last lane ends."""
    later = tuple(range(2, group.rounds + 1))
    if group.side_plan is SidePlan.EACH_MOVE:
        lanes = [Lane((1,), fresh=True)]
        return [*lanes, Lane(later, enters=0, twin=0, new_round=True)] if later else lanes
    lead = group.lead_side or class_lead
    lanes = [
        Lane((1,), lead, between=False, fresh=True, traced=True),
        Lane((1,), None, between=True, fresh=True, traced=True, enters=0),
        Lane((1,), lead.other, between=False, other=True, traced=True, enters=1),
    ]
    if later:
        lanes += [
            Lane(later, lead, between=False, traced=True, enters=2, new_round=True),
            Lane(later, None, between=True, traced=True, enters=3),
            Lane(later, lead.other, between=False, other=True, traced=True, enters=4, twin=2),
        ]
    return lanes


def came_true(lanes: list[Lane], guess: tuple[Before, ...], ends: tuple[Before, ...]) -> bool:
    """Whether each lane ends where those that begin there were taken to begin, in every round."""
    for n, lane in enumerate(lanes):
        if lane.enters is not None and lane.entry(0, ends) != guess[n]:
            return False
        if lane.twin is not None and ends[lane.twin] != ends[n]:
            return False
    return True


class Places:
    """Situations by number: those that the rest of a class cannot tell apart have the same."""

    def __init__(self) -> None:
        self._known: list[Situation] = []
        self._numbers: dict[object, int] = {}
        self._after: dict[object, int] = {}

    def key(self, situation: Situation) -> int:
        """The number of a situation."""
        held = situation.props
        props = frozenset((p.name, p.put_down_s, p.rig, side) for p, side in held) if held else None
        posture = situation.stance.posture
        sent = situation.sent - {Base.of(posture)} if situation.sent else None
        told = (posture, situation.stance.side, props, sent or None)
        if told not in self._numbers:
            self._numbers[told] = len(self._known)
            self._known.append(situation)
        return self._numbers[told]

    def situation(self, number: int) -> Situation:
        """The situation with a number."""
        return self._known[number]

    def after(self, step: Step, number: int) -> int:
        """The place after a step that begins in a place: after a pass it is the same wherever it began."""
        item = step.item.id
        key = (item, (step.side, step.ends, step.released), -1) if isinstance(step, Pass) else (item, None, number)
        if key not in self._after:
            self._after[key] = self.key(situation_after(step, self._known[number]))
        return self._after[key]

    def past(self, steps: list[Step], before: Before, *, traced: bool) -> Before:
        """Where a lane is after these steps of one item."""
        if not steps:
            return before
        last, trace = steps[-1], None
        if traced and isinstance(last, Pass):
            trace = (last.item.id, last.side, last.way, last.set_number)
        return Before(self.after(last, before.at), trace)
