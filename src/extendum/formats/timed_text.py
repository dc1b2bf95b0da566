"""Timed text of a recording: captions, or lines that begin with [m:ss]. Nothing in it is followed or run.

Captions are WebVTT, SRT, or any others with a line of two times before each. Stamps may stand on lines of their own,
or in the middle of one.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

from extendum.core.model.errors import RefusedError
from extendum.formats.plain import decoded
from extendum.formats.spoken import Caption, Spoken, caption, plain, said_in, spoken, unlabelled

#: The captions of an hour that roll, with times for each word, are a megabyte.
LARGEST, MOST_LINES, LONGEST_S = 2_000_000, 60_000, 6 * 3600

_TIME = r"(?:(\d{1,2}):)?(\d{1,3}):(\d{2})(?:[.,](\d{1,3}))?"
_ARROW = re.compile(rf"^\s*{_TIME}(?:\s*-->\s*|,){_TIME}(?:\s.*)?$")
_STAMP = re.compile(rf"^\s*[\[(]?{_TIME}(?:\s*[-–—]\s*{_TIME})?[\])]?[\s:–—-]*(.*)$")
_INSIDE = re.compile(rf"(?<=\S)\s+(?=\[{re.sub(r'[(](?![?])', '(?:', _TIME)}\])")
_STAMPED = re.compile(rf"^\s*[\[(]{_TIME}[\])]|^\s*{_TIME}(?:\s*[-–—]\s*{_TIME})?\s+[A-Za-z]")
_ALONE = re.compile(rf"^\s*{_TIME}\s*$")


def is_timed(text: str) -> bool:
    """Whether a text looks like one with times: arrows, or most of its lines, or every other, begin with a time."""
    lines = [line for line in text.splitlines()[:400] if line.strip()]
    if any(_ARROW.match(line) for line in lines):
        return True
    stamped = sum(bool(_STAMPED.match(line)) for line in lines)
    alone = sum(bool(_ALONE.match(line)) for line in lines)
    return (stamped + 2 * alone) * 2 > len(lines) > alone


def read_timed(text: str | bytes) -> list[Spoken]:
    """The lines of a timed text, in order of time; RefusedError says at which line it is none."""
    lines = decoded(text, LARGEST).replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if len(lines) > MOST_LINES:
        raise RefusedError("file", f"at most {MOST_LINES:,} lines", f"{len(lines):,}")
    found = said_in(list(_captions(lines))) if any(_ARROW.match(line) for line in lines) else _stamped(lines)
    said = [one for one in unlabelled(spoken(found)) if one.text]
    if not said:
        raise RefusedError("file", "WebVTT, SRT, or lines such as [1:05] and hold", "none")
    return sorted(said, key=lambda one: one.start)


def _seconds(parts: tuple[str | None, ...], line: int) -> float:
    hours, minutes, seconds, rest = parts
    found = int(hours or 0) * 3600 + int(minutes or 0) * 60 + int(seconds or 0)
    if int(seconds or 0) > 59 or found > LONGEST_S:
        told = f"{hours}:{minutes}:{seconds}" if hours else f"{minutes}:{seconds}"
        raise RefusedError(f"line {line}", f"a time up to {LONGEST_S // 3600} hours", told)
    return found + int((rest or "0").ljust(3, "0")) / 1000


def _captions(lines: Sequence[str]) -> Iterator[Caption]:
    """Captions; the words run to the next empty line."""
    at = 0
    while at < len(lines):
        match = _ARROW.match(lines[at])
        at += 1
        if match is None:
            continue
        start, end = _seconds(match.groups()[:4], at), _seconds(match.groups()[4:], at)
        if end < start:
            raise RefusedError(f"line {at}", "an end after its start", lines[at - 1].strip()[:60])
        said = []
        while at < len(lines) and not _ends(lines, at):
            said.append(lines[at])
            at += 1
        yield caption(start, end, said)


def _ends(lines: Sequence[str], at: int) -> bool:
    """Whether a caption is over before a line; one of blanks only may stand for the row above."""
    if lines[at].strip():
        return bool(_ARROW.match(lines[at]))
    following = lines[at + 1 : at + 3]
    numbered = len(following) > 1 and following[0].strip().isdigit() and _ARROW.match(following[1])
    return not lines[at] or not following or not following[0] or bool(numbered or _ARROW.match(following[0]))


def _stamped(lines: Sequence[str]) -> list[Spoken]:
    """Lines that begin with a time; a line without one continues the line before."""
    found: list[Spoken] = []
    for number, line in enumerate(lines, 1):
        for part in _INSIDE.split(line):
            if match := _STAMP.match(part):
                start = _seconds(match.groups()[:4], number)
                end = _seconds(match.groups()[4:8], number) if match[6] else None
                found.append(Spoken(start, plain(match[9]), end if end and end > start else None))
            elif part.strip() and found:
                last = found[-1]
                found[-1] = Spoken(last.start, f"{last.text} {plain(part)}".strip(), last.end)
    return found
