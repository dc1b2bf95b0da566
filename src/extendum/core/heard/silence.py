"""Where between two stamps somebody is silent: after sentences and joints, and most of all in a hold that is ending.

A paragraph lasts longer than its words do. How much of the rest lies after a word depends on what ends there and on
whether people are on their way into a move, in it, or out of it; that is known once its parts have been explained.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
import numpy.typing as npt

#: A word as it is written small, what ends after it (2 a sentence, 1 a clause, 0 nothing), and as it was written.
Piece = tuple[str, int, str]
Floats = npt.NDArray[np.float64]
#: A text is not punctuated where fewer of its words than this end a sentence or a clause.
UNPUNCTUATED = 0.04
#: Words where a new thought begins, where nothing is punctuated.
JOINTS = frozenset(
    re.findall(
        "[a-z]+",
        "and so okay ok now then next um er but because right last finally if when which with alright",
    )
)
_WAITS = frozenset({"stay", "hold", "there", "go", "breathe", "here", "seconds"})
_NUMBERS = frozenset(re.findall("[a-z]+", "one two three four five six seven eight nine ten eleven twelve"))
_ENDING = re.compile(
    r"(?:and |now |then )?(?:come up|step (?:it )?in|let (?:it|that|them|go)|lower|release|rest|shake|unwind|sit up|"
    r"stand up|up (?:you|and)|down|rise|swap|switch|change|other|same|uncross|roll up|back to|time|stop)\b"
)


class Stage(StrEnum):
    """Between which words somebody is silent."""

    ANYWHERE = "anywhere"
    OUTSIDE = "outside of work"
    INTO = "into work"
    WORK = "in work"
    OUT = "out of work"


class Juncture(StrEnum):
    """What ends after a word."""

    WITHIN = "nothing"
    JOINT = "joint"
    COMMA = "comma"
    SENTENCE = "sentence"
    LINE = "line"


@dataclass(frozen=True, slots=True)
class Silences:
    """How much longer somebody is silent after one word than after another, in logarithms.

    ``after``: for each stage and juncture, in a text without punctuation and in one with it; ``more``: besides after
    a word for waiting, before one that ends something, and between numbers.
    """

    after: Mapping[tuple[Stage, bool, Juncture], float]
    more: Mapping[str, float]

    def quiet(self, pieces: Sequence[Piece], stages: Sequence[Stage], *, punctuated: bool) -> Floats:
        """How much longer somebody is silent after one word of a line than after another, in logarithms."""
        return np.array(
            [
                self.after[stage, punctuated, juncture(pieces, k)] + sum(self.more[one] for one in signs_of(pieces, k))
                for k, stage in enumerate(stages)
            ]
        )


def punctuated(lines: Sequence[Sequence[Piece]]) -> bool:
    """Whether a text is punctuated."""
    every = [ends for pieces in lines for _, ends, _ in pieces]
    return sum(map(bool, every)) >= UNPUNCTUATED * len(every)


def juncture(pieces: Sequence[Piece], k: int) -> Juncture:
    """What ends after a word of a line."""
    if ends := pieces[k][1]:
        return Juncture.SENTENCE if ends == 2 else Juncture.COMMA
    if k + 1 == len(pieces):
        return Juncture.LINE
    return Juncture.JOINT if pieces[k + 1][0] in JOINTS else Juncture.WITHIN


def signs_of(pieces: Sequence[Piece], k: int) -> list[str]:
    """What else speaks for a silence after a word of a line: waiting, ending, numbers."""
    word, following = pieces[k][0], pieces[k + 1][0] if k + 1 < len(pieces) else ""
    told = {
        "waiting": word in _WAITS,
        "ending": bool(_ENDING.match(" ".join(one for one, *_ in pieces[k + 1 : k + 5]))),
        "numbers": word in _NUMBERS and following in _NUMBERS,
    }
    return [name for name, found in told.items() if found]


def stages_of(works: Sequence[bool] | None, words: int) -> list[Stage]:
    """The stage after each word, from which of them are said in work; None where that is not known yet."""
    if works is None:
        return [Stage.ANYWHERE] * words
    following = [*works[1:], False]
    both = {(False, False): Stage.OUTSIDE, (False, True): Stage.INTO, (True, True): Stage.WORK}
    return [both.get((one, after), Stage.OUT) for one, after in zip(works, following, strict=True)]
