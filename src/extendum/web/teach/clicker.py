"""The clicker: large keys on a phone or in a second window, which the Stage of the running class does."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, render
from django.utils import timezone
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST, require_safe

from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import LARGEST_UNSIGNED, whole_number
from extendum.core.run.actions import LONGER_S
from extendum.formats.json_text import read_json
from extendum.web.classes.access import own_class
from extendum.web.shared.asked import Asked
from extendum.web.teach.following import HELD_FOR, by_code, owner_of, running
from extendum.web.teach.models import Link, LiveRun, Press
from extendum.web.teach.room import shown, told

#: What a clicker may send: what the keys of the Stage do that need no look at the screen.
KINDS = ("go", "pause", "longer", "more", "back", "skip", "again", "easier")
#: A press that the Stage did not fetch meanwhile is not done any more.
DONE_WITHIN = timedelta(seconds=10)


@require_safe
@never_cache
@login_not_required
def clicker(request: HttpRequest, code: str) -> HttpResponse:
    """The keys, with what is on now."""
    link = by_code(code, Link.Kind.CLICKER)
    if link is None:
        return render(request, "teach/gone.html", {"what": "clicker"}, status=404)
    return render(request, "teach/clicker.html", {"link": link, "longer_s": LONGER_S, **shown(link, figures=False)})


@require_safe
@never_cache
@login_not_required
def now(request: HttpRequest, code: str) -> JsonResponse:
    """What happened since the clicker last asked."""
    return told(owner_of(code, Link.Kind.CLICKER), request.GET.get("seen", ""))


@require_POST
@login_not_required
def press(request: HttpRequest, code: str) -> JsonResponse:
    """One press, kept for the Stage; sent twice it is done once."""
    link = by_code(code, Link.Kind.CLICKER)
    if link is None:
        return JsonResponse({"message": "This clicker was revoked."}, status=404)
    try:
        plain = read_json(request.body, LARGEST_UNSIGNED)
    except RefusedError as error:
        return JsonResponse({"message": str(error)}, status=422)
    key, kind = plain.get("id"), plain.get("kind")
    if not isinstance(key, str) or not isinstance(kind, str):
        return JsonResponse({"message": "A press is an id and a kind."}, status=422)
    if kind not in KINDS or not 1 <= len(key) <= 40:
        return JsonResponse({"message": "No such key: must be one of " + ", ".join(KINDS)}, status=422)
    run = running(link.owner_id, HELD_FOR)
    if run is None or not run.holder:
        return JsonResponse({"message": "No class is running now: this press did nothing."}, status=409)
    Press.objects.bulk_create([Press(run=run, key=key, kind=kind)], ignore_conflicts=True)
    return JsonResponse({"done": kind})


@require_safe
@never_cache
def presses(request: Asked, pk: int) -> JsonResponse:
    """What the clicker asked for since the Stage last looked."""
    run = get_object_or_404(LiveRun, of=own_class(request, pk), key=request.GET.get("run", ""))
    since = whole_number(request.GET.get("after", "")) or 0
    found = run.presses.filter(pk__gt=since, at__gte=timezone.now() - DONE_WITHIN).order_by("pk")
    return JsonResponse({"presses": [{"n": one.pk, "kind": one.kind} for one in found]})
