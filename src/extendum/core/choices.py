"""What each dose of a class may be: its values, the seconds that the class then takes, and their costs.

Computed by the compiler's own functions, so that a fit's lengths are the timeline's by construction.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from extendum.core.compile import Laid, lay_out
from extendum.core.dose import Elastic, Hold, Timed, pass_seconds
from extendum.core.passes import pass_parts, still_parts, work_seconds
from extendum.core.script import Item, MoveItem, Quiet, Script, Talk
from extendum.core.sequence import Pass, Still
from extendum.core.steps import actual, allowed
from extendum.core.style import CueStyle
from extendum.core.words import mentions

#: Of a whole unit of cost (10**6), what a hold off the 5 s grid costs: enough to prefer the grid
#: between near equals, too little to distort a fit.
OFF_GRID = 500_000
GRID_S = 5
UNIT = 10**6


@dataclass(frozen=True, slots=True)
class Choice:
    """What one dose may be: values, the seconds that the class then takes for it, and the cost of each.

    The seconds are those of all passes and rounds of the item's stage; what does not depend on any dose
    is in the first choice of all.
    """

    item: Item
    stage: int
    values: tuple[int, ...]
    seconds: tuple[int, ...]
    costs: tuple[int, ...]

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity that is chosen."""
        return self.item.doses[self.stage - 1].quantity if isinstance(self.item, MoveItem) else self.item.quantity

    @property
    def name(self) -> str:
        """What a sentence calls it: the item, and its stage where there are several."""
        several = isinstance(self.item, MoveItem) and self.item.then
        return f"{self.item.name}, part {self.stage}" if several else self.item.name


def cost_of(wanted_s: int, dose_s: int, weight: int, *, off_grid: bool) -> int:
    """The cost of one dose: the table that the fit shares with its oracle.

    weight x ((dose - wanted) / max(wanted, 10 s))^2 with doses in seconds of one pass and the weight
    equal to the wanted seconds over all passes, so that every dose gives the same share; plus OFF_GRID
    for a hold off the 5 s grid. An integer, rounded half up.
    """
    scale = max(wanted_s, 10) ** 2
    cost = (2 * UNIT * weight * (dose_s - wanted_s) ** 2 + scale) // (2 * scale)
    return cost + OFF_GRID if off_grid else cost


def choices(script: Script, minutes: int) -> tuple[Choice, ...]:
    """What each dose may be, in order, with the class announced as lasting this many minutes."""
    laid = lay_out(script, minutes)
    by_item: dict[str, list[Laid]] = {}
    for one in laid:
        by_item.setdefault(one.step.item.id, []).append(one)
    found: list[Choice] = []
    rest = sum(part.seconds for one in laid for part in one.parts)
    for item in script.items():
        own = by_item.get(item.id, [])
        if isinstance(item, MoveItem):
            some = [_of_stage(item, stage, own, script.style) for stage in range(1, len(item.doses) + 1)]
        else:
            some = [_of_still(item, own)]
        rest -= sum(now for _, now in some)
        found += [choice for choice, _ in some]
    if found:  # what no dose changes is carried by the first choice
        found[0] = replace(found[0], seconds=tuple(s + rest for s in found[0].seconds))
    return tuple(found)


def _of_still(item: Talk | Quiet, own: list[Laid]) -> tuple[Choice, int]:
    """The choice of an item without a move, and the seconds that it has now."""
    q = item.quantity
    values = (q.value,) if q.locked else tuple(range(q.least, q.most + 1))
    seconds = []
    for value in values:
        changed = item.having(q.at(value))
        steps = (replace(one.step, item=changed) for one in own if isinstance(one.step, Still))
        made = (still_parts(step, one.before)[0] for step, one in zip(steps, own, strict=True))
        seconds.append(sum(part.seconds for parts in made for part in parts))
    weight = q.wanted * len(own)
    costs = tuple(cost_of(q.wanted, value, weight, off_grid=False) for value in values)
    return Choice(item, 1, values, tuple(seconds), costs), sum(p.seconds for one in own for p in one.parts)


def _of_stage(item: MoveItem, stage: int, own: list[Laid], style: CueStyle) -> tuple[Choice, int]:
    """The choice of one dose of a move, and the seconds that it has now.

    Where the words say the dose, their own length depends on it, so that whole passes are measured.
    """
    dose = item.doses[stage - 1]
    even = stage == 1 and item.even
    q = dose.quantity
    values = (actual(dose, style.breath_ms),) if q.locked else allowed(dose, style.breath_ms, even=even)
    whole_passes = stage == 1 and _says_its_dose(item)

    snapped = isinstance(dose, Hold) and dose.snap
    passes = [(one.step, one) for one in own if isinstance(one.step, Pass)]
    of_round = {this.round: this for this, _ in passes}  # the passes of a round do the same
    often = Counter(this.round for this, _ in passes)

    steady = len(of_round) == 1 and not snapped and not isinstance(dose, Timed)

    def work_at(value: int) -> int:
        if steady:  # neither rounds nor steps between the value and what is done
            return len(passes) * work_seconds(passes[0][0], stage, value)
        return sum(n * _work_s(of_round[r], stage, value, style) for r, n in often.items())

    def seconds_at(value: int) -> int:
        if not whole_passes:
            return work_at(value)
        total = 0
        for this, one in passes:
            changed = replace(this, item=item.having(q.at(value)))
            parts = pass_parts(changed, one.before, style, one.facts)[0]
            total += sum(part.seconds for part in parts if not (part.kind.works and part.stage != 1))
        return total

    wanted = actual(dose, style.breath_ms, q.wanted)
    weight = work_at(wanted)
    grid = isinstance(dose, Hold) and not snapped
    wanted_s = pass_seconds(dose, wanted)
    costs = tuple(cost_of(wanted_s, pass_seconds(dose, v), weight, off_grid=grid and v % GRID_S != 0) for v in values)
    now = seconds_at(actual(dose, style.breath_ms))
    return Choice(item, stage, values, tuple(map(seconds_at, values)), costs), now


def _work_s(this: Pass, stage: int, value: int, style: CueStyle) -> int:
    """The work of a stage in a pass, whose two halves are of equal whole seconds."""
    return work_seconds(this, stage, this.value(stage, style.breath_ms, value))


def _says_its_dose(item: MoveItem) -> bool:
    texts = (*item.words.timed(), item.words.demonstration, *(stage.words for stage in item.then))
    return any(mentions(text, {"count", "seconds"}) for text in texts)
