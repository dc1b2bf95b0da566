"""The room in the work of a pass: what is said in it already, and where more finds a place."""

from __future__ import annotations

from extendum.core.model.timeline import Anchor, Cue, CueKind, CueRef, Mode, Segment, Unsaid
from extendum.core.model.voice import Speech
from extendum.core.timing.cues import CUE_GAP_MS, Placed, make_cue
from extendum.core.timing.sequence import Pass
from extendum.core.timing.speech import speaking_ms


class Room:
    """The time of one working segment; whatever is placed takes its part of it."""

    def __init__(self, this: Pass, stage: int, segment: Segment, speech: Speech) -> None:
        self.this, self.stage, self.segment, self.speech = this, stage, segment, speech
        self.start, self.end = segment.start_s * 1000, segment.end_s * 1000
        self.busy: list[tuple[int, int]] = []
        self.counting_from = self.end

    def of(self, kind: CueKind, index: int = 0) -> CueRef:
        """What a cue of this pass and stage is known by."""
        return CueRef(self.this.item.id, self.stage, self.this.number, self.this.round, kind, index)

    def lasting(self, text: str) -> int:
        """Milliseconds to say a text."""
        return speaking_ms(text, self.speech)

    def spoken_ms(self) -> int:
        """Milliseconds that are taken."""
        return sum(b - a for a, b in self.busy)

    def free(self, start: int, end: int, gap: int) -> bool:
        """Whether nothing is said from start to end, nor so shortly before and after."""
        if start < self.start or end > self.end:
            return False
        return all(end + gap <= a or b + gap <= start for a, b in self.busy)

    def first_free(self, start: int, until: int, lasting: int, gap: int) -> int | None:
        """The first place from start on for what must have ended by ``until``; None where there is none."""
        for a, b in self.busy:
            if a < start + lasting + gap and start < b + gap:
                start = b + gap
        return start if start + lasting <= min(until, self.end) else None

    def take(
        self,
        kind: CueKind,
        index: int,
        start: int,
        end: int,
        text: str,
        anchor: Anchor = Anchor.START,
        mode: Mode = Mode.SPOKEN,
    ) -> Cue:
        """A cue in its place."""
        self.busy.append((start, end))
        self.busy.sort()
        return make_cue(self.of(kind, index), self.segment, start, end, text, anchor, mode)

    def at(self, kind: CueKind, index: int, start: int, text: str, anchor: Anchor) -> Placed:
        """A cue that is said then or not at all."""
        end = start + self.lasting(text)
        if not self.free(start, end, CUE_GAP_MS):
            return Unsaid(self.of(kind, index), text, "no-room")
        return self.take(kind, index, start, end, text, anchor)

    def within(self, kind: CueKind, index: int, start: int, until: int, text: str, lasting: int, gap: int) -> Placed:
        """A cue that is said as soon as may be from start on, and has ended by ``until``; times are of the segment."""
        if lasting > until - start:
            return Unsaid(self.of(kind, index), text, "phase-shorter")
        found = self.first_free(self.start + start, self.start + until, lasting, gap)
        if found is None:
            return Unsaid(self.of(kind, index), text, "no-room")
        return self.take(kind, index, found, found + lasting, text)

    def beat(self, kind: CueKind, index: int, start: int, end: int, text: str, mode: Mode = Mode.SILENT) -> Cue:
        """What screens and tones follow; it takes nothing of the room. Times are of the segment."""
        return make_cue(self.of(kind, index), self.segment, self.start + start, self.start + end, text, mode=mode)
