"""The script of a class: brief, cueing style, sections of groups of items."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import ClassVar

from extendum.core.body import Posture, Side
from extendum.core.dose import Dose, Elastic
from extendum.core.errors import RefusedError
from extendum.core.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.move import Move, Prop
from extendum.core.steps import allowed
from extendum.core.style import CueStyle, Facing
from extendum.core.words import CLASS_PLACEHOLDERS, Words, check_placeholders

LONGEST_CLASS_S = 4 * 3600
MOST_ITEMS = 400


class Role(StrEnum):
    """What a section is for."""

    OPENING = "opening"
    WARM_UP = "warm-up"
    MAIN = "main"
    CLOSING = "closing"


@dataclass(frozen=True, slots=True)
class Brief(Checked):
    """What the class is for and how long its slot is."""

    group: str = text(200, "")
    target_s: int = whole(1, LONGEST_CLASS_S, 600)
    notes: str = text(4000, "")
    extra: Extra = extra()


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


class CountIs(StrEnum):
    """What the count of alternating reps counts."""

    PER_SIDE = "per side"
    TOTAL = "in total"


@dataclass(frozen=True, slots=True)
class MoveItem(Checked):
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
    count_is: CountIs = CountIs.PER_SIDE
    lead_side: Side | None = None
    demonstrate_s: int = whole(0, 600, 0, "shown first, before the first pass")
    facing: Facing = Facing.TOWARDS
    between: bool = False
    self_led: bool = False
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)

    @property
    def name(self) -> str:
        """What the running order calls it."""
        return self.move.name

    @property
    def doses(self) -> tuple[Dose, ...]:
        """The doses of one pass, stage by stage."""
        return (self.dose, *(stage.dose for stage in self.then))

    @property
    def even(self) -> bool:
        """Whether a count must be even for both sides to get the same: alternating, counted in total."""
        return self.move.sidedness.alternates and self.count_is is CountIs.TOTAL

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
class Talk(Checked):
    """Time without a move: talk, check-in, notice pause, recheck, rest, water, props, change of station."""

    tag: ClassVar[str] = "talk"

    id: str = identifier()
    seconds: Elastic  # type: ignore[misc] # identifier() above sets bounds, not a default
    words: str = text(4000, "")
    name: str = text(200, "Talk", shortest=1)
    kind: TalkKind = TalkKind.TALK
    picks_up: tuple[Prop, ...] = ()
    puts_down: tuple[str, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, CLASS_PLACEHOLDERS)

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Talk:
        """The same item with other seconds."""
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
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Quiet:
        """The same item with other seconds."""
        return replace(self, seconds=quantity)


Item = MoveItem | Talk | Quiet


class SidePlan(StrEnum):
    """How a group orders its sides."""

    EACH_MOVE = "each move"
    CHAIN = "whole chain"
    INTERLEAVED = "interleaved"


@dataclass(frozen=True, slots=True)
class PassRef(Checked):
    """One pass of an interleaved group: which item, on which side."""

    item: str = identifier()
    side: Side = Side.BOTH
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Group(Checked):
    """A named block of items inside a section, with its own side plan, rounds and cadence."""

    id: str = identifier()
    name: str = text(200, "")
    items: tuple[Item, ...] = ()
    side_plan: SidePlan = SidePlan.EACH_MOVE
    passes: tuple[PassRef, ...] = ()
    rounds: int = whole(1, 20, 1)
    taper_percent: int = whole(10, 100, 100, "of every dose from one round to the next")
    lead_side: Side | None = None
    reset_s: int = whole(0, 60, 0, "a little reset between items, under the transition")
    cadence_s: int = whole(0, 120, 0, "from the end of one pass to the next; 0: as long as it takes")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left, right or none", self.lead_side.value)
        if self.side_plan is SidePlan.INTERLEAVED:
            self._check_passes()

    def _check_passes(self) -> None:
        wanted: set[tuple[str, Side]] = set()
        for item in self.items:
            sided = isinstance(item, MoveItem) and item.move.sided
            wanted |= {(item.id, side) for side in ((Side.LEFT, Side.RIGHT) if sided else (Side.BOTH,))}
        given = [(ref.item, ref.side) for ref in self.passes]
        for index, pair in enumerate(given):
            if pair not in wanted:
                must = "a pass of this group's items: left or right where the item has sides, otherwise both"
                raise RefusedError(f"passes[{index}]", must, f"{pair[0]} {pair[1]}")
        counts = {pair: given.count(pair) for pair in wanted}
        for item_id, side in sorted(wanted):
            if counts[item_id, side] == 0 or counts[item_id, side] != counts.get((item_id, side.other), 0):
                raise RefusedError(
                    "passes", f"as many of {item_id} {side} as of its other side, at least one", len(given)
                )


@dataclass(frozen=True, slots=True)
class Meanwhile(Checked):
    """What goes on under several items and costs no time: feet that keep moving, talk over a march."""

    id: str = identifier()
    from_item: str = identifier()
    to_item: str = identifier()
    name: str = text(200, "Meanwhile", shortest=1)
    words: str = text(2000, "")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, CLASS_PLACEHOLDERS)


@dataclass(frozen=True, slots=True)
class Section(Checked):
    """A part of the class with a name and a role."""

    id: str = identifier()
    name: str = text(200, "", shortest=0)
    role: Role = Role.MAIN
    groups: tuple[Group, ...] = ()
    extra: Extra = extra()

    @property
    def items(self) -> tuple[Item, ...]:
        """All items of the section in order."""
        return tuple(item for group in self.groups for item in group.items)


@dataclass(frozen=True, slots=True)
class Script(Checked):
    """A whole class as the instructor wrote it."""

    title: str = text(200, shortest=1)
    brief: Brief = Brief()
    style: CueStyle = CueStyle()
    start_posture: Posture = Posture.STANDING
    sections: tuple[Section, ...] = ()
    meanwhiles: tuple[Meanwhile, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        seen: set[str] = set()
        count = 0
        for s, section in enumerate(self.sections):
            _claim(seen, section.id, f"sections[{s}].id")
            for g, group in enumerate(section.groups):
                _claim(seen, group.id, f"sections[{s}].groups[{g}].id")
                for i, item in enumerate(group.items):
                    path = f"sections[{s}].groups[{g}].items[{i}]"
                    _claim(seen, item.id, f"{path}.id")
                    _check_steps(item, self.style, path)
                count += len(group.items)
        if count > MOST_ITEMS:
            raise RefusedError("sections", f"at most {MOST_ITEMS} items in all", f"{count} items")
        order = [item.id for item in self.items()]
        for n, meanwhile in enumerate(self.meanwhiles):
            _claim(seen, meanwhile.id, f"meanwhiles[{n}].id")
            for name in ("from_item", "to_item"):
                if getattr(meanwhile, name) not in order:
                    raise RefusedError(f"meanwhiles[{n}].{name}", "an item of this class", getattr(meanwhile, name))
            if order.index(meanwhile.from_item) > order.index(meanwhile.to_item):
                raise RefusedError(f"meanwhiles[{n}].to_item", f"not before {meanwhile.from_item}", meanwhile.to_item)

    def items(self) -> Iterator[Item]:
        """All items in the order of the class."""
        return (item for section in self.sections for group in section.groups for item in group.items)

    def moves(self) -> tuple[MoveItem, ...]:
        """The move items in the order of the class."""
        return tuple(item for item in self.items() if isinstance(item, MoveItem))

    def item(self, item_id: str) -> Item:
        """The item with this id; RefusedError when there is none."""
        for item in self.items():
            if item.id == item_id:
                return item
        raise RefusedError("item", "an item of this class", item_id)


def _claim(seen: set[str], name: str, path: str) -> None:
    if name in seen:
        raise RefusedError(path, "different from every other id in the class", name)
    seen.add(name)


def _check_steps(item: Item, style: CueStyle, path: str) -> None:
    if isinstance(item, MoveItem):
        for stage, dose in enumerate(item.doses):
            try:
                allowed(dose, style.breath_ms)
            except RefusedError as error:
                raise error.within(f"{path}.then[{stage - 1}]" if stage else path) from None
