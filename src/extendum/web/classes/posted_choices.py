"""What a form of the Desk posts about what may be done instead, as an edit of the core."""

from __future__ import annotations

from extendum.core.edit.choice_edits import (
    add_route,
    choose_instead,
    choose_route,
    last_round_apart,
    remove_instead,
    remove_route,
)
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.web.classes.posted_items import move_of
from extendum.web.shared.forms import Edit, Form, whole


def _take_instead(form: Form, script: Script) -> Edit:
    item, nth = move_of(script, form["item"]), whole(form, "nth")
    told = item.instead[nth].name if 0 <= nth < len(item.instead) else ""
    return Edit(lambda s: choose_instead(s, item.id, nth), f"{told} for {item.name}")


def _drop_instead(form: Form, script: Script) -> Edit:
    item, nth = move_of(script, form["item"]), whole(form, "nth")
    return Edit(lambda s: remove_instead(s, item.id, nth), f"{item.name}: one option removed")


def _add_route(form: Form, script: Script) -> Edit:
    group, name = form["group"], form.get("route_name", "").strip()
    if not name:
        raise RefusedError("route name", "a name, such as the floor route", "nothing")
    return Edit(lambda s: add_route(s, group, name), f"Saved as a route: {name}")


def _take_route(form: Form, script: Script) -> Edit:
    group, nth = form["group"], whole(form, "nth")
    return Edit(lambda s: choose_route(s, group, nth), "Another route", choose=group)


def _drop_route(form: Form, script: Script) -> Edit:
    group, nth = form["group"], whole(form, "nth")
    return Edit(lambda s: remove_route(s, group, nth), "Removed a route")


def _round_apart(form: Form, script: Script) -> Edit:
    group = form["group"]
    return Edit(lambda s: last_round_apart(s, group), "Last round made a group of its own")


CHOICE_EDITS = {
    "instead-take": _take_instead,
    "instead-drop": _drop_instead,
    "route-add": _add_route,
    "route-take": _take_route,
    "route-drop": _drop_route,
    "round-apart": _round_apart,
}
