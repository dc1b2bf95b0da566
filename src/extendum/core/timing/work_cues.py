"""What is said and sounded inside the work of a pass.

Precedence: the phases of pulses, countdown, last calls, breath words, words for each side, next move, halfway or
the change at the half, time left, caution, easier option, then prompts by priority, spread out, with a least gap and
a cap on talk; last the reminders to breathe.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from extendum.core.model.body import Side
from extendum.core.model.dose import Beat, Breaths, Dose, Hold, Pulses, Reps, Timed
from extendum.core.model.item import rep_total
from extendum.core.model.style import Countdown, CueStyle
from extendum.core.model.timeline import Anchor, Cue, CueKind, CueRef, Mode, Segment, Unsaid
from extendum.core.model.words import FIRST_PASS_ONLY, PromptKind, fill
from extendum.core.timing.cues import CUE_GAP_MS, Placed, make_cue
from extendum.core.timing.durations import Facts
from extendum.core.timing.facts import sides_told
from extendum.core.timing.parts import Part
from extendum.core.timing.sequence import Arrival, Pass
from extendum.core.timing.speech import number_words, speaking_ms

HALFWAY_LEAST_S = 20
PROMPT_GAP_MS = 1500
# The part of the work in which a prompt may start, in percent.
_WINDOW = {
    PromptKind.CAUTION: (0, 33),
    PromptKind.EASIER: (0, 33),
    PromptKind.FEEL: (0, 60),
    PromptKind.FORM: (0, 100),
    PromptKind.BREATH: (0, 100),
    PromptKind.DEEPER: (40, 100),
    PromptKind.ENCOURAGEMENT: (50, 100),
}
_KINDS = list(PromptKind)


class Work:
    """Places the cues of one working segment in order of precedence."""

    def __init__(self, this: Pass, segment: Segment, part: Part, style: CueStyle, facts: Facts) -> None:
        """Facts are those of the pass; the part says which stage and value this is."""
        self.this, self.segment, self.style, self.facts = this, segment, this.item.cued(style), facts
        self.stage = part.stage or 1
        self.dose: Dose = this.item.doses[self.stage - 1]
        self.alternates = this.item.counts_sides(self.stage)
        self.total = rep_total(this.item, self.stage, part.value)
        self.start, self.end = segment.start_s * 1000, segment.end_s * 1000
        self.busy: list[tuple[int, int]] = []
        self.counting_from = self.end

    def cues(self, *, calls_next: bool, half: int | None) -> Iterator[Placed]:
        """All cues; ``half`` is 0 or 1 in the halves of a time that switches sides, else None."""
        beats = () if isinstance(self.dose, Hold | Timed) else tuple(self.dose.beats(self.total))
        ends = half != 0
        if isinstance(self.dose, Pulses):
            yield from self._phases(beats)
        if isinstance(self.dose, Hold | Timed) and ends:
            yield from self._countdown()
        if isinstance(self.dose, Reps | Breaths):
            yield from self._last_calls(beats)
        if isinstance(self.dose, Breaths):
            yield from self._say_breaths(beats)
        if self.alternates and self.this.item.words.each:
            yield from self._say_sides(beats, self.this.item.words.each)
        if calls_next and ends:
            yield self._next()
        if half == 1:
            words = fill(self.this.item.words.switch, self._on(self.this.lead.other)) or "Change sides."
            yield self._at(CueKind.HALF_SWITCH, 0, self.start, words, Anchor.START)
        yield from self._times(half)
        if self.style.prompts and self.stage == 1 and half != 1:
            yield from self._prompts()
        if isinstance(self.dose, Hold):
            yield from self._keep_breathing()
        yield from self._silent(beats)

    def _of(self, kind: CueKind, index: int = 0) -> CueRef:
        return CueRef(self.this.item.id, self.stage, self.this.number, self.this.round, kind, index)

    def _take(self, kind: CueKind, index: int, start: int, end: int, text: str, anchor: Anchor) -> Cue:
        self.busy.append((start, end))
        self.busy.sort()
        return make_cue(self._of(kind, index), self.segment, start, end, text, anchor)

    def _free(self, start: int, end: int, gap: int) -> bool:
        if start < self.start or end > self.end:
            return False
        return all(end + gap <= a or b + gap <= start for a, b in self.busy)

    def _lasting(self, text: str) -> int:
        return speaking_ms(text, self.style.words_per_minute)

    def _at(self, kind: CueKind, index: int, start: int, text: str, anchor: Anchor, rule: str = "no-room") -> Placed:
        end = start + self._lasting(text)
        if not self._free(start, end, CUE_GAP_MS):
            return Unsaid(self._of(kind, index), text, rule)
        return self._take(kind, index, start, end, text, anchor)

    def _phases(self, beats: tuple[Beat, ...]) -> Iterator[Placed]:
        for index, beat in enumerate(beats):
            start, end = self.start + beat.start_ms, self.start + beat.start_ms + self._lasting(beat.phase)
            if end > self.start + beat.end_ms:
                yield Unsaid(self._of(CueKind.PULSE_PHASE, index), beat.phase, "phase-shorter")
            else:
                yield self._take(CueKind.PULSE_PHASE, index, start, end, beat.phase, Anchor.START)

    def _countdown(self) -> Iterator[Placed]:
        mode = Mode.TONE if self.style.countdown is Countdown.TONE else Mode.SPOKEN
        for n in range(self.style.countdown.first, 0, -1):
            start, of = self.end - n * 1000, self._of(CueKind.COUNT, n)
            if start < self.start:
                yield Unsaid(of, number_words(n), "countdown-longer")
                continue
            self.counting_from = min(self.counting_from, start)
            self.busy.append((start, start + 1000))
            yield make_cue(of, self.segment, start, start + 1000, str(n), Anchor.END, mode)

    def _last_calls(self, beats: tuple[Beat, ...]) -> Iterator[Placed]:
        begins = {beat.count: beat.start_ms for beat in reversed(beats)}
        for n in range(1, self.style.last_calls + 1):
            text = "Last one." if n == 1 else f"{number_words(n).capitalize()} more."
            begin = begins.get(self.total - n + 1)
            if begin is None:
                yield Unsaid(self._of(CueKind.LAST, n), text, "countdown-longer")
                continue
            placed = self._at(CueKind.LAST, n, self.start + begin, text, Anchor.END)
            if isinstance(placed, Cue):
                self.counting_from = min(self.counting_from, placed.start_ms)
            yield placed

    def _say_breaths(self, beats: tuple[Beat, ...]) -> Iterator[Placed]:
        spoken = {"in": (0, "Breathe in."), "out": (1, "And out.")}
        for beat in beats:
            if beat.count <= self.style.say_breaths and beat.phase in spoken:
                offset, text = spoken[beat.phase]
                start = self.start + beat.start_ms
                index = 2 * (beat.count - 1) + offset
                if self._lasting(text) > beat.end_ms - beat.start_ms:
                    yield Unsaid(self._of(CueKind.SAY_BREATH, index), text, "phase-shorter")
                else:
                    yield self._at(CueKind.SAY_BREATH, index, start, text, Anchor.START)

    def _on(self, side: Side) -> Facts:
        """The facts while a side is worked inside a pass that alternates."""
        return {**self.facts, **sides_told(side, self.this.lead, self.style)}

    def _say_sides(self, beats: tuple[Beat, ...], words: str) -> Iterator[Placed]:
        """The words of each change of sides, as its rep or breath begins, or after the word for breathing in."""
        cycle, lead = self.dose.cycle_ms, self.this.lead
        first = self.dose.named_phases[0][0] if isinstance(self.dose, Reps | Breaths) else ""
        for n, beat in enumerate([one for one in beats if one.phase == first]):
            text = fill(words, self._on(lead.other if n % 2 else lead))
            start = beat.start_ms
            if isinstance(self.dose, Breaths) and n < self.style.say_breaths:
                start += self._lasting("Breathe in.") + CUE_GAP_MS
            if start + self._lasting(text) > beat.start_ms + cycle:
                yield Unsaid(self._of(CueKind.EACH, n), text, "phase-shorter")
            else:
                yield self._at(CueKind.EACH, n, self.start + start, text, Anchor.START)

    def _next(self) -> Placed:
        text = f"Next, {self.facts['next']}."
        end = self.counting_from - CUE_GAP_MS
        return self._at(CueKind.NEXT, 0, end - self._lasting(text), text, Anchor.END)

    def _times(self, half: int | None) -> Iterator[Placed]:
        if not isinstance(self.dose, Hold | Timed):
            return
        if self.style.halfway and half is None:
            text = "Halfway."
            if self.segment.seconds < HALFWAY_LEAST_S:
                yield Unsaid(self._of(CueKind.HALFWAY), text, "short-hold")
            else:
                yield self._at(CueKind.HALFWAY, 0, (self.start + self.end) // 2, text, Anchor.MIDDLE)
        if half != 0:
            for seconds in self.style.time_left:
                text = f"{seconds} more seconds."
                yield self._at(CueKind.TIME_LEFT, seconds, self.end - seconds * 1000, text, Anchor.END)

    def _prompts(self) -> Iterator[Placed]:
        early = self.this.arrival is Arrival.FIRST
        prompts = enumerate(self.this.item.words.prompts)
        asked = [(index, one) for index, one in prompts if early or one.kind not in FIRST_PASS_ONLY]
        asked.sort(key=lambda one: (min(_KINDS.index(one[1].kind), 2), one[1].priority, one[0]))
        for index, prompt in asked:
            kind, text = CueKind(prompt.kind.value), fill(prompt.text, self.facts)
            lasting = self._lasting(text)
            if not self._leaves_quiet(lasting):
                yield Unsaid(self._of(kind, index), text, "talk-cap")
                continue
            start = self._best_start(prompt.kind, lasting)
            if start is None:
                yield Unsaid(self._of(kind, index), text, "no-room")
            else:
                yield self._take(kind, index, start, start + lasting, text, Anchor.START)

    def _leaves_quiet(self, more_ms: int) -> bool:
        spoken = sum(b - a for a, b in self.busy) + more_ms
        return spoken * 100 <= (self.end - self.start) * (100 - self.style.quiet_percent)

    def _best_start(self, kind: PromptKind, lasting: int) -> int | None:
        """Caution and the easier option as soon as may be; others in the middle of the widest gap."""
        first, last = (self.start + (self.end - self.start) * p // 100 for p in _WINDOW[kind])
        edges = [(self.start, self.start), *sorted(self.busy), (self.end, self.end)]
        best: tuple[int, int] | None = None
        for (_, free_from), (free_to, _) in pairwise(edges):
            low = max(free_from + PROMPT_GAP_MS, first)
            high = min(free_to - PROMPT_GAP_MS - lasting, last)
            if low > high:
                continue
            if kind in FIRST_PASS_ONLY:
                return low
            start = min(max((free_from + free_to - lasting) // 2, low), high)
            room = min(start - free_from, free_to - start - lasting)
            if best is None or room > best[0]:
                best = (room, start)
        return best[1] if best else None

    def _keep_breathing(self) -> Iterator[Placed]:
        every = self.style.breath_every_s
        if every:
            for index, second in enumerate(range(every, self.segment.seconds, every)):
                start = self.start + second * 1000
                yield self._at(CueKind.KEEP_BREATHING, index, start, "Keep breathing.", Anchor.START)

    def _silent(self, beats: tuple[Beat, ...]) -> Iterator[Cue]:
        """The beats that screens and tones follow."""
        if isinstance(self.dose, Breaths):
            for index, beat in enumerate(beats):
                yield self._beat(CueKind.BREATH_PHASE, index, beat.start_ms, beat.end_ms, beat.phase, Mode.TONE)
        if not isinstance(self.dose, Reps):
            return
        lead = self.this.lead
        for index, beat in enumerate(beats):
            side = f" {lead if beat.count % 2 else lead.other}" if self.alternates else ""
            text = f"{beat.phase} {beat.count}{side}"
            yield self._beat(CueKind.REP_PHASE, index, beat.start_ms, beat.end_ms, text, Mode.SILENT)
        counts, cycle = self.dose.counts, self.dose.cycle_ms
        for n in range(self.total if counts else 0):
            for k in range(counts):
                start, end = n * cycle + k * cycle // counts, n * cycle + (k + 1) * cycle // counts
                index = n * counts + k
                yield self._beat(CueKind.REP_COUNT, index, start, end, str(k + 1), Mode.SILENT)

    def _beat(self, kind: CueKind, index: int, start: int, end: int, text: str, mode: Mode) -> Cue:
        return make_cue(self._of(kind, index), self.segment, self.start + start, self.start + end, text, mode=mode)
