"""Cues of talk: time without a move, and talk that runs under other things."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from extendum.core.model.marks import Wait
from extendum.core.model.placeholders import fill
from extendum.core.model.script import Meanwhile
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Cue, CueKind, CueRef, Mode, Segment, Unsaid
from extendum.core.timing.cues import CUE_GAP_MS, Placed, make_cue
from extendum.core.timing.durations import Facts
from extendum.core.timing.speech import speaking_ms
from extendum.core.timing.talking import Piece, pieces_of, silences_ms, talk_ms


def talk_cues(
    talk: Talk, segment: Segment | None, number: int, round_: int, style: CueStyle, facts: Facts
) -> Iterator[Placed]:
    """The sentences of a talk, as many as fit its time, and its waits."""
    at, end = (segment.start_s * 1000, segment.end_s * 1000) if segment else (0, 0)
    pieces = pieces_of(fill(talk.words, facts))
    spare = end - at - talk_ms(talk, facts, style)
    silences = silences_ms(pieces, spare, spread=talk.spreads)
    counts = {CueKind.TALK: 0, CueKind.WAIT: 0}
    for piece, silence in zip(pieces, silences, strict=True):
        waits = isinstance(piece, Wait)
        kind, text = (CueKind.WAIT, piece.text) if isinstance(piece, Wait) else (CueKind.TALK, piece)
        of = CueRef(talk.id, 1, number, round_, kind, counts[kind])
        counts[kind] += 1
        until = at + (silence if waits else speaking_ms(text, style.speech))
        if segment is None or until > end:
            yield Unsaid(of, text, "no-silence" if waits else "talk-overrun")
            at = end + 1  # nothing after a sentence that was left out: it would make no sense
        elif waits and not silence:
            yield Unsaid(of, text, "no-silence")
        else:
            if isinstance(piece, Wait) and not piece.open:
                text = f"{max(1, round(silence / 1000))} s"  # as long as it is now
            yield make_cue(of, segment, at, until, text, mode=Mode.SILENT if waits else Mode.SPOKEN)
            at = until + (0 if waits else silence)


class Window(NamedTuple):
    """A part of a segment that something runs under, in milliseconds of the class."""

    host: Segment
    start_ms: int
    end_ms: int


#: How far the sentences of what runs meanwhile are spread over its time, in percent: as far as all of them find room.
_SPREADS = (100, 75, 50, 25, 0)


def meanwhile_cues(
    under: Meanwhile, windows: Sequence[Window], spoken: Sequence[Cue], style: CueStyle, facts: Facts
) -> Iterator[Placed]:
    """Talk under other things, spread over its time: each sentence in the first gap that takes it, in order."""
    pieces = pieces_of(fill(under.words, facts))
    busy = sorted((cue.start_ms, cue.end_ms) for cue in spoken)
    best: list[Placed] = []
    for percent in _SPREADS:
        found = list(_spread(under, pieces, windows, busy, style, percent))
        if not best or _placed(found) > _placed(best):
            best = found
        if _placed(best) == len(best):
            break
    yield from best


def _placed(found: Sequence[Placed]) -> int:
    return sum(isinstance(one, Cue) for one in found)


def _spread(
    under: Meanwhile,
    pieces: Sequence[Piece],
    windows: Sequence[Window],
    busy: Sequence[tuple[int, int]],
    style: CueStyle,
    percent: int,
) -> Iterator[Placed]:
    """The sentences, none of them before its share of the time has passed."""
    starts = [start for start, _ in busy]
    begin, end = (windows[0].start_ms, windows[-1].end_ms) if windows else (0, 0)
    many, at, index = sum(isinstance(one, str) for one in pieces), begin, 0
    for piece in pieces:
        if isinstance(piece, Wait):
            at += piece.ms
            continue
        at = max(at, begin + (end - begin) * percent * index // (100 * many))
        of = CueRef(under.id, 1, 1, 1, CueKind.MEANWHILE, index)
        index += 1
        lasting = speaking_ms(piece, style.speech)
        found = _first_gap(at, lasting, windows, busy, starts)
        if found is None:
            yield Unsaid(of, piece, "no-room")
            continue
        host, start = found
        yield make_cue(of, host, start, start + lasting, piece)
        at = start + lasting + CUE_GAP_MS


def _first_gap(
    at: int, lasting: int, windows: Sequence[Window], busy: Sequence[tuple[int, int]], starts: Sequence[int]
) -> tuple[Segment, int] | None:
    for host, start, last in windows:
        first = max(at, start)
        here = max(0, bisect_left(starts, first) - 1)
        while first + lasting <= last:
            clash = next(
                (b for a, b in busy[here:] if a < first + lasting + CUE_GAP_MS and first < b + CUE_GAP_MS), None
            )
            if clash is None:
                return host, first
            first = clash + CUE_GAP_MS
    return None
