"""Whether people stand, sit on a chair, are on the floor or lie, followed through a class.

Hardly anybody says so for each move, but people stay where they are until they are sent elsewhere. So all moves of a
class are looked at together: what is said on the way into each speaks for where such moves are done in the library,
words such as *lie down* speak louder, and to change costs something (a hidden Markov model over the moves).
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from extendum.core.heard.said import Word
from extendum.core.model.body import Base

Floats = npt.NDArray[np.float64]
BASES = tuple(Base)
#: The first word of a move, the first of its work, and the one after its last.
Place = tuple[int, int, int]
#: What a word of the library counts for, in shares of its logarithm, as words say the same again and again; what words
#: that name a base count for, and how many of them are heard.
WORD, NAMED, MOST_NAMED = 0.2, 2.0, 2
#: Words so far before a move and into its work are heard, those around its set-up in full.
BEFORE, AFTER, CLOSE_BEFORE, CLOSE_AFTER, FAR = 14, 25, 4, 14, 0.5
#: Words that name a base are heard until so far into the work.
NAMED_AFTER = 6
#: So many words tell what a word names.
SEEN = 6
#: How often people stay where they are from one move to the next, how often they lie down from the floor or sit up, and
#: the rest for every other way, each against the others.
STAY, DOWN = 0.95, 0.15
#: Where classes begin, in the order of the bases.
BEGINS = (0.5, 0.3, 0.1, 0.1)
#: A word that no move of a base has was as good as met there so often.
UNMET = 0.5


@dataclass(frozen=True)
class Bases:
    """What tells where a move is done: for each stem logarithms by base, and the pattern of words that name a base."""

    leans: Mapping[str, Floats]
    named: Mapping[Base, re.Pattern[str]]

    def along(self, words: Sequence[Word], places: Sequence[Place]) -> list[tuple[float, ...]]:
        """How likely each move of a class is done on each base, in the order of ``BASES``; together 1."""
        if not places:
            return []
        ends = [0, *(last for _, _, last in places)]
        told = np.array([self._told(words, place, end) for place, end in zip(places, ends, strict=False)])
        ways, after = np.zeros(told.shape), np.zeros(told.shape)
        ways[0] = np.log(BEGINS) + told[0]
        for n in range(1, len(told)):
            ways[n] = np.logaddexp.reduce(ways[n - 1][:, None] + _FOLLOW, axis=0) + told[n]
        for n in range(len(told) - 2, -1, -1):
            after[n] = np.logaddexp.reduce(_FOLLOW + told[n + 1] + after[n + 1], axis=1)
        both = ways + after
        shares = np.exp(both - np.logaddexp.reduce(both, axis=1)[:, None])
        return [tuple(row) for row in shares.tolist()]

    def _told(self, words: Sequence[Word], place: Place, since: int) -> Floats:
        """What speaks for each base in the words around the way into a move, after those of the work before it."""
        first, work, last = place
        counts: dict[str, float] = {}
        for n in range(max(since, first - BEFORE), min(last, work + AFTER)):
            share = 1.0 if first - CLOSE_BEFORE <= n < work + CLOSE_AFTER else FAR
            counts[words[n].stem] = max(share, counts.get(words[n].stem, 0.0))
        told: Floats = np.zeros(len(BASES))
        for word, share in counts.items():
            if word in self.leans:
                told += WORD * share * self.leans[word]
        names = np.zeros(len(BASES))
        for n in range(max(since, first - BEFORE), min(last, work + NAMED_AFTER)):
            said = " ".join(word.text for word in words[n : n + SEEN])
            names += [bool(self.named[base].match(said)) for base in BASES]
        return told + NAMED * np.minimum(names, MOST_NAMED)


def leanings(said: Mapping[Base, Sequence[frozenset[str]]]) -> dict[str, Floats]:
    """How each word leans to the bases, from the words that are said of each move of a base."""
    counts = {base: Counter(word for words in said[base] for word in words) for base in BASES}
    found = {}
    for word in {word for count in counts.values() for word in count}:
        told = np.log([(counts[base][word] + UNMET) / (len(said[base]) + 2 * UNMET) for base in BASES])
        found[word] = told - told.mean()
    return found


def _follow() -> Floats:
    found = np.full((len(BASES), len(BASES)), (1 - STAY) / (len(BASES) - 1))
    np.fill_diagonal(found, STAY)
    floor, lying = BASES.index(Base.FLOOR), BASES.index(Base.LYING)
    found[floor, lying] = found[lying, floor] = DOWN
    told: Floats = np.log(found / found.sum(axis=1, keepdims=True))
    return told


_FOLLOW = _follow()
