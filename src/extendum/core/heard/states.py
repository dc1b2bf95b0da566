"""The parts of a class, explained all at once: talk, set-up, work, switch, work, release; the likeliest of all ways.

A semi-Markov model. A part lies between two places where something can begin or end (the end of a sentence, a joint, a
cue, before a silence); how likely it is depends on how long such parts last and on what is said in it, its silence
included; and which part comes after which. The likeliest of all ways is found exactly, by dynamic programming, and
how sure each border is by adding up all ways (forward and backward).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import IntEnum

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]
NEVER = -1e9
#: A border is as good as another so many seconds away.
NEAR_S = 3.0
#: It begins in the mean of where it is likely to within so much, and a part lasts at least so long.
MEAN_S, LEAST_S = 6.0, 0.3


class State(IntEnum):
    """A part of a class.

    A move that is done once is set up, worked, and ended with ``RELEASED``; one with a second side or direction opens
    with ``FIRST_SET_UP``, and between its passes are ``RELEASE`` and ``SWITCH``.
    """

    TALK = 0
    SET_UP = 1
    WORK = 2
    FIRST_SET_UP = 3
    FIRST = 4
    RELEASE = 5
    SWITCH = 6
    AGAIN = 7
    RELEASED = 8


@dataclass(frozen=True, slots=True)
class Lasting:
    """How long parts of a kind last: log-normal, its middle in seconds and its spread; at least and at the most."""

    middle: float
    spread: float
    least: float
    most: float

    def log(self, seconds: Floats) -> Floats:
        """The logarithm of how likely each length is."""
        held = np.maximum(seconds, 0.3)
        told = -0.5 * ((np.log(held) - np.log(self.middle)) / self.spread) ** 2 - np.log(held * self.spread * 2.5066)
        return np.where((seconds < self.least) | (seconds > self.most), NEVER, told)


@dataclass(frozen=True, slots=True)
class Model:
    """What is likely: ``follow[a, b]`` logarithms of what comes after what; ``rates`` cues a minute.

    The rates are shaped (kinds, states + 1); the last column is that of the first ``early_s`` of work. Cues say the
    same again and again: each counts for ``share`` of one.
    """

    lasting: Mapping[State, Lasting]
    follow: Floats
    rates: Floats
    share: float = 0.9
    early_s: float = 9.0


@dataclass(frozen=True, slots=True)
class Part:
    """One part: its state, from which word to before which, in seconds, and how sure its beginning is (0 to 1)."""

    state: State
    first: int
    last: int
    start: float
    end: float
    sure: float = 0.0


SET_UPS = frozenset({State.SET_UP, State.FIRST_SET_UP})
WORKS = frozenset({State.WORK, State.FIRST, State.AGAIN})
RELEASES = frozenset({State.RELEASE, State.RELEASED})
#: Who stops in the middle of work is less likely to have come to the end of a recording.
CUT_SHORT = -2.0


@dataclass(frozen=True, slots=True)
class Places:
    """Where something can begin: before which word, when that word begins, and when the one before it ends."""

    word: npt.NDArray[np.int64]
    begins: Floats
    ended: Floats


def explain(model: Model, places: Places, cues: Floats, bonus: Floats, lean: Floats | float = 0.0) -> list[Part]:
    """The likeliest parts of a whole recording, in order.

    ``cues``: how many of each kind stand before each word, (kinds, words + 1); ``bonus``: what speaks for a part of
    each state to begin at each place, (states, places); ``lean``: how much the words before each one speak for each
    state besides, (states + 1, words + 1).
    """
    lattice = _Lattice(model, places, cues, bonus, lean)
    return lattice.parts()


class _Lattice:
    """Every way through the places of one recording."""

    def __init__(self, model: Model, places: Places, cues: Floats, bonus: Floats, lean: Floats | float = 0.0) -> None:
        self.model, self.places, self.bonus = model, places, bonus
        #: How much what was said so far speaks for each state, shaped (states + 1, words + 1).
        self.said = (np.log(model.rates) * model.share).T @ cues + lean
        self.idle = model.rates.sum(axis=0) / 60 * model.share
        begins = np.array([places.ended if state in WORKS else places.begins for state in State])
        ends = [places.ended if state in {*SET_UPS, State.SWITCH} else places.begins for state in State]
        self.begins, self.ends = begins, np.array(ends)
        settled = np.searchsorted(places.begins, places.ended + model.early_s)
        self.settled = np.minimum(settled, len(places.word) - 1)

    def between(self, state: State, last: int) -> tuple[int, Floats]:
        """How likely a part is that ends at a place, for each place that it can begin at from the first one told."""
        lasting, end = self.model.lasting[state], self.ends[state, last]
        first = int(np.searchsorted(self.begins[state, :last], end - lasting.most))
        here = slice(first, last)
        seconds = end - self.begins[state, here]
        told = lasting.log(seconds)
        word = self.places.word
        if state in WORKS:
            turned = word[np.minimum(self.settled[here], last)]
            early, late = self.said[-1], self.said[State.WORK]
            told += early[turned] - early[word[here]] + late[word[last]] - late[turned]
            told -= self.idle[-1] * np.minimum(seconds, self.model.early_s)
            told -= self.idle[State.WORK] * np.maximum(0, seconds - self.model.early_s)
        else:
            told += self.said[state, word[last]] - self.said[state, word[here]] - self.idle[state] * seconds
        return first, told

    def parts(self) -> list[Part]:
        """The best way, and how sure each of its borders is."""
        n = len(self.places.word)
        shape = (len(State), n)
        best, whole = np.full(shape, NEVER), np.full(shape, NEVER)
        into, ways = np.full(shape, NEVER), np.full(shape, NEVER)
        back, before = np.zeros(shape, dtype=int), np.zeros(shape, dtype=int)
        into[State.TALK, 0] = ways[State.TALK, 0] = 0.0
        for state in SET_UPS:
            into[state, 0] = ways[state, 0] = -3.0
        follow = self.model.follow
        scores: dict[tuple[int, int], tuple[int, Floats]] = {}
        for last in range(1, n):
            for state in State:
                first, told = scores[state, last] = self.between(state, last)
                if first == last:
                    continue
                led = into[state, first:last] + told
                back[state, last] = first + int(np.argmax(led))
                best[state, last] = led.max()
                whole[state, last] = _summed(ways[state, first:last] + told)
            led = best[:, last, None] + follow
            before[:, last] = np.argmax(led, axis=0)
            into[:, last] = led.max(axis=0) + self.bonus[:, last]
            ways[:, last] = _summed(whole[:, last, None] + follow, axis=0) + self.bonus[:, last]
        likely = self._likely(scores, ways, whole)
        sure, mean = self._near(likely)
        state = max({State.TALK, *RELEASES, *WORKS}, key=lambda one: best[one, n - 1] + CUT_SHORT * (one in WORKS))
        found, means, last = [], [], n - 1
        while last > 0:
            first = int(back[state, last])
            start, end = float(self.begins[state, first]), float(self.ends[state, last])
            word = self.places.word
            found.append(Part(State(state), int(word[first]), int(word[last]), start, end, float(sure[state, first])))
            means.append(float(mean[state, first]) if first else start)
            state, last = State(int(before[state, first])), first
        return _placed(found[::-1], means[::-1])

    def _likely(self, scores: dict[tuple[int, int], tuple[int, Floats]], ways: Floats, whole: Floats) -> Floats:
        """How likely a part of each state begins at each place, (states, places)."""
        n = ways.shape[1]
        after = np.full(ways.shape, NEVER)
        onward = np.full(ways.shape, NEVER)
        onward[[State.TALK, *RELEASES], n - 1] = 0.0
        onward[list(WORKS), n - 1] = CUT_SHORT
        for last in range(n - 1, 0, -1):
            if last < n - 1:
                onward[:, last] = _summed(self.model.follow + (self.bonus[:, last] + after[:, last])[None, :], axis=1)
            for state in State:
                first, told = scores[state, last]
                here = slice(first, last)
                after[state, here] = np.logaddexp(after[state, here], told + onward[state, last])
        every = _summed(whole[:, n - 1] + onward[:, n - 1])
        likely: Floats = np.exp(np.minimum(0.0, ways + after - every))
        return likely

    def _near(self, likely: Floats) -> tuple[Floats, Floats]:
        """How likely a part of each state begins at each place or next to it, and when in the mean of those places."""
        sure = np.minimum(1.0, self._around(likely, NEAR_S))
        mean = self._around(likely * self.begins, MEAN_S) / np.maximum(1e-12, self._around(likely, MEAN_S))
        return sure, mean

    def _around(self, some: Floats, within: float) -> Floats:
        """The sums of what is within so many seconds of each place."""
        begins = self.places.begins
        since, until = np.searchsorted(begins, begins - within), np.searchsorted(begins, begins + within, "right")
        whole = np.pad(some.cumsum(axis=1), ((0, 0), (1, 0)))
        sums: Floats = np.maximum(0.0, whole[:, until] - whole[:, since])
        return sums


def _placed(parts: Sequence[Part], means: Sequence[float]) -> list[Part]:
    """Parts that begin when they do in the mean of all ways; they stay in order, and none is lost."""
    starts: list[float] = []
    for mean in means:
        starts.append(max(mean, starts[-1] + LEAST_S) if starts else mean)
    found = []
    for n, part in enumerate(parts):
        shift = starts[n + 1] - parts[n + 1].start if n + 1 < len(parts) else 0.0
        found.append(replace(part, start=starts[n], end=max(part.end + shift, starts[n] + LEAST_S)))
    return found


def _summed(logs: Floats, axis: int | None = None) -> Floats:
    most = logs.max(axis=axis, keepdims=True)
    told: Floats = np.log(np.exp(logs - most).sum(axis=axis, keepdims=True)) + most
    squeezed: Floats = told.squeeze() if axis is None else told.squeeze(axis)
    return squeezed
