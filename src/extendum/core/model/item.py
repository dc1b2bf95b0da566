"""What a class is made of: a move with its dose and words, time without a move, and quiet."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import ClassVar

from extendum.core.model.body import Side
from extendum.core.model.dose import Breaths, Dose, Elastic, Manner, Reps, Timed, describe
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.move import Move, Prop, Sidedness
from extendum.core.model.style import Countdown, CueStyle, Facing, SideNames, cued_by
from extendum.core.model.words import TALK_PLACEHOLDERS, Words, check_placeholders, placeholders


@dataclass(frozen=True, slots=True)
class Stage(Checked):
    """A further dose in the same position within a pass: reps, then stay; slow, then quick."""

    dose: Dose
    name: str = text(120, "")
    words: str = text(1000, "", "said before it begins")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words)


class SetOrder(StrEnum):
    """How sets and sides follow one another."""

    SIDE_BY_SIDE = "LLRR"
    SET_BY_SET = "LRLR"


class DirectionOrder(StrEnum):
    """Which comes first of sides and directions: both directions of a side, or both sides of a direction."""

    SIDE_BY_SIDE = "side by side"
    DIRECTION_BY_DIRECTION = "direction by direction"


class ReleaseAfter(StrEnum):
    """After which passes the class comes out and hears the release words.

    As usual: after each side, and once after the last direction; a change of sides then stands for it.
    """

    USUAL = "as usual"
    ALWAYS = "every pass"
    EACH_SIDE = "each side"
    ONCE = "once"


class Keep(StrEnum):
    """Whether an item is always in the class, may be left out by a fit, or is left out by hand."""

    ALWAYS = "always in"
    OPTIONAL = "may be left out"
    OUT = "left out"


class Matters(StrEnum):
    """How much an item matters to the teacher when something has to give."""

    LESS = "matters less"
    AS_OTHERS = "as the others"
    MOST = "matters most"

    @property
    def halves(self) -> int:
        """Its weight in a fit, in halves: a half, one, two."""
        return {Matters.LESS: 1, Matters.MOST: 4}.get(self, 2)


class _Kept:
    """An item that can be left out: by hand, or by a fit where it is optional."""

    __slots__ = ()
    keep: Keep
    dropped: bool

    @property
    def present(self) -> bool:
        """Whether it is in the class now."""
        return self.keep is Keep.ALWAYS or (self.keep is Keep.OPTIONAL and not self.dropped)


class CountIs(StrEnum):
    """What the count of alternating reps or breaths counts."""

    PER_SIDE = "per side"
    TOTAL = "in total"


@dataclass(frozen=True, slots=True)
class MoveItem(_Kept, Checked):
    """A move used in a class, copied in, with its own dose and words."""

    tag: ClassVar[str] = "move"

    id: str = identifier()
    move: Move  # type: ignore[misc] # identifier() above sets bounds, not a default
    dose: Dose  # type: ignore[misc]
    words: Words = Words()
    then: tuple[Stage, ...] = ()
    sets: int = whole(1, 20, 1)
    rest_s: int = whole(0, 600, 0, "between sets")
    set_order: SetOrder = SetOrder.SIDE_BY_SIDE
    direction_order: DirectionOrder = DirectionOrder.SIDE_BY_SIDE
    release_after: ReleaseAfter = ReleaseAfter.USUAL
    count_is: CountIs = CountIs.PER_SIDE
    lead_side: Side | None = None
    demonstrate_s: int = whole(0, 600, 0, "shown first, before the first pass")
    way_s: int = whole(0, 600, 0, "of the way into its first pass, as it really takes; 0: from postures and props")
    switch_s: int = whole(0, 600, 0, "of a change of sides, as it really takes; 0: from the posture and props")
    turn_s: int = whole(0, 600, 0, "of a change of direction, as it really takes; 0: one second")
    say_way: bool = True
    countdown: Countdown | None = None
    side_names: SideNames | None = None
    facing: Facing = Facing.TOWARDS
    between: bool = False
    self_led: bool = False
    keep: Keep = Keep.ALWAYS
    dropped: bool = False
    matters: Matters = Matters.AS_OTHERS
    taken: str = text(40, "", "which form of the library's move it was made from")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)

    @property
    def name(self) -> str:
        """What the running order calls it."""
        return self.move.name

    def cued(self, style: CueStyle) -> CueStyle:
        """The class's style as it is for this item."""
        if self.countdown is None and self.side_names is None:
            return style
        return cued_by(style, self.countdown, self.side_names)

    @property
    def doses(self) -> tuple[Dose, ...]:
        """The doses of one pass, stage by stage."""
        return (self.dose, *(stage.dose for stage in self.then))

    def dose_at(self, stage: int) -> Dose:
        """The dose of one stage, counted from 1."""
        return self.dose if stage == 1 else self.then[stage - 2].dose

    def timed_words(self) -> tuple[str, ...]:
        """Every text whose speaking time is part of the class's length."""
        return (*self.words.timed(), self.words.demonstration, *(stage.words for stage in self.then))

    def said(self) -> frozenset[str]:
        """The placeholders of every text whose speaking time is part of the class's length."""
        return placeholders(*self.timed_words())

    @property
    def alternates(self) -> bool:
        """Whether the side changes inside a pass: with every rep, from moment to moment, or at half of a time."""
        timed = any(isinstance(dose, Timed) and dose.manner is not Manner.STEADY for dose in self.doses)
        return self.move.sidedness.alternates or (timed and not self.move.sided)

    def counts_sides(self, stage: int) -> bool:
        """Whether each rep or breath of a stage, from 1, is of one side, and the next one of the other."""
        return self.move.sidedness.alternates and isinstance(self.dose_at(stage), Reps | Breaths)

    def even(self, stage: int) -> bool:
        """Whether the count of a stage must be even for both sides to get the same: alternating, counted in total."""
        return self.count_is is CountIs.TOTAL and self.counts_sides(stage)

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity of its first dose."""
        return self.dose.quantity

    def having(self, quantity: Elastic, stage: int = 1) -> MoveItem:
        """The same item with another quantity in one of its stages, counted from 1."""
        if stage == 1:
            return replace(self, dose=self.dose.having(quantity))
        then = list(self.then)
        then[stage - 2] = replace(then[stage - 2], dose=then[stage - 2].dose.having(quantity))
        return replace(self, then=tuple(then))


def rep_total(item: MoveItem, stage: int, value: int) -> int:
    """How many reps or breaths a count means: where they alternate and are counted per side, twice as many."""
    return 2 * value if item.count_is is CountIs.PER_SIDE and item.counts_sides(stage) else value


class TalkKind(StrEnum):
    """What time without a move is for."""

    TALK = "talk"
    CHECK_IN = "check-in"
    NOTICE = "notice"
    RECHECK = "recheck"
    REST = "rest"
    WATER = "water"
    PROPS = "props"
    STATION = "station"


@dataclass(frozen=True, slots=True)
class Talk(_Kept, Checked):
    """Time without a move: talk, check-in, notice pause, recheck, rest, water, props, change of station."""

    tag: ClassVar[str] = "talk"

    id: str = identifier()
    seconds: Elastic  # type: ignore[misc] # identifier() above sets bounds, not a default
    words: str = text(4000, "")
    name: str = text(200, "Talk", shortest=1)
    kind: TalkKind = TalkKind.TALK
    picks_up: tuple[Prop, ...] = ()
    puts_down: tuple[str, ...] = ()
    between: bool = False
    keep: Keep = Keep.ALWAYS
    dropped: bool = False
    matters: Matters = Matters.AS_OTHERS
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, TALK_PLACEHOLDERS)

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Talk:
        """The same item with different seconds."""
        return replace(self, seconds=quantity)


@dataclass(frozen=True, slots=True)
class Quiet(Checked):
    """Silence that gives: every class closes with one, or half of its lengths are out of reach."""

    tag: ClassVar[str] = "quiet"

    id: str = identifier()
    seconds: Elastic = Elastic(0, 6, 20)
    name: str = text(200, "Closing quiet", shortest=1)
    extra: Extra = extra()

    @property
    def present(self) -> bool:
        """Quiet is always in: it can be nothing."""
        return True

    @property
    def matters(self) -> Matters:
        """Quiet matters as the others."""
        return Matters.AS_OTHERS

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Quiet:
        """The same item with different seconds."""
        return replace(self, seconds=quantity)


Item = MoveItem | Talk | Quiet


def is_out(item: Item) -> bool:
    """Whether an item is left out by hand, so that no fit brings it back."""
    return not isinstance(item, Quiet) and item.keep is Keep.OUT


def may_go(item: Item) -> bool:
    """Whether a fit may leave an item out."""
    return not isinstance(item, Quiet) and item.keep is Keep.OPTIONAL


def dropped(item: Item, *, out: bool) -> Item:
    """The item as a fit leaves it: out of the class, or in it."""
    if isinstance(item, Quiet) or item.dropped is out:
        return item
    return replace(item, dropped=out)


def dose_words(item: Item) -> str:
    """The dose of any item in a few words."""
    if not isinstance(item, MoveItem):
        return f"{item.quantity.value} s"
    told = " + ".join(describe(dose) for dose in item.doses)
    if item.sets > 1:
        told = f"{item.sets} × {told}"
    sides = item.move.sidedness
    if sides.alternates:
        return f"{told} {'in all' if item.count_is is CountIs.TOTAL else 'a side'}"
    return told if sides is Sidedness.TOGETHER else f"{told} {_EACH[sides]}"


_EACH = {
    Sidedness.EACH_SIDE: "each side",
    Sidedness.EACH_DIRECTION: "each way",
    Sidedness.EACH_SIDE_AND_DIRECTION: "each side and way",
    Sidedness.CROSSED: "crossed",
}
