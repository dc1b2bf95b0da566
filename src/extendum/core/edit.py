"""Edits: every change of a class is a function from a script to a new script."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from extendum.core.dose import Dose, Elastic
from extendum.core.errors import RefusedError
from extendum.core.move import LibraryMove, Sidedness
from extendum.core.script import (
    CueStyle,
    Group,
    Item,
    MoveItem,
    Quiet,
    Role,
    Script,
    Section,
    Talk,
)
from extendum.core.words import Words


def new_script(title: str, target_s: int) -> Script:
    """An empty class: one section with one group, and the closing quiet that every class has."""
    script = Script(title)
    main = Section("s1", "Class", Role.MAIN, (Group("g1"),))
    close = Section("s2", "Close", Role.CLOSING, (Group("g2", items=(Quiet("i1"),)),))
    return replace(script, brief=replace(script.brief, target_s=target_s), sections=(main, close))


def _map_groups(script: Script, change: Callable[[Group], Group]) -> Script:
    sections = []
    for section in script.sections:
        groups = tuple(change(group) for group in section.groups)
        same = all(a is b for a, b in zip(groups, section.groups, strict=True))
        sections.append(section if same else replace(section, groups=groups))
    return replace(script, sections=tuple(sections))


def replace_items(script: Script, new: Mapping[str, Item]) -> Script:
    """The script with some items replaced by others of the same id."""

    def change(group: Group) -> Group:
        if not any(item.id in new for item in group.items):
            return group
        return replace(group, items=tuple(new.get(item.id, item) for item in group.items))

    return _map_groups(script, change) if new else script


def fresh_id(script: Script, prefix: str = "i") -> str:
    """An id that the script does not use yet."""
    used = {item.id for item in script.items()}
    used |= {section.id for section in script.sections}
    used |= {group.id for section in script.sections for group in section.groups}
    n = 1
    while f"{prefix}{n}" in used:
        n += 1
    return f"{prefix}{n}"


def set_title(script: Script, title: str) -> Script:
    """Rename the class."""
    return replace(script, title=title.strip())


def set_target(script: Script, target_s: int) -> Script:
    """Set the slot that the class is meant to fill; nothing is fitted yet."""
    return replace(script, brief=replace(script.brief, target_s=target_s))


def set_style(script: Script, style: CueStyle) -> Script:
    """Set how the class is cued."""
    return replace(script, style=style)


def insert_item(script: Script, item: Item, after: str | None = None) -> Script:
    """Put an item after another; without one, at the end of the last section that is not the closing."""
    if after is not None:
        script.item(after)

        def change(group: Group) -> Group:
            ids = [one.id for one in group.items]
            if after not in ids:
                return group
            at = ids.index(after) + 1
            return replace(group, items=(*group.items[:at], item, *group.items[at:]))

        return _map_groups(script, change)
    open_groups = [g for s in script.sections if s.role is not Role.CLOSING for g in s.groups]
    if not open_groups:
        section = Section(fresh_id(script, "s"), "Class", Role.MAIN, (Group(fresh_id(script, "g"), "", (item,)),))
        return replace(script, sections=(section, *script.sections))
    target = open_groups[-1]
    return _map_groups(script, lambda g: replace(g, items=(*g.items, item)) if g.id == target.id else g)


def add_move(script: Script, entry: LibraryMove, after: str | None = None) -> tuple[Script, str]:
    """Take a move of the library up into the class; gives the script and the new item's id."""
    item = MoveItem(fresh_id(script), entry.move, entry.dose, entry.words)
    return insert_item(script, item, after), item.id


def add_talk(script: Script, after: str | None = None) -> tuple[Script, str]:
    """Add a talk of fifteen seconds, elastic from ten to thirty."""
    item = Talk(fresh_id(script), Elastic(10, 15, 30))
    return insert_item(script, item, after), item.id


def remove_item(script: Script, item_id: str) -> Script:
    """Take an item out."""
    script.item(item_id)
    return _map_groups(
        script,
        lambda g: (
            replace(g, items=tuple(i for i in g.items if i.id != item_id))
            if any(i.id == item_id for i in g.items)
            else g
        ),
    )


def shift_item(script: Script, item_id: str, by: int) -> Script:
    """Move an item up (-1) or down (1) the running order, across groups and sections."""
    script.item(item_id)
    groups = [group for section in script.sections for group in section.groups]
    here = next(n for n, group in enumerate(groups) if any(item.id == item_id for item in group.items))
    to = [item.id for item in groups[here].items].index(item_id) + by
    if 0 <= to < len(groups[here].items):
        return place_item(script, item_id, groups[here].id, to)
    if not 0 <= here + by < len(groups):
        return script
    return place_item(script, item_id, groups[here + by].id, 0 if by > 0 else None)


def place_item(script: Script, item_id: str, group_id: str, at: int | None) -> Script:
    """Put an item at a place of a group: before the at-th of the others, or at the end."""
    item = script.item(item_id)
    if group_id not in {group.id for section in script.sections for group in section.groups}:
        raise RefusedError("group", "a group of this class", group_id)

    def change(group: Group) -> Group:
        rest = [one for one in group.items if one.id != item_id]
        if group.id == group_id:
            rest.insert(len(rest) if at is None else max(0, min(at, len(rest))), item)
        same = len(rest) == len(group.items) and all(a is b for a, b in zip(rest, group.items, strict=True))
        return group if same else replace(group, items=tuple(rest))

    return _map_groups(script, change)


def set_quantity(script: Script, item_id: str, quantity: Elastic) -> Script:
    """Give an item another elastic quantity."""
    return replace_items(script, {item_id: script.item(item_id).having(quantity)})


def nudge(script: Script, item_id: str, by: int) -> Script:
    """Make the dose longer or shorter by some of its own unit, as the teacher's wish."""
    quantity = script.item(item_id).quantity
    floor = 0 if isinstance(script.item(item_id), Quiet) else 1
    return set_quantity(script, item_id, quantity.wanting(max(floor, quantity.value + by)))


def set_locked(script: Script, item_id: str, locked: bool) -> Script:
    """Lock the dose at what it is now, or let it give again."""
    return set_quantity(script, item_id, replace(script.item(item_id).quantity, locked=locked))


def _move_item(script: Script, item_id: str) -> MoveItem:
    item = script.item(item_id)
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    return item


def set_dose(script: Script, item_id: str, dose: Dose) -> Script:
    """Give a move another dose."""
    return replace_items(script, {item_id: replace(_move_item(script, item_id), dose=dose)})


def set_sidedness(script: Script, item_id: str, sidedness: Sidedness) -> Script:
    """Do a move with both sides together, or each side in turn."""
    item = _move_item(script, item_id)
    return replace_items(script, {item_id: replace(item, move=replace(item.move, sidedness=sidedness))})


def set_words(script: Script, item_id: str, words: Words) -> Script:
    """Give a move other words."""
    return replace_items(script, {item_id: replace(_move_item(script, item_id), words=words)})


def set_talk_words(script: Script, item_id: str, words: str) -> Script:
    """Give a talk other words."""
    item = script.item(item_id)
    if not isinstance(item, Talk):
        raise RefusedError("item", "a talk", item.name)
    return replace_items(script, {item_id: replace(item, words=words)})


def rename_item(script: Script, item_id: str, name: str) -> Script:
    """Call an item something else in this class."""
    item, name = script.item(item_id), name.strip()
    if isinstance(item, MoveItem):
        return replace_items(script, {item_id: replace(item, move=replace(item.move, name=name))})
    return replace_items(script, {item_id: replace(item, name=name)})


def add_section(script: Script, name: str, role: Role) -> Script:
    """Add an empty section: a closing one last, any other before the closing."""
    section = Section(fresh_id(script, "s"), name.strip(), role, (Group(fresh_id(script, "g")),))
    sections = list(script.sections)
    at = len(sections)
    if role is not Role.CLOSING:
        while at and sections[at - 1].role is Role.CLOSING:
            at -= 1
    if role is Role.OPENING:
        at = 0
    sections.insert(at, section)
    return replace(script, sections=tuple(sections))


def rename_section(script: Script, section_id: str, name: str) -> Script:
    """Call a section something else."""
    if section_id not in {section.id for section in script.sections}:
        raise RefusedError("section", "a section of this class", section_id)
    sections = tuple(replace(s, name=name.strip()) if s.id == section_id else s for s in script.sections)
    return replace(script, sections=sections)


def remove_section(script: Script, section_id: str) -> Script:
    """Take a section out; one that still has items is refused, so that nothing goes unseen."""
    for section in script.sections:
        if section.id == section_id:
            if section.items:
                raise RefusedError("section", "empty before it is removed", f"{len(section.items)} items in it")
            return replace(script, sections=tuple(s for s in script.sections if s is not section))
    raise RefusedError("section", "a section of this class", section_id)
