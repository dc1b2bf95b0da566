"""What is said in counted work: calls of the last ones, words of the phases, sides in turn, and the counting itself.

Words of the phases are said in the first reps, breaths or pulses and come back in the last one; between them there is
counting, or silence.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from extendum.core.listening.spelled import number_words
from extendum.core.model.body import Side
from extendum.core.model.dose import Beat, Breaths, Pulses, Reps
from extendum.core.model.item import CountIs
from extendum.core.model.placeholders import fill
from extendum.core.model.style import CueStyle, RepCount
from extendum.core.model.timeline import Anchor, Cue, CueKind, Mode, Unsaid
from extendum.core.timing.cues import CUE_GAP_MS, Placed
from extendum.core.timing.durations import Facts
from extendum.core.timing.lines import Lines
from extendum.core.timing.room import Room
from extendum.core.timing.sequence import Pass
from extendum.core.timing.speech import in_rhythm_ms

#: What is said of a breath where a style has the first ones spoken; and as its seconds are counted.
_BREATHS = {"in": "Breathe in.", "out": "And out."}
_COUNTED_BREATHS = {"in": "In", "full": "Hold", "out": "Out", "empty": "Hold"}
_MOST_COUNTS = 16


class Slot(NamedTuple):
    """Where a count inside a rep is said: from when to when, in milliseconds of the rep, in which phase, and what."""

    start_ms: int
    end_ms: int
    phase: str
    text: str


class RepWords:
    """The words of one stage of counted work, in order of precedence."""

    def __init__(
        self,
        room: Room,
        this: Pass,
        dose: Reps | Breaths | Pulses,
        beats: tuple[Beat, ...],
        style: CueStyle,
        lines: Lines,
        on_side: Callable[[Side], Facts] | None,
        facts: Facts,
    ) -> None:
        """``on_side`` gives the facts of a side where the sides alternate; ``beats`` are of both sides together."""
        self.room, self.this, self.dose, self.total = room, this, dose, beats[-1].count
        self.style, self.lines, self.on_side, self.facts = style, lines, on_side, facts
        self.beats = beats
        self.phases = [name for name, _ in dose.named_phases]

    def cues(self) -> Iterator[Placed]:
        """All of them; what screens and tones follow is not among them."""
        if isinstance(self.dose, Pulses):
            yield from self._pulses()
            return
        if self.style.last_calls:
            yield from self._last_calls()
        if self.dose.says:
            yield from self._phase_words()
        if isinstance(self.dose, Breaths) and self.style.say_breaths:
            yield from self._say_breaths()
        if self.on_side and self.this.item.words.each:
            yield from self._say_sides(self.this.item.words.each)
        if self.style.count_reps is RepCount.INSIDE:
            yield from self._count_inside(self.dose)
        elif self.style.count_reps is not RepCount.NONE:
            yield from self._count()

    # ---- which, and with which facts --------------------------------------------------------------

    def _told(self, nth: int, phase: str) -> bool:
        """Whether the words of a phase are said in the nth rep."""
        says = self.dose.told_in(phase) is not None
        return says and (nth <= self.dose.say_first or nth == self.total)

    def _facts(self, nth: int) -> Facts:
        if self.on_side is None:
            return self.facts
        return self.on_side(self.this.lead if nth % 2 else self.this.lead.other)

    def _called(self, nth: int) -> bool:
        """Whether the nth is one of the last, which are called."""
        return nth > self.total - self.style.last_calls

    # ---- each in turn --------------------------------------------------------------------------------

    def _last_calls(self) -> Iterator[Placed]:
        begins = {beat.count: beat.start_ms for beat in reversed(self.beats)}
        for n in range(1, self.style.last_calls + 1):
            text = self.lines.last(n)
            begin = begins.get(self.total - n + 1)
            if begin is None:
                yield Unsaid(self.room.of(CueKind.LAST, n), text, "countdown-longer")
                continue
            placed = self.room.at(CueKind.LAST, n, self.room.start + begin, text, Anchor.END)
            if isinstance(placed, Cue):
                self.room.counting_from = min(self.room.counting_from, placed.start_ms)
            yield placed

    def _phase_words(self) -> Iterator[Placed]:
        for beat in self.beats:
            if self._told(beat.count, beat.phase):
                yield self._phase(beat)

    def _phase(self, beat: Beat) -> Placed:
        told = self.dose.told_in(beat.phase)
        text = fill(told.said if told else "", self._facts(beat.count))
        index = (beat.count - 1) * len(self.phases) + self.phases.index(beat.phase)
        lasting = self.room.lasting(text)
        return self.room.within(CueKind.PHASE_WORDS, index, beat.start_ms, beat.end_ms, text, lasting, 0)

    def _pulses(self) -> Iterator[Placed]:
        """The name of every phase; where its words are said, the name is only shown."""
        for index, beat in enumerate(self.beats):
            mode = Mode.SPOKEN
            if self._told(beat.count, beat.phase):
                words = self._phase(beat)
                yield words
                mode = Mode.SILENT if isinstance(words, Cue) else mode
            if mode is Mode.SILENT:
                yield self.room.beat(CueKind.PULSE_PHASE, index, beat.start_ms, beat.end_ms, beat.phase)
                continue
            lasting = self.room.lasting(beat.phase)
            yield self.room.within(CueKind.PULSE_PHASE, index, beat.start_ms, beat.end_ms, beat.phase, lasting, 0)

    def _say_breaths(self) -> Iterator[Placed]:
        for beat in self.beats:
            text = _BREATHS.get(beat.phase, "")
            if beat.count > self.style.say_breaths or not text or self.dose.told_in(beat.phase):
                continue
            index = 2 * (beat.count - 1) + (beat.phase == "out")
            if self.room.lasting(text) > beat.end_ms - beat.start_ms:
                yield Unsaid(self.room.of(CueKind.SAY_BREATH, index), text, "phase-shorter")
            else:
                yield self.room.at(CueKind.SAY_BREATH, index, self.room.start + beat.start_ms, text, Anchor.START)

    def _say_sides(self, words: str) -> Iterator[Placed]:
        """The words of each change of sides, as its rep or breath begins, or after what is said there already."""
        cycle = self.dose.cycle_ms
        for n, beat in enumerate([one for one in self.beats if one.phase == self.phases[0]]):
            text = fill(words, self._facts(beat.count))
            start, lasting = beat.start_ms, self.room.lasting(text)
            yield self.room.within(CueKind.EACH, n, start, start + cycle, text, lasting, CUE_GAP_MS)

    def _count(self) -> Iterator[Placed]:
        """The number of each rep, or how many are left: of both sides together where each side is counted."""
        pairs = self.on_side is not None and self.this.item.count_is is CountIs.PER_SIDE
        most, cycle = (self.total // 2 if pairs else self.total), self.dose.cycle_ms
        for nth in range(1, self.total + 1, 2 if pairs else 1):
            if self._called(nth) or self._told(nth, self.phases[0]):
                continue
            number = (nth + 1) // 2 if pairs else nth
            if self.style.count_reps is RepCount.DOWN:
                number = most - number + 1
            text, start = number_words(number).capitalize(), (nth - 1) * cycle
            yield self.room.within(CueKind.COUNTED, nth, start, start + cycle, text, self._in_rhythm(text), 0)

    def _count_inside(self, dose: Reps | Breaths) -> Iterator[Placed]:
        slots, cycle = slots_of(dose), dose.cycle_ms
        for nth in range(1, self.total + 1):
            for place, slot in enumerate(slots):
                if self._told(nth, slot.phase) or (place == 0 and self._called(nth)):
                    continue
                start, index = (nth - 1) * cycle + slot.start_ms, (nth - 1) * len(slots) + place
                until, lasting = start + slot.end_ms - slot.start_ms, self._in_rhythm(slot.text)
                yield self.room.within(CueKind.COUNTED, index, start, until, slot.text, lasting, 0)

    def _in_rhythm(self, text: str) -> int:
        return in_rhythm_ms(text, self.room.speech)


def slots_of(dose: Reps | Breaths) -> list[Slot]:
    """Where the counts inside a rep or a breath are.

    A rep that has counts of its own has them spread over it: one, two, three, four. Any other is counted by the
    second, phase by phase, and a breath begins with its name: in, two, three, four, out, two, three.
    """
    found, at, phases = list[Slot](), 0, dose.named_phases
    if isinstance(dose, Reps) and dose.counts:
        cycle = dose.cycle_ms
        for k in range(dose.counts):
            start, end = k * cycle // dose.counts, (k + 1) * cycle // dose.counts
            found.append(Slot(start, end, _phase_at(dose, start), number_words(k + 1).capitalize()))
        return found
    for name, ms in phases:
        for k in range(min(_MOST_COUNTS, ms // 1000)):
            opening = isinstance(dose, Breaths) and k == 0
            text = _COUNTED_BREATHS[name] if opening else number_words(k + 1).capitalize()
            found.append(Slot(at + k * 1000, at + (k + 1) * 1000, name, text))
        at += ms
    return found


def _phase_at(dose: Reps, ms: int) -> str:
    at = 0
    for name, lasting in dose.named_phases:
        at += lasting
        if ms < at:
            return name
    return dose.named_phases[-1][0]
