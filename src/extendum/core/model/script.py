"""The script of a class: its brief, its cueing style, and its sections with all their items."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from extendum.core.model.body import Posture, Side
from extendum.core.model.brief import Brief
from extendum.core.model.dose_values import allowed, stepped
from extendum.core.model.errors import RefusedError
from extendum.core.model.extent import check_extent
from extendum.core.model.fields import Checked, Extra, extra, identifier, text, whole
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.marks import check_waits
from extendum.core.model.placeholders import CLASS_PLACEHOLDERS, TALK_PLACEHOLDERS, check_placeholders
from extendum.core.model.section import Group, Section
from extendum.core.model.style import CueStyle

MOST_ITEMS = 400


@dataclass(frozen=True, slots=True)
class Meanwhile(Checked):
    """What goes on under several items and costs no time: feet that keep moving, talk over a march."""

    id: str = identifier()
    from_item: str = identifier()
    to_item: str = identifier()
    name: str = text(200, "Meanwhile", shortest=1)
    words: str = text(2000, "")
    side: Side | None = None
    in_pass: int = whole(0, 500, 0, "only under this pass of what it runs under; 0: under all of it")
    seconds: int = whole(0, 7200, 0, "it lasts at most; 0: as long as what it runs under")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        one_side = self.side is not None or self.in_pass > 0
        check_placeholders("words", self.words, TALK_PLACEHOLDERS if one_side else CLASS_PLACEHOLDERS)
        if self.side is Side.BOTH:
            raise RefusedError("side", "left, right or none", self.side.value)
        check_waits("words", self.words)


@dataclass(frozen=True, slots=True)
class Kept(Checked):
    """A finding that the teacher keeps as it is, and why; ``mark`` tells when its place has changed since."""

    code: str = text(60, shortest=1)
    because: str = text(300, shortest=1)
    item: str = text(40, "", "the first item it is about; empty for the whole class")
    mark: str = text(40, "")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Script(Checked):
    """A whole class as the instructor wrote it.

    ``music``: the name of what is played under its guide; empty: nothing. ``often``: how often to do at home what its
    moves are marked for, such as once a day.
    """

    title: str = text(200, shortest=1)
    brief: Brief = Brief()
    style: CueStyle = CueStyle()
    start_posture: Posture = Posture.STANDING
    sections: tuple[Section, ...] = ()
    meanwhiles: tuple[Meanwhile, ...] = ()
    kept: tuple[Kept, ...] = ()
    music: str = text(80, "")
    often: str = text(80, "")
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
                for r, route in enumerate(group.routes):
                    for i, item in enumerate(route.items):
                        _claim(seen, item.id, f"sections[{s}].groups[{g}].routes[{r}].items[{i}].id")
                    count += len(route.items)
                count += len(group.items)
        if count > MOST_ITEMS:
            raise RefusedError("sections", f"at most {MOST_ITEMS} items in all", f"{count} items")
        check_extent(self.sections)
        order = [item.id for item in self.items()]
        for n, meanwhile in enumerate(self.meanwhiles):
            _claim(seen, meanwhile.id, f"meanwhiles[{n}].id")
            for name in ("from_item", "to_item"):
                if getattr(meanwhile, name) not in order:
                    raise RefusedError(f"meanwhiles[{n}].{name}", "an item of this class", getattr(meanwhile, name))
            if order.index(meanwhile.from_item) > order.index(meanwhile.to_item):
                raise RefusedError(f"meanwhiles[{n}].to_item", f"not before {meanwhile.from_item}", meanwhile.to_item)

    def under(self, group: Group) -> Meanwhile | None:
        """What runs under the whole of a group."""
        return self.meanwhile(group.items[0].id, group.items[-1].id) if group.items else None

    def meanwhile(self, first: str, last: str) -> Meanwhile | None:
        """What runs from one item to another."""
        return next((one for one in self.meanwhiles if (one.from_item, one.to_item) == (first, last)), None)

    def items(self) -> Iterator[Item]:
        """All items in the order of the class, those left out too."""
        return (item for section in self.sections for group in section.groups for item in group.items)

    def moves(self) -> tuple[MoveItem, ...]:
        """The moves that are in, in the order of the class."""
        return tuple(item for item in self.items() if isinstance(item, MoveItem) and item.present)

    def ids(self) -> set[str]:
        """Every id that is used, also by what is kept ready and not done now."""
        found = {under.id for under in self.meanwhiles}
        for section in self.sections:
            found.add(section.id)
            for group in section.groups:
                kept = (item for route in group.routes for item in route.items)
                found |= {group.id, *(item.id for item in group.items), *(item.id for item in kept)}
        return found

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
                if stepped(dose):
                    allowed(dose, style.breath_ms)
            except RefusedError as error:
                raise error.within(f"{path}.then[{stage - 1}]" if stage else path) from None
