"""Time without a move: its words, and the silence between them.

A talk lasts as long as its seconds say. What its words do not take is silence: each wait has what it asks for, and what
is left over goes to the waits until something happens, or else in equal parts after every sentence where they are
spread out (a wait grows by its part), or stays at the end. Where there is too little silence every wait has its share
of what there is. So a fit gives and takes silence, and never words.
"""

from __future__ import annotations

from collections.abc import Sequence

from extendum.core.model.marks import Wait, parted
from extendum.core.model.placeholders import fill
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.core.timing.durations import Facts
from extendum.core.timing.speech import in_sentences_ms, sentences

#: Said in a talk: a sentence, or silence.
Piece = str | Wait


def talk_ms(talk: Talk, facts: Facts, style: CueStyle) -> int:
    """Milliseconds that all words of a talk take with these facts."""
    return in_sentences_ms(fill(talk.words, facts), style.speech)


def pieces_of(words: str) -> list[Piece]:
    """The sentences of a talk and the waits between them, in order."""
    found: list[Piece] = []
    for part in parted(words):
        found += [part] if isinstance(part, Wait) else sentences(part)
    return found


def silences_ms(pieces: Sequence[Piece], spare_ms: int, *, spread: bool) -> list[int]:
    """Milliseconds of silence that follow each piece, or that a wait lasts; they add up to no more than is spare."""
    if not pieces:
        return []
    waits = [one.ms if isinstance(one, Wait) else 0 for one in pieces]
    wanted, spare_ms = sum(waits), max(0, spare_ms)
    if spare_ms < wanted:
        return _shared(waits, spare_ms)
    left = spare_ms - wanted
    weights = [int(isinstance(one, Wait) and one.open) for one in pieces]
    if not any(weights) and spread:
        # Every sentence is followed by one silence: a wait, or what lies between it and the next.
        after = [*pieces[1:], ""]
        weights = [int(isinstance(one, Wait) or isinstance(then, str)) for one, then in zip(pieces, after, strict=True)]
    more = _shared(weights, left) if any(weights) else [0] * len(pieces)
    return [wait + one for wait, one in zip(waits, more, strict=True)]


def _shared(weights: Sequence[int], amount: int) -> list[int]:
    """An amount in whole parts by weight; the parts add up to it."""
    total, found, upto, given = sum(weights), list[int](), 0, 0
    for weight in weights:
        upto += weight
        share = amount * upto // total - given if total else 0
        found.append(share)
        given += share
    return found
