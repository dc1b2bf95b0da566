"""Proposals: three classes from a brief side by side, better by the second; one of them becomes the class."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial
from typing import Any

from django.http import Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import render
from django.urls import reverse
from django.utils.safestring import SafeString
from django.views.decorators.http import require_POST, require_safe

from extendum.core.edit.script_edits import move_item
from extendum.core.fit.explain import names
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.outputs.coverage import coverage, on_each_side
from extendum.core.propose.made import Maker
from extendum.core.propose.named import names_of
from extendum.core.propose.stand_ins import stand_ins
from extendum.core.propose.weights import SLIDE
from extendum.core.timing.compile import compile_script
from extendum.draw.body import draw_still_body
from extendum.draw.proof import draw_proof
from extendum.draw.small import draw_small_sheet
from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.desk import notice, stale_notice
from extendum.web.classes.models import StretchClass
from extendum.web.classes.own import Own
from extendum.web.jobs import work
from extendum.web.jobs.models import Job
from extendum.web.proposing.asked import plain, unlike, wanted
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import refusal, whole

SLIDERS = {
    "reach": ("Reach", "more variety of areas", "longer where wanted"),
    "calm": ("Calm", "changes do not matter", "few changes"),
    "variety": ("Variety", "the same again is fine", "something else each time"),
    "familiarity": ("Familiar", "rather new to them", "what they know"),
}


#: From what a proposal starts, in the words of the page: from the brief alone, or from the class as it is.
STARTS = {
    "": "the brief alone",
    "keep": "what the class has: keep it and fill the rest",
    "like": "another like this: at least 40 % other moves",
}


@dataclass(frozen=True, slots=True)
class Column:
    """One proposal as the page shows it."""

    nth: int
    name: str
    length: str
    moves: list[tuple[str, bool]]
    sheet: SafeString
    body: SafeString
    proof: SafeString
    told: list[str]
    open: list[str]


@require_safe
def proposals(request: Asked, pk: int) -> HttpResponse:
    """The proposals of a class as they are now; asked for in part while they are made."""
    of = own_class(request, pk)
    job = _last(of)
    context = _context(of, job)
    if request.htmx:
        return render(request, "proposing/_proposals.html", context)
    return render(request, "proposing/proposals.html", context)


@require_POST
def begin(request: Asked, pk: int) -> HttpResponse:
    """Propose classes, by the weights that the sliders give."""
    of, form = own_class(request, pk), request.POST
    try:
        sliders = {name: max(-SLIDE, min(SLIDE, whole(form, name))) if name in form else 0 for name in SLIDERS}
        store.close(of)
        start = form.get("start", "")
        if start not in STARTS:
            raise RefusedError("start", "one of " + ", ".join(filter(None, STARTS)), start)
        asked: dict[str, object] = {"revision": of.head_id, "sliders": sliders, "keep": start == "keep"}
        asked["like"] = start == "like"
        job = work.begin(of, "propose", asked, _at_once(of, asked))
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    if request.htmx:
        return render(request, "proposing/_proposals.html", _context(of, job))
    return HttpResponseRedirect(reverse("proposals", args=[of.pk]))


def _at_once(of: StretchClass, asked: dict[str, object]) -> dict[str, object]:
    """A good class before the search begins; nothing where the brief cannot be met."""
    maker = Maker(*wanted(of.owner, asked))
    other = sorted(unlike(asked))[::2]  # a class without half of them is another one
    maker.rules = replace(maker.rules, never=frozenset(other))
    return {} if maker.impossible else {"first": plain(maker.at_once(), maker.task)}


@require_POST
def enough(request: Asked, pk: int) -> HttpResponse:
    """What was found will do."""
    of = own_class(request, pk)
    of.jobs.filter(kind="propose", state=Job.State.WORKING).update(enough=True)
    if request.htmx:
        return render(request, "proposing/_proposals.html", _context(of, _last(of)))
    return HttpResponseRedirect(reverse("proposals", args=[of.pk]))


@require_safe
def stand_ins_dialog(request: Asked, pk: int) -> HttpResponse:
    """What could be done instead of ?item=, with what each costs."""
    of = own_class(request, pk)
    script, own = store.script_of(of.present), Own(request.user)
    try:
        item = move_item(script, request.GET.get("item", ""))
    except RefusedError:
        return HttpResponse()  # only moves have others that could stand in their place
    found = stand_ins(script, item.id, own.library, own.library.form)
    areas = names([str(one) for one in item.move.main_regions])
    return render(request, "proposing/_stand_ins.html", {"class": of, "item": item, "found": found, "areas": areas})


@require_POST
def take(request: Asked, pk: int) -> HttpResponse:
    """One proposal becomes the class, as one step that can be undone."""
    of, form = own_class(request, pk), request.POST
    job = _last(of)
    try:
        nth, made = whole(form, "nth"), _made(job)
        if "why" in form:
            made = [found] if (answer := _last(of, "why-not")) and (found := answer.found.get("proposal")) else []
        if not 1 <= nth <= len(made):
            raise Http404
        change = partial(_with_sections_of, loads(made[nth - 1]["document"]))
        told = "Took a proposal" if "why" in form else f"Took proposal {nth}"
        of = store.change(of, whole(form, "stamp"), told, change)
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    of.jobs.filter(kind="propose", state=Job.State.WORKING).update(enough=True)
    return HttpResponseRedirect(reverse("desk", args=[of.pk]))


def _with_sections_of(proposed: Script, now: Script) -> Script:
    """The class with everything that was proposed; its name, brief and style are those that it has by now."""
    return replace(now, sections=proposed.sections, meanwhiles=proposed.meanwhiles, kept=())


@require_safe
def why(request: Asked, pk: int) -> HttpResponse:
    """Why a move is not in a proposal, as far as it is known by now."""
    of = own_class(request, pk)
    return render(request, "proposing/_why.html", _why(of, _last(of), Own(request.user)))


@require_POST
def ask_why(request: Asked, pk: int) -> HttpResponse:
    """Look for the best class with a move in it."""
    of, typed, own = own_class(request, pk), request.POST.get("move", "").strip(), Own(request.user)
    job = _last(of)
    try:
        if job is None or not job.found.get("proposals"):
            raise RefusedError("move", "asked about when there is a proposal to compare with", typed)
        key = next((e.move.key for e in own.library if e.move.name.casefold() == typed.casefold()), None)
        if key is None:
            raise RefusedError("move", "the name of a move of the library", typed)
        work.begin(of, "why-not", {**job.asked, "move": key, "than": job.found["proposals"][0]}, {})
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    return render(request, "proposing/_why.html", _why(of, job, own))


def _why(of: StretchClass, job: Job | None, own: Own) -> dict[str, Any]:
    """The answer about the proposals as they are; an older one is gone with them."""
    asked = _last(of, "why-not")
    if asked and (job is None or asked.pk < job.pk):
        asked = None
    name = own.library.get(asked.asked["move"]).move.name if asked else ""
    found = asked.found.get("proposal") if asked else None
    column = _columns([found])[0] if found else None
    working = bool(asked and asked.state == Job.State.WORKING and not work.killed(asked))
    made = bool(job and job.found.get("proposals"))
    every = sorted(entry.move.name for entry in own.library)
    return {"class": of, "ask": asked, "about": name, "why": column, "asking": working, "can_ask": made, "every": every}


def _last(of: StretchClass, kind: str = "propose") -> Job | None:
    return of.jobs.filter(kind=kind).order_by("-pk").first()


def _context(of: StretchClass, job: Job | None) -> dict[str, Any]:
    script = store.script_of(of.present)
    columns = _columns(_made(job))
    killed = bool(job and work.killed(job))
    working = bool(job and job.state == Job.State.WORKING and not killed)
    sliders = job.asked.get("sliders", {}) if job else {}
    return {
        "class": of,
        "job": job,
        "length": clock(script.brief.target_s),
        "areas": list(script.brief.areas),
        "columns": columns,
        "first": bool(job and not job.found.get("proposals")),
        "has_moves": bool(list(script.moves())),
        "starts": [(key, told, key == _start(job)) for key, told in STARTS.items()],
        "start": _start(job),
        "working": working and not (job and job.enough),
        "ending": working and bool(job and job.enough),
        "killed": killed,
        "waiting": range(len(columns) + 1, 4) if working and not killed else (),
        "now": _proof_now(job) if working and job else None,
        "conflict": job.found.get("conflict") if job else None,
        "without": job.found.get("without") if job else None,
        "stale": bool(job and job.asked.get("revision") != of.head_id),
        "sliders": [(name, *told, sliders.get(name, 0)) for name, told in SLIDERS.items()],
        "slide": SLIDE,
    }


def _start(job: Job | None) -> str:
    asked = job.asked if job else {}
    return "keep" if asked.get("keep") else "like" if asked.get("like") else ""


def _proof_now(job: Job) -> dict[str, Any] | None:
    score, bound = job.found.get("score"), job.found.get("bound")
    if not score or not bound:
        return None
    return {"proof": drawn(draw_proof(score, bound)), "percent": max(0, round(100 * (bound - score) / max(1, score)))}


def _made(job: Job | None) -> list[dict[str, Any]]:
    """What was found: the proposals, and before the first of them a good class that was there at once."""
    if not job:
        return []
    first = job.found.get("first")
    made: list[dict[str, Any]] = job.found.get("proposals") or ([first] if first else [])
    return made


def _columns(made: list[dict[str, Any]]) -> list[Column]:
    scripts = [loads(one["document"]) for one in made]
    keys = [{item.move.key for item in script.moves()} for script in scripts]
    called = names_of(scripts)
    return [_column(n, one, called[n], scripts, keys) for n, one in enumerate(made)]


def _column(n: int, one: dict[str, Any], name: str, scripts: list[Script], keys: list[set[str]]) -> Column:
    script = scripts[n]
    timeline = compile_script(script)
    elsewhere = set[str]().union(*(own for m, own in enumerate(keys) if m != n))
    return Column(
        n + 1,
        name,
        clock(timeline.length_s),
        [(item.name, item.move.key in elsewhere) for item in script.moves()],
        drawn(draw_small_sheet(timeline, timeline.length_s, 260)),
        drawn(draw_still_body(on_each_side(coverage(script, timeline)))),
        drawn(draw_proof(one["planned"], one["bound"])),
        list(one["told"]),
        list(one["open"]),
    )
