"""Cues: what is said and sounded, when, and what finds no place.

Precedence: countdown, release, next move, halfway, caution, easier option, then prompts by priority,
spread out, with a least gap and a cap on talk. What finds no place is listed with a rule of RULES.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from extendum.core.dose import Breaths, Hold
from extendum.core.passes import Facts, Part, Pass, pass_facts
from extendum.core.script import CueStyle, Talk
from extendum.core.speech import number_words, sentences, speaking_ms
from extendum.core.timeline import Anchor, Cue, CueKind, Mode, Segment, SegmentKind, Unsaid
from extendum.core.words import PromptKind, fill

HALFWAY_LEAST_S = 20
#: Silence kept on either side of a prompt, and between other cues.
PROMPT_GAP_MS, CUE_GAP_MS = 1500, 500
#: Why a cue is left out: the closed list of docs/format.md.
RULES = {
    "short-hold": f"halfway is not called in holds under {HALFWAY_LEAST_S} s",
    "countdown-longer": "the hold is shorter than its countdown",
    "no-room": "no gap is left between the cues that come first",
    "talk-cap": "the hold would have less quiet than the cueing style asks for",
    "talk-overrun": "the words last longer than the time for talking",
}
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
_FIRST_PASS_ONLY = (PromptKind.CAUTION, PromptKind.EASIER)
_SEGMENT_CUE = {
    SegmentKind.TRANSITION: CueKind.MOVING,
    SegmentKind.SWITCH: CueKind.SWITCH,
    SegmentKind.SETUP: CueKind.THERE,
    SegmentKind.RELEASE: CueKind.RELEASE,
}

Placed = Cue | Unsaid


def cue_id(item: str, stage: int, number: int, round_: int, kind: CueKind, index: int) -> str:
    """The id of a request: item, stage, pass, round, kind and index."""
    return f"{item}.{stage}.{number}.{round_}.{kind}.{index}"


def talk_cues(talk: Talk, segment: Segment | None, style: CueStyle, facts: Facts) -> Iterator[Placed]:
    """The sentences of a talk one after the other, as many as its time holds."""
    at, end = (segment.start_s * 1000, segment.end_s * 1000) if segment else (0, 0)
    for index, sentence in enumerate(sentences(fill(talk.words, facts))):
        name = cue_id(talk.id, 1, 1, 1, CueKind.TALK, index)
        until = at + speaking_ms(sentence, style.words_per_minute)
        if segment is None or until > end:
            yield Unsaid(name, CueKind.TALK, sentence, "talk-overrun")
            at = end + 1  # nothing after a sentence that was left out: it would make no sense
        else:
            yield _cue(name, CueKind.TALK, segment, at, until, sentence)
            at = until


def pass_cues(
    this: Pass, timed: Sequence[tuple[Segment, Part]], style: CueStyle, facts: Facts, *, calls_next: bool
) -> Iterator[Placed]:
    """All cues of one pass, given its segments with the parts they came from."""
    for segment, part in timed:
        kind = _SEGMENT_CUE.get(segment.kind)
        if kind and part.words:
            start = segment.start_s * 1000
            name = cue_id(this.item.id, 1, this.number, this.round, kind, 0)
            until = start + speaking_ms(part.words, style.words_per_minute)
            yield _cue(name, kind, segment, start, until, part.words)
        elif segment.kind.works:
            yield from _Work(this, segment, style, pass_facts(this, facts)).cues(calls_next)


class _Work:
    """Places the cues of one working segment in order of precedence."""

    def __init__(self, this: Pass, segment: Segment, style: CueStyle, facts: Facts) -> None:
        self.this, self.segment, self.style, self.facts = this, segment, style, facts
        self.start, self.end = segment.start_s * 1000, segment.end_s * 1000
        self.busy: list[tuple[int, int]] = []
        self.counting_from = self.end

    def cues(self, calls_next: bool) -> Iterator[Placed]:
        if isinstance(self.this.item.dose, Hold):
            yield from self._countdown()
        if calls_next:
            yield self._next()
        if isinstance(self.this.item.dose, Hold) and self.style.halfway:
            yield self._halfway()
        if self.style.prompts:
            yield from self._prompts()
        yield from self._beats()

    def _id(self, kind: CueKind, index: int = 0) -> str:
        return cue_id(self.this.item.id, 1, self.this.number, self.this.round, kind, index)

    def _take(self, kind: CueKind, index: int, start: int, end: int, text: str, anchor: Anchor) -> Cue:
        self.busy.append((start, end))
        self.busy.sort()
        return _cue(self._id(kind, index), kind, self.segment, start, end, text, anchor)

    def _free(self, start: int, end: int, gap: int) -> bool:
        if start < self.start or end > self.end:
            return False
        return all(end + gap <= a or b + gap <= start for a, b in self.busy)

    def _countdown(self) -> Iterator[Placed]:
        for n in range(self.style.countdown.first, 0, -1):
            start = self.end - n * 1000
            if start < self.start:
                yield Unsaid(self._id(CueKind.COUNT, n), CueKind.COUNT, number_words(n), "countdown-longer")
                continue
            self.counting_from = min(self.counting_from, start)
            yield self._take(CueKind.COUNT, n, start, start + 1000, str(n), Anchor.END)

    def _next(self) -> Placed:
        text = f"Next, {self.facts['next']}."
        end = self.counting_from - CUE_GAP_MS
        start = end - speaking_ms(text, self.style.words_per_minute)
        if not self._free(start, end, CUE_GAP_MS):
            return Unsaid(self._id(CueKind.NEXT), CueKind.NEXT, text, "no-room")
        return self._take(CueKind.NEXT, 0, start, end, text, Anchor.END)

    def _halfway(self) -> Placed:
        text = "Halfway."
        start = (self.start + self.end) // 2
        end = start + speaking_ms(text, self.style.words_per_minute)
        rule = "short-hold" if self.segment.seconds < HALFWAY_LEAST_S else "no-room"
        if rule == "short-hold" or not self._free(start, end, CUE_GAP_MS):
            return Unsaid(self._id(CueKind.HALFWAY), CueKind.HALFWAY, text, rule)
        return self._take(CueKind.HALFWAY, 0, start, end, text, Anchor.MIDDLE)

    def _prompts(self) -> Iterator[Placed]:
        asked = [
            (index, prompt)
            for index, prompt in enumerate(self.this.item.words.prompts)
            if self.this.number == 1 or prompt.kind not in _FIRST_PASS_ONLY
        ]
        order = list(PromptKind)
        asked.sort(key=lambda one: (min(order.index(one[1].kind), 2), one[1].priority, one[0]))
        for index, prompt in asked:
            kind = CueKind(prompt.kind.value)
            text = fill(prompt.text, self.facts)
            lasting = speaking_ms(text, self.style.words_per_minute)
            if not self._leaves_quiet(lasting):
                yield Unsaid(self._id(kind, index), kind, text, "talk-cap")
                continue
            start = self._best_start(prompt.kind, lasting)
            if start is None:
                yield Unsaid(self._id(kind, index), kind, text, "no-room")
            else:
                yield self._take(kind, index, start, start + lasting, text, Anchor.START)

    def _leaves_quiet(self, more_ms: int) -> bool:
        spoken = sum(b - a for a, b in self.busy) + more_ms
        return spoken * 100 <= (self.end - self.start) * (100 - self.style.quiet_percent)

    def _best_start(self, kind: PromptKind, lasting: int) -> int | None:
        """Early and the easier option as soon as may be; others in the middle of the widest gap."""
        first, last = (self.start + (self.end - self.start) * p // 100 for p in _WINDOW[kind])
        edges = [(self.start, self.start), *self.busy, (self.end, self.end)]
        best: tuple[int, int] | None = None
        for (_, free_from), (free_to, _) in pairwise(edges):
            low = max(free_from + PROMPT_GAP_MS, first)
            high = min(free_to - PROMPT_GAP_MS - lasting, last)
            if low > high:
                continue
            if kind in _FIRST_PASS_ONLY:
                return low
            start = min(max((free_from + free_to - lasting) // 2, low), high)
            room = min(start - free_from, free_to - start - lasting)
            if best is None or room > best[0]:
                best = (room, start)
        return best[1] if best else None

    def _beats(self) -> Iterator[Cue]:
        dose = self.this.item.dose
        kind = CueKind.BREATH_PHASE if isinstance(dose, Breaths) else CueKind.REP_PHASE
        mode = Mode.TONE if isinstance(dose, Breaths) else Mode.SILENT
        for index, beat in enumerate(dose.beats(dose.quantity.value)):
            start, end = self.start + beat.start_ms, self.start + beat.end_ms
            text = beat.phase if kind is CueKind.BREATH_PHASE else f"{beat.phase} {beat.count}"
            yield _cue(self._id(kind, index), kind, self.segment, start, end, text, mode=mode)


def _cue(
    name: str,
    kind: CueKind,
    segment: Segment,
    start: int,
    end: int,
    text: str,
    anchor: Anchor = Anchor.START,
    mode: Mode = Mode.SPOKEN,
) -> Cue:
    first, last = segment.start_s * 1000, segment.end_s * 1000
    origin = {Anchor.START: first, Anchor.MIDDLE: (first + last) // 2, Anchor.END: last}[anchor]
    return Cue(name, kind, mode, segment.id, anchor, start - origin, start, end, text)
