"""Edits of what may be done instead: another move for an item, another route through a group."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from extendum.core.edit.script_edits import fresh_id, fresh_ids, move_item, replace_items, with_groups, with_items
from extendum.core.edit.take_up import take_up
from extendum.core.model.dose_values import tapered
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Instead, Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Route
from extendum.core.model.style import CueStyle

#: What the items of a group are called once another route has taken their place.
FIRST_ROUTE = "the first route"


def add_instead(script: Script, item_id: str, entry: LibraryMove) -> Script:
    """Keep another move ready for an item, with its usual dose and words."""
    made = take_up(entry, item_id, script.style)
    item = move_item(script, item_id)
    ready = (*item.instead, Instead(made.move, made.dose, made.words, made.then))
    return replace_items(script, {item_id: replace(item, instead=ready)})


def choose_instead(script: Script, item_id: str, nth: int) -> Script:
    """Do another move instead of the present one, which stays ready; both keep their doses and words."""
    item = move_item(script, item_id)
    return replace_items(script, {item_id: item.doing(_within(nth, len(item.instead)))})


def remove_instead(script: Script, item_id: str, nth: int) -> Script:
    """No longer keep another move ready."""
    item = move_item(script, item_id)
    _within(nth, len(item.instead))
    rest = tuple(one for n, one in enumerate(item.instead) if n != nth)
    return replace_items(script, {item_id: replace(item, instead=rest)})


def _within(nth: int, many: int) -> int:
    if not 0 <= nth < many:
        raise RefusedError("choice", f"one of the {many} that are kept ready", nth)
    return nth


# ---- routes ------------------------------------------------------------------------------------------


def add_route(script: Script, group_id: str, name: str) -> Script:
    """Keep the items of a group as a route, so that the group's own can be changed and both be chosen from."""

    def keeping(group: Group) -> Group:
        copies = tuple(copied(script, group.items))
        return replace(group, routes=(*group.routes, Route(name, copies)))

    return _with_group(script, group_id, keeping)


def choose_route(script: Script, group_id: str, nth: int) -> Script:
    """Take another route through a group; its present items are kept as a route in turn."""

    def taking(group: Group) -> Group:
        chosen = group.routes[_within(nth, len(group.routes))]
        left = Route(group.route or FIRST_ROUTE, group.items)
        routes = tuple(left if n == nth else one for n, one in enumerate(group.routes))
        return replace(with_items(group, chosen.items), routes=routes, route=chosen.name)

    return _with_group(script, group_id, taking)


def remove_route(script: Script, group_id: str, nth: int) -> Script:
    """No longer keep a route."""

    def without(group: Group) -> Group:
        _within(nth, len(group.routes))
        return replace(group, routes=tuple(one for n, one in enumerate(group.routes) if n != nth))

    return _with_group(script, group_id, without)


def last_round_apart(script: Script, group_id: str) -> Script:
    """Make the last round of a group a group of its own, so that it can take another route.

    Its doses are those that it had: the taper is in them.
    """
    for section in script.sections:
        for n, group in enumerate(section.groups):
            if group.id != group_id:
                continue
            if group.rounds < 2:
                raise RefusedError("group", "a group of two rounds or more", f"{group.rounds} round")
            copies = tuple(_tapered(item, group, script.style) for item in copied(script, group.items))
            names = dict(zip((item.id for item in group.items), (item.id for item in copies), strict=True))
            passes = tuple(replace(ref, item=names[ref.item]) for ref in group.passes)
            apart = replace(group, id=fresh_id(script, "g"), items=copies, passes=passes, rounds=1, routes=(), route="")
            groups = (*section.groups[:n], replace(group, rounds=group.rounds - 1), apart, *section.groups[n + 1 :])
            return with_groups(script, section.id, groups)
    raise RefusedError("group", "a group of this class", group_id)


def copied(script: Script, items: tuple[Item, ...]) -> Iterator[Item]:
    """The same items under ids that the class does not use yet."""
    for item, new in zip(items, fresh_ids(script, "i", len(items)), strict=True):
        yield replace(item, id=new)


def _tapered(item: Item, group: Group, style: CueStyle) -> Item:
    """An item with the doses that it has in the last round."""
    if not isinstance(item, MoveItem):
        return item
    for stage, dose in enumerate(item.doses, 1):
        even = item.even(stage)
        value = tapered(dose, dose.quantity.value, group.rounds, group.taper_percent, style.breath_ms, even=even)
        item = item.having(dose.quantity.wanting(value), stage)
    return item


def _with_group(script: Script, group_id: str, change: Callable[[Group], Group]) -> Script:
    for section in script.sections:
        if any(group.id == group_id for group in section.groups):
            groups = tuple(change(group) if group.id == group_id else group for group in section.groups)
            return with_groups(script, section.id, groups)
    raise RefusedError("group", "a group of this class", group_id)
