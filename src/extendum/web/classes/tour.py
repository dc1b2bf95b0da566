"""The tour: a copy of a demo class on the Desk, with a note beside what it is about."""

from __future__ import annotations

from dataclasses import replace

from django.conf import settings
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.shared.asked import Asked


@require_POST
def tour(request: Asked) -> HttpResponse:
    """Put a copy of the demo class on the shelf and walk over it, or end that; own classes are not touched."""
    if "end" in request.POST:
        request.session.pop("tour", None)
        return HttpResponse(status=204)
    shown = loads((settings.DEMO_CLASSES / "after-digging.json").read_bytes())
    made = store.create(request.user, replace(shown, title=f"Tour: {shown.title}"), "Made for the tour")
    request.session["tour"] = made.pk
    return redirect("desk", made.pk)
