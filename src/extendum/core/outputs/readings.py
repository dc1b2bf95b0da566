"""What is to be read for a class, text by text, and what its voice has read already.

Every text is listed once, as it is heard: with placeholders filled, each side apart, with the calls and the count.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from extendum.core.model.script import Script
from extendum.core.model.timeline import Cue, CueKind, Mode, Timeline
from extendum.core.model.voice import Length, Voice, spoken_key
from extendum.core.timing.speech import sentences, word_count

#: A rate is fitted from so many texts with so many words in all.
TEXTS_LEAST, WORDS_LEAST = 6, 30


@dataclass(frozen=True, slots=True)
class ToRead:
    """A text of a class: where it is said first, how often, the least room that it has, and how long it was read.

    ``room_ms``: until the next words, or the end of the part that it is said in; None where it is nowhere said for want
    of room. ``read_ms``: None until it is read.
    """

    key: str
    text: str
    item: str
    kind: CueKind
    times: int
    room_ms: int | None
    read_ms: int | None

    @property
    def fits(self) -> bool:
        """Whether what was read fits into every place where it is said."""
        return self.read_ms is None or self.room_ms is None or self.read_ms <= self.room_ms


def to_read(script: Script, timeline: Timeline) -> tuple[ToRead, ...]:
    """Every text of a class, in the order in which each is said first; what is nowhere said comes last."""
    voice = script.style.voice
    lengths: Mapping[str, int] = voice.lengths if voice else {}
    found: dict[str, ToRead] = {}
    for cue, room_ms in _with_room(timeline):
        key = spoken_key(cue.text)
        if not key:
            continue
        known = found.get(key)
        if known is None:
            found[key] = ToRead(key, cue.text, cue.of.item, cue.kind, 1, room_ms, lengths.get(key))
        else:
            found[key] = replace(known, times=known.times + 1, room_ms=min(known.room_ms or room_ms, room_ms))
    for one in timeline.unsaid:
        key = spoken_key(one.text)
        if key and key not in found:
            found[key] = ToRead(key, one.text, one.of.item, one.of.kind, 0, None, lengths.get(key))
    return tuple(found.values())


def _with_room(timeline: Timeline) -> Iterable[tuple[Cue, int]]:
    """Each spoken cue with the milliseconds until the next one, or until its part ends, whichever comes first."""
    ends = {segment.id: segment.end_s * 1000 for segment in timeline.segments}
    spoken = sorted((cue for cue in timeline.cues if cue.mode is Mode.SPOKEN), key=lambda cue: cue.start_ms)
    nexts = [after.start_ms for _, after in pairwise(spoken)] + [timeline.length_s * 1000]
    for cue, then in zip(spoken, nexts, strict=False):
        yield cue, min(then, ends[cue.segment]) - cue.start_ms


class Rate(NamedTuple):
    """How long a voice takes for a word and for the end of a sentence, and by how many percent that is off."""

    word_ms: int
    sentence_ms: int
    off_percent: float


def fitted_rate(readings: Iterable[Length]) -> Rate | None:
    """The rate of a voice, by least squares of the relative error; None while too little was read.

    The error is that of each text by the rate of all the others, in the middle.
    """
    rows = [(word_count(one.text), max(1, len(sentences(one.text))), one.ms) for one in readings]
    rows = [row for row in rows if row[0]]
    if len(rows) < TEXTS_LEAST or sum(words for words, _, _ in rows) < WORDS_LEAST:
        return None
    made = np.array(rows, dtype=float)
    sides = made[:, :2] / made[:, 2:]
    (word_ms, sentence_ms), off = _solved(sides)
    if sentence_ms < 0:  # a sentence adds nothing rather than less than nothing
        (word_ms,), off = _solved(sides[:, :1])
        sentence_ms = 0.0
    return Rate(max(1, round(word_ms)), round(sentence_ms), 100 * float(np.median(off)))


def _solved(sides: npt.NDArray[np.float64]) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """The rates for which every side is nearest to one, and by how much each is off by the rates of all the others."""
    inverse = np.linalg.pinv(sides)
    found = inverse.sum(axis=1)
    own = np.einsum("ij,ji->i", sides, inverse)
    return found, np.abs(1 - sides @ found) / np.maximum(1e-9, 1 - own)


def voice_of(name: str, readings: Iterable[Length]) -> Voice:
    """A voice with everything that it has read, and its rate where that is enough."""
    every = tuple(readings)
    rate = fitted_rate(every)
    return Voice(name, every, rate.word_ms if rate else 0, rate.sentence_ms if rate else 0)


def spoken_with(script: Script, voice: Voice | None, timeline: Timeline) -> Script:
    """The class in a voice: with the lengths of its own texts, and the rate for what is not read."""
    if voice is None:
        return replace(script, style=replace(script.style, voice=None))
    wanted = {one.key for one in to_read(script, timeline)}
    own = tuple(one for one in voice.readings if spoken_key(one.text) in wanted)
    return replace(script, style=replace(script.style, voice=replace(voice, readings=own)))
