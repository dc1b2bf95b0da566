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
#: What joins two words without a space between them; what ends a sentence, and a clause.
_JOINED = re.compile(r"((?<=[^\W_])(?:-+|[–—/…]+|\.{2,}|[,;:?!](?=[^\W\d_]))(?=[^\W_]))")
_STOPS, _PAUSES = re.compile(r"(?<!\.)[.!?]['\"”)]*$"), re.compile(r"(?:[,;:–—…]|\.{2,}|--)['\"”)]*$")
_DASH, _HYPHEN = re.compile(r"[-–—]+$"), re.compile(r"(?<=[^\W_])([-/]) (?=[^\W_])")
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


def said(lines: Sequence[Line], silences: Silences, works: Sequence[bool] | None = None) -> tuple[Word, ...]:
    """Every word of timed lines, in order; ``works``: which of them are said in work, None where that is not known."""
    return Timing(lines, silences, works).words()


class Timing:
    """Where the words of a recording can lie between its stamps; silence can be laid otherwise again and again."""

    def __init__(self, lines: Sequence[Line], silences: Silences, works: Sequence[bool] | None = None) -> None:
        told = [pieces_of(line.text) for line in lines]
        self.pieces = [piece for pieces in told for piece in pieces]
        stages, marked = stages_of(works, len(self.pieces)), punctuated(told)
        rate, first = _rate(lines, told), 0
        ends = [line.start for line in lines[1:]]
        ends.append(lines[-1].start + max(1.0, len(told[-1]) / rate) if lines else 0.0)
        self.lines: list[_Timed] = []
        for n, (line, pieces, end) in enumerate(zip(lines, told, ends, strict=True)):
            if pieces:
                here = slice(first, first + len(pieces))
                quiet = silences.quiet(pieces, stages[here], punctuated=marked)
                self.lines.append(_Timed(n, here, line.start, _until(line, end), _lengths(pieces, rate), quiet))
                first += len(pieces)

    def begins(self, drawn: Floats | float = 0.0) -> Floats:
        """When each word begins, in seconds; ``drawn``: how much more silence lies after each than is usual (logs)."""
        more = np.broadcast_to(drawn, (len(self.pieces),))
        return np.concatenate([one.begins(more[one.here]) for one in self.lines] or [np.zeros(0)])

    def words(self, drawn: Floats | float = 0.0) -> tuple[Word, ...]:
        """The words with their times."""
        begins, found = self.begins(drawn).tolist(), []
        for one in self.lines:
            for n, lasts in zip(range(one.here.start, one.here.stop), one.spoken().tolist(), strict=True):
                word, ends, shown = self.pieces[n]
                found.append(Word(word, stem(word), begins[n], begins[n] + lasts, one.line, ends, shown))
        return tuple(found)


@dataclass(frozen=True, slots=True)
class _Timed:
    """The words of one line: which of all they are, from when to when it lasts, how long each is spoken.

    ``quiet``: how much longer somebody is silent after one than after another, in logarithms.
    """

    line: int
    here: slice
    start: float
    end: float
    lengths: Floats
    quiet: Floats

    def spoken(self) -> Floats:
        """How long each word lasts: as long as usual, or less where there is no time for that."""
        whole: Floats = self.lengths * min(1.0, (self.end - self.start) / float(self.lengths.sum()))
        return whole

    def begins(self, drawn: Floats) -> Floats:
        spare = max(0.0, self.end - self.start - float(self.lengths.sum()))
        told = self.quiet + drawn
        shares = np.exp(told - told.max())
        lasts = self.spoken() + spare * shares / shares.sum()
        begins: Floats = self.start + np.concatenate(([0.0], np.cumsum(lasts)[:-1]))
        return begins


def _until(line: Line, end: float) -> float:
    """When a line is over: where the next one begins, or where its own end is, if it has one."""
    spoken_to = getattr(line, "end", None)
    end = max(end, line.start + 0.2)
    return min(end, spoken_to) if spoken_to and spoken_to > line.start else end


def _lengths(pieces: Sequence[Piece], rate: float) -> Floats:
    """How long each word of a line is spoken, at so many words a second; long words take longer."""
    length = np.array([0.35 + 0.13 * len(word) for word, *_ in pieces])
    told: Floats = length * len(pieces) / rate / length.sum()
    return told


def pieces_of(text: str) -> list[Piece]:
    """The words of a line as they are written small, what ends after each, and as they were written.

    Words that a dash, three points or a stroke joins are two; a hyphen parts two words of one sentence.
    """
    found: list[Piece] = []
    for part in (one for told in text.split() for one in _JOINED.sub(r"\1 ", told).split()):
        small = re.sub(r"[^a-z0-9']", "", part.casefold().replace("’", "'")).strip("'")
        ends = 2 if _STOPS.search(part) else 1 if _PAUSES.search(part) else 0
        if small:
            found.append((small, ends, part))
        elif found and ends > found[-1][1]:
            apart = " " if _DASH.match(part) else ""
            found[-1] = (found[-1][0], ends, f"{found[-1][2]}{apart}{part}")
    return found


def written(words: Sequence[Word]) -> str:
    """Words as they were written, in one line."""
    return _HYPHEN.sub(r"\1", " ".join(word.shown for word in words))


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
