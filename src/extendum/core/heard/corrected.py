"""What was heard, put right by hand: renamed, split, joined, a border moved, a side changed, taken out as talk.

Moves keep in order and passes never overlap; what follows from them (calls, halves, sides) is worked out again.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from extendum.core.heard.hear import half_in, until
from extendum.core.heard.recording import Half, Heard, HeardCall, HeardMove, Offer, Pass
from extendum.core.heard.sides import OTHER
from extendum.core.model.errors import RefusedError
from extendum.core.model.timeline import clock

SIDES = ("left", "right", "first", "second", "both")
#: Nothing is worked on for less.
LEAST_S = 1.0
#: So much of the words of a move that is split off are the way into it.
WAY = 0.3
#: More corrections than this are another recording.
MOST_STEPS = 500


#: What a move is called, its key, and what else it could be: by its first word, the first of its work, the one after
#: its last, and whether it has more than one pass.
Naming = Callable[[int, int, int, bool], tuple[str, str, tuple[Offer, ...]]]


def unnamed(first: int, work: int, last: int, twice: bool) -> tuple[str, str, tuple[Offer, ...]]:
    """What a move is called where nothing tells."""
    return "A move", "", ()


def renamed(moves: Sequence[HeardMove], n: int, name: str, key: str = "") -> tuple[HeardMove, ...]:
    """One move under another name, of the library where it has a key; as sure as somebody who says so."""
    move = moves[n]
    offers = (Offer(key, name, 99.0),) if key else ()
    return _with(moves, n, replace(move, name=name[:80], key=key, offers=offers, sure=1.0))


def as_talk(moves: Sequence[HeardMove], n: int) -> tuple[HeardMove, ...]:
    """Without one that was no move."""
    return (*moves[:n], *moves[n + 1 :])


def joined(moves: Sequence[HeardMove], n: int) -> tuple[HeardMove, ...]:
    """One move and the next as one: what came next is its other side, or more of the same."""
    if n + 1 >= len(moves):
        raise RefusedError("row", "followed by another, to be joined with it", "the last one")
    one, other = moves[n], moves[n + 1]
    passes = (*one.passes, *other.passes)
    if len(passes) == 2:
        first, second = (one.side for one in passes)
        if first not in ("left", "right"):
            first = OTHER[second] if second in ("left", "right") else "first"
        second = OTHER[first]
        passes = (replace(passes[0], side=first), replace(passes[1], side=second))
    whole = replace(one, end=other.end, last=other.last, passes=_sure(passes), sure=1.0)
    return (*moves[:n], whole, *moves[n + 2 :])


def turned(moves: Sequence[HeardMove], n: int, at: float) -> tuple[HeardMove, ...]:
    """The other side of a move from a time on: the pass that goes on then is two."""
    move = moves[n]
    k = next((k for k, one in enumerate(move.passes) if one.start + LEAST_S <= at <= one.end - LEAST_S), None)
    if k is None:
        raise RefusedError("other side", f"within a pass of {move.name}, a second from its ends", clock(round(at)))
    one = move.passes[k]
    first = one.side if one.side in OTHER else "first"
    two = (replace(one, side=first, end=at, out=0.0), replace(one, side=OTHER[first], start=at))
    passes = (*move.passes[:k], *_sure(two), *move.passes[k + 1 :])
    return _with(moves, n, replace(move, passes=passes))


def split(moves: Sequence[HeardMove], n: int, at: float, named: Naming = unnamed) -> tuple[HeardMove, ...]:
    """One move as two from a time on; the second one is called what its own words tell."""
    move = moves[n]
    if not move.start + LEAST_S <= at <= move.end - LEAST_S:
        raise RefusedError(
            "split",
            f"from {clock(round(move.start + LEAST_S))} to {clock(round(move.end - LEAST_S))}",
            clock(round(at)),
        )
    before = [replace(one, end=min(one.end, at)) for one in move.passes if one.start < at - LEAST_S]
    after = [replace(one, start=max(one.start, at)) for one in move.passes if one.end > at + LEAST_S]
    middle = move.first + round((move.last - move.first) * (at - move.start) / max(1.0, move.end - move.start))
    first = replace(move, end=at, last=middle, passes=_alone(before) or (Pass("both", move.start, at, 1.0),), sure=1.0)
    work = middle + round((move.last - middle) * WAY)
    passes = _alone(after) or (Pass("both", at, move.end, 1.0),)
    name, key, offers = named(middle, work, move.last, len(passes) > 1)
    second = replace(
        move, name=name, key=key, offers=offers, start=at, first=middle, work=work, sure=1.0, passes=passes
    )  # fmt: skip
    return (*moves[:n], first, second, *moves[n + 1 :])


def sided(moves: Sequence[HeardMove], n: int, k: int, side: str) -> tuple[HeardMove, ...]:
    """A pass on another side; where there are two the other one follows, unless somebody has said which that is.

    It follows to the same side where people turn round between them.
    """
    if side not in SIDES:
        raise RefusedError("side", f"one of {', '.join(SIDES)}", side[:40])
    passes = list(moves[n].passes)
    passes[k] = replace(passes[k], side=side, sure=1.0)
    if len(passes) == 2 and side in OTHER:
        other = passes[1 - k]
        around = all(one.direction for one in passes)
        said = other.sure == 1.0 and {side, other.side} <= {"left", "right"}
        if not said:
            passes[1 - k] = replace(other, side=side if around else OTHER[side])
    return _with(moves, n, replace(moves[n], passes=tuple(passes)))


def moved(moves: Sequence[HeardMove], n: int, k: int, start: float, end: float) -> tuple[HeardMove, ...]:
    """A pass from another second to another; what stood there before gives way."""
    if not 0 <= start <= end - LEAST_S:
        raise RefusedError("pass", f"at least {LEAST_S:.0f} s long", f"{end - start:.0f} s")
    found = []
    for m, move in enumerate(moves):
        passes = [
            replace(one, start=start, end=end, sure=1.0)
            if (m, j) == (n, k)
            else _beside(one, start, end, (m, j) < (n, k))
            for j, one in enumerate(move.passes)
        ]
        kept = tuple(one for one in passes if one.seconds >= LEAST_S)
        if not kept:
            raise RefusedError("pass", "beside its neighbours", f"all of {move.name}")
        found.append(replace(move, passes=kept, start=min(move.start, kept[0].start), end=max(move.end, kept[-1].end)))
    ends = [one.start for one in found[1:]] + [float("inf")]
    starts = [0.0] + [one.passes[-1].end for one in found[:-1]]
    return tuple(
        replace(one, start=max(one.start, start_s), end=max(one.passes[-1].end, min(one.end, end_s)))
        for one, start_s, end_s in zip(found, starts, ends, strict=True)
    )


def replayed(heard: Heard, steps: Sequence[str], names: Mapping[str, str], named: Naming = unnamed) -> Heard:
    """A recording with corrections, in the order in which they were made; ``names``: the names of the library by key.

    ``name 3 calf-lean``, ``call 3 Own words``, ``side 3 0 left``, ``pass 3 0 61.5 90``, ``split 3 75``, ``turn 3 75``,
    ``join 3``, ``talk 3``, each counted from 0. RefusedError says which one cannot be.
    """
    if len(steps) > MOST_STEPS:
        raise RefusedError("corrections", f"at most {MOST_STEPS}", str(len(steps)))
    moves: tuple[HeardMove, ...] = heard.moves
    for step in steps:
        try:
            moves = _step(moves, step, names, named)
        except (ValueError, IndexError, KeyError):
            raise RefusedError("correction", "one that this recording has", step[:60]) from None
    return corrected(heard, moves) if steps else heard


def _step(moves: tuple[HeardMove, ...], step: str, names: Mapping[str, str], named: Naming) -> tuple[HeardMove, ...]:
    what, number, *rest = step.split(" ")
    n = int(number)
    if not 0 <= n < len(moves):
        raise IndexError
    match what:
        case "name":
            return renamed(moves, n, names[rest[0]], rest[0])
        case "call":
            return renamed(moves, n, " ".join(rest).strip() or moves[n].name)
        case "side":
            return sided(moves, n, int(rest[0]), rest[1])
        case "pass":
            return moved(moves, n, int(rest[0]), float(rest[1]), float(rest[2]))
        case "split":
            return split(moves, n, float(rest[0]), named)
        case "turn":
            return turned(moves, n, float(rest[0]))
        case "join":
            return joined(moves, n)
        case "talk":
            return as_talk(moves, n)
    raise ValueError(what)


def corrected(heard: Heard, moves: Sequence[HeardMove]) -> Heard:
    """The recording with other moves: calls and halves are held against those."""
    return replace(
        heard,
        moves=tuple(moves),
        switches=tuple(one.end for move in moves for one in move.passes[:-1]),
        calls=tuple(HeardCall(one.at, one.said_s, until(one.at, moves)) for one in heard.calls),
        halves=tuple(Half(one.at, half_in(one.at, moves)) for one in heard.halves),
    )


def _with(moves: Sequence[HeardMove], n: int, move: HeardMove) -> tuple[HeardMove, ...]:
    return (*moves[:n], move, *moves[n + 1 :])


def _sure(passes: Sequence[Pass]) -> tuple[Pass, ...]:
    return tuple(replace(one, sure=1.0) for one in passes)


def _alone(passes: Sequence[Pass]) -> tuple[Pass, ...]:
    if len(passes) == 1 and passes[0].side in ("first", "second"):
        return (replace(passes[0], side="both", sure=1.0),)
    return _sure(passes)


def _beside(one: Pass, start: float, end: float, before: bool) -> Pass:
    """A pass without what another one takes of it."""
    if one.end <= start or one.start >= end:
        return one
    return replace(one, end=min(one.end, start)) if before else replace(one, start=max(one.start, end))
