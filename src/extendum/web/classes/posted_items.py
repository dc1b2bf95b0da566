"""What a form of the Desk posts about one item, as an edit of the core."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from extendum.core.edit import dose_edits
from extendum.core.edit import script_edits as edit
from extendum.core.edit.way_edits import set_rig
from extendum.core.model.body import Region
from extendum.core.model.dose import Dose, Hold
from extendum.core.model.dose_kinds import as_kind, describe
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import CountIs, DirectionOrder, MoveItem, ReleaseAfter, SetOrder, Stage, dose_words
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.move import Effect, Sidedness, Target
from extendum.core.model.script import Script
from extendum.core.model.style import Countdown, Facing, RepCount, SideNames
from extendum.core.model.talk import Quiet
from extendum.web.shared.dose_forms import detailed, elastic_from, tempo_fields
from extendum.web.shared.forms import Edit, Form, choice, names_in, optional_side, own_choice, tenths_ms, whole


def _talk(form: Form, script: Script) -> Edit:
    new, after = edit.fresh_id(script), form.get("item") or None
    return Edit(lambda s: edit.add_talk(s, after)[0], "Added a talk", choose=new, focus="words-talk")


def _remove(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    order = [one.id for one in script.items()]
    at = order.index(item.id)
    neighbours = order[at + 1 : at + 2] or order[at - 1 : at]
    choose = neighbours[0] if neighbours and neighbours[0] != item.id else ""
    return Edit(lambda s: edit.remove_item(s, item.id), f"Removed {item.name}", choose=choose)


def _shift(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    by = whole(form, "steps") * dose_edits.usual_step(item) if "steps" in form else whole(form, "by")
    told = "up" if by < 0 else "down"
    return Edit(lambda s: edit.shift_item(s, item.id, 1 if by > 0 else -1), f"{item.name} {told}")


def _place(form: Form, script: Script) -> Edit:
    item, group, at = script.item(form["item"]), form.get("group", ""), whole(form, "at")
    return Edit(lambda s: edit.place_item(s, item.id, group, at), f"Moved {item.name}")


def _nudge(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    by = whole(form, "steps") * dose_edits.usual_step(item) if "steps" in form else whole(form, "by")
    after = dose_edits.nudge(script, item.id, by).item(item.id)
    return Edit(lambda s: dose_edits.nudge(s, item.id, by), f"{item.name}: {dose_words(after)}", f"{item.id}.quantity")


def _lock(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    locked = not item.quantity.locked
    told = "locked" if locked else "unlocked"
    return Edit(lambda s: dose_edits.set_locked(s, item.id, locked), f"{item.name} {told}")


def _mark(form: Form, script: Script) -> Edit:
    """Whether an item stays, and how much it matters; the same mark twice takes it off again."""
    item = script.item(form["item"])
    if isinstance(item, Quiet):
        raise RefusedError("item", "a move or a talk", item.name)
    keep = choice(Keep, form, "keep", item.keep)
    if "toggle" in form and keep is item.keep:
        keep = Keep.ALWAYS
    matters = choice(Matters, form, "matters", item.matters)
    told = keep.value if keep is not item.keep else matters.value
    return Edit(lambda s: edit.mark(s, item.id, keep=keep, matters=matters), f"{item.name}: {told}")


def _quantity(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    after = elastic_from(form, item.quantity)
    changed = item.having(after)
    label = f"{item.name}: {dose_words(changed)}"
    return Edit(lambda s: dose_edits.set_quantity(s, item.id, after), label, f"{item.id}.quantity")


#: What may be typed or dragged of an item, one at a time: what it is called, and where it lies.
_OF_ITEM = {
    "way_s": "way",
    "switch_s": "change of sides",
    "turn_s": "change of direction",
    "demonstrate_s": "shown",
    "rest_s": "rest",
    "sets": "sets",
}
_OF_QUANTITY = ("least", "wanted", "most")


def _set(form: Form, script: Script) -> Edit:
    """One number of an item: of its quantity, of a phase of its dose, or a time of its own; settling is the class's."""
    item, field = script.item(form["item"]), form["field"]
    stage = whole(form, "stage") if "stage" in form else 1
    key = f"{item.id}.{field}.{stage}"
    if field in _OF_QUANTITY:
        before = item.doses[stage - 1].quantity if isinstance(item, MoveItem) else item.quantity
        typed = {name: getattr(before, name) for name in _OF_QUANTITY} | {field: whole({field: form["value"]}, field)}
        after = before.typed(typed["least"], typed["wanted"], typed["most"])
        changed = item.having(after, stage) if isinstance(item, MoveItem) else item.having(after)
        return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: {dose_words(changed)}", key)
    if field == "settle_s":
        style = replace(script.style, settle_s=whole({field: form["value"]}, field))
        return Edit(lambda s: edit.set_style(s, style), f"Settle {style.settle_s} s in the whole class", "settle")
    move = move_of(script, item.id)
    if field in _OF_ITEM:
        value = whole({field: form["value"]}, field)
        label = f"{item.name}: {_OF_ITEM[field]} {value}{' s' if field.endswith('_s') else ''}"
        return Edit(lambda s: edit.set_move_item(s, move.id, **{field: value}), label, key)
    dose = move.doses[stage - 1]
    if field not in {name for name, _, _ in tempo_fields(dose)}:
        raise RefusedError("field", "one that this item has", field)
    now: dict[str, Any] = {field: tenths_ms({field: form["value"]}, field)}
    phased: Dose = replace(dose, **now)
    if stage > 1:
        then = tuple(replace(one, dose=phased) if n == stage else one for n, one in enumerate(move.then, 2))
        return Edit(lambda s: edit.set_move_item(s, move.id, then=then), f"{item.name}: {describe(phased)}", key)
    return Edit(lambda s: dose_edits.set_dose(s, move.id, phased), f"{item.name}: {describe(phased)}", key)


def _dose(form: Form, script: Script) -> Edit:
    """One stage of a move: its kind, quantity and details; stage 1 is the item's own dose."""
    item, stage = move_of(script, form["item"]), whole(form, "stage") if "stage" in form else 1
    if not 1 <= stage <= len(item.doses):
        raise RefusedError("stage", f"from 1 to {len(item.doses)}", str(stage))
    before = item.doses[stage - 1]
    kind = form.get("kind", before.tag)
    if kind != before.tag:
        dose, field = as_kind(before, kind), ""
    else:
        dose, field = detailed(before.having(elastic_from(form, before.quantity)), form), f"{item.id}.dose{stage}"
    if stage == 1:
        return Edit(lambda s: dose_edits.set_dose(s, item.id, dose), f"{item.name}: {describe(dose)}", field)
    then = list(item.then)
    then[stage - 2] = _stage_from(replace(then[stage - 2], dose=dose), form, item)
    label = f"{item.name}, part {stage}: {describe(dose)}"
    return Edit(lambda s: edit.set_move_item(s, item.id, then=tuple(then)), label, field)


def _stage_from(stage: Stage, form: Form, item: MoveItem) -> Stage:
    """A further stage with what its form says of it: words, the way there, how the teacher stands, what it is for."""
    fields = ("words", "short", "figure")
    told: dict[str, Any] = {name: form.get(f"stage_{name}", getattr(stage, name)).strip() for name in fields}
    way_s = whole(form, "stage_way_s") if "stage_way_s" in form else stage.way_s
    facing = own_choice(Facing, form, "stage_facing", stage.facing)
    targets = _targets(form["stage_targets"], stage.targets, item) if "stage_targets" in form else stage.targets
    return replace(stage, **told, way_s=way_s, facing=facing, targets=targets)


def _targets(typed: str, old: tuple[Target, ...], item: MoveItem) -> tuple[Target, ...]:
    """Areas as they are typed; those that were there keep what they have, others have the effect of the move."""
    there = {one.region: one for one in old}
    effect = next((one.effect for one in item.move.targets if one.main), Effect.STRETCH)
    found = []
    for name in names_in(typed):
        try:
            region = Region(name.casefold())
        except ValueError:
            raise RefusedError("areas", "one of " + ", ".join(Region), name) from None
        found.append(there.get(region, Target(region, effect)))
    return tuple(found)


def _add_stage(form: Form, script: Script) -> Edit:
    item = move_of(script, form["item"])
    then = (*item.then, Stage(Hold(Elastic(5, 15, 30)), "stay", "And stay."))
    return Edit(lambda s: edit.set_move_item(s, item.id, then=then), f"{item.name}: part {len(then) + 1} added")


def _remove_stage(form: Form, script: Script) -> Edit:
    item, stage = move_of(script, form["item"]), whole(form, "stage")
    then = tuple(one for n, one in enumerate(item.then, 2) if n != stage)
    return Edit(lambda s: edit.set_move_item(s, item.id, then=then), f"{item.name}: part {stage} removed")


def _sides(form: Form, script: Script) -> Edit:
    """How the item uses the sides, how often, and how it is shown."""
    item = move_of(script, form["item"])
    changed = replace(
        item,
        move=replace(item.move, sidedness=choice(Sidedness, form, "sides", item.move.sidedness)),
        count_is=choice(CountIs, form, "count_is", item.count_is),
        lead_side=optional_side(form, "lead_side"),
        sets=whole(form, "sets"),
        rest_s=whole(form, "rest_s") if "rest_s" in form else item.rest_s,
        set_order=choice(SetOrder, form, "set_order", item.set_order),
        direction_order=choice(DirectionOrder, form, "direction_order", item.direction_order),
        release_after=choice(ReleaseAfter, form, "release_after", item.release_after),
        countdown=own_choice(Countdown, form, "countdown", item.countdown),
        side_names=own_choice(SideNames, form, "side_names", item.side_names),
        count_reps=own_choice(RepCount, form, "count_reps", item.count_reps),
        last_calls=(whole(form, "last_calls") if form["last_calls"] else None)
        if "last_calls" in form
        else item.last_calls,
        demonstrate_s=whole(form, "demonstrate_s"),
        way_s=whole(form, "way_s") if "way_s" in form else item.way_s,
        switch_s=whole(form, "switch_s") if "switch_s" in form else item.switch_s,
        turn_s=whole(form, "turn_s") if "turn_s" in form else item.turn_s,
        say_way="say_way" in form,
        facing=choice(Facing, form, "facing", item.facing),
        between="between" in form,
        self_led="self_led" in form,
    )
    label = f"{item.name}: {changed.move.sidedness}, {changed.sets} set{'s' * (changed.sets > 1)}"
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), label, f"{item.id}.sides")


def _under(form: Form, script: Script) -> Edit:
    """What goes on under an item."""
    item = script.item(form["item"])
    name, words, where = under_from(form)
    return Edit(lambda s: edit.set_under(s, (item.id, item.id), name, words, **where), f"Under {item.name}: {name}")


def under_from(form: Form) -> tuple[str, str, dict[str, Any]]:
    """What goes on meanwhile as a form has it: its name, its words, and under what part."""
    name, words = form.get("under_name", "").strip(), form.get("under_words", "").strip()
    where: dict[str, Any] = {"side": optional_side(form, "under_side")} if "under_side" in form else {}
    where |= {field: whole(form, f"under_{field}") for field in ("in_pass", "seconds") if f"under_{field}" in form}
    return name, words, where


def _rig(form: Form, script: Script) -> Edit:
    """How a prop is held or put, and how long it takes to change that."""
    item, prop, rig = move_of(script, form["item"]), form.get("prop", ""), form.get("rig", "").strip()
    rerig_s = whole(form, "rerig_s")
    label = f"{item.name}: {prop} {rig}".rstrip()
    return Edit(lambda s: set_rig(s, item.id, prop, rig, rerig_s), label, f"{item.id}.rig.{prop}")


def _name(form: Form, script: Script) -> Edit:
    item, name = script.item(form["item"]), form.get("name", "")
    return Edit(lambda s: edit.rename_item(s, item.id, name), f"{item.name} is now {name}", f"{item.id}.name")


def move_of(script: Script, item_id: str) -> MoveItem:
    """A move of the class; RefusedError for any other item."""
    item = script.item(item_id)
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    return item


ITEM_EDITS = {
    "talk": _talk,
    "remove": _remove,
    "shift": _shift,
    "place": _place,
    "nudge": _nudge,
    "lock": _lock,
    "mark": _mark,
    "quantity": _quantity,
    "set": _set,
    "dose": _dose,
    "add-stage": _add_stage,
    "remove-stage": _remove_stage,
    "sides": _sides,
    "rig": _rig,
    "under": _under,
    "name": _name,
}
