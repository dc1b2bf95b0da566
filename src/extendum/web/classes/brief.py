"""The brief: what a new class asks first, on one screen, all of it skippable."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from extendum.core.model.audience import Condition, Setting, WhatNext, When
from extendum.core.model.body import Base, Posture, Region
from extendum.core.model.errors import ExtendumError
from extendum.core.model.script import Script
from extendum.core.model.style import HoldConvention
from extendum.core.model.timeline import clock
from extendum.formats.library import activities
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.desk import notice
from extendum.web.classes.models import StretchClass
from extendum.web.classes.own import Own
from extendum.web.classes.posted import read_edit
from extendum.web.classes.posted_brief import PROPS, told_props, told_stand_ins, with_activities, with_audience
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import options, refusal, whole

POSTURE_GROUPS = tuple((base, tuple(p for p in Posture if Base.of(p) is base)) for base in Base)


@dataclass(frozen=True, slots=True)
class PropRow:
    """A prop of the form: whether it is at hand, and what it can be said to be like."""

    name: str
    on: bool
    traits: list[tuple[str, bool]]


def _prop_rows(script: Script) -> list[PropRow]:
    like = {one.name: re.split(r"\s*,\s*", one.like) for one in script.brief.props}
    return [
        PropRow(name, name in like, [(trait, trait in like.get(name, ())) for trait in traits])
        for name, traits in PROPS.items()
    ]


def form_context(of: StretchClass, script: Script, own: Own) -> dict[str, Any]:
    """What the brief's form shows of a script."""
    brief, style = script.brief, script.style
    known = set(Condition)
    return {
        "class": of,
        "brief": brief,
        "style": style,
        "length": clock(brief.target_s),
        "audiences": [(one, one.name == brief.audience) for one in own.audiences],
        "settings": options(Setting, brief.setting),
        "holds": options(HoldConvention, style.holds),
        "posture_groups": [(name, [(p, p in brief.postures) for p in group]) for name, group in POSTURE_GROUPS],
        "starts": options(Posture, script.start_posture),
        "props": _prop_rows(script),
        "other_props": told_props(brief.props),
        "stand_ins": told_stand_ins(brief.props),
        "activities": [(one.name, one.name in brief.activities) for one in activities()],
        "activities_were": "; ".join(brief.activities),
        "whens": options(When, When.COMES_BEFORE if brief.before is not WhatNext.NOTHING else When.COMES_AFTER),
        "care": [(one.name, one.care) for one in activities() if one.name in brief.activities],
        "areas": [(region, region in brief.areas) for region in Region],
        "nexts": options(WhatNext, brief.before),
        "conditions": [(one, one in brief.conditions) for one in Condition],
        "other_conditions": ", ".join(one for one in brief.conditions if one not in known),
        "avoid": ", ".join(brief.avoid),
    }


@require_http_methods(["GET", "HEAD", "POST"])
def brief(request: Asked, pk: int) -> HttpResponse:
    """The brief of a class; a post sets it and goes to the Desk, with ``apply`` it only shows what follows from it."""
    of, form = own_class(request, pk), request.POST
    script, own = store.script_of(of.present), Own(of.owner)
    if request.method != "POST":
        return render(request, "classes/brief.html", form_context(of, script, own) | {"new": "new" in request.GET})
    try:
        if "apply" in form:
            by = form["apply"] == "activities"
            shown = with_activities(form, script) if by else with_audience(form, script, own)
            return render(request, "classes/_brief.html", form_context(of, shown, own))
        asked = read_edit(form, script, own)
        store.change(of, whole(form, "stamp"), asked.label, asked.change, asked.field)
    except store.StaleEditError as stale:
        told = f"The class was changed in the meantime: {', '.join(stale.happened)}."
        answer = notice(request, of, 409, message=f"{told} Your choices are still here: save again.")
        answer["X-Stamp"] = str(own_class(request, pk).stamp)
        return answer
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    return _to_desk(request, of)


def _to_desk(request: Asked, of: StretchClass) -> HttpResponse:
    address = reverse("proposals" if request.POST.get("next") == "proposals" else "desk", args=[of.pk])
    if request.htmx:
        return HttpResponse(status=204, headers={"HX-Redirect": address})
    return HttpResponseRedirect(address)


@require_POST
def keep_audience(request: Asked, pk: int) -> HttpResponse:
    """Keep the brief of the form under a name, for other classes; this class takes it too."""
    of, form = own_class(request, pk), request.POST
    script, own = store.script_of(of.present), Own(of.owner)
    try:
        wanted = read_edit(form, script, own)
        kept = store.keep_audience(of.owner, wanted.change(script), form.get("audience_name", ""))
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    own = Own(of.owner)
    context = form_context(of, wanted.change(script), own)
    context["audiences"] = [(one, one.name == kept.name) for one in own.audiences]
    return render(request, "classes/_brief.html", context)
