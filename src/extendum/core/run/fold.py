"""The fold over events: what a class has become, and where it is at any time.

The same events always give the same run; one that was seen before, or that makes no sense where the run is, changes
nothing but the time. The browser has the same fold (playing.js); a test holds them together.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from extendum.core.model.errors import RefusedError
from extendum.core.run.actions import ACTIONS, AFTER_THE_END, KEEPS_LEFT
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import Step


def fold(steps: Iterable[Step], events: Iterable[Event], spare: Iterable[Step] = ()) -> Run:
    """The run that these events make of these steps."""
    run = Run(tuple(steps), spare=tuple(spare))
    for event in events:
        run = after(run, event)
    return run


def after(run: Run, event: Event) -> Run:
    """The run after one more event; one that was seen before changes nothing, and time never runs backwards."""
    if event.id in run.seen:
        return run
    if event.kind not in ACTIONS:
        raise RefusedError("kind", "one of " + ", ".join(ACTIONS), event.kind)
    run = advance(run, event.at)
    run = replace(run, seen=run.seen | {event.id})
    if not run.steps or (event.kind != "start" and not run.started) or (run.ended and event.kind not in AFTER_THE_END):
        return run
    run = ACTIONS[event.kind](run, event)
    return run if event.kind in KEEPS_LEFT or run.left is None else replace(run, left=None)
