"""Which move of the library somebody speaks of, who may never say its name.

A move is known by what is done: groups of words that come close together (*foot, leg | back, behind | heel*). The
set-up words of the library tell more, by how rare the words are that they share with what was said.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from extendum.core.heard.bases import BASES
from extendum.core.heard.likeness import Likeness, said_of, stems_of, weighed
from extendum.core.heard.recording import Offer
from extendum.core.heard.said import Word
from extendum.core.listening.words import stem
from extendum.core.model.body import Base
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move, Sidedness

#: The groups of a signature stand within so many words.
WITHIN = 18
#: So many words before a set-up may still name its move, and so many of its work.
BEFORE_WORDS, EARLY_WORDS = 8, 14
#: Seconds into the work after which its words tell less.
SETTLED_S = 9.0
#: What a signature counts for among names, in logarithms for a point of its worth; before the set-up and late in the
#: work it counts for a share of that; and each further signature of the same move (two at the most) counts besides.
SIGNED, BEFORE, LATE, MORE_SIGNS = 0.53, 0.9, 0.46, 0.55
#: What being alike in words counts for, and being done where people are, or elsewhere.
ALIKE, SAME_BASE, OTHER_BASE = 28.0, 1.2, -0.8
#: Words before a set-up, and late in the work, count for so much of those of the set-up.
BEFORE_SHARE, LATE_SHARE = 0.6, 0.3
#: What it is worth that a move has a second pass in the library as it was heard to have, or has none.
SAME_SIDES = 0.6
ONCE = frozenset({Sidedness.TOGETHER, Sidedness.ALTERNATING, Sidedness.CROSSED_ALTERNATING})
#: So many moves are looked at beside the best.
OFFERED = 6
#: What a signature of one, two, three, four groups is worth.
WORTH = (0.0, 2.6, 2.8, 3.5, 4.1)


@dataclass(frozen=True, slots=True)
class Signature:
    """Groups of words that tell a family of moves when all of them come close together."""

    moves: tuple[str, ...]
    groups: tuple[frozenset[str], ...]

    @property
    def worth(self) -> float:
        """How much it tells."""
        return WORTH[min(len(self.groups), len(WORTH) - 1)]


@dataclass(frozen=True, slots=True)
class Sign:
    """A signature that was found: from which word to which."""

    signature: Signature
    first: int
    last: int


def signature(moves: Iterable[str], told: str) -> Signature:
    """A signature as it is written: groups parted by ``|``; ``=word`` is only that form of it."""
    groups = tuple(
        frozenset(word if word.startswith("=") else stem(word) for word in group.split()) for group in told.split("|")
    )
    return Signature(tuple(moves), groups)


def signs(words: Sequence[Word], signatures: Iterable[Signature]) -> list[Sign]:
    """Every signature wherever its groups come close together."""
    at: dict[str, list[int]] = defaultdict(list)
    for n, word in enumerate(words):
        at[word.stem].append(n)
        at[f"={word.text}"].append(n)
    found: list[Sign] = []
    for one in signatures:
        places = [sorted({n for word in group for n in at.get(word, ())}) for group in one.groups]
        if all(places):
            found += [Sign(one, first, last) for first, last in _windows(places)]
    return found


def _windows(places: Sequence[Sequence[int]]) -> Iterable[tuple[int, int]]:
    """The shortest stretches of words in which every group has a word of its own."""
    every = sorted((n, group) for group, some in enumerate(places) for n in some)
    held: dict[int, int] = {}
    for n, group in every:
        held[group] = n
        first = min(held.values())
        if n - first < WITHIN and len(held) == len(places) == len(set(held.values())):
            yield first, n


@dataclass(frozen=True)
class Namer:
    """What tells the moves of a library apart."""

    library: tuple[LibraryMove, ...]
    signatures: tuple[Signature, ...]
    notions: Mapping[str, tuple[str, ...]]
    spoken: Mapping[str, str]

    @cached_property
    def base(self) -> Mapping[str, int]:
        """Where each move is done, as a place among ``BASES``."""
        return {one.move.key: BASES.index(Base.of(one.move.posture)) for one in self.library}

    @cached_property
    def likeness(self) -> Likeness:
        """The words of the library, how people put it themselves, and the words of the signatures."""
        told = {one.move.key: list(said_of(one)) for one in self.library}
        for key, ways in self.spoken.items():
            told[key] += stems_of((ways,))
        for one in self.signatures:
            for key in one.moves:
                told[key] += [word for group in one.groups for word in group if not word.startswith("=")]
        return Likeness({key: tuple(some) for key, some in told.items()}, self.notions)

    def likest(self, words: Sequence[Word]) -> float:
        """How alike some words and those of the most similar move are (0 to 1)."""
        return float(self.likeness.alike(weighed((words, 1.0))).max())

    def move(self, key: str) -> Move | None:
        """A move of the library."""
        return next((one.move for one in self.library if one.move.key == key), None)

    def posture(self, key: str, bases: Sequence[float]) -> str:
        """That of a move where it is taken where people most likely are, or else where they are."""
        if not bases:
            return ""
        base, move = max(zip(bases, BASES, strict=True))[1], self.move(key)
        return (move.posture if move and Base.of(move.posture) is base else base).value

    @cached_property
    def sides(self) -> Mapping[str, Sidedness]:
        """Whether each move is done on each side."""
        return {one.move.key: one.move.sidedness for one in self.library}

    def offers(self, scores: Mapping[str, float]) -> tuple[Offer, ...]:
        """What a move could be by how much speaks for each one, the likeliest first."""
        best = sorted(scores.items(), key=lambda pair: (-pair[1], pair[0]))
        return tuple(self.offer(key, score) for key, score in best[:OFFERED])

    def offer(self, key: str, score: float) -> Offer:
        """A move of the library as what one could be."""
        return Offer(key, self.names[key], score)

    @cached_property
    def names(self) -> Mapping[str, str]:
        """What the library calls each move."""
        return {one.move.key: one.move.name for one in self.library}

    def scores(
        self,
        words: Sequence[Word],
        found: Sequence[Sign],
        place: tuple[int, int, int],
        bases: tuple[float, ...],
        twice: bool | None = None,
    ) -> dict[str, float]:
        """How much speaks for each move: its signatures, the words of the library, its base, and its sides.

        ``place``: its first word, the first of its work, and the one after its last; ``bases``: how likely it is on
        each of ``BASES``, empty where nothing tells; ``twice``: whether it has more than one pass, None where that is
        not known.
        """
        first, work, last = place
        signed: dict[str, list[float]] = defaultdict(list)
        settled = words[min(work, len(words) - 1)].at + SETTLED_S
        for one in found:
            if one.last < first - BEFORE_WORDS or one.first >= last:
                continue
            share = BEFORE if one.first < first else LATE if words[one.first].at > settled else 1.0
            for key in one.signature.moves:
                signed[key].append(share * one.signature.worth)
        scores = {key: SIGNED * max(some) + MORE_SIGNS * min(2, len(some) - 1) for key, some in signed.items()}
        early = min(last, work + EARLY_WORDS)
        before = (words[max(0, first - BEFORE_WORDS) : first], BEFORE_SHARE)
        told = weighed(before, (words[first:early], 1.0), (words[early:last], LATE_SHARE))
        for key, share in zip(self.likeness.keys, self.likeness.alike(told), strict=True):
            scores[key] = scores.get(key, 0.0) + ALIKE * float(share)
        if bases:
            for key in scores:
                scores[key] += OTHER_BASE + (SAME_BASE - OTHER_BASE) * bases[self.base[key]]
        if twice is not None:
            for key in scores:
                scores[key] += SAME_SIDES if (self.sides[key] not in ONCE) == twice else 0.0
        return scores
