"""The words of a recording with their times: how fast somebody speaks, and where between the stamps the silence is.

Stamps stand every few seconds at the best. What a paragraph needs at the speaker's own rate is talk, the rest of it is
silence.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from extendum.core.heard.silence import JOINTS, Floats, Piece, Silences, punctuated, stages_of
from extendum.core.listening.words import stem

#: The rate of a speaker: words a second that so many percent of the paragraphs stay under.
RATE_PERCENT = 88
#: No speaker is slower or faster than this, whatever the stamps say.
SLOWEST, FASTEST = 1.6, 4.2


class Line(Protocol):
    """Something said from a time on."""

    @property
    def start(self) -> float:
        """Seconds from the start of the recording."""

    @property
    def text(self) -> str:
        """The words."""


@dataclass(frozen=True, slots=True)
class Word:
    """One word: as it is written in small letters, its stem, when it is said and until when, its line.

    ``shown``: as it was written; ``ends``: 2 where a sentence ends after it, 1 at a comma, 0 within.
    """

    text: str
    stem: str
    at: float
    until: float
    line: int
    ends: int
    shown: str


@dataclass(frozen=True, slots=True)
class Running:
    """Words as one text, a point after each sentence, and where in it each of them begins."""

    text: str
    begins: tuple[int, ...]

    def word(self, place: int) -> int:
        """The word that stands at a place of the text."""
        return max(0, bisect_right(self.begins, place) - 1)


def running(words: Sequence[Word]) -> Running:
    """The words as one text."""
    text, begins = [], []
    length = 0
    for word in words:
        begins.append(length)
        told = word.text + (" . " if word.ends == 2 else " ")
        text.append(told)
        length += len(told)
    return Running("".join(text), tuple(begins))


def said(
    lines: Sequence[Line], silences: Silences, works: Sequence[bool] | None = None, drawn: Floats | None = None
) -> tuple[Word, ...]:
    """Every word of timed lines, in order; ``works``: which of them are said in work, None where that is not known.

    ``drawn``: how much more silence lies after each word than is usual, in logarithms.
    """
    told = [pieces_of(line.text) for line in lines]
    stages = stages_of(works, sum(map(len, told)))
    ends = [line.start for line in lines[1:]]
    rate = _rate(lines, told)
    ends.append(lines[-1].start + max(1.0, len(told[-1]) / rate) if lines else 0.0)
    marked = punctuated(told)
    found: list[Word] = []
    for n, (line, pieces, end) in enumerate(zip(lines, told, ends, strict=True)):
        if not pieces:
            continue
        spoken_to = getattr(line, "end", None)
        end = max(end, line.start + 0.2)
        until = min(end, spoken_to) if spoken_to and spoken_to > line.start else end
        here = slice(len(found), len(found) + len(pieces))
        more = 0.0 if drawn is None else drawn[here]
        found += _timed(n, pieces, line.start, until, rate, silences.shares(pieces, stages[here], marked, more))
    return tuple(found)


def pieces_of(text: str) -> list[Piece]:
    """The words of a line as they are written small, what ends after each, and as they were written."""
    found: list[Piece] = []
    for part in text.split():
        plain = re.sub(r"[^a-z0-9']", "", part.casefold().replace("’", "'")).strip("'")
        ends = 2 if re.search(r"[.!?…]['\"”)]*$", part) else 1 if re.search(r"[,;:–—]$", part) else 0
        if plain:
            found.append((plain, ends, part))
        elif found and ends > found[-1][1]:
            found[-1] = (found[-1][0], ends, f"{found[-1][2]}{part}")
    return found


def _rate(lines: Sequence[Line], told: Sequence[Sequence[object]]) -> float:
    """Words a second while somebody speaks."""
    rates = [
        len(words) / (after.start - line.start)
        for line, after, words in zip(lines, lines[1:], told, strict=False)
        if after.start - line.start > 2 and len(words) > 3
    ]
    spoken = [
        len(words) / (line.end - line.start)  # type: ignore[attr-defined]
        for line, words in zip(lines, told, strict=True)
        if getattr(line, "end", None) and line.end - line.start > 1  # type: ignore[attr-defined]
    ]
    found = float(np.percentile(rates, RATE_PERCENT)) if rates else 2.6
    if spoken:
        found = max(found, float(np.median(spoken)))
    return min(FASTEST, max(SLOWEST, found))


def _timed(n: int, pieces: Sequence[Piece], start: float, end: float, rate: float, shares: Floats) -> list[Word]:
    """The words of one line, with shares of its silence after each of them."""
    length = np.array([0.35 + 0.13 * len(word) for word, *_ in pieces])  # long words take longer
    length *= len(pieces) / rate / length.sum()
    spare = end - start - float(length.sum())
    if spare <= 0:
        length *= (end - start) / length.sum()
    begins = start + np.concatenate(([0.0], np.cumsum(length + shares * max(0.0, spare))[:-1]))
    return [
        Word(word, stem(word), float(at), float(at + lasts), n, ends, shown)
        for (word, ends, shown), at, lasts in zip(pieces, begins, length, strict=True)
    ]


def speaking_rate(words: Sequence[Word]) -> float:
    """Words a minute while somebody speaks."""
    spoken = sum(word.until - word.at for word in words)
    return 60 * len(words) / spoken if spoken else 0.0


#: A sentence that is not punctuated is parted at joints once it has so many words; none is longer than this.
_PIECE, _LONGEST = 7, 40


def sentences(words: Sequence[Word]) -> list[tuple[int, int]]:
    """The sentences, from which word to before which; what is not punctuated in pieces that begin at joints."""
    found, first = [], 0
    for n, word in enumerate(words):
        following = words[n + 1].text if n + 1 < len(words) else ""
        piece = n + 1 - first >= _PIECE and following in JOINTS and not _punctuated(words, first)
        if word.ends == 2 or piece or n + 1 - first >= _LONGEST or n + 1 == len(words):
            found.append((first, n + 1))
            first = n + 1
    return found


def _punctuated(words: Sequence[Word], first: int) -> bool:
    """Whether a sentence ends within the next words."""
    return any(word.ends for word in words[first : first + _LONGEST])
