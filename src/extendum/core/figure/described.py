"""A figure in words, for those who do not see it: made of the same data as the picture."""

from __future__ import annotations

from extendum.core.figure.figure import Figure
from extendum.core.figure.marks import Mark
from extendum.core.model.body import Base, Posture, Side
from extendum.core.model.move import Move

_BASES = {Base.STANDING: "standing", Base.CHAIR: "on a chair", Base.FLOOR: "on the floor", Base.LYING: "lying"}
_CLOSE = {"upper": "the upper body", "head": "the head", "hands": "the arms", "feet": "the feet"}


def seen_from(figure: Figure) -> str:
    """The side from which a figure is seen."""
    if figure.above > 45:
        return "from above"
    turned = figure.view % 360
    if 60 <= turned <= 120:
        return "from the front"
    if 240 <= turned <= 300:
        return "from behind"
    return "from the side"


def told(move: Move, figure: Figure, marks: tuple[Mark, ...], side: Side) -> str:
    """The text alternative of a move's figure for a side."""
    posture = str(move.posture)
    base = _BASES[Base.of(move.posture)]
    stands = posture if posture == base or move.posture in (Posture.CHAIR, Posture.CHAIR_EDGE) else f"{posture}, {base}"
    what = f" of {_CLOSE[figure.close]}" if figure.close else ""
    parts = [f"{move.name}: {stands}", f"picture{what} {seen_from(figure)}"]
    things = [name for name in dict.fromkeys(thing.name for thing in figure.things) if name != "mat"]
    parts += [f"with {' and '.join(things)}"] if things else []
    parts += ["two ends of a movement"] if figure.then else []
    areas = dict.fromkeys(str(mark.region) for mark in marks if mark.stretches)
    parts += [f"the stretch is marked at {' and '.join(areas)}"] if areas else []
    parts += [f"{side} side"] if side is not Side.BOTH else []
    return ", ".join(parts)
