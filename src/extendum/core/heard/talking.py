"""Talk between the moves of a recording, and what it is for."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from extendum.core.heard.recording import Heard
from extendum.core.heard.said import Word
from extendum.core.model.talk import TalkKind

#: Talk between two moves that lasts longer is an item of its own.
TALK_S = 12.0
#: With fewer words a minute it is a rest.
RESTING = 25
_WATER = re.compile(r"\b(?:water|sip|drink)\b")
_CHECK_IN = re.compile(r"\bhow (?:is|are|does|do)\b|\bany (?:questions|pain|aches)\b")


class Kind(StrEnum):
    """What people are talked to for."""

    WELCOME = "welcome"
    TALK = "talk"
    WATER = "water"
    CHECK_IN = "check-in"
    REST = "rest"
    GOODBYE = "goodbye"


#: What a class has for each kind.
OF_CLASS = {Kind.WATER: TalkKind.WATER, Kind.CHECK_IN: TalkKind.CHECK_IN, Kind.REST: TalkKind.REST}


@dataclass(frozen=True, slots=True)
class Talked:
    """One stretch of talk: from when to when in seconds, and its words; ``before``: the move that it comes before."""

    kind: Kind
    start: float
    end: float
    words: tuple[Word, ...]
    before: int


def talks_of(heard: Heard) -> Iterator[Talked]:
    """All time that is no move, in order."""
    last = 0.0
    for n, move in enumerate(heard.moves):
        if move.start - last > (1.0 if n == 0 else TALK_S):
            yield _talked(heard, last, move.start, n)
        last = max(last, move.end)
    if heard.moves and heard.length - last > 1.0:
        yield _talked(heard, last, heard.length, len(heard.moves))


def _talked(heard: Heard, start: float, end: float, before: int) -> Talked:
    words = tuple(one for one in heard.words if start <= one.at < end - 0.5)
    text = " ".join(one.text for one in words)
    if before == 0:
        kind = Kind.WELCOME
    elif before == len(heard.moves):
        kind = Kind.GOODBYE
    elif _WATER.search(text):
        kind = Kind.WATER
    elif len(words) * 60 < RESTING * (end - start):
        kind = Kind.REST
    else:
        kind = Kind.CHECK_IN if _CHECK_IN.search(text) else Kind.TALK
    return Talked(kind, start, end, words, before)
