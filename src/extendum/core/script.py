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
from extendum.core.move import Move
from extendum.core.words import CLASS_PLACEHOLDERS, Words, check_placeholders

LONGEST_CLASS_S = 4 * 3600
MOST_ITEMS = 400


class Role(StrEnum):
    """What a section is for."""

    OPENING = "opening"
    WARM_UP = "warm-up"
    MAIN = "main"
    CLOSING = "closing"


class Countdown(StrEnum):
    """How the end of a hold is counted."""

    FROM_5 = "5-1"
    FROM_3 = "3-2-1"
    NONE = "none"

    @property
    def first(self) -> int:
        """The number it starts from."""
        return {Countdown.FROM_5: 5, Countdown.FROM_3: 3}.get(self, 0)


class Teaching(StrEnum):
    """Whether the teacher moves as a mirror image of the class or on the same side."""

    MIRROR = "mirror"
    MATCH = "match"


@dataclass(frozen=True, slots=True)
class CueStyle(Checked):
    """How the class is cued."""

    words_per_minute: int = whole(60, 300, 165, "while speaking, without the silences")
    countdown: Countdown = Countdown.FROM_3
    halfway: bool = True
    next_call: bool = True
    prompts: bool = True
    quiet_percent: int = whole(0, 100, 40, "of every hold that prompts leave without words")
    settle_s: int = whole(0, 30, 3)
    lead_side: Side = Side.LEFT
    teaching: Teaching = Teaching.MIRROR
    pace_percent: int = whole(50, 300, 100, "of the body seconds; the slowest person decides")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left or right", self.lead_side.value)


@dataclass(frozen=True, slots=True)
class Brief(Checked):
    """What the class is for and how long its slot is."""

    group: str = text(200, "")
    target_s: int = whole(1, LONGEST_CLASS_S, 600)
    notes: str = text(4000, "")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class MoveItem(Checked):
    """A move used in a class, copied in, with its own dose and words."""

    tag: ClassVar[str] = "move"

    id: str = identifier()
    move: Move  # type: ignore[misc] # identifier() above sets bounds, not a default
    dose: Dose  # type: ignore[misc]
    words: Words = Words()
    extra: Extra = extra()

    @property
    def name(self) -> str:
        """What the running order calls it."""
        return self.move.name

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity of its dose."""
        return self.dose.quantity

    def having(self, quantity: Elastic) -> MoveItem:
        """The same item with another quantity."""
        return replace(self, dose=self.dose.having(quantity))


@dataclass(frozen=True, slots=True)
class Talk(Checked):
    """Talking to the class for a time; bodies and props stay as they are."""

    tag: ClassVar[str] = "talk"

    id: str = identifier()
    seconds: Elastic  # type: ignore[misc] # identifier() above sets bounds, not a default
    words: str = text(4000, "")
    name: str = text(200, "Talk", shortest=1)
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, CLASS_PLACEHOLDERS)

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic) -> Talk:
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

    def having(self, quantity: Elastic) -> Quiet:
        """The same item with other seconds."""
        return replace(self, seconds=quantity)


Item = MoveItem | Talk | Quiet


@dataclass(frozen=True, slots=True)
class Group(Checked):
    """A named block of items inside a section."""

    id: str = identifier()
    name: str = text(200, "")
    items: tuple[Item, ...] = ()
    extra: Extra = extra()


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
                    _claim(seen, item.id, f"sections[{s}].groups[{g}].items[{i}].id")
                count += len(group.items)
        if count > MOST_ITEMS:
            raise RefusedError("sections", f"at most {MOST_ITEMS} items in all", f"{count} items")

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
