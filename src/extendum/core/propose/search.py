"""The best plan, with proof: a model of the task, searched from above, from below, and near the best plan so far.

One worker, a fixed seed and a limit that counts work instead of time: the same task gives the same plan.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import Enum, auto
from functools import partial
from math import floor

import numpy as np
from ortools.sat.python import cp_model

from extendum.core.propose.formulation import Formulation
from extendum.core.propose.judge import Plan, Task
from extendum.core.propose.rules import (
    Rules,
)


class _Way(Enum):
    """How a search goes about it."""

    FROM_ABOVE = auto()
    NEARBY = auto()
    FROM_BELOW = auto()


#: What a search does in turn, with which share of its time and work.
SHARES = ((_Way.FROM_ABOVE, 0.3), (_Way.NEARBY, 0.2), (_Way.FROM_ABOVE, 0.3), (_Way.FROM_BELOW, 0.2))
#: And before all of that with a plan that is nearly one: that of a class that the checks refused.
NEAR_SHARE = 0.25
#: Seconds, and work, for a plan that is bettered in a part.
ROUND_S = 1.0
#: So many rounds one after the other without a better plan are enough.
IN_VAIN = 4
#: How often that is a whole part of the class.
PART_SHARE = 0.3


@dataclass(frozen=True, slots=True)
class Found:
    """What a search found: a plan, its score, what no plan can exceed; whether none exists, how long it took, and
    whether somebody stopped it."""

    plan: Plan
    score: int
    bound: int
    impossible: bool = False
    seconds: float = 0.0
    stopped: bool = False

    @property
    def proved(self) -> bool:
        """Whether no plan of the grid is better."""
        return self.score >= self.bound


class _Watch(cp_model.CpSolverSolutionCallback):
    """Hears of better plans and bounds in both searches for a task."""

    def __init__(self, tell: Callable[[int, int], bool], best: int, bound: int) -> None:
        super().__init__()
        self._tell, self.best, self.bound, self.stopped = tell, best, bound, False

    def on_solution_callback(self) -> None:
        """A better plan."""
        self.best = max(self.best, round(self.objective_value))
        if not self._go_on(self.best_objective_bound):
            self.stop_search()

    def better(self, score: int) -> None:
        """A better plan, found beside another."""
        self.best = max(self.best, score)
        self._go_on(self.bound)

    def nearer(self, solver: cp_model.CpSolver, bound: float) -> None:
        """A better bound."""
        if not self._go_on(bound):
            solver.stop_search()

    def _go_on(self, bound: float) -> bool:
        self.bound = min(self.bound, floor(bound + 1e-6))
        self.stopped = self.stopped or not self._tell(self.best, self.bound)
        return not self.stopped


def _solver(seconds: float, work: float, *, from_above: bool = False) -> cp_model.CpSolver:
    """A solver that gives the same for the same model, where its work ends before its seconds."""
    solver = cp_model.CpSolver()
    given = solver.parameters
    given.num_workers, given.linearization_level, given.random_seed = 1, 2, 1
    given.use_objective_lb_search = from_above
    given.max_time_in_seconds, given.max_deterministic_time = max(0.1, seconds), work
    return solver


class Search:
    """The search for the best plan of one task."""

    def __init__(self, task: Task, rules: Rules) -> None:
        self.task, self.rules = task, rules
        self._of = Formulation(task, rules)
        self._known: Plan = ()
        self._near: Plan = ()

    def hint(self, plan: Plan) -> None:
        """Begin with a plan that is known: it is what there is at the least, or where it breaks a rule, near to it."""
        if plan and self.rules.broken(self.task, plan):
            self._near = plan
        elif plan:
            self._known = max((self._known, plan), key=self.task.score) if self._known else plan
            self._near = ()
        self._of.hint(plan)

    def best(self, seconds: float, work: float, tell: Callable[[int, int], bool] = lambda score, bound: True) -> Found:
        """The best plan found in so many seconds and so much work; ``tell`` hears of each better one and may stop.

        A first plan is bettered a part at a time; then the search goes down from what cannot be exceeded, which proves
        most tasks. What is not proved by then is bettered a part at a time again, and then as a whole.
        """
        known = self.task.score(self._known) if self._known else 0
        best, took = Found(self._known, known, self.task.ceiling), 0.0
        watch = _Watch(tell, known, best.bound)
        for way, share in ((_Way.NEARBY, NEAR_SHARE), *SHARES) if self._near else SHARES:
            given = (seconds - took if way is _Way.FROM_BELOW else seconds * share, work * share)
            if way is _Way.NEARBY:
                plan, spent = self._better_nearby(self._near or best.plan, *given, watch)
                self._near = ()
                took += spent
            else:
                self._of.model.add(self._of.worth <= watch.bound)
                solver = _solver(*given, from_above=way is _Way.FROM_ABOVE)
                solver.best_bound_callback = partial(watch.nearer, solver)
                status = solver.solve(self._of.model, watch)
                took += solver.wall_time
                if status == cp_model.INFEASIBLE:
                    return Found((), 0, 0, impossible=True, seconds=took)
                plan = ()
                if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
                    watch.bound = min(watch.bound, floor(solver.best_objective_bound + 1e-6))
                    plan = self._of.read(solver)
            if plan and (not best.plan or self.task.score(plan) > best.score):
                best = replace(best, plan=plan, score=self.task.score(plan))
                self._of.hint(plan)
            best = replace(best, bound=watch.bound)
            if watch.stopped or (best.plan and best.proved):
                break
        return replace(best, seconds=took, stopped=watch.stopped)

    def _better_nearby(self, plan: Plan, seconds: float, work: float, watch: _Watch) -> tuple[Plan, float]:
        """A better plan by freeing some blocks at a time while everything else of it stays, and the seconds it took.

        How much is free grows while that is searched to its end without a better plan, and shrinks where it is not.
        """
        rng, share, left = np.random.default_rng(1), 0.5, seconds  # the same task, the same plan
        blocks, done, in_vain = list(self._of.members), 0.0, 0
        score = self.task.score(plan) if plan and not self.rules.broken(self.task, plan) else None
        while plan and done < work and left > 0 and in_vain < IN_VAIN and not watch.stopped:
            used = list(dict.fromkeys(self.task.block(pick) for pick in plan))
            if rng.random() < PART_SHARE and share < 1.0:
                part = used[rng.integers(len(used))].part
                chosen = {block for block in blocks if block.part is part}
            else:
                own = rng.permutation(len(used))[: max(1, round(share * len(used)))]
                others = rng.permutation(len(blocks))[: round(share * len(blocks))]
                chosen = {*(used[n] for n in own), *(blocks[n] for n in others)}
            solver = _solver(min(ROUND_S, left), min(ROUND_S, work - done))
            status = solver.solve(self._of.free_in(plan, chosen))
            left -= solver.wall_time
            done += solver.response_proto.deterministic_time
            found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
            better = found and (score is None or solver.objective_value > score)
            in_vain = 0 if better else in_vain + 1
            if better:
                plan = self._of.read(solver)
                score = self.task.score(plan)
                watch.better(score)
            if share == 1.0 and (status == cp_model.OPTIMAL or not better):
                watch.bound = score if status == cp_model.OPTIMAL and score is not None else watch.bound
                break
            ended = status in (cp_model.OPTIMAL, cp_model.INFEASIBLE)
            share = share if ended and better else min(1.0, share * 1.2) if ended else share * 0.85
        return (plan if score is not None else ()), seconds - left
