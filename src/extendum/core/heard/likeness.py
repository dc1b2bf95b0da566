"""How alike what was said is to what the library says of each of its moves.

Two people seldom choose the same words for a move, but mostly speak of the same things: *bum* and *seat*, *haul* and
*draw*. So a word counts as itself and as each of the notions that it can stand for; rare words and notions tell more.
"""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import numpy.typing as npt

from extendum.core.heard.said import Word
from extendum.core.listening.words import sentences_of, stem
from extendum.core.model.library import LibraryMove

#: What a notion counts for beside the word that stands for it.
NOTION = 1.5
#: How much rarity counts, and how soon a word that comes again tells nothing new.
RARITY, AGAIN = 0.7, 1.7
#: Words that tell no move from another.
DULL = frozenset(
    map(stem, re.findall("[a-z]+", "the a an and your you it of to with in on is or for as so that this at"))
)
Floats = npt.NDArray[np.float64]


@dataclass(frozen=True)
class Likeness:
    """The words of a library by move: ``said`` of each move stems; ``notions`` of each stem."""

    said: Mapping[str, tuple[str, ...]]
    notions: Mapping[str, tuple[str, ...]]

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """The moves, in the order of what is answered."""
        return tuple(self.said)

    @cached_property
    def _rarity(self) -> Mapping[str, float]:
        seen = Counter(one for told in self.said.values() for one in self.counted(dict.fromkeys(told, 1.0)))
        return {one: math.log(len(self.said) / n) ** RARITY for one, n in seen.items() if n < len(self.said)}

    @cached_property
    def _rows(self) -> Mapping[str, Floats]:
        """For each word and notion how much it tells each move."""
        rows = {one: np.zeros(len(self.said)) for one in self._rarity}
        for n, told in enumerate(self.said.values()):
            for one, share in self._unit(Counter(told)).items():
                rows[one][n] = share
        return rows

    def counted(self, words: Mapping[str, float]) -> Counter[str]:
        """Words and their notions, with how often they were said."""
        found: Counter[str] = Counter()
        for word, n in words.items():
            found[word] += n  # type: ignore[assignment]
            for notion in self.notions.get(word, ()):
                found[notion] += NOTION * n  # type: ignore[assignment]
        return found

    def rare(self, words: Mapping[str, float]) -> dict[str, float]:
        """Words of the library and their notions among some words, with how much each tells."""
        counted = self.counted(words)
        return {one: math.log1p(AGAIN * n) * self._rarity[one] for one, n in counted.items() if one in self._rarity}

    def _unit(self, words: Mapping[str, float]) -> dict[str, float]:
        told = self.rare(words)
        length = math.sqrt(sum(share * share for share in told.values()))
        return {one: share / length for one, share in told.items()} if length else {}

    def alike(self, words: Mapping[str, float]) -> Floats:
        """How alike some words, each with how much it counts, and those of each move are (0 to 1)."""
        told = self._unit(words)
        return sum((share * self._rows[one] for one, share in told.items()), np.zeros(len(self.said)))


def said_of(entry: LibraryMove) -> tuple[str, ...]:
    """The stems of what is said of a move: its names, the way into it, to its other side and out, and its prompts."""
    words = entry.words
    told = (entry.move.name, *entry.aliases, words.moving, words.there, words.short, words.switch, words.release)
    return stems_of((*told, *(prompt.text for prompt in words.prompts)))


def stems_of(texts: Iterable[str], *, dull: bool = False) -> tuple[str, ...]:
    """The stems of the words of some texts; those that tell nothing only where asked for."""
    every = (word.stem for text in texts for sentence in sentences_of(text) for word in sentence)
    return tuple(one for one in every if dull or one not in DULL)


def notions_of(groups: Iterable[str]) -> dict[str, tuple[str, ...]]:
    """The notions of each word; each group is the words for one, and its first word is what it is called by."""
    found: dict[str, tuple[str, ...]] = {}
    for n, group in enumerate(groups):
        for word in {stem(one) for one in group.split()}:
            found[word] = (*found.get(word, ()), f"{n}.{group.split()[0]}")
    return found


def weighed(*some: tuple[Sequence[Word], float]) -> dict[str, float]:
    """The stems of some words that tell something, with how much they count."""
    found: dict[str, float] = {}
    for words, share in some:
        for word in words:
            if word.stem not in DULL:
                found[word.stem] = found.get(word.stem, 0.0) + share
    return found
