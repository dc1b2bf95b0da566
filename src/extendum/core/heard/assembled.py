"""The parts of a recording put together as moves: each with its name, its passes with their sides, and its counts."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from extendum.core.heard.bases import Place
from extendum.core.heard.calling import Count
from extendum.core.heard.directions import turned, turns, ways
from extendum.core.heard.names import Namer, Sign
from extendum.core.heard.recording import HeardMove, Offer, Pass
from extendum.core.heard.said import Word
from extendum.core.heard.sides import OTHER, flips, sided
from extendum.core.heard.states import RELEASES, SET_UPS, WORKS, Part, State
from extendum.core.model.move import Sidedness

#: People are in position a little before the words for it are over.
BEFORE_S = 1.0
#: And out of it a little after the words for that have begun.
AFTER_S = 1.0
#: A move whose name has less than this for it keeps the speaker's own words.
NAMED = 9.5
#: The side of a pass is named on the way into it, or so long after.
SIDE_WITHIN_S = 6.0
#: A second side begins so soon after the first one, and is as good a match for its move as any, within so much.
AGAIN_S, AS_GOOD = 12.0, 0.3
_TURNS = re.compile(r"\b(?:look|looks|turn|twist|rotate)\b")


@dataclass
class Rough:
    """A move as its parts come: its set-up, its passes, and the switches between them."""

    set_up: Part
    passes: list[Part]
    switches: list[Part]
    outs: list[float]
    end: float


def rough_of(parts: Sequence[Part]) -> list[Rough]:
    """The parts of each move together; talk is left out, and a set-up that leads to no work."""
    found: list[Rough] = []
    for part in parts:
        if part.state in SET_UPS:
            found.append(Rough(part, [], [], [], part.end))
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


def place_of(one: Rough) -> Place:
    """The first word of a move, the first of its work, and the one after its last."""
    return one.set_up.first, one.set_up.last, one.passes[-1].last


def joined(rough: Sequence[Rough], ear: Names) -> list[Rough]:
    """A move of one pass that opens as a second side does, and has no name of its own, is the side before it."""
    found: list[Rough] = []
    for one in rough:
        if found and len(one.passes) == 1 and len(found[-1].passes) == 1 and ear.is_second_side(one, found[-1]):
            before = found[-1]
            again = replace(one.passes[0], state=State.AGAIN)
            found[-1] = Rough(
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
    """The words of one recording, and what they are matched with; ``bases``: how likely people are where in a move."""

    words: tuple[Word, ...]
    signs: Sequence[Sign]
    namer: Namer
    counted: Sequence[Count]
    bases: Callable[[Place], tuple[float, ...]]

    def moves(self, rough: Sequence[Rough]) -> list[HeardMove]:
        """The moves with their names, sides and counts."""
        limbs = sided(self.words)
        found: list[HeardMove] = []
        for one in rough:
            first, work, last = one.set_up.first, one.set_up.last, one.passes[-1].last
            name, key, offers = self.named(first, work, last, len(one.passes) > 1)
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
            start, bases = one.set_up.start, self.bases((first, work, last))
            posture = self.namer.posture(key, bases)
            found.append(HeardMove(name, key, offers, start, one.end, passes, sure, first, work, last, bases, posture))
        return found

    def _halves(self, one: Rough, k: int, key: str, sides: Sequence[str]) -> list[tuple[Part, str, str, float]]:
        """A pass, or both halves of one that turns round: each with its side, its direction and when people are out."""
        part, out, move = one.passes[k], one.outs[k], self.namer.move(key)
        first, second = ways(move, self.words[one.set_up.first : one.passes[0].last])
        turn = turns(move, self.words, one.set_up.first, (part.first, part.last), (part.start, out))
        if turn is None:
            two = set(sides) == {"first", "second"}
            directed = two and (
                (move is not None and move.sidedness is Sidedness.EACH_DIRECTION)
                or turned(move, self.words, one.set_up.first, (one.passes[0].last, one.passes[1].first))
            )
            return [(part, sides[k], (first, second)[k % 2] if directed else "", out)]
        at = self.words[turn].at
        alone = len(sides) == 1 and sides[k] == "both"
        return [
            (replace(part, last=turn, end=at), "first" if alone else sides[k], first, at),
            (replace(part, first=turn, start=at + BEFORE_S), "second" if alone else sides[k], second, out),
        ]

    def named(self, first: int, work: int, last: int, twice: bool) -> tuple[str, str, tuple[Offer, ...]]:
        """What a move is called, its key, and what else it could be; by the speaker's own words where nothing fits."""
        place = (first, work, last)
        offers = self.namer.offers(self.scores(place, self.bases(place), twice))[:3]
        if offers and offers[0].score >= NAMED:
            return offers[0].name, offers[0].key, offers
        own = " ".join(word.text for word in self.words[first : min(max(work, first + 1), first + 6)])
        return own[:1].upper() + own[1:], "", offers

    def is_second_side(self, one: Rough, before: Rough) -> bool:
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

    def _offers(self, one: Rough) -> tuple[Offer, ...]:
        place = (one.set_up.first, one.set_up.last, one.passes[-1].last)
        return self.namer.offers(self.scores(place, self.bases(place)))

    def scores(self, place: Place, bases: tuple[float, ...], twice: bool | None = None) -> dict[str, float]:
        """How much speaks for each move of the library at a place, as ``Namer.scores`` tells."""
        return self.namer.scores(self.words, self.signs, place, bases, twice)

    def _sides(self, one: Rough, limbs: Sequence[tuple[int, str, str]], sidedness: Sidedness | None) -> list[str]:
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
