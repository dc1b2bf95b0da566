"""A task as a model in whole numbers for OR-Tools' CP-SAT: a way through blocks, and the moves inside them.

The way is a circuit over blocks of a part, a posture and things in hand; moves inside a block follow each other without
a way.
"""

from __future__ import annotations

from collections.abc import Collection

from ortools.sat.python import cp_model

from extendum.core.checks.warmth import WARM_S, warms
from extendum.core.model.move import Move
from extendum.core.propose.candidates import Part
from extendum.core.propose.judge import Between, Block, Pick, Plan, Task
from extendum.core.propose.rules import (
    UPRIGHT,
    Rules,
    holds,
    moving_at,
    needs_warmth,
    parts_of,
)
from extendum.core.propose.weights import UNEVEN_FROM

#: A move in a part of the class.
Of = tuple[int, Part]


class Formulation:
    """The model of one task; more can be forbidden or asked for before it is solved."""

    def __init__(self, task: Task, rules: Rules) -> None:
        self.task, self.rules = task, rules
        self.model = cp_model.CpModel()
        self.in_: dict[Of, cp_model.IntVar] = {}
        self.steps: dict[Of, cp_model.IntVar] = {}
        self.members: dict[Block, list[Of]] = {}
        self._moves()
        self._way()
        self._frame()
        self._objective()

    # ---- what is in it, and how much of it ------------------------------------------------------
    def _moves(self) -> None:
        model, task = self.model, self.task
        for n, one in enumerate(task.candidates):
            own = []
            for part in sorted(one.parts):
                if one.key in self.rules.never:
                    continue
                x = model.new_bool_var(f"x{n}.{part}")
                steps = model.new_int_var(0, one.most, f"l{n}.{part}")
                if one.most:
                    model.add(steps <= one.most * x)
                else:
                    model.add(steps == 0)
                self.in_[n, part], self.steps[n, part] = x, steps
                self.members.setdefault(task.block(Pick(n, part, 0)), []).append((n, part))
                own.append(x)
            if len(own) > 1:
                model.add_at_most_one(own)
        for key in sorted(self.rules.must):
            model.add_exactly_one([x for (n, _), x in self.in_.items() if task.candidates[n].key == key])
        for a, b in task.alike:
            model.add_at_most_one([x for (n, _), x in self.in_.items() if n in (a, b)])
        for pair in self.rules.apart:
            model.add(self._of(pair) < len(pair))
        for other in self.rules.unlike:
            own = [x for (n, _), x in self.in_.items() if task.candidates[n].key not in self.rules.must]
            shared = self._of(other.keys - self.rules.must)
            model.add(100 * shared <= other.percent * sum(own))
            model.add(100 * shared <= other.percent * len(other.keys))

    def _of(self, keys: frozenset[str]) -> cp_model.LinearExprT:
        return sum(x for (n, _), x in self.in_.items() if self.task.candidates[n].key in keys)

    def _move(self, of: Of) -> Move:
        return self.task.candidates[of[0]].item.move

    def _halves(self, of: Of) -> cp_model.LinearExprT:
        one = self.task.candidates[of[0]]
        return one.fixed * self.in_[of] + one.step * self.steps[of]

    # ---- the way through blocks -----------------------------------------------------------------
    def _way(self) -> None:
        model, task = self.model, self.task
        blocks = list(self.members)
        arcs: list[tuple[int, int, cp_model.LiteralT]] = []
        self.ways: list[tuple[cp_model.IntVar, Between]] = []
        for k, block in enumerate(blocks, 1):
            z = model.new_bool_var(f"z{k}")
            xs = [self.in_[one] for one in self.members[block]]
            model.add(sum(xs) >= z)
            for x in xs:
                model.add_implication(x, z)
            if block.begins is not block.ends:
                model.add(sum(xs) <= 1)  # each goes somewhere: the next begins somewhere else
            arcs.append((k, k, ~z))
        for k, block in enumerate(blocks, 1):
            first, last = model.new_bool_var(f"a0.{k}"), model.new_bool_var(f"a{k}.0")
            arcs += [(0, k, first), (k, 0, last)]
            self.ways.append((first, task.between(task.start, block)))
            if self.rules.upright and block.ends not in UPRIGHT:
                model.add(last == 0)
            for m, other in enumerate(blocks, 1):
                if m != k and other.part >= block.part:
                    arc = model.new_bool_var(f"a{k}.{m}")
                    arcs.append((k, m, arc))
                    self.ways.append((arc, task.between(block, other)))
        model.add_circuit(arcs)
        self.arcs = [(k, m, arc) for k, m, arc in arcs if k != m]
        self.blocks = blocks
        model.add(sum(way.floor * arc for arc, way in self.ways) <= self.rules.crossings)

    # ---- the frame: lengths, warmth, areas ------------------------------------------------------
    def _frame(self) -> None:
        model, task, rules = self.model, self.task, self.rules
        total: list[cp_model.LinearExprT] = [self._halves(of) for of in self.in_]
        total += [2 * way.seconds * arc for arc, way in self.ways]
        model.add_linear_constraint(sum(total), rules.least, rules.most)
        for part, (least, most) in rules.shares.items():
            own = [of for of in self.in_ if of[1] is part]
            if own:
                model.add_linear_constraint(sum(self._halves(of) for of in own), least, most)
        for part, most in rules.frame.items():
            xs = [x for (_, p), x in self.in_.items() if p is part]
            model.add(sum(xs) <= most)
            if part is Part.SETTLE and rules.settles:
                model.add(sum(xs) >= 1)
        for region in rules.areas:
            does = [(of, one) for of in self.in_ for one in task.candidates[of[0]].does if one.region is region]
            model.add_bool_or({self.in_[of] for of, _ in does})
            done = sum(one.least * self.in_[of] + one.step * self.steps[of] for of, one in does)
            model.add(done >= rules.area_least)
        if rules.held_most is not None:
            self._held(rules.held_most)
        if rules.warms:
            self._warm()

    def _held(self, most: int) -> None:
        regions = sorted({does.region for one in self.task.candidates for does in holds(one)})
        for region in regions:
            amounts = [
                does.least * self.in_[of] + does.step * self.steps[of]
                for of in self.in_
                for does in holds(self.task.candidates[of[0]])
                if does.region is region
            ]
            self.model.add(sum(amounts) <= most)

    def _warm(self) -> None:
        """A static stretch in the main part needs one of its parts of the body warm."""
        warm = {}
        for place in sorted({place for one in self.task.candidates for place in parts_of(one)}):
            own = [of for of in self.in_ if of[1] is Part.WARM and place in warms(self._move(of))]
            warm[place] = self.model.new_bool_var(f"warm {place}")
            moved = sum(self._moved(of) for of in own)
            self.model.add(moved >= 2 * WARM_S).only_enforce_if(warm[place])
        for (n, part), x in self.in_.items():
            one = self.task.candidates[n]
            if part is Part.MAIN and needs_warmth(one) and parts_of(one):
                self.model.add_bool_or([~x, *(warm[p] for p in sorted(parts_of(one)))])

    def _moved(self, of: Of) -> cp_model.LinearExprT:
        one = self.task.candidates[of[0]]
        return moving_at(one, 0) * self.in_[of] + (moving_at(one, 1) - moving_at(one, 0)) * self.steps[of]

    # ---- the objective --------------------------------------------------------------------------
    def _objective(self) -> None:
        model, task, weights = self.model, self.task, self.task.weights
        terms: list[cp_model.LinearExprT] = []
        for (region, effect), shares in task.kinds.items():
            amounts = [
                does.least * self.in_[of] + does.step * self.steps[of]
                for of in self.in_
                for does in task.candidates[of[0]].does
                if does.region is region and does.effect is effect
            ]
            pieces = [model.new_int_var(0, share, f"y {region} {effect} {k}") for k, (share, _) in enumerate(shares)]
            if not amounts:
                continue
            model.add(sum(pieces) <= sum(amounts))
            terms += [worth * piece for (_, worth), piece in zip(shares, pieces, strict=True)]
        for (n, part), x in self.in_.items():
            one = task.candidates[n]
            terms.append(-task.own_cost(one) * x)
            if one.most:
                off = model.new_int_var(0, one.most, f"off{n}.{part}")
                model.add(off >= self.steps[n, part] - one.usual)
                model.add(off >= one.usual * x - self.steps[n, part])
                terms.append(-weights.dose_step * off)
        for arc, way in self.ways:
            if cost := task.way_cost(way):
                terms.append(-cost * arc)
        for a, b in task.related:
            both = model.new_bool_var(f"both {a} {b}")
            model.add(both >= sum(x for (n, _), x in self.in_.items() if n in (a, b)) - 1)
            terms.append(-weights.relative * both)
        for region in sorted({r for one in task.candidates for r in one.item.move.main_regions}):
            xs = [x for (n, _), x in self.in_.items() if region in task.candidates[n].item.move.main_regions]
            if len(xs) > task.crowd_from(region):
                more = model.new_int_var(0, len(xs), f"crowd {region}")
                model.add(more >= sum(xs) - task.crowd_from(region))
                terms.append(-weights.crowd * more)
        if task.both_ways:
            leans = sum(
                task.leans(task.candidates[of[0]], 0) * x
                + (task.leans(task.candidates[of[0]], 1) - task.leans(task.candidates[of[0]], 0)) * self.steps[of]
                for of, x in self.in_.items()
            )
            off = model.new_int_var(0, 10**6, "uneven")
            model.add(off >= leans - UNEVEN_FROM)
            model.add(off >= -leans - UNEVEN_FROM)
            terms.append(-weights.uneven * off)
        self.worth = sum(terms)
        model.maximize(self.worth)

    # ---- plans ----------------------------------------------------------------------------------
    def hint(self, plan: Plan) -> None:
        """Begin with a plan."""
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        given = {(pick.candidate, pick.part): pick.steps for pick in plan}
        for of, x in self.in_.items():
            self.model.add_hint(x, of in given)
            self.model.add_hint(self.steps[of], given.get(of, 0))

    def free_in(self, plan: Plan, blocks: Collection[Block]) -> cp_model.CpModel:
        """The model with everything but these blocks as it is in a plan; its doses and its way may change."""
        self.hint(plan)
        have = {(pick.candidate, pick.part) for pick in plan}
        some = self.model.clone()
        for block, members in self.members.items():
            for of in members if block not in blocks else ():
                some.add(some.get_bool_var_from_proto_index(self.in_[of].index) == (of in have))
        return some

    def read(self, solver: cp_model.CpSolver) -> Plan:
        """The plan in the order of its way; inside a block as the candidates come."""
        follows = {k: m for k, m, arc in self.arcs if solver.boolean_value(arc)}
        plan, at = [], follows.get(0, 0)
        while at:
            block = self.blocks[at - 1]
            for of in self.members[block]:
                if solver.boolean_value(self.in_[of]):
                    plan.append(Pick(*of, solver.value(self.steps[of])))
            at = follows[at]
        return tuple(plan)
