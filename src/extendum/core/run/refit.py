"""Catching up: what is still to come of a run, fitted again so that the class ends when it should.

From the planned end of the step that is on. Every dose still to come gives inside its own limits, by item and round;
both sides stay equal, a second side whose first is done keeps what that got, the closing stays, and nothing is left out
without being asked. Exact, by dynamic programming over seconds.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from extendum.core.fit.explain import changes_words, names
from extendum.core.fit.fit import Change
from extendum.core.model.dose import Dose, Manner, Timed, pass_seconds
from extendum.core.model.dose_values import allowed, conventional
from extendum.core.model.item import Keep, Matters, MoveItem, rep_total
from extendum.core.model.script import Role, Script
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
            return f"On time again: {what}." if what else "On time: nothing has to change."
        how = f"{clock(abs(self.off_s))} {'late' if self.off_s > 0 else 'early'}"
        go = f" {names(self.could_go)} could go." if self.could_go and self.off_s > 0 else ""
        return f"{f'{what.capitalize()}, and still' if what else 'Still'} {how}.{go}"


@dataclass(frozen=True, slots=True)
class _Unit:
    """One dose still to come in one round: its steps, the values it may take, and their seconds and costs."""

    item: MoveItem
    dose: Dose
    steps: tuple[Step, ...]
    now: int
    values: tuple[int, ...]
    seconds: tuple[int, ...]
    costs: tuple[int, ...]


def refit(script: Script, timeline: Timeline, run: Run, ends_at: int) -> Refit:
    """The rest of a run fitted to an end, in milliseconds of its clock."""
    units = _units(script, timeline, run)
    inside = {step.id for unit in units for step in unit.steps}
    on = 0 if run.ended else max(0, run.step.ms - run.into)
    fixed = sum(step.ms for step in run.steps[run.at + 1 :] if step.id not in inside)
    wanted = (ends_at - run.clock - on - fixed) // 1000
    totals = [0, 0]
    for unit in units:
        totals = [totals[0] + min(unit.seconds) * len(unit.steps), totals[1] + max(unit.seconds) * len(unit.steps)]
    table, picks = _tables(units, totals[1])
    reachable = np.flatnonzero(table < _NEVER)
    total = int(reachable[np.abs(reachable - wanted).argmin()]) if units else 0
    fits, changes = _chosen(units, picks, total)
    off = total - wanted
    return Refit(
        fits, changes, off if abs(off) > ENOUGH_S else 0, _could_go(script, run, off) if off > ENOUGH_S else ()
    )


_NEVER = np.int64(2**62)


def _tables(units: Sequence[_Unit], most: int) -> tuple[npt.NDArray[np.int64], list[npt.NDArray[np.int16]]]:
    """The least cost of every total, and the value that each unit takes for it."""
    table = np.full(most + 1, _NEVER)
    table[0] = 0
    picks = []
    for unit in units:
        new, pick = np.full(most + 1, _NEVER), np.zeros(most + 1, np.int16)
        for n, (seconds, cost) in enumerate(zip(unit.seconds, unit.costs, strict=True)):
            by = seconds * len(unit.steps)
            if by > most:
                continue
            tried = np.where(table[: most + 1 - by] < _NEVER, table[: most + 1 - by] + cost, _NEVER)
            better = tried < new[by:]
            new[by:][better] = tried[better]
            pick[by:][better] = n
        table = new
        picks.append(pick)
    return table, picks


def _chosen(
    units: Sequence[_Unit], picks: Sequence[npt.NDArray[np.int16]], total: int
) -> tuple[tuple[tuple[str, int], ...], tuple[Change, ...]]:
    fits: list[tuple[str, int]] = []
    changes: list[Change] = []
    for unit, pick in zip(reversed(units), reversed(picks), strict=True):
        n = int(pick[total])
        total -= unit.seconds[n] * len(unit.steps)
        if unit.seconds[n] != unit.now:
            fits += [(step.id, unit.seconds[n] * 1000) for step in unit.steps]
            before = min(range(len(unit.values)), key=lambda k: abs(unit.seconds[k] - unit.now))
            kind = unit.dose.tag
            values = (unit.values[before], unit.values[n])
            changes.append(Change(unit.item.id, unit.item.name, unit.dose.unit, *values, kind))
    return tuple(reversed(fits)), tuple(reversed(changes))


def _units(script: Script, timeline: Timeline, run: Run) -> list[_Unit]:
    """What may give: the doses still to come whose first side is not done, outside the closing."""
    closing = {i.id for section in script.sections if section.role is Role.CLOSING for i in section.items}
    segments = {segment.id: segment for segment in timeline.segments}
    settled = {step.partner for step in run.steps[: run.at + 1] if step.partner}
    found: dict[tuple[str, int, int], list[Step]] = {}
    for step in run.steps[run.at + 1 :]:
        segment = segments.get(step.id)
        if segment and step.works and step.id not in settled and step.item not in closing and segment.stage:
            found.setdefault((step.item, segment.round, segment.stage), []).append(step)
    units = []
    for (item_id, _, stage), steps in found.items():
        item = script.item(item_id)
        if isinstance(item, MoveItem):
            unit = _unit(script, item, stage, tuple(steps))
            units += [unit] if unit else []
    return units


def _unit(script: Script, item: MoveItem, stage: int, steps: tuple[Step, ...]) -> _Unit | None:
    dose, style = item.dose_at(stage), script.style
    halves = isinstance(dose, Timed) and dose.manner is Manner.HALVES
    if dose.quantity.locked or halves:
        return None
    values = conventional(allowed(dose, style.breath_ms, even=stage == 1 and item.even), dose, style, item.move.posture)
    seconds = [pass_seconds(dose, rep_total(item, stage, value)) for value in values]
    now = steps[0].ms // 1000
    if now not in seconds:  # as a round with a taper, or a hand, has made it
        near = min(range(len(seconds)), key=lambda n: abs(seconds[n] - now))
        seconds[near] = now
    weight = max(1, now) * len(steps) * item.matters.halves
    scale = max(now, 10) ** 2
    costs = [10**6 * weight * (s - now) ** 2 // scale for s in seconds]
    return _Unit(item, dose, steps, now, tuple(values), tuple(seconds), tuple(costs))


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
