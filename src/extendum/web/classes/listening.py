"""A past recording read in: what was heard, with the words beside it; corrected, compared, or begun anew."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from extendum.core.heard.guess import Guess, Heard, What
from extendum.core.heard.hear import hear
from extendum.core.heard.report import heard_report
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock
from extendum.draw.heard import draw_heard
from extendum.formats.heard_class import Beside, beside, rows_of
from extendum.formats.order_class import class_of, match_order
from extendum.formats.order_reader import Order
from extendum.formats.timed_text import Spoken, read_timed
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.page import compiled
from extendum.web.library.store import library_of
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

#: Kinds of guesses that are worth a correction one by one.
_TOLD = (What.MOVE, What.SWITCH, What.HALFWAY, What.LEFT, What.COUNTDOWN, What.REPS, What.HOLD, What.RELEASE)


def heard_page(request: Asked, name: str, text: str) -> HttpResponse:
    """What was heard; with what is wrong left out, beside a class, or as the beginning of a new one."""
    form, library = request.POST, library_of(request.user)
    said, names = read_timed(text), [entry.move.name for entry in library]
    wrong = set(form.getlist("wrong"))
    every = hear(said, names)
    heard = hear(said, names, wrong) if wrong else every
    title = form.get("title", "").strip() or name.rsplit(".", 1)[0][:200] or "A recording"
    if "begin" in form:
        matches = match_order(Order(tuple(rows_of(heard)), ()), list(library))
        script = class_of(title, matches)
        made = store.create(request.user, script, "Begun from a recording")
        return redirect(reverse("desk", args=[made.pk]))
    report = heard_report(said, heard)
    against = form.get("against", "")
    other = whole_number(against)
    context = {
        "title": title,
        "text": text,
        "report": report,
        "sheet": drawn(draw_heard(heard)),
        "lines": _lines(said, every, wrong),
        "facts": report.facts(),
        "wrong": len(wrong),
        "classes": request.user.classes.filter(archived_at=None).order_by("title"),
        "against": against,
        "compared": _compared(request, other, heard) if other is not None else None,
    }
    return render(request, "classes/heard.html", context)


def _lines(said: list[Spoken], heard: Heard, wrong: set[str]) -> list[tuple[str, str, list[tuple[Guess, bool]]]]:
    """Each line with its guesses, and whether they were marked as wrong."""
    ends = [*(line.start for line in said[1:]), float("inf")]
    told = [one for one in heard.guesses if one.what in _TOLD]
    return [
        (
            clock(int(line.start)),
            line.text,
            [(one, one.key in wrong) for one in told if line.start <= one.at < end],
        )
        for line, end in zip(said, ends, strict=True)
    ]


def _compared(request: Asked, pk: int, heard: Heard) -> list[Beside]:
    """One of the asker's classes beside what was heard."""
    of = own_class(request, pk)
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    return beside(script, timeline, heard, list(library_of(request.user)))
