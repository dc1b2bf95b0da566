"""What a rehearsal teaches: offers to set the rate and the times, and taking them."""

from __future__ import annotations

from django.http import Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods

from extendum.core.model.errors import ExtendumError
from extendum.core.model.timeline import clock
from extendum.core.run.fold import fold
from extendum.core.run.learned import Lesson, learn, lessons
from extendum.core.run.log import cut_short
from extendum.core.run.rehearse import rehearsal_steps, rehearsed, took
from extendum.core.timing.layout import length_of
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.desk import notice, stale_notice
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import refusal, whole
from extendum.web.teach.models import LiveRun


@require_http_methods(["GET", "HEAD", "POST"])
def learned(request: Asked, pk: int) -> HttpResponse:
    """The offers of a rehearsal; or the class with those that were chosen, as one step that can be undone."""
    of, form = own_class(request, pk), request.POST
    asked = request.GET.get("run", "") if request.method != "POST" else form.get("run", "")
    run = get_object_or_404(LiveRun, of=of, key=asked, rehearsal=True)
    measured, found = _lessons(run)
    script = store.script_of(of.present)
    known = {item.id for item in script.items()}
    found = [one for one in found if not one.item or one.item in known]
    if request.method != "POST":
        after = length_of(learn(script, found))
        told = {"class": of, "run": run, "lessons": found, "measured": measured, "after": clock(after)}
        return render(request, "teach/_learned.html", {**told, "before": clock(length_of(script))})
    chosen = [one for one in found if one.key in form.getlist("lesson")]
    try:
        label = f"From the rehearsal: {len(chosen)} time{'s' * (len(chosen) != 1)} as it really takes"
        store.change(of, whole(form, "stamp"), label, lambda s: learn(s, chosen))
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    return HttpResponseRedirect(reverse("desk", args=[of.pk]))


def _lessons(run: LiveRun) -> tuple[int, list[Lesson]]:
    """How many words and ways were measured, and what they teach of the revision that was rehearsed."""
    if run.revision is None:
        raise Http404("the revision of this rehearsal is not known")
    script, timeline = store.script_of(run.revision), compiled(bytes(run.revision.document))
    steps = rehearsal_steps(script, rehearsed(timeline))
    events = run.told()
    measured = took(fold(steps, events), cut_short(steps, events))
    return len(measured), lessons(script, timeline, measured)
