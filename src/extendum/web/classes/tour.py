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

#: The step that a class of the tour begins with, and is known by.
MADE = "Made for the tour"


@require_POST
def tour(request: Asked) -> HttpResponse:
    """Walk over a copy of the demo class, or end that; own classes are not touched.

    There is one copy: a further tour begins at its first step again, and what was tried on it stays among its steps.
    """
    if "end" in request.POST:
        request.session.pop("tour", None)
        return HttpResponse(status=204)
    there = request.user.classes.filter(archived_at=None, revisions__label=MADE).order_by("-changed_at").first()
    if there:
        first = there.revisions.get(label=MADE)
        made = store.go_to(there, there.stamp, first.pk) if there.head_id != first.pk else there
    else:
        shown = loads((settings.DEMO_CLASSES / "after-digging.json").read_bytes())
        made = store.create(request.user, replace(shown, title=f"Tour: {shown.title}"), MADE)
    request.session["tour"] = made.pk
    return redirect("desk", made.pk)
