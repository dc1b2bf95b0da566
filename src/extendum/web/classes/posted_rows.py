"""What the Desk posts about several rows at once, as edits of the core."""

from __future__ import annotations

from typing import Any

from extendum.core.edit import rows
from extendum.core.edit import script_edits as edit
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item
from extendum.core.model.limits import whole_number
from extendum.core.model.script import Script
from extendum.core.model.section import Role, SidePlan
from extendum.web.classes.own import Own
from extendum.web.shared.forms import Edit, Form, whole

_PLANS: dict[str, tuple[dict[str, Any], str]] = {
    "chain": ({"side_plan": SidePlan.CHAIN}, "Made a chain of"),
    "rounds": ({"rounds": 2}, "Two rounds of"),
}


def _ids(form: Form) -> list[str]:
    return form.get("rows", "").split()


def _told(some: tuple[Item, ...]) -> str:
    """Rows in a few words, for the name of a step."""
    return some[0].name if len(some) == 1 else f"{len(some)} rows, from {some[0].name}"


def _place(form: Form, script: Script) -> Edit:
    some, group, at = rows.rows_of(script, _ids(form)), form.get("group", ""), whole(form, "at")
    return Edit(lambda s: rows.place_rows(s, _ids(form), group, at), f"Moved {_told(some)}")


def _shift(form: Form, script: Script) -> Edit:
    some, by = rows.rows_of(script, _ids(form)), 1 if whole(form, "by") > 0 else -1
    return Edit(lambda s: rows.shift_rows(s, _ids(form), by), f"{_told(some)} {'down' if by > 0 else 'up'}")


def _remove(form: Form, script: Script) -> Edit:
    some = rows.rows_of(script, _ids(form))
    done = "Cut" if "cut" in form else "Removed"
    return Edit(lambda s: rows.remove_rows(s, _ids(form)), f"{done} {_told(some)}", choose="")


def _dose(form: Form, script: Script) -> Edit:
    some, steps = rows.rows_of(script, _ids(form)), whole(form, "steps")
    told = f"{_told(some)}: {'longer' if steps > 0 else 'shorter'}"
    return Edit(lambda s: rows.nudge_rows(s, _ids(form), steps), told, "rows." + ".".join(_ids(form))[:80])


def _group(form: Form, script: Script) -> Edit:
    """A chain of them, or rounds; their panel opens."""
    plan, told = _PLANS[form["plan"]]
    some = rows.rows_of(script, _ids(form))
    _, key = rows.group_rows(script, _ids(form), **plan)
    return Edit(lambda s: rows.group_rows(s, _ids(form), **plan)[0], f"{told} {_told(some)}", choose=key)


def _section(form: Form, script: Script) -> Edit:
    """A section that begins with the chosen row; without one, a new one where its role belongs."""
    name = form.get("name", "").strip() or "New section"
    item = next((one for one in script.items() if one.id == form.get("item")), None)
    key = edit.fresh_id(script, "s")
    if item is None:
        role = Role(form.get("role", Role.MAIN))
        return Edit(lambda s: edit.add_section(s, name, role), f"Added section {name}", focus=f"name-{key}")
    return Edit(lambda s: rows.split_section(s, item.id, name)[0], f"Section from {item.name} on", focus=f"name-{key}")


def _paste(form: Form, script: Script, own: Own) -> Edit:
    """Rows copied here, or in another class of the same owner: as they were in the step that they were copied from."""
    source = own.script_at(whole_number(form.get("of", "")), whole_number(form.get("revision", "")))
    if source is None:
        raise RefusedError("rows", "rows of one of your classes, copied before", "none")
    some = rows.rows_of(source, _ids(form))
    after = form.get("item") or None
    _, first = rows.paste_rows(script, some, after)
    return Edit(lambda s: rows.paste_rows(s, some, after)[0], f"Pasted {_told(some)}", choose=first)


ROW_EDITS = {
    "place-rows": _place,
    "shift-rows": _shift,
    "remove-rows": _remove,
    "dose-rows": _dose,
    "group-rows": _group,
    "section": _section,
}
OWN_ROW_EDITS = {"paste-rows": _paste}
