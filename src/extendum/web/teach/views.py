"""The Stage: plays the compiled timeline in front of the class, and keeps what really happened."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.db import transaction
from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from extendum.core.model.errors import RefusedError
from extendum.core.model.move import Prop
from extendum.core.model.timeline import clock
from extendum.core.moves.spares import spares
from extendum.core.run.actions import ACTIONS, LONGER_S
from extendum.core.run.fold import fold
from extendum.core.run.refit import CATCHES_AT_S, refit
from extendum.core.run.state import Event, advance
from extendum.core.run.steps import steps_of
from extendum.core.timing.at_hand import as_taught
from extendum.draw.small import draw_ribbon
from extendum.formats.json_text import read_json
from extendum.formats.score import score_of, tapped
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.look import owners_look
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.classes.page import compiled
from extendum.web.library.store import library_of
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import whole
from extendum.web.teach.following import clock_off, held
from extendum.web.teach.models import Link, LiveEvent, LiveRun
from extendum.web.teach.pictures import pictures
from extendum.web.teach.signals import tell_begun
from extendum.web.voices.store import spoken_readings

#: A Stage that was away sends what it kept in parts.
MOST_EVENTS, LONGEST_KEY = 2000, 40
#: The modules that the Stage is made of: named in its page, so that all are kept for a reload without the server.
_STAGE = ("main", "live", "drawn", "catching", "tray", "prompter", "page", "music", "playlist", "sounding", "voice")
STAGE_PARTS = (
    *(
        f"js/{name}.js"
        for name in ("drawing", "figure", "finder", "keys", "page", "playing", "seen", "sounded", "sounds")
    ),
    *(f"js/stage/{name}.js" for name in _STAGE),
)
_WORKER = Path(__file__).parents[1] / "assets" / "worker.js"


@require_safe
def stage(request: Asked, pk: int) -> HttpResponse:
    """The teacher's screen; the timeline travels with the page, so that it plays without the server."""
    return _stage(request, own_class(request, pk), rehearses=False)


@require_safe
def rehearse(request: Asked, pk: int) -> HttpResponse:
    """The same screen to rehearse on: at one's own pace, or faster than life."""
    return _stage(request, own_class(request, pk), rehearses=True)


@require_safe
def take(request: Asked, pk: int) -> HttpResponse:
    """The same screen in front of a camera: a slate, the words as a prompter, retakes and marks."""
    return _stage(request, own_class(request, pk), takes=True)


def _stage(request: Asked, of: StretchClass, *, rehearses: bool = False, takes: bool = False) -> HttpResponse:
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    props: dict[str, Prop] = {p.name: p for item in as_taught(script).moves() for p in item.move.props}
    library, look = library_of(request.user), owners_look(request.user)
    tray = spares(script, library)
    context = {
        "class": of,
        "figures": [one for one in pictures(script, timeline, tray, library, look) if one[2]],
        "score": {**score_of(script, timeline, library.moves, tray), **(tapped(script, timeline) if rehearses else {})},
        "voice": spoken_readings(script, timeline, request.user),
        "rehearses": rehearses,
        "takes": takes,
        "space": sorted({item.move.space for item in script.moves() if item.move.space}) if takes else [],
        "session": request.GET.get("session", ""),
        "clickers": of.owner.links.filter(kind=Link.Kind.CLICKER, revoked_at=None).exists(),
        "parts": STAGE_PARTS,
        "catches_at": CATCHES_AT_S,
        "longer_s": LONGER_S,
        "length": clock(timeline.length_s),
        "ribbon": drawn(draw_ribbon(timeline)),
        "props": list(props.values()),
        "empty": not timeline.segments,
        "teaching": script.style.teaching.value,
        "lead": script.style.lead_side.value,
    }
    return render(request, "teach/stage.html", context)


@require_POST
def opened(request: Asked, pk: int) -> HttpResponse:
    """A Stage shows this state of the class: from now on it is never written over. 409 when it was, meanwhile."""
    of = own_class(request, pk)
    try:
        stamp = whole(request.POST, "stamp")
    except RefusedError as error:
        return JsonResponse({"message": str(error)}, status=422)
    if of.stamp != stamp:
        return JsonResponse({"message": "The class was changed while this page was opened."}, status=409)
    store.close(of)
    return HttpResponse(status=204)


@require_POST
def taught(request: Asked, pk: int) -> HttpResponse:
    """The class was taught to its end: remember when."""
    of = own_class(request, pk)
    of.taught_at = timezone.now()
    of.save(update_fields=["taught_at"])
    return HttpResponse(status=204)


@require_http_methods(["GET", "HEAD", "POST"])
def events(request: Asked, pk: int) -> HttpResponse:
    """What happened on the Stage, whenever it can be told; what was told before changes nothing.

    One Stage teaches and holds the class; another that tells something gets 423 and may watch, or take over. A GET
    gives the run that is held now, for those who watch.
    """
    of = own_class(request, pk)
    if request.method != "POST":
        return JsonResponse({"run": _plain_run(held(of))})
    try:
        plain = read_json(request.body)
        key, stamp, found = _read_events(plain)
    except RefusedError as error:
        return JsonResponse({"message": str(error)}, status=422)
    return _keep(of, key, stamp, found, plain)


@transaction.atomic
def _keep(of: StretchClass, key: str, stamp: int, found: list[dict[str, Any]], plain: dict[str, Any]) -> HttpResponse:
    """Keep what a Stage told; a rehearsal holds no class and has no session."""
    StretchClass.objects.select_for_update().get(pk=of.pk)  # of two Stages that tell at once one is first
    me, rehearsal = str(plain.get("me", ""))[:LONGEST_KEY], plain.get("rehearsal") is True
    other = held(of)
    apart = rehearsal or plain.get("late") is True
    if other and other.holder != me and plain.get("take") is not True and not apart:
        return JsonResponse({"run": _plain_run(other)}, status=423)
    told = {"stamp": stamp, "revision": _revision(of, plain.get("revision")), "rehearsal": rehearsal}
    told["take"] = rehearsal and plain.get("taking") is True
    run, made = LiveRun.objects.get_or_create(of=of, key=key, defaults=told)
    LiveEvent.objects.bulk_create([LiveEvent(run=run, **one) for one in found], ignore_conflicts=True)
    answer: dict[str, Any] = {"kept": run.events.count()}
    if run.rehearsal:
        return JsonResponse(answer)
    if plain.get("late") is True:  # told after it was over: it holds nothing, and nobody follows it
        if made:
            tell_begun(run, plain.get("session"))
        return JsonResponse(answer)
    if made and (message := tell_begun(run, plain.get("session"))):
        answer["message"] = message
    LiveRun.objects.filter(of=of).exclude(pk=run.pk).update(holder="")
    ended = run.events.order_by("-at", "-pk").values_list("kind", flat=True).first() == "end"
    run.holder, run.held_at = ("" if ended or not me else me), timezone.now()
    run.clock_off = clock_off(run.clock_off, plain.get("now"), run.held_at)
    run.save(update_fields=["holder", "held_at", "clock_off"])
    return JsonResponse(answer)


def _revision(of: StretchClass, told: object) -> Revision | None:
    """The revision that a Stage plays; the one that is on where it does not tell."""
    known = Revision.objects.filter(of=of, pk=told).first() if type(told) is int and 0 < told < 2**62 else None
    return known or of.present


def _plain_run(run: LiveRun | None) -> dict[str, Any] | None:
    if run is None:
        return None
    told = [{"id": e.key, "at": e.at, "kind": e.kind, "step": e.step, "ms": e.ms} for e in run.events.all()]
    return {"run": run.key, "stamp": run.stamp, "events": told}


@require_POST
def catch_up(request: Asked, pk: int) -> HttpResponse:
    """What a re-fit of the rest would do: new lengths by step, and a sentence; nothing is changed here."""
    of = own_class(request, pk)
    try:
        plain = read_json(request.body)
        _, stamp, found = _read_events(plain)
        at, ends_at = (_milliseconds(plain.get(name), name) for name in ("at", "ends_at"))
    except RefusedError as error:
        return JsonResponse({"message": str(error)}, status=422)
    if stamp != of.stamp:
        told = "The class was changed since this Stage was opened: open it again to catch up."
        return JsonResponse({"message": told}, status=409)
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    happened = [Event(str(e["key"]), int(e["at"]), str(e["kind"]), str(e["step"]), int(e["ms"])) for e in found]
    spare = [s for one in spares(script, library_of(request.user)) for s in steps_of(one.script, one.timeline)]
    run = advance(fold(steps_of(script, timeline), happened, spare), at)
    result = refit(script, timeline, run, ends_at)
    fits = [{"step": step, "ms": ms} for step, ms in result.fits]
    return JsonResponse({"sentence": result.sentence, "fits": fits, "off": result.off_s})


def _milliseconds(value: object, name: str) -> int:
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value < 2**62:
        raise RefusedError(name, "a whole number of milliseconds", str(value)[:40])
    return value


def _read_events(plain: dict[str, Any]) -> tuple[str, int, list[dict[str, Any]]]:
    """A run's name, its state of the class, and its events; RefusedError says which part is wrong."""
    told = plain.get("events")
    if not isinstance(told, list) or len(told) > MOST_EVENTS:
        raise RefusedError("events", f"a list of at most {MOST_EVENTS}", type(told).__name__)
    key, stamp = plain.get("run"), plain.get("stamp")
    if not isinstance(key, str) or not 1 <= len(key) <= LONGEST_KEY:
        raise RefusedError("run", f"a name of 1 to {LONGEST_KEY} characters", str(key)[:LONGEST_KEY])
    if isinstance(stamp, bool) or not isinstance(stamp, int) or not 0 <= stamp < 2**31:
        raise RefusedError("stamp", "a whole number", str(stamp)[:20])
    return key, stamp, [_event(one, f"events[{n}]") for n, one in enumerate(told)]


def _event(plain: object, path: str) -> dict[str, Any]:
    if not isinstance(plain, dict):
        raise RefusedError(path, "an object", type(plain).__name__)
    key, kind, step = plain.get("id"), plain.get("kind"), plain.get("step", "")
    if not isinstance(key, str) or not 1 <= len(key) <= LONGEST_KEY:
        raise RefusedError(f"{path}.id", f"1 to {LONGEST_KEY} characters", str(key)[:LONGEST_KEY])
    if kind not in ACTIONS:
        raise RefusedError(f"{path}.kind", "one of " + ", ".join(ACTIONS), str(kind)[:40])
    if not isinstance(step, str) or len(step) > 120:
        raise RefusedError(f"{path}.step", "at most 120 characters", str(step)[:40])
    numbers = {}
    for name, most in (("at", 2**62), ("ms", 2**31 - 1)):
        value = plain.get(name, 0)
        if isinstance(value, bool) or not isinstance(value, int) or abs(value) > most:
            raise RefusedError(f"{path}.{name}", "a whole number of milliseconds", str(value)[:40])
        numbers[name] = value
    return {"key": key, "kind": kind, "step": step, **numbers}


@require_safe
def worker(request: Asked) -> HttpResponse:
    """The service worker that keeps the Stage when the server is away; it has to be served from the root."""
    answer = HttpResponse(_WORKER.read_text("utf-8"), content_type="text/javascript; charset=utf-8")
    answer["Service-Worker-Allowed"] = "/"
    answer["Cache-Control"] = "no-cache"
    return answer
