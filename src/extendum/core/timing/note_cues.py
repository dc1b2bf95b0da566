"""The teacher's own notes at their moments: private cues, which her screens show ahead of time and nobody speaks."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.model.body import Side
from extendum.core.model.notes import Note, NoteWhen
from extendum.core.model.talk import Quiet
from extendum.core.model.timeline import Anchor, CueKind, CueRef, Mode, Segment, Unsaid
from extendum.core.timing.cues import Placed, make_cue
from extendum.core.timing.sequence import Arrival, Pass, Step

#: How long a note stays when its moment has come.
NOTE_MS = 1000


def note_cues(step: Step, segments: Sequence[Segment]) -> Iterator[Placed]:
    """The notes of a step; those that find no moment in it are listed."""
    for nth, note in enumerate(() if isinstance(step.item, Quiet) else step.item.notes):
        if not is_meant(note, step):
            continue
        of = CueRef(step.item.id, 1, step.number, step.round, CueKind.NOTE, nth)
        found = _moment(note, step, segments)
        if found is None:
            yield Unsaid(of, note.told, "note-late")
        else:
            segment, at, anchor = found
            yield make_cue(of, segment, at, at + NOTE_MS, note.told, anchor, Mode.PRIVATE)


def is_meant(note: Note, step: Step) -> bool:
    """Whether a note is for a step: its side, or the first pass of a visit; at the change of sides, the second side."""
    if not isinstance(step, Pass):
        return note.side in (None, step.side) and note.when is not NoteWhen.SWITCH
    if note.when is NoteWhen.SWITCH:
        return step.arrival in (Arrival.SWITCH, Arrival.OTHER, Arrival.OVER)
    if note.side is not None:
        return step.side in (note.side, Side.BOTH) and step.opens_side
    return step.arrival in (Arrival.FIRST, Arrival.AGAIN)


def _moment(note: Note, step: Step, segments: Sequence[Segment]) -> tuple[Segment, int, Anchor] | None:
    """The segment of a note, when it comes, and what it keeps its distance to; None where there is no such moment."""
    work = [one for one in segments if one.kind.works] if isinstance(step, Pass) else list(segments)
    if not segments or not work:
        return None
    if note.when in (NoteWhen.BEFORE, NoteWhen.SWITCH):
        return segments[0], segments[0].start_s * 1000, Anchor.START
    if note.when is NoteWhen.END:
        return work[-1], work[-1].end_s * 1000 - NOTE_MS, Anchor.END
    at = work[0].start_s * 1000 + (note.after_s * 1000 if note.when is NoteWhen.LATER else 0)
    host = next((one for one in work if one.start_s * 1000 <= at < one.end_s * 1000), None)
    return None if host is None else (host, at, Anchor.START)
