"""Recordings beside the script of a class; and what to mend in it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence, Set
from dataclasses import dataclass

from extendum.core.heard.recording import Heard, HeardMove
from extendum.core.heard.repeats import blocks_of
from extendum.core.heard.report import called_off, sides_of
from extendum.core.model.script import Script
from extendum.core.model.timeline import SegmentKind, Timeline, clock

#: Sides that are so far apart, in seconds, are worth a line: what is heard of a side is off by two to four.
APART_S = 5
_SIDES = frozenset({"left", "right"})


@dataclass(frozen=True, slots=True)
class Beside:
    """One move: seconds of its passes in the script, and in each recording; None where it is not in one."""

    name: str
    planned_s: int | None
    heard_s: tuple[int | None, ...]


def beside(script: Script, timeline: Timeline, recordings: Sequence[Heard]) -> list[Beside]:
    """The moves of a class, and what was heard of them in each recording: seconds of all their passes.

    To settle belongs to a pass: nobody hears where that is over.
    """
    planned: dict[str, int] = {}
    for segment in timeline.segments:
        if segment.kind.works or segment.kind is SegmentKind.SETTLE:
            planned[segment.name] = planned.get(segment.name, 0) + segment.seconds
    called = {item.move.key: item.name for item in script.moves() if item.move.key}
    worked = [_worked(heard.moves, called, set(planned)) for heard in recordings]
    names = dict.fromkeys([*planned, *(name for one in worked for name in one)])
    return [Beside(name, planned.get(name), tuple(round(one.get(name, 0)) or None for one in worked)) for name in names]


def _worked(moves: Iterable[HeardMove], called: Mapping[str, str], named: Set[str]) -> dict[str, float]:
    """Seconds of each move; one that is none of the class by key or name is taken for one that it could be."""
    real: dict[str, float] = {}
    for move in moves:
        likely = [offer.key for offer in move.offers[:3] if offer.key in called]
        own = called.get(move.key) or (move.name if move.name in named else "")
        name = own or (called[likely[0]] if likely else move.name)
        real[name] = real.get(name, 0.0) + sum(one.seconds for one in move.passes)
    return real


def to_mend(heard: Heard) -> list[str]:
    """What a next version of the class would do otherwise: sides, rounds, promises, calls and counts."""
    return [*_sides(heard), *_rounds(heard.moves), *_promises(heard), *called_off(heard)]


def _sides(heard: Heard) -> Iterator[str]:
    for one in sides_of(heard):
        if one.apart_s >= APART_S:
            most, least = (pick(one.sides, key=lambda side: side[1]) for pick in (max, min))
            yield f"{one.name}: {most[0]} got {one.apart_s} s more than {least[0]}."
    sides: dict[str, set[str]] = {}
    for move in heard.moves:
        sides.setdefault(move.name, set()).update(one.side for one in move.passes)
    for name, some in sides.items():
        if len(some) == 1 and some <= _SIDES:
            yield f"{name}: only {next(iter(some))} was heard."


def _rounds(moves: Sequence[HeardMove]) -> Iterator[str]:
    blocks = blocks_of(moves)
    again = next((block for block in blocks if block.rounds > 1), None)
    if again:
        for returns in again.moves:
            if len(returns) == 1:
                yield f"{moves[returns[0]].name} was heard in the first round and not in the second."


def _promises(heard: Heard) -> Iterator[str]:
    unlike = len({move.key or move.name for move in heard.moves})
    for one in heard.promises:
        off = round(heard.length) - 60 * one.number
        if one.what == "minutes" and abs(off) >= 30:
            yield f"{one.number} minutes were announced; it lasted {clock(round(heard.length))}."
        elif one.what != "minutes" and one.number != unlike:
            yield f"{one.number} moves were announced; {unlike} were heard."
