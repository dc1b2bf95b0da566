"""The steps of a group lane by lane: what its items meet, and where they leave bodies and props."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from extendum.core.fit.counted import MayGo
from extendum.core.fit.item_options import Context
from extendum.core.fit.lanes import Before, Places, lanes_of
from extendum.core.model.body import Side
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.section import Group
from extendum.core.timing.durations import Facts
from extendum.core.timing.sequence import Pass, Step, arrived

#: Where a lane is: known, or since its unknown beginning only these items without a move were met.
Told = Before | tuple[str, ...]


class LaneSteps:
    """One group's lanes, with the steps of its items and where they lead."""

    def __init__(self, group: Group, items: tuple[Item, ...], class_lead: Side, places: Places) -> None:
        self.lanes = lanes_of(group, class_lead)
        self._group, self._lead, self._places = group, class_lead, places
        self._items = {item.id: item for item in items}
        self._steps: dict[tuple[str, int], list[Step]] = {}
        self._later: dict[tuple[str, int], list[tuple[Step, int]]] = {}
        self._ends: dict[str, list[Before | None]] = {}

    def steps(self, item: Item, lane: int) -> list[Step]:
        """The steps of an item in one round of a lane."""
        key = (item.id, lane)
        if key not in self._steps:
            self._steps[key] = self.lanes[lane].steps(item, self._group, self._lead)
        return self._steps[key]

    def past(self, item: Item, at: tuple[Before, ...]) -> tuple[Before, ...]:
        """Where each lane is after an item that is kept."""
        if isinstance(item, MoveItem):
            return tuple([end or before for end, before in zip(self._end(item), at, strict=True)])
        return tuple([self._past(item, n, before) for n, before in enumerate(at)])

    def _end(self, item: MoveItem) -> list[Before | None]:
        """Where each lane is after a move, wherever it was before; None where the move is not in it."""
        if item.id not in self._ends:
            lanes, anywhere = range(len(self.lanes)), Before(0)
            self._ends[item.id] = [self._past(item, n, anywhere) if self.steps(item, n) else None for n in lanes]
        return self._ends[item.id]

    def _past(self, item: Item, lane: int, before: Before) -> Before:
        return self._places.past(self.steps(item, lane), before, traced=self.lanes[lane].traced)

    def guesses(self, entry: int, may_go: MayGo) -> list[tuple[Before, ...]]:
        """Where each lane may begin, over all ways to cut the group, which itself begins at ``entry``.

        Where a lane ends is first told without knowing where it begins: after its last move, or since its
        beginning only with the time without a move that stays.
        """
        if len(self.lanes) == 1:
            return [(Before(entry),)]
        ends: set[tuple[Told, ...]] = {tuple(() for _ in self.lanes)}
        for item in self._items.values():
            kept = {self._told(item, one) for one in ends}
            ends = ends | kept if may_go(item) else kept
        found: dict[tuple[Before, ...], None] = {}
        for end in ends:
            begins, done = list[Before](), list[Before]()
            for n, lane in enumerate(self.lanes):
                at = lane.entry(entry, tuple(done))
                begins.append(at)
                told = end[n]
                for still in () if isinstance(told, Before) else told:
                    at = self._past(self._items[still], n, at)
                done.append(told if isinstance(told, Before) else at)
            found[tuple(begins)] = None
        return list(found)

    def _told(self, item: Item, at: tuple[Told, ...]) -> tuple[Told, ...]:
        """Where each lane is after an item that is kept, as far as it can be told without its beginning."""
        if isinstance(item, MoveItem):
            return tuple([end or one for end, one in zip(self._end(item), at, strict=True)])
        found = list(at)
        for n, one in enumerate(at):
            if self.steps(item, n):
                found[n] = self._past(item, n, one) if isinstance(one, Before) else (*one, item.id)
        return tuple(found)

    def meets(self, item: Item, at: tuple[Before, ...]) -> tuple[Before | None, ...]:
        """Where the lanes are that an item is in; None for the others."""
        return tuple(before if self.steps(item, n) else None for n, before in enumerate(at))

    def contexts(self, item: Item, at: tuple[Before | None, ...], told: Facts) -> Iterator[Context]:
        """The steps of an item in every lane, each with what it meets; the rounds of a lane are alike."""
        for n, (lane, before) in enumerate(zip(self.lanes, at, strict=True)):
            if before is not None:
                steps = self.steps(item, n)
                straight, again = lane.straight(before, steps), not lane.fresh
                other = lane.other and isinstance(item, MoveItem) and item.move.sided
                first = arrived(steps[0], straight, lane.rounds[0], 1, again=again, other=other)
                yield Context(first, before.at, told, lane.rounds)
                for step, place in self._going_on(item, n):
                    yield Context(step, place, told, lane.rounds)

    def _going_on(self, item: Item, lane: int) -> list[tuple[Step, int]]:
        """The steps of an item in a lane after its first, each with its place: wherever the first began."""
        key = item.id, lane
        if key not in self._later:
            steps, round_ = self.steps(item, lane), self.lanes[lane].rounds[0]
            self._later[key] = [
                (arrived(one, before, round_, 1, again=True), self._places.after(before, 0))
                for before, one in pairwise(steps)
                if isinstance(before, Pass)
            ]
        return self._later[key]
