"""A good plan at once: the move that adds most for its seconds, again and again, then the doses."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from extendum.core.model.body import Region
from extendum.core.model.move import Effect
from extendum.core.propose.candidates import Candidate, Part
from extendum.core.propose.judge import Pick, Plan, Task
from extendum.core.propose.rules import Rules, holds, is_upright


class Greedy:
    """Grows one plan. It keeps to the rules as it goes; where it cannot, the plan that it gives breaks some."""

    def __init__(self, task: Task, rules: Rules) -> None:
        self.task, self.rules, self.plan = task, rules, ()
        self._done = Counter[tuple[Region, Effect]]()
        self._many, self._held = Counter[Region](), Counter[Region]()
        self._near: dict[int, set[int]] = {}
        self._out = {n for n, one in enumerate(task.candidates) if one.key in rules.never}
        self._not_with: dict[int, set[int]] = {}
        for pairs, kept in ((task.related, self._near), (task.alike, self._not_with)):
            for a, b in pairs:
                kept.setdefault(a, set()).add(b)
                kept.setdefault(b, set()).add(a)

    plan: Plan

    def grown(self) -> Plan:
        """The plan: what must be in it, each wanted area, a warm-up and an end, then whatever adds most."""
        task, rules = self.task, self.rules
        for key in sorted(rules.must):
            self._add([n for n, one in enumerate(task.candidates) if one.key == key])
        if rules.settles:
            self._add(range(len(task.candidates)), Part.SETTLE)
        while self._seconds(Part.WARM) < rules.shares[Part.WARM][0] and self._add(
            range(len(task.candidates)), Part.WARM
        ):
            pass
        for region in rules.areas:
            own = [n for n, one in enumerate(task.candidates) if any(does.region is region for does in one.does)]
            while self._on(region) < max(1, rules.area_least) and self._add(own):
                pass
        while task.halves(self.plan) < rules.least and self._add(range(len(task.candidates))):
            pass
        return self._dosed()

    def _on(self, region: Region) -> int:
        return sum(done for (where, _), done in self._done.items() if where is region)

    def _seconds(self, part: Part) -> int:
        return self._seconds_of(self.plan, part)

    def _seconds_of(self, plan: Plan, part: Part) -> int:
        return sum(self.task.candidates[p.candidate].halves(p.steps) for p in plan if p.part is part)

    def _may_hold(self, one: Candidate, before: int, after: int, plan: Plan) -> bool:
        """Whether no area is held for too long with another dose of a move."""
        most = self.rules.held_most
        if most is None or after < before:
            return True
        held = Counter[Region]()
        for pick in plan:
            for does in holds(self.task.candidates[pick.candidate]):
                held[does.region] += does.at(pick.steps)
        return all(held[does.region] + does.step * (after - before) <= most for does in holds(one))

    def _add(self, among: Iterable[int], only: Part | None = None) -> bool:
        """Add the best of some moves where it fits best; whether there was one."""
        task, best = self.task, None
        now, seconds = task.halves(self.plan), {part: self._seconds(part) for part in Part}
        have = {pick.candidate for pick in self.plan}
        own = sum(task.candidates[pick.candidate].halves(pick.steps) for pick in self.plan)
        for n in among:
            one = task.candidates[n]
            if n in self._out or n in have or self._not_with.get(n, set()) & have:
                continue
            for part in sorted(one.parts) if only is None else sorted(one.parts & {only}):
                steps = self._steps(one, part)
                if steps is None or seconds[part] + one.halves(steps) > self.rules.shares[part][1]:
                    continue
                adds = self._adds(n, one, have, steps)
                if part in self.rules.frame and sum(p.part is part for p in self.plan) >= self.rules.frame[part]:
                    continue
                for plan in self._places(Pick(n, part, steps)):
                    ways = list(task.ways(plan))
                    halves = own + one.halves(steps) + 2 * sum(way.seconds for way in ways)
                    if halves > self.rules.most or sum(way.floor for way in ways) > self.rules.crossings:
                        continue
                    lost = sum(task.way_cost(way) for way in ways)
                    worth = (adds - lost) / max(1, halves - now) if adds > 0 else adds - lost
                    if best is None or worth > best[0]:
                        best = (worth, plan, n, steps)
        if best is None:
            return False
        self.plan = best[1]
        one = task.candidates[best[2]]
        self._many.update(one.item.move.main_regions)
        for does in one.does:
            self._done[does.region, does.effect] += does.at(best[3])
        for does in holds(one):
            self._held[does.region] += does.at(best[3])
        return True

    def _steps(self, one: Candidate, part: Part) -> int | None:
        """The dose with which a move comes in: the usual one, or what its part and the holds so far ask for."""
        steps, least = one.usual, self.rules.shares[part][0]
        if part is Part.SETTLE:
            steps = next((n for n in range(one.usual, one.most + 1) if one.halves(n) >= least), -1)
        most = self.rules.held_most
        while most is not None and steps >= 0 and any(self._held[d.region] + d.at(steps) > most for d in holds(one)):
            steps -= 1
        return steps if steps >= 0 else None

    def _adds(self, n: int, one: Candidate, have: set[int], steps: int) -> int:
        """What a move adds, without its ways."""
        task, total = self.task, -self.task.own_cost(one)
        for does in one.does:
            done, more = self._done[does.region, does.effect], does.at(steps)
            for share, worth in task.kinds.get((does.region, does.effect), ()):
                room = max(0, share - done)
                total += worth * min(more, room)
                done, more = max(0, done - share), max(0, more - room)
        total -= task.weights.relative * len(self._near.get(n, set()) & have)
        crowd = sum(self._many[region] >= task.crowd_from(region) for region in one.item.move.main_regions)
        return total - task.weights.crowd * crowd

    def _places(self, pick: Pick) -> list[Plan]:
        """The plans with a pick at each place of its part: beside its block, where there is one."""
        block = self.task.block(pick)
        same = [n for n, one in enumerate(self.plan) if self.task.block(one) == block]
        if same:
            ahead, after = self.plan[: same[-1] + 1], self.plan[same[-1] + 1 :]
            return [(*ahead, pick, *after)] if block.begins is block.ends else []
        found = []
        for n in range(len(self.plan) + 1):
            fits = (n == 0 or self.plan[n - 1].part <= pick.part) and (
                n == len(self.plan) or self.plan[n].part >= pick.part
            )
            inside = 0 < n < len(self.plan) and self.task.block(self.plan[n - 1]) == self.task.block(self.plan[n])
            plan = (*self.plan[:n], pick, *self.plan[n:])
            if fits and not inside and (not self.rules.upright or is_upright(self.task.candidates[plan[-1].candidate])):
                found.append(plan)
        return found

    def _dosed(self) -> Plan:
        """The plan with its doses longer, or shorter, until it lasts as long as it should."""
        task, plan = self.task, self.plan
        for _ in range(400):
            halves = task.halves(plan)
            by = 1 if halves < self.rules.least else -1 if halves > self.rules.most else 0
            if not by:
                break
            tries = []
            for n, pick in enumerate(plan):
                one, steps = task.candidates[pick.candidate], pick.steps + by
                room = self.rules.shares[pick.part]
                inside = room[0] <= self._seconds_of(plan, pick.part) + by * one.step <= room[1]
                if 0 <= steps <= one.most and one.step and inside and self._may_hold(one, pick.steps, steps, plan):
                    tries.append((*plan[:n], pick._replace(steps=steps), *plan[n + 1 :]))
            if not tries:
                break
            plan = max(tries, key=task.score)
        return plan
