"""The same question put to a general solver (CP-SAT): least cost for a target, or that there is none.

Its model is built step by step from the seconds of the compiler's passes: a path through all steps, of
which those of items left out are jumped over. Its costs are those of docs/fit.md, written once more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import ceil, floor

from ortools.sat.python import cp_model

from extendum.core.model.brief import Priority
from extendum.core.model.dose import Breaths, Hold, Pulses, Reps
from extendum.core.model.dose_values import actual, allowed, conventional
from extendum.core.model.item import CountIs, DirectionOrder, Item, MoveItem, is_out, may_go
from extendum.core.model.keeping import Matters
from extendum.core.model.placeholders import fill, mentions
from extendum.core.model.script import Script
from extendum.core.model.talk import Talk
from extendum.core.timing.durations import work_seconds
from extendum.core.timing.facts import pass_facts
from extendum.core.timing.layout import start_situation
from extendum.core.timing.needs import needs_of
from extendum.core.timing.parts import pass_parts
from extendum.core.timing.sequence import Arrival, Pass, Step, steps_of
from extendum.core.timing.speech import sentences, speaking_ms
from extendum.core.timing.way import situation_after


@dataclass
class _Built:
    model: cp_model.CpModel
    terms: list[cp_model.LinearExprT]
    costs: list[cp_model.LinearExprT]


def least_cost(script: Script, target_s: int) -> int | None:
    """The least cost of a length; None where it is proved that there is none. Words must not speak of other moves."""
    built = _Built(cp_model.CpModel(), [], [])
    items = [item for item in script.items() if not is_out(item)]
    kept = {item.id: built.model.new_bool_var(f"in {item.id}") for item in items}
    for item in items:
        if not may_go(item):
            built.model.add(kept[item.id] == 1)
    lead = script.style.lead_side
    steps = [
        step
        for section in script.sections
        for group in section.groups
        for step in steps_of(group, lead, tuple(i for i in group.items if not is_out(i)))
    ]
    chosen = {item.id: _doses(built, script, item, kept[item.id], steps) for item in items}
    _path(built, script, [step for step in steps if isinstance(step, Pass)], kept, chosen)
    built.model.add(sum(built.terms) == target_s)
    built.model.minimize(sum(built.costs))
    solver = cp_model.CpSolver()
    status = solver.solve(built.model)
    if status == cp_model.INFEASIBLE:
        return None
    if status != cp_model.OPTIMAL:
        raise RuntimeError(f"no answer: {solver.status_name(status)}")
    return round(solver.objective_value)


#: A cost is a whole number of millionths; leaving an item out costs its weight times these, by priority.
UNIT = 10**6
LEFT_OUT = {Priority.MOVES: Fraction(4), Priority.EVEN: Fraction(1, 2), Priority.HOLDS: Fraction(1, 16)}
MARK = {Matters.LESS: Fraction(1, 2), Matters.AS_OTHERS: Fraction(1), Matters.MOST: Fraction(2)}


def dose_cost(wanted_s: int, dose_s: int, weight: int, matters: Matters, *, off_grid: bool) -> int:
    """weight x mark x ((dose - wanted) / max(wanted, 10 s))^2, rounded half up, and half a unit off the grid."""
    share = Fraction(dose_s - wanted_s, max(wanted_s, 10)) ** 2
    return floor(UNIT * weight * MARK[matters] * share + Fraction(1, 2)) + (UNIT // 2 if off_grid else 0)


def left_out_cost(weight: int, matters: Matters, priority: Priority) -> int:
    """What leaving an item out costs."""
    return floor(UNIT * weight * MARK[matters] * LEFT_OUT[priority])


def one_pass_s(item: MoveItem, stage: int, value: int) -> int:
    """Seconds of the work of one pass: what alternates and is counted per side is done twice as often."""
    dose = item.dose_at(stage)
    alternating = item.move.sidedness.alternates and isinstance(dose, Reps | Breaths)
    times = 2 if alternating and item.count_is is CountIs.PER_SIDE else 1
    if isinstance(dose, Reps | Breaths | Pulses) and dose.stretches:
        # So many cycles, in which one phase lasts the value; the last pulse lacks its last phase.
        phases = [value * 1000 if name == dose.stretches else ms for name, ms in dose.named_phases]
        lacks = phases[-1] if isinstance(dose, Pulses) and len(phases) > 1 else 0
        return ceil(Fraction(times * dose.count.value * sum(phases) - lacks, 1000))
    return ceil(Fraction(times * value * dose.cycle_ms - dose.lacks_ms, 1000))


def words_need_s(script: Script, item: Item) -> int:
    """Seconds that the words of a talk need at the most, whichever moves stay: numbers and names at their longest."""
    if not isinstance(item, Talk):
        return 0
    moves = [one for one in script.items() if isinstance(one, MoveItem) and not is_out(one)]
    group = next(g for s in script.sections for g in s.groups if item in g.items)
    count = "21" if len(moves) > 20 else "1"
    facts = {
        "minutes": "21",
        "moves": count,
        "moves_left": count,
        "rounds": str(group.rounds),
        "needs": needs_of(moves).told,
    }
    facts |= {"side": "left", "other": "right"}
    said = [fill(item.words, {**facts, "next": name}) for name in ("the close", *(move.name for move in moves))]
    speech = script.style.speech
    return -(-max(sum(speaking_ms(one, speech) for one in sentences(text)) for text in said) // 1000)


Values = dict[int, cp_model.IntVar]


def _doses(built: _Built, script: Script, item: Item, kept: cp_model.IntVar, steps: Sequence[Step]) -> Values:
    """One literal for every value of every dose, with its seconds and cost; gives those of the first dose."""
    style, own = script.style, [step for step in steps if step.item.id == item.id]
    weights, first = 0, Values()
    doses = item.doses if isinstance(item, MoveItem) else (item,)
    for stage, dose in enumerate(doses, 1):
        q = dose.quantity
        if isinstance(item, MoveItem):
            passes = [step for step in own if isinstance(step, Pass)]
            values = conventional(allowed(dose, style.breath_ms, even=item.even(stage)), dose, style, item.move.posture)
            wanted = actual(dose, style.breath_ms, q.wanted)
            values = (actual(dose, style.breath_ms),) if q.locked else values
            seconds = {v: sum(_work(one, stage, v, style.breath_ms) for one in passes) for v in (*values, wanted)}
            lasting = {v: one_pass_s(item, stage, v) for v in (*values, wanted)}
        else:
            least = words_need_s(script, item)
            free = tuple(range(max(q.least, least), max(q.most, least) + 1))
            values, wanted = ((q.value,) if q.locked else free), q.wanted
            seconds = {v: v * len(own) for v in (*values, wanted)}
            lasting = {v: v for v in (*values, wanted)}
        weights += seconds[wanted]
        grid = isinstance(dose, Hold) and not dose.snap
        literals = {v: built.model.new_bool_var(f"{item.id} {stage} {v}") for v in values}
        built.model.add(sum(literals.values()) == kept)
        for v, literal in literals.items():
            built.terms.append(seconds[v] * literal)
            off = grid and v % 5 != 0
            cost = dose_cost(lasting[wanted], lasting[v], seconds[wanted], item.matters, off_grid=off)
            built.costs.append(cost * literal)
        first = first or literals
    if may_go(item):
        built.costs.append(left_out_cost(weights, item.matters, script.brief.priority) * (1 - kept))
    return first


def _work(this: Pass, stage: int, value: int, breath_ms: int) -> int:
    return work_seconds(this.item, stage, this.value(stage, breath_ms, value))


def _path(
    built: _Built,
    script: Script,
    steps: Sequence[Pass],
    kept: dict[str, cp_model.IntVar],
    chosen: dict[str, Values],
) -> None:
    """A path from the start through the passes of all kept items to the end, with the seconds around their work."""
    ends = len(steps) + 1
    arcs = [(ends, 0, True)]
    for n, step in enumerate(steps, 1):
        arcs.append((n, n, ~kept[step.item.id]))
    for a in range(ends):
        for b in range(a + 1, ends + 1):
            literal = built.model.new_bool_var(f"{a} to {b}")
            arcs.append((a, b, literal))
            if b < ends:
                earlier = [one for one in steps[: b - 1] if _same(one, steps[b - 1])]
                second = bool(earlier) and earlier[-1].side is not steps[b - 1].side
                _around(built, script, steps[a - 1] if a else None, steps[b - 1], literal, chosen, second=second)
            if b < ends and not may_go(steps[b - 1].item):
                break  # it cannot be jumped over
    built.model.add_circuit(arcs)


def _same(one: Pass, this: Pass) -> bool:
    """Whether two passes are of the same item, in the same round."""
    return one.item.id == this.item.id and one.round == this.round


def _around(
    built: _Built,
    script: Script,
    before: Pass | None,
    this: Pass,
    literal: cp_model.IntVar,
    chosen: dict[str, Values],
    *,
    second: bool,
) -> None:
    """The seconds of a pass beside its work, when it comes straight after another."""
    situation = situation_after(before, start_situation(script)) if before else start_situation(script)
    this = _arriving(this, before, second=second)
    facts = dict.fromkeys(("minutes", "moves", "moves_left", "next", "needs", "rounds"), "")

    def seconds(of: Pass) -> int:
        parts = pass_parts(of, situation, script.style, pass_facts(of, script.style, facts))
        return sum(part.seconds for part in parts if not part.kind.works)

    if not any(mentions(text, {"count", "seconds"}) for text in this.item.timed_words()):
        built.terms.append(seconds(this) * literal)
        return
    for value, picked in chosen[this.item.id].items():
        both = built.model.new_bool_var("")
        built.model.add_bool_and(literal, picked).only_enforce_if(both)
        built.model.add_bool_or(~literal, ~picked, both)
        having = this.item.having(this.item.quantity.at(value))
        built.terms.append(seconds(this._replace(item=having)) * both)


def _arriving(this: Pass, before: Pass | None, *, second: bool) -> Pass:
    """How a pass is come to when it follows another one: told anew, since what lay between may be left out.

    ``second``: the first pass on its second side in a round.
    """
    if before is not None and before.item.id == this.item.id and before.round == this.round:
        rested = this.set_number > before.set_number and this.item.rest_s > 0
        if before.side is not this.side:
            by_way = this.item.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION
            over = by_way and before.direction != this.direction and before.set_number == this.set_number
            arrival = Arrival.OVER if over else Arrival.SWITCH
        else:
            arrival = Arrival.TURN if before.direction != this.direction else Arrival.SET
        return this._replace(arrival=arrival, after_rest=rested)
    if this.arrival is Arrival.FIRST:
        return this
    return this._replace(arrival=Arrival.OTHER if second else Arrival.AGAIN, after_rest=False)
