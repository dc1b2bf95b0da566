"""What each dose of a class may be: its values, the seconds that they take, and their costs.

All doses at once, in whole numbers, by the rules that `dose_values` and `durations` have for one: so that the lengths
of a fit are the timeline's.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from extendum.core.model.brief import Priority
from extendum.core.model.dose import Dose, Hold
from extendum.core.model.dose_values import Count, Ints, actual, allowed, at_least, conventional, tapered
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.section import Group
from extendum.core.model.style import CueStyle
from extendum.core.timing.durations import seconds_at, work_rule, work_seconds

#: Of a whole unit of cost (10**6), what a hold off the 5 s grid costs: enough to prefer the grid
#: between near equals, too little to distort a fit.
OFF_GRID = 500_000
GRID_S = 5
UNIT = 10**6
#: What leaving an item out costs, as a share of its weight: shrinking it to nothing would cost 1.
DROPPING = {Priority.MOVES: (4, 1), Priority.EVEN: (1, 2), Priority.HOLDS: (1, 16)}
#: Weight times the square of a distance, up to which a cost stays within 64 bits on the way.
_COST_IN_64_BITS = 2**40
_NONE: Mapping[str, int] = {}


@dataclass(frozen=True, slots=True, eq=False)
class Choice:
    """What one dose may be: values, the seconds that all its passes then take, and the cost of each."""

    item: Item
    stage: int
    values: tuple[int, ...]
    seconds: Ints
    costs: Ints
    least_s: int
    most_s: int

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity that is chosen."""
        return self.item.dose_at(self.stage).quantity if isinstance(self.item, MoveItem) else self.item.quantity

    @property
    def name(self) -> str:
        """What a sentence calls it: the item, and its stage where there are several."""
        several = isinstance(self.item, MoveItem) and self.item.then
        return f"{self.item.name}, part {self.stage}" if several else self.item.name

    @property
    def unit(self) -> str:
        """The unit of its values."""
        return self.item.dose_at(self.stage).measure if isinstance(self.item, MoveItem) else "s"

    @property
    def kind(self) -> str:
        """The kind of its dose, or of its item without a move."""
        return self.item.dose_at(self.stage).tag if isinstance(self.item, MoveItem) else self.item.tag


class Visited(NamedTuple):
    """An item, its group, and how often it is done in one round of it."""

    item: Item
    group: Group
    times: int


class Chosen(NamedTuple):
    """The choices of the doses of an item, with the seconds of its work alone, and what they weigh together."""

    choices: tuple[Choice, ...]
    weight: int


def cost_of(wanted_s: Count, dose_s: Count, weight: Count, halves: Count | int) -> Count:
    """The cost of one dose, or of many: the table that the fit shares with its oracle and with catching up.

    weight x ((dose - wanted) / max(wanted, 10 s))^2 with doses in seconds of one pass, all of it, and the weight
    equal to the wanted seconds over all passes, times the teacher's mark in halves, so that every dose
    gives the same share. An integer, rounded half up.
    """
    scale = at_least(wanted_s, 10) ** 2
    return (UNIT * halves * weight * (dose_s - wanted_s) ** 2 + scale) // (2 * scale)


def off_grid_cost(dose: Dose | None) -> int:
    """What a dose costs beside that in each value off the 5 s grid: holds are even, unless they snap to breaths."""
    return OFF_GRID if isinstance(dose, Hold) and not dose.snap else 0


def drop_cost(weight: int, halves: int, priority: Priority) -> int:
    """The cost of leaving an item out, whose doses weigh so many seconds, by the class's priority."""
    share, of = DROPPING[priority]
    return UNIT * weight * halves * share // (2 * of)


def choices_of(visited: Iterable[Visited], style: CueStyle, least_s: Mapping[str, int] = _NONE) -> dict[str, Chosen]:
    """The choices of these items, by their ids; what is beside the work follows from where an item stands.

    ``least_s`` is what the words of talks need, by their ids.
    """
    rows = [row for one in visited for row in _rows(one, style, least_s)]
    if not rows:
        return {}
    # The values of all doses behind one another, each dose's wanted value last.
    sizes = np.array([len(row.values) + 1 for row in rows], dtype=np.int64)
    values = np.array([value for row in rows for value in (*row.values, row.wanted)], dtype=np.int64)
    numbers = np.array([_numbers(row) for row in rows], dtype=np.int64)
    cycle_ms, lacks_ms, factor, multiple, times, halves, off_grid = np.repeat(numbers.T, sizes, axis=1)
    ends: Ints = np.cumsum(sizes)
    starts: Ints = ends - sizes

    seconds = times * seconds_at(values, cycle_ms, lacks_ms, factor, multiple)
    for index, row in enumerate(rows):
        if row.tapers:
            at = slice(starts[index], ends[index])
            seconds[at] += _later_s(row, values[at], style.breath_ms)
    weights = seconds[ends - 1]

    lasting = seconds_at(values, cycle_ms, lacks_ms, factor, multiple)  # of one pass
    wanted = lasting[ends - 1]
    each_wanted, each_weight = np.repeat(wanted, sizes), np.repeat(weights, sizes)
    costs = cost_of(each_wanted, lasting, each_weight, halves)
    furthest = np.maximum.reduceat(np.abs(lasting - each_wanted), starts)
    for n in np.flatnonzero(weights * furthest**2 >= _COST_IN_64_BITS):
        weight, wanted_s, at = int(weights[n]), int(wanted[n]), slice(starts[n], ends[n])
        mark = rows[n].visited.item.matters.halves
        costs[at] = [cost_of(wanted_s, s, weight, mark) for s in lasting[at].tolist()]
    costs += np.where(lasting % GRID_S, off_grid, 0)

    found: dict[str, list[Choice]] = {}
    weigh: Counter[str] = Counter()
    for row, start, end, weight in zip(rows, starts.tolist(), ends.tolist(), weights.tolist(), strict=True):
        own, last = row.visited.item, end - 1
        # More of a dose never lasts shorter.
        ends_s = int(seconds[start]), int(seconds[last - 1])
        one = Choice(own, row.stage, row.values, seconds[start:last], costs[start:last], *ends_s)
        found.setdefault(own.id, []).append(one)
        weigh[own.id] += weight
    return {item: Chosen(tuple(choices), weigh[item]) for item, choices in found.items()}


class _Row(NamedTuple):
    """One dose with what it may be; the dose is None where it is time without a move."""

    visited: Visited
    stage: int
    dose: Dose | None
    values: tuple[int, ...]
    wanted: int

    @property
    def tapers(self) -> bool:
        """Whether later rounds do less."""
        group = self.visited.group
        return self.dose is not None and group.rounds > 1 and group.taper_percent < 100


def _rows(visited: Visited, style: CueStyle, least_s: Mapping[str, int]) -> Iterator[_Row]:
    item = visited.item
    if not isinstance(item, MoveItem):
        q, said_s = item.quantity, least_s.get(item.id, 0)
        # Words that need more than the most they may have win over it.
        values = tuple(range(max(q.least, said_s), max(q.most, said_s) + 1))
        yield _Row(visited, 1, None, (q.value,) if q.locked else values, q.wanted)
        return
    for stage, dose in enumerate(item.doses, 1):
        q = dose.quantity
        if q.locked:
            values = (actual(dose, style.breath_ms),)
        else:
            values = allowed(dose, style.breath_ms, even=item.even(stage))
            values = conventional(values, dose, style, item.move.posture)
        yield _Row(visited, stage, dose, values, actual(dose, style.breath_ms, q.wanted))


def _numbers(row: _Row) -> tuple[int, ...]:
    """What the seconds and costs of a dose follow from.

    Its rule of work; how often it is alike; its mark in halves; the cost of being off the grid.
    """
    item, group = row.visited.item, row.visited.group
    times = row.visited.times * (1 if row.tapers else group.rounds)
    return (*work_rule(item, row.stage), times, item.matters.halves, off_grid_cost(row.dose))


def _later_s(row: _Row, values: Ints, breath_ms: int) -> Ints:
    """The seconds of the work of a dose that does less in later rounds, over all but the first."""
    visited, total = row.visited, np.zeros_like(values)
    assert isinstance(visited.item, MoveItem)  # noqa: S101 - time without a move does not taper
    for round_ in range(2, visited.group.rounds + 1):
        done = in_round(visited.item, row.stage, values, round_, visited.group.taper_percent, breath_ms)
        total += visited.times * work_seconds(visited.item, row.stage, done)
    return total


def in_round(item: MoveItem, stage: int, values: Ints, round_: int, taper_percent: int, breath_ms: int) -> Ints:
    """What each value of a dose is in a round, as `Pass.value` has it for one."""
    return tapered(item.dose_at(stage), values, round_, taper_percent, breath_ms, even=item.even(stage))
