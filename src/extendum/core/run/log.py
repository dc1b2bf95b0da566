"""What the log of a run tells: how long each step was on, and which were cut short by going somewhere else."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from extendum.core.run.fold import after
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import Step

#: Events that leave the current step before it is over, or return to it.
_JUMPS = frozenset({"skip", "skip-item", "back", "repeat", "retake", "rewind", "end", "swap"})


@dataclass(frozen=True, slots=True)
class Spent:
    """Milliseconds of a step: while the run went on, and while it was paused in it."""

    on: int = 0
    paused: int = 0

    @property
    def whole(self) -> int:
        """Both together."""
        return self.on + self.paused


def spent(run: Run) -> dict[str, Spent]:
    """How long each step really was on; steps that never were are left out."""
    found: dict[str, Spent] = {}
    for span in run.log:
        was, lasted = found.get(span.step, Spent()), span.end - span.start
        found[span.step] = Spent(was.on + lasted * (not span.paused), was.paused + lasted * span.paused)
    return found


def cut_short(steps: Iterable[Step], events: Iterable[Event], spare: Iterable[Step] = ()) -> frozenset[str]:
    """The steps that were left early, or returned to: their times say nothing about how long they take."""
    run, found = Run(tuple(steps), spare=tuple(spare)), set[str]()
    for event in events:
        before = advance(run, event.at)
        run = after(run, event)
        if event.kind in _JUMPS and before.started and not before.ended and before.steps:
            found |= {before.step.id} | ({run.step.id} if not run.ended else set())
    return frozenset(found)
