"""What every plan must hold: lengths of the parts, trips to the floor, warmth before holds, what must be in it."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from extendum.core.checks.holds import shortest_hold_s
from extendum.core.checks.order import CHANGES_MOST, CHANGES_SLOW, needs_time
from extendum.core.checks.warmth import WARM_S, warms
from extendum.core.model.audience import WhatNext
from extendum.core.model.body import PARTS, Posture, Region
from extendum.core.model.item import may_go
from extendum.core.model.move import Effect, Kind
from extendum.core.propose.candidates import HELD_MOST_S, Candidate, Does, Part
from extendum.core.propose.judge import Plan, Task

#: Least and most of a class, in percent, that a part has; before which length it may be missing.
SHARES_OF = {Part.ARRIVE: (0, 12), Part.WARM: (12, 30), Part.MAIN: (35, 88), Part.SETTLE: (0, 16)}
#: A move that settles gets at least so many percent.
SETTLE_LEAST = 5
WARM_ALREADY = (8, 22)
#: A class of so many seconds has room for a move that settles.
SETTLES_FROM_S = 420
#: How people stand who go on to strength or speed.
UPRIGHT = (Posture.STANDING, Posture.ONE_LEG, Posture.LUNGE)
#: Moves at most in the parts that frame a class.
FRAME_MOST = 1


@dataclass(frozen=True, slots=True)
class Unlike:
    """Moves of another plan; of the moves of either, so many percent may be shared at the most."""

    keys: frozenset[str]
    percent: int

    def shares_too_much(self, keys: frozenset[str]) -> bool:
        """Whether a plan with these moves, beside those that must be in it, is too much like the other."""
        return 100 * len(self.keys & keys) > self.percent * min(len(keys), len(self.keys))


@dataclass(frozen=True)
class Rules:
    """What a plan for a task must hold; lengths, those of the moves with their ways and of each part, in half seconds.

    ``must``: keys of moves that are in it; ``never``: those that are not; ``apart``: moves that are not all
    in it; ``unlike``: other plans from which it differs; ``area_least``: half seconds a side that each area gets.
    """

    least: int
    most: int
    shares: dict[Part, tuple[int, int]]
    crossings: int
    settles: bool
    upright: bool
    held_most: int | None
    warms: bool
    frame: dict[Part, int]
    must: frozenset[str] = frozenset()
    never: frozenset[str] = frozenset()
    areas: tuple[Region, ...] = ()
    area_least: int = 0
    apart: tuple[frozenset[str], ...] = ()
    unlike: tuple[Unlike, ...] = ()

    def broken(self, task: Task, plan: Plan) -> list[str]:
        """What a plan breaks, in a few words each; empty for one that holds everything."""
        moves = [(pick, task.candidates[pick.candidate]) for pick in plan]
        found = [] if task.allowed(plan) else ["a move twice"]
        if not self.least <= task.halves(plan) <= self.most:
            found.append("length")
        seconds = Counter[Part]()
        for pick, one in moves:
            seconds[pick.part] += one.halves(pick.steps)
        found += [f"share of {p.name}" for p, (low, high) in self.shares.items() if not low <= seconds[p] <= high]
        if sum(way.floor for way in task.ways(plan)) > self.crossings:
            found.append("floor")
        parts = Counter(pick.part for pick in plan)
        found += [f"moves in {part.name}" for part, most in self.frame.items() if parts[part] > most]
        if self.settles and not parts[Part.SETTLE]:
            found.append("settling")
        if self.upright and plan and not is_upright(moves[-1][1]):
            found.append("upright")
        done = Counter[Region]()
        for pick, one in moves:
            for does in one.does:
                done[does.region] += does.at(pick.steps)
        found += [f"little for {region}" for region in self.areas if done[region] < max(1, self.area_least)]
        keys = frozenset(one.key for _, one in moves)
        found += [f"without {key}" for key in sorted(self.must - keys)] + [f"with {key}" for key in self.never & keys]
        found += ["apart" for pair in self.apart if pair <= keys]
        found += ["like another" for other in self.unlike if other.shares_too_much(keys - self.must)]
        if self.held_most is not None:
            held = Counter(does.region for p, one in moves for does in holds(one) for _ in range(does.at(p.steps)))
            found += [f"{region} held long" for region, halves in held.items() if halves > self.held_most]
        if self.warms:
            warmed = self.warmed(task, plan)
            for pick, one in moves:
                cold = parts_of(one) if pick.part is Part.MAIN and needs_warmth(one) else ()
                if cold and max(warmed[part] for part in cold) < 2 * WARM_S:
                    found.append(f"{one.key} cold")
        return found

    def warmed(self, task: Task, plan: Plan) -> Counter[str]:
        """Half seconds of moving by part of the body, before the main part."""
        found = Counter[str]()
        for pick in plan:
            if pick.part is Part.WARM:
                one = task.candidates[pick.candidate]
                for part in warms(one.item.move):
                    found[part] += moving_at(one, pick.steps)
        return found


def rules_for(task: Task, talks_s: int, quiet_s: int) -> Rules:
    """The rules of a class, beside so many seconds of talk and up to so many of quiet."""
    script = task.script
    brief, whole = script.brief, 2 * script.brief.target_s
    shares = {part: (whole * low // 100, whole * high // 100) for part, (low, high) in SHARES_OF.items()}
    active = brief.before is WhatNext.STRENGTH
    if brief.warm:
        shares[Part.WARM] = (whole * WARM_ALREADY[0] // 100, whole * WARM_ALREADY[1] // 100)
    if active:
        shares[Part.WARM] = (shares[Part.WARM][0], whole)
        shares[Part.MAIN] = (0, whole)
    can_settle = any(Part.SETTLE in one.parts for one in task.candidates)
    settles = can_settle and not active and brief.target_s >= SETTLES_FROM_S
    if settles:
        shares[Part.SETTLE] = (whole * SETTLE_LEAST // 100, shares[Part.SETTLE][1])
    given = [one for one in task.candidates if one.given and not may_go(one.item)]
    for part, (least, most) in shares.items():
        own = sum(one.halves(one.most) for one in given if part in one.parts)
        shares[part] = (least, max(most, own))
    frame = {part: max(FRAME_MOST, sum(part in one.parts for one in given)) for part in (Part.ARRIVE, Part.SETTLE)}
    return Rules(
        least=whole - 2 * (talks_s + quiet_s),
        most=whole - 2 * talks_s,
        shares=shares,
        crossings=CHANGES_SLOW if needs_time(script) else CHANGES_MOST,
        settles=settles,
        upright=active,
        held_most=2 * HELD_MOST_S if active else None,
        warms=not brief.warm,
        frame=frame,
        must=frozenset(one.key for one in given),
        areas=brief.areas,
        area_least=2 * shortest_hold_s(script.style),
    )


def is_upright(candidate: Candidate) -> bool:
    """Whether people stand with their heads up at the end of a move."""
    return candidate.item.move.ends_in in UPRIGHT


def holds(candidate: Candidate) -> list[Does]:
    """What a static move stretches."""
    return [one for one in candidate.does if candidate.item.move.kind is Kind.STATIC and one.effect is Effect.STRETCH]


def needs_warmth(candidate: Candidate) -> bool:
    """Whether people should have moved before it: a static stretch."""
    return candidate.item.move.kind is Kind.STATIC and any(
        target.effect is Effect.STRETCH for target in candidate.item.move.targets
    )


def parts_of(candidate: Candidate) -> frozenset[str]:
    """The parts of the body that it is for."""
    return frozenset(PARTS.get(region, "") for region in candidate.item.move.main_regions)


def moving_at(candidate: Candidate, steps: int) -> int:
    """Half seconds of moving at a dose."""
    gains = max((one.step for one in candidate.does), default=0)
    return candidate.moving + gains * steps if candidate.moving else 0
