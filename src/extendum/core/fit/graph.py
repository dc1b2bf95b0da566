"""A graph of decisions: a node is a place in the class; an edge keeps an item or leaves it out."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property
from typing import NamedTuple

from extendum.core.fit.item_options import NOTHING, Offer
from extendum.core.model.item import Item


@dataclass(slots=True, eq=False)
class Node:
    """A place in the class; those of a lower rank come before."""

    rank: int
    edges: list[Edge] = field(default_factory=list, repr=False)


class Edge(NamedTuple):
    """Keep an item (what it offers), leave it out (a cost), or decide nothing."""

    to: Node
    item: Item | None = None
    offer: Offer = NOTHING
    cost: int = 0


#: The least and the most seconds of something.
Span = tuple[int, int]


def _both(one: Span, other: Span | None) -> Span:
    """From the least of both to the most of both."""
    return one if other is None else (min(one[0], other[0]), max(one[1], other[1]))


class Graph:
    """All ways through the decisions of a class, from a root to an end."""

    def __init__(self, root: Node, nodes: Iterable[Node], end: Node) -> None:
        self.root, self.end = root, end
        #: The last before all others.
        self.nodes = sorted(nodes, key=lambda one: one.rank, reverse=True)

    @cached_property
    def extremes(self) -> Span | None:
        """The shortest and the longest that the class can be; None when there is no way at all."""
        return self.after.get(self.root)

    @cached_property
    def before(self) -> dict[Node, Span]:
        """What there can be before each node from which the end can be reached."""
        found = {self.root: (0, 0)} if self.root in self.after else {}
        for node in reversed(self.nodes):
            if node not in found or node not in self.after:
                continue
            least_s, most_s = found[node]
            for edge in node.edges:
                if edge.to in self.after:
                    way = least_s + edge.offer.least_s, most_s + edge.offer.most_s
                    found[edge.to] = _both(way, found.get(edge.to))
        return found

    @cached_property
    def after(self) -> dict[Node, Span]:
        """What there can be after each node from which the end can be reached."""
        found = {self.end: (0, 0)}
        for node in self.nodes:
            for edge in node.edges:
                if edge.to in found:
                    least_s, most_s = found[edge.to]
                    way = least_s + edge.offer.least_s, most_s + edge.offer.most_s
                    found[node] = _both(way, found.get(node))
        return found
