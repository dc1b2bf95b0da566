"""What a class is made of: a move with its dose and words, time without a move, and quiet."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import ClassVar

from extendum.core.model.body import Side
from extendum.core.model.dose import Breaths, Dose, Manner, Reps, Timed
from extendum.core.model.dose_kinds import describe
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.keeping import Keep, Leavable, Matters
from extendum.core.model.marks import refuse_waits
from extendum.core.model.move import Move, OptionKind, Sidedness, Target
from extendum.core.model.notes import Note
from extendum.core.model.placeholders import check_placeholders, placeholders
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.style import Countdown, CueStyle, Facing, RepCount, SideNames, cued_by
from extendum.core.model.talk import Quiet, Talk
from extendum.core.model.words import Words


@dataclass(frozen=True, slots=True)
class Stage(Checked):
    """A further dose within a pass: reps, then stay; slow, then quick; or another place, such as the wall farther away.

    It keeps the side and the props. What it has of its own (figure, targets, how the teacher stands) holds for it
    alone; what it has not is that of the move.
    """

    dose: Dose
    name: str = text(120, "")
    words: str = text(1000, "", "said before it begins")
    short: str = text(1000, "", "instead of them in later passes")
    way_s: int = whole(0, 600, 0, "to get there, as it really takes; the words may take longer")
    figure: str = text(80, "", "the key of the move whose figure it has")
    targets: tuple[Target, ...] = ()
    facing: Facing | None = None
    prompts: tuple[Prompt, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        for name in ("words", "short"):
            check_placeholders(name, getattr(self, name))
            refuse_waits(name, getattr(self, name))


#: How many other moves may be kept ready for an item.
MOST_INSTEAD = 6


@dataclass(frozen=True, slots=True)
class Instead(Checked):
    """Another move that may be done instead, with its own dose and words: on the chair instead."""

    move: Move
    dose: Dose
    words: Words = Words()
    then: tuple[Stage, ...] = ()
    extra: Extra = extra()

    @property
    def name(self) -> str:
        """What it is called."""
        return self.move.name


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


class CountIs(StrEnum):
    """What the count of alternating reps or breaths counts."""

    PER_SIDE = "per side"
    TOTAL = "in total"


@dataclass(frozen=True, slots=True)
class MoveItem(Leavable, Checked):
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
    count_reps: RepCount | None = None
    last_calls: int | None = whole(0, 3, None, "of the last reps or breaths; as the class has it if left out")
    facing: Facing = Facing.TOWARDS
    notes: tuple[Note, ...] = ()
    instead: tuple[Instead, ...] = ()
    between: bool = False
    self_led: bool = False
    keep: Keep = Keep.ALWAYS
    dropped: bool = False
    matters: Matters = Matters.AS_OTHERS
    taken: str = text(40, "", "which form of the library's move it was made from")
    home: int | None = whole(1, 3600, None, "what of it to do at home, in seconds or counts of its dose; null: nothing")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)
        if len(self.instead) > MOST_INSTEAD:
            raise RefusedError("instead", f"at most {MOST_INSTEAD} other moves", len(self.instead))

    @property
    def name(self) -> str:
        """What the running order calls it."""
        return self.move.name

    def ladder(self, kind: PromptKind) -> tuple[str, ...]:
        """The easier (or the deeper) options in words, one rung after the other: what is said, then what is kept."""
        said = (prompt.text for prompt in self.words.prompts if prompt.kind is kind)
        return tuple(dict.fromkeys((*said, *self.move.ways(OptionKind(kind.value)))))

    def doing(self, nth: int) -> MoveItem:
        """The item with another of its moves, counted from 0; its present move stays ready instead."""
        now, left = self.instead[nth], Instead(self.move, self.dose, self.words, self.then)
        instead = tuple(left if n == nth else one for n, one in enumerate(self.instead))
        return replace(self, move=now.move, dose=now.dose, words=now.words, then=now.then, taken="", instead=instead)

    def cued(self, style: CueStyle) -> CueStyle:
        """The class's style as it is for this item."""
        own = (self.countdown, self.side_names, self.count_reps, self.last_calls)
        return style if own == _AS_THE_CLASS else cued_by(style, *own)

    @property
    def doses(self) -> tuple[Dose, ...]:
        """The doses of one pass, stage by stage."""
        return (self.dose, *(stage.dose for stage in self.then))

    def dose_at(self, stage: int) -> Dose:
        """The dose of one stage, counted from 1."""
        return self.dose if stage == 1 else self.then[stage - 2].dose

    def prompts_at(self, stage: int) -> tuple[Prompt, ...]:
        """The prompts of one stage, counted from 1."""
        return self.words.prompts if stage == 1 else self.then[stage - 2].prompts

    def timed_words(self) -> tuple[str, ...]:
        """Every text whose speaking time is part of the class's length."""
        stages = (words for stage in self.then for words in (stage.words, stage.short))
        return (*self.words.timed(), self.words.demonstration, *stages)

    def targets_at(self, stage: int) -> tuple[Target, ...]:
        """What one stage, counted from 1, is for."""
        return self.move.targets if stage == 1 else self.then[stage - 2].targets or self.move.targets

    def facing_at(self, stage: int) -> Facing:
        """How the teacher stands in one stage, counted from 1."""
        return self.facing if stage == 1 else self.then[stage - 2].facing or self.facing

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
        dose = self.dose_at(stage)
        counts = isinstance(dose, Reps | Breaths) and dose.stretch_s is None
        return counts and self.count_is is CountIs.TOTAL and self.counts_sides(stage)

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


#: An item that is cued as its class is.
_AS_THE_CLASS = (None, None, None, None)


def rep_total(item: MoveItem, stage: int, value: int) -> int:
    """How many reps or breaths a value means: where they alternate and are counted per side, twice as many."""
    many = item.dose_at(stage).many(value)
    return 2 * many if both_sides(item, stage) else many


def both_sides(item: MoveItem, stage: int) -> bool:
    """Whether the count of a stage is of each side, so that there are twice as many."""
    return item.move.sidedness.alternates and item.count_is is CountIs.PER_SIDE and item.counts_sides(stage)


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
