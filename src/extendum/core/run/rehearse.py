"""Rehearsing: the class with its work cut short, in which words and ways last until the teacher goes on.

What is measured is compared with the script segment by segment (`learned`). A long talk is rehearsed sentence by
sentence, since a screen shows no more of it at a time.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from extendum.core.model.script import Script
from extendum.core.model.timeline import Anchor, Cue, CueKind, Mode, Segment, SegmentKind, Timeline
from extendum.core.run.log import Spent, spent
from extendum.core.run.state import Run
from extendum.core.run.steps import Step, steps_of

#: What is not said and no way lasts at most so long.
SHORT_S = 3

_WAYS = frozenset(
    {SegmentKind.TRANSITION, SegmentKind.SWITCH, SegmentKind.TURN, SegmentKind.SETUP, SegmentKind.RELEASE}
)


def segment_of(step_id: str) -> str:
    """The class's segment that a step of a rehearsal belongs to."""
    return step_id.split("#")[0]


def rehearsed(timeline: Timeline) -> Timeline:
    """The timeline of a rehearsal: the same order, work and silence at most SHORT_S, a talk in its sentences."""
    said: dict[str, list[Cue]] = {}
    for cue in timeline.cues:
        said.setdefault(cue.segment, []).append(cue)
    segments, cues, at = list[Segment](), list[Cue](), 0
    for segment in timeline.segments:
        for part, kept in _parts(segment, said.get(segment.id, [])):
            segments.append(replace(part, start_s=at, end_s=at + part.seconds))
            length_ms = part.seconds * 1000
            from_ms = {Anchor.START: 0, Anchor.MIDDLE: length_ms // 2, Anchor.END: length_ms}
            for cue in kept:
                start = at * 1000 + from_ms[cue.anchor] + cue.offset_ms
                cues.append(cue._replace(segment=part.id, start_ms=start, end_ms=start + cue.end_ms - cue.start_ms))
            at += part.seconds
    return Timeline(at, tuple(segments), tuple(cues))


def _parts(segment: Segment, cues: list[Cue]) -> Iterator[tuple[Segment, list[Cue]]]:
    """A segment as it is rehearsed: as it is, cut short, or in its sentences, with what is said in each."""
    spoken = [cue for cue in cues if cue.mode is Mode.SPOKEN]
    if segment.kind.works or not (spoken or segment.kind in _WAYS):
        short = min(segment.seconds, SHORT_S)
        counts = [cue for cue in cues if cue.kind is CueKind.COUNT and -cue.offset_ms <= short * 1000]
        notes = [cue for cue in cues if cue.kind is CueKind.NOTE]
        yield replace(segment, start_s=0, end_s=short), counts + [_soon(cue) for cue in notes]
    elif len(spoken) < 2 or segment.seconds < len(spoken):
        yield replace(segment, start_s=0, end_s=segment.seconds), cues
    else:
        begins = [round((cue.start_ms - segment.start_s * 1000) / 1000) for cue in spoken]
        begins = [max(n, begin) for n, begin in enumerate([0, *begins[1:]])]
        left = len(begins)
        ends = [min(segment.seconds - (left - n - 1), end) for n, end in enumerate([*begins[1:], segment.seconds])]
        start = 0
        for n, (cue, end) in enumerate(zip(spoken, ends, strict=True)):
            name = segment.id if n == 0 else f"{segment.id}#{n + 1}"
            part = replace(segment, id=name, start_s=start, end_s=max(start + 1, end))
            notes = [_soon(one) for one in cues if one.kind is CueKind.NOTE and n == 0]
            yield part, [cue._replace(anchor=Anchor.START, offset_ms=0), *notes]
            start = part.end_s


def _soon(note: Cue) -> Cue:
    """A note in a rehearsal comes as its part begins, since the part is cut short."""
    return note._replace(anchor=Anchor.START, offset_ms=0)


def rehearsal_steps(script: Script, short: Timeline) -> tuple[Step, ...]:
    """The steps of a rehearsal: words and ways wait for the teacher."""
    spoken = {cue.segment for cue in short.cues if cue.mode is Mode.SPOKEN}
    kinds = {segment.id: segment.kind for segment in short.segments}
    return tuple(
        replace(step, waits=not step.works and (step.id in spoken or kinds[step.id] in _WAYS))
        for step in steps_of(script, short)
    )


def took(run: Run, left: frozenset[str] = frozenset()) -> Mapping[str, int]:
    """What words and ways really took in a rehearsal, in milliseconds by segment of the class, pauses apart.

    Segments that were not rehearsed to their end are left out: those in ``left``, and what was on at the end.
    """
    begun = spent(run)
    waiting = [step for step in run.steps if step.waits]
    unsure = {segment_of(name) for name in left}
    if not run.ended:
        unsure.add(segment_of(run.step.id))
    found: dict[str, int] = {}
    for step in waiting:
        name = segment_of(step.id)
        if step.id not in begun:
            unsure.add(name)
        found[name] = found.get(name, 0) + begun.get(step.id, Spent()).on
    return {name: ms for name, ms in found.items() if name not in unsure}
