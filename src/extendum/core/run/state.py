"""Where a run is: its steps as they have become, the step that is on, and the log; and how time takes it on.

Times are whole milliseconds of the wall clock. Every millisecond from the start to the last event is in exactly one
span of the log.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from extendum.core.run.steps import Step


@dataclass(frozen=True, slots=True)
class Event:
    """Something that the teacher did, or that happened to the run: an id of its own, when, what, and with what."""

    id: str
    at: int
    kind: str
    step: str = ""
    ms: int = 0


@dataclass(frozen=True, slots=True)
class Span:
    """A piece of the wall clock: which step was on, from when to when, and whether the run was paused."""

    step: str
    start: int
    end: int
    paused: bool = False


@dataclass(frozen=True, slots=True)
class Run:
    """Where a run is: its steps as they have become, the step that is on and how far, and the log.

    ``spare``: steps of moves that are not in the class and may be brought in. ``left``: where the item was left that
    was skipped just now, with the steps as they were: going back at once takes it up again. ``stopped``: the step in
    which the class was ended by hand; what comes after it was not reached. ``rungs``: how far down (below 0) or up the
    ladder of its options each item is done; those that are done as they are are not in it. ``instead``: which other
    move, counted from 1, is done in an item's place.
    """

    steps: tuple[Step, ...]
    at: int = 0
    into: int = 0
    running: bool = False
    started: bool = False
    ended: bool = False
    clock: int = 0
    log: tuple[Span, ...] = ()
    rungs: frozenset[tuple[str, int]] = frozenset()
    instead: frozenset[tuple[str, int]] = frozenset()
    seen: frozenset[str] = frozenset()
    spare: tuple[Step, ...] = ()
    left: tuple[int, tuple[Step, ...]] | None = None
    stopped: str = ""

    @property
    def step(self) -> Step:
        """The step that is on: the last one after the end."""
        return self.steps[min(self.at, len(self.steps) - 1)]

    def rung(self, item: str) -> int:
        """Where an item is on the ladder of its options: 0 as it is, -1 the first easier one, 1 the first deeper."""
        return dict(self.rungs).get(item, 0)

    @property
    def easier(self) -> frozenset[str]:
        """The items that are done in an easier way."""
        return frozenset(item for item, rung in self.rungs if rung < 0)

    @property
    def deeper(self) -> frozenset[str]:
        """The items that are done in a deeper way."""
        return frozenset(item for item, rung in self.rungs if rung > 0)

    @property
    def left_ms(self) -> int:
        """What is still planned: the rest of this step and all after it."""
        if self.ended:
            return 0
        return max(0, self.step.ms - self.into) + sum(step.ms for step in self.steps[self.at + 1 :])


def advance(run: Run, now: int) -> Run:
    """The run at a time: what is running goes on, step after step; an open step waits."""
    if not run.started or run.ended or now <= run.clock:
        return run if run.started and not run.ended else replace(run, clock=max(run.clock, now))
    if not run.running:
        return replace(run, clock=now, log=_logged(run.log, Span(run.step.id, run.clock, now, paused=True)))
    while run.clock < now and not run.ended:
        step = run.steps[run.at]
        rest = now - run.clock if step.waits else max(0, step.ms - run.into)
        taken = min(rest, now - run.clock)
        log = _logged(run.log, Span(step.id, run.clock, run.clock + taken)) if taken else run.log
        run = replace(run, into=run.into + taken, clock=run.clock + taken, log=log)
        if not step.waits and run.into >= step.ms:
            run = _finished(run)
    return replace(run, clock=now) if run.ended else run


def _logged(log: tuple[Span, ...], span: Span) -> tuple[Span, ...]:
    """The log with one more span; what continues without a break is one span."""
    last = log[-1] if log else None
    if last and (last.step, last.paused, last.end) == (span.step, span.paused, span.start):
        return (*log[:-1], replace(last, end=span.end))
    return (*log, span)


def with_step(run: Run, index: int, **changes: Any) -> Run:
    """The run with one of its steps changed."""
    steps = list(run.steps)
    steps[index] = replace(steps[index], **changes)
    return replace(run, steps=tuple(steps))


def index_of(run: Run, step_id: str) -> int | None:
    """The place of a step; None where the run has it no more."""
    return next((n for n, step in enumerate(run.steps) if step.id == step_id), None)


def _finished(run: Run) -> Run:
    """On to the next step; the other side gets what this one really got."""
    return moved_to(matched(run, run.into), run.at + 1)


def matched(run: Run, ms: int) -> Run:
    """The run in which the other side of the current work gets this long."""
    step = run.step
    other = index_of(run, step.partner) if step.works and step.partner else None
    if other is None or not ms:
        return run
    return with_step(run, other, ms=ms, waits=False)


def moved_to(run: Run, index: int) -> Run:
    """The run at the beginning of a step, or at its end."""
    if index >= len(run.steps):
        return replace(run, at=len(run.steps), into=0, running=False, ended=True)
    return replace(run, at=index, into=0)
