"""The Desk: one page and one fragment at one address; every edit answers with the Desk as it then is."""

from __future__ import annotations

import json

from django.http import HttpResponse, HttpResponseRedirect, QueryDict
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from extendum.core.fit.remedy import remedies
from extendum.core.model.body import Side
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.timeline import clock
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.checking import checks_page
from extendum.web.classes.models import StretchClass
from extendum.web.classes.own import Own
from extendum.web.classes.page import Room, compiled, desk_context
from extendum.web.classes.posted import OutOfReachError, read_edit
from extendum.web.classes.words import words_page
from extendum.web.guide.texts import guide
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import refusal, whole

#: The modules that the Desk is made of: named in its page, so that they come at once and not one after the other.
DESK_PARTS = (
    *(f"js/{name}.js" for name in ("finder", "keep", "keys", "look", "page", "remedies", "told")),
    *(f"js/desk/{name}.js" for name in ("main", "adding", "dragging", "listening", "notices", "panel", "peg")),
    *(f"js/desk/{name}.js" for name in ("preview", "room", "rows", "sheet", "tabs", "turns")),
)
#: Edits after which the page names what is gone and offers Undo.
REMOVES = frozenset({"remove", "remove-rows", "remove-section", "remove-stage", "remove-instead", "remove-route"})


@require_safe
@vary_on_headers("HX-Request")
def desk(request: Asked, pk: int) -> HttpResponse:
    """The class on the Desk, with the item chosen by ?item=."""
    return _desk(request, own_class(request, pk), request.GET.get("item"))


def _desk(request: Asked, of: StretchClass, chosen: str | None) -> HttpResponse:
    context = desk_context(of, chosen, Room.read(request.COOKIES.get("room", "")))
    if request.htmx:
        return render(request, "classes/_desk.html", context)
    toured = guide() if request.session.get("tour") == of.pk else None
    return render(request, "classes/desk.html", {**context, "guide": toured, "parts": DESK_PARTS})


@require_POST
def edit(request: Asked, pk: int) -> HttpResponse:
    """Apply one edit made on the class as it was at the posted stamp."""
    of, form = own_class(request, pk), request.POST
    try:
        asked = read_edit(form, store.script_of(of.present), Own(of.owner))
        of = store.change(of, whole(form, "stamp"), asked.label, asked.change, asked.field)
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except OutOfReachError as far:
        told = {"out_of_reach": _offers(far), "lines": str(far).split(". "), "remedies": remedies(far.result)}
        return notice(request, of, 422, **told, wanted=clock(far.result.target_s))
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    chosen = asked.choose if asked.choose is not None else form.get("item")
    answer = _answer(request, of, chosen)
    if asked.focus:
        answer["HX-Trigger-After-Settle"] = json.dumps({"focusing": {"id": asked.focus}})
    return telling(answer, f"{asked.label}.", "undo") if form.get("edit") in REMOVES else answer


def _offers(far: OutOfReachError) -> list[str]:
    near = (far.result.nearest_below_s, far.result.nearest_above_s)
    return [clock(seconds) for seconds in near if seconds is not None]


def _answer(request: Asked, of: StretchClass, chosen: str | None) -> HttpResponse:
    elsewhere = {"words": words_page, "checks": checks_page}.get(request.POST.get("view", ""))
    if elsewhere:
        return elsewhere(request, of)
    if request.htmx:
        return _desk(request, of, chosen)
    query = f"?item={chosen}" if chosen else ""
    return HttpResponseRedirect(reverse("desk", args=[of.pk]) + query)


def notice(request: Asked, of: StretchClass, status: int, **facts: object) -> HttpResponse:
    """A notice that changes nothing else on the page: what was typed stays."""
    template = "classes/_notice.html" if request.htmx else "classes/notice_page.html"
    return render(request, template, {"class": of, **facts}, status=status)


def stale_notice(request: Asked, of: StretchClass, form: QueryDict, stale: store.StaleEditError) -> HttpResponse:
    """What happened since the page that the edit was made on, and what was typed."""
    typed = [(k, v) for k, v in form.items() if k not in ("csrfmiddlewaretoken", "stamp")]
    return notice(request, of, 409, happened=stale.happened, typed=typed)


@require_POST
def keep_style(request: Asked, pk: int) -> HttpResponse:
    """Keep the class's cue style under a name, for other classes."""
    of, form = own_class(request, pk), request.POST
    try:
        of = store.keep_style(of, whole(form, "stamp"), form.get("style_name", ""))
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    return _answer(request, of, form.get("item"))


@require_POST
def step(request: Asked, pk: int) -> HttpResponse:
    """Undo, redo, or go to any step."""
    of, form = own_class(request, pk), request.POST
    try:
        stamp, which, at = whole(form, "stamp"), form.get("which", ""), of.present
        if which == "undo":
            of = store.undo(of, stamp)
        elif which == "redo":
            of = store.redo(of, stamp)
        elif which == "go":
            of = store.go_to(of, stamp, whole(form, "revision"))
        else:
            raise RefusedError("which", "undo, redo or go", which)
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    answer = _answer(request, of, form.get("item"))
    if which == "undo" and of.present.pk != at.pk:
        return telling(answer, f"Taken back: {at.label}.", "redo")
    if which == "redo" and of.present.pk != at.pk:
        return telling(answer, f"Done again: {of.present.label}.", "undo")
    return answer


def telling(answer: HttpResponse, text: str, which: str) -> HttpResponse:
    """An answer after which the page tells for a moment what happened, and offers to undo or redo it."""
    answer["HX-Trigger-After-Settle"] = json.dumps({"told": {"text": text.replace("..", "."), "which": which}})
    return answer


@require_safe
def sheet_table(request: Asked, pk: int) -> HttpResponse:
    """The minute sheet as a table: what happens when, on which side, for how long, and why so long."""
    of = own_class(request, pk)
    timeline = compiled(bytes(of.present.document))
    rows = [
        (clock(one.start_s), one.seconds, one.name, one.side if one.side in (Side.LEFT, Side.RIGHT) else "", one)
        for one in timeline.segments
    ]
    return render(request, "classes/_table.html", {"class": of, "rows": rows, "length": clock(timeline.length_s)})


@require_safe
def steps(request: Asked, pk: int) -> HttpResponse:
    """All steps ever taken, newest first, on every branch."""
    of = own_class(request, pk)
    found = of.revisions.order_by("-stamp", "-pk")[:300]
    return render(request, "classes/_steps.html", {"class": of, "steps": found})
