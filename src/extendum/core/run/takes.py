"""A recording of a class: its takes, which of them are kept, and the class's timeline as it is in the file.

Time in the file runs from the slate. A pass that was done again is another take of it; the last whole one is kept.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.timeline import Anchor, Cue, Segment, Timeline
from extendum.core.run.state import Event, Run, Span
from extendum.core.run.steps import Step

#: Events after which another take begins.
_CUTS = frozenset({"retake", "repeat", "back", "skip", "skip-item", "rewind", "swap"})


@dataclass(frozen=True, slots=True)
class Mark:
    """Something to remember while recording: milliseconds of the file, what, and during which item and side."""

    at_ms: int
    words: str
    item: str = ""
    side: str = ""


@dataclass(frozen=True, slots=True)
class Take:
    """One recording of one pass: its number, from when to when in the file, and whether it is kept."""

    group: str
    item: str
    side: str
    number: int
    start_ms: int
    end_ms: int
    whole: bool
    kept: bool
    spans: tuple[Span, ...]


def takes(
    run: Run,
    events: Sequence[Event],
    chosen: Mapping[str, int] | None = None,
    gone: Collection[tuple[str, int]] = (),
) -> list[Take]:
    """Every take in the order of the file; of each pass the last whole one is kept, or the last one.

    ``chosen``: by pass, the number of the take to keep instead; ``gone``: deleted takes, by pass and number.
    """
    first = run.log[0].start if run.log else 0
    steps = {step.id: step for step in run.steps}
    ends = {step.group: step.id for step in run.steps}
    found: list[Take] = []
    counts: dict[str, int] = {}
    for spans in _pieces(run, events, steps):
        step = steps[spans[0].step]
        counts[step.group] = number = counts.get(step.group, 0) + 1
        last = steps[spans[-1].step]
        lasted = sum(span.end - span.start for span in spans if span.step == last.id)
        whole = last.id == ends[step.group] and (lasted >= last.ms or not run.ended or bool(last.waits))
        side = next((steps[span.step].side for span in spans if steps[span.step].side), "")
        times = (spans[0].start - first, spans[-1].end - first)
        found.append(Take(step.group, step.item, side, number, *times, whole, False, spans))
    found = [take for take in found if (take.group, take.number) not in gone]
    best: dict[str, int] = {}
    for n, take in enumerate(found):
        if take.whole or take.group not in best or not found[best[take.group]].whole:
            best[take.group] = n
    wanted = {(group, number) for group, number in (chosen or {}).items()}
    best |= {take.group: n for n, take in enumerate(found) if (take.group, take.number) in wanted}
    kept = set(best.values())
    return [replace(take, kept=n in kept) for n, take in enumerate(found)]


def _pieces(run: Run, events: Iterable[Event], steps: dict[str, Step]) -> Iterator[tuple[Span, ...]]:
    """The log in pieces of one pass each that no jump is in; pauses are in none of them."""
    cuts = sorted({event.at for event in events if event.kind in _CUTS})
    held: list[Span] = []
    cut_before = False
    for span in _split(run.log, cuts):
        here = span.start in cuts
        same = held and steps[held[-1].step].group == steps[span.step].group
        if held and (not same or here or cut_before):
            yield tuple(held)
            held = []
        cut_before = False
        if not span.paused:
            held.append(span)
        elif here:
            cut_before = True
    if held:
        yield tuple(held)


def _split(log: Iterable[Span], cuts: Sequence[int]) -> Iterator[Span]:
    for span in log:
        at = span.start
        for cut in cuts:
            if at < cut < span.end:
                yield replace(span, start=at, end=cut)
                at = cut
        yield replace(span, start=at)


def marks(run: Run, events: Iterable[Event]) -> list[Mark]:
    """What was marked while recording."""
    first = run.log[0].start if run.log else 0
    steps = {step.id: step for step in run.steps}
    found = []
    for event in events:
        if event.kind == "mark":
            at = next((span for span in run.log if span.start <= event.at < span.end), None)
            step = steps[at.step] if at else None
            place = (step.item, step.side or "") if step else ("", "")
            found.append(Mark(event.at - first, event.step or "insert shot", *place))
    return found


def filmed(timeline: Timeline, run: Run, some: Iterable[Take], *, cut: bool = False) -> Timeline:
    """The timeline of what was kept, at its times in the file; or, ``cut``, with what was kept put together.

    Words keep their distance to the anchor in the part that was really taken, as on the Stage.
    """
    segments = {segment.id: segment for segment in timeline.segments}
    said: dict[str, list[Cue]] = {}
    for cue in timeline.cues:
        said.setdefault(cue.segment, []).append(cue)
    kept = sorted((take for take in some if take.kept), key=lambda take: take.start_ms)
    made: list[Segment] = []
    cues: list[Cue] = []
    first, at = (run.log[0].start if run.log else 0), 0
    for take in kept:
        shift = at - take.start_ms if cut else 0
        for name, start, end in _steps(take, first):
            plain = segments.get(name.split("~")[0])
            if plain is None or end <= start:
                continue
            begins, ends = start + shift, end + shift
            if ends // 1000 > begins // 1000:
                made.append(replace(plain, id=f"{plain.id}@{begins}", start_s=begins // 1000, end_s=ends // 1000))
            for cue in said.get(plain.id, ()):
                anchor = {Anchor.START: begins, Anchor.MIDDLE: (begins + ends) // 2, Anchor.END: ends}[cue.anchor]
                from_ms = anchor + cue.offset_ms
                if begins <= from_ms < ends:
                    to_ms = from_ms + cue.end_ms - cue.start_ms
                    cues.append(cue._replace(segment=f"{plain.id}@{begins}", start_ms=from_ms, end_ms=to_ms))
        at += take.end_ms - take.start_ms
    length = at if cut else max((take.end_ms for take in kept), default=0)
    return Timeline(-(-length // 1000), tuple(made), tuple(sorted(cues, key=lambda cue: cue.start_ms)))


def _steps(take: Take, first: int) -> Iterator[tuple[str, int, int]]:
    """Each step of a take with its times in the file; pauses inside it are part of the file."""
    order = list(dict.fromkeys(span.step for span in take.spans))
    for name in order:
        own = [span for span in take.spans if span.step == name]
        yield name, own[0].start - first, own[-1].end - first
