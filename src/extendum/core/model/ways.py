"""Words for the way to another support: what is said where a script changes posture and its words do not say so.

For changes of support alone (standing, chair, floor, lying), not for a step within one.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from extendum.core.model.body import Base, Posture
from extendum.core.model.fields import Checked, Extra, extra, text

LONGEST_WORDS = 200


@dataclass(frozen=True, slots=True)
class WayWords(Checked):
    """An instructor's own words for the way from a support into a posture; empty to say nothing there."""

    before: Base
    posture: Posture
    words: str = text(LONGEST_WORDS, "")
    extra: Extra = extra()


_UP = {
    Base.CHAIR: "Come up to standing.",
    Base.FLOOR: "Come up to standing, in your own time.",
    Base.LYING: "Roll onto your side and come up to standing, in your own time.",
}
_CHAIR = {
    Base.STANDING: "Have a seat",
    Base.FLOOR: "Come up and have a seat",
    Base.LYING: "Roll onto your side, come up slowly and have a seat",
}
_DOWN = {
    Base.STANDING: "Come down",
    Base.CHAIR: "Come off your chair and down",
    Base.FLOOR: "Come down",
    Base.LYING: "Roll onto your side and come up",
}
_THERE = {
    Posture.CHAIR: "on your chair",
    Posture.CHAIR_EDGE: "near the front of your chair",
    Posture.LONG_SITTING: "to sit, with your legs out in front",
    Posture.STRADDLE: "to sit, with your legs wide",
    Posture.CROSS_LEGGED: "to sit, with your legs crossed",
    Posture.HEELS: "to sit on your heels",
    Posture.KNEELING: "onto your knees",
    Posture.HALF_KNEELING: "onto one knee",
    Posture.ALL_FOURS: "onto all fours",
    Posture.PLANK: "onto your hands and toes",
    Posture.SUPINE: "to lie on your back",
    Posture.PRONE: "to lie on your front",
    Posture.SIDE_LYING: "to lie on your side",
}
#: Pairs of postures for which the way by the side is a detour.
_STRAIGHT = {
    (Posture.PRONE, Posture.ALL_FOURS): "Come up onto all fours.",
    (Posture.PRONE, Posture.PLANK): "Come up onto your hands and toes.",
}


#: Every way to another support, in the order of where it leads.
WAYS = tuple((before, posture) for before in Base for posture in Posture if Base.of(posture) is not before)


def origin_of(before: Base) -> str:
    """A support as a sentence names it: from a chair, from the floor."""
    return {Base.CHAIR: "a chair", Base.FLOOR: "the floor"}.get(before, before.value)


def own_way_words(told: Mapping[tuple[Base, Posture], str]) -> tuple[WayWords, ...]:
    """Of the words for ways, those that are not as they ship."""
    return tuple(WayWords(*way, words) for way, words in told.items() if words != usual_words_from(*way))


def usual_way_words(before: Posture, posture: Posture) -> str:
    """The words that ship for the way from one posture to another; none where the support stays the same."""
    return _STRAIGHT.get((before, posture)) or usual_words_from(Base.of(before), posture)


def usual_words_from(before: Base, posture: Posture) -> str:
    """The words that ship for the way from a support into a posture."""
    to = Base.of(posture)
    if before is to:
        return ""
    if to is Base.STANDING:
        return _UP[before]
    opening = _CHAIR[before] if to is Base.CHAIR else _DOWN[before]
    return f"{opening} {_THERE[posture]}."


def way_words(before: Posture, posture: Posture, own: Iterable[WayWords] = ()) -> str:
    """The words for the way from one posture to another: the instructor's own, or those that ship."""
    base = Base.of(before)
    if base is Base.of(posture):
        return ""
    for one in own:
        if one.before is base and one.posture is posture:
            return one.words
    return usual_way_words(before, posture)
