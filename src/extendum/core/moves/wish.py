"""What somebody wants a move for, in their own words: "opens the chest", "back of thigh, on a chair", "calms".

A text is a wish where every word of it says what a move does, to what, in which position or with which prop. Each part
is a set of what it may mean, since people say "hips" for four areas and "sitting" for a chair and the floor.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache

from extendum.core.model.body import FLOOR, Base, Posture, Region
from extendum.core.model.move import Effect, Move
from extendum.core.moves.called import ALSO, words_in

_S, _M, _T, _P, _U, _C = Effect
_DOES: Mapping[str, tuple[Effect, ...]] = {
    "stretch stretches stretching open opens opening lengthen lengthens lengthening": (_S,),
    "loosen loosens loosening release releases ease eases unlock": (_S, _M, _P),
    "mobilise mobilises mobilize mobilizes mobilising mobility move moves moving free frees": (_M,),
    "strengthen strengthens strengthening strength strong stronger tone": (_T,),
    "massage massages press presses roll rolls": (_P,),
    "warm warms warm-up warming wake wakes": (_U, _M),
    "pulse heart": (_U,),
    "calm calms calming relax relaxes relaxing settle settles settling quiet": (_C,),
}
_WHERE: Mapping[str, tuple[Posture, ...]] = {
    "standing stand": tuple(one for one in Posture if Base.of(one) is Base.STANDING),
    "chair seated sitting sit": (Posture.CHAIR, Posture.CHAIR_EDGE),
    "lying lie": (Posture.SUPINE, Posture.PRONE, Posture.SIDE_LYING),
    "kneeling kneel": (Posture.KNEELING, Posture.HALF_KNEELING, Posture.HEELS, Posture.ALL_FOURS),
    "floor mat": tuple(FLOOR),
}
#: Words that lead to a part of a wish and say nothing themselves.
_LEADS = frozenset(words_in("something that which for move exercise stretch it up out my i want need helps good gets"))


@dataclass(frozen=True, slots=True)
class Wish:
    """What a move should do, to which area, in which position, with what; an empty part does not matter."""

    effects: frozenset[Effect] = frozenset()
    regions: frozenset[Region] = frozenset()
    postures: frozenset[Posture] = frozenset()
    props: frozenset[str] = frozenset()

    def met(self, move: Move) -> int:
        """How well a move is what is wished for: 3 by its main stretch, 2 by another main effect, 1 by any, 0 not.

        Without an effect, people who look for an area want it stretched.
        """
        if self.postures and move.posture not in self.postures:
            return 0
        if not self.props <= {prop.name for prop in move.props}:
            return 0
        hit = [target for target in move.targets if not self.regions or target.region in self.regions]
        hit = [target for target in hit if not self.effects or target.effect in self.effects]
        main = [target.effect for target in hit if target.main]
        return 3 if Effect.STRETCH in main else 2 if main else int(bool(hit))


Part = tuple[str, StrEnum | str]


@cache
def _parts(props: frozenset[str]) -> dict[tuple[str, ...], frozenset[Part]]:
    """Each phrase, as words are compared, with what it may mean."""
    known: dict[tuple[str, ...], set[Part]] = {}

    def add(phrase: str, part: str, some: Iterable[StrEnum | str]) -> None:
        known.setdefault(tuple(words_in(phrase)), set()).update((part, one) for one in some)

    for words, effects in _DOES.items():
        for word in words.split():
            add(word, "effects", effects)
    for region in Region:
        for phrase in (region.value, *region.value.split(), *ALSO.get(region, "").split()):
            add(phrase, "regions", (region,))
    for words, postures in _WHERE.items():
        for word in words.split():
            add(word, "postures", postures)
    for posture in Posture:
        add(posture.value, "postures", (posture,))
    add("hands and knees", "postures", (Posture.ALL_FOURS,))
    for prop in props:
        add(prop, "props", (prop,))
    known[("chair",)] -= {("props", "chair")}
    return {words: frozenset(meant) for words, meant in known.items()}


def wish_in(text: str, props: frozenset[str]) -> Wish | None:
    """The wish that a text is; None where a word of it says something else, or where it says one thing only.

    One word alone is a name as often as a wish; what is found by names has it, too.
    """
    known, words = _parts(props), words_in(text)
    longest = max(map(len, known))
    found: dict[str, frozenset[StrEnum | str]] = {}
    at = taken = 0
    while at < len(words):
        phrase = next((n for n in range(longest, 0, -1) if tuple(words[at : at + n]) in known), 0)
        meant = known.get(tuple(words[at : at + phrase]), frozenset()) if phrase else frozenset()
        if not meant and words[at] not in _LEADS:
            return None
        by: dict[str, set[StrEnum | str]] = {}
        for part, one in meant:
            by.setdefault(part, set()).add(one)
        # What could be two things is the one that is not told yet: "warm the back, lying on the back".
        kind = next((one for one in by if one not in found), next(iter(by), None))
        if kind is not None:
            before = found.get(kind, frozenset())
            found[kind] = before & by[kind] or before | by[kind] if before else frozenset(by[kind])
            taken += 1
        at += max(phrase, 1)
    if not taken or (len(found) < 2 and "effects" not in found):
        return None
    if _U in found.get("effects", ()) and "regions" not in found:
        found["effects"] = frozenset({_U})  # what warms no area more than another raises the pulse
    return Wish(**found)  # type: ignore[arg-type]
