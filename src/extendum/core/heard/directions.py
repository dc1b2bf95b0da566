"""Where a move turns round: *and now backwards*; a circle has two directions, on each side or on both at once."""

from __future__ import annotations

import re
from collections.abc import Sequence

from extendum.core.heard.said import Word
from extendum.core.model.move import Move, Sidedness

#: What is shorter than this on either side of the turn was no direction of its own.
LEAST_S = 2.5
#: So many words after the turn may say which way it goes on.
NAMED_WORDS = 8
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


def turns(move: Move | None, words: Sequence[Word], first: int, place: tuple[int, int]) -> int | None:
    """The word where a pass turns round, if it does; ``first``: of the move; ``place``: the words of the pass."""
    since, until = place
    if not (move and move.sidedness in DIRECTED) and not _goes_round(words, first, until):
        return None
    told, at = _running(words, since, until)
    for match in _TURN.finditer(told):
        n = at[match.start()]
        start, end = words[since].at, words[until - 1].until
        if words[n].at - start >= LEAST_S and end - words[at[match.end() - 1]].until >= LEAST_S:
            return n
    return None


def _goes_round(words: Sequence[Word], first: int, until: int) -> bool:
    told = " ".join(word.text for word in words[first:until])
    return bool(_CIRCLE.search(_NO_CIRCLE.sub(" ", told)))


def _running(words: Sequence[Word], since: int, until: int) -> tuple[str, list[int]]:
    """Words as one text, and which of them each of its letters belongs to."""
    told, at = "", []
    for n in range(since, until):
        told += words[n].text + " "
        at += [n] * (len(words[n].text) + 1)
    return told, at
