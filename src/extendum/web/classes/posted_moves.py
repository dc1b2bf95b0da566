"""What a form of the Desk posts about moves of the library, as an edit of the core."""

from __future__ import annotations

from extendum.core.edit import script_edits as edit
from extendum.core.edit.choice_edits import add_instead
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.moves.newer import differences, take_newer
from extendum.formats.library import starting_sets
from extendum.web.classes.own import Own
from extendum.web.shared.forms import Edit, Form, many


def _add(form: Form, script: Script, own: Own) -> Edit:
    entry, taken = own.library.get(form.get("move", "")), own.library.form(form.get("move", ""))
    new, after = edit.fresh_id(script), form.get("item") or None
    return Edit(lambda s: edit.add_move(s, entry, after, taken=taken)[0], f"Added {entry.move.name}", choose=new)


def _add_set(form: Form, script: Script, own: Own) -> Edit:
    """All moves of a starting set, as one step."""
    found = next((one for one in starting_sets() if one.key == form.get("set")), None)
    if found is None:
        raise RefusedError("set", "one of the starting sets", form.get("set", ""))
    entries = [(own.library.get(key), own.library.form(key)) for key in found.moves]
    new, after = edit.fresh_id(script), form.get("item") or None
    return Edit(lambda s: edit.add_moves(s, entries, after)[0], f"Added the set {found.name}", choose=new)


def _swap(form: Form, script: Script, own: Own) -> Edit:
    item, entry = script.item(form["item"]), own.library.get(form.get("move", ""))
    taken = own.library.form(entry.move.key)
    told = f"{item.name}: swapped for {entry.move.name}"
    return Edit(lambda s: edit.swap_move(s, item.id, entry, taken=taken), told[:300])


def _newer(form: Form, script: Script, own: Own) -> Edit:
    """The chosen parts of the library's form; with none chosen the class keeps its own and is not asked again."""
    item = script.item(form["item"])
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    entry, parts = own.library.get(item.move.key), set(many(form, "part"))
    known = {one.part for one in differences(item, entry, script.style.holds)}
    if not parts <= known:
        raise RefusedError("part", "one of " + ", ".join(sorted(known)), ", ".join(sorted(parts - known)))
    after = take_newer(item, entry, parts, script.style.holds, own.library.form(entry.move.key))
    told = f"{item.name}: {', '.join(sorted(parts))} from the library" if parts else f"{item.name}: own copy kept"
    return Edit(lambda s: edit.replace_items(s, {item.id: after}), told[:300])


def _instead(form: Form, script: Script, own: Own) -> Edit:
    """Another move to keep ready for an item, by its key or its name."""
    item, typed = script.item(form["item"]), form.get("move", "").strip()
    named = next((one for one in own.library.moves.values() if one.move.name.casefold() == typed.casefold()), None)
    entry = named or own.library.get(typed)
    return Edit(lambda s: add_instead(s, item.id, entry), f"{item.name}: or {entry.move.name}"[:300])


MOVE_EDITS = {"add": _add, "add-set": _add_set, "swap": _swap, "newer": _newer, "instead-add": _instead}
