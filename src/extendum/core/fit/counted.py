"""What is counted along a way through a class: how many moves stay, what they need, and what is wanted of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import NamedTuple

from extendum.core.fit.item_options import others_said
from extendum.core.model.body import Region
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.timing.needs import Needs

MayGo = Callable[[Item], bool]


class Tallied(NamedTuple):
    """What was counted so far; only what somebody asks for is counted."""

    moves: int = 0
    needs: Needs = Needs()
    picked: int = 0
    reached: frozenset[Region] = frozenset()


@dataclass(frozen=True, slots=True)
class Wanted:
    """A choice of moves: from least to most of them, which together reach these regions as main targets."""

    least: int
    most: int
    regions: frozenset[Region]


class Tally:
    """Counts what the words of a class say of its moves, and what is wanted of the choice, if anything is."""

    start = Tallied()

    def __init__(self, script: Script, wanted: Wanted | None = None) -> None:
        said = set[str]().union(*(others_said(item) for item in script.items()))
        self._counts = bool(said & {"moves", "moves_left"})
        self._needs = "needs" in said
        self._wanted = wanted

    def after(self, tallied: Tallied, item: Item) -> Tallied | None:
        """The tally with an item that stays; None where it must not."""
        if not isinstance(item, MoveItem):
            return tallied
        if self._counts:
            tallied = tallied._replace(moves=tallied.moves + 1)
        if self._needs:
            tallied = tallied._replace(needs=tallied.needs.and_of(item.move))
        if self._wanted is not None:
            if tallied.picked == self._wanted.most:
                return None
            reached = tallied.reached | (self._wanted.regions & main_regions(item))
            tallied = tallied._replace(picked=tallied.picked + 1, reached=reached)
        return tallied

    def facts(self, tallied: Tallied) -> Tallied:
        """The part that words can say."""
        return tallied._replace(picked=0, reached=frozenset()) if self._wanted is not None else tallied

    def needs(self, tallied: Tallied) -> str:
        """What is needed, as words say it."""
        return tallied.needs.told

    def accepts(self, tallied: Tallied) -> bool:
        """Whether a whole class may be tallied so."""
        if self._wanted is None:
            return True
        return tallied.picked >= self._wanted.least and tallied.reached >= self._wanted.regions


class World(NamedTuple):
    """What words may say of the whole class, as a branch of a graph takes it to be."""

    moves: int
    needs: str
    tallied: Tallied


def worlds(items: Iterable[Item], may_go: MayGo, tally: Tally) -> list[World]:
    """Everything that words may say of the whole class, over all ways to cut it."""
    ends = {tally.start}
    for item in items:
        stays = {after for one in ends if (after := tally.after(one, item)) is not None}
        ends = ends | stays if may_go(item) else stays
    told = {tally.facts(end): end for end in ends}
    return [World(end.moves, tally.needs(end), facts) for facts, end in told.items()]


def main_regions(item: MoveItem) -> frozenset[Region]:
    """The regions that a move is for."""
    return frozenset(target.region for target in item.move.targets if target.main)
