"""How long holds last, besides what the silence between stamps tells: by what was called, and by the class itself.

Stamps stand so far apart that when a hold ended is often known to many seconds only. Whoever calls *ten seconds* ends
it about eight later, now and then at any time; and one hold of a class is like another. Both are weighed against the
times that the words have: they draw the words, and an end that nobody called for is still found where words tell it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from extendum.core.heard.calling import Call
from extendum.core.heard.said import Line, Timing, Word
from extendum.core.heard.silence import Silences
from extendum.core.heard.states import WORKS, Due, Part, Places

Floats = npt.NDArray[np.float64]
#: A hold that lasts on for longer than this was not the one that was called.
WITHIN_S = 90.0
#: Nothing is shorter, in seconds.
LEAST_S = 0.3
#: The silence of some words is made so much more or less, in logarithms, found in so many halvings.
MOST_DRAWN, HALVINGS = 3.0, 8


@dataclass(frozen=True, slots=True)
class Holds:
    """What holds last, against what is called.

    ``called``: seconds that come for each one called, in the middle; ``spread``: of their logarithms; ``unlike``: the
    share of calls that tell nothing, after which it ends within ``any`` seconds in the mean. ``drawn`` and ``usual``:
    how much the seconds after a call, and the seconds of a hold, are drawn to what is likely (0 to 1).
    """

    called: float
    spread: float
    unlike: float
    any: float
    drawn: float
    usual: float

    def worth(self, seconds: Floats, called: Floats) -> Floats:
        """How much likelier it is that work ends so many seconds after a call than at any time, in logarithms."""
        after = np.maximum(LEAST_S, seconds)
        any_time = -np.log(self.any) - after / self.any
        off = (np.log(after) - np.log(self.called * called)) / self.spread
        told = -0.5 * off**2 - np.log(after * self.spread * np.sqrt(2 * np.pi))
        mixed = np.logaddexp(np.log(1 - self.unlike) + told, np.log(self.unlike) + any_time)
        return np.where(seconds > WITHIN_S, 0.0, mixed - any_time)

    def due(self, places: Places, calls: Sequence[Call]) -> Due:
        """For each place that work can end at the last call before it, and how much that speaks for it."""
        if not calls:
            return Due(np.full(len(places.word), -1), np.zeros(len(places.word)))
        last = np.searchsorted([one.word for one in calls], places.word) - 1
        at, seconds = np.array([one.at for one in calls]), np.array([float(one.number) for one in calls])
        worth = self.worth(places.begins - at[last], seconds[last])
        word = np.array([one.word for one in calls])[last]
        return Due(np.where(last < 0, -1, word), np.where(last < 0, 0.0, worth))

    def timed(
        self, lines: Sequence[Line], silences: Silences, parts: Sequence[Part], calls: Sequence[Call]
    ) -> tuple[Word, ...]:
        """The words of a recording whose parts are known, with more or less silence in a hold and after a call."""
        timing = Timing(lines, silences, in_work(parts))
        begins = timing.begins()
        wishes = self._wishes(begins, parts, calls)
        least, most = np.full(len(wishes), -MOST_DRAWN), np.full(len(wishes), MOST_DRAWN)
        drawn = np.zeros(len(begins))
        for _ in range(HALVINGS if wishes else 0):
            middle, drawn = (least + most) / 2, np.zeros(len(begins))
            for (first, last, _), more in zip(wishes, middle, strict=True):
                drawn[first:last] += more
            begins = timing.begins(drawn)
            short = np.array([_lasts(begins, first, last) < seconds for first, last, seconds in wishes])
            least, most = np.where(short, middle, least), np.where(short, most, middle)
        return timing.words(drawn)

    def _wishes(self, begins: Floats, parts: Sequence[Part], calls: Sequence[Call]) -> list[tuple[int, int, float]]:
        """From which word to which something is to last so many seconds; ``begins``: when each word does."""
        holds = [one for one in parts if one.state in WORKS and one.last < len(begins)]
        last = np.log([_lasts(begins, one.first, one.last) for one in holds])
        found = []
        for one, seconds in zip(holds, last, strict=True):
            drawn = (1 - self.usual) * seconds + self.usual * last.mean()
            found.append((one.first, one.last, float(np.exp(drawn))))
            here = [call for call in calls if one.first <= call.word < one.last]
            if here and (after := _lasts(begins, here[-1].word, one.last)) < WITHIN_S:
                called = self.called * here[-1].number
                drawn = (1 - self.drawn) * np.log(after) + self.drawn * np.log(called)
                found.append((here[-1].word, one.last, float(np.exp(drawn))))
        return found


def in_work(parts: Sequence[Part]) -> list[bool]:
    """Which words are said in work."""
    return [part.state in WORKS for part in parts for _ in range(part.first, part.last)]


def _lasts(begins: Floats, first: int, last: int) -> float:
    return max(LEAST_S, float(begins[last] - begins[first]))
