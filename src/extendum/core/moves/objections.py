"""Whether a move keeps to a brief: what speaks against it, and what it asks to be careful about.

A move that nothing speaks against is not thereby safe for anybody: these are the brief's words held
against the library's.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from enum import Enum, auto

from extendum.core.model.brief import AtHand, Brief
from extendum.core.model.move import Caution, Move, Prop
from extendum.core.moves.find import holds_words
from extendum.core.timing.at_hand import thing_at_hand

#: What a prop must be, and what it may be said to be that contradicts it.
CONTRARY = {
    "stable": ("wobbly", "folding"),
    "without wheels": ("on wheels", "with wheels"),
    "without arms": ("with arms",),
    "light": ("heavy",),
    "firm": ("soft",),
    "not slipping": ("slippery",),
}


class Against(Enum):
    """What of a brief speaks against a move."""

    POSTURE = auto()
    PROP = auto()
    PROP_KIND = auto()
    CONDITION = auto()
    AVOIDED = auto()


@dataclass(frozen=True, slots=True)
class Objection:
    """One thing that speaks against a move, in a few words, and what to do about it."""

    against: Against
    what: str
    advice: str = ""

    @property
    def told(self) -> str:
        """Both in one line."""
        return f"{self.what}: {self.advice}" if self.advice else self.what


def objections_to(move: Move, brief: Brief) -> Iterator[Objection]:
    """What in the brief speaks against a move; nothing when it keeps to it."""
    for posture in dict.fromkeys((move.posture, move.ends_in)):
        if brief.postures and posture not in brief.postures:
            yield Objection(Against.POSTURE, f"{posture} is not in the brief's postures")
    for prop in move.props:
        if prop.required and brief.props:
            has = thing_at_hand(prop, brief)
            if has is None:
                yield Objection(Against.PROP, f"no {prop.called} at hand")
            elif wrong := wrong_kind(prop, has):
                yield Objection(Against.PROP_KIND, wrong)
    for one in _cautions(move, brief):
        if one.leave_out:
            yield Objection(Against.CONDITION, one.condition, one.advice or "Leave it out.")
    for words in brief.avoid:
        if holds_words(move, words):
            yield Objection(Against.AVOIDED, f"the brief says to avoid “{words}”")


def objections(move: Move, brief: Brief) -> tuple[str, ...]:
    """What in the brief speaks against a move, each in a few words; empty when nothing does."""
    return tuple(one.told for one in objections_to(move, brief))


def concerns(move: Move, brief: Brief) -> tuple[Caution, ...]:
    """The cautions of a move that somebody in the group adapts it for."""
    return tuple(one for one in _cautions(move, brief) if not one.leave_out)


def wrong_kind(prop: Prop, has: AtHand) -> str:
    """What a prop at hand is that contradicts what the move needs; empty when nothing is known to."""
    for must, contraries in CONTRARY.items():
        for contrary in contraries:
            if re.search(rf"\b{must}\b", prop.must_be) and re.search(rf"\b{contrary}\b", has.like.casefold()):
                return f"the {prop.name} must be {must}, and is {contrary}"
    return ""


def _cautions(move: Move, brief: Brief) -> tuple[Caution, ...]:
    if not brief.conditions:
        return ()
    has = {one.casefold() for one in brief.conditions}
    return tuple(one for one in move.cautions if one.condition.casefold() in has)
