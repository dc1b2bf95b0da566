"""What the brief's form posts, as an edit of the core."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from enum import StrEnum
from typing import TypeVar

from extendum.core.edit.brief_edits import apply_activities, apply_audience
from extendum.core.model.audience import Activity, Condition, Setting, WhatNext, When
from extendum.core.model.body import Posture, Region
from extendum.core.model.brief import AtHand
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.style import HoldConvention
from extendum.core.model.timeline import parse_clock
from extendum.formats.library import activities
from extendum.web.classes.own import Own
from extendum.web.shared.forms import Edit, Form, choice, many, named, whole

Choice = TypeVar("Choice", bound=StrEnum)

#: The props that the form asks for by name, and what each may be said to be.
PROPS: dict[str, tuple[str, ...]] = {
    "chair": ("with arms", "on wheels", "folding"),
    "wall": (),
    "mat": ("slippery",),
    "strap": (),
    "cushion": ("soft",),
    "block": ("soft",),
    "ball": (),
    "stick": ("heavy",),
}


def _chosen(kind: type[Choice], form: Form, name: str) -> tuple[Choice, ...]:
    try:
        asked = {kind(one) for one in many(form, name)}
    except ValueError as error:
        raise RefusedError(name, "one of " + ", ".join(kind), str(error)) from None
    return tuple(one for one in kind if one in asked)


def _listed(typed: str) -> tuple[str, ...]:
    parts = (one.strip() for one in re.split(r"[,;\n]", typed))
    return tuple(dict.fromkeys(one for one in parts if one))


def _at_hand(form: Form) -> tuple[AtHand, ...]:
    """The props that are ticked, and those that are typed with what they are like: ``bench: low; strap: a towel``."""
    typed = dict(_told(one) for one in re.split(r"[;\n]", form.get("other_props", "")) if one.strip(" :"))
    found = []
    for name in PROPS:
        if name in many(form, "prop") or name in typed:
            like = [*many(form, f"{name}_is"), typed.pop(name, "")]
            found.append(AtHand(name, ", ".join(filter(None, like))))
    found += [AtHand(name, like) for name, like in typed.items()]
    serves = dict(_serves(one) for one in re.split(r"[,;\n]", form.get("stand_ins", "")) if one.strip())
    found += [AtHand(name) for name in serves if name not in {one.name for one in found}]
    return tuple(replace(one, counts_as=serves.get(one.name, "")) for one in found)


_SERVES = re.compile(r"^\s*(?:an?\s+)?(.+?)\s+(?:counts\s+)?as\s+(?:an?\s+)?(.+?)\s*$", re.I)


def _serves(typed: str) -> tuple[str, str]:
    match = _SERVES.match(typed)
    if match is None:
        raise RefusedError("stand-ins", "a thing and what it serves as, such as “a towel as a strap”", typed.strip())
    return match.group(1), match.group(2)


def told_stand_ins(props: tuple[AtHand, ...]) -> str:
    """What serves as another thing, as it is typed."""
    return "; ".join(f"{one.name} as {one.counts_as}" for one in props if one.counts_as)


def _told(typed: str) -> tuple[str, str]:
    name, _, like = typed.partition(":")
    if not name.strip():
        raise RefusedError("other things", "a thing, and after a colon what it is like", typed.strip())
    return name.strip(), like.strip()


def told_props(props: tuple[AtHand, ...]) -> str:
    """What of the props at hand has to be typed: other ones, and what the form has no tick for."""
    parts = []
    for one in props:
        ticks = PROPS.get(one.name, ())
        like = ", ".join(said for said in re.split(r"\s*,\s*", one.like) if said and said not in ticks)
        if (one.name not in PROPS and not one.counts_as) or like:
            parts.append(f"{one.name}: {like}" if like else one.name)
    return "; ".join(parts)


def briefed(form: Form, script: Script) -> Script:
    """The class with the brief and the style that the form asks for; RefusedError names the field that is wrong."""
    before, style = script.brief, script.style
    try:
        target_s = parse_clock(form.get("length", ""))
    except RefusedError as error:
        raise error.within("length") from None
    conditions = (*_chosen(Condition, form, "condition"), *_listed(form.get("other_conditions", "")))
    postures = _chosen(Posture, form, "posture")
    brief = replace(
        before,
        group=form.get("group", "").strip(),
        audience=form.get("audience", before.audience),
        target_s=target_s,
        setting=choice(Setting, form, "setting", before.setting),
        postures=() if len(postures) == len(Posture) else postures,
        props=_at_hand(form),
        areas=_chosen(Region, form, "area"),
        activities=tuple(one.name for one in _activities(form)),
        before=choice(WhatNext, form, "before", before.before),
        warm="warm" in form,
        conditions=tuple(dict.fromkeys(conditions)),
        avoid=_listed(form.get("avoid", "")),
        notes=form.get("notes", before.notes).strip(),
    )
    style = replace(
        style,
        pace_percent=whole(form, "pace_percent"),
        words_per_minute=whole(form, "words_per_minute"),
        holds=choice(HoldConvention, form, "holds", style.holds),
        one_leg_most_s=whole(form, "one_leg_most_s"),
    )
    start = choice(Posture, form, "start_posture", script.start_posture)
    return replace(script, brief=brief, style=style, start_posture=start)


def with_audience(form: Form, script: Script, own: Own) -> Script:
    """The class as the form asks, with the chosen profile's settings over it."""
    audience = named(own.audiences, form.get("audience", ""), "audience")
    return apply_audience(briefed(form, script), audience)


def _activities(form: Form) -> list[Activity]:
    asked = many(form, "activity")
    for one in asked:
        named(activities(), one, "activity")
    return [one for one in activities() if one.name in asked]


def with_activities(form: Form, script: Script) -> Script:
    """The class as the form asks, with what its activities load; the form says which it had before."""
    had = tuple(one for one in form.get("activities_were", "").split("; ") if one)
    now = briefed(form, script)
    before = replace(now, brief=replace(now.brief, activities=had))
    when = choice(When, form, "when", When.COMES_AFTER)
    return apply_activities(before, _activities(form), activities(), when)


def _brief(form: Form, script: Script, own: Own) -> Edit:
    wanted = briefed(form, script)

    def change(s: Script) -> Script:
        return replace(s, brief=wanted.brief, style=wanted.style, start_posture=wanted.start_posture)

    return Edit(change, "Brief", "brief")


BRIEF_EDITS: dict[str, Callable[[Form, Script, Own], Edit]] = {"brief": _brief}
