"""From the words of a recording to its moves: where its parts can begin, and what speaks for which."""

from __future__ import annotations

import math
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from extendum.core.heard.cues import Cues
from extendum.core.heard.echo import echoes
from extendum.core.heard.names import Namer, Sign
from extendum.core.heard.said import Word
from extendum.core.heard.sides import Sides, flips, sided
from extendum.core.heard.silence import JOINTS, UNPUNCTUATED
from extendum.core.heard.states import RELEASES, WORKS, Floats, Places, State

#: So many words of a set-up are compared with the words of the library.
ALIKE_WORDS = 18
#: So many words after a place are looked at for the signature of a move.
NAMED_WORDS = 22
#: And so many to tell whether it has a second side.
SIDED_WORDS = 28
#: A silence that something can begin after.
SILENCE_S = 0.8
_INSIDE = frozenset(
    [
        "of",
        "to",
        "the",
        "a",
        "an",
        "is",
        "are",
        "was",
        "it",
        "on",
        "over",
        "in",
        "at",
        "be",
        "been",
        "than",
        "your",
        "you",
        "down",
        "up",
        "out",
    ]
)
_NOT_BEFORE = frozenset(
    [
        "to",
        "the",
        "a",
        "an",
        "your",
        "you",
        "can",
        "could",
        "should",
        "would",
        "will",
        "i",
        "we",
        "they",
        "that",
        "it's",
        "don't",
        "not",
        "never",
        "just",
    ]
)


@dataclass(frozen=True)
class Weights:
    """What speaks for a part to begin at a place, in logarithms."""

    release: float = 1.0
    no_release: float = -2.0
    switch: float = 1.2
    flip: float = 1.8
    no_switch: float = -2.2
    next: float = 1.0
    counted: float = 0.0
    alike: float = 0.0
    name: float = 0.6
    name_from: float = 2.2
    joint: float = -0.7
    act: float = -1.0
    comma: float = -0.3
    sided: float = 1.0
    echo: float = 0.0
    echo_from: float = 0.5
    again: float = 0.0
    once: float = 0.0


def places_of(words: Sequence[Word], cues: Cues, length: float) -> Places:
    """Where parts can begin."""
    starts = {n for name in ("release", "switch", "next") for n in cues.at[name]}
    after = set(cues.ends["left over"]) | {n + 1 for n in cues.counted}
    bare = sum(bool(word.ends) for word in words) < UNPUNCTUATED * len(words)
    acts = (
        {n for n in range(1, len(words)) if words[n - 1].text not in _NOT_BEFORE and words[n].text not in _INSIDE}
        if bare
        else set()
    )
    own = [0]
    for n in range(1, len(words)):
        before = words[n - 1]
        if (
            before.ends
            or words[n].at - before.until > SILENCE_S
            or words[n].text in JOINTS
            or n in starts
            or n in after
            or n in acts
        ):
            own.append(n)
    begins = [words[n].at for n in own]
    ended = [words[n - 1].until if n else 0.0 for n in own]
    begins[0] = 0.0
    own.append(len(words))
    return Places(np.array(own), np.array([*begins, length]), np.array([*ended, words[-1].until]))


@dataclass(frozen=True)
class Told:
    """What the words of a recording were found to say: its cues, and the moves that they tell.

    ``moves``: how alike the words from each one on are to those of a move, and how likely that is one with two passes;
    it depends on no time, so that it is kept while the words get better ones.
    """

    words: Sequence[Word]
    cues: Cues
    signs: Sequence[Sign]
    moves: dict[int, tuple[float, float]]

    def move_at(self, word: int, namer: Namer, sides: Sides) -> tuple[float, float]:
        """Both of what ``moves`` tells of a word."""
        if word not in self.moves:
            like = namer.likest(self.words[word : word + ALIKE_WORDS])
            self.moves[word] = like, sides.twice(self.words[word : word + SIDED_WORDS], namer.likeness)
        return self.moves[word]


def bonus_of(told: Told, places: Places, w: Weights, namer: Namer, sides: Sides) -> Floats:
    """What speaks for a part of each state to begin at each place, shaped (states, places)."""
    borders = _Borders(told, places, w, namer, sides)
    found = np.zeros((len(State), len(places.word)))
    for k in range(len(places.word) - 1):
        borders.weigh(k, found[:, k])
    return found


class _Borders:
    """The words around each place of a recording."""

    def __init__(self, told: Told, places: Places, w: Weights, namer: Namer, sides: Sides) -> None:
        self.told, self.places, self.w, self.namer, self.sides = told, places, w, namer, sides
        cues = told.cues
        self.release, self.switch, self.next, self.short = (
            sorted(cues.at[name]) for name in ("release", "switch", "next", "short")
        )
        self.flips = sorted(flips(told.words, sided(told.words)))
        self.counted = {one + 1 for one in cues.counted if one + 1 not in cues.counted}
        joints = {n for n, one in enumerate(told.words) if one.text in JOINTS}
        self.joints = joints.union(self.release, self.switch, self.next, self.counted)
        self.named = np.zeros(len(told.words) + 1)
        for sign in told.signs:
            self.named[sign.first] = max(self.named[sign.first], sign.signature.worth)
        self.echoes = echoes(told.words, places.word[:-1].tolist(), namer.likeness)

    def weigh(self, k: int, found: Floats) -> None:
        """What speaks for each state to begin at one place, put into a row of its own."""
        w, word = self.w, int(self.places.word[k])
        loose = self._loose(word)
        over_counted = word in self.counted or word - 1 in self.counted
        ended = _near(self.release, word, 3) or _near(self.short, word, 2) or over_counted
        turned, flipped = _near(self.switch, word, 5), _near(self.flips, word, 10)
        after = w.counted * over_counted + loose
        found[list(RELEASES)] = (w.release if ended else w.no_release) + loose
        turns = w.switch * turned + w.flip * flipped if turned or flipped else w.no_switch
        found[State.SWITCH] = w.again + turns + w.echo * (self.echoes[k] - w.echo_from) + after
        named = float(self.named[word : word + NAMED_WORDS].max())
        like, twice = self.told.move_at(word, self.namer, self.sides)
        opens = w.once + w.alike * like + w.name * (named - w.name_from) + w.next * _near(self.next, word, 3) + after
        found[State.SET_UP] = opens + w.sided * math.log(1 - twice)
        found[State.FIRST_SET_UP] = opens + w.sided * math.log(twice)
        found[State.TALK] = loose
        found[list(WORKS)] = 0.5 * loose

    def _loose(self, word: int) -> float:
        """What speaks against a border at a place: it is none where a sentence ends or a silence lies."""
        if not word:
            return 0.0
        before, here = self.told.words[word - 1], self.told.words[word]
        if before.ends == 2 or here.at - before.until > SILENCE_S:
            return 0.0
        if before.ends:
            return self.w.comma
        return self.w.joint if word in self.joints else self.w.act


def _near(some: Sequence[int], first: int, reach: int) -> bool:
    """Whether one of some places in order lies within the next words."""
    k = bisect_left(some, first)
    return bool(k < len(some) and some[k] < first + reach)
