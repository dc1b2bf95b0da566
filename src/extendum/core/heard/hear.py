"""A recording as it was heard: its words explained as the parts of a class, and those as moves with their passes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from extendum.core.heard.assembled import Names, Rough, joined, place_of, rough_of
from extendum.core.heard.bases import Bases, Place
from extendum.core.heard.calling import Call, calls, counts, halves
from extendum.core.heard.chains import Chain, Chains
from extendum.core.heard.cues import Cues, Ear, cues_in
from extendum.core.heard.holds import WITHIN_S, Holds
from extendum.core.heard.idiom import Idiom
from extendum.core.heard.names import Namer, Sign, signs
from extendum.core.heard.pace import Pace, pace_of
from extendum.core.heard.parts import Told, Weights, bonus_of, places_of
from extendum.core.heard.recording import Half, Heard, HeardCall, HeardMove
from extendum.core.heard.said import Line, Word, said
from extendum.core.heard.saying import Reminder, promises, remarks, reminders
from extendum.core.heard.sides import Sides
from extendum.core.heard.silence import Silences
from extendum.core.heard.states import SET_UPS, Evidence, Model, Part, State, explain, sketch
from extendum.core.model.errors import RefusedError

#: More words are no class, and would take minutes.
MOST_WORDS = 25_000


@dataclass(frozen=True)
class Hearing:
    """What a recording is heard by: how parts of a class sound and last, what speaks for borders, words of moves."""

    model: Model
    weights: Weights
    namer: Namer
    sides: Sides
    ear: Ear
    idiom: Idiom
    silences: Silences
    holds: Holds
    bases: Bases
    reminders: tuple[Reminder, ...]
    chains: Chains


def length_of(words: Sequence[Word], lines: Sequence[Line]) -> float:
    """How long a recording lasts, in seconds: a little longer than its last word and its last stamp."""
    return max(words[-1].until, lines[-1].start) + 1.0


def hear(lines: Sequence[Line], hearing: Hearing, of: Callable[[Cues], Cues] = lambda cues: cues) -> Heard:
    """What timed lines tell; RefusedError where they are too many.

    It is explained twice: once the parts are known, so is where somebody was silent, and the words get better times;
    and the first time both as a usual class and as one that takes a whole chain of moves to each side.
    ``of`` may change the cues that are heard (a trial takes some of them away).
    """
    words = said(lines, hearing.silences)
    if len(words) > MOST_WORDS:
        raise RefusedError("recording", f"at most {MOST_WORDS:,} words", f"{len(words):,}")
    if not words:
        return Heard(lines[-1].start if lines else 0.0, (), (), (), (), (), (), (), (), (), ())
    length = length_of(words, lines)
    moves_at: dict[int, tuple[float, float]] = {}
    parts, chained = _sketched(_evidence(words, length, hearing, of, moves_at), hearing)
    words = hearing.holds.timed(lines, hearing.silences, parts, _seconds(words))
    told = _evidence(words, length, hearing, of, moves_at)
    parts = told.pace.parts(explain(hearing.model, told.chained if chained else told.usual))
    counted = counts(words)
    called, half = calls(words, counted), [words[n].at for n in halves(words)]
    rough = rough_of(parts)
    bases = hearing.bases.along(words, [place_of(one) for one in rough])
    begins = dict(zip((one.set_up.first for one in rough), bases, strict=True))
    ear = Names(words, told.signs, hearing.namer, counted, lambda place: begins[place[0]])
    rough = rough if chained else joined(rough, ear)
    moves = ear.moves(rough)
    turned = _switches(rough, moves)
    if chained:
        moves, turn = Chain(ear, told.cues, hearing.sides, hearing.chains).told(moves)
        turned = turned if turn is None else tuple(sorted((*turned, turn)))
    return Heard(
        length,
        words,
        tuple(moves),
        turned,
        tuple(HeardCall(one.at, one.number, until(one.at, moves)) for one in called if one.unit == "seconds"),
        tuple(one.at for one in called if one.unit != "seconds"),
        tuple(Half(at, half_in(at, moves)) for at in half),
        tuple(counted),
        tuple(remarks(words)),
        tuple(promises(words)),
        tuple(
            reminders(
                words,
                [one.state not in SET_UPS for one in parts for _ in range(one.first, one.last)],
                hearing.reminders,
            )
        ),
    )


@dataclass(frozen=True)
class _Told:
    """What some words tell: the signatures and cues among them, and what speaks for which parts.

    ``usual``: in a class where a move has its second side at once, ``chained``: in one where a whole chain has.
    """

    signs: list[Sign]
    cues: Cues
    pace: Pace
    usual: Evidence
    chained: Evidence


def _evidence(
    words: Sequence[Word],
    length: float,
    hearing: Hearing,
    of: Callable[[Cues], Cues],
    moves_at: dict[int, tuple[float, float]],
) -> _Told:
    found = signs(words, hearing.namer.signatures)
    cues = of(cues_in(words, found, hearing.ear))
    places = places_of(words, cues, length)
    told, weights = Told(words, cues, found, moves_at), hearing.weights
    bonus = bonus_of(told, places, weights, hearing.namer, hearing.sides)
    lean = hearing.idiom.sums([word.stem for word in words], len(State))
    due = hearing.holds.due(places, _seconds(words))
    pace = pace_of(words, length)
    usual = Evidence(pace.places(places), cues.sums(len(words)), bonus, lean, due)
    twice = [told.move_at(word, hearing.namer, hearing.sides)[1] for word in places.word[:-1].tolist()]
    chained = replace(usual, bonus=hearing.chains.bonus(bonus, np.array(twice), weights.sided))
    return _Told(found, cues, pace, usual, chained)


def _sketched(told: _Told, hearing: Hearing) -> tuple[list[Part], bool]:
    """The likeliest parts, and whether they are those of a class that takes a chain of moves to each side."""
    usual, chained = (sketch(hearing.model, one) for one in (told.usual, told.chained))
    is_chain = hearing.chains.is_one(usual[1], chained[1])
    return told.pace.parts(chained[0] if is_chain else usual[0]), is_chain


def _seconds(words: Sequence[Word]) -> list[Call]:
    """The seconds that are called."""
    return [one for one in calls(words, counts(words)) if one.unit == "seconds" and one.number]


def _switches(rough: Sequence[Rough], moves: Sequence[HeardMove]) -> tuple[float, ...]:
    """When people change sides, and when they turn round in the middle of a pass."""
    told = [one.start for move in rough for one in move.switches]
    inside = [
        one.out
        for move, whole in zip(moves, rough, strict=True)
        for one in move.passes
        if any(part.start < one.out < part.end for part in whole.passes)
    ]
    return tuple(sorted(told + inside))


def naming(heard: Heard, hearing: Hearing) -> Names:
    """What names moves of a recording that somebody splits off."""

    def bases(place: Place) -> tuple[float, ...]:
        """Where people are in a move that was not heard as one, after those that were heard before it."""
        first = place[0]
        before = [(one.first, min(one.work, first), min(one.last, first)) for one in heard.moves if one.first < first]
        return hearing.bases.along(heard.words, [*before, place])[-1]

    return Names(heard.words, signs(heard.words, hearing.namer.signatures), hearing.namer, heard.counts, bases)


def until(at: float, moves: Sequence[HeardMove]) -> float | None:
    """Seconds from a call to the end of the pass that it is in."""
    ends = (one.end for move in moves for one in move.passes if one.start <= at < one.end)
    end = next(ends, None)
    return end - at if end is not None and end - at <= WITHIN_S else None


def half_in(at: float, moves: Sequence[HeardMove]) -> int | None:
    """How far into its pass a time is, in percent; None outside of work."""
    one = next((one for move in moves for one in move.passes if one.start <= at < one.end), None)
    return round(100 * (at - one.start) / one.seconds) if one else None
