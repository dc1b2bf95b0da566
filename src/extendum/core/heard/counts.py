"""Numbers said in a row: countdowns, and reps that are counted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise

from extendum.core.heard.guess import Guess, What, Word
from extendum.core.heard.phrases import value as number_of

#: A count that is interrupted goes on within so long; three numbers in a row are a count.
COUNT_GAP_S, COUNT_LEAST = 14.0, 3


def counts(words: Sequence[Word]) -> Iterator[Guess]:
    """Numbers in a row: down to one is a countdown, up from one is a count of reps; slips are told."""
    numbers = [(word.at, number) for word in words if (number := number_of(word.text)) is not None]
    held: list[tuple[float, int]] = []
    for at, value in numbers:
        if held and at - held[-1][0] <= COUNT_GAP_S and 0 < abs(value - held[-1][1]) <= 2:
            down = value < held[-1][1]
            if len(held) == 1 or down == (held[1][1] < held[0][1]):
                held.append((at, value))
                continue
        yield from _count(held)
        held = [(at, value)]
    yield from _count(held)


def _count(held: Sequence[tuple[float, int]]) -> Iterator[Guess]:
    if len(held) < COUNT_LEAST:
        return
    values = [value for _, value in held]
    slips = tuple(f"{b} after {a}" for a, b in pairwise(values) if abs(a - b) != 1)
    start, end = held[0][0], held[-1][0]
    if values[-1] < values[0] and values[-1] <= 2:
        yield Guess(start, What.COUNTDOWN, f"{values[0]} to {values[-1]}", "", 0.95, values[0], end, slips)
    elif values[0] <= 2 and values[-1] > values[0]:
        yield Guess(start, What.REPS, f"{values[0]} to {values[-1]}", "", 0.9, values[-1], end, slips)
