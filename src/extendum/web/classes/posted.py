"""What a form of the Desk posts, as an edit of the core: one small function per kind of edit.

Each reads its values from the form and gives the change, a label for the step, and the field that it
belongs to (so that quick repeats are one revision). RefusedError names the field that is wrong.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from extendum.core import edit
from extendum.core.body import Side
from extendum.core.dose import Breaths, Dose, Elastic, Hold, Reps, describe
from extendum.core.errors import ExtendumError, RefusedError
from extendum.core.explain import refusal_lines
from extendum.core.fit import Fit, Fitter
from extendum.core.move import Sidedness
from extendum.core.script import Item, MoveItem, Role, Script
from extendum.core.style import Countdown, Teaching
from extendum.core.timeline import clock, parse_clock
from extendum.core.words import Prompt, PromptKind, Words
from extendum.formats.library import shipped_move

Form = Mapping[str, str]


class OutOfReachError(ExtendumError):
    """A fit that cannot be: carries the answer, so that the page can offer the nearest."""

    def __init__(self, result: Fit) -> None:
        self.result = result
        super().__init__(" ".join(refusal_lines(result)))


@dataclass(frozen=True, slots=True)
class Edit:
    """A change of a script, what to call it, and the field whose quick repeats are one revision."""

    change: Callable[[Script], Script]
    label: str
    field: str = ""
    choose: str | None = None


def whole(form: Form, name: str) -> int:
    """A whole number from a form; what was typed is in the error."""
    typed = form.get(name, "").strip()
    try:
        return int(typed)
    except ValueError:
        raise RefusedError(name.replace("_", " "), "a whole number", typed) from None


def tenths_ms(form: Form, name: str) -> int:
    """Seconds with at most one decimal, as milliseconds."""
    typed = form.get(name, "").strip().replace(",", ".")
    try:
        return round(float(typed) * 10) * 100
    except (ValueError, OverflowError):
        raise RefusedError(name.replace("_", " "), "seconds, such as 2 or 2.5", typed) from None


def _add(form: Form, script: Script) -> Edit:
    entry = shipped_move(form.get("move", ""))
    new = edit.fresh_id(script)
    after = form.get("item") or None
    return Edit(lambda s: edit.add_move(s, entry, after)[0], f"Added {entry.move.name}", choose=new)


def _talk(form: Form, script: Script) -> Edit:
    new, after = edit.fresh_id(script), form.get("item") or None
    return Edit(lambda s: edit.add_talk(s, after)[0], "Added a talk", choose=new)


def _section(form: Form, script: Script) -> Edit:
    name, role = form.get("name", "").strip() or "New section", Role(form.get("role", Role.MAIN))
    return Edit(lambda s: edit.add_section(s, name, role), f"Added section {name}")


def _rename_section(form: Form, script: Script) -> Edit:
    key, name = form.get("section", ""), form.get("name", "")
    return Edit(lambda s: edit.rename_section(s, key, name), f"Section {name}", f"{key}.name")


def _remove_section(form: Form, script: Script) -> Edit:
    return Edit(lambda s: edit.remove_section(s, form.get("section", "")), "Removed a section")


def _remove(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    order = [one.id for one in script.items()]
    at = order.index(item.id)
    neighbours = order[at + 1 : at + 2] or order[at - 1 : at]
    choose = neighbours[0] if neighbours and neighbours[0] != item.id else ""
    return Edit(lambda s: edit.remove_item(s, item.id), f"Removed {item.name}", choose=choose)


def _shift(form: Form, script: Script) -> Edit:
    item, by = script.item(form["item"]), whole(form, "by")
    told = "up" if by < 0 else "down"
    return Edit(lambda s: edit.shift_item(s, item.id, 1 if by > 0 else -1), f"{item.name} {told}")


def _place(form: Form, script: Script) -> Edit:
    item, group, at = script.item(form["item"]), form.get("group", ""), whole(form, "at")
    return Edit(lambda s: edit.place_item(s, item.id, group, at), f"Moved {item.name}")


def _nudge(form: Form, script: Script) -> Edit:
    item, by = script.item(form["item"]), whole(form, "by")
    after = edit.nudge(script, item.id, by).item(item.id)
    return Edit(lambda s: edit.nudge(s, item.id, by), f"{item.name}: {dose_words(after)}", f"{item.id}.quantity")


def _lock(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    locked = not item.quantity.locked
    told = "locked" if locked else "unlocked"
    return Edit(lambda s: edit.set_locked(s, item.id, locked), f"{item.name} {told}")


def _quantity(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    before = item.quantity
    least, wanted, most = (whole(form, name) for name in ("least", "wanted", "most"))
    if wanted != before.wanted and (least, most) == (before.least, before.most):
        after = before.wanting(wanted)  # a new wish alone moves the limits out of its way
    else:
        now = min(max(before.value if wanted == before.wanted else wanted, least), most)
        after = Elastic(least, wanted, most, now, before.locked, before.extra)
    changed = item.having(after)
    return Edit(
        lambda s: edit.set_quantity(s, item.id, after), f"{item.name}: {dose_words(changed)}", f"{item.id}.quantity"
    )


def _kind(form: Form, script: Script) -> Edit:
    item = _move(script, form["item"])
    dose = as_kind(item.dose, form.get("kind", ""))
    return Edit(lambda s: edit.set_dose(s, item.id, dose), f"{item.name}: {describe(dose)}")


def as_kind(dose: Dose, kind: str) -> Dose:
    """Another kind of dose that lasts about as long, with limits of a half and the double."""
    if kind == dose.tag:
        return dose
    seconds = dose.pass_ms(dose.quantity.value) / 1000

    def about(count: int) -> Elastic:
        return Elastic(max(1, count // 2), count, count * 2)

    if kind == Hold.tag:
        return Hold(about(max(5, round(seconds / 5) * 5)))
    if kind == Reps.tag:
        return Reps(about(max(1, round(seconds / 4))))
    if kind == Breaths.tag:
        return Breaths(about(max(1, round(seconds / 10))))
    raise RefusedError("kind", "hold, reps or breaths", kind)


def _tempo(form: Form, script: Script) -> Edit:
    item = _move(script, form["item"])
    dose = item.dose
    if isinstance(dose, Hold):
        raise RefusedError("dose", "reps or breaths for a tempo", "a hold")
    names = tempo_fields(dose)
    changed = replace(dose, **{name: tenths_ms(form, name) for name, _, _ in names})
    return Edit(lambda s: edit.set_dose(s, item.id, changed), f"{item.name}: tempo", f"{item.id}.tempo")


def tempo_fields(dose: Dose) -> list[tuple[str, str, str]]:
    """The phases of a rep or a breath: field, word, and seconds as shown."""
    if isinstance(dose, Reps):
        words = {"out_ms": "out", "stay_ms": "stay", "back_ms": "back", "rest_ms": "rest"}
    elif isinstance(dose, Breaths):
        words = {"in_ms": "in", "full_ms": "hold", "out_ms": "out", "empty_ms": "hold"}
    else:
        return []
    return [(name, word, f"{getattr(dose, name) / 1000:.1f}".removesuffix(".0")) for name, word in words.items()]


def _sides(form: Form, script: Script) -> Edit:
    item, sides = _move(script, form["item"]), Sidedness(form.get("sides", ""))
    return Edit(lambda s: edit.set_sidedness(s, item.id, sides), f"{item.name}: {sides}")


def _words(form: Form, script: Script) -> Edit:
    item = _move(script, form["item"])
    prompts = []
    for index in range(whole(form, "prompts")):
        text = form.get(f"prompt_{index}", "").strip()
        if text:
            old = item.words.prompts[index] if index < len(item.words.prompts) else Prompt(PromptKind.FORM, text)
            kind = PromptKind(form.get(f"prompt_{index}_kind", old.kind))
            prompts.append(replace(old, kind=kind, text=text))
    told = {name: form.get(name, "").strip() for name in ("moving", "there", "switch", "release")}
    words: Words = replace(item.words, **told, prompts=tuple(prompts))
    return Edit(lambda s: edit.set_words(s, item.id, words), f"{item.name}: words", f"{item.id}.words")


def _talk_words(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    words = form.get("words", "").strip()
    return Edit(lambda s: edit.set_talk_words(s, item.id, words), f"{item.name}: words", f"{item.id}.words")


def _name(form: Form, script: Script) -> Edit:
    item, name = script.item(form["item"]), form.get("name", "")
    return Edit(lambda s: edit.rename_item(s, item.id, name), f"{item.name} is now {name}", f"{item.id}.name")


def _fit(form: Form, script: Script) -> Edit:
    seconds = target(form)
    result = Fitter(script).fit(seconds)
    if not result.reached:
        raise OutOfReachError(result)
    return Edit(lambda s: Fitter(s).fit(seconds).script, f"Fitted to {clock(seconds)}")


def target(form: Form) -> int:
    """The length asked for."""
    try:
        return parse_clock(form.get("target", ""))
    except RefusedError as error:
        raise error.within("length") from None


def _class(form: Form, script: Script) -> Edit:
    title, group = form.get("title", ""), form.get("group", "").strip()
    style = replace(
        script.style,
        words_per_minute=whole(form, "words_per_minute"),
        countdown=Countdown(form.get("countdown", script.style.countdown)),
        halfway="halfway" in form,
        next_call="next_call" in form,
        prompts="prompts" in form,
        settle_s=whole(form, "settle_s"),
        lead_side=Side(form.get("lead_side", script.style.lead_side)),
        teaching=Teaching(form.get("teaching", script.style.teaching)),
        pace_percent=whole(form, "pace_percent"),
    )

    def change(s: Script) -> Script:
        renamed = edit.set_title(s, title)
        return replace(renamed, style=style, brief=replace(s.brief, group=group))

    return Edit(change, "Class settings", "class")


def _move(script: Script, item_id: str) -> MoveItem:
    item = script.item(item_id)
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    return item


def dose_words(item: Item) -> str:
    """The dose of any item in a few words."""
    if not isinstance(item, MoveItem):
        return f"{item.quantity.value} s"
    return describe(item.dose) + (" each side" if item.move.sided else "")


EDITS: dict[str, Callable[[Form, Script], Edit]] = {
    "add": _add,
    "talk": _talk,
    "section": _section,
    "rename-section": _rename_section,
    "remove-section": _remove_section,
    "remove": _remove,
    "shift": _shift,
    "place": _place,
    "nudge": _nudge,
    "lock": _lock,
    "quantity": _quantity,
    "kind": _kind,
    "tempo": _tempo,
    "sides": _sides,
    "words": _words,
    "talk-words": _talk_words,
    "name": _name,
    "fit": _fit,
    "class": _class,
}


def read_edit(form: Form, script: Script) -> Edit:
    """The edit that a form asks for; RefusedError says which field is wrong, what must hold and what was found."""
    kind = form.get("edit", "")
    if kind not in EDITS:
        raise RefusedError("edit", "one of " + ", ".join(EDITS), kind)
    try:
        return EDITS[kind](form, script)
    except ValueError as error:  # a choice that the page does not offer
        raise RefusedError(kind, "one of the choices offered", str(error)) from None
    except KeyError as error:
        raise RefusedError(kind, f"sent with {error.args[0]}", "nothing") from None
