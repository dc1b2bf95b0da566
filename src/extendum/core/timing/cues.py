"""Cues outside the work: set-ups, switches, releases.

What is said during the work is placed by `work_cues`, and talk by `talk_cues`. Whatever finds no place is listed with
one of the RULES.
"""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.model.marks import key_words, without_marks
from extendum.core.model.placeholders import capital
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import Anchor, Cue, CueKind, CueRef, Mode, Segment, SegmentKind, Unsaid
from extendum.core.timing.parts import Part
from extendum.core.timing.speech import speaking_ms

#: Silence kept on either side of what is placed into gaps.
CUE_GAP_MS = 500
#: Why a cue is left out, in words: the closed list of docs/format.md.
RULES = {
    "short-hold": "a hold of less than 20 s has no halfway call",
    "countdown-longer": "the work is shorter than its countdown",
    "phase-shorter": "it takes longer than its phase",
    "no-room": "there is no room left for it",
    "talk-cap": "the hold would have too little quiet",
    "talk-overrun": "the talk is too short for all its words",
    "cadence-short": "the group's cadence leaves no time for it",
    "no-silence": "the words leave no time for this wait",
    "note-late": "the work ends before this moment",
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
    if mode is not Mode.SPOKEN:
        return Cue(of, mode, segment.id, anchor, start - origin, start, end, text)
    said, key = (without_marks(text), key_words(text)) if "*" in text else (text, "")
    return Cue(of, mode, segment.id, anchor, start - origin, start, end, capital(said), key)


def said_cues(segment: Segment, part: Part, style: CueStyle) -> Iterator[Placed]:
    """Everything said in a part, in a row from its start."""
    at = segment.start_s * 1000
    if segment.kind is SegmentKind.REST:  # what is announced after a rest ends with it
        at = segment.end_s * 1000 - part.words_ms
    counts: dict[CueKind, int] = {}
    for said in part.said:
        index = counts.get(said.kind, 0) if said.nth is None else said.nth
        counts[said.kind] = index + 1
        of = CueRef(segment.item, part.stage or 1, segment.pass_number, segment.round, said.kind, index)
        if said.unsaid_rule:
            yield Unsaid(of, said.text, said.unsaid_rule)
            continue
        until = at + speaking_ms(said.text, style.speech)
        yield make_cue(of, segment, at, until, said.text)
        at = until
