"""A class that takes a chain of moves to one side and then all of it to the other: whether it is one, and its sides.

In such a class hardly any move has its second side at once, and most sides are never named: people stay on one until
they change for the whole chain.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from extendum.core.heard.assembled import NAMED, Names
from extendum.core.heard.cues import Cues
from extendum.core.heard.parts import SIDED_WORDS
from extendum.core.heard.recording import HeardMove
from extendum.core.heard.sides import OTHER, Sides, sided
from extendum.core.heard.states import Floats, State
from extendum.core.model.move import Sidedness

#: A side is named on the way into a move, or so long after it has begun; a change within so many words.
NAMED_S, CHANGED_WORDS = 6.0, 3
#: What often only helps, so that it may be of either side.
ARMS = frozenset({"arm", "hand", "elbow", "wrist", "shoulder", "ear"})
Named = tuple[str, bool] | None


@dataclass(frozen=True)
class Chains:
    """What tells such a class, and the sides in it.

    ``share``: of all classes; ``rarely``: how much rarer a second side follows at once; ``one_sided``: a move is done
    to one side where its words are so likely those of one with two; ``named``: how often a side that is named is that
    of the chain, ``handed``: and where it is that of an arm. In logarithms: ``turned``, what words for a change are
    worth; ``same``, each move that comes again in the same order; ``uneven``, each move that one of both chains is
    longer. ``paired``: what speaks for two moves, one of each chain, to be the same, in points of names.
    """

    share: float
    rarely: float
    one_sided: float
    named: float
    handed: float
    turned: float
    same: float
    uneven: float
    paired: float

    def bonus(self, usual: Floats, twice: Floats, sided: float) -> Floats:
        """What speaks for a part to begin, (states, places), in one of these, from what does in a usual class.

        ``twice``: how likely a move that begins at each place but the last one has a second pass in a usual class;
        ``sided``: what that is worth.
        """
        found = usual.copy()
        found[State.SET_UP, :-1] += sided * np.log((1 - self.rarely * twice) / (1 - twice))
        found[State.FIRST_SET_UP, :-1] += sided * math.log(self.rarely)
        return found

    def is_one(self, usual: float, chained: float) -> bool:
        """Whether a class is one, by how likely its best explanations are as a usual class and as one of these."""
        return chained - usual > math.log(1 / self.share - 1)

    def along(self, named: Sequence[Named], turned: Sequence[bool], keys: Sequence[str]) -> tuple[list[str], int]:
        """The side of each move, and which is the first one on the other side (their number where none is).

        ``named``: the side that was named for each and whether with an arm, or nothing; ``turned``: whether words for
        a change lead into it; ``keys``: what they are.
        """
        ways = [(first, turn) for first in ("left", "right") for turn in range(1, len(named) + 1)]

        def worth(way: tuple[str, int]) -> float:
            first, turn = way
            told = 0.0
            for n, one in enumerate(named):
                if one is not None:
                    right = self.handed if one[1] else self.named
                    told += math.log(right if one[0] == (first if n < turn else OTHER[first]) else 1 - right)
            told += self.turned * (turn < len(named) and turned[turn])
            told += self.same * _again(keys[:turn], keys[turn:])
            return told - self.uneven * abs(turn - len(named) / 2)

        first, turn = max(ways, key=worth)
        return [first if n < turn else OTHER[first] for n in range(len(named))], turn


@dataclass(frozen=True)
class Chain:
    """The moves of such a class: ``ear``, the words and what they are matched with; ``cues``, those that were heard."""

    ear: Names
    cues: Cues
    sides: Sides
    chains: Chains

    def told(self, moves: Sequence[HeardMove]) -> tuple[list[HeardMove], float | None]:
        """The moves with their sides, those that come again named together; and when people change, None: never."""
        own = [n for n, move in enumerate(moves) if self._is_one_sided(move)]
        if not own:
            return list(moves), None
        turned, after = [], 0
        for n in own:
            until = moves[n].work + CHANGED_WORDS
            turned.append(any(after <= at < until for at in self.cues.at["switch"]))
            after = until
        named = [self._named(moves[n]) for n in own]
        along, turn = self.chains.along(named, turned, [moves[n].key for n in own])
        found = list(moves)
        for n, side in zip(own, along, strict=True):
            found[n] = replace(found[n], passes=(replace(found[n].passes[0], side=side),))
        if turn == len(own):
            return found, None
        for n, move in self._paired({n: found[n] for n in own[:turn]}, {n: found[n] for n in own[turn:]}).items():
            found[n] = move
        return found, moves[own[turn]].start

    def _is_one_sided(self, move: HeardMove) -> bool:
        namer, words = self.ear.namer, self.ear.words[move.first : move.first + SIDED_WORDS]
        return len(move.passes) == 1 and (
            namer.sides.get(move.key) is Sidedness.EACH_SIDE
            or self.sides.twice(words, namer.likeness) >= self.chains.one_sided
        )

    def _named(self, move: HeardMove) -> Named:
        """The side that is named on the way into a move: that of a leg, rather than that of an arm."""
        words, until = self.ear.words, move.passes[0].start + NAMED_S
        near = [one for one in sided(words) if move.first <= one[0] < move.last and words[one[0]].at <= until]
        return min(((side, limb in ARMS) for _, side, limb in near), key=lambda one: one[1], default=None)

    def _paired(self, some: Mapping[int, HeardMove], others: Mapping[int, HeardMove]) -> dict[int, HeardMove]:
        """The moves of both chains, named by what speaks for both of a pair, where it is enough for one of them."""
        scores = {n: self._scores(move) for n, move in (*some.items(), *others.items())}
        found = {**some, **others}
        for a, b in _pairs([scores[n] for n in some], [scores[n] for n in others], self.chains.paired):
            both = list(some)[a], list(others)[b]
            key = _shared(scores[both[0]], scores[both[1]])[0]
            most = max(scores[n][key] for n in both)
            if most >= NAMED:
                for n in both:
                    offers = (self.ear.namer.offer(key, most), *(one for one in found[n].offers if one.key != key))
                    found[n] = replace(found[n], name=offers[0].name, key=key, offers=offers[:3])
        return found

    def _scores(self, move: HeardMove) -> dict[str, float]:
        place = (move.first, move.work, move.last)
        return self.ear.scores(place, move.bases, twice=False)


def _shared(some: Mapping[str, float], others: Mapping[str, float]) -> tuple[str, float]:
    """The key for which most speaks in both, and how much less that is than what speaks for each one’s own."""
    key = max(some, key=lambda one: some[one] + others[one])
    return key, some[key] + others[key] - max(some.values()) - max(others.values())


def _pairs(
    some: Sequence[Mapping[str, float]], others: Sequence[Mapping[str, float]], worth: float
) -> list[tuple[int, int]]:
    """Which moves of two chains are the same, in order; ``worth``: what a pair is worth, in points of names."""
    best: dict[tuple[int, int], tuple[float, list[tuple[int, int]]]] = {}
    for a in range(len(some), -1, -1):
        for b in range(len(others), -1, -1):
            if a == len(some) or b == len(others):
                best[a, b] = 0.0, []
                continue
            told, pairs = best[a + 1, b + 1]
            both = told + worth + _shared(some[a], others[b])[1], [(a, b), *pairs]
            best[a, b] = max(best[a + 1, b], best[a, b + 1], both, key=lambda one: one[0])
    return best[0, 0][1]


def _again(some: Sequence[str], others: Sequence[str]) -> int:
    """How many moves both chains have in the same order."""
    longest = [0] * (len(others) + 1)
    for one in some:
        row = [0]
        for n, other in enumerate(others):
            row.append(longest[n] + 1 if one and one == other else max(longest[n + 1], row[n]))
        longest = row
    return longest[-1]
