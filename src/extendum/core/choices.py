"""What each dose of a class may be: its values, the seconds that they take, and their costs.

Computed by the compiler's own functions, so that a fit's lengths are the timeline's by construction.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from extendum.core.beside import beside_s
from extendum.core.dose import COUNTED, Dose, Elastic, Hold, Manner, Timed, pass_seconds
from extendum.core.item import Item, MoveItem, Quiet, Talk
from extendum.core.passes import Facts, Situation, pass_facts, rep_total, still_parts, work_seconds
from extendum.core.script import Priority
from extendum.core.sequence import Pass, Step, Still
from extendum.core.speech import word_count
from extendum.core.steps import actual, allowed, conventional
from extendum.core.style import CueStyle
from extendum.core.words import mentions

#: Of a whole unit of cost (10**6), what a hold off the 5 s grid costs: enough to prefer the grid
#: between near equals, too little to distort a fit.
OFF_GRID = 500_000
GRID_S = 5
UNIT = 10**6
#: What leaving an item out costs, as a share of its weight: shrinking it to nothing would cost 1.
DROPPING = {Priority.MOVES: (4, 1), Priority.EVEN: (1, 2), Priority.HOLDS: (1, 16)}
#: What words say that depends on which other moves are in the class.
OF_THE_OTHERS = frozenset({"next", "moves", "moves_left", "needs"})

#: Later rounds are too far for whole numbers of 64 bits on the way to a tapered value.
_ROUNDS_IN_64_BITS = 7
#: Where a number that words say stands beside another, so that both are read as one.
_GLUED = re.compile(r"[\d.}]\{(count|seconds)\}|\{(count|seconds)\}\.?[\d{]")

Ints = NDArray[np.int64]


@dataclass(frozen=True, slots=True, eq=False)
class Choice:
    """What one dose may be: values, the seconds that all its passes then take, and the cost of each."""

    item: Item
    stage: int
    values: tuple[int, ...]
    seconds: Ints
    costs: Ints

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity that is chosen."""
        return self.item.dose_at(self.stage).quantity if isinstance(self.item, MoveItem) else self.item.quantity

    @property
    def name(self) -> str:
        """What a sentence calls it: the item, and its stage where there are several."""
        several = isinstance(self.item, MoveItem) and self.item.then
        return f"{self.item.name}, part {self.stage}" if several else self.item.name

    @property
    def unit(self) -> str:
        """The unit of its values."""
        return self.item.dose_at(self.stage).unit if isinstance(self.item, MoveItem) else "s"

    @property
    def kind(self) -> str:
        """The kind of its dose, or of its item without a move."""
        return self.item.dose_at(self.stage).tag if isinstance(self.item, MoveItem) else self.item.tag


@dataclass(frozen=True, slots=True)
class Context:
    """A step where it stands: what was true before it, and its facts."""

    step: Step
    before: Situation
    facts: Facts


@dataclass(frozen=True, slots=True, eq=False)
class Offer:
    """A kept item where it stands: the choices of its doses, and the seconds that no dose changes."""

    choices: tuple[Choice, ...]
    fixed_s: int


def cost_of(wanted_s: int, dose_s: int, weight: int, *, off_grid: bool, halves: int = 2) -> int:
    """The cost of one dose: the table that the fit shares with its oracle.

    weight x ((dose - wanted) / max(wanted, 10 s))^2 with doses in seconds of one pass and the weight
    equal to the wanted seconds over all passes, times the teacher's mark in halves, so that every dose
    gives the same share; plus OFF_GRID for a hold off the 5 s grid. An integer, rounded half up.
    """
    scale = max(wanted_s, 10) ** 2
    cost = (UNIT * halves * weight * (dose_s - wanted_s) ** 2 + scale) // (2 * scale)
    return cost + OFF_GRID if off_grid else cost


def drop_cost(weight: int, halves: int, priority: Priority) -> int:
    """The cost of leaving an item out, whose doses weigh so many seconds, by the class's priority."""
    share, of = DROPPING[priority]
    return UNIT * weight * halves * share // (2 * of)


def others_said(item: Item) -> frozenset[str]:
    """Which facts of the other moves the words say whose speaking time counts."""
    if not isinstance(item, MoveItem):
        return frozenset()
    texts = [text for text in item.timed_words() if "{" in text]
    return frozenset(name for name in OF_THE_OTHERS if any(mentions(text, {name}) for text in texts))


class Offers:
    """The offers of a class's items; what does not depend on where an item stands is computed once."""

    def __init__(self, style: CueStyle, priority: Priority, drop_costs: Mapping[str, int] | None = None) -> None:
        self._style, self._priority = style, priority
        self._drops = dict(drop_costs or {})
        self._work: dict[tuple[str, int], Choice] = {}
        self._said: dict[str, tuple[bool, bool]] = {}

    def of(self, item: Item, contexts: Sequence[Context]) -> Offer:
        """The offer of a kept item in these contexts: its steps in order."""
        if not isinstance(item, MoveItem):
            return Offer((self._of_still(item, contexts),), 0)
        passes = [(one.step, one) for one in contexts if isinstance(one.step, Pass)]
        own = [this for this, _ in passes]
        found = [self._stage(item, stage, own) for stage in range(1, len(item.doses) + 1)]
        if item.id not in self._said:
            texts = [text for text in item.timed_words() if "{" in text]
            self._said[item.id] = bool(texts), any(mentions(text, {"count", "seconds"}) for text in texts)
        speaks, says_dose = self._said[item.id]
        if says_dose:
            whole = found[0].seconds + self._around(found[0], passes)
            return Offer((replace(found[0], seconds=whole), *found[1:]), 0)
        filled: Facts | None = None if speaks else {}
        fixed = sum(beside_s(this, one.before, self._style, one.facts, filled) for this, one in passes)
        return Offer(tuple(found), fixed)

    def dropping(self, item: Item, contexts: Sequence[Context]) -> int:
        """The cost of leaving an item out."""
        if item.id not in self._drops:
            if isinstance(item, MoveItem):
                passes = [one.step for one in contexts if isinstance(one.step, Pass)]
                doses = enumerate(item.doses, 1)
                weight = sum(self._weight(passes, stage, dose.quantity.wanted) for stage, dose in doses)
            else:
                weight = item.quantity.wanted * len(contexts)
            self._drops[item.id] = drop_cost(weight, item.matters.halves, self._priority)
        return self._drops[item.id]

    def _of_still(self, item: Talk | Quiet, contexts: Sequence[Context]) -> Choice:
        q = item.quantity
        values = (q.value,) if q.locked else tuple(range(q.least, q.most + 1))
        seconds = np.zeros(len(values), dtype=np.int64)
        for one in contexts:
            # At nothing it still lasts as long as handling props takes.
            still = Still(item.having(replace(q, least=0, now=0)), one.step.group)
            handling = sum(part.seconds for part in still_parts(still, one.before)[0])
            seconds += np.maximum(np.array(values, dtype=np.int64), handling)
        weight = q.wanted * len(contexts)
        costs = [cost_of(q.wanted, v, weight, off_grid=False, halves=item.matters.halves) for v in values]
        return Choice(item, 1, values, seconds, np.array(costs, dtype=np.int64))

    def _weight(self, passes: Sequence[Pass], stage: int, value: int) -> int:
        breath_ms = self._style.breath_ms
        wanted, known = actual(passes[0].item.dose_at(stage), breath_ms, value), dict[int, int]()
        for this in passes:
            if this.round not in known:  # the passes of a round do the same
                known[this.round] = work_seconds(this, stage, this.value(stage, breath_ms, wanted))
        return sum(known[this.round] for this in passes)

    def _stage(self, item: MoveItem, stage: int, passes: Sequence[Pass]) -> Choice:
        """The choice of one dose of a move: the seconds of its work in all passes and rounds."""
        made = self._work.get((item.id, stage))
        if made is not None:
            return made
        dose, style = item.dose_at(stage), self._style
        q = dose.quantity
        if q.locked:
            values: tuple[int, ...] = (actual(dose, style.breath_ms),)
        else:
            values = allowed(dose, style.breath_ms, even=stage == 1 and item.even)
            values = conventional(values, dose, style, item.move.posture)
        weight = self._weight(passes, stage, q.wanted)
        wanted_s = pass_seconds(dose, actual(dose, style.breath_ms, q.wanted))
        doses_s = _pass_s(dose, np.array(values, dtype=np.int64))
        if weight * max(abs(int(doses_s[0]) - wanted_s), abs(int(doses_s[-1]) - wanted_s)) ** 2 < 2**40:
            scale = max(wanted_s, 10) ** 2
            costs = (UNIT * item.matters.halves * weight * (doses_s - wanted_s) ** 2 + scale) // (2 * scale)
        else:  # too large for 64 bits on the way
            halves = item.matters.halves
            costs = np.array([cost_of(wanted_s, int(s), weight, off_grid=False, halves=halves) for s in doses_s])
        if isinstance(dose, Hold) and not dose.snap:
            costs = costs + np.where(doses_s % GRID_S, OFF_GRID, 0)
        made = Choice(item, stage, values, self._work_at(passes, stage, values), costs)
        self._work[item.id, stage] = made
        return made

    def _work_at(self, passes: Sequence[Pass], stage: int, values: tuple[int, ...]) -> Ints:
        """The seconds of the work of a stage in all passes, at each value."""
        often = Counter(this.round for this in passes)  # the passes of a round do the same
        first = passes[0]
        dose, taper = first.item.dose_at(stage), first.group.taper_percent
        snapped = isinstance(dose, Hold) and dose.snap
        halved = isinstance(dose, Timed) and dose.manner is Manner.HALVES
        stepped = snapped or halved or (stage == 1 and first.item.even and len(often) > 1 and taper < 100)
        if not stepped and max(often) <= _ROUNDS_IN_64_BITS:
            total = np.zeros(len(values), dtype=np.int64)
            times = rep_total(first.item, stage, 1)
            for round_, n in often.items():
                total += n * _pass_s(dose, times * _tapered(np.array(values, dtype=np.int64), dose, round_, taper))
            return total
        of_round = {this.round: this for this in passes}
        breath_ms = self._style.breath_ms
        found = [
            sum(n * work_seconds(of_round[r], stage, of_round[r].value(stage, breath_ms, v)) for r, n in often.items())
            for v in values
        ]
        return np.array(found, dtype=np.int64)

    def _around(self, choice: Choice, passes: Sequence[tuple[Pass, Context]]) -> Ints:
        """The seconds around the work at each value, where the words say the dose and their own length follows it."""
        style, total = self._style, np.zeros(len(choice.values), dtype=np.int64)
        glued = any(_GLUED.search(text) for text in passes[0][0].item.timed_words())
        for this, one in passes:
            facts = pass_facts(this, style, one.facts)
            known: dict[object, int] = {}
            for n, value in enumerate(choice.values):
                done = this.value(1, style.breath_ms, value)
                count, seconds = str(done), str(work_seconds(this, 1, done))
                said = (count, seconds) if glued else (word_count(count), word_count(seconds))
                if said not in known:  # numbers of as many words take as long to say
                    filled = {**facts, "count": count, "seconds": seconds}
                    known[said] = beside_s(this, one.before, style, one.facts, filled)
                total[n] += known[said]
        return total


def _tapered(values: Ints, dose: Dose, round_: int, taper_percent: int) -> Ints:
    """Values in a later round, as `steps.tapered` has them for doses in single steps."""
    if round_ == 1 or taper_percent == 100:
        return values
    top, bottom = taper_percent ** (round_ - 1), 100 ** (round_ - 1)
    q = dose.quantity
    tapered: Ints = np.clip((2 * values * top + bottom) // (2 * bottom), q.least, q.most)
    return tapered


def _pass_s(dose: Dose, values: Ints) -> Ints:
    """Whole seconds of one pass at each value."""
    if not isinstance(dose, COUNTED):
        return values
    last_ms = dose.cycle_ms - dose.pass_ms(1)
    return -((last_ms - values * dose.cycle_ms) // 1000)
