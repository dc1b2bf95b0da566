"""What sets proposed classes apart from each other, in a few words each."""

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


def names_of(scripts: Sequence[Script]) -> list[str]:
    """A name for each: where most of it happens; where that is the same, the first move that only this one has."""
    found = list(where := [_where(script) for script in scripts])
    moves = [[item.move for item in script.moves()] for script in scripts]
    for n, name in enumerate(where):
        elsewhere = {move.key for m, own in enumerate(moves) if m != n for move in own}
        alone = [move.name for move in moves[n] if move.key not in elsewhere]
        if where.count(name) > 1 and alone:
            found[n] = f"{name}: {alone[0]}"
    return found


def _where(script: Script) -> str:
    bases = [Base.of(item.move.posture) for item in script.moves()]
    if not bases:
        return "Nothing yet"
    most = max(Base, key=bases.count)
    return f"{'Mostly' if len(set(bases)) > 1 else 'All'} {_WHERE[most]}"
