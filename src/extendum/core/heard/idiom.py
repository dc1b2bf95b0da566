"""How words lean to the parts of a class: *wrap again* to a second side, *your legs are* to none.

Each word, and each two in a row, says a little about the part that it stands in: how much oftener it is said there
than elsewhere. What was counted is data; here it is summed over a recording.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]
#: A word that was met less often than this tells nothing; what was met is mixed with so many times of anywhere.
LEAST, ANYWHERE = 3.0, 1.0


@dataclass(frozen=True)
class Idiom:
    """For each word, and each two as ``one two``, logarithms of how much oftener it is said in each state.

    They are shaped (states + 1); the last one is the first seconds of work. ``share``: how much they count.
    """

    leans: Mapping[str, Floats]
    share: float

    def sums(self, stems: Sequence[str], states: int) -> Floats:
        """How much the words before each one speak for each state, shaped (states + 1, words + 1)."""
        found = np.zeros((states + 1, len(stems) + 1))
        for n, word in enumerate(stems):
            pair = f"{word} {stems[n + 1]}" if n + 1 < len(stems) else ""
            for told in (word, pair):
                if told in self.leans:
                    found[:, n + 1] += self.share * self.leans[told]
        return found.cumsum(axis=1)


def counted(texts: Iterable[Sequence[str]], worth: float = 1.0) -> Counter[str]:
    """How often each word and each two in a row are said; ``worth``: what a text counts for."""
    found: Counter[str] = Counter()
    for stems in texts:
        for told in _told(stems):
            found[told] += worth  # type: ignore[assignment]
    return found


def _told(stems: Sequence[str]) -> Iterator[str]:
    yield from stems
    for one, two in pairwise(stems):
        yield f"{one} {two}"


def leanings(counts: Mapping[str, Mapping[str, float]], shares: Mapping[str, float]) -> dict[str, dict[str, float]]:
    """How each word leans, from how often it was said in each part; ``shares``: how much of a class each part is."""
    whole = {part: sum(said.values()) for part, said in counts.items()}
    every: Counter[str] = Counter()
    for said in counts.values():
        every.update(said)
    found = {}
    for word, n in every.items():
        if n >= LEAST:
            usual = sum(shares[part] * counts[part].get(word, 0.0) / whole[part] for part in counts)
            found[word] = {
                part: float(np.log((counts[part].get(word, 0.0) + ANYWHERE) / (whole[part] * usual + ANYWHERE)))
                for part in counts
            }
    return found
