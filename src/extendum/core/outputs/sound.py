"""What is heard of a class, exactly as long as its timeline: tones, breath, and a voice where there is one.

A speaker is anything that turns words and a rate into samples. What it says never overlaps and is never cut: where it
takes longer than there is room, it speaks faster, and that is told.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache, partial

import numpy as np

from extendum.core.model.timeline import CueKind, Mode, SegmentKind, Timeline
from extendum.core.sound.speech import RATE, Samples

#: Samples of one block.
BLOCK = RATE * 5
#: A voice that has to speak so much faster than the class is planned is told.
FASTER_PERCENT = 125
#: What a voice can do at most.
FASTEST_RATE = 420

Speaker = Callable[[str, int], Samples]

#: Hertz, seconds and loudness of each tone, beside speech at -20 LUFS.
_TONES = {
    "start": (523.0, 0.35, 0.17),
    "halfway": (587.0, 0.3, 0.12),
    "count": (659.0, 0.1, 0.14),
    "release": (784.0, 0.6, 0.17),
    "said": (440.0, 0.12, 0.08),
}
_BREATH = {"in": (0.1, True), "out": (0.07, False)}


@dataclass(frozen=True, slots=True)
class Hurried:
    """Words that the voice has to say faster than planned: when, which, and at how many percent of the rate."""

    at_ms: int
    text: str
    percent: int


@dataclass(frozen=True, slots=True)
class Sound:
    """Something to be heard: from which sample on, its samples, and whether somebody speaks."""

    at: int
    samples: Samples
    speech: bool = False


#: When something sounds, in milliseconds of the class, what makes it, and whether that is speech.
_Coming = tuple[int, Callable[[], Samples], bool]


def sounds(timeline: Timeline, rate: int, voice: Speaker | None, hurried: list[Hurried]) -> Iterator[Sound]:
    """Everything that is heard, in order of its beginning; what the voice hurries is added to ``hurried``."""
    for at_ms, make, speech in _coming(timeline, rate, voice, hurried):
        yield Sound(at_ms * RATE // 1000, make(), speech)


def excerpt(timeline: Timeline, rate: int, voice: Speaker | None, from_ms: int, to_ms: int) -> Samples:
    """What begins to sound from one moment to another, each to its end: excerpts are added where they meet."""
    found = [one for one in _coming(timeline, rate, voice, []) if from_ms <= one[0] < to_ms]
    heard = [((at_ms - from_ms) * RATE // 1000, make()) for at_ms, make, _ in found]
    mix = np.zeros(max([(to_ms - from_ms) * RATE // 1000, *(at + len(one) for at, one in heard)]), np.float32)
    for at, one in heard:
        mix[at : at + len(one)] += one
    return np.clip(mix, -1, 1)


def _coming(timeline: Timeline, rate: int, voice: Speaker | None, hurried: list[Hurried]) -> list[_Coming]:
    every = [*_words(timeline, rate, voice, hurried), *_signals(timeline), *_turns(timeline)]
    return sorted(every, key=lambda one: one[0])


def _words(timeline: Timeline, rate: int, voice: Speaker | None, hurried: list[Hurried]) -> Iterator[_Coming]:
    """What is spoken, each until the next; without a voice a tone for each."""
    spoken = sorted(
        (cue for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.text.strip()), key=lambda cue: cue.start_ms
    )
    ends = [*(cue.start_ms for cue in spoken[1:]), timeline.length_s * 1000]
    for cue, end in zip(spoken, ends, strict=False):
        if voice is None:
            yield cue.start_ms, partial(tone, "count" if cue.kind is CueKind.COUNT else "said"), False
        else:
            yield cue.start_ms, partial(_said, voice, cue.text, rate, cue.start_ms, end - cue.start_ms, hurried), True


def _signals(timeline: Timeline) -> Iterator[_Coming]:
    """The breath as it flows, halfway, and counts that are sounded."""
    for cue in timeline.cues:
        sounded = cue.mode is Mode.TONE
        if sounded and cue.kind is CueKind.BREATH_PHASE and cue.text in _BREATH:
            yield cue.start_ms, partial(breath, cue.text, cue.end_ms - cue.start_ms), False
        elif cue.kind is CueKind.HALFWAY:
            yield cue.start_ms, partial(tone, "halfway"), False
        elif sounded and cue.kind is CueKind.COUNT:
            yield cue.start_ms, partial(tone, "count"), False


def _turns(timeline: Timeline) -> Iterator[_Coming]:
    """Where work begins, and where it is over."""
    before = False
    for segment in timeline.segments:
        if segment.kind.works and segment.kind is not SegmentKind.BREATHS:
            yield segment.start_s * 1000, partial(tone, "start"), False
        elif before:
            yield segment.start_s * 1000, partial(tone, "release"), False
        before = segment.kind.works


def render(
    timeline: Timeline,
    rate: int,
    voice: Speaker | None,
    hurried: list[Hurried],
    spoken: list[tuple[int, int]] | None = None,
) -> Iterator[Samples]:
    """The whole class in blocks of five seconds, one channel, together exactly as long as the timeline.

    ``rate``: words a minute; from which sample to which somebody speaks is added to ``spoken``.
    """
    whole = timeline.length_s * RATE
    waiting: list[Sound] = []
    coming = sounds(timeline, rate, voice, hurried)
    nextone = next(coming, None)
    for start in range(0, whole, BLOCK):
        length = min(BLOCK, whole - start)
        while nextone is not None and nextone.at < start + length:
            waiting.append(nextone)
            if nextone.speech and spoken is not None:
                spoken.append((nextone.at, nextone.at + len(nextone.samples)))
            nextone = next(coming, None)
        block = np.zeros(length, np.float32)
        for one in waiting:
            low, high = max(start, one.at), min(start + length, one.at + len(one.samples))
            if high > low:
                block[low - start : high - start] += one.samples[low - one.at : high - one.at]
        waiting = [one for one in waiting if one.at + len(one.samples) > start + length]
        yield np.clip(block, -1, 1)


def _said(voice: Speaker, text: str, rate: int, at_ms: int, room_ms: int, hurried: list[Hurried]) -> Samples:
    """Words in the room that they have: as planned, or as much faster as it takes."""
    room = room_ms * RATE // 1000
    said, speed = voice(text, rate), rate
    while len(said) > room and speed < FASTEST_RATE:
        speed = min(FASTEST_RATE, max(speed + 5, speed * len(said) // max(1, room)))
        said = voice(text, speed)
    if len(said) > room:
        said = _squeezed(said, room)
        speed = speed * FASTER_PERCENT // 100
    if speed * 100 > rate * FASTER_PERCENT:
        hurried.append(Hurried(at_ms, text, speed * 100 // rate))
    return said


def _squeezed(said: Samples, room: int) -> Samples:
    """Words that no voice says fast enough, played faster: nothing of them is cut."""
    at = np.linspace(0, len(said) - 1, max(1, room))
    return np.interp(at, np.arange(len(said)), said).astype(np.float32)


@cache
def tone(kind: str) -> Samples:
    """A short tone that swells and fades, with one overtone."""
    pitch, seconds, loud = _TONES[kind]
    at = np.arange(int(seconds * RATE)) / RATE
    shape = np.minimum(at / 0.012, 1) * np.exp(-at * 3.5 / seconds)
    wave = np.sin(2 * np.pi * pitch * at) + 0.3 * np.sin(4 * np.pi * pitch * at)
    return (loud * shape * wave / 1.3).astype(np.float32)


def breath(phase: str, ms: int) -> Samples:
    """The sound of a breath: noise that swells on the way in and fades on the way out; the same every time."""
    loud, rising = _BREATH[phase]
    length = max(1, ms * RATE // 1000)
    noise = np.random.default_rng(length + rising).standard_normal(length)
    smooth = 9 if rising else 15
    soft = np.convolve(noise, np.ones(smooth) / smooth, mode="same")
    at = np.linspace(0, 1, length)
    shape = np.sin(np.pi * at**0.8) if rising else np.sin(np.pi * at**0.6) * (1 - at)
    return (loud * shape * soft).astype(np.float32)
