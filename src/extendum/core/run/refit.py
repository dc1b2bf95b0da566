"""Catching up: what is still to come of a run, fitted again so that the class ends when it should.

From the planned end of the step that is on. Every dose still to come gives inside its own limits, by item and round;
both sides stay equal, a second side whose first is done keeps what that got, the closing stays, and nothing is left out
without being asked. The fit's costs and tables decide, with what was planned as what is wanted.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from extendum.core.fit.dose_options import Choice, Visited, choices_of
from extendum.core.fit.explain import changes_words, names
from extendum.core.fit.fit import Change
from extendum.core.fit.graph import Edge, Graph, Node
from extendum.core.fit.item_options import Offer
from extendum.core.fit.solver import FAR, Tables
from extendum.core.model.dose import Manner, Timed
from extendum.core.model.item import MoveItem
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role
from extendum.core.model.timeline import Timeline, clock
from extendum.core.run.state import Run
from extendum.core.run.steps import Step

#: So much is not worth a change.
ENOUGH_S = 1
#: A run that catches up by itself does so when it is so far off its end.
CATCHES_AT_S = 15
#: How many moves are named that could go.
MOST_NAMED = 2


@dataclass(frozen=True, slots=True)
class Refit:
    """What a re-fit does: new lengths by step, what changes, how far off the end still is, and what could go."""

    fits: tuple[tuple[str, int], ...]
    changes: tuple[Change, ...]
    off_s: int
    could_go: tuple[str, ...] = ()

    @property
    def sentence(self) -> str:
        """It in one sentence."""
        what = changes_words(self.changes)
        if not self.off_s:
            return f"On time again: {what}." if what else "On time: nothing needs to change."
        how = f"{clock(abs(self.off_s))} {'late' if self.off_s > 0 else 'early'}"
        go = f" {names(self.could_go)} could go." if self.could_go and self.off_s > 0 else ""
        return f"{f'{what.capitalize()}, and still' if what else 'Still'} {how}.{go}"


class _Unit(NamedTuple):
    """One dose still to come in one round: its steps, and what it may be; what was planned costs nothing."""

    steps: tuple[Step, ...]
    choice: Choice

    @property
    def planned_s(self) -> int:
        """Seconds of all its steps as they stand."""
        return sum(step.ms for step in self.steps) // 1000


def refit(script: Script, timeline: Timeline, run: Run, ends_at: int) -> Refit:
    """The rest of a run fitted to an end, in milliseconds of its clock."""
    units = _units(script, timeline, run)
    inside = {step.id for unit in units for step in unit.steps}
    on = 0 if run.ended else max(0, run.step.ms - run.into)
    fixed = sum(step.ms for step in run.steps[run.at + 1 :] if step.id not in inside)
    wanted = (ends_at - run.clock - on - fixed) // 1000
    planned = sum(unit.planned_s for unit in units)
    if abs(planned - wanted) <= ENOUGH_S:
        return Refit((), (), 0)
    total, fits, changes = _fitted(units, wanted)
    off = total - wanted
    return Refit(
        fits, changes, off if abs(off) > ENOUGH_S else 0, _could_go(script, run, off) if off > ENOUGH_S else ()
    )


Fits = tuple[tuple[str, int], ...]


def _fitted(units: Sequence[_Unit], wanted: int) -> tuple[int, Fits, tuple[Change, ...]]:
    """The total nearest to the wanted one, the new lengths by step at least cost, and what changes."""
    nodes = [Node(n) for n in range(len(units) + 1)]
    for node, after, unit in zip(nodes, nodes[1:], units, strict=False):
        node.edges.append(Edge(after, unit.choice.item, Offer.of((unit.choice,), 0)))
    graph = Graph(nodes[0], nodes[:-1], nodes[-1])
    least_s, most_s = graph.extremes or (0, 0)
    tables = Tables(graph, least_s, most_s)
    if tables.root is None:  # nothing can give
        return 0, (), ()
    reachable = np.flatnonzero(tables.root.costs < FAR) + tables.root.low
    total = int(reachable[np.abs(reachable - wanted).argmin()])
    fits: list[tuple[str, int]] = []
    changes: list[Change] = []
    for unit, taken in zip(units, tables.way(total) or (), strict=True):
        choice, value = unit.choice, taken.values[0]
        ms = int(choice.seconds[choice.values.index(value)]) * 1000 // len(unit.steps)
        if ms != unit.steps[0].ms // 1000 * 1000:
            fits += [(step.id, ms) for step in unit.steps]
            item = choice.item
            changes.append(Change(item.id, item.name, choice.unit, choice.quantity.wanted, value, choice.kind))
    return total, tuple(fits), tuple(changes)


def _units(script: Script, timeline: Timeline, run: Run) -> list[_Unit]:
    """What may give: the doses still to come whose first side is not done, outside the closing."""
    closing = {i.id for section in script.sections if section.role is Role.CLOSING for i in section.items}
    items = {item.id: item for item in script.moves() if item.id not in closing}
    segments = {segment.id: segment for segment in timeline.segments}
    settled = {step.partner for step in run.steps[: run.at + 1] if step.partner}
    found: dict[tuple[str, int, int], list[Step]] = {}
    for step in run.steps[run.at + 1 :]:
        segment = segments.get(step.id)
        if segment and segment.stage and step.item in items and step.id not in settled:
            found.setdefault((step.item, segment.round, segment.stage), []).append(step)
    units = (_unit(script, items[item], stage, tuple(steps)) for (item, _, stage), steps in found.items())
    return [unit for unit in units if unit]


def _unit(script: Script, item: MoveItem, stage: int, steps: tuple[Step, ...]) -> _Unit | None:
    """A dose as it was planned for a round: what a round with a taper, or a hand, has made of it is what is wanted."""
    dose, now_s = item.dose_at(stage), steps[0].ms // 1000
    if dose.quantity.locked or (isinstance(dose, Timed) and dose.manner is Manner.HALVES):
        return None
    options = _options(script, item, stage, len(steps))
    lasting = options.seconds // len(steps)
    near = int(np.abs(lasting - now_s).argmin())
    planned = replace(dose.quantity, wanted=options.values[near], now=options.values[near])
    choice = _options(script, item.having(planned, stage), stage, len(steps))
    seconds, costs = choice.seconds.copy(), choice.costs.copy()
    seconds[near], costs[near] = now_s * len(steps), 0
    ends_s = int(seconds.min()), int(seconds.max())
    return _Unit(steps, Choice(choice.item, stage, choice.values, seconds, costs, *ends_s))


def _options(script: Script, item: MoveItem, stage: int, times: int) -> Choice:
    """What a dose may be when it is done so many times, all alike."""
    visited = Visited(item, Group("alike", "", (item,)), times)
    return choices_of([visited], script.style)[item.id].choices[stage - 1]


def _could_go(script: Script, run: Run, off_s: int) -> tuple[str, ...]:
    """Moves still to come that could be skipped: those marked so and those that matter least, the smallest that do."""
    coming: dict[str, int] = {}
    for step in run.steps[run.at + 1 :]:
        if step.item != run.step.item:
            coming[step.item] = coming.get(step.item, 0) + step.ms // 1000
    closing = {i.id for section in script.sections if section.role is Role.CLOSING for i in section.items}
    moves = [item for item in script.moves() if item.id in coming and item.id not in closing]
    rank = {Matters.LESS: 0, Matters.AS_OTHERS: 1, Matters.MOST: 2}

    def order(item: MoveItem) -> tuple[bool, bool, int, int]:
        enough = coming[item.id] >= off_s
        return item.keep is not Keep.OPTIONAL, not enough, rank[item.matters], coming[item.id]

    return tuple(item.name for item in sorted(moves, key=order)[:MOST_NAMED])
