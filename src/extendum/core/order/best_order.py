"""The best order of a few things that have a cost for every neighbourhood: exact up to twelve, good beyond."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from extendum.core.model.dose_values import Ints

#: Up to so many the order is proved best.
EXACT_UP_TO = 12
_FAR = int(np.iinfo(np.int64).max // 4)


@dataclass(frozen=True, slots=True, eq=False)
class Costs:
    """What an order costs; all are integers that are added up.

    ``begin[j]``: j comes first. ``pair[k][i, j]``: j comes at place k straight after i. ``finish[i]``: i comes last.
    ``wrap[i, j]``: i comes last and j first, where the order is gone through again; all nought where it is
    not. ``above[i, j]``: i comes anywhere before j. ``place[k, j]``: j stands at place k. ``needs[j]`` are
    those that must come before j, and ``first`` is the one that must begin, if any.
    """

    begin: Ints
    pair: tuple[Ints, ...]
    finish: Ints
    wrap: Ints
    above: Ints
    place: Ints
    needs: tuple[frozenset[int], ...]
    first: int | None = None

    @property
    def size(self) -> int:
        """How many things."""
        return len(self.needs)

    def of(self, order: list[int]) -> int:
        """The cost of an order; far too much for one that breaks a rule."""
        seen = set[int]()
        for one in order:
            if not self.needs[one] <= seen:
                return _FAR
            seen.add(one)
        if self.first is not None and order[0] != self.first:
            return _FAR
        line = np.array(order)
        total = self.begin[order[0]] + self.finish[order[-1]] + self.wrap[order[-1], order[0]]
        total += sum(self.pair[k][a, b] for k, (a, b) in enumerate(pairwise(order), 1))
        total += self.place[np.arange(len(order)), line].sum()
        return int(total + np.triu(self.above[np.ix_(line, line)], 1).sum())


def best_tour(costs: Costs) -> list[int]:
    """The order of least cost, or a good one where there are too many to be sure."""
    return _exact(costs) if costs.size <= EXACT_UP_TO else _good(costs)


def _exact(costs: Costs) -> list[int]:
    """Dynamic programming over the sets of what is placed and the last placed; once for every possible first."""
    firsts = [costs.first] if costs.first is not None else [j for j in range(costs.size) if not costs.needs[j]]
    if not costs.wrap.any():
        return _from(costs, firsts)
    tours = [_from(costs, [first]) for first in firsts]
    return min(tours, key=costs.of)


def _from(costs: Costs, firsts: list[int]) -> list[int]:
    """The best order that begins with one of these; the wrap is that of a single first."""
    n = costs.size
    masks = np.arange(1 << n)
    bits = ((masks[:, None] >> np.arange(n)) & 1).astype(np.int64)
    above = bits @ costs.above  # what placing j costs after everything in the mask
    needed = np.array([sum(1 << i for i in need) for need in costs.needs], dtype=np.int64)
    best = np.full((1 << n, n), _FAR, dtype=np.int64)
    came = np.full((1 << n, n), -1, dtype=np.int64)
    for first in firsts:
        best[1 << first, first] = costs.begin[first] + costs.place[0, first]
    counts = bits.sum(axis=1)
    for count in range(1, n):
        level = masks[counts == count]
        for j in range(n):
            ready = level[((level >> j) & 1 == 0) & (level & needed[j] == needed[j])]
            if not len(ready):
                continue
            through = best[ready] + costs.pair[count][:, j]
            last = through.argmin(axis=1)
            total = through[np.arange(len(ready)), last] + above[ready, j] + costs.place[count, j]
            best[ready | 1 << j, j] = np.minimum(total, _FAR)
            came[ready | 1 << j, j] = last
    full = (1 << n) - 1
    ends = best[full] + costs.finish + (costs.wrap[:, firsts[0]] if len(firsts) == 1 else 0)
    order, mask = [int(ends.argmin())], full
    while len(order) < n:
        before = int(came[mask, order[-1]])
        mask &= ~(1 << order[-1])
        order.append(before)
    return order[::-1]


def _good(costs: Costs) -> list[int]:
    """From the nearest next one each time, stretches are moved and turned until nothing gets better."""
    order = _greedy(costs)
    now = costs.of(order)
    better = True
    while better:
        better = False
        for candidate in _near(order):
            cost = costs.of(candidate)
            if cost < now:
                order, now, better = candidate, cost, True
                break
    return order


def _greedy(costs: Costs) -> list[int]:
    order: list[int] = [] if costs.first is None else [costs.first]
    while len(order) < costs.size:
        ready = [j for j in range(costs.size) if j not in order and costs.needs[j] <= set(order)]
        step = [(int(costs.pair[len(order)][order[-1], j] if order else costs.begin[j]), j) for j in ready]
        later = [sum(int(costs.above[k, j]) for k in range(costs.size) if k not in order) for j in ready]
        order.append(min((cost - after, j) for (cost, j), after in zip(step, later, strict=True))[1])
    return order


def _near(order: list[int]) -> list[list[int]]:
    """Orders one step away: a stretch of up to three elsewhere, or any stretch turned round."""
    n, found = len(order), []
    for a in range(n):
        for b in range(a + 1, min(a + 3, n) + 1):
            rest = order[:a] + order[b:]
            found += [rest[:to] + order[a:b] + rest[to:] for to in range(len(rest) + 1) if to != a]
        found += [order[:a] + order[a:b][::-1] + order[b:] for b in range(a + 2, n + 1)]
    return found
