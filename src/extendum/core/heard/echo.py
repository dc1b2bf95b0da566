"""What is said again: on the way to a second side people say much of what they said on the way to the first."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np

from extendum.core.heard.likeness import Floats, Likeness, weighed
from extendum.core.heard.said import Word

#: So many words are held against so many said before, and those are said so many seconds before.
WORDS, BEFORE = 10, 16
WITHIN_S = (8.0, 100.0)
#: So many places are looked at together: all of a long recording at once would need much memory.
TOGETHER = 256
_Told = Mapping[str, float]


def echoes(words: Sequence[Word], places: Sequence[int], likeness: Likeness) -> Floats:
    """How alike the words after each place are to the likest ones a while before (0 to 1)."""
    here = [likeness.rare(weighed((words[n : n + WORDS], 1.0))) for n in places]
    there = [likeness.rare(weighed((words[n : n + BEFORE], 1.0))) for n in places]
    at = np.array([words[n].at for n in places])
    found = np.zeros(len(places))
    for first in range(0, len(places), TOGETHER):
        last = min(first + TOGETHER, len(places))
        since = int(np.searchsorted(at, at[first] - WITHIN_S[1]))
        gap = at[first:last, None] - at[None, since:last]
        within = (gap >= WITHIN_S[0]) & (gap <= WITHIN_S[1])
        found[first:last] = np.where(within, _alike(here[first:last], there[since:last]), 0.0).max(axis=1)
    return found


def _alike(some: Sequence[_Told], others: Sequence[_Told]) -> Floats:
    """How alike each of some and each of others are, shaped (some, others)."""
    names = {one: n for n, one in enumerate(dict.fromkeys(one for told in (*some, *others) for one in told))}
    alike: Floats = _rows(some, names) @ _rows(others, names).T
    return alike


def _rows(some: Sequence[_Told], names: Mapping[str, int]) -> Floats:
    """Words as rows of length 1, with a column for each name."""
    rows = np.zeros((len(some), len(names)))
    for n, told in enumerate(some):
        length = math.sqrt(sum(share * share for share in told.values()))
        for one, share in told.items():
            rows[n, names[one]] = share / length
    return rows
