"""Edits: every change of a class is a function from a script to a new script."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from itertools import count, islice
from typing import Any

from extendum.core.edit.take_up import take_up
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Meanwhile, Script
from extendum.core.model.section import Group, PassRef, Role, Section, SidePlan, sides_of, ways_of
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Quiet, Talk


def new_script(title: str, target_s: int) -> Script:
    """An empty class: one section with one group, and the closing quiet that every class has."""
    script = Script(title)
    main = Section("s1", "Class", Role.MAIN, (Group("g1"),))
    close = Section("s2", "Close", Role.CLOSING, (Group("g2", items=(Quiet("i1"),)),))
    return replace(script, brief=replace(script.brief, target_s=target_s), sections=(main, close))


def with_items(group: Group, items: tuple[Item, ...], **changes: Any) -> Group:
    """The group with other items; an interleaved order loses the passes of what went and ends with what came."""
    if changes.get("side_plan", group.side_plan) is not SidePlan.INTERLEAVED:
        return replace(group, items=items, **changes)
    wanted = [(item.id, side, way) for item in items for side in sides_of(item) for way in ways_of(item)]
    sided = {(item, side) for item, side, _ in wanted}
    given_passes: tuple[PassRef, ...] = changes.pop("passes", group.passes)
    kept = [
        ref
        for ref in given_passes
        if (ref.item, ref.side, ref.direction) in wanted or (not ref.direction and (ref.item, ref.side) in sided)
    ]
    given = {(ref.item, ref.side, ref.direction) for ref in kept}
    whole = {(item, side) for item, side, way in given if not way}
    started = {(item, side) for item, side, _ in given}
    added = [
        PassRef(item, side, way if (item, side) in started else "")
        for item, side, way in wanted
        if (item, side) not in whole and (item, side, way) not in given
    ]
    added = list(dict.fromkeys(added))  # both directions of what was not there at all are one pass
    return replace(group, items=items, passes=(*kept, *added), **changes)


def with_groups(script: Script, section_id: str, groups: tuple[Group, ...]) -> Script:
    """The script with other groups in one of its sections."""
    return with_sections(
        script, tuple(_regrouped(one, groups) if one.id == section_id else one for one in script.sections)
    )


def _map_groups(script: Script, change: Callable[[Group], Group]) -> Script:
    sections = []
    for section in script.sections:
        groups = tuple(change(group) for group in section.groups)
        same = all(a is b for a, b in zip(groups, section.groups, strict=True))
        sections.append(section if same else _regrouped(section, groups))
    return with_sections(script, tuple(sections))


def with_sections(script: Script, sections: tuple[Section, ...]) -> Script:
    """The script with other sections; what runs meanwhile shrinks with the items that it ran under."""
    before = [item.id for item in script.items()]
    after = [item.id for section in sections for item in section.items]
    kept = []
    for under in script.meanwhiles:
        span = before[before.index(under.from_item) : before.index(under.to_item) + 1]
        left = sorted(after.index(item) for item in span if item in after)
        if left:
            kept.append(replace(under, from_item=after[left[0]], to_item=after[left[-1]]))
    return replace(script, sections=sections, meanwhiles=tuple(kept))


def _regrouped(section: Section, groups: tuple[Group, ...]) -> Section:
    """The section with other groups, without the pins of what went or changed its group."""
    before = {item.id: group.id for group in section.groups for item in group.items}
    after = {item.id: group.id for group in groups for item in group.items}
    stays = {item for item, group in after.items() if before.get(item) == group}
    pins = tuple(p for p in section.pins if p.item in stays and (not p.after or p.after in stays))
    return replace(section, groups=groups, pins=pins)


def replace_items(script: Script, new: Mapping[str, Item], **changes: Any) -> Script:
    """The script with some items replaced by others of the same id, and with other changes of its own."""
    if not new:
        return replace(script, **changes) if changes else script
    sections = list(script.sections)
    for n, section in enumerate(sections):
        if any(item.id in new for item in section.items):
            replaced = [tuple(new.get(item.id, item) for item in group.items) for group in section.groups]
            groups = (with_items(group, items) for group, items in zip(section.groups, replaced, strict=True))
            sections[n] = replace(section, groups=tuple(groups))
    return replace(script, sections=tuple(sections), **changes)


def fresh_id(script: Script, prefix: str = "i") -> str:
    """An id that the script does not use yet."""
    return fresh_ids(script, prefix, 1)[0]


def fresh_ids(script: Script, prefix: str, many: int) -> list[str]:
    """So many ids that the script does not use yet."""
    used = script.ids()
    return list(islice((one for n in count(1) if (one := f"{prefix}{n}") not in used), many))


def set_title(script: Script, title: str) -> Script:
    """Rename the class."""
    return replace(script, title=title.strip())


def set_music(script: Script, name: str, section: str = "") -> Script:
    """Set what is played under the class, or under one section; empty is nothing, and for a section that of the class.

    RefusedError when there is no such section.
    """
    if not section:
        return replace(script, music=name.strip())
    if all(one.id != section for one in script.sections):
        raise RefusedError("section", "a section of this class", section)
    sections = (replace(one, music=name.strip()) if one.id == section else one for one in script.sections)
    return replace(script, sections=tuple(sections))


def set_target(script: Script, target_s: int) -> Script:
    """Set the slot that the class is meant to fill; nothing is fitted yet."""
    return replace(script, brief=replace(script.brief, target_s=target_s))


def set_style(script: Script, style: CueStyle) -> Script:
    """Set how the class is cued."""
    return replace(script, style=style)


def take_style(script: Script, style: CueStyle) -> Script:
    """Cue the class in a style; lead side, teaching, pace, holds, balance, rate, voice and ways stay the class's."""
    kept = script.style
    own = replace(
        style,
        words_per_minute=kept.words_per_minute,
        lead_side=kept.lead_side,
        side_names=kept.side_names,
        teaching=kept.teaching,
        pace_percent=kept.pace_percent,
        holds=kept.holds,
        one_leg_most_s=kept.one_leg_most_s,
        way_words=style.way_words or kept.way_words,
        voice=kept.voice,
    )
    return set_style(script, own)


def insert_item(script: Script, item: Item, after: str | None = None) -> Script:
    """Put an item after another, or last in a group; without either, last before the closing sections."""
    if after is not None:
        if after not in {group.id for section in script.sections for group in section.groups}:
            script.item(after)

        def change(group: Group) -> Group:
            ids = [one.id for one in group.items]
            if group.id == after or after not in ids:
                return with_items(group, (*group.items, item)) if group.id == after else group
            at = ids.index(after) + 1
            return with_items(group, (*group.items[:at], item, *group.items[at:]))

        return _map_groups(script, change)
    open_groups = [g for s in script.sections if s.role is not Role.CLOSING for g in s.groups]
    if not open_groups:
        section = Section(fresh_id(script, "s"), "Class", Role.MAIN, (Group(fresh_id(script, "g"), "", (item,)),))
        return replace(script, sections=(section, *script.sections))
    return insert_item(script, item, open_groups[-1].id)


def add_move(script: Script, entry: LibraryMove, after: str | None = None, *, taken: str = "") -> tuple[Script, str]:
    """Take a move of the library up into the class; gives the script and the new item's id."""
    item = take_up(entry, fresh_id(script), script.style, taken)
    return insert_item(script, item, after), item.id


def add_moves(
    script: Script, entries: Sequence[tuple[LibraryMove, str]], after: str | None = None
) -> tuple[Script, str]:
    """Take up several moves in a row, each with its form; gives the script and the id of the first."""
    first = fresh_id(script)
    for entry, taken in entries:
        script, after = add_move(script, entry, after, taken=taken)
    return script, first


def swap_move(script: Script, item_id: str, entry: LibraryMove, *, taken: str = "") -> Script:
    """Replace a move by another, with that one's dose and words; marks and place stay."""
    old = move_item(script, item_id)
    new = take_up(entry, item_id, script.style, taken)
    marks = {name: getattr(old, name) for name in ("keep", "dropped", "matters", "lead_side", "between")}
    return replace_items(script, {item_id: replace(new, **marks)})


def add_talk(script: Script, after: str | None = None) -> tuple[Script, str]:
    """Add a talk of fifteen seconds, elastic from ten to thirty."""
    item = Talk(fresh_id(script), Elastic(10, 15, 30))
    return insert_item(script, item, after), item.id


def remove_item(script: Script, item_id: str) -> Script:
    """Take an item out."""
    script.item(item_id)

    def change(group: Group) -> Group:
        rest = tuple(item for item in group.items if item.id != item_id)
        return group if len(rest) == len(group.items) else with_items(group, rest)

    return _map_groups(script, change)


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
        return group if same else with_items(group, tuple(rest))

    return _map_groups(script, change)


def move_item(script: Script, item_id: str) -> MoveItem:
    """A move of the class; RefusedError for any other item."""
    item = script.item(item_id)
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    return item


def rename_item(script: Script, item_id: str, name: str) -> Script:
    """Call an item something else in this class."""
    item, name = script.item(item_id), name.strip()
    if isinstance(item, MoveItem):
        return replace_items(script, {item_id: replace(item, move=replace(item.move, name=name))})
    return replace_items(script, {item_id: replace(item, name=name)})


def add_section(script: Script, name: str, role: Role) -> Script:
    """Add an empty section where its role belongs: before the first section of a later role."""
    section = Section(fresh_id(script, "s"), name.strip(), role, (Group(fresh_id(script, "g")),))
    sections = list(script.sections)
    later = list(Role)[list(Role).index(role) + 1 :]
    at = next((n for n, one in enumerate(sections) if one.role in later), len(sections))
    sections.insert(at, section)
    return with_sections(script, tuple(sections))


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


def set_group(script: Script, group_id: str, **changes: Any) -> Script:
    """Give a group another name, side plan, rounds, taper, lead side, reset or cadence."""
    if group_id not in {group.id for section in script.sections for group in section.groups}:
        raise RefusedError("group", "a group of this class", group_id)
    return _map_groups(script, lambda g: with_items(g, g.items, **changes) if g.id == group_id else g)


def add_group(script: Script, section_id: str, after: str | None = None) -> Script:
    """Add an empty group to a section: after another of its groups, or last."""
    new = Group(fresh_id(script, "g"))

    def grown(section: Section) -> Section:
        ids = [group.id for group in section.groups]
        at = ids.index(after) + 1 if after in ids else len(ids)
        return replace(section, groups=(*section.groups[:at], new, *section.groups[at:]))

    if section_id not in {section.id for section in script.sections}:
        raise RefusedError("section", "a section of this class", section_id)
    return replace(script, sections=tuple(grown(s) if s.id == section_id else s for s in script.sections))


def set_move_item(script: Script, item_id: str, **changes: Any) -> Script:
    """Give a move other stages, sets, lead side, facing, demonstration or marks."""
    return replace_items(script, {item_id: replace(move_item(script, item_id), **changes)})


def set_under(script: Script, ends: tuple[str, str] | None, name: str, words: str, **where: Any) -> Script:
    """Set what runs from one item to another; an empty name takes it away.

    ``where`` says under what part of them: a side, a pass, for how many seconds.
    """
    old = script.meanwhile(*ends) if ends else None
    others = tuple(one for one in script.meanwhiles if one is not old)
    if not name or ends is None:
        return replace(script, meanwhiles=others)
    made = old or Meanwhile(fresh_id(script, "m"), *ends)
    return replace(script, meanwhiles=(*others, replace(made, name=name, words=words, **where)))


def mark(script: Script, item_id: str, **marks: Keep | Matters) -> Script:
    """Mark an item: whether it stays (``keep``), or how much it matters (``matters``)."""
    item = script.item(item_id)
    if isinstance(item, Quiet):
        raise RefusedError("item", "a move or a talk", item.name)
    stays = marks.get("keep", item.keep) is item.keep
    changed: Item = replace(item, dropped=item.dropped and stays, **marks)  # type: ignore[arg-type]
    return replace_items(script, {item_id: changed})
