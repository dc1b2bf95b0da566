"""What a figure marks of a move: the regions it is for, and what it does to them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.model.body import Region, Side
from extendum.core.model.move import Effect, Move, OnSide


@dataclass(frozen=True, slots=True)
class Mark:
    """A region on a side, and what is done to it."""

    region: Region
    side: Side
    effect: Effect

    @property
    def stretches(self) -> bool:
        """Whether it is drawn out."""
        return self.effect is Effect.STRETCH

    @property
    def form(self) -> str:
        """What it is drawn as, also without colour: fibres, bars or dots."""
        return _FORMS.get(self.effect, "dots")

    def of_side(self, side: Side) -> Mark:
        """The mark as it is when the other side is worked."""
        return replace(self, side=self.side.other) if side is Side.RIGHT else self


#: Regions of which both sides are marked where both are worked; the others are one strip in the middle.
_PAIRED = frozenset(
    {Region.BACK_THIGH, Region.FRONT_THIGH, Region.INNER_THIGH, Region.CALF, Region.HIP_FRONT, Region.DEEP_HIP}
    | {Region.HIP_SIDE, Region.ANKLE, Region.FOOT, Region.UPPER_ARM, Region.FOREARM, Region.WRIST, Region.HAND}
    | {Region.SHOULDERS, Region.SIDE_BODY, Region.CHEST, Region.JAW, Region.NECK}
)
_FORMS = {Effect.STRETCH: "fibres", Effect.STRENGTHEN: "bars"}
_NOWHERE = frozenset({Region.WHOLE_BODY, Region.EYES, Region.BREATH})


def marks_of(move: Move) -> tuple[Mark, ...]:
    """What a figure marks of a move that is done on its left side: its main targets."""
    found: list[Mark] = []
    for target in move.targets:
        if not target.main or target.region in _NOWHERE:
            continue
        named = Side.LEFT if target.side is not OnSide.OTHER else Side.RIGHT
        both = not move.sided or target.side is OnSide.BOTH
        sides = (Side.LEFT, Side.RIGHT) if both and target.region in _PAIRED else (named,)
        found += [Mark(target.region, side, target.effect) for side in sides]
    return tuple(found)
