"""A run as a timeline again: what was really done, in whole seconds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

from extendum.core.model.body import Side
from extendum.core.model.script import Script
from extendum.core.model.timeline import NO_REASON, Segment, SegmentKind, Timeline
from extendum.core.run.state import Run
from extendum.core.run.steps import Step

_NOTHING: Mapping[str, str] = MappingProxyType({})


def as_taught(script: Script, timeline: Timeline, run: Run, brought: Mapping[str, str] = _NOTHING) -> Timeline:
    """The run as a timeline in whole seconds, from its first word: what coverage counts and the log draws.

    A pause is a rest without an item. What was put in has the name of its move.
    """
    planned = {segment.id: segment for segment in timeline.segments}
    steps = {step.id: step for step in run.steps}
    called = {**brought, **{item.id: item.name for item in script.items()}}
    first = run.log[0].start if run.log else 0
    found: list[Segment] = []
    for n, span in enumerate(run.log):
        start, end = (round((at - first) / 1000) for at in (span.start, span.end))
        if end > start:
            plain = planned.get(span.step) or _unplanned(steps.get(span.step), called)
            if span.paused:
                plain = replace(plain, kind=SegmentKind.REST, item="", name="paused", side=None, stage=None)
            step = steps.get(span.step)
            side = Side(step.side) if step and step.side and not span.paused else plain.side
            found.append(replace(plain, id=f"{plain.id}#{n}", start_s=start, end_s=end, side=side, why=NO_REASON))
    return Timeline(found[-1].end_s if found else 0, tuple(found))


def _unplanned(step: Step | None, called: Mapping[str, str]) -> Segment:
    """Something that was inserted, as a segment."""
    name = called.get(step.item, "added") if step else "added"
    kind = SegmentKind.HOLD if step and step.works else SegmentKind.REST
    return Segment(step.id if step else "?", kind, 0, 1, step.item if step else "", name, None, 1, 1, None)
