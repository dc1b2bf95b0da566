"""Sessions and their logs: when one begins, what its run became, and what several of them teach."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from django.db.models import QuerySet
from django.utils import timezone

from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.moves.spares import Spare, spares
from extendum.core.run.fold import fold
from extendum.core.run.learned import Lesson, lessons, together, usually_late, ways_taken
from extendum.core.run.log import cut_short
from extendum.core.run.report import Report, report
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import Step, steps_of
from extendum.core.run.taught import as_taught
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.library.store import library_of
from extendum.web.records.models import Session
from extendum.web.teach.models import LiveRun

#: What is usual is judged by so many of the last sessions, and so many offers are made at once.
LAST, OFFERS = 5, 2


def begin(run: LiveRun, planned: object, **_: object) -> str:
    """Keep a session for a run that begins: the planned one, or one of its own; gives what the teacher should know.

    A planned session that has a log already keeps it.
    """
    owner = run.of.owner
    plan = None
    if isinstance(planned, int) and 0 < planned < 2**62:
        plan = Session.objects.filter(pk=planned, owner=owner, of=run.of, run=None).first()
    if plan is None:
        plan = Session(owner=owner, of=run.of, group=store.script_of(run.of.present).brief.group[:120])
        plan.at = timezone.now()
    known = plan.pk is not None
    plan.run = run
    plan.save()
    return "" if known or not planned else "That session has a log already: this one is kept as a session of its own."


@dataclass(frozen=True, slots=True)
class Log:
    """What became of one run."""

    script: Script
    timeline: Timeline
    taught: Timeline
    report: Report
    ways: dict[str, int]


def log_of(run: LiveRun) -> Log | None:
    """The log of a run; None where its revision is not known or nothing happened."""
    events = run.told()
    if run.revision is None or not events:
        return None
    until = events[-1].at
    if run.held_at is not None and run.clock_off is not None:
        until = max(until, round(run.held_at.timestamp() * 1000) - run.clock_off)
    tray = _tray(run, events)
    spare = tuple(step for one in tray for step in steps_of(one.script, one.timeline))
    brought = tuple((one.item.id, one.item.name) for one in tray)
    try:
        return _log(bytes(run.revision.document), tuple(events), until, spare, brought)
    except store.DamagedError:  # the rest of the logbook is not held up by it
        return None


@lru_cache(maxsize=256)
def _log(
    document: bytes,
    events: tuple[Event, ...],
    until: int,
    spare: tuple[Step, ...],
    brought: tuple[tuple[str, str], ...],
) -> Log:
    script, timeline, names = store.unpack(document), compiled(document), dict(brought)
    steps = steps_of(script, timeline)
    run: Run = advance(fold(steps, events, spare), until)
    left = cut_short(steps, events, spare)
    told = report(script, timeline, run, events, names)
    return Log(script, timeline, as_taught(script, timeline, run, names), told, ways_taken(timeline, run, left))


def _tray(run: LiveRun, events: list[Event]) -> list[Spare]:
    """What the tray had, where something was taken from it."""
    if run.revision is None or not any(event.kind == "bring" for event in events):
        return []
    return spares(store.script_of(run.revision), library_of(run.of.owner))


def taught(of: StretchClass) -> QuerySet[Session]:
    """The sessions of a class that were taught, the last one first."""
    return Session.objects.filter(of=of).exclude(run=None).select_related("run__revision").order_by("-at")


def offers(of: StretchClass) -> list[Lesson]:
    """At most two things to set, from the last sessions of a class."""
    logs = [log for one in taught(of)[:LAST] if one.run and (log := log_of(one.run))]
    if not logs:
        return []
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    # Of sessions with another length to fill nothing is said: what was set because of them is not offered again.
    same = [log for log in logs if log.script.brief.target_s == script.brief.target_s and not log.report.broken_off]
    late = usually_late(script, [log.report.off_s for log in same])
    found = lessons(script, timeline, together(log.ways for log in logs))
    return [*([late] if late else []), *found][:OFFERS]
