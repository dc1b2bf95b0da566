"""What a form of the Desk posts, as an edit of the core: one small function per kind of edit.

Each reads its values from the form and gives the change, a label for the step, and the field that it
belongs to (so that quick repeats are one revision). RefusedError names the field that is wrong.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace

from extendum.core.edit import script_edits as edit
from extendum.core.fit.explain import refusal_lines
from extendum.core.fit.fit import Fit, Fitter
from extendum.core.fit.remedy import Gives, Remedy, apply
from extendum.core.model.body import Side
from extendum.core.model.brief import Priority
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.model.script import Script
from extendum.core.model.section import Group, PassRef, Pin, SidePlan, ways_of
from extendum.core.model.style import Countdown, CueStyle, HoldConvention, RepCount, SideNames, TalkStyle, Teaching
from extendum.core.model.timeline import clock, parse_clock
from extendum.core.order.section_order import apply_order, section_of, set_pins
from extendum.web.classes.own import Own
from extendum.web.classes.posted_brief import BRIEF_EDITS
from extendum.web.classes.posted_checks import CHECK_EDITS
from extendum.web.classes.posted_choices import CHOICE_EDITS
from extendum.web.classes.posted_items import ITEM_EDITS, under_from
from extendum.web.classes.posted_moves import MOVE_EDITS
from extendum.web.classes.posted_rows import OWN_ROW_EDITS, ROW_EDITS
from extendum.web.classes.posted_words import WORD_EDITS
from extendum.web.shared.forms import Edit, Form, choice, named, names_in, optional_side, tenths_ms, whole


class OutOfReachError(ExtendumError):
    """A fit that cannot be: carries the answer, so that the page can offer the nearest."""

    def __init__(self, result: Fit) -> None:
        self.result = result
        super().__init__(" ".join(refusal_lines(result)))


def _rename_section(form: Form, script: Script) -> Edit:
    key, name = form.get("section", ""), form.get("name", "")
    return Edit(lambda s: edit.rename_section(s, key, name), f"Section {name}", f"{key}.name")


def _remove_section(form: Form, script: Script) -> Edit:
    return Edit(lambda s: edit.remove_section(s, form.get("section", "")), "Removed a section")


def _group(form: Form, script: Script) -> Edit:
    """A group's side plan, rounds, taper, lead side, reset and cadence, and what runs under it."""
    group = _find_group(script, form.get("group", ""))
    plan = choice(SidePlan, form, "side_plan", group.side_plan)
    changes = {
        "name": form.get("group_name", group.name).strip(),
        "side_plan": plan,
        "rounds": whole(form, "rounds"),
        "taper_percent": whole(form, "taper_percent"),
        "lead_side": optional_side(form, "lead_side"),
        "reset_s": whole(form, "reset_s"),
        "cadence_s": whole(form, "cadence_s"),
    }
    typed = form.get("passes", "").strip()
    passes = _passes(typed, group) if plan is SidePlan.INTERLEAVED and typed else group.passes
    name, words, where = under_from(form)
    ends = (group.items[0].id, group.items[-1].id) if group.items else None

    def change(s: Script) -> Script:
        first = edit.set_group(s, group.id, passes=passes) if plan is group.side_plan else s
        return edit.set_under(edit.set_group(first, group.id, **changes), ends, name, words, **where)

    told = f"{plan}, {changes['rounds']} round{'s' * (changes['rounds'] != 1)}"
    return Edit(change, f"Group: {told}", f"{group.id}.group")


def _order(form: Form, script: Script) -> Edit:
    """A section's items in another order."""
    key, order = form.get("section", ""), tuple(names_in(form.get("order", "")))
    told = f"Order of {section_of(script, key).name or 'a section'}: {form.get('by', '').strip() or 'another'}"
    return Edit(lambda s: apply_order(s, key, order), told[:300])


def _pin(form: Form, script: Script) -> Edit:
    """A move first in its group, after another one, or free."""
    section, item, where = section_of(script, form.get("section", "")), form.get("pinned", ""), form.get("where", "")
    pins = tuple(pin for pin in section.pins if pin.item != item)
    pins += (Pin(item, "" if where == "first" else where),) if where else ()
    told = "free" if not where else ("first" if where == "first" else f"after {script.item(where).name}")
    return Edit(lambda s: set_pins(s, section.id, pins), f"Order: {script.item(item).name} {told}")


def _find_group(script: Script, group_id: str) -> Group:
    for section in script.sections:
        for group in section.groups:
            if group.id == group_id:
                return group
    raise RefusedError("group", "a group of this class", group_id)


_PASS = re.compile(r"^([0-9]+)(?:\s*(l|r|left|right|both)\b)?\s*(.*)$", re.I)


def _passes(typed: str, group: Group) -> tuple[PassRef, ...]:
    """Passes as they are typed: numbers of the group's items with side and direction: ``1 left up, 2, 1 right``."""
    found = []
    for part in filter(None, (one.strip() for one in re.split(r"[,;\n]", typed))):
        match = _PASS.match(part)
        number = whole_number(match.group(1), 1, len(group.items)) if match else None
        if match is None or number is None:
            must = f"numbers from 1 to {len(group.items)} with a side, such as 1 left, 2, 1 right"
            must += ", and a direction where it is only one of two"
            raise RefusedError("passes", must, part)
        side = {"l": Side.LEFT, "r": Side.RIGHT}.get((match.group(2) or "both")[0].lower(), Side.BOTH)
        item, way = group.items[number - 1], match.group(3).strip()
        if way and way not in ways_of(item):
            must = f"a direction of {item.name}: {', '.join(ways_of(item))}" if any(ways_of(item)) else "no direction"
            raise RefusedError("passes", must, way)
        found.append(PassRef(item.id, side, way))
    return tuple(found)


def passes_typed(group: Group) -> str:
    """The passes of an interleaved group as they are typed."""
    numbers = {item.id: n for n, item in enumerate(group.items, 1)}
    sides = {Side.BOTH: ""}
    told = [f"{numbers[ref.item]} {sides.get(ref.side, ref.side)} {ref.direction}".split() for ref in group.passes]
    return ", ".join(map(" ".join, told))


def _add_group(form: Form, script: Script) -> Edit:
    group = _find_group(script, form.get("group", ""))
    section = next(s for s in script.sections if group in s.groups)
    new = edit.fresh_id(script, "g")
    return Edit(lambda s: edit.add_group(s, section.id, group.id), "Added a group", choose=new)


def _fit(form: Form, script: Script) -> Edit:
    seconds = target(form)
    result = Fitter(script).fit(seconds)
    if not result.reached:
        raise OutOfReachError(result)
    return Edit(lambda s: Fitter(s).fit(seconds).script, f"Fitted to {clock(seconds)}")


def _remedy(form: Form, script: Script) -> Edit:
    """A remedy and the fit that it makes possible, as one step."""
    seconds = target(form)
    remedy = Remedy(Gives(form.get("gives", "")), form.get("of", ""), whole(form, "part"), whole(form, "value"))
    result = Fitter(apply(script, remedy)).fit(seconds)
    if not result.reached:
        raise OutOfReachError(result)
    told = form.get("told", "").strip() or "One limit moved"
    return Edit(lambda s: Fitter(apply(s, remedy)).fit(seconds).script, f"{told}; fitted to {clock(seconds)}"[:300])


def target(form: Form) -> int:
    """The length asked for."""
    try:
        return parse_clock(form.get("target", ""))
    except RefusedError as error:
        raise error.within("length") from None


def _style(form: Form, script: Script, own: Own) -> Edit:
    """One of the cue styles to choose from."""
    style = named(own.styles, form.get("style", ""), "style")
    return Edit(lambda s: edit.take_style(s, style), f"Cue style: {style.name}")


def _class(form: Form, script: Script) -> Edit:
    title, style = form.get("title", ""), style_from(form, script.style)
    brief = replace(
        script.brief,
        group=form.get("group", "").strip(),
        notes=form.get("notes", script.brief.notes).strip(),
        priority=choice(Priority, form, "priority", script.brief.priority),
    )

    def change(s: Script) -> Script:
        return replace(edit.set_title(s, title), style=style, brief=brief)

    return Edit(change, "Class settings", "class")


def style_from(form: Form, before: CueStyle) -> CueStyle:
    """The cue style that the class settings ask for."""
    return replace(
        before,
        words_per_minute=whole(form, "words_per_minute"),
        countdown=choice(Countdown, form, "countdown", before.countdown),
        count_reps=choice(RepCount, form, "count_reps", before.count_reps),
        last_calls=whole(form, "last_calls"),
        talk_style=choice(TalkStyle, form, "talk_style", before.talk_style),
        halfway="halfway" in form,
        time_left=tuple(_seconds(one) for one in names_in(form.get("time_left", ""))),
        next_call="next_call" in form,
        prompts="prompts" in form,
        say_breaths=whole(form, "say_breaths"),
        breath_every_s=whole(form, "breath_every_s"),
        quiet_percent=whole(form, "quiet_percent"),
        settle_s=whole(form, "settle_s"),
        breath_in_ms=tenths_ms(form, "breath_in_ms"),
        breath_out_ms=tenths_ms(form, "breath_out_ms"),
        lead_side=choice(Side, form, "lead_side", before.lead_side),
        side_names=choice(SideNames, form, "side_names", before.side_names),
        teaching=choice(Teaching, form, "teaching", before.teaching),
        holds=choice(HoldConvention, form, "holds", before.holds),
        pace_percent=whole(form, "pace_percent"),
    )


def _seconds(typed: str) -> int:
    return whole({"time left": typed}, "time left")


EDITS: dict[str, Callable[[Form, Script], Edit]] = {
    **ITEM_EDITS,
    **WORD_EDITS,
    **CHOICE_EDITS,
    **ROW_EDITS,
    "rename-section": _rename_section,
    "remove-section": _remove_section,
    "group": _group,
    "add-group": _add_group,
    "order": _order,
    "pin": _pin,
    "fit": _fit,
    "remedy": _remedy,
    "class": _class,
}


OWN_EDITS: dict[str, Callable[[Form, Script, Own], Edit]] = {
    "style": _style,
    **MOVE_EDITS,
    **OWN_ROW_EDITS,
    **BRIEF_EDITS,
    **CHECK_EDITS,
}


def read_edit(form: Form, script: Script, own: Own) -> Edit:
    """The edit that a form asks for; RefusedError says which field is wrong, what must hold and what was found."""
    kind = form.get("edit", "")
    if kind not in EDITS and kind not in OWN_EDITS:
        raise RefusedError("edit", "one of " + ", ".join((*EDITS, *OWN_EDITS)), kind)
    try:
        if kind in OWN_EDITS:
            return OWN_EDITS[kind](form, script, own)
        return EDITS[kind](form, script)
    except ValueError as error:  # a choice that the page does not offer
        raise RefusedError(kind, "one of the choices offered", str(error)) from None
    except KeyError as error:
        raise RefusedError(kind, f"sent with {error.args[0]}", "nothing") from None
