"""The exact fit: choose every dose inside its limits so that the class ends on the second.

One decision per item. The cost is separable and integer, the least cost wins, and ties go to the
earliest item nearest its wanted dose. Solved by dynamic programming over items and seconds; one run
holds every target.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from extendum.core.choices import Choice, choices
from extendum.core.compile import length_of, whole_minutes
from extendum.core.edit import replace_items
from extendum.core.script import Item, MoveItem, Script
from extendum.core.steps import actual
from extendum.core.words import mentions

_FAR = np.iinfo(np.int64).max // 4


@dataclass(frozen=True, slots=True)
class Change:
    """One dose that a fit changes."""

    item: str
    name: str
    unit: str
    before: int
    after: int


@dataclass(frozen=True, slots=True)
class Limit:
    """A limit that stands in the way or is at its end: the item, which limit, and its value."""

    item: str
    name: str
    which: str
    value: int
    unit: str


@dataclass(frozen=True, slots=True)
class Fit:
    """The answer to one target. When it is not reached, the script is the one that was asked about."""

    target_s: int
    reached: bool
    script: Script
    seconds: int
    cost: int | None
    nearest_below_s: int | None
    nearest_above_s: int | None
    limits: tuple[Limit, ...]
    changes: tuple[Change, ...]


def _says_minutes(script: Script) -> bool:
    return any(
        mentions(text, {"minutes"})
        for item in script.moves()
        for text in (*item.words.timed(), item.words.demonstration, *(stage.words for stage in item.then))
    )


class Fitter:
    """Every length that a script can have, from one run; ask it for as many targets as you like."""

    def __init__(self, script: Script, minutes: int | None = None) -> None:
        """Build the tables. ``minutes`` is what set-up words may announce; by default the target's."""
        self.script = script
        self._minutes = whole_minutes(script.brief.target_s) if minutes is None else minutes
        self._says_minutes = _says_minutes(script)

    @cached_property
    def _choices(self) -> tuple[Choice, ...]:
        return choices(self.script, self._minutes)

    @cached_property
    def _tables(self) -> list[NDArray[np.int64]]:
        """Suffix tables: entry t of table i is the least cost of items i.. lasting t s over their least."""
        table = np.zeros(1, dtype=np.int64)
        tables = [table]
        for choice in reversed(self._choices):
            low, high = min(choice.seconds), max(choice.seconds)
            size = len(table)
            wider: NDArray[np.int64] = np.full(size + high - low, _FAR, dtype=np.int64)
            for seconds, cost in zip(choice.seconds, choice.costs, strict=True):
                part = wider[seconds - low : seconds - low + size]
                np.minimum(part, table + cost, out=part)
            np.minimum(wider, _FAR, out=wider)
            table = wider
            tables.append(table)
        tables.reverse()
        return tables

    @cached_property
    def least_s(self) -> int:
        """The shortest that the class can be."""
        return sum(min(choice.seconds) for choice in self._choices)

    @cached_property
    def most_s(self) -> int:
        """The longest that the class can be."""
        return sum(max(choice.seconds) for choice in self._choices)

    @cached_property
    def reachable(self) -> NDArray[np.int64]:
        """All lengths that it can have, ascending."""
        return np.flatnonzero(self._tables[0] < _FAR) + self.least_s

    def values_for(self, target_s: int) -> list[int] | None:
        """The value of each item for a target, or None when it cannot be reached."""
        rest = target_s - self.least_s
        if not 0 <= rest < len(self._tables[0]) or self._tables[0][rest] >= _FAR:
            return None
        found = []
        for index, choice in enumerate(self._choices):
            low, after = min(choice.seconds), self._tables[index + 1]
            goal = self._tables[index][rest]
            wanted = choice.quantity.wanted
            best: tuple[int, int, int] | None = None
            for value, seconds, cost in zip(choice.values, choice.seconds, choice.costs, strict=True):
                left = rest - (seconds - low)
                if 0 <= left < len(after) and after[left] + cost == goal:
                    nearness = (abs(value - wanted), value, left)
                    best = nearness if best is None else min(best, nearness)
            assert best is not None, "the table says that a choice exists"  # noqa: S101
            found.append(best[1])
            rest = best[2]
        return found

    def _now(self, choice: Choice) -> int:
        """The value that the class really has now: a snapped hold's may differ from what stands."""
        item = choice.item
        if not isinstance(item, MoveItem):
            return choice.quantity.value
        return actual(item.doses[choice.stage - 1], self.script.style.breath_ms)

    def fit(self, target_s: int) -> Fit:
        """The fit for one target, or the refusal with what stands in the way."""
        if self._says_minutes and whole_minutes(target_s) != self._minutes:
            return Fitter(self.script, whole_minutes(target_s)).fit(target_s)
        values = self.values_for(target_s)
        if values is None:
            return self._refusal(target_s)
        new: dict[str, Item] = {}
        changes, limits, cost = [], [], 0
        for choice, value in zip(self._choices, values, strict=True):
            quantity = choice.quantity
            cost += choice.costs[choice.values.index(value)]
            if value != quantity.value:
                changed = new.get(choice.item.id, choice.item)
                new[choice.item.id] = changed.having(quantity.at(value), choice.stage)
                if value != self._now(choice):
                    change = Change(choice.item.id, choice.name, _unit(choice), self._now(choice), value)
                    changes.append(change)
            limits += [] if quantity.locked else _at_end(choice, value)
        fitted = replace_items(self.script, new)
        fitted = replace(fitted, brief=replace(fitted.brief, target_s=target_s))
        return Fit(target_s, True, fitted, target_s, cost, target_s, target_s, tuple(limits), tuple(changes))

    def _refusal(self, target_s: int) -> Fit:
        reachable = self.reachable
        below, above = reachable[reachable < target_s], reachable[reachable > target_s]
        limits: list[Limit] = []
        if target_s < self.least_s or target_s > self.most_s:
            which = "least" if target_s < self.least_s else "most"
            for choice in self._choices:
                quantity, low, high = choice.quantity, min(choice.values), max(choice.values)
                end = quantity.least if which == "least" else quantity.most
                if quantity.locked and quantity.value == end:
                    continue  # unlocking it would give nothing
                kept = low if which == "least" else high
                told = "locked" if quantity.locked else which
                limits.append(Limit(choice.item.id, choice.name, told, kept, _unit(choice)))
        else:
            for choice in self._choices:
                step = _coarse_step(choice)
                if step > 1:
                    limits.append(Limit(choice.item.id, choice.name, "granularity", step, "s"))
        return Fit(
            target_s,
            False,
            self.script,
            length_of(self.script),
            None,
            int(below[-1]) if len(below) else None,
            int(above[0]) if len(above) else None,
            tuple(limits),
            (),
        )


def _at_end(choice: Choice, value: int) -> list[Limit]:
    quantity = choice.quantity
    if value == quantity.wanted:
        return []
    for which, end in (("least", min(choice.values)), ("most", max(choice.values))):
        if value == end:
            return [Limit(choice.item.id, choice.name, which, end, _unit(choice))]
    return []


def _coarse_step(choice: Choice) -> int:
    gaps = [b - a for a, b in pairwise(choice.seconds)]
    return min((gap for gap in gaps if gap > 0), default=0)


def _unit(choice: Choice) -> str:
    item = choice.item
    return item.doses[choice.stage - 1].unit if isinstance(item, MoveItem) else "s"


def fit(script: Script, target_s: int) -> Fit:
    """The script fitted to a target, or the refusal with what stands in the way."""
    return Fitter(script).fit(target_s)
