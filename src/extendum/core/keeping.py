"""Whether a move keeps to a brief: what speaks against it, and what it asks to be careful about.

A move that nothing speaks against is not thereby safe for anybody: these are the brief's words held
against the library's.
"""

from __future__ import annotations

import re

from extendum.core.body import FLOOR, Posture
from extendum.core.find import holds_words, searchable
from extendum.core.move import Caution, Move, Prop
from extendum.core.script import AtHand, Brief

#: What a prop must be, and what it may be said to be that contradicts it.
CONTRARY = {
    "stable": ("wobbly", "folding"),
    "without wheels": ("on wheels", "with wheels"),
    "without arms": ("with arms",),
    "light": ("heavy",),
    "firm": ("soft",),
    "not slipping": ("slippery",),
}
_CHAIR = (Posture.CHAIR, Posture.CHAIR_EDGE)


def objections(move: Move, brief: Brief) -> tuple[str, ...]:
    """What in the brief speaks against a move, each in a few words; empty when nothing does."""
    found = []
    for posture in dict.fromkeys((move.posture, move.ends_in)):
        if brief.postures and posture not in brief.postures:
            found.append(f"{posture}, no posture of it")
    found += [told for prop in move.props if prop.required and (told := _missing(prop, brief))]
    found += [f"{one.condition}: {one.advice or 'leave it out'}" for one in _cautions(move, brief) if one.leave_out]
    if brief.avoid:
        text = searchable(move)
        found += [f"“{one}” is to be avoided" for one in brief.avoid if holds_words(text, one)]
    return tuple(found)


def concerns(move: Move, brief: Brief) -> tuple[Caution, ...]:
    """The cautions of a move that somebody in the group adapts it for."""
    return tuple(one for one in _cautions(move, brief) if not one.leave_out)


def at_hand(name: str, brief: Brief) -> AtHand | None:
    """A prop of the brief by its name; a chair and a mat are at hand where the brief's postures need them."""
    for one in brief.props:
        if one.name.casefold() == name.casefold():
            return one
    implied = {"chair": any(p in _CHAIR for p in brief.postures), "mat": any(p in FLOOR for p in brief.postures)}
    return AtHand(name) if implied.get(name) else None


def wrong_kind(prop: Prop, has: AtHand) -> str:
    """What a prop at hand is that contradicts what the move needs; empty when nothing is known to."""
    for must, contraries in CONTRARY.items():
        for contrary in contraries:
            if re.search(rf"\b{must}\b", prop.must_be) and re.search(rf"\b{contrary}\b", has.like.casefold()):
                return f"the {prop.name} must be {must}, and is {contrary}"
    return ""


def _missing(prop: Prop, brief: Brief) -> str:
    if not brief.props:
        return ""
    has = at_hand(prop.name, brief)
    return f"no {prop.name} at hand" if has is None else wrong_kind(prop, has)


def _cautions(move: Move, brief: Brief) -> tuple[Caution, ...]:
    has = {one.casefold() for one in brief.conditions}
    return tuple(one for one in move.cautions if one.condition.casefold() in has)
