"""The Logbook: what is planned, what was taught and how it went, and many sessions together."""

from __future__ import annotations

import csv
from datetime import datetime, timedelta
from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock
from extendum.core.run.learned import learn
from extendum.core.run.overview import Once, habits, minutes_by_area, minutes_by_week, weeks_until
from extendum.core.run.report import SAME_S, off_words
from extendum.draw import compare, plots
from extendum.draw.compare import draw_compare
from extendum.draw.plots import draw_areas, draw_key, draw_weeks
from extendum.formats.running_order import no_formula
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.desk import notice, stale_notice
from extendum.web.records.models import NextTime, Session
from extendum.web.records.sessions import Log, log_of, offers
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import refusal, whole
from extendum.web.teach.models import LiveRun

#: The overview looks back so many weeks, and shows so many areas.
WEEKS, AREAS = 13, 12
#: The logbook lists so many past sessions at once.
LISTED = 25
MOST_PEOPLE = 5000
MOST_LISTED = 1_000_000


def _own(request: Asked) -> QuerySet[Session]:
    return Session.objects.filter(owner=request.user).select_related("of", "run__revision")


@require_safe
def logbook(request: Asked) -> HttpResponse:
    """What is coming and what was; ?class= for one class only."""
    return _logbook(request)


def _logbook(request: Asked, status: int = 200, **facts: object) -> HttpResponse:
    found = _own(request)
    only = whole_number(request.GET.get("class", ""))
    of = own_class(request, only) if only is not None else None
    found = found.filter(of=of) if of else found
    start = whole_number(request.GET.get("from", ""), most=MOST_LISTED) or 0
    here = list(found.exclude(run=None).order_by("-at")[start : start + LISTED + 1])
    past = [(one, _line(one)) for one in here[:LISTED]]
    context = {
        "only": of,
        "older": start + LISTED if len(here) > LISTED else None,
        "newer": max(0, start - LISTED) if start else None,
        "coming": found.filter(run=None).order_by("at"),
        "past": past,
        "classes": request.user.classes.filter(archived_at=None).order_by("title"),
        "soon": timezone.localtime() + timedelta(hours=1),
        **facts,
    }
    return render(request, "records/logbook.html", context, status=status)


def _line(one: Session) -> dict[str, Any]:
    """A past session in the list: how long it was, and how far off."""
    log = log_of(one.run) if one.run else None
    if log is None:
        return {}
    real = clock(round(log.report.real_ms / 1000))
    return {
        "real": real,
        "off": off_words(log.report.off_s),
        "over": log.report.off_s >= SAME_S,
        "told": log.report.facts()[2],
        "uneven": len(log.report.uneven),
    }


@require_POST
def plan(request: Asked) -> HttpResponse:
    """Put a session into the calendar."""
    form = request.POST
    try:
        of = own_class(request, whole(form, "class"))
        day, hour = form.get("day", ""), form.get("hour", "")
        try:
            at = timezone.make_aware(datetime.fromisoformat(f"{day}T{hour}"))
        except ValueError:
            raise RefusedError(
                "day and time", "a day and a time, such as 2026-03-02 and 18:30", f"{day} {hour}"
            ) from None
        group = form.get("group", "").strip() or store.script_of(of.present).brief.group
    except RefusedError as error:
        return _logbook(request, 422, plan_error=str(error), typed=form)
    Session.objects.create(
        owner=request.user, of=of, at=at, place=form.get("place", "").strip()[:120], group=group[:120]
    )
    return HttpResponseRedirect(reverse("logbook"))


@require_http_methods(["GET", "HEAD", "POST"])
def session(request: Asked, pk: int) -> HttpResponse:
    """One session: its log, and what the teacher adds to it."""
    one = get_object_or_404(_own(request), pk=pk)
    wrong = None
    if request.method == "POST":
        if "remove" in request.POST and one.run is None:
            one.delete()
            return HttpResponseRedirect(reverse("logbook"))
        wrong = _fill(one, request.POST)
        if wrong is None:
            one.save()
            return HttpResponseRedirect(reverse("session", args=[one.pk]))
    log = log_of(one.run) if one.run else None
    context: dict[str, Any] = {"one": one, "log": log, "wrong": wrong, "typed": request.POST if wrong else None}
    if log:
        context |= _told(log) | {
            "sheet": drawn(draw_compare(log.timeline, log.taught)),
            "narrow": drawn(draw_compare(log.timeline, log.taught, compare.NARROW)),
        }
    return render(request, "records/session.html", context, status=422 if wrong else 200)


def _fill(one: Session, form: Any) -> str | None:
    """Take over what was typed; what is wrong with it in words, and nothing is changed then."""
    typed = form.get("people", "").strip()
    people = whole_number(typed, most=MOST_PEOPLE)
    if typed and people is None:
        return f"people: must be a whole number up to {MOST_PEOPLE}; found {typed[:20]}"
    one.people = people
    one.notes, one.tags = form.get("notes", "")[:4000], form.get("tags", "")[:200]
    one.place, one.group = form.get("place", one.place)[:120], form.get("group", one.group)[:120]
    return None


def _told(log: Log) -> dict[str, Any]:
    """The report as a page shows it."""
    causes = [(cause.value, round(ms / 1000)) for cause, ms in log.report.causes.items() if round(ms / 1000)]
    # A move that is in the class twice is two lines: each has its number, as on the Desk.
    numbers = {item.id: number for number, item in enumerate(log.script.items(), 1)}
    rows: dict[tuple[str, str], list[int]] = {}
    left_out = [(one, "not reached") for one in log.report.not_reached]
    left_out += [(one, "skipped") for one in log.report.skipped]
    how = {one.item: ", ".join(filter(None, (what, one.how_much))) for one, what in left_out}
    for line in log.report.lines:
        row = rows.setdefault((line.step.item, line.name), [0, 0, 0])
        row[0] += line.planned_ms or 0
        row[1] += line.spent.on
        row[2] += line.spent.paused
    items = [
        (
            numbers.get(item, ""),
            name,
            clock(planned // 1000),
            clock(round(on / 1000)),
            round(paused / 1000),
            round((on + paused - planned) / 1000),
            how.get(item, ""),
        )
        for (item, name), (planned, on, paused) in rows.items()
    ]
    return {
        "facts": log.report.facts(),
        "causes": sorted(causes, key=lambda one: -abs(one[1])),
        "sides": [(s.name, round(s.left_ms / 1000), round(s.right_ms / 1000), s.apart_s) for s in log.report.sides],
        "items": items,
        "planned": clock(log.timeline.length_s),
        "real": clock(round(log.report.real_ms / 1000)),
        "off": log.report.off_s,
    }


@require_http_methods(["GET", "HEAD", "POST"])
def card(request: Asked, pk: int) -> HttpResponse:
    """After a class: three facts and at most two offers; or an offer that is taken, as a step that can be undone."""
    of, form = own_class(request, pk), request.POST
    if request.method != "POST":
        run = get_object_or_404(LiveRun, of=of, key=request.GET.get("run", ""), rehearsal=False)
        log = log_of(run)
        told = {"class": of, "session": getattr(run, "session", None), "offers": offers(of)}
        return render(request, "records/_card.html", {**told, "facts": log.report.facts() if log else ()})
    try:
        chosen = [one for one in offers(of) if one.key == form.get("lesson")]
        if not chosen:
            raise RefusedError("offer", "one that is still made", form.get("lesson", ""))
        store.change(of, whole(form, "stamp"), chosen[0].words[:300], lambda s: learn(s, chosen))
    except store.StaleEditError as stale:
        return stale_notice(request, of, form, stale)
    except ExtendumError as error:
        return notice(request, of, 422, **refusal(error))
    return HttpResponseRedirect(reverse("desk", args=[of.pk]))


@require_POST
def next_time(request: Asked, pk: int) -> HttpResponse:
    """Put something on a class's list for the next time, or tick it off."""
    of, form = own_class(request, pk), request.POST
    if "done" in form:
        of.next_times.filter(pk=whole_number(form["done"]) or 0).update(done_at=timezone.now())
    elif words := form.get("text", "").strip()[:300]:
        NextTime.objects.create(of=of, text=words)
    back = form.get("back", "")
    return HttpResponseRedirect(
        back if back.startswith("/") and not back.startswith("//") else reverse("desk", args=[pk])
    )


def _taught(request: Asked, since: datetime) -> list[tuple[Session, Log]]:
    found = _own(request).exclude(run=None).filter(at__gte=since).order_by("at")
    return [(one, log) for one in found if one.run and (log := log_of(one.run))]


@require_safe
def overview(request: Asked) -> HttpResponse:
    """Thirteen weeks together: how much of what, for which areas, and what usually runs over."""
    today = timezone.localdate()
    weeks = weeks_until(today, WEEKS)
    since = timezone.make_aware(datetime.combine(weeks[0], datetime.min.time()))
    some = [
        Once(
            timezone.localdate(one.at),
            one.of.title,
            log.script,
            log.taught,
            log.report.off_s,
            log.report.broken_off,
        )
        for one, log in _taught(request, since)
    ]
    by_week = minutes_by_week(some, weeks)
    areas = list(minutes_by_area(some).items())
    effects = [effect.value for effect in by_week]
    labels = [f"{week.day} {week:%b}" for week in weeks]
    plain = {effect.value: values for effect, values in by_week.items()}
    rows = [(str(area), {effect.value: minutes for effect, minutes in by.items()}) for area, by in areas]
    shown = sorted({effect for _, by in rows for effect in by} | set(effects), key=lambda e: (e not in effects, e))
    parts = {name: plain.get(name, [0.0] * WEEKS) for name in shown}
    context = {
        "times": len(some),
        "weeks": [drawn(draw_weeks(labels, parts, "minutes of work", width)) for width in (plots.WIDE, plots.NARROW)],
        "areas": [drawn(draw_areas(rows[:AREAS], shown, width)) for width in (plots.WIDE, plots.NARROW)],
        "effects": [(drawn(draw_key(effect)), effect) for effect in shown],
        "week_rows": [(label, [round(plain.get(e, [0] * WEEKS)[n]) for e in shown]) for n, label in enumerate(labels)],
        "area_rows": [(area, [round(by.get(effect, 0), 1) for effect in shown]) for area, by in rows],
        "habits": habits(some),
        "broken_off": sum(one.broken_off for one in some),
    }
    return render(request, "records/overview.html", context)


@require_safe
def sessions_csv(request: Asked) -> HttpResponse:
    """All sessions that were taught, one a line."""
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="extendum-sessions.csv"'
    out = csv.writer(answer)
    out.writerow(
        [
            "date",
            "time",
            "class",
            "place",
            "group",
            "people",
            "planned_s",
            "real_s",
            "off_s",
            "paused_s",
            "uneven_moves",
            "skipped",
            "not_reached",
            "longer",
            "put_in",
            "tags",
            "notes",
        ]
    )
    for one in _own(request).exclude(run=None).order_by("at"):
        log = log_of(one.run) if one.run else None
        at = timezone.localtime(one.at)
        row: list[object] = [f"{at:%Y-%m-%d}", f"{at:%H:%M}", one.of.title, one.place, one.group, one.people or ""]
        if log:
            told = log.report
            paused = sum(line.spent.paused for line in told.lines)
            row += [
                told.planned_ms // 1000,
                round(told.real_ms / 1000),
                told.off_s,
                round(paused / 1000),
                len(told.uneven),
            ]
            row += ["; ".join(map(str, told.skipped)), "; ".join(map(str, told.not_reached))]
            row += ["; ".join(f"{n} +{s} s" for n, s in told.longer), "; ".join(told.put_in)]
        else:
            row += [""] * 9
        out.writerow([no_formula(cell) for cell in (*row, one.tags, one.notes)])
    return answer
