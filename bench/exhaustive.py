"""The search for a class against all classes there are, on small libraries: `make bench-exhaustive`.

Every choice of moves, parts, doses and orders of blocks is scored; what cannot last as long as it should, whatever its
order, is passed over before.
"""

from __future__ import annotations

import random
import sys
import time
from collections.abc import Iterator
from dataclasses import replace
from itertools import groupby, permutations, product

from bench.briefs import brief_of
from extendum.core.model.brief import Brief
from extendum.core.propose.candidates import Part, candidates
from extendum.core.propose.judge import Block, Pick, Plan, Task
from extendum.core.propose.rules import Rules
from extendum.core.propose.search import Search
from extendum.core.propose.weights import Sliders, Weights
from extendum.formats.library import shipped_moves

TASKS, MOVES, PLACES = 200, 8, 4


def small_task(seed: int, moves: int = 6, places: int = 3, wanted: int = 1) -> tuple[Task, Rules]:
    """A brief, and a few moves in a few places, each with two doses and one part or two."""
    rng = random.Random(seed)
    every = candidates(replace(brief_of(seed), brief=Brief(target_s=600)), shipped_moves())
    some = []
    while len(some) < moves:
        chosen = rng.sample(sorted({one.place for one in every}, key=str), places)
        some = [one for one in every if one.place in chosen]
    some = rng.sample(some, moves)
    few = tuple(replace(one, values=one.values[:2], usual=min(one.usual, 1)) for one in some)
    areas = tuple(rng.sample([does.region for one in few for does in one.does], wanted))
    script = replace(brief_of(seed), brief=Brief(target_s=600, areas=areas))
    least, shares, warms = rng.randint(60, 200), dict.fromkeys(Part, (0, 10**6)), rng.random() < 0.5
    most = least + rng.randint(60, 400)
    rules = Rules(least, most, shares, 3, False, False, None, warms, {}, areas=areas)
    return Task(script, few, Weights().shifted(Sliders(calm=rng.randint(-2, 2)))), rules


def best_of_all(task: Task, rules: Rules) -> int | None:
    """The score of the best of all plans that break no rule; None where each of them does."""
    best = None
    parts = [[None, *sorted(one.parts)] for one in task.candidates]
    for where in product(*parts):
        chosen = [(n, part) for n, part in enumerate(where) if part is not None]
        for order in _orders(task, chosen):
            ways = 2 * sum(way.seconds for way in task.ways(tuple(Pick(n, part, 0) for n, part in order)))
            for steps in product(*(range(task.candidates[n].most + 1) for n, _ in order)):
                halves = ways + sum(task.candidates[n].halves(by) for (n, _), by in zip(order, steps, strict=True))
                if not rules.least <= halves <= rules.most:
                    continue
                plan: Plan = tuple(Pick(n, part, by) for (n, part), by in zip(order, steps, strict=True))
                score = task.score(plan)
                if (best is None or score > best) and not rules.broken(task, plan):
                    best = score
    return best


def _orders(task: Task, chosen: list[tuple[int, Part]]) -> Iterator[list[tuple[int, Part]]]:
    """The ways through the blocks of some moves, part by part."""

    def block(one: tuple[int, Part]) -> Block:
        return task.block(Pick(*one, 0))

    chosen = sorted(chosen, key=lambda one: (one[1], str(block(one))))
    blocks = [list(own) for _, own in groupby(chosen, key=block)]
    moving = [own for own in blocks if block(own[0]).begins is not block(own[0]).ends]
    if not blocks or any(len(own) > 1 for own in moving):
        return
    by_part = [list(own) for _, own in groupby(blocks, key=lambda own: own[0][1])]
    for orders in product(*(permutations(own) for own in by_part)):
        yield [one for part in orders for own in part for one in own]


def agrees(task: Task, rules: Rules) -> bool:
    """Whether the search finds what there is, or that there is nothing."""
    found, best = Search(task, rules).best(60, 1000), best_of_all(task, rules)
    if best is None:
        return found.impossible
    return (found.score, found.proved, rules.broken(task, found.plan)) == (best, True, [])


def main(tasks: int = TASKS) -> int:
    """Compare on so many tasks, a third of them without a wanted area; the exit code says whether all agree."""
    began, wrong = time.perf_counter(), list[int]()
    for seed in range(tasks):
        if not agrees(*small_task(seed, MOVES, PLACES, wanted=min(1, seed % 3))):
            wrong.append(seed)
            print(f"task {seed} differs", flush=True)
        if seed % 20 == 19:
            print(f"{seed + 1} tasks, {len(wrong)} differ, {time.perf_counter() - began:.0f} s", flush=True)
    print(f"{tasks - len(wrong)} of {tasks} equal ({MOVES} moves, {PLACES} places)")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if sys.argv[1:] else TASKS))
