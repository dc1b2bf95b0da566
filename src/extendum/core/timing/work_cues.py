"""What is said and sounded inside the work of a pass.

Precedence: the phases of pulses, countdown, last calls, words of the phases, breath words, words for each side, counts
of reps, next move, halfway or the change at the half, time left, caution, easier option, then prompts by priority,
spread out, with a least gap and a cap on talk; last the reminders to breathe.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.listening.spelled import number_words
from extendum.core.model.body import Side
from extendum.core.model.dose import COUNTED, Beat, Breaths, Dose, Hold, Pulses, Reps, Timed
from extendum.core.model.item import rep_total
from extendum.core.model.placeholders import fill
from extendum.core.model.style import Countdown, CueStyle
from extendum.core.model.timeline import Anchor, Cue, CueKind, Mode, Segment, Unsaid
from extendum.core.timing.cues import CUE_GAP_MS, Placed
from extendum.core.timing.durations import Facts
from extendum.core.timing.facts import sides_told
from extendum.core.timing.lines import Lines
from extendum.core.timing.parts import Part
from extendum.core.timing.prompting import Due, prompt_cues
from extendum.core.timing.rep_words import RepWords
from extendum.core.timing.room import Room
from extendum.core.timing.sequence import Pass

HALFWAY_LEAST_S = 20


class Work:
    """Places the cues of one working segment in order of precedence."""

    def __init__(
        self,
        this: Pass,
        segment: Segment,
        part: Part,
        style: CueStyle,
        facts: Facts,
        lines: Lines,
        due: Sequence[Due] = (),
    ) -> None:
        """Facts are those of the pass; the part says which stage and value this is; ``due`` are its prompts."""
        self.lines = lines
        self.this, self.segment, self.style, self.facts = this, segment, this.item.cued(style), facts
        self.stage, self.due = part.stage or 1, due
        dose = this.item.dose_at(self.stage)
        self.dose: Dose = dose.at(part.value) if isinstance(dose, COUNTED) else dose
        self.alternates = this.item.counts_sides(self.stage)
        self.total = rep_total(this.item, self.stage, part.value)
        self.room = Room(this, self.stage, segment, self.style.speech)
        self.start, self.end = self.room.start, self.room.end

    def cues(self, *, calls_next: bool, half: int | None) -> Iterator[Placed]:
        """All cues; ``half`` is 0 or 1 in the halves of a time that switches sides, else None."""
        ends = half != 0
        if isinstance(self.dose, Hold | Timed) and ends:
            yield from self._countdown()
        beats: tuple[Beat, ...] = ()
        if isinstance(self.dose, Pulses | Reps | Breaths):
            beats, on_side = tuple(self.dose.beats(self.total)), self._on if self.alternates else None
            yield from RepWords(
                self.room, self.this, self.dose, beats, self.style, self.lines, on_side, self.facts
            ).cues()
        if calls_next and ends:
            yield self._next()
        if half == 1:
            words = fill(self.this.item.words.switch, self._on(self.this.lead.other)) or "Change sides."
            yield self.room.at(CueKind.HALF_SWITCH, 0, self.start, words, Anchor.START)
        yield from self._times(half)
        if half != 1:
            yield from prompt_cues(self.room, self.due, self.facts, self.style.quiet_percent)
        if isinstance(self.dose, Hold):
            yield from self._keep_breathing()
        if isinstance(self.dose, Reps | Breaths):
            yield from self._beats(beats)

    def _on(self, side: Side) -> Facts:
        """The facts while a side is worked inside a pass that alternates."""
        return {**self.facts, **sides_told(side, self.this.lead, self.style)}

    def _countdown(self) -> Iterator[Placed]:
        mode = Mode.TONE if self.style.countdown is Countdown.TONE else Mode.SPOKEN
        for n in range(self.style.countdown.first, 0, -1):
            start = self.end - n * 1000
            if start < self.start:
                yield Unsaid(self.room.of(CueKind.COUNT, n), number_words(n), "countdown-longer")
                continue
            self.room.counting_from = min(self.room.counting_from, start)
            yield self.room.take(CueKind.COUNT, n, start, start + 1000, str(n), Anchor.END, mode)

    def _next(self) -> Placed:
        text = self.lines.say(CueKind.NEXT, next=self.facts["next"])
        end = self.room.counting_from - CUE_GAP_MS
        return self.room.at(CueKind.NEXT, 0, end - self.room.lasting(text), text, Anchor.END)

    def _times(self, half: int | None) -> Iterator[Placed]:
        if not isinstance(self.dose, Hold | Timed):
            return
        if self.style.halfway and half is None:
            text = self.lines.say(CueKind.HALFWAY)
            if self.segment.seconds < HALFWAY_LEAST_S:
                yield Unsaid(self.room.of(CueKind.HALFWAY), text, "short-hold")
            else:
                yield self.room.at(CueKind.HALFWAY, 0, (self.start + self.end) // 2, text, Anchor.MIDDLE)
        if half != 0:
            for seconds in self.style.time_left:
                text = self.lines.say(CueKind.TIME_LEFT, seconds=str(seconds))
                yield self.room.at(CueKind.TIME_LEFT, seconds, self.end - seconds * 1000, text, Anchor.END)

    def _keep_breathing(self) -> Iterator[Placed]:
        every = self.style.breath_every_s
        if every:
            for index, second in enumerate(range(every, self.segment.seconds, every)):
                start = self.start + second * 1000
                text = self.lines.say(CueKind.KEEP_BREATHING)
                yield self.room.at(CueKind.KEEP_BREATHING, index, start, text, Anchor.START)

    def _beats(self, beats: tuple[Beat, ...]) -> Iterator[Cue]:
        """What screens and tones follow."""
        room, dose, lead = self.room, self.dose, self.this.lead
        for index, beat in enumerate(beats):
            if isinstance(dose, Breaths):
                yield room.beat(CueKind.BREATH_PHASE, index, beat.start_ms, beat.end_ms, beat.phase, Mode.TONE)
            else:
                side = f" {lead if beat.count % 2 else lead.other}" if self.alternates else ""
                text = f"{beat.phase} {beat.count}{side}"
                yield room.beat(CueKind.REP_PHASE, index, beat.start_ms, beat.end_ms, text)
        if isinstance(dose, Reps) and dose.counts:
            counts, cycle = dose.counts, dose.cycle_ms
            for n in range(self.total):
                for k in range(counts):
                    start, end = n * cycle + k * cycle // counts, n * cycle + (k + 1) * cycle // counts
                    yield room.beat(CueKind.REP_COUNT, n * counts + k, start, end, str(k + 1))
