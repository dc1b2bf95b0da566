"""The parts of a class, explained all at once: talk, set-up, work, switch, work, release; the likeliest of all ways.

A semi-Markov model. A part lies between two places where something can begin or end (the end of a sentence, a joint, a
cue, before a silence); how likely it is depends on how long such parts last and on what is said in it, its silence
included; and which part comes after which. The likeliest of all ways is found exactly, by dynamic programming, and
how sure each border is by adding up all ways (forward and backward).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
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
#: Parts that end at so many places are looked at together.
TOGETHER = 64
#: A recording hardly begins with a move at once.
AT_ONCE = -3.0


@dataclass(frozen=True, slots=True)
class Due:
    """How much what was called speaks for work to end at each place, if it began before the word of the call."""

    word: npt.NDArray[np.int64]
    worth: Floats


@dataclass(frozen=True, slots=True)
class Places:
    """Where something can begin: before which word, when that word begins, and when the one before it ends."""

    word: npt.NDArray[np.int64]
    begins: Floats
    ended: Floats


@dataclass(frozen=True, slots=True)
class Evidence:
    """What a recording tells.

    ``cues``: how many of each kind stand before each word, (kinds, words + 1); ``bonus``: what speaks for a part of
    each state to begin at each place, (states, places); ``lean``: how much the words before each one speak for each
    state besides, (states + 1, words + 1); ``due``: what was called.
    """

    places: Places
    cues: Floats
    bonus: Floats
    lean: Floats | float = 0.0
    due: Due | None = None


def explain(model: Model, evidence: Evidence) -> list[Part]:
    """The likeliest parts of a whole recording, in order, and how surely they begin in the mean of all ways."""
    return _Lattice(model, evidence).parts()


def sketch(model: Model, evidence: Evidence) -> tuple[list[Part], float]:
    """The likeliest parts, each beginning where it does in that one way, and the logarithm of how likely they are."""
    return _Lattice(model, evidence).likeliest()


class _Lattice:
    """Every way through the places of one recording."""

    def __init__(self, model: Model, evidence: Evidence) -> None:
        self.model, self.places, self.bonus = model, evidence.places, evidence.bonus
        places = self.places
        self.due = evidence.due or Due(np.full(len(places.word), -1), np.zeros(len(places.word)))
        #: How much what was said so far speaks for each state, shaped (states + 1, words + 1).
        self.said = (np.log(model.rates) * model.share).T @ evidence.cues + evidence.lean
        self.idle = model.rates.sum(axis=0) / 60 * model.share
        begins = np.array([places.ended if state in WORKS else places.begins for state in State])
        ends = [places.ended if state in {*SET_UPS, State.SWITCH} else places.begins for state in State]
        self.begins, self.ends = begins, np.array(ends)
        settled = np.searchsorted(places.begins, places.ended + model.early_s)
        self.settled = np.minimum(settled, len(places.word) - 1)
        self.most = max(one.most for one in model.lasting.values())

    def between(self, since: int, until: int) -> tuple[int, Floats]:
        """How likely each part is that ends at one of some places, and the first place that one of them can begin at.

        Shaped (states, places to end at, places to begin at).
        """
        first = int(np.searchsorted(self.places.ended[:since], self.places.ended[since] - self.most))
        begin, end = np.arange(first, until), np.arange(since, until)
        word, told = self.places.word, np.empty((len(State), len(end), len(begin)))
        turned = word[np.minimum(self.settled[begin][None, :], end[:, None])]
        early, late = self.said[-1], self.said[State.WORK]
        spoken = early[turned] - early[word[begin]] + late[word[end]][:, None] - late[turned]
        spoken += np.where(word[begin] <= self.due.word[end, None], self.due.worth[end, None], 0.0)
        known: dict[tuple[object, ...], State] = {}
        for state in State:
            works, lasting = state in WORKS, self.model.lasting[state]
            alike = (works, state in SET_UPS, state is State.SWITCH, lasting, *self.model.rates[:, state])
            if alike in known:  # moves with a second side are set up and worked as all others
                told[state] = told[known[alike]]
                continue
            known[alike] = state
            seconds = self.ends[state, end][:, None] - self.begins[state, begin]
            told[state] = lasting.log(seconds)
            if works:
                told[state] += spoken - self.idle[-1] * np.minimum(seconds, self.model.early_s)
                told[state] -= self.idle[State.WORK] * np.maximum(0, seconds - self.model.early_s)
            else:
                said = self.said[state]
                told[state] += said[word[end]][:, None] - said[word[begin]] - self.idle[state] * seconds
        told[:, begin[None, :] >= end[:, None]] = NEVER
        return first, told

    def _scores(self, *, back: bool = False) -> Iterator[tuple[int, slice, Floats]]:
        """Each place that parts can end at, those that they can begin at, and how likely they are, (states, places)."""
        n = len(self.places.word)
        blocks = [(since, min(n, since + TOGETHER)) for since in range(1, n, TOGETHER)]
        for since, until in blocks[::-1] if back else blocks:
            first, told = self.between(since, until)
            for last in range(until - 1, since - 1, -1) if back else range(since, until):
                yield last, slice(first, last), told[:, last - since, : last - first]

    def likeliest(self) -> tuple[list[Part], float]:
        """The best way, each part beginning where it does in that way, and how likely it is."""
        n = len(self.places.word)
        best, into = np.full((len(State), n), NEVER), np.full((len(State), n), NEVER)
        back, before = np.zeros((len(State), n), dtype=int), np.zeros((len(State), n), dtype=int)
        into[State.TALK, 0] = 0.0
        into[list(SET_UPS), 0] = AT_ONCE
        for last, here, told in self._scores():
            led = into[:, here] + told
            back[:, last] = here.start + np.argmax(led, axis=1)
            best[:, last] = led.max(axis=1)
            led = best[:, last, None] + self.model.follow
            before[:, last] = np.argmax(led, axis=0)
            into[:, last] = led.max(axis=0) + self.bonus[:, last]
        over = {one: float(best[one, n - 1]) + CUT_SHORT * (one in WORKS) for one in (State.TALK, *RELEASES, *WORKS)}
        state = max(over, key=lambda one: over[one])
        likely = over[state]
        found, last, word = [], n - 1, self.places.word
        while last > 0:
            first = int(back[state, last])
            start, end = float(self.begins[state, first]), float(self.ends[state, last])
            found.append(Part(State(state), int(word[first]), int(word[last]), start, end))
            state, last = State(int(before[state, first])), first
        return found[::-1], likely

    def parts(self) -> list[Part]:
        """The best way, and when and how surely each of its parts begins in the mean of all ways."""
        found, (sure, mean) = self.likeliest()[0], self._near(self._likely())
        at = np.searchsorted(self.places.word, [part.first for part in found]).tolist()
        told = [replace(part, sure=float(sure[part.state, k])) for part, k in zip(found, at, strict=True)]
        return _placed(told, [float(mean[one.state, k]) if k else one.start for one, k in zip(found, at, strict=True)])

    def _likely(self) -> Floats:
        """How likely a part of each state begins at each place, (states, places), in all ways together."""
        n, shape = len(self.places.word), (len(State), len(self.places.word))
        whole, ways = np.full(shape, NEVER), np.full(shape, NEVER)
        ways[State.TALK, 0] = 0.0
        ways[list(SET_UPS), 0] = AT_ONCE
        for last, here, told in self._scores():
            whole[:, last] = _summed(ways[:, here] + told, axis=1)
            ways[:, last] = _summed(whole[:, last, None] + self.model.follow, axis=0) + self.bonus[:, last]
        after, onward = np.full(shape, NEVER), np.full(shape, NEVER)
        onward[[State.TALK, *RELEASES], n - 1] = 0.0
        onward[list(WORKS), n - 1] = CUT_SHORT
        for last, here, told in self._scores(back=True):
            if last < n - 1:
                onward[:, last] = _summed(self.model.follow + (self.bonus[:, last] + after[:, last])[None, :], axis=1)
            after[:, here] = np.logaddexp(after[:, here], told + onward[:, last, None])
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
