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

from extendum.core.compile import Laid, lay_out, length_of, whole_minutes
from extendum.core.dose import Elastic, Hold, pass_seconds
from extendum.core.edit import replace_items
from extendum.core.passes import pass_parts, still_parts, work_seconds
from extendum.core.script import Item, MoveItem, Quiet, Script, Talk
from extendum.core.sequence import Pass, Still
from extendum.core.steps import actual, allowed
from extendum.core.style import CueStyle
from extendum.core.words import mentions

#: Of a whole unit of cost (10**6), what a hold off the 5 s grid costs: enough to prefer the grid
#: between near equals, too little to distort a fit.
OFF_GRID = 500_000
GRID_S = 5
UNIT = 10**6
_FAR = np.iinfo(np.int64).max // 4


@dataclass(frozen=True, slots=True)
class Choice:
    """What one dose may be: values, the seconds that the class then takes for it, and the cost of each.

    The seconds are those of all passes and rounds of the item's stage; what does not depend on any dose
    is in the first choice of all.
    """

    item: Item
    stage: int
    values: tuple[int, ...]
    seconds: tuple[int, ...]
    costs: tuple[int, ...]

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity that is chosen."""
        return self.item.doses[self.stage - 1].quantity if isinstance(self.item, MoveItem) else self.item.quantity

    @property
    def name(self) -> str:
        """What a sentence calls it: the item, and its stage where there are several."""
        several = isinstance(self.item, MoveItem) and self.item.then
        return f"{self.item.name}, part {self.stage}" if several else self.item.name


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


def cost_of(wanted_s: int, dose_s: int, weight: int, *, off_grid: bool) -> int:
    """The cost of one dose: the table that the fit shares with its oracle.

    weight x ((dose - wanted) / max(wanted, 10 s))^2 with doses in seconds of one pass and the weight
    equal to the wanted seconds over all passes, so that every dose gives the same share; plus OFF_GRID
    for a hold off the 5 s grid. An integer, rounded half up.
    """
    scale = max(wanted_s, 10) ** 2
    cost = (2 * UNIT * weight * (dose_s - wanted_s) ** 2 + scale) // (2 * scale)
    return cost + OFF_GRID if off_grid else cost


def choices(script: Script, minutes: int) -> tuple[Choice, ...]:
    """What each dose may be, in order, with the class announced as lasting this many minutes."""
    laid = lay_out(script, minutes)
    by_item: dict[str, list[Laid]] = {}
    for one in laid:
        by_item.setdefault(one.step.item.id, []).append(one)
    found: list[Choice] = []
    rest = sum(part.seconds for one in laid for part in one.parts)
    for item in script.items():
        own = by_item.get(item.id, [])
        if isinstance(item, MoveItem):
            some = [_of_stage(item, stage, own, script.style) for stage in range(1, len(item.doses) + 1)]
        else:
            some = [_of_still(item, own)]
        rest -= sum(now for _, now in some)
        found += [choice for choice, _ in some]
    if found:  # what no dose changes is carried by the first choice
        found[0] = replace(found[0], seconds=tuple(s + rest for s in found[0].seconds))
    return tuple(found)


def _of_still(item: Talk | Quiet, own: list[Laid]) -> tuple[Choice, int]:
    """The choice of an item without a move, and the seconds that it has now."""
    q = item.quantity
    values = (q.value,) if q.locked else tuple(range(q.least, q.most + 1))
    seconds = []
    for value in values:
        changed = item.having(q.at(value))
        steps = (replace(one.step, item=changed) for one in own if isinstance(one.step, Still))
        made = (still_parts(step, one.before)[0] for step, one in zip(steps, own, strict=True))
        seconds.append(sum(part.seconds for parts in made for part in parts))
    weight = q.wanted * len(own)
    costs = tuple(cost_of(q.wanted, value, weight, off_grid=False) for value in values)
    return Choice(item, 1, values, tuple(seconds), costs), sum(p.seconds for one in own for p in one.parts)


def _of_stage(item: MoveItem, stage: int, own: list[Laid], style: CueStyle) -> tuple[Choice, int]:
    """The choice of one dose of a move, and the seconds that it has now.

    Where the words say the dose, their own length depends on it, so that whole passes are measured.
    """
    dose = item.doses[stage - 1]
    even = stage == 1 and item.even
    q = dose.quantity
    values = (actual(dose, style.breath_ms),) if q.locked else allowed(dose, style.breath_ms, even=even)
    whole_passes = stage == 1 and _says_its_dose(item)

    def seconds_at(value: int) -> int:
        total = 0
        for one in own:
            if not isinstance(one.step, Pass):
                continue
            if whole_passes:
                changed = replace(one.step, item=item.having(q.at(value)))
                parts = pass_parts(changed, one.before, style, one.facts)[0]
                total += sum(part.seconds for part in parts if not (part.kind.works and part.stage != 1))
            else:
                total += _work_s(one.step, stage, value, style)
        return total

    wanted = actual(dose, style.breath_ms, q.wanted)
    weight = sum(_work_s(one.step, stage, wanted, style) for one in own if isinstance(one.step, Pass))
    snapped = isinstance(dose, Hold) and dose.snap
    grid = isinstance(dose, Hold) and not snapped
    wanted_s = pass_seconds(dose, wanted)
    costs = tuple(cost_of(wanted_s, pass_seconds(dose, v), weight, off_grid=grid and v % GRID_S != 0) for v in values)
    now = seconds_at(actual(dose, style.breath_ms))
    return Choice(item, stage, values, tuple(map(seconds_at, values)), costs), now


def _work_s(this: Pass, stage: int, value: int, style: CueStyle) -> int:
    """The work of a stage in a pass, whose two halves are of equal whole seconds."""
    return work_seconds(this, stage, this.value(stage, style.breath_ms, value))


def _says_its_dose(item: MoveItem) -> bool:
    texts = (*item.words.timed(), item.words.demonstration, *(stage.words for stage in item.then))
    return any(mentions(text, {"count", "seconds"}) for text in texts)


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
