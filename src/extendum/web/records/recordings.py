"""The recordings of a class that are kept with it: what was heard of each, beside the script and beside each other."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from extendum.core.heard.beside import to_mend
from extendum.core.heard.report import besides
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock
from extendum.draw.heard import draw_heard
from extendum.web.classes.access import own_class
from extendum.web.library.store import library_of
from extendum.web.records.listening import Shown, beside_class, heard_of, shown
from extendum.web.records.models import PastRecording
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn


@require_safe
def recordings(request: Asked, pk: int) -> HttpResponse:
    """Every recording of a class; one of them, and another beside it."""
    of, library = own_class(request, pk), library_of(request.user)
    kept = list(of.past_recordings.filter(removed_at=None))
    one = _chosen(kept, request.GET.get("one", "")) or next(iter(kept), None)
    other = _chosen([row for row in kept if row is not one], request.GET.get("beside", ""))
    some = [heard_of(row.text, row.steps.splitlines(), library) for row in (one, other) if row]
    context = {
        "class": of,
        "kept": kept,
        "one": one,
        "other": other,
        "others": [row for row in kept if row is not one],
        "removed": of.past_recordings.exclude(removed_at=None).first(),
        "sheets": [
            (row, clock(round(heard.length)), drawn(draw_heard(heard))) for row, heard in _both(one, other, some)
        ],
        "mends": to_mend(some[0]) if some else [],
        "facts": besides(some[0]) if some else [],
        "compared": beside_class(of, some) if some else [],
    }
    return render(request, "records/recordings.html", context)


def _both(one: PastRecording | None, other: PastRecording | None, some: list) -> list:  # type: ignore[type-arg]
    return list(zip([row for row in (one, other) if row], some, strict=True))


def _chosen(kept: list[PastRecording], given: str) -> PastRecording | None:
    pk = whole_number(given)
    return next((row for row in kept if row.pk == pk), None)


@require_safe
def correct(request: Asked, pk: int, recording: int) -> HttpResponse:
    """A kept recording, to be put right further."""
    library = library_of(request.user)
    one = get_object_or_404(PastRecording, of=own_class(request, pk), pk=recording)
    steps = one.steps.splitlines()
    return shown(request, Shown(one.name, one.text, steps, heard_of(one.text, steps, library), kept=one), library)


@require_POST
def remove(request: Asked, pk: int, recording: int) -> HttpResponse:
    """Take a recording off its class, or bring it back."""
    one = get_object_or_404(PastRecording, of=own_class(request, pk), pk=recording)
    one.removed_at = None if "back" in request.POST else timezone.now()
    one.save(update_fields=["removed_at"])
    return redirect(reverse("recordings", args=[pk]))
