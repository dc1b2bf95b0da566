"""What a form of the Desk posts about one item, as an edit of the core."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum
from typing import Any, TypeVar

from extendum.core.edit import dose_edits
from extendum.core.edit import script_edits as edit
from extendum.core.edit.way_edits import set_rig, set_way_words
from extendum.core.model.body import Base, Posture
from extendum.core.model.dose import Hold
from extendum.core.model.dose_kinds import as_kind, describe
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import CountIs, DirectionOrder, MoveItem, ReleaseAfter, SetOrder, Stage, dose_words
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.move import Prop, Sidedness
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.script import Script
from extendum.core.model.style import Countdown, Facing, SideNames
from extendum.core.model.talk import Quiet, Talk, TalkKind
from extendum.core.model.words import Words
from extendum.web.shared.dose_forms import detailed, elastic_from
from extendum.web.shared.forms import Edit, Form, choice, optional_side, rows, whole


def _talk(form: Form, script: Script) -> Edit:
    new, after = edit.fresh_id(script), form.get("item") or None
    return Edit(lambda s: edit.add_talk(s, after)[0], "Added a talk", choose=new)


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


def _dose(form: Form, script: Script) -> Edit:
    """One stage of a move: its kind, quantity and details; stage 1 is the item's own dose."""
    item, stage = _move(script, form["item"]), whole(form, "stage") if "stage" in form else 1
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
    told = form.get("stage_words", then[stage - 2].words).strip()
    then[stage - 2] = replace(then[stage - 2], dose=dose, words=told)
    label = f"{item.name}, part {stage}: {describe(dose)}"
    return Edit(lambda s: edit.set_move_item(s, item.id, then=tuple(then)), label, field)


def _add_stage(form: Form, script: Script) -> Edit:
    item = _move(script, form["item"])
    then = (*item.then, Stage(Hold(Elastic(5, 15, 30)), "stay", "And stay."))
    return Edit(lambda s: edit.set_move_item(s, item.id, then=then), f"{item.name}: part {len(then) + 1} added")


def _remove_stage(form: Form, script: Script) -> Edit:
    item, stage = _move(script, form["item"]), whole(form, "stage")
    then = tuple(one for n, one in enumerate(item.then, 2) if n != stage)
    return Edit(lambda s: edit.set_move_item(s, item.id, then=then), f"{item.name}: part {stage} removed")


def _sides(form: Form, script: Script) -> Edit:
    """How the item uses the sides, how often, and how it is shown."""
    item = _move(script, form["item"])
    changed = replace(
        item,
        move=replace(item.move, sidedness=choice(Sidedness, form, "sides", item.move.sidedness)),
        count_is=choice(CountIs, form, "count_is", item.count_is),
        lead_side=optional_side(form, "lead_side"),
        sets=whole(form, "sets"),
        rest_s=whole(form, "rest_s"),
        set_order=choice(SetOrder, form, "set_order", item.set_order),
        direction_order=choice(DirectionOrder, form, "direction_order", item.direction_order),
        release_after=choice(ReleaseAfter, form, "release_after", item.release_after),
        countdown=_own(Countdown, form, "countdown", item.countdown),
        side_names=_own(SideNames, form, "side_names", item.side_names),
        demonstrate_s=whole(form, "demonstrate_s"),
        way_s=whole(form, "way_s"),
        switch_s=whole(form, "switch_s"),
        turn_s=whole(form, "turn_s") if "turn_s" in form else item.turn_s,
        say_way="say_way" in form,
        facing=choice(Facing, form, "facing", item.facing),
        between="between" in form,
        self_led="self_led" in form,
    )
    label = f"{item.name}: {changed.move.sidedness}, {changed.sets} set{'s' * (changed.sets > 1)}"
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), label, f"{item.id}.sides")


Chosen = TypeVar("Chosen", bound=StrEnum)


def _own(kind: type[Chosen], form: Form, name: str, now: Chosen | None) -> Chosen | None:
    """What an item has of its own, or None where the form leaves it to the class."""
    if name not in form:
        return now
    return choice(kind, form, name, next(iter(kind))) if form[name] else None


def _rig(form: Form, script: Script) -> Edit:
    """How a prop is held or put, and how long it takes to change that."""
    item, prop, rig = _move(script, form["item"]), form.get("prop", ""), form.get("rig", "").strip()
    rerig_s = whole(form, "rerig_s")
    label = f"{item.name}: {prop} {rig}".rstrip()
    return Edit(lambda s: set_rig(s, item.id, prop, rig, rerig_s), label, f"{item.id}.rig.{prop}")


def _say_way(form: Form, script: Script) -> Edit:
    """Whether the ready-made words for the way into an item are said."""
    item = _move(script, form["item"])
    say = not item.say_way
    told = "the way is said" if say else "quiet about the way"
    return Edit(lambda s: edit.set_move_item(s, item.id, say_way=say), f"{item.name}: {told}")


def _way_words(form: Form, script: Script) -> Edit:
    """The class's own words for the way from a support into a posture."""
    before, posture = choice(Base, form, "before", Base.STANDING), choice(Posture, form, "posture", Posture.STANDING)
    words = form.get("way_words", "").strip()
    label = f"The way from {before} to {posture}"
    return Edit(lambda s: set_way_words(s, before, posture, words), label, f"way.{before}.{posture}")


_TEXTS = ("moving", "there", "short", "switch", "turn", "again", "each", "release", "demonstration")


def _words(form: Form, script: Script) -> Edit:
    """Any of a move's texts and prompts that the form has; the others stay."""
    item = _move(script, form["item"])
    prompts = list(item.words.prompts)
    if "prompts" in form:
        read = (_prompt(form, index, item) for index in rows(form, "prompts"))
        prompts = [prompt for prompt in read if prompt]
    elif "prompt" in form:
        index = whole(form, "prompt")
        changed = _prompt(form, index, item)
        prompts[index : index + 1] = [changed] if changed else []
    told: dict[str, Any] = {name: form.get(name, "").strip() for name in _TEXTS if name in form}
    words: Words = replace(item.words, **told, prompts=tuple(prompts))
    then = tuple(
        replace(stage, words=form.get(f"stage-{n}", stage.words).strip()) for n, stage in enumerate(item.then, 2)
    )
    changed_item = replace(item, words=words, then=then)
    return Edit(lambda s: edit.replace_items(s, {item.id: changed_item}), f"{item.name}: words", f"{item.id}.words")


def _prompt(form: Form, index: int, item: MoveItem) -> Prompt | None:
    """A prompt of the form; None where it is empty."""
    text = form.get(f"prompt_{index}", "").strip()
    if not text:
        return None
    old = item.words.prompts[index] if index < len(item.words.prompts) else Prompt(PromptKind.FORM, text)
    return replace(old, kind=choice(PromptKind, form, f"prompt_{index}_kind", old.kind), text=text)


def _talk_words(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    if not isinstance(item, Talk):
        raise RefusedError("item", "a talk", item.name)
    changed = replace(
        item,
        words=form.get("words", "").strip(),
        kind=choice(TalkKind, form, "talk_kind", item.kind),
        between="between" in form if "chained" in form else item.between,
    )
    if "picks_up" in form:
        picks = tuple(Prop(name) for name in names_in(form["picks_up"]))
        changed = replace(changed, picks_up=picks, puts_down=tuple(names_in(form.get("puts_down", ""))))
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: words", f"{item.id}.words")


def names_in(typed: str) -> list[str]:
    """Names parted by commas."""
    return [name for name in (one.strip() for one in typed.split(",")) if name]


def _name(form: Form, script: Script) -> Edit:
    item, name = script.item(form["item"]), form.get("name", "")
    return Edit(lambda s: edit.rename_item(s, item.id, name), f"{item.name} is now {name}", f"{item.id}.name")


def _move(script: Script, item_id: str) -> MoveItem:
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
    "dose": _dose,
    "add-stage": _add_stage,
    "remove-stage": _remove_stage,
    "sides": _sides,
    "rig": _rig,
    "say-way": _say_way,
    "way-words": _way_words,
    "words": _words,
    "talk-words": _talk_words,
    "name": _name,
}
