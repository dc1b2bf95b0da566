"""Timed text of a recording: WebVTT, SRT, or lines that begin with [m:ss]. Nothing in it is followed or run."""

from __future__ import annotations

import re
from dataclasses import dataclass

from extendum.core.model.errors import RefusedError
from extendum.formats.plain import decoded

LARGEST, MOST_LINES, LONGEST_S = 500_000, 15_000, 6 * 3600

_TIME = r"(?:(\d{1,2}):)?(\d{1,3}):(\d{2})(?:[.,](\d{1,3}))?"
_ARROW = re.compile(rf"^\s*{_TIME}\s*-->\s*{_TIME}(?:\s.*)?$")
_BRACKET = re.compile(rf"^\s*[\[(]?{_TIME}[\])]?[\s:–-]*(.*)$")
_TAG = re.compile(r"<[^<>]{0,200}>|\{\\[^{}]{0,100}\}")


@dataclass(frozen=True, slots=True)
class Spoken:
    """What was said, from when, in seconds; ``end`` is when it stopped, where that is told."""

    start: float
    text: str
    end: float | None = None


def is_timed(text: str) -> bool:
    """Whether a text looks like one with times: arrows, or most of its lines begin with a time."""
    lines = [line for line in text.splitlines()[:400] if line.strip()]
    if any(_ARROW.match(line) for line in lines):
        return True
    stamped = sum(bool(re.match(rf"^\s*[\[(]{_TIME}[\])]|^\s*{_TIME}\s+[A-Za-z]", line)) for line in lines)
    return stamped * 2 > len(lines) > 0


def read_timed(text: str | bytes) -> list[Spoken]:
    """The lines of a timed text, in order of time; RefusedError says at which line it is none."""
    plain = decoded(text, LARGEST)
    lines = plain.replace("\r\n", "\n").replace("\r", "\n").split("\n")
    if len(lines) > MOST_LINES:
        raise RefusedError("file", f"at most {MOST_LINES:,} lines", f"{len(lines):,}")
    found = _cues(lines) if any(_ARROW.match(line) for line in lines) else _stamped(lines)
    said = [one for one in found if one.text]
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


def _plain(text: str) -> str:
    return " ".join(_TAG.sub("", text).split())


def _cues(lines: list[str]) -> list[Spoken]:
    """Cues with arrows; the text runs to the next empty line."""
    found: list[Spoken] = []
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
        while at < len(lines) and lines[at].strip() and not _ARROW.match(lines[at]):
            said.append(lines[at])
            at += 1
        found.append(Spoken(start, _plain(" ".join(said)), end))
    return found


def _stamped(lines: list[str]) -> list[Spoken]:
    """Lines that begin with a time; a line without one continues the line before."""
    found: list[Spoken] = []
    for number, line in enumerate(lines, 1):
        match = _BRACKET.match(line)
        if match:
            found.append(Spoken(_seconds(match.groups()[:4], number), _plain(match.group(5))))
        elif line.strip() and found:
            last = found[-1]
            found[-1] = Spoken(last.start, f"{last.text} {_plain(line)}")
    return found
