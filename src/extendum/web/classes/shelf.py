"""The Shelf: an instructor's classes, each drawn as a small sheet."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import timedelta

from django.conf import settings
from django.contrib import messages
from django.db.models import F, QuerySet
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.utils.safestring import SafeString
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from extendum.core.edit import script_edits as edit
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock, parse_clock
from extendum.core.timing.corrected import LAST_VERSION, corrected_words, corrections
from extendum.draw.small import draw_small_sheet
from extendum.formats.document import VERSION, dumps
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import whole


@dataclass(frozen=True, slots=True)
class Paper:
    """One class as it lies on the shelf."""

    of: StretchClass
    length: str
    fits: bool
    target: str
    moves: int
    group: str
    sheet: SafeString
    damaged: str = ""
    corrected: str = ""
    planned: str = ""


def _paper(of: StretchClass, planned: str = "") -> Paper:
    document = bytes(of.present.document)
    try:
        script, timeline = store.script_of(of.present), compiled(document)
    except store.DamagedError as error:
        return Paper(of, "", False, "", 0, "", SafeString(), str(error))
    target = script.brief.target_s
    return Paper(
        of,
        clock(timeline.length_s),
        timeline.length_s == target,
        clock(target),
        len(script.moves()),
        script.brief.group,
        drawn(draw_small_sheet(timeline, target)),
        corrected=_corrected(of, script),
        planned=planned,
    )


def _corrected(of: StretchClass, script: Script) -> str:
    """How much longer or shorter a class of an older document is now, until its owner has seen it; mostly nothing."""
    if of.counted_by > LAST_VERSION:
        return ""
    told = corrected_words(corrections(script))
    if not told:  # it need not be worked out again
        _know_length(of)
    return told


def _know_length(of: StretchClass) -> None:
    StretchClass.objects.filter(pk=of.pk).update(counted_by=VERSION)


@require_safe
def shelf(request: Asked) -> HttpResponse:
    """Classes in use, or with ?archived=1 those put away."""
    return _shelf(request)


def _shelf(request: Asked, status: int = 200, **facts: object) -> HttpResponse:
    archived = request.GET.get("archived") == "1"
    own = StretchClass.objects.filter(owner=request.user).select_related("head")
    shown = own.filter(archived_at__isnull=not archived).order_by("-changed_at")
    context = {
        "papers": [_paper(one) for one in shown] if archived else _next_first(shown),
        "archived": archived,
        "archived_count": own.filter(archived_at__isnull=False).count(),
        "usual_length": clock(store.defaults_of(request.user).length_s),
        "demo": settings.DEMO,
        **facts,
    }
    return render(request, "classes/shelf.html", context, status=status)


#: A class that began so long ago is still the one that one comes for.
STILL_NEXT = timedelta(hours=2)


def _next_first(shown: QuerySet[StretchClass]) -> list[Paper]:
    """The papers of classes in use: the one that is planned next before the one that was changed last."""
    coming = shown.filter(sessions__run=None, sessions__at__gte=timezone.now() - STILL_NEXT)
    found = coming.annotate(begins=F("sessions__at")).order_by("begins").first()
    if found is None:
        return [_paper(one) for one in shown]
    at = timezone.localtime(found.begins)
    days = (at.date() - timezone.localdate()).days
    day = {0: "Today", 1: "Tomorrow"}.get(days, f"{at:%A} {at.day} {at:%B}")
    return [_paper(found, f"{day} {at:%H:%M}"), *(_paper(one) for one in shown if one.pk != found.pk)]


@require_POST
def make(request: Asked) -> HttpResponse:
    """A new class with a title and a length; what was typed stays when it is refused."""
    title, typed = request.POST.get("title", "").strip(), request.POST.get("length", "")
    try:
        script = edit.new_script(title, parse_clock(typed))
        script = edit.set_style(script, store.first_style(store.defaults_of(request.user)))
    except RefusedError as error:
        where = "title" if error.path == "title" else "length"
        return _shelf(
            request,
            422,
            new_error=str(error.within(where) if not error.path else error),
            wrong=where,
            new_title=title,
            new_length=typed,
        )
    made = store.create(request.user, script, "Made")
    return redirect(f"{reverse('brief', args=[made.pk])}?new")


@require_POST
def rename(request: Asked, pk: int) -> HttpResponse:
    """Another title for a class, as a step that can be undone; a refusal keeps what was typed."""
    of, title = own_class(request, pk), request.POST.get("title", "")
    try:
        stamp, label = whole(request.POST, "stamp"), f"Renamed {title.strip()}"
        store.change(of, stamp, label[:300], lambda s: edit.set_title(s, title))
    except RefusedError as error:
        return _shelf(request, 422, renamed=pk, typed=title, rename_error=str(error))
    except store.StaleEditError as stale:
        told = f"“{of.title}” was changed in the meantime, in another window: {'; '.join(stale.happened)}."
        told += " It was not renamed. Press Rename again to use your name anyway."
        return _shelf(request, 409, renamed=pk, typed=title, rename_error=told)
    return redirect("shelf")


@require_POST
def length_known(request: Asked, pk: int) -> HttpResponse:
    """The owner has seen that a class lasts otherwise than it used to."""
    _know_length(own_class(request, pk))
    return redirect("shelf")


@require_POST
def duplicate(request: Asked, pk: int) -> HttpResponse:
    """A copy of a class as it is now."""
    of = own_class(request, pk)
    script = store.script_of(of.present)
    title = f"{script.title[:190]} (copy)"
    store.create(request.user, replace(script, title=title), f"Copied from {script.title}")
    messages.success(request, f"“{title}” is on the shelf.")
    return redirect("shelf")


@require_POST
def archive(request: Asked, pk: int) -> HttpResponse:
    """Put a class away; nothing of it is lost."""
    return _put(request, pk, away=True)


@require_POST
def restore(request: Asked, pk: int) -> HttpResponse:
    """Take a class out of the archive again."""
    return _put(request, pk, away=False)


def _put(request: Asked, pk: int, *, away: bool) -> HttpResponse:
    of = own_class(request, pk)
    of.archived_at = timezone.now() if away else None
    of.save(update_fields=["archived_at"])
    messages.success(request, f"“{of.title}” is {'in the archive' if away else 'back on the shelf'}.")
    back = request.POST.get("back", "")
    return HttpResponseRedirect(back if back in ("/", "/?archived=1") else "/")


@require_POST
def mend(request: Asked, pk: int) -> HttpResponse:
    """Back to the last good step of a class that cannot be read."""
    of = own_class(request, pk)
    try:
        of = store.back_to_good(of)
    except RefusedError as error:
        messages.error(request, str(error))
        return redirect("shelf")
    messages.success(request, f"“{of.title}” is back at its last good step. The damaged one stays among its steps.")
    return redirect("desk", of.pk)


@require_safe
def document(request: Asked, pk: int) -> HttpResponse:
    """The class as its own document, to keep or to use on the command line."""
    of = own_class(request, pk)
    written = dumps(store.script_of(of.present))
    answer = HttpResponse(written, content_type="application/json")
    answer["Content-Disposition"] = f'attachment; filename="{slugify(of.title) or "class"}.json"'
    return answer
