"""A move: one stretch or exercise, as the library describes it and a class copies it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.body import Posture, Region
from extendum.core.dose import Dose
from extendum.core.errors import RefusedError
from extendum.core.fields import Checked, Extra, extra, text, whole
from extendum.core.words import Words


class Sidedness(StrEnum):
    """How a move uses the two sides."""

    TOGETHER = "together"
    EACH_SIDE = "each side"
    ALTERNATING = "alternating"
    EACH_DIRECTION = "each direction"
    EACH_SIDE_AND_DIRECTION = "each side and direction"
    CROSSED = "crossed"
    CROSSED_ALTERNATING = "crossed, alternating"

    @property
    def by_side(self) -> bool:
        """Whether there is a pass for each side; crossed: named by the arm, with the other leg."""
        return self in (Sidedness.EACH_SIDE, Sidedness.EACH_SIDE_AND_DIRECTION, Sidedness.CROSSED)

    @property
    def by_direction(self) -> bool:
        """Whether there is a pass for each direction."""
        return self in (Sidedness.EACH_DIRECTION, Sidedness.EACH_SIDE_AND_DIRECTION)

    @property
    def alternates(self) -> bool:
        """Whether the side changes with every rep inside a pass."""
        return self in (Sidedness.ALTERNATING, Sidedness.CROSSED_ALTERNATING)


class Effect(StrEnum):
    """What a move does to its target."""

    STRETCH = "stretch"
    MOBILISE = "mobilise"
    STRENGTHEN = "strengthen"
    PRESS = "press"
    PULSE = "raise the pulse"
    SETTLE = "settle"


class Kind(StrEnum):
    """What sort of work a move is."""

    MOBILITY = "mobility"
    DYNAMIC = "dynamic"
    STATIC = "static"
    BREATH = "breath"
    STRENGTH = "strength"
    PULSE_RAISER = "pulse-raiser"
    PRESSING = "pressing"


@dataclass(frozen=True, slots=True)
class Target(Checked):
    """A region with the effect on it; main or secondary, never added together."""

    region: Region
    effect: Effect = Effect.STRETCH
    main: bool = True
    extra: Extra = extra()


#: Seconds to pick up, put down and re-rig, where a prop does not say otherwise.
PICK_UP_S, PUT_DOWN_S, RERIG_S = 5, 3, 8


@dataclass(frozen=True, slots=True)
class Prop(Checked):
    """A thing that a move needs, and what it must be."""

    name: str = text(60, shortest=1)
    must_be: str = text(200, "")
    pick_up_s: int = whole(0, 120, PICK_UP_S, "0 for a wall or a chair one sits on")
    put_down_s: int = whole(0, 120, PUT_DOWN_S)
    rerig_s: int = whole(0, 120, 0, "at every change of side, as for a strap round one foot")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Caution(Checked):
    """For whom or when a move is unfit, and what to say or do."""

    condition: str = text(120, shortest=1)
    advice: str = text(400, "")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Move(Checked):
    """One stretch or exercise, without the dose and words that a class gives it."""

    name: str = text(200, shortest=1)
    key: str = text(80, "", "the library's name for it; empty for one of the teacher's own")
    posture: Posture = Posture.STANDING
    end_posture: Posture | None = None
    sidedness: Sidedness = Sidedness.TOGETHER
    kind: Kind = Kind.STATIC
    effort: int = whole(1, 5, 2)
    directions: tuple[str, ...] = ("forward", "backward")
    directions_follow_side: bool = False
    space: str = text(200, "", "room that it takes")
    targets: tuple[Target, ...] = ()
    stretches_other_side: bool = False
    props: tuple[Prop, ...] = ()
    slow_rise_s: int = whole(0, 60, 0, "seconds that coming out takes at the least")
    cautions: tuple[Caution, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if len(self.directions) != 2 or not all(0 < len(one) <= 40 for one in self.directions):
            raise RefusedError("directions", "two names of 1 to 40 characters", ", ".join(self.directions))

    @property
    def sided(self) -> bool:
        """Whether it is done once for each side."""
        return self.sidedness.by_side

    @property
    def ends_in(self) -> Posture:
        """The posture after the last pass."""
        return self.end_posture or self.posture


@dataclass(frozen=True, slots=True)
class LibraryMove(Checked):
    """A move with its usual dose and words: what a class starts from when it takes the move up."""

    move: Move
    dose: Dose
    words: Words = Words()
    extra: Extra = extra()
