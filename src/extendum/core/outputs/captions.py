"""Captions and chapters of a class: what is said as lines that can be read, and where each item begins.

Limits of reading: at most two lines of 42 characters, about 17 characters a second, each shown for 1 s to 7 s. Where
speech is faster than that, a caption stays on into the quiet after it; where there is none, it is told.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.timeline import Cue, Mode, Timeline
from extendum.core.outputs.breaking import broken
from extendum.core.outputs.cue_sheet import Entry, counted

SHORTEST_MS, LONGEST_MS = 1000, 7000
#: Seconds of a chapter, at least, and what lies before the first move of a recording.
CHAPTER_LEAST_S, BEFORE = 10, "Before the class"
#: Characters a second for comfortable reading.
COMFORTABLE = 17


@dataclass(frozen=True, slots=True)
class Caption:
    """Lines to be read, from when to when, in milliseconds of the class."""

    start_ms: int
    end_ms: int
    lines: tuple[str, ...]

    @property
    def characters(self) -> int:
        """What has to be read."""
        return sum(map(len, self.lines))

    @property
    def per_second(self) -> float:
        """Characters a second."""
        return self.characters * 1000 / (self.end_ms - self.start_ms)

    @property
    def readable(self) -> bool:
        """Whether it stays within the limits of reading."""
        lasts = self.end_ms - self.start_ms
        return SHORTEST_MS <= lasts <= LONGEST_MS and self.per_second <= COMFORTABLE + 0.05


@dataclass(frozen=True, slots=True)
class Chapter:
    """An item, or a round of it, in whole seconds of the class."""

    start_s: int
    end_s: int
    title: str


def captions(timeline: Timeline) -> list[Caption]:
    """What is spoken, cut to two lines and stretched into the quiet; nothing is left out and none overlap."""
    spoken = sorted(
        (cue for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.text.strip()), key=lambda cue: cue.start_ms
    )
    blocks = _joined([block for cue in counted(spoken) for block in _blocks(cue)])
    last = max((block.end_ms for block in blocks), default=0)
    ends = [*(block.start_ms for block in blocks[1:]), max(timeline.length_s * 1000, last)][: len(blocks)]
    return [_stretched(block, end) for block, end in zip(blocks, ends, strict=True)]


def _blocks(cue: Cue) -> Iterator[Caption]:
    """A cue in captions, with its time in proportion to their length."""
    parts = broken(cue.text)
    sizes = [sum(len(line) + 1 for line in lines) for lines in parts]
    at, said = cue.start_ms, 0
    for lines, size in zip(parts, sizes, strict=True):
        said += size
        end = cue.start_ms + max(len(parts), cue.end_ms - cue.start_ms) * said // sum(sizes)
        yield Caption(at, max(end, at + 1), lines)
        at = max(end, at + 1)


def _joined(blocks: Sequence[Caption]) -> list[Caption]:
    """Pieces that would be on for less than a second join the next one where both fit together."""
    found: list[Caption] = []
    for block in blocks:
        last = found[-1] if found else None
        if last and block.start_ms - last.start_ms < SHORTEST_MS:
            together = broken(" ".join((*last.lines, *block.lines)))
            if len(together) == 1 and block.end_ms - last.start_ms <= LONGEST_MS:
                found[-1] = Caption(last.start_ms, block.end_ms, together[0])
                continue
        found.append(block)
    return found


def _stretched(block: Caption, next_ms: int) -> Caption:
    """A caption on for as long as it takes to read, as far as there is quiet after it."""
    wanted = max(SHORTEST_MS, -(-block.characters * 1000 // COMFORTABLE))
    end = min(max(block.end_ms, block.start_ms + wanted), block.start_ms + LONGEST_MS)
    return replace(block, end_ms=max(block.start_ms + 1, min(end, next_ms)))


def hasty(some: Sequence[Caption]) -> list[Caption]:
    """The captions that are faster than can be read comfortably, or on for less than a second."""
    return [one for one in some if not one.readable]


def chapters(entries: Sequence[Entry]) -> list[Chapter]:
    """Where each visit of an item begins; they tile everything from 0:00 on, and none is shorter than ten seconds.

    A shorter one belongs to the one before it, the first of all to the one after it. What lies before the first visit,
    as in a recording, is a chapter of its own.
    """
    found: list[Chapter] = []
    if entries and entries[0].start_s >= CHAPTER_LEAST_S:
        found.append(Chapter(0, entries[0].start_s, BEFORE))
    for entry in entries:
        last = found[-1] if found else None
        if last and entry.end_s - entry.start_s < CHAPTER_LEAST_S:
            found[-1] = replace(last, end_s=entry.end_s)
        elif last and last.end_s - last.start_s < CHAPTER_LEAST_S:
            found[-1] = Chapter(last.start_s, entry.end_s, entry.title)
        else:
            found.append(Chapter(entry.start_s if found else 0, entry.end_s, entry.title))
    return found
