"""A net of decisions and its tables: every length that a class can have, with the least cost of each.

A node is a place in the class; an edge keeps an item, with what its doses may be, or leaves it out.
Dynamic programming over nodes and seconds gives every target at once.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from extendum.core.choices import Choice, Ints
from extendum.core.item import Item

FAR = int(np.iinfo(np.int64).max // 4)


@dataclass(frozen=True, slots=True, eq=False)
class Table:
    """Least costs by length: entry t is that of ``low + t`` seconds; FAR where none can be."""

    low: int
    costs: Ints

    def at(self, seconds: int) -> int:
        """The least cost of a length; FAR where it cannot be."""
        place = seconds - self.low
        return int(self.costs[place]) if 0 <= place < len(self.costs) else FAR


@dataclass(slots=True, eq=False)
class Node:
    """A place in the class; those of a lower rank come before."""

    rank: int
    edges: list[Edge] = field(default_factory=list)
    table: Table | None = None


@dataclass(frozen=True, slots=True, eq=False)
class Edge:
    """Keep an item (its choices, and the seconds beside them), leave it out (a cost), or decide nothing."""

    to: Node
    item: Item | None = None
    kept: bool = True
    choices: tuple[Choice, ...] = ()
    fixed_s: int = 0
    cost: int = 0


@dataclass(frozen=True, slots=True)
class Taken:
    """What was decided of one item: its values, stage by stage; none where it is left out."""

    item: Item
    kept: bool
    choices: tuple[Choice, ...]
    values: tuple[int, ...]


class Net:
    """All ways through the decisions of a class, from a root to an end."""

    def __init__(self, root: Node, nodes: Iterable[Node], end: Node, up_to_s: int) -> None:
        """Take up the nodes; tables are computed when they are asked for, of lengths up to ``up_to_s``."""
        self.root, self._end, self._up_to_s = root, end, up_to_s
        self._nodes = sorted(nodes, key=lambda one: one.rank, reverse=True)
        self._after: dict[tuple[int, tuple[int, ...]], Table] = {}

    @cached_property
    def extremes(self) -> tuple[int, int] | None:
        """The shortest and the longest that the class can be; None when there is no way at all."""
        found: dict[int, tuple[int, int]] = {id(self._end): (0, 0)}
        for node in self._nodes:
            ends = []
            for edge in node.edges:
                if id(edge.to) in found:
                    low, high = found[id(edge.to)]
                    low += edge.fixed_s + sum(int(choice.seconds.min()) for choice in edge.choices)
                    high += edge.fixed_s + sum(int(choice.seconds.max()) for choice in edge.choices)
                    ends.append((low, high))
            if ends:
                found[id(node)] = (min(low for low, _ in ends), max(high for _, high in ends))
        return found.get(id(self.root))

    @cached_property
    def table(self) -> Table | None:
        """The least cost of every length of the whole class; None when there is no way at all."""
        self._end.table = Table(0, np.zeros(1, dtype=np.int64))
        for node in self._nodes:
            node.table = _least(self._through(edge) for edge in node.edges)
        return self.root.table

    def _through(self, edge: Edge) -> Table | None:
        """The table of everything from an edge on."""
        after = self._stages(edge, 0)
        if after is None or not len(after.costs):
            return None
        costs = after.costs if not edge.cost else np.minimum(after.costs + edge.cost, FAR)
        return Table(after.low + edge.fixed_s, costs)

    def _stages(self, edge: Edge, stage: int) -> Table | None:
        """The table from a stage of an edge's item on; the same for every edge that goes on alike."""
        rest = edge.choices[stage:]
        if not rest or edge.to.table is None:
            return edge.to.table
        key = (id(edge.to), tuple(id(choice) for choice in rest))
        if key not in self._after:
            after = self._stages(edge, stage + 1)
            assert after is not None  # noqa: S101 - the end of the edge has a table
            self._after[key] = self._short(_with(rest[0], after))
        return self._after[key]

    def _short(self, table: Table) -> Table:
        """The table without what is too long."""
        return Table(table.low, table.costs[: max(0, self._up_to_s - table.low + 1)])

    def way(self, target_s: int) -> list[Taken] | None:
        """The least costly way that lasts so long; None when there is none.

        Of equal costs, the earliest item is kept rather than left out, and nearest its wanted dose. All
        ways that are still equal are walked at once, so that the order of the items alone decides.
        """
        if self.table is None or self.table.at(target_s) >= FAR:
            return None
        here, taken = {(self.root, target_s)}, list[Taken]()
        while True:
            here = set(_undecided(here))
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
        assert node.table is not None  # noqa: S101
        goal = node.table.at(rest)
        on = [(edge, rest) for edge, rest in edges if self._cost(edge, rest) == goal]
        kept = [(edge, rest - edge.fixed_s) for edge, rest in on if edge.kept]
        item = edges[0][0].item
        assert item is not None  # noqa: S101
        if not kept:
            return Taken(item, False, (), ()), {(edge.to, rest) for edge, rest in on}
        values: list[int] = []
        for stage in range(len(kept[0][0].choices)):
            value, cost, kept = self._best(kept, stage, goal)
            values.append(value)
            goal -= cost
        return Taken(item, True, kept[0][0].choices, tuple(values)), {(edge.to, rest) for edge, rest in kept}

    def _cost(self, edge: Edge, rest: int) -> int:
        after = self._stages(edge, 0)
        return FAR if after is None else min(FAR, after.at(rest - edge.fixed_s) + edge.cost)

    def _best(self, kept: list[tuple[Edge, int]], stage: int, goal: int) -> tuple[int, int, list[tuple[Edge, int]]]:
        """The value of a stage that lies on a least costly way and nearest the wanted one; its cost; what goes on."""
        found: dict[tuple[int, int], tuple[int, list[tuple[Edge, int]]]] = {}
        for edge, rest in kept:
            after, choice = self._stages(edge, stage + 1), edge.choices[stage]
            assert after is not None  # noqa: S101
            for value, seconds, cost in zip(choice.values, choice.seconds, choice.costs, strict=True):
                left = rest - int(seconds)
                if after.at(left) + int(cost) == goal:
                    near = (abs(value - choice.quantity.wanted), value)
                    found.setdefault(near, (int(cost), []))[1].append((edge, left))
        nearest = min(found)
        return nearest[1], *found[nearest]


def _undecided(here: set[tuple[Node, int]]) -> Iterator[tuple[Node, int]]:
    """The places from which the next item is decided: edges that decide nothing are gone along."""
    todo = list(here)
    while todo:
        node, rest = todo.pop()
        silent = [edge for edge in node.edges if edge.item is None]
        if not silent:
            yield node, rest
            continue
        assert node.table is not None  # noqa: S101
        goal = node.table.at(rest)
        todo += [(e.to, rest) for e in silent if e.to.table is not None and e.to.table.at(rest) == goal]


def _least(tables: Iterable[Table | None]) -> Table | None:
    """The least of several tables at every length."""
    some = [table for table in tables if table is not None and len(table.costs)]
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
    low, high = int(choice.seconds.min()), int(choice.seconds.max())
    size = len(after.costs)
    if not size:
        return Table(after.low + low, after.costs)
    costs = np.full(size + high - low, FAR, dtype=np.int64)
    part = np.empty(size, dtype=np.int64)
    for seconds, cost in zip(choice.seconds.tolist(), choice.costs.tolist(), strict=True):
        place = costs[seconds - low : seconds - low + size]
        np.add(after.costs, cost, out=part)
        np.minimum(place, part, out=place)
    np.minimum(costs, FAR, out=costs)
    return Table(after.low + low, costs)
