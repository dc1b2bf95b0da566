"""What words tell about the part of a class that they are said in: each kind of cue, and where it stands."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from extendum.core.heard.names import Sign
from extendum.core.heard.said import Word, running

#: Kinds that need more than a pattern: verbs that open a clause, short clauses, numbers in a row, signatures.
COMMAND, SHORT, COUNTED, SIGN = "command", "short", "counted", "sign"
#: Signatures are two that begin further apart.
APART_WORDS = 5
#: A short clause has at most so many words.
SHORT_WORDS = 4
_OPENS = frozenset({"and", "then", "now", "so", "just"})
_MILD = frozenset({"keep", "let", "hold", "rest", "stand"})
_COUNTED = frozenset(
    {
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
        "1",
        "2",
        "3",
        "4",
        "5",
        "6",
        "7",
        "8",
        "9",
        "10",
        "11",
        "12",
    }
)
_OUT = frozenset(
    {
        *("up", "down", "back", "out", "off", "home", "centre", "center", "rest", "relax", "stop", "release", "lower"),
        *(
            "rise",
            "stand",
            "sit",
            "done",
            "change",
            "swap",
            "easy",
            "finish",
            "shake",
            "enough",
            "undo",
            "time",
            "tall",
        ),
        *("good", "lovely", "nice", "great"),
    }
)


@dataclass(frozen=True)
class Ear:
    """The kinds of cues in the order of their rates, and the pattern of those that have one."""

    kinds: tuple[str, ...]
    patterns: Mapping[str, re.Pattern[str]]


@dataclass(frozen=True, slots=True)
class Cues:
    """Where each kind of cue stands: for each kind the first words of it; ``counted``: numbers said in a row."""

    at: dict[str, tuple[int, ...]]
    ends: dict[str, tuple[int, ...]]
    counted: frozenset[int]

    def sums(self, words: int) -> npt.NDArray[np.float64]:
        """How many cues of each kind stand before each word, shaped (kinds, words + 1)."""
        found = np.zeros((len(self.at), words + 1))
        for n, places in enumerate(self.at.values()):
            np.add.at(found[n], np.array(places, dtype=int) + 1, 1.0)
        return found.cumsum(axis=1)


def cues_in(words: Sequence[Word], found: Sequence[Sign], ear: Ear) -> Cues:
    """Every cue in the words of a recording; the signatures of moves that stand there are one kind."""
    told = running(words)
    at: dict[str, tuple[int, ...]] = {}
    ends: dict[str, tuple[int, ...]] = {}
    for name, pattern in ear.patterns.items():
        matches = list(pattern.finditer(told.text))
        at[name] = tuple(told.word(match.start()) for match in matches)
        ends[name] = tuple(told.word(match.end() - 1) + 1 for match in matches)
    counted = frozenset(_counted(words))
    more = {
        COMMAND: [n for n in at["acts"] if _opens(words, n)],
        SHORT: _short(words),
        COUNTED: sorted(counted),
        SIGN: _starts(found),
    }
    for name, places in more.items():
        at[name] = tuple(places)
        ends[name] = tuple(n + 1 for n in places)
    return Cues({name: at[name] for name in ear.kinds}, {name: ends[name] for name in ear.kinds}, counted)


def _opens(words: Sequence[Word], n: int) -> bool:
    """Whether a clause begins with a word."""
    if n == 0 or words[n - 1].ends == 2 or words[n - 1].text in _OPENS:
        return True
    return words[n - 1].ends == 1 and words[n].text not in _MILD


def _starts(found: Sequence[Sign]) -> list[int]:
    """Where enough words of a move stand together; signatures that overlap are one."""
    starts: list[int] = []
    for one in sorted(found, key=lambda sign: sign.first):
        if len(one.signature.groups) > 2 and (not starts or one.first - starts[-1] > APART_WORDS):
            starts.append(one.first)
    return starts


def _short(words: Sequence[Word]) -> list[int]:
    """Short clauses that take people out of something: *and slowly up*."""
    found, first = [], 0
    for n, word in enumerate(words):
        if not word.ends:
            continue
        clause = [one.text for one in words[first : n + 1]]
        if len(clause) <= SHORT_WORDS and _OUT & set(clause) and not {"breathe", "breath"} & set(clause):
            found.append(first)
        first = n + 1
    return found


def _counted(words: Sequence[Word]) -> set[int]:
    """The numbers that stand in a row of at least three, each within a few words of the one before."""
    found: set[int] = set()
    row: list[int] = []
    for n, word in enumerate(words):
        if word.text not in _COUNTED:
            continue
        if row and (n - row[-1] > 4 or word.at - words[row[-1]].at > 9):
            found |= set(row) if len(row) > 2 else set()
            row = []
        row.append(n)
    return found | (set(row) if len(row) > 2 else set())
