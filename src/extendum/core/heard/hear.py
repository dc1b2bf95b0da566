"""A recording as it was heard: its words explained as the parts of a class, and those as moves with their passes."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from extendum.core.heard.calling import Count, calls, counts, halves
from extendum.core.heard.cues import Cues, Ear, cues_in
from extendum.core.heard.directions import turns, ways
from extendum.core.heard.idiom import Idiom
from extendum.core.heard.names import Namer, Sign, signs
from extendum.core.heard.parts import Told, Weights, bonus_of, places_of
from extendum.core.heard.recording import Half, Heard, HeardCall, HeardMove, Offer, Pass
from extendum.core.heard.said import Line, Word, said
from extendum.core.heard.saying import promises, remarks, reminders
from extendum.core.heard.sides import OTHER, Sides, flips, sided
from extendum.core.heard.silence import Silences
from extendum.core.heard.states import RELEASES, SET_UPS, WORKS, Model, Part, State, explain
from extendum.core.model.errors import RefusedError
from extendum.core.model.move import Sidedness

#: More words are no class, and would take minutes.
MOST_WORDS = 25_000
#: People are in position a little before the words for it are over.
BEFORE_S = 0.5
#: And out of it a little after the words for that have begun.
AFTER_S = 1.0
#: A move whose name has less than this for it keeps the speaker's own words.
NAMED = 9.5
#: A call is held against what ends within so long.
WITHIN_S = 90.0
#: The side of a pass is named on the way into it, or so long after.
SIDE_WITHIN_S = 6.0
#: A second side begins so soon after the first one, and is as good a match for its move as any, within so much.
AGAIN_S, AS_GOOD = 12.0, 0.3
_TURNS = re.compile(r"\b(?:look|looks|turn|twist|rotate)\b")


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


@dataclass
class _Rough:
    """A move as its parts come: its set-up, its passes, and the switches between them."""

    set_up: Part
    passes: list[Part]
    switches: list[Part]
    outs: list[float]
    end: float


def length_of(words: Sequence[Word], lines: Sequence[Line]) -> float:
    """How long a recording lasts, in seconds: a little longer than its last word and its last stamp."""
    return max(words[-1].until, lines[-1].start) + 1.0


def hear(lines: Sequence[Line], hearing: Hearing, of: Callable[[Cues], Cues] = lambda cues: cues) -> Heard:
    """What timed lines tell; RefusedError where they are too many.

    It is explained twice: once the parts are known, so is where somebody was silent, and the words get better times.
    ``of`` may change the cues that are heard (a trial takes some of them away).
    """
    words = said(lines, hearing.silences)
    if len(words) > MOST_WORDS:
        raise RefusedError("recording", f"at most {MOST_WORDS:,} words", f"{len(words):,}")
    if not words:
        return Heard(lines[-1].start if lines else 0.0, (), (), (), (), (), (), (), (), (), ())
    length = length_of(words, lines)
    moves_at: dict[int, tuple[float, float]] = {}
    _, parts = _explained(words, length, hearing, of, moves_at, roughly=True)
    words = said(lines, hearing.silences, in_work(parts, len(words)))
    found, parts = _explained(words, length, hearing, of, moves_at)
    counted = counts(words)
    called, half = calls(words, counted), [words[n].at for n in halves(words)]
    ear = Names(words, found, hearing.namer, counted)
    rough = _joined(_rough(parts), ear)
    moves = ear.moves(rough)
    return Heard(
        length,
        words,
        tuple(moves),
        _switches(rough, moves),
        tuple(HeardCall(one.at, one.number, until(one.at, moves)) for one in called if one.unit == "seconds"),
        tuple(one.at for one in called if one.unit != "seconds"),
        tuple(Half(at, half_in(at, moves)) for at in half),
        tuple(counted),
        tuple(remarks(words)),
        tuple(promises(words)),
        tuple(reminders(words)),
    )


def _explained(
    words: Sequence[Word],
    length: float,
    hearing: Hearing,
    of: Callable[[Cues], Cues],
    moves_at: dict[int, tuple[float, float]],
    *,
    roughly: bool = False,
) -> tuple[list[Sign], list[Part]]:
    """The signatures among some words, and the parts of the class that they are said in."""
    found = signs(words, hearing.namer.signatures)
    cues = of(cues_in(words, found, hearing.ear))
    places = places_of(words, cues, length)
    bonus = bonus_of(Told(words, cues, found, moves_at), places, hearing.weights, hearing.namer, hearing.sides)
    lean = hearing.idiom.sums([word.stem for word in words], len(State))
    return found, explain(hearing.model, places, cues.sums(len(words)), bonus, lean, roughly=roughly)


def in_work(parts: Sequence[Part], words: int) -> list[bool]:
    """Which words are said in work."""
    found = [False] * words
    for part in parts:
        if part.state in WORKS:
            found[part.first : part.last] = [True] * (part.last - part.first)
    return found


def _switches(rough: Sequence[_Rough], moves: Sequence[HeardMove]) -> tuple[float, ...]:
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
    return Names(heard.words, signs(heard.words, hearing.namer.signatures), hearing.namer, list(heard.counts))


def _rough(parts: Sequence[Part]) -> list[_Rough]:
    """The parts of each move together; talk is left out, and a set-up that leads to no work."""
    found: list[_Rough] = []
    for part in parts:
        if part.state in SET_UPS:
            found.append(_Rough(part, [], [], [], part.end))
        elif found and part.state in WORKS:
            found[-1].passes.append(part)
            found[-1].outs.append(part.end)
            found[-1].end = part.end
        elif found and part.state is State.SWITCH:
            found[-1].switches.append(part)
        elif found and part.state in RELEASES:
            found[-1].end = part.end
            if found[-1].outs:
                found[-1].outs[-1] = part.end
    return [one for one in found if one.passes]


def _joined(rough: Sequence[_Rough], ear: Names) -> list[_Rough]:
    """A move of one pass that opens as a second side does, and has no name of its own, is the side before it."""
    found: list[_Rough] = []
    for one in rough:
        if found and len(one.passes) == 1 and len(found[-1].passes) == 1 and ear.is_second_side(one, found[-1]):
            before = found[-1]
            again = replace(one.passes[0], state=State.AGAIN)
            found[-1] = _Rough(
                before.set_up,
                [*before.passes, again],
                [*before.switches, one.set_up],
                [*before.outs, *one.outs],
                one.end,
            )
        else:
            found.append(one)
    return found


@dataclass(frozen=True)
class Names:
    """The words of one recording, and what they are matched with."""

    words: tuple[Word, ...]
    signs: list[Sign]
    namer: Namer
    counted: list[Count]

    def moves(self, rough: Sequence[_Rough]) -> list[HeardMove]:
        """The moves with their names, sides and counts."""
        limbs = sided(self.words)
        found: list[HeardMove] = []
        for one in rough:
            first, work, last = one.set_up.first, one.set_up.last, one.passes[-1].last
            name, key, offers = self.named(first, work, last, len(one.passes) > 1)
            posture = self.namer.posture_in(self.words, first)
            sides = self._sides(one, limbs, self.namer.sides[key] if key else None)
            parts = [half for k in range(len(one.passes)) for half in self._halves(one, k, key, sides)]
            passes = tuple(
                Pass(
                    side,
                    max(0.0, part.start - BEFORE_S),
                    min(out, part.end + AFTER_S),
                    part.sure,
                    self._count(part),
                    way,
                    out,
                )
                for part, side, way, out in parts
            )
            sure = one.set_up.sure
            found.append(
                HeardMove(name, key, offers, one.set_up.start, one.end, passes, sure, first, work, last, posture)
            )
        return found

    def _halves(self, one: _Rough, k: int, key: str, sides: Sequence[str]) -> list[tuple[Part, str, str, float]]:
        """A pass, or both halves of one that turns round: each with its side, its direction and when people are out."""
        part, out, move = one.passes[k], one.outs[k], self.namer.move(key)
        first, second = ways(move, self.words[one.set_up.first : one.passes[0].last])
        turn = turns(move, self.words, one.set_up.first, (part.first, part.last))
        if turn is None:
            two = set(sides) == {"first", "second"}
            directed = two and move is not None and move.sidedness is Sidedness.EACH_DIRECTION
            return [(part, sides[k], (first, second)[k] if directed else "", out)]
        at = self.words[turn].at
        alone = len(sides) == 1 and sides[k] == "both"
        return [
            (replace(part, last=turn, end=at), "first" if alone else sides[k], first, at),
            (replace(part, first=turn, start=at + BEFORE_S), "second" if alone else sides[k], second, out),
        ]

    def named(self, first: int, work: int, last: int, twice: bool) -> tuple[str, str, tuple[Offer, ...]]:
        """What a move is called, its key, and what else it could be; by the speaker's own words where nothing fits."""
        posture = self.namer.posture_in(self.words, first)
        offers = self.namer.offers(self.words, self.signs, (first, work, last), posture, twice)[:3]
        if offers and offers[0].score >= NAMED:
            return offers[0].name, offers[0].key, offers
        own = " ".join(word.text for word in self.words[first : min(max(work, first + 1), first + 6)])
        return own[:1].upper() + own[1:], "", offers

    def is_second_side(self, one: _Rough, before: _Rough) -> bool:
        """Whether a move is the other side of the one before: the same, or a limb of the other side without a name."""
        first, work = one.set_up.first, one.set_up.last
        if one.set_up.start - before.passes[-1].end > AGAIN_S:
            return False
        own = self._offers(one)
        same = [offer for offer in own if offer.key in {other.key for other in self._offers(before)[:1]}]
        if same and own and own[0].score - same[0].score <= AS_GOOD:
            return True
        opens = any(first <= n < work for n in flips(self.words, sided(self.words)))
        return opens and (not own or own[0].score < NAMED + 0.6)

    def _offers(self, one: _Rough) -> tuple[Offer, ...]:
        place = (one.set_up.first, one.set_up.last, one.passes[-1].last)
        return self.namer.offers(self.words, self.signs, place, self.namer.posture_in(self.words, one.set_up.first))

    def _sides(self, one: _Rough, limbs: Sequence[tuple[int, str, str]], sidedness: Sidedness | None) -> list[str]:
        told = []
        for k, part in enumerate(one.passes):
            way = one.set_up if k == 0 else one.switches[k - 1] if k - 1 < len(one.switches) else part
            told.append(self._side(limbs, way.first, part))
        if len(told) == 1:
            alone = sidedness in (Sidedness.TOGETHER, Sidedness.ALTERNATING)
            return [told[0] if told[0] and not alone else "both"]
        first, second = told[0], told[1]
        if first and second in ("", first):
            second = OTHER[first]
        elif second and not first:
            first = OTHER[second]
        sides = [first or "first", second or "second"]
        for k in range(2, len(told)):
            sides.append(told[k] or sides[k - 2])
        return sides

    def _side(self, limbs: Sequence[tuple[int, str, str]], first: int, part: Part) -> str:
        """The side named on the way into a pass: the one that people turn to, or else the first one named."""
        until = part.start + SIDE_WITHIN_S
        told = [one for one in limbs if first <= one[0] < part.last and self.words[one[0]].at <= until]
        for n, side, limb in told:
            before = " ".join(word.text for word in self.words[max(first, n - 5) : n])
            if limb == "shoulder" and _TURNS.search(before):
                return side
        return told[0][1] if told else ""

    def _count(self, part: Part) -> int:
        inside = [one for one in self.counted if part.first <= one.first < part.last and not one.down]
        return max((one.numbers[-1] for one in inside), default=0)


def until(at: float, moves: Sequence[HeardMove]) -> float | None:
    """Seconds from a call to the end of the pass that it is in."""
    ends = (one.end for move in moves for one in move.passes if one.start <= at < one.end)
    end = next(ends, None)
    return end - at if end is not None and end - at <= WITHIN_S else None


def half_in(at: float, moves: Sequence[HeardMove]) -> int | None:
    """How far into its pass a time is, in percent; None outside of work."""
    one = next((one for move in moves for one in move.passes if one.start <= at < one.end), None)
    return round(100 * (at - one.start) / one.seconds) if one else None
