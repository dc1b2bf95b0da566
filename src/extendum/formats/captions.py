"""Captions and chapters as timed text: WebVTT and SRT, and a plain list of chapters."""

from __future__ import annotations

from collections.abc import Sequence

from extendum.core.model.timeline import clock
from extendum.core.outputs.captions import Caption, Chapter


def vtt(some: Sequence[Caption]) -> str:
    """Captions as WebVTT."""
    return "\n".join(["WEBVTT", "", *_blocks([(_time(c.start_ms), _time(c.end_ms), c.lines) for c in some])])


def srt(some: Sequence[Caption]) -> str:
    """Captions as SubRip, numbered from 1."""
    timed = [(_time(c.start_ms, ","), _time(c.end_ms, ","), c.lines) for c in some]
    return "\n".join(_blocks(timed, numbered=True))


def chapters_vtt(some: Sequence[Chapter]) -> str:
    """Chapters as WebVTT."""
    timed = [(_time(c.start_s * 1000), _time(c.end_s * 1000), (c.title,)) for c in some]
    return "\n".join(["WEBVTT", "", *_blocks(timed)])


def chapters_list(some: Sequence[Chapter]) -> str:
    """Chapters as a list to be put under a recording: a time and a title a line."""
    return "".join(f"{clock(one.start_s)} {one.title}\n" for one in some)


def _blocks(timed: Sequence[tuple[str, str, Sequence[str]]], *, numbered: bool = False) -> list[str]:
    found = []
    for n, (start, end, lines) in enumerate(timed, 1):
        found += [*([str(n)] if numbered else []), f"{start} --> {end}", *map(_escaped, lines), ""]
    return found


def _escaped(line: str) -> str:
    """A line that no reader takes for markup or for a time."""
    return line.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;") if set(line) & set("&<>") else line


def _time(ms: int, point: str = ".") -> str:
    return f"{ms // 3_600_000:02d}:{ms // 60_000 % 60:02d}:{ms // 1000 % 60:02d}{point}{ms % 1000:03d}"
