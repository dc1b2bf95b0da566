"""Captions as a player shows them, turned into what was said when: those that roll repeat the row before."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from html import unescape
from itertools import pairwise

#: What a caption says of who speaks or what else is heard, which is not said.
_NOISE = re.compile(
    r"\[[^\[\]\d]{1,40}\]|[♪♫]+|"
    r"\((?:[a-z]+ )?(?:laugh\w*|music|applause|inaudible|unclear|pause|silence|coughs?|sighs?|crosstalk)(?: [a-z]+)?\)",
    re.I,
)
_TAG = re.compile(r"<[^<>]{0,200}>|\{\\[^{}]{0,100}\}")
_WORD_TIME = re.compile(r"<(?:(\d{1,2}):)?(\d{1,2}):(\d{2})\.(\d{3})>")
_SPEAKER = re.compile(r"^(?:>+ ?|[-–—] )?(?:([A-Z][\w.’']*(?: [A-Z\d][\w.’']*){0,2}):(?= ))?\s*")
_OPENS = re.compile(r"(?:^|(?<=[.!?] ))[a-z]|\bi\b")
#: A name before so many lines, and so many of them all, tells who speaks.
LABELS, LABEL_SHARE = 3, 0.3
#: Captions roll where at least so many of them begin with the end of the one before.
ROLLING = 0.5
#: Words with times of their own are parted where the next one comes so late; each lasts so long at the most.
PAUSE_S, WORD_S = 1.0, 0.4


@dataclass(frozen=True, slots=True)
class Spoken:
    """What was said, from when, in seconds; ``end`` is when it stopped, None where nothing says so."""

    start: float
    text: str
    end: float | None = None


#: A word, and when it is said, None where nothing says so.
Timed = tuple[str, float | None]


@dataclass(frozen=True, slots=True)
class Caption:
    """A caption: from when to when it is shown, and the words of its rows."""

    start: float
    end: float
    rows: tuple[tuple[Timed, ...], ...]


def caption(start: float, end: float, rows: Sequence[str]) -> Caption:
    """A caption as it is written, times within it and all."""
    told = (tuple(_words(row)) for row in rows)
    return Caption(start, end, tuple(row for row in told if row))


def _words(row: str) -> Iterator[Timed]:
    parts = _WORD_TIME.split(row)
    yield from ((word, None) for word in plain(parts[0]).split())
    for hours, minutes, seconds, rest, said in zip(*(iter(parts[1:]),) * 5, strict=True):
        at = 3600 * int(hours or 0) + 60 * int(minutes) + int(seconds) + int(rest) / 1000
        yield from ((word, at if n == 0 else None) for n, word in enumerate(plain(said).split()))


def plain(text: str) -> str:
    """Only what is said: no tags, no noises, signs as they are meant."""
    return " ".join(_NOISE.sub(" ", unescape(_TAG.sub("", text))).split())


def said_in(captions: Sequence[Caption]) -> list[Spoken]:
    """What is said in captions, each word once; where words have times of their own, in pieces between pauses."""
    again = [0, *(_carried(before, after) for before, after in pairwise(captions))][: len(captions)]
    rolls = sum(map(bool, again)) >= ROLLING * max(1, len(captions))
    found: list[Spoken] = []
    for one, carried in zip(captions, again, strict=True):
        words = [word for row in one.rows for word in row][carried if rolls else 0 :]
        found += _pieces(one, words, rolls=rolls)
    return found


def _carried(before: Caption, after: Caption) -> int:
    """How many words a caption begins with that the one before ends with: whole rows, or one row that grows."""
    was, now = ([[word.casefold() for word, _ in row] for row in one.rows] for one in (before, after))
    rows = [k for k in range(1, min(len(was), len(now)) + 1) if was[-k:] == now[:k]]
    if rows:
        k = max([k for k in rows if k < len(now)] or rows)
        return sum(map(len, now[:k]))
    grows = was and len(was) == len(now) and was[:-1] == now[:-1] and now[-1][: len(was[-1])] == was[-1]
    return sum(map(len, was)) if grows else 0


def _pieces(one: Caption, words: Sequence[Timed], *, rolls: bool) -> Iterator[Spoken]:
    """The words of a caption in pieces; those of one that rolls stay on the screen longer than they are spoken."""
    if not any(at is not None for _, at in words):
        if words:
            yield Spoken(one.start, " ".join(word for word, _ in words), None if rolls else one.end)
        return
    start = last = one.start
    held: list[str] = []
    for word, at in words:
        if at is not None and held and at - last >= PAUSE_S:
            yield Spoken(start, " ".join(held), last + WORD_S)
            held = []
        last = max(last, at) if at is not None else last
        start = start if held else last
        held.append(word)
    yield Spoken(start, " ".join(held), min(one.end, last + WORD_S) if one.end > last else None)


def spoken(some: Sequence[Spoken]) -> list[Spoken]:
    """What was said in small letters where all of it is in capitals, which nobody reads with pleasure."""
    if not " ".join(one.text for one in some).isupper():
        return list(some)
    return [Spoken(one.start, _OPENS.sub(lambda match: match[0].upper(), one.text.lower()), one.end) for one in some]


def unlabelled(some: Sequence[Spoken]) -> list[Spoken]:
    """What was said without the signs and names that tell who speaks."""
    opened = [_SPEAKER.match(one.text) for one in some]
    labels = Counter(match[1] for match in opened if match and match[1])
    names = {name for name, n in labels.items() if n >= max(LABELS, LABEL_SHARE * len(some))}
    found = []
    for one, match in zip(some, opened, strict=True):
        text = one.text
        if match and (match[1] is None or match[1] in names):
            text = text[match.end() :]
        found.append(Spoken(one.start, text, one.end))
    return found
