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


def echoes(words: Sequence[Word], places: Sequence[int], likeness: Likeness) -> Floats:
    """How alike the words after each place are to the likest ones a while before (0 to 1)."""
    names: dict[str, int] = {}
    here = _rows([likeness.rare(weighed((words[n : n + WORDS], 1.0))) for n in places], names)
    there = _rows([likeness.rare(weighed((words[n : n + BEFORE], 1.0))) for n in places], names)
    here = np.pad(here, ((0, 0), (0, there.shape[1] - here.shape[1])))
    at = np.array([words[n].at for n in places])
    gap = at[:, None] - at[None, :]
    alike = np.where((gap >= WITHIN_S[0]) & (gap <= WITHIN_S[1]), here @ there.T, 0.0)
    found: Floats = alike.max(axis=1, initial=0.0)
    return found


def _rows(some: Sequence[Mapping[str, float]], names: dict[str, int]) -> Floats:
    """Words as rows of length 1, with a column for each name."""
    for told in some:
        for one in told:
            names.setdefault(one, len(names))
    rows = np.zeros((len(some), len(names)))
    for n, told in enumerate(some):
        length = math.sqrt(sum(share * share for share in told.values()))
        for one, share in told.items():
            rows[n, names[one]] = share / length
    return rows
