"""A net of decisions: a node is a place in the class; an edge keeps an item or leaves it out."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

from extendum.core.choices import Choice
from extendum.core.item import Item


@dataclass(slots=True, eq=False)
class Node:
    """A place in the class; those of a lower rank come before."""

    rank: int
    edges: list[Edge] = field(default_factory=list)


class Edge(NamedTuple):
    """Keep an item (its choices, and the seconds beside them), leave it out (a cost), or decide nothing."""

    to: Node
    item: Item | None = None
    kept: bool = True
    choices: tuple[Choice, ...] = ()
    fixed_s: int = 0
    cost: int = 0

    @property
    def least_s(self) -> int:
        """The fewest seconds that it can take."""
        return self.fixed_s + sum([choice.least_s for choice in self.choices])

    @property
    def most_s(self) -> int:
        """The most seconds that it can take."""
        return self.fixed_s + sum([choice.most_s for choice in self.choices])


class Span(NamedTuple):
    """The least and the most seconds of something."""

    least_s: int
    most_s: int

    def and_of(self, other: Span | None) -> Span:
        """From the least of both to the most of both."""
        return self if other is None else Span(min(self.least_s, other.least_s), max(self.most_s, other.most_s))


class Net:
    """All ways through the decisions of a class, from a root to an end."""

    def __init__(self, root: Node, nodes: Iterable[Node], end: Node) -> None:
        self.root, self.end = root, end
        #: The last before all others.
        self.nodes = sorted(nodes, key=lambda one: one.rank, reverse=True)

    @cached_property
    def extremes(self) -> Span | None:
        """The shortest and the longest that the class can be; None when there is no way at all."""
        return self._after.get(self.root)

    @cached_property
    def before(self) -> dict[Node, Span]:
        """What there can be before each node from which the end can be reached."""
        found = {self.root: Span(0, 0)}
        for node in reversed(self.nodes):
            if node not in found or node not in self._after:
                continue
            least_s, most_s = found[node]
            for edge in node.edges:
                if edge.to in self._after:
                    way = Span(least_s + edge.least_s, most_s + edge.most_s)
                    found[edge.to] = way.and_of(found.get(edge.to))
        return found

    @cached_property
    def _after(self) -> dict[Node, Span]:
        """What there can be after each node from which the end can be reached."""
        found = {self.end: Span(0, 0)}
        for node in self.nodes:
            for edge in node.edges:
                after = found.get(edge.to)
                if after is not None:
                    way = Span(after.least_s + edge.least_s, after.most_s + edge.most_s)
                    found[node] = way.and_of(found.get(node))
        return found
