"""Cues outside the work: set-ups, switches, releases, talk, and talk that runs under other things.

What is said during the work is placed by `work_cues`. Whatever finds no place is listed with one of the RULES.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Sequence

from extendum.core.model.item import Talk
from extendum.core.model.script import Meanwhile
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import Anchor, Cue, CueKind, CueRef, Mode, Segment, SegmentKind, Unsaid
from extendum.core.model.words import capital, fill
from extendum.core.timing.durations import Facts
from extendum.core.timing.parts import Part
from extendum.core.timing.speech import sentences, speaking_ms

#: Silence kept on either side of what is placed into gaps.
CUE_GAP_MS = 500
#: Why a cue is left out: the closed list of docs/format.md.
RULES = {
    "short-hold": "halfway is not called in less than 20 s",
    "countdown-longer": "the work is shorter than what is counted",
    "phase-shorter": "the word lasts longer than its phase",
    "no-room": "no gap is left between the cues that come first",
    "talk-cap": "the hold would have less quiet than the cueing style asks for",
    "talk-overrun": "the words last longer than the time for talking",
    "cadence-short": "the group's cadence leaves no time for it",
}

Placed = Cue | Unsaid


def make_cue(
    of: CueRef,
    segment: Segment,
    start: int,
    end: int,
    text: str,
    anchor: Anchor = Anchor.START,
    mode: Mode = Mode.SPOKEN,
) -> Cue:
    """A cue at milliseconds of the class, anchored in its segment."""
    first, last = segment.start_s * 1000, segment.end_s * 1000
    origin = first if anchor is Anchor.START else last if anchor is Anchor.END else (first + last) // 2
    said = capital(text) if mode is Mode.SPOKEN else text
    return Cue(of, mode, segment.id, anchor, start - origin, start, end, said)


def said_cues(segment: Segment, part: Part, style: CueStyle) -> Iterator[Placed]:
    """Everything said in a part, in a row from its start."""
    at = segment.start_s * 1000
    if segment.kind is SegmentKind.REST:  # what is announced after a rest ends with it
        at = segment.end_s * 1000 - part.words_ms
    counts: dict[CueKind, int] = {}
    for said in part.said:
        index = counts.get(said.kind, 0)
        counts[said.kind] = index + 1
        of = CueRef(segment.item, part.stage or 1, segment.pass_number, segment.round, said.kind, index)
        if said.unsaid_rule:
            yield Unsaid(of, said.text, said.unsaid_rule)
            continue
        until = at + speaking_ms(said.text, style.words_per_minute)
        yield make_cue(of, segment, at, until, said.text)
        at = until


def talk_cues(
    talk: Talk, segment: Segment | None, number: int, round_: int, style: CueStyle, facts: Facts
) -> Iterator[Placed]:
    """The sentences of a talk in a row, as many as fit its time."""
    at, end = (segment.start_s * 1000, segment.end_s * 1000) if segment else (0, 0)
    for index, sentence in enumerate(sentences(fill(talk.words, facts))):
        of = CueRef(talk.id, 1, number, round_, CueKind.TALK, index)
        until = at + speaking_ms(sentence, style.words_per_minute)
        if segment is None or until > end:
            yield Unsaid(of, sentence, "talk-overrun")
            at = end + 1  # nothing after a sentence that was left out: it would make no sense
        else:
            yield make_cue(of, segment, at, until, sentence)
            at = until


def meanwhile_cues(
    under: Meanwhile, hosts: Sequence[Segment], spoken: Sequence[Cue], style: CueStyle, facts: Facts
) -> Iterator[Placed]:
    """Talk under other things: each sentence in the first gap that takes it, in order."""
    busy = sorted((cue.start_ms, cue.end_ms) for cue in spoken)
    starts = [start for start, _ in busy]
    at = hosts[0].start_s * 1000 if hosts else 0
    for index, sentence in enumerate(sentences(fill(under.words, facts))):
        of = CueRef(under.id, 1, 1, 1, CueKind.MEANWHILE, index)
        lasting = speaking_ms(sentence, style.words_per_minute)
        found = _first_gap(at, lasting, hosts, busy, starts)
        if found is None:
            yield Unsaid(of, sentence, "no-room")
            continue
        host, start = found
        yield make_cue(of, host, start, start + lasting, sentence)
        at = start + lasting + CUE_GAP_MS


def _first_gap(
    at: int, lasting: int, hosts: Sequence[Segment], busy: Sequence[tuple[int, int]], starts: Sequence[int]
) -> tuple[Segment, int] | None:
    for host in hosts:
        first, last = max(at, host.start_s * 1000), host.end_s * 1000
        here = max(0, bisect_left(starts, first) - 1)
        while first + lasting <= last:
            clash = next(
                (b for a, b in busy[here:] if a < first + lasting + CUE_GAP_MS and first < b + CUE_GAP_MS), None
            )
            if clash is None:
                return host, first
            first = clash + CUE_GAP_MS
    return None
