"""Where a move turns round: *and now backwards*; a circle has two directions, on each side or on both at once."""

from __future__ import annotations

import re
from collections.abc import Sequence

from extendum.core.heard.said import Word, running
from extendum.core.model.move import Move, Sidedness

#: What is shorter than this on either side of the turn was no direction of its own.
LEAST_S = 2.5
#: Directions that nobody named.
ROUND = ("one way", "the other way")
DIRECTED = frozenset({Sidedness.EACH_DIRECTION, Sidedness.EACH_SIDE_AND_DIRECTION})
_CIRCLE = re.compile(r"\b(?:circl\w+|circles?|wheels?|stir\w*|rolls?|rolling|windmills?|wind it|round and round)\b")
#: A roll that is none.
_NO_CIRCLE = re.compile(r"\broll(?:s|ing|ed)? (?:\w+ ){0,2}?(?:up|down|over|onto|out)\b|\brolled\b")
_TURN = re.compile(
    r"\b(?:(?:(?:go|back|on|round|around|do it|roll them|roll it|circle|stir) )?(?:the |in the )?"
    r"(?:other|opposite) (?:way|direction)(?: round| around)?|"
    r"(?:change|switch|turn|swap) (?:the |your )?direction|revers(?:e|ed|ing)(?: it| them| that)?|"
    r"(?:and |now |then |go |roll |rolling |circle |turn them )+(?:backwards?|forwards?|inwards?|outwards?)|"
    r"anti ?clockwise|counter ?clockwise|unwind)\b"
)


def turns(
    move: Move | None, words: Sequence[Word], first: int, place: tuple[int, int], lasts: tuple[float, float]
) -> int | None:
    """The word where a pass turns round, if it does; ``first``: of the move.

    ``place``: the words of the pass; ``lasts``: from when to when people are in it, in seconds.
    """
    (since, until), (start, end) = place, lasts
    if not (move and move.sidedness in DIRECTED) and not _goes_round(words[first:until]):
        return None
    told = running(words[since:until])
    for match in _TURN.finditer(told.text):
        n, last = (since + told.word(place) for place in (match.start(), match.end() - 1))
        if words[n].at - start >= LEAST_S and end - words[last].until >= LEAST_S:
            return n
    return None


def turned(move: Move | None, words: Sequence[Word], first: int, between: tuple[int, int]) -> bool:
    """Whether people turn round between two passes, and change no side; ``first``: of the move."""
    round_ = bool(move and move.sidedness is Sidedness.EACH_DIRECTION) or _goes_round(words[first : between[1]])
    return round_ and bool(_TURN.search(running(words[between[0] : between[1]]).text))


def ways(move: Move | None, words: Sequence[Word]) -> tuple[str, str]:
    """The two directions of a move in the order in which somebody names them; ``ROUND`` where nobody does."""
    if move is None or move.sidedness not in DIRECTED:
        return ROUND
    told = running(words).text
    first, second = move.directions
    at = {way: told.find(way) for way in (first, second) if way in told}
    if not at:
        return ROUND
    return (first, second) if min(at, key=at.__getitem__) == first else (second, first)


def _goes_round(words: Sequence[Word]) -> bool:
    return bool(_CIRCLE.search(_NO_CIRCLE.sub(" ", running(words).text)))
