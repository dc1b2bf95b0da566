"""What a kept item offers in its place: the choices of its doses, with the seconds beside its work.

Each part is computed once for all the places where it is the same.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from extendum.core.fit.dose_options import Choice, Visited, choices_of, drop_cost, in_round
from extendum.core.fit.lanes import Places
from extendum.core.model.brief import Priority
from extendum.core.model.dose_values import Ints
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.style import CueStyle
from extendum.core.timing.durations import Beside, Facts, beside, beside_s, work_seconds
from extendum.core.timing.facts import side_facts
from extendum.core.timing.sequence import Pass, Step
from extendum.core.timing.speech import word_count
from extendum.core.timing.way import handling_s

#: What words say that depends on which other moves are in the class.
OF_THE_OTHERS = frozenset({"next", "moves", "moves_left", "needs"})
#: Of these, what changes along the class.
OF_THOSE_TO_COME = frozenset({"next", "moves_left"})

#: Where a number that words say stands beside another, so that both are read as one.
_GLUED = re.compile(r"[\d.}]\{(count|seconds)\}|\{(count|seconds)\}\.?[\d{]")


class Context(NamedTuple):
    """A step where it stands: the number of the place that it begins in, its facts, and the rounds that are alike."""

    step: Step
    at: int
    facts: Facts
    rounds: tuple[int, ...]


class Offer(NamedTuple):
    """A kept item in its place: its doses' choices, the seconds that no dose changes, the least and most in all."""

    choices: tuple[Choice, ...]
    fixed_s: int
    least_s: int
    most_s: int

    @staticmethod
    def of(choices: tuple[Choice, ...], fixed_s: int) -> Offer:
        """The offer with its ends."""
        least_s = fixed_s + sum([choice.least_s for choice in choices])
        return Offer(choices, fixed_s, least_s, fixed_s + sum([choice.most_s for choice in choices]))


#: What is offered where nothing is kept.
NOTHING = Offer((), 0, 0, 0)


def others_said(item: Item) -> frozenset[str]:
    """Which facts of the other moves the words say whose speaking time counts."""
    return OF_THE_OTHERS & item.said() if isinstance(item, MoveItem) else frozenset()


class _Words(NamedTuple):
    """What the words of a move say that changes how long they take.

    The facts of the other moves, whether there is any placeholder, the numbers of its own dose that take
    longer or shorter to say than others, and which of them is said at each value, by round.
    """

    others: tuple[str, ...]
    speaks: bool
    numbers: list[tuple[str, str]]
    said: dict[int, Ints]


class Offers:
    """The offers of a class's items."""

    def __init__(
        self,
        style: CueStyle,
        priority: Priority,
        places: Places,
        rounds: Sequence[Sequence[Step]],
        least_s: Mapping[str, int],
        drop_costs: Mapping[str, int] | None = None,
    ) -> None:
        """Offers of the items of groups, of each of which one round with all its items is given.

        ``least_s`` is what the words of talks need, by their ids.
        """
        self._style, self._priority, self._places = style, priority, places
        self._drops = dict(drop_costs or {})
        times = Counter(step.item.id for steps in rounds for step in steps)
        steps = {step.item.id: step for steps in rounds for step in steps}
        visited = [Visited(step.item, step.group, times[item]) for item, step in steps.items()]
        self._chosen = choices_of(visited, style, least_s)
        self._words = {one.item.id: self._said(one) for one in visited if isinstance(one.item, MoveItem)}
        self._beside: dict[object, list[Beside]] = {}
        self._seconds: dict[object, list[int]] = {}
        self._made: dict[object, Offer] = {}

    def said(self, item: Item) -> tuple[str, ...]:
        """Which facts of the other moves its words say."""
        return self._words[item.id].others if item.id in self._words else ()

    def of(self, item: Item, contexts: Iterable[Context]) -> Offer:
        """The offer of a kept item in these contexts: its steps in all rounds."""
        if not isinstance(item, MoveItem):
            return self._offer_of_still(item, contexts)
        choices, words = self._chosen[item.id].choices, self._words[item.id]
        if not words.numbers:
            fixed_s = sum(len(one.rounds) * self._beside_s(item, words, one)[0] for one in contexts)
            key: object = item.id, fixed_s
            if key not in self._made:
                self._made[key] = Offer.of(choices, fixed_s)
            return self._made[key]
        seconds = choices[0].seconds.copy()
        for one in contexts:
            by_number = np.array(self._beside_s(item, words, one), dtype=np.int64)
            for round_ in one.rounds:
                seconds += by_number[words.said[round_]]
        return self._offer_of_seconds(item, seconds)

    def dropping(self, item: Item) -> int:
        """The cost of leaving an item out."""
        if item.id not in self._drops:
            self._drops[item.id] = drop_cost(self._chosen[item.id].weight, item.matters.halves, self._priority)
        return self._drops[item.id]

    def _offer_of_still(self, item: Item, contexts: Iterable[Context]) -> Offer:
        """The offer of time without a move: each visit lasts as long as handling props takes."""
        handling = [handling_s(item, self._places.situation(one.at)) for one in contexts for _ in one.rounds]
        choice = self._chosen[item.id].choices[0]
        if max(handling) <= choice.values[0]:
            return self._offer_of_seconds(item, choice.seconds)
        values = np.array(choice.values, dtype=np.int64)
        return self._offer_of_seconds(item, sum((np.maximum(values, h) for h in handling), start=np.zeros_like(values)))

    def _offer_of_seconds(self, item: Item, seconds: Ints) -> Offer:
        """The offer in which the first dose takes these seconds with all that follows it."""
        key = item.id, seconds.tobytes()
        if key not in self._made:
            first, *others = self._chosen[item.id].choices
            if seconds is not first.seconds:
                ends_s = int(seconds.min()), int(seconds.max())
                first = Choice(item, 1, first.values, seconds, first.costs, *ends_s)
            self._made[key] = Offer.of((first, *others), 0)
        return self._made[key]

    # ---- the seconds beside the work ---------------------------------------------------------------

    def _said(self, visited: Visited) -> _Words:
        item, group = visited.item, visited.group
        assert isinstance(item, MoveItem)  # noqa: S101
        names = item.said()
        words = _Words(tuple(sorted(OF_THE_OTHERS & names)), bool(names), [], {})
        if names.isdisjoint({"count", "seconds"}):
            return words
        glued, known = any(_GLUED.search(text) for text in item.timed_words()), dict[object, int]()
        values = np.array(self._chosen[item.id].choices[0].values, dtype=np.int64)
        for round_ in range(1, group.rounds + 1):
            done = in_round(item, 1, values, round_, group.taper_percent, self._style.breath_ms)
            said = []
            for count, lasting in zip(done.tolist(), work_seconds(item, 1, done).tolist(), strict=True):
                number = str(count), str(lasting)
                kind = number if glued else (word_count(number[0]), word_count(number[1]))
                if kind not in known:  # numbers of as many words take as long to say
                    known[kind] = len(known)
                    words.numbers.append(number)
                said.append(known[kind])
            words.said[round_] = np.array(said, dtype=np.int64)
        return words

    def _beside_s(self, item: MoveItem, words: _Words, one: Context) -> list[int]:
        """The seconds of a pass beside its work; with each of the numbers that its words may say, if they say any."""
        this = one.step
        assert isinstance(this, Pass)  # noqa: S101 - the steps of a move
        others = tuple(one.facts[name] for name in words.others) if words.others else ()
        own = (this.side, this.way) if words.speaks else None  # what only words tell apart
        spoken = item.id, this.arrival, this.after_rest, this.released, this.ends, own, others
        key = spoken, this.side, one.at
        if key not in self._seconds:
            style = self._style
            if spoken not in self._beside:
                facts = side_facts(this, style, one.facts) if words.speaks else {}
                filled = [{**facts, "count": count, "seconds": seconds} for count, seconds in words.numbers]
                self._beside[spoken] = [beside(this, style, told) for told in filled or [facts]]
            before = self._places.situation(one.at)
            self._seconds[key] = [beside_s(this, before, style, told) for told in self._beside[spoken]]
        return self._seconds[key]
