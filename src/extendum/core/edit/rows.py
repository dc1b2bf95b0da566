"""Edits of several items at once: moved, removed, dosed, copied in, made a group or a section of their own."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from extendum.core.edit.choice_edits import copied
from extendum.core.edit.dose_edits import nudge, usual_step
from extendum.core.edit.script_edits import (
    fresh_id,
    fresh_ids,
    insert_item,
    place_item,
    remove_item,
    shift_item,
    with_items,
    with_sections,
)
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Section
from extendum.core.model.talk import Quiet


def rows_of(script: Script, ids: Iterable[str]) -> tuple[Item, ...]:
    """The items of these ids in the order of the class; RefusedError where one is not there, or for none at all."""
    wanted = set(ids)
    found = tuple(item for item in script.items() if item.id in wanted)
    if not wanted or len(found) < len(wanted):
        missing = sorted(wanted - {item.id for item in found})
        raise RefusedError("items", "one or more items of this class", ", ".join(missing) or "none")
    return found


def place_rows(script: Script, ids: Iterable[str], group_id: str, at: int) -> Script:
    """Put items at a place of a group, in their order: before the at-th of the others."""
    rows = rows_of(script, ids)
    others = [item.id for item in _group(script, group_id)[1].items if item not in rows]
    after = others[:at][-1:]
    for number, item in enumerate(rows):
        here = [one.id for one in _group(script, group_id)[1].items if one.id != item.id]
        script = place_item(script, item.id, group_id, here.index(after[0]) + 1 + number if after else number)
    return script


def shift_rows(script: Script, ids: Iterable[str], by: int) -> Script:
    """Move items up (-1) or down (1) the running order together; at its end they stay."""
    rows = rows_of(script, ids)
    edge, *rest = rows if by < 0 else rows[::-1]
    moved = shift_item(script, edge.id, by)
    if moved == script:
        return script
    for item in rest:
        moved = shift_item(moved, item.id, by)
    return moved


def remove_rows(script: Script, ids: Iterable[str]) -> Script:
    """Take items out."""
    for item in rows_of(script, ids):
        script = remove_item(script, item.id)
    return script


def nudge_rows(script: Script, ids: Iterable[str], steps: int) -> Script:
    """Make doses longer or shorter by their own usual steps; what is locked and a quiet stay."""
    for item in rows_of(script, ids):
        if not isinstance(item, Quiet) and not item.quantity.locked:
            script = nudge(script, item.id, steps * usual_step(item))
    return script


def paste_rows(script: Script, items: Sequence[Item], after: str | None) -> tuple[Script, str]:
    """Put copies of items after one of the class, or last; gives the script and the id of the first copy."""
    new = list(copied(script, tuple(item for item in items if not isinstance(item, Quiet))))
    if not new:
        raise RefusedError("items", "moves or talks to paste", "none")
    for item in new:
        script = insert_item(script, item, after)
        after = item.id
    return script, new[0].id


def group_rows(script: Script, ids: Iterable[str], **plan: Any) -> tuple[Script, str]:
    """Make items a group of their own with this plan, where the first of them is; gives the script and its id.

    What stood before and after them in their group keeps that group's plan.
    """
    rows = rows_of(script, ids)
    chosen = {item.id for item in rows}
    section, group = _home(script, rows[0].id)
    if {item.id for item in group.items} == chosen:
        made = group.id
        return _regroup(script, section, group, (with_items(group, group.items, **plan),)), made
    at = [item.id for item in group.items].index(rows[0].id)
    script = place_rows(script, [item.id for item in rows], group.id, at)
    section, group = _home(script, rows[0].id)
    at = [item.id for item in group.items].index(rows[0].id)
    parts = (group.items[:at], group.items[at : at + len(rows)], group.items[at + len(rows) :])
    made, tail = fresh_ids(script, "g", 2)
    pieces = (
        with_items(group, parts[0]),
        with_items(Group(made), parts[1], **plan),
        with_items(replace(group, id=tail, name="", routes=(), route=""), parts[2]),
    )
    return _regroup(script, section, group, tuple(one for one in pieces if one.items)), made


def split_section(script: Script, item_id: str, name: str) -> tuple[Script, str]:
    """Begin a new section with an item: it and what follows in its section; gives the script and the section's id.

    Where it is the first of its section already, an empty section would be left: the new one goes before it.
    """
    section, group = _home(script, item_id)
    made = fresh_id(script, "s")
    if section.items[0].id == item_id:
        empty = Section(made, name.strip(), section.role, (Group(fresh_id(script, "g")),))
        at = script.sections.index(section)
        return with_sections(script, (*script.sections[:at], empty, *script.sections[at:])), made
    at = [item.id for item in group.items].index(item_id)
    n = section.groups.index(group)
    before, after = list(section.groups[:n]), list(section.groups[n + 1 :])
    if at:
        before.append(with_items(group, group.items[:at]))
        group = replace(group, id=fresh_id(script, "g"), routes=(), route="")
    after.insert(0, with_items(group, group.items[at:]))
    stays = {item.id: one.id for one in before for item in one.items}
    goes = {item.id: one.id for one in after for item in one.items}

    def pins(home: dict[str, str]) -> tuple[Any, ...]:
        return tuple(p for p in section.pins if p.item in home and (not p.after or home.get(p.after) == home[p.item]))

    first = replace(section, groups=tuple(before), pins=pins(stays))
    second = Section(made, name.strip(), section.role, tuple(after), pins(goes))
    at = script.sections.index(section)
    return with_sections(script, (*script.sections[:at], first, second, *script.sections[at + 1 :])), made


def _group(script: Script, group_id: str) -> tuple[Section, Group]:
    for section in script.sections:
        for group in section.groups:
            if group.id == group_id:
                return section, group
    raise RefusedError("group", "a group of this class", group_id)


def _home(script: Script, item_id: str) -> tuple[Section, Group]:
    script.item(item_id)
    places = ((section, group) for section in script.sections for group in section.groups)
    return next((section, group) for section, group in places if any(item.id == item_id for item in group.items))


def _regroup(script: Script, section: Section, old: Group, new: Sequence[Group]) -> Script:
    at = section.groups.index(old)
    groups = (*section.groups[:at], *new, *section.groups[at + 1 :])
    home = {item.id: group.id for group in groups for item in group.items}
    pins = tuple(p for p in section.pins if not p.after or home.get(p.item) == home.get(p.after))
    changed = replace(section, groups=groups, pins=pins)
    return with_sections(script, tuple(changed if one is section else one for one in script.sections))
