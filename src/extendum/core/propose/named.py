"""What sets a proposed class apart from those beside it, in a few words."""

from __future__ import annotations

from collections.abc import Sequence

from extendum.core.model.body import Base
from extendum.core.model.script import Script

_WHERE = {
    Base.STANDING: "on your feet",
    Base.CHAIR: "on the chair",
    Base.FLOOR: "on the floor",
    Base.LYING: "lying down",
}


def named(script: Script, others: Sequence[Script]) -> str:
    """Where most of it happens, and whether it has fewer moves than all others, or more."""
    own, many = len(list(script.moves())), [len(list(one.moves())) for one in others]
    bases = [Base.of(item.move.posture) for item in script.moves()]
    if not bases:
        return "Nothing yet"
    most = max(Base, key=bases.count)
    where = f"{'Mostly' if len(set(bases)) > 1 else 'All'} {_WHERE[most]}"
    if many and own < min(many):
        return f"{where}, fewer moves"
    return f"{where}, more moves" if many and own > max(many) else where
