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
from extendum.web.classes.access import own_class
from extendum.web.library.store import library_of
from extendum.web.records.listening import beside_class, heard_kept, sheets_of, shown
from extendum.web.records.models import PastRecording
from extendum.web.shared.asked import Asked


@require_safe
def recordings(request: Asked, pk: int) -> HttpResponse:
    """Every recording of a class; one of them, and another beside it."""
    of, library = own_class(request, pk), library_of(request.user)
    kept = list(of.past_recordings.filter(removed_at=None))
    one = _chosen(kept, request.GET.get("one", "")) or next(iter(kept), None)
    other = _chosen([row for row in kept if row is not one], request.GET.get("beside", ""))
    looked = [heard_kept(row, library) for row in (one, other) if row]
    some = [row.heard for row in looked]
    context = {
        "class": of,
        "kept": kept,
        "one": one,
        "other": other,
        "others": [row for row in kept if row is not one],
        "removed": of.past_recordings.exclude(removed_at=None).order_by("-removed_at").first(),
        "refused": [row.refused for row in looked if row.refused],
        "sheets": [(row.title, clock(round(row.heard.length)), sheets_of(row.heard)) for row in looked],
        "mends": to_mend(some[0]) if some else [],
        "facts": besides(some[0]) if some else [],
        "compared": beside_class(of, some) if some else [],
    }
    return render(request, "records/recordings.html", context)


def _chosen(kept: list[PastRecording], given: str) -> PastRecording | None:
    pk = whole_number(given)
    return next((row for row in kept if row.pk == pk), None)


@require_safe
def correct(request: Asked, pk: int, recording: int) -> HttpResponse:
    """A kept recording, to be put right further."""
    library = library_of(request.user)
    one = get_object_or_404(PastRecording, of=own_class(request, pk), pk=recording)
    return shown(request, heard_kept(one, library), library)


@require_POST
def remove(request: Asked, pk: int, recording: int) -> HttpResponse:
    """Take a recording off its class, or bring it back."""
    one = get_object_or_404(PastRecording, of=own_class(request, pk), pk=recording)
    one.removed_at = None if "back" in request.POST else timezone.now()
    one.save(update_fields=["removed_at"])
    return redirect(reverse("recordings", args=[pk]))
