"""How good a plan is: the one place where the weights are added up, for the search, the proof and the tests."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations, pairwise
from typing import NamedTuple

from extendum.core.model.audience import WhatNext
from extendum.core.model.body import FLOOR, PARTS, Base, Posture, Region, Side, Stance
from extendum.core.model.move import Effect
from extendum.core.model.script import Script
from extendum.core.model.section import Group
from extendum.core.propose.candidates import Candidate, Part
from extendum.core.propose.weights import BACK, FRONT, NEIGHBOURS, SHARES, SMALL, UNEVEN_FROM, UNWANTED_SHARES, Weights
from extendum.core.timing.sequence import Pass, steps_of
from extendum.core.timing.way import Held, Situation, way_into

#: So many moves may be for one area before each more is a crowd; one more where the area is wanted.
CROWD_FROM = 2


class Pick(NamedTuple):
    """A move of a plan: which, where, and at which step of its dose."""

    candidate: int
    part: Part
    steps: int


Plan = tuple[Pick, ...]


class Block(NamedTuple):
    """Moves of one part in the same posture with the same things in hand: no way between them."""

    part: Part
    begins: Posture
    ends: Posture
    props: frozenset[str]


class Between(NamedTuple):
    """The way from one block to another: seconds beyond the words on it, changes of posture and props, and whether
    it leads from one support to another, or to or from the floor."""

    seconds: int
    changes: int
    supports: int
    floor: int


@dataclass(frozen=True)
class Task:
    """What is asked for: a class with its brief, what it could be made of, and the weights.

    ``known``: by key, in how many classes of the last weeks the group had a move, ``skipped``: in how many of them it
    was skipped, both up to two.
    """

    script: Script
    candidates: Sequence[Candidate]
    weights: Weights = field(default_factory=Weights)
    known: Mapping[str, int] = field(default_factory=dict)
    skipped: Mapping[str, int] = field(default_factory=dict)

    @cached_property
    def effect(self) -> Effect:
        """What the wanted areas are wanted for: moving before strength or speed, stretching otherwise."""
        return Effect.MOBILISE if self.script.brief.before is WhatNext.STRENGTH else Effect.STRETCH

    @cached_property
    def wanted(self) -> frozenset[Region]:
        """The areas of the brief."""
        return frozenset(self.script.brief.areas)

    @cached_property
    def _near(self) -> frozenset[str]:
        """The parts of the body that belong to the wanted areas; none where the whole body is meant."""
        parts = {PARTS[region] for region in self.wanted if region in PARTS}
        return frozenset(near for part in parts for near in NEIGHBOURS[part])

    @cached_property
    def start(self) -> Block:
        """Where people are before the first move."""
        posture = self.script.start_posture
        return Block(Part.ARRIVE, posture, posture, frozenset())

    def block(self, pick: Pick) -> Block:
        """The block that a pick belongs to."""
        return self._blocks[pick.candidate, pick.part]

    @cached_property
    def _blocks(self) -> dict[tuple[int, Part], Block]:
        known: dict[Block, Block] = {}
        every = ((n, part, Block(part, *one.place)) for n, one in enumerate(self.candidates) for part in Part)
        return {(n, part): known.setdefault(block, block) for n, part, block in every}

    @cached_property
    def _ways(self) -> dict[tuple[Block, Block], Between]:
        return {}

    @cached_property
    def _examples(self) -> dict[tuple[Posture, Posture, frozenset[str]], Candidate]:
        return {one.place: one for one in reversed(self.candidates)}

    def between(self, before: Block, after: Block) -> Between:
        """The way between two blocks; a block to itself has none."""
        way = self._ways.get((before, after))
        if way is None:
            way = self._ways[before, after] = self._between(before, after)
        return way

    def _between(self, before: Block, after: Block) -> Between:
        """Seconds of bodies and hands beyond those of being told, on the example of one move of each block."""
        if before[1:] == after[1:] and before.begins is before.ends:
            return Between(0, 0, 0, 0)
        into, style = self._examples[after[1:]], self.script.style
        left = self._examples.get(before[1:])
        held = tuple(Held(prop) for prop in left.props) if left else ()
        way_s = -(-way_into(_first(into), Situation(Stance(before.ends), held), style).ms // 1000)
        changes = (before.ends is not after.begins) + len(before.props ^ after.props)
        floor = (before.ends in FLOOR) != (after.begins in FLOOR)
        supports = floor or (Base.CHAIR in (a := Base.of(before.ends), b := Base.of(after.begins)) and a is not b)
        return Between(max(0, way_s - into.told_s), int(changes), int(supports), int(floor))

    # ---- the objective --------------------------------------------------------------------------
    @cached_property
    def kinds(self) -> dict[tuple[Region, Effect], tuple[tuple[int, int], ...]]:
        """Each area and effect that counts, with its shares: half seconds a side, and what one is worth."""
        pairs = {(does.region, does.effect) for one in self.candidates for does in one.does}
        return {pair: shares for pair in sorted(pairs) if (shares := self._shares(*pair))}

    def _shares(self, region: Region, effect: Effect) -> tuple[tuple[int, int], ...]:
        weights, strength = self.weights, effect is Effect.STRENGTHEN and self.effect is not Effect.STRENGTHEN
        if region in self.wanted:
            otherwise = weights.wanted_strength if strength else weights.wanted_otherwise
            return tuple(zip(SHARES, weights.wanted if effect is self.effect else otherwise, strict=True))
        if region in SMALL:
            return ()
        near = weights.near if PARTS.get(region) in self._near else weights.unwanted
        return tuple((share, near[strength] // (n + 1)) for n, share in enumerate(UNWANTED_SHARES))

    def own_cost(self, candidate: Candidate) -> int:
        """What a move takes from a class by being there, at its usual dose."""
        return (
            self.weights.move
            + self.weights.caution * candidate.cautions
            + self.weights.skipped * self.skipped.get(candidate.key, 0)
            - self.weights.known * self.known.get(candidate.key, 0)
        )

    def way_cost(self, way: Between) -> int:
        """What a way takes from a class."""
        weights = self.weights
        cost = weights.way_s * way.seconds + weights.change * way.changes
        return cost + weights.support * way.supports + weights.floor * way.floor

    def crowd_from(self, region: Region) -> int:
        """How many moves an area may have before each more is one too many."""
        return CROWD_FROM + (region in self.wanted)

    @property
    def ceiling(self) -> int:
        """What no plan can be worth more than: every area in full, and every move that is a gain by itself."""
        gains = sum(max(0, -self.own_cost(one)) for one in self.candidates)
        return gains + sum(share * worth for shares in self.kinds.values() for share, worth in shares)

    @cached_property
    def both_ways(self) -> bool:
        """Whether front and back should come out even: where both are wanted, or no area is."""
        return not self.wanted or bool(self.wanted & FRONT and self.wanted & BACK)

    def leans(self, candidate: Candidate, steps: int) -> int:
        """Half seconds a side by which a move stretches the front more than the back."""
        own = [(does.at(steps), does.region) for does in candidate.does if does.effect is Effect.STRETCH]
        return sum(halves * ((region in FRONT) - (region in BACK)) for halves, region in own)

    @cached_property
    def related(self) -> list[tuple[int, int]]:
        """Pairs of candidates that are easier or deeper forms of each other."""
        return self._pairs("relatives")

    @cached_property
    def alike(self) -> list[tuple[int, int]]:
        """Pairs of candidates that are one move in two postures: a class has one of them."""
        return self._pairs("variants")

    def _pairs(self, what: str) -> list[tuple[int, int]]:
        at: dict[str, list[int]] = {}
        for n, one in enumerate(self.candidates):
            at.setdefault(one.key, []).append(n)
        found = set[tuple[int, int]]()
        for n, one in enumerate(self.candidates):
            for other in (m for key in getattr(one, what) for m in at.get(key, ()) if m != n):
                if not (one.given and self.candidates[other].given):  # who has both in a class means it
                    found.add((min(n, other), max(n, other)))
        return sorted(found)

    def score(self, plan: Plan) -> int:
        """What a plan is worth."""
        return self.reach(plan) - self.costs(plan)

    def reach(self, plan: Plan) -> int:
        """What its moves do, with less for each second more on the same area."""
        done = Counter[tuple[Region, Effect]]()
        for pick in plan:
            for does in self.candidates[pick.candidate].does:
                done[does.region, does.effect] += does.at(pick.steps)
        total = 0
        for kind, shares in self.kinds.items():
            left = done[kind]
            for share, worth in shares:
                total += worth * min(left, share)
                left = max(0, left - share)
        return total

    def costs(self, plan: Plan) -> int:
        """What it takes from people: ways, changes, doses unlike the usual ones, and too much of the same."""
        weights, moves = self.weights, [self.candidates[pick.candidate] for pick in plan]
        total = sum(self.own_cost(one) for one in moves)
        total += weights.dose_step * sum(abs(p.steps - self.candidates[p.candidate].usual) for p in plan)
        total += sum(self.way_cost(way) for way in self.ways(plan))
        have = {pick.candidate for pick in plan}
        total += weights.relative * sum(a in have and b in have for a, b in self.related)
        if self.both_ways:
            leans = sum(self.leans(self.candidates[pick.candidate], pick.steps) for pick in plan)
            total += weights.uneven * max(0, abs(leans) - UNEVEN_FROM)
        many = Counter(region for one in moves for region in one.item.move.main_regions)
        return total + weights.crowd * sum(max(0, n - self.crowd_from(region)) for region, n in many.items())

    def ways(self, plan: Plan) -> Iterable[Between]:
        """The ways between its blocks, from where people start."""
        blocks = [self.start, *(self.block(pick) for pick in plan)]
        for before, after in pairwise(blocks):
            if before is not after or before.begins is not before.ends:
                yield self.between(before, after)

    def halves(self, plan: Plan) -> int:
        """How long its moves take, in half seconds, with the ways between them."""
        own = sum(self.candidates[pick.candidate].halves(pick.steps) for pick in plan)
        return own + 2 * sum(way.seconds for way in self.ways(plan))

    def allowed(self, plan: Plan) -> bool:
        """Whether no move comes twice, in one posture or in two."""
        have = [pick.candidate for pick in plan]
        return len(set(have)) == len(have) and not set(combinations(sorted(have), 2)) & set(self.alike)


def _first(candidate: Candidate) -> Pass:
    group = Group("g", items=(candidate.item,))
    return next(one for one in steps_of(group, Side.LEFT, (candidate.item,)) if isinstance(one, Pass))
