"""The same question put to a general solver (CP-SAT): least cost for a target, or that there is none.

Its model is built step by step from the seconds of the compiler's passes: a path through all steps, of
which those of items left out are jumped over. Its costs are those of docs/fit.md, written once more.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import floor

from ortools.sat.python import cp_model

from extendum.core.model.brief import Priority
from extendum.core.model.dose import Hold, pass_seconds
from extendum.core.model.dose_values import actual, allowed, conventional
from extendum.core.model.item import Item, Matters, MoveItem, is_out, may_go
from extendum.core.model.script import Script
from extendum.core.model.words import mentions
from extendum.core.timing.durations import situation_after, work_seconds
from extendum.core.timing.facts import pass_facts
from extendum.core.timing.layout import start_situation
from extendum.core.timing.parts import pass_parts
from extendum.core.timing.sequence import Arrival, Pass, Step, steps_of


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
            even = stage == 1 and item.even
            values = conventional(allowed(dose, style.breath_ms, even=even), dose, style, item.move.posture)
            wanted = actual(dose, style.breath_ms, q.wanted)
            values = (actual(dose, style.breath_ms),) if q.locked else values
            seconds = {v: sum(_work(one, stage, v, style.breath_ms) for one in passes) for v in (*values, wanted)}
            lasting = {v: pass_seconds(dose, v) for v in (*values, wanted)}
        else:
            values, wanted = ((q.value,) if q.locked else tuple(range(q.least, q.most + 1))), q.wanted
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
                _around(built, script, steps[a - 1] if a else None, steps[b - 1], literal, chosen)
            if b < ends and not may_go(steps[b - 1].item):
                break  # it cannot be jumped over
    built.model.add_circuit(arcs)


def _around(
    built: _Built, script: Script, before: Pass | None, this: Pass, literal: cp_model.IntVar, chosen: dict[str, Values]
) -> None:
    """The seconds of a pass beside its work, when it comes straight after another."""
    situation = situation_after(before, start_situation(script)) if before else start_situation(script)
    this = _arriving(this, before)
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
        at = Pass(having, this.group, this.number, this.side, this.lead, this.direction, this.set_number, this.round)
        built.terms.append(seconds(_as(at, this)) * both)


def _as(made: Pass, like: Pass) -> Pass:
    return Pass(
        *(made.item, made.group, made.number, made.side, made.lead, made.direction, made.set_number, made.round),
        like.arrival,
        like.after_rest,
    )


def _arriving(this: Pass, before: Pass | None) -> Pass:
    """How a pass is come to when it follows another one: told anew, since what lay between may be left out."""
    first = this.arrival is Arrival.FIRST
    arrival, rested = (Arrival.FIRST if first else Arrival.AGAIN), False
    if before is not None and before.item.id == this.item.id and before.round == this.round:
        rested = this.set_number > before.set_number and this.item.rest_s > 0
        if before.side is not this.side:
            arrival = Arrival.SWITCH
        else:
            arrival = Arrival.TURN if before.direction != this.direction else Arrival.SET
    head = (this.item, this.group, this.number, this.side, this.lead, this.direction, this.set_number, this.round)
    return Pass(*head, arrival, rested)
