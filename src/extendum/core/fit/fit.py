"""The exact fit: doses inside their limits, and which optional items stay, so that the class ends on the second.

The cost is separable and integer, the least cost wins, and ties go to the earliest item kept and nearest
its wanted dose. One run holds every target.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise

import numpy as np

from extendum.core.edit.script_edits import replace_items
from extendum.core.fit.counted import Tally, Wanted
from extendum.core.fit.dose_options import Choice
from extendum.core.fit.graph import Graph
from extendum.core.fit.paths import Paths
from extendum.core.fit.solver import FAR, Tables, Taken
from extendum.core.model.brief import LONGEST_CLASS_S
from extendum.core.model.dose_values import Ints, actual
from extendum.core.model.item import Item, MoveItem, dropped, may_go
from extendum.core.model.script import Script
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.facts import whole_minutes
from extendum.core.timing.layout import length_of


@dataclass(frozen=True, slots=True)
class Change:
    """One thing that a fit changes: a dose from a value to another, or an item.

    Without ``after`` the item goes out, without ``before`` it comes in again. ``kind`` is that of the dose,
    or of the item without a move.
    """

    item: str
    name: str
    unit: str
    before: int | None
    after: int | None
    kind: str = ""


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
    cost: int | None
    nearest_below_s: int | None
    nearest_above_s: int | None
    limits: tuple[Limit, ...]
    changes: tuple[Change, ...]

    @property
    def seconds(self) -> int:
        """How long the class lasts: as asked, or as it stays."""
        return self.target_s if self.reached else length_of(self.script)


class Fitter:
    """Every length that a script can have, from one run; ask it for as many targets as you like."""

    def __init__(
        self,
        script: Script,
        minutes: int | None = None,
        going: Callable[[Item], bool] = may_go,
        wanted: Wanted | None = None,
        drop_costs: Mapping[str, int] | None = None,
        up_to_s: int = LONGEST_CLASS_S,
    ) -> None:
        """Build for a script. ``minutes`` is what set-up words may announce; by default the target's.

        ``going`` says which items may be left out; ``wanted`` asks for a choice of moves, and
        ``drop_costs`` then says what leaving each out costs, by its id. Lengths beyond ``up_to_s`` are ignored.
        """
        self.script = script
        self._minutes = whole_minutes(script.brief.target_s) if minutes is None else minutes
        self._says_minutes = any("minutes" in item.said() for item in script.items() if isinstance(item, MoveItem))
        self._going, self._wanted, self._drop_costs = going, wanted, drop_costs
        self._up_to_s = up_to_s
        self._first: tuple[int, Tables] | None = None

    @cached_property
    def graph(self) -> Graph:
        """The graph of all ways."""
        taught = as_taught(self.script)
        tally = Tally(taught, self._wanted)
        return Paths(taught, self._minutes, self._going, tally, self._drop_costs).graph()

    @property
    def least_s(self) -> int:
        """The shortest that the class can be; 0 when it cannot be at all."""
        return self.graph.extremes[0] if self.graph.extremes else 0

    @property
    def most_s(self) -> int:
        """The longest that the class can be."""
        return self.graph.extremes[1] if self.graph.extremes else 0

    @cached_property
    def reachable(self) -> Ints:
        """All lengths that the class can have, ascending, up to the longest considered."""
        table = self._tables.root
        if table is None:
            return np.zeros(0, dtype=np.int64)
        return np.flatnonzero(table.costs < FAR) + table.low

    def cost_of(self, target_s: int) -> int | None:
        """The least cost of a length, or None when it cannot be reached."""
        cost = self._holding(target_s).at(target_s)
        return cost if cost < FAR else None

    def way(self, target_s: int) -> list[Taken] | None:
        """What is decided of each item on the least costly way to a length; None when it cannot be reached."""
        return self._holding(target_s).way(target_s)

    @cached_property
    def _tables(self) -> Tables:
        """The tables of every length considered."""
        return Tables(self.graph, 0, self._up_to_s)

    def _holding(self, target_s: int) -> Tables:
        """Tables that hold a length; the first tables made hold only the length first asked for."""
        if self._first is None and "_tables" not in self.__dict__:
            self._first = target_s, Tables(self.graph, target_s, min(target_s, self._up_to_s))
        return self._first[1] if self._first is not None and self._first[0] == target_s else self._tables

    def _for(self, target_s: int) -> Fitter:
        """The fitter whose set-up words announce the minutes of a target."""
        if self._says_minutes and whole_minutes(target_s) != self._minutes:
            minutes = whole_minutes(target_s)
            return Fitter(self.script, minutes, self._going, self._wanted, self._drop_costs, self._up_to_s)
        return self

    def fit(self, target_s: int) -> Fit:
        """The fit for one target, or the refusal with what stands in the way."""
        fitter = self._for(target_s)
        way = fitter.way(target_s) if fitter.least_s <= target_s <= fitter.most_s else None
        if way is None:
            return fitter._refusal(target_s)
        written = {item.id: item for item in self.script.items()}
        new: dict[str, Item] = {}
        changes: list[Change] = []
        limits: list[Limit] = []
        for taken in way:
            item = written[taken.item.id]
            changed = dropped(item, out=not taken.kept)
            if changed is not item:
                changes.append(_in_or_out(taken))
            for choice, value in zip(taken.choices, taken.values, strict=True):
                if value != choice.quantity.value:
                    quantity = choice.quantity
                    if value > quantity.most:  # words that need more than the most they may have
                        quantity = replace(quantity, most=value)
                    changed = changed.having(quantity.at(value), choice.stage)
                    now = self._now(choice)
                    if value != now and taken.item.present:
                        changes.append(Change(item.id, choice.name, choice.unit, now, value, choice.kind))
                limits += [] if choice.quantity.locked else _at_end(choice, value)
            if changed is not item:
                new[item.id] = changed
        fitted = replace_items(self.script, new, brief=replace(self.script.brief, target_s=target_s))
        cost = fitter.cost_of(target_s)
        return Fit(target_s, True, fitted, cost, target_s, target_s, tuple(limits), tuple(changes))

    def _now(self, choice: Choice) -> int:
        """The value that the class really has now; for a snapped hold it may differ from the one written."""
        item = choice.item
        if not isinstance(item, MoveItem):
            return choice.quantity.value
        return actual(item.doses[choice.stage - 1], self.script.style.breath_ms)

    def _refusal(self, target_s: int) -> Fit:
        nearest_below_s, nearest_above_s = self._around(target_s)
        near = nearest_above_s if nearest_below_s is None else nearest_below_s
        way = [] if near is None else self.way(near) or []
        choices = [choice for taken in way for choice in taken.choices]
        if nearest_below_s is None or nearest_above_s is None:
            limits = _ends(choices, "most" if nearest_above_s is None else "least")
        else:
            steps = [(choice, _coarse_step(choice)) for choice in choices]
            limits = [Limit(one.item.id, one.name, "granularity", step, "s") for one, step in steps if step > 1]
        return Fit(target_s, False, self.script, None, nearest_below_s, nearest_above_s, tuple(limits), ())

    def _around(self, target_s: int) -> tuple[int | None, int | None]:
        """The nearest lengths below and above one that cannot be reached."""
        can_be = self.graph.extremes is not None
        if can_be and target_s < self.least_s <= self._up_to_s:
            return None, self.least_s
        if can_be and self.most_s < target_s and self.most_s <= self._up_to_s:
            return self.most_s, None
        reachable = self.reachable
        below, above = reachable[reachable < target_s], reachable[reachable > target_s]
        return int(below[-1]) if len(below) else None, int(above[0]) if len(above) else None


def _in_or_out(taken: Taken) -> Change:
    """The change of an item that goes out, or comes in again with its first dose."""
    item = taken.item
    dose = item.dose if isinstance(item, MoveItem) else None
    unit, kind = (dose.measure, dose.tag) if dose else ("s", item.tag)
    if not taken.kept:
        return Change(item.id, item.name, unit, item.quantity.value, None, kind)
    return Change(item.id, item.name, unit, None, taken.values[0], kind)


def _ends(choices: Sequence[Choice], which: str) -> list[Limit]:
    """The limits at one end of all choices; a lock that would give nothing when opened is none."""
    found = []
    for choice in choices:
        quantity = choice.quantity
        end = quantity.least if which == "least" else quantity.most
        if quantity.locked and quantity.value == end:
            continue
        kept = choice.values[0] if which == "least" else choice.values[-1]
        told = "locked" if quantity.locked else which
        found.append(Limit(choice.item.id, choice.name, told, kept, choice.unit))
    return found


def _at_end(choice: Choice, value: int) -> list[Limit]:
    if value == choice.quantity.wanted:
        return []
    for which, end in (("least", choice.values[0]), ("most", choice.values[-1])):
        if value == end:
            return [Limit(choice.item.id, choice.name, which, end, choice.unit)]
    return []


def _coarse_step(choice: Choice) -> int:
    gaps = [int(b - a) for a, b in pairwise(choice.seconds)]
    return min((gap for gap in gaps if gap > 0), default=0)
