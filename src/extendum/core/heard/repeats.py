"""Moves that come again: a class that goes through them twice, or through a chain on one side and then the other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from extendum.core.heard.recording import HeardMove

#: A second time has so much of the first one, and at least so many of its moves.
SHARE, LEAST = 0.6, 2


@dataclass(frozen=True, slots=True)
class Block:
    """Some moves in a row, each with all its returns, as numbers of what was heard.

    ``rounds``: how often it is gone through; ``chain``: once for each side.
    """

    moves: tuple[tuple[int, ...], ...]
    rounds: int = 1
    chain: bool = False


def blocks_of(moves: Sequence[HeardMove]) -> list[Block]:
    """All moves in order, those that come again together with their returns."""
    keys = [move.key or move.name.casefold() for move in moves]
    found = _repeat(keys)
    if found is None:
        return [Block(tuple((n,) for n in range(len(moves))))] if moves else []
    first, again, end, same = found
    sided = [_one_side(moves[a]) for a, _ in same]
    chain = sum(map(bool, sided)) * 2 >= len(same) and all(_goes_on(moves[a], moves[b]) for a, b in same)
    returns = dict(same)
    inside = tuple((n, returns[n]) if n in returns else (n,) for n in range(first, again))
    extra = tuple((n,) for n in range(again, end) if n not in returns.values())
    before, after = tuple((n,) for n in range(first)), (*extra, *((n,) for n in range(end, len(moves))))
    parts = [Block(before), Block(inside, 1 if chain else 2, chain), Block(after)]
    return [part for part in parts if part.moves]


def _one_side(move: HeardMove) -> str:
    """The side of a move that has one only."""
    side = move.passes[0].side
    return side if len(move.passes) == 1 and side in ("left", "right") else ""


def _goes_on(one: HeardMove, again: HeardMove) -> bool:
    """Whether a return can be the other side of a move that has one pass each time; often nobody names it again."""
    if len(one.passes) > 1 or len(again.passes) > 1:
        return False
    return not _one_side(one) or _one_side(one) != _one_side(again)


def _repeat(keys: Sequence[str]) -> tuple[int, int, int, list[tuple[int, int]]] | None:
    """The longest stretch that comes again right after itself: where both begin and end, and what is the same."""
    best = None
    most = (LEAST - 1, 0)
    for first in range(len(keys)):
        for again in range(first + LEAST, len(keys)):
            for end in range(again + LEAST, len(keys) + 1):
                longest = max(again - first, end - again)
                if min(again - first, end - again) < SHARE * longest or longest < most[0]:
                    continue
                same = _common(keys, first, again, end)
                if len(same) >= SHARE * longest and (len(same), first - end) > most:
                    most, best = (len(same), first - end), (first, again, end, same)
    return best


def _common(keys: Sequence[str], first: int, again: int, end: int) -> list[tuple[int, int]]:
    """What both stretches have in the same order, as pairs of places."""
    longest: dict[tuple[int, int], list[tuple[int, int]]] = {}
    for a in range(again - 1, first - 1, -1):
        for b in range(end - 1, again - 1, -1):
            if keys[a] == keys[b]:
                longest[a, b] = [(a, b), *longest.get((a + 1, b + 1), [])]
            else:
                longest[a, b] = max(longest.get((a + 1, b), []), longest.get((a, b + 1), []), key=len)
    return longest.get((first, again), [])
