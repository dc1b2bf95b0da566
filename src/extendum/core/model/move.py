"""A move: one stretch or exercise, as the library describes it and a class copies it."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.audience import check_texts
from extendum.core.model.body import Posture, Region, Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.placeholders import check_placeholders


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
        return self is Sidedness.ALTERNATING or self is Sidedness.CROSSED_ALTERNATING


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


class Named(StrEnum):
    """What the spoken side of a move names: the lead side is judged by it."""

    LIMB = "the limb that moves"
    HELPER = "the hand that helps"
    FRONT = "the leg in front"
    BEHIND = "the leg behind"
    TOP = "the limb on top"
    STANDING = "the leg that one stands on"
    LEAN = "where one leans"
    LOOK = "where one looks or turns"
    LIES = "the side that one lies on"


class OnSide(StrEnum):
    """Which side a target is on, seen from the side that the words name."""

    NAMED = "the named side"
    OTHER = "the other side"
    BOTH = "both sides"


class Bearing(StrEnum):
    """What carries weight beside the base of support, and may not be able to."""

    WRISTS = "wrists"
    KNEES = "knees"


@dataclass(frozen=True, slots=True)
class Target(Checked):
    """A region with the effect on it; main or secondary, never added together.

    The words speak the named side and coverage counts the worked one: a calf stretch with the left
    foot in front stretches the right calf (`OnSide.OTHER`).
    """

    region: Region
    effect: Effect = Effect.STRETCH
    main: bool = True
    side: OnSide = OnSide.NAMED
    extra: Extra = extra()


_SWAPPED = {"left": "right", "right": "left", "Left": "Right", "Right": "Left"}
_LEFT_OR_RIGHT = re.compile(r"\b(?:[Ll]eft|[Rr]ight)\b")
#: Seconds to pick up, put down and re-rig, where a prop does not say otherwise.
PICK_UP_S, PUT_DOWN_S, RERIG_S = 5, 3, 8


#: How many mistakes to watch for a move may name.
MOST_WATCHED = 4
#: Things that stay where they are, and seats, which do so while one sits on them.
IN_PLACE = frozenset({"wall", "doorway", "door frame", "corner", "rail", "railing", "window sill", "floor"})
SEATS = frozenset({"chair", "stool", "bench", "seat"})
SEATED = (Posture.CHAIR, Posture.CHAIR_EDGE)


@dataclass(frozen=True, slots=True)
class Prop(Checked):
    """A thing that a move needs, and what it must be."""

    name: str = text(60, shortest=1)
    must_be: str = text(200, "")
    or_else: tuple[str, ...] = ()
    pick_up_s: int = whole(0, 120, PICK_UP_S, "0 for a wall or a chair one sits on")
    put_down_s: int = whole(0, 120, PUT_DOWN_S)
    rerig_s: int = whole(0, 120, 0, "at every change of side, as for a strap round one foot")
    rig: str = text(60, "", "how it is held or put: another way than in the move before takes handling")
    required: bool = True
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_texts("or_else", self.or_else)

    @property
    def called(self) -> str:
        """Its name, with what serves as well: ``strap, or a belt or towel``."""
        return f"{self.name}, or a {' or '.join(self.or_else)}" if self.or_else else self.name

    def stands_in(self, posture: Posture) -> bool:
        """Whether nobody handles it in a posture: it stays where it is, as a wall, or the seat that one sits on."""
        name = self.name.casefold()
        return name in IN_PLACE or (name in SEATS and posture in SEATED)


@dataclass(frozen=True, slots=True)
class Caution(Checked):
    """For whom or when a move is unfit, and what to say or do.

    ``leave_out``: people with the condition leave the move out; otherwise they adapt it as the advice says.
    ``instead``: where it is left out, the key of a move that they can do.
    """

    condition: str = text(120, shortest=1)
    advice: str = text(400, "")
    leave_out: bool = False
    instead: str = text(80, "", "the key of a move for those who leave this one out")
    extra: Extra = extra()


class OptionKind(StrEnum):
    """In which way a move can be done otherwise."""

    EASIER = "easier"
    DEEPER = "deeper"
    OTHER_POSTURE = "other posture"
    WITHOUT_PROP = "without the prop"
    ONE_AT_A_TIME = "one at a time"
    ADJUST = "not feeling it"


@dataclass(frozen=True, slots=True)
class Option(Checked):
    """Another way to do a move: in words, or another move of the library by its key, or both."""

    kind: OptionKind
    words: str = text(400, "")
    move: str = text(80, "", "the key of another move")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if not self.words and not self.move:
            raise RefusedError("words", "given where no other move is named", "nothing")


@dataclass(frozen=True, slots=True)
class Watch(Checked):
    """A common mistake: what the teacher sees, and what to say to those who make it."""

    seen: str = text(200, shortest=1)
    say: str = text(200, shortest=1)
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("say", self.say)


@dataclass(frozen=True, slots=True)
class Move(Checked):
    """One stretch or exercise, without the dose and words that a class gives it."""

    name: str = text(200, shortest=1)
    key: str = text(80, "", "the library's name for it; empty for one of the teacher's own")
    posture: Posture = Posture.STANDING
    end_posture: Posture | None = None
    sidedness: Sidedness = Sidedness.TOGETHER
    named: Named = Named.LIMB
    kind: Kind = Kind.STATIC
    effort: int = whole(1, 5, 2)
    directions: tuple[str, ...] = ("forward", "backward")
    #: A left and a right in their names are those of the left side: on the right side they change places.
    directions_follow_side: bool = False
    space: str = text(200, "", "room that it takes")
    targets: tuple[Target, ...] = ()
    props: tuple[Prop, ...] = ()
    weight_on: tuple[Bearing, ...] = ()
    slow_rise_s: int = whole(0, 60, 0, "seconds that coming out takes at the least")
    cautions: tuple[Caution, ...] = ()
    options: tuple[Option, ...] = ()
    watch: tuple[Watch, ...] = ()
    why: str = text(300, "", "what it is for, in one true sentence without a promise")
    why_from: str = text(200, "", "where that is known from: the key of a source that ships, or one in words")
    figure: str = text(80, "", "the key of the move whose figure it has; its own if left out")
    figure_flipped: bool = False
    figure_view: int | None = whole(0, 359, None, "degrees from the side to the front; as the figure is if left out")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if len(self.watch) > MOST_WATCHED:
            raise RefusedError("watch", f"at most {MOST_WATCHED} mistakes", len(self.watch))
        if len(self.directions) != 2 or not all(0 < len(one) <= 40 for one in self.directions):
            raise RefusedError("directions", "two names of 1 to 40 characters", ", ".join(self.directions))
        for one in self.directions:
            check_placeholders("directions", one, ("side", "other") if self.sided else ())

    @property
    def sided(self) -> bool:
        """Whether it is done once for each side."""
        return self.sidedness.by_side

    def direction_on(self, written: str, side: Side) -> str:
        """A direction as it is on a side: left and right change places where directions follow the side."""
        if not self.directions_follow_side or side is not Side.RIGHT:
            return written
        return _LEFT_OR_RIGHT.sub(lambda match: _SWAPPED[match.group()], written)

    @property
    def ends_in(self) -> Posture:
        """The posture after the last pass."""
        return self.end_posture or self.posture

    @property
    def main_regions(self) -> tuple[Region, ...]:
        """The regions that it is for."""
        return tuple(dict.fromkeys(target.region for target in self.targets if target.main))

    def option(self, kind: OptionKind) -> Option | None:
        """The option of a kind: the first that names another move, otherwise the first in words."""
        of_kind = [one for one in self.options if one.kind is kind]
        return next((one for one in of_kind if one.move), of_kind[0] if of_kind else None)

    def ways(self, kind: OptionKind) -> tuple[str, ...]:
        """The options of a kind in words, from the nearest to the furthest."""
        return tuple(one.words for one in self.options if one.kind is kind and one.words)
