"""What makes one class better than another: one table of whole numbers, and four sliders that shift it.

All weights count half seconds of one side, seconds, or occurrences. docs/propose.md shows the table and says why.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.model.body import Region

#: Up to so many half seconds a side a wanted area is worth the most, then less, then least; beyond that nothing.
SHARES = (60, 60, 120)
#: Half seconds a side up to which an area counts that nobody asked for, in full and by half.
UNWANTED_SHARES = (40, 80)
#: Parts of the body whose areas belong to those of a wanted one: nobody expects a thigh in a class for wrists.
NEIGHBOURS = {
    "upper": ("upper", "arms", "trunk"),
    "arms": ("arms", "upper"),
    "trunk": ("trunk", "upper", "legs"),
    "legs": ("legs", "trunk"),
}
#: The front of the body and its back: a class for both, or for nothing in particular, opens neither much more.
FRONT = frozenset({Region.CHEST, Region.ABDOMINALS, Region.HIP_FRONT, Region.FRONT_THIGH})
BACK = frozenset({Region.UPPER_BACK, Region.LOWER_BACK, Region.BACK_THIGH, Region.CALF})
#: Half seconds a side by which one may get more than the other before it counts.
UNEVEN_FROM = 60
#: Small areas are worth something only where the brief wants them: no class is filled with them.
SMALL = frozenset({Region.EYES, Region.JAW, Region.HAND, Region.WRIST, Region.FOOT, Region.FOREARM})
#: The sliders go from -SLIDE to SLIDE; each step adds or takes a quarter.
SLIDE = 2


@dataclass(frozen=True, slots=True)
class Sliders:
    """What an instructor shifts: reach over ease, calm over change, variety over repetition, known over new."""

    reach: int = 0
    calm: int = 0
    variety: int = 0
    familiarity: int = 0


@dataclass(frozen=True, slots=True)
class Weights:
    """What each thing adds to a class (the first six), or takes from it.

    A half second of a wanted area is worth the three numbers for its first, second and third share: with the effect
    that it is wanted for, with another, and in strength where nobody asked for it. Areas that are not wanted have one
    share; their second number is for strength.
    """

    wanted: tuple[int, int, int] = (10, 7, 3)
    wanted_otherwise: tuple[int, int, int] = (5, 3, 1)
    wanted_strength: tuple[int, int, int] = (3, 1, 0)
    near: tuple[int, int] = (4, 1)
    unwanted: tuple[int, int] = (2, 1)
    known: int = 0
    skipped: int = 80
    uneven: int = 2
    way_s: int = 6
    change: int = 40
    support: int = 90
    floor: int = 60
    dose_step: int = 12
    move: int = 70
    crowd: int = 150
    relative: int = 200
    caution: int = 60

    def shifted(self, sliders: Sliders) -> Weights:
        """The table as the sliders shift it; beyond its ends a slider stays there."""

        def by(value: int, slider: int) -> int:
            return value * (4 + max(-SLIDE, min(SLIDE, slider))) // 4

        return replace(
            self,
            wanted=(by(self.wanted[0], sliders.reach), by(self.wanted[1], sliders.reach), self.wanted[2]),
            way_s=by(self.way_s, sliders.calm),
            change=by(self.change, sliders.calm),
            support=by(self.support, sliders.calm),
            floor=by(self.floor, sliders.calm),
            crowd=by(self.crowd, sliders.variety),
            relative=by(self.relative, sliders.variety),
            known=40 * max(-SLIDE, min(SLIDE, sliders.familiarity)),
        )
