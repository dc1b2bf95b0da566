"""Solves the graph: every length that a class can have, with the least cost of each, and the way to one.

Dynamic programming over nodes and seconds, from the end to the root, gives every target at once; for one
alone, only the lengths on a way to it are considered.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import NamedTuple

import numpy as np

from extendum.core.fit.dose_options import Choice
from extendum.core.fit.graph import Edge, Graph, Node
from extendum.core.fit.item_options import NOTHING
from extendum.core.model.dose_values import Ints
from extendum.core.model.item import Item

FAR = int(np.iinfo(np.int64).max // 4)


class Table(NamedTuple):
    """Least costs by length: entry t is that of ``low + t`` seconds; FAR where none can be."""

    low: int
    costs: Ints

    def at(self, seconds: int) -> int:
        """The least cost of a length; FAR where it cannot be."""
        place = seconds - self.low
        return int(self.costs[place]) if 0 <= place < len(self.costs) else FAR

    def within(self, least_s: int, most_s: int) -> Table | None:
        """The table without what is shorter or longer; None when nothing is left."""
        first, last = max(0, least_s - self.low), most_s - self.low + 1
        if first == 0 and last >= len(self.costs):
            return self
        costs = self.costs[first : max(0, last)]
        return Table(self.low + first, costs) if len(costs) else None


class Taken(NamedTuple):
    """What was decided of one item: its values, stage by stage; none where it is left out."""

    item: Item
    kept: bool
    choices: tuple[Choice, ...]
    values: tuple[int, ...]


class Tables:
    """The tables of all nodes of a graph."""

    def __init__(self, graph: Graph, least_s: int, most_s: int) -> None:
        """For whole lengths from least to most: of each node, what can be after it on a way to one of them."""
        self._root = graph.root
        self._of: dict[Node, Table] = {graph.end: Table(0, np.zeros(1, dtype=np.int64))}
        self._after: dict[tuple[int, int, int], Table] = {}
        before, after = graph.before, graph.after
        for node in graph.nodes:
            if node not in before:
                continue
            (least_before_s, most_before_s), (least_after_s, most_after_s) = before[node], after[node]
            shortest_s, longest_s = least_s - most_before_s, most_s - least_before_s
            if shortest_s > most_after_s or longest_s < least_after_s:
                continue
            table = _least(self._through(edge) for edge in node.edges)
            table = table.within(shortest_s, longest_s) if table else None
            if table is not None:
                self._of[node] = table

    @property
    def root(self) -> Table | None:
        """The least cost of every length of the whole class; None when none of them can be."""
        return self._of.get(self._root)

    def at(self, seconds: int) -> int:
        """The least cost of a length of the whole class; FAR where it cannot be."""
        return FAR if self.root is None else self.root.at(seconds)

    def _through(self, edge: Edge) -> Table | None:
        """The table of everything from an edge on."""
        after = self._stages(edge, 0)
        if after is None:
            return None
        if edge.cost:
            return Table(after.low, np.minimum(after.costs + edge.cost, FAR))
        return Table(after.low + edge.offer.fixed_s, after.costs) if edge.offer.fixed_s else after

    def _stages(self, edge: Edge, stage: int) -> Table | None:
        """The table from a stage of an edge's item on; the same for every edge that goes on alike."""
        if stage == len(edge.offer.choices) or edge.to not in self._of:
            return self._of.get(edge.to)
        key = id(edge.to), id(edge.offer.choices), stage
        if key not in self._after:
            after = self._stages(edge, stage + 1)
            assert after is not None  # noqa: S101 - the end of the edge has a table
            self._after[key] = _with(edge.offer.choices[stage], after)
        return self._after[key]

    def way(self, target_s: int) -> list[Taken] | None:
        """The least costly way of this length; None when there is none.

        Of equal costs, the earliest item is kept rather than left out, and nearest its wanted dose. All
        ways that are still equal are walked at once, so that the order of the items alone decides.
        """
        if self.at(target_s) >= FAR:
            return None
        here, taken = {(self._root, target_s)}, list[Taken]()
        while True:
            here = set(self._undecided(here))
            edges = [(edge, rest) for node, rest in here for edge in node.edges]
            if not edges:
                return taken
            done, here = self._decide(edges, here)
            taken.append(done)

    def _decide(
        self, edges: list[tuple[Edge, int]], here: set[tuple[Node, int]]
    ) -> tuple[Taken, set[tuple[Node, int]]]:
        """The decision on the next item, and where it leads."""
        node, rest = next(iter(here))
        goal = self._of[node].at(rest)
        on = [(edge, rest) for edge, rest in edges if self._cost(edge, rest) == goal]
        kept = [(edge, rest - edge.offer.fixed_s) for edge, rest in on if edge.offer is not NOTHING]
        item = edges[0][0].item
        assert item is not None  # noqa: S101
        if not kept:
            return Taken(item, False, (), ()), {(edge.to, rest) for edge, rest in on}
        values: list[int] = []
        for stage in range(len(kept[0][0].offer.choices)):
            value, cost, kept = self._best(kept, stage, goal)
            values.append(value)
            goal -= cost
        return Taken(item, True, kept[0][0].offer.choices, tuple(values)), {(edge.to, rest) for edge, rest in kept}

    def _cost(self, edge: Edge, rest: int) -> int:
        after = self._stages(edge, 0)
        return FAR if after is None else min(FAR, after.at(rest - edge.offer.fixed_s) + edge.cost)

    def _best(self, kept: list[tuple[Edge, int]], stage: int, goal: int) -> tuple[int, int, list[tuple[Edge, int]]]:
        """The value of a stage that lies on a least costly way and nearest the wanted one; its cost; what goes on."""
        found: dict[tuple[int, int], tuple[int, list[tuple[Edge, int]]]] = {}
        for edge, rest in kept:
            after, choice = self._stages(edge, stage + 1), edge.offer.choices[stage]
            assert after is not None  # noqa: S101
            wanted = choice.quantity.wanted
            for value, seconds, cost in zip(choice.values, choice.seconds.tolist(), choice.costs.tolist(), strict=True):
                if cost <= goal and after.at(rest - seconds) + cost == goal:
                    near = (abs(value - wanted), value)
                    found.setdefault(near, (cost, []))[1].append((edge, rest - seconds))
        nearest = min(found)
        return nearest[1], *found[nearest]

    def _undecided(self, here: set[tuple[Node, int]]) -> Iterator[tuple[Node, int]]:
        """The places at which the next item is decided, after following the edges that decide nothing."""
        todo = list(here)
        while todo:
            node, rest = todo.pop()
            silent = [edge for edge in node.edges if edge.item is None]
            if not silent:
                yield node, rest
                continue
            goal = self._of[node].at(rest)
            todo += [(e.to, rest) for e in silent if e.to in self._of and self._of[e.to].at(rest) == goal]


def _least(tables: Iterable[Table | None]) -> Table | None:
    """The least of several tables at every length."""
    some = [table for table in tables if table is not None]
    if len(some) < 2:
        return some[0] if some else None
    low = min(table.low for table in some)
    high = max(table.low + len(table.costs) for table in some)
    costs = np.full(high - low, FAR, dtype=np.int64)
    for table in some:
        part = costs[table.low - low : table.low - low + len(table.costs)]
        np.minimum(part, table.costs, out=part)
    return Table(low, costs)


def _with(choice: Choice, after: Table) -> Table:
    """The table of a choice followed by what a table holds."""
    span, size = choice.most_s - choice.least_s, len(after.costs)
    if len(choice.values) == 1:
        return Table(after.low + choice.least_s, np.minimum(after.costs + choice.costs[0], FAR))
    # A row for each value: the table that many seconds later, between lengths that cannot be.
    around = np.full(span + size + span, FAR, dtype=np.int64)
    around[span : span + size] = after.costs
    later = np.ndarray((span + 1, span + size), around.dtype, around, strides=(around.itemsize, around.itemsize))
    rows = later[choice.most_s - choice.seconds]
    rows += choice.costs[:, None]
    return Table(after.low + choice.least_s, np.minimum(np.minimum.reduce(rows), FAR))
