"""Three months of the demo instructor's teaching, made up: the same every time, counted back from today."""

from __future__ import annotations

from datetime import datetime, timedelta
from random import Random

from django.utils import timezone

from extendum.core.model.timeline import SegmentKind
from extendum.core.run.fold import after, fold
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import steps_of
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.records.models import NextTime, Session
from extendum.web.teach.models import LiveEvent, LiveRun

WEEKS = 13
#: Weekday and hour of each class, by its place in the list; and how many seconds one of its ways usually takes more.
TIMES = ((0, 18, 5), (2, 9, 4), (3, 19, 0), (5, 10, 6))
NOTES = ("", "", "Two new people, slower on the way to the wall.", "", "Windows open, noise from the yard.", "")


def teach_for_months(classes: list[StretchClass]) -> None:
    """Sessions with their events, and what is planned for the coming week."""
    random = Random(20)  # noqa: S311 - made-up data
    today = timezone.localtime().replace(minute=0, second=0, microsecond=0)
    for of, (weekday, hour, slow) in zip(classes, TIMES, strict=False):
        day = (today - timedelta(days=today.weekday() - weekday)).replace(hour=hour)
        day += timedelta(weeks=day < today)
        group = store.script_of(of.present).brief.group
        Session.objects.create(owner=of.owner, of=of, at=day, place="Small hall", group=group)
        for week in range(1, WEEKS):
            if random.random() < 0.2:
                continue
            _teach(of, day - timedelta(weeks=week), slow, random, group)
        last = of.sessions.exclude(run=None).order_by("-at").first()
        StretchClass.objects.filter(pk=of.pk).update(taught_at=last.at if last else None)
    NextTime.objects.create(of=classes[0], text="Chairs along the wall before they come in.")


def _teach(of: StretchClass, at: datetime, slow: int, random: Random, group: str) -> None:
    start = round(at.timestamp() * 1000) + random.randint(0, 200_000)
    key = f"demo-{at:%Y%m%d%H}"
    run = LiveRun.objects.create(of=of, key=key, stamp=of.stamp, revision=of.present)
    LiveRun.objects.filter(pk=run.pk).update(began_at=at)
    events = _events(of, start, slow, random)
    LiveEvent.objects.bulk_create(
        LiveEvent(run=run, key=e.id, at=e.at, kind=e.kind, step=e.step, ms=e.ms) for e in events
    )
    more = {"people": random.randint(6, 14), "notes": random.choice(NOTES), "place": "Small hall", "group": group}
    Session.objects.create(owner=of.owner, of=of, at=at, run=run, **more)


def _events(of: StretchClass, start: int, slow: int, random: Random) -> list[Event]:
    """A class in front of people: waiting on the first way to a new place, a longer hold, sometimes a skipped move."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    steps, told = steps_of(script, timeline), [Event("0", start, "start")]
    kinds = {segment.id: segment.kind for segment in timeline.segments}
    slow_way = next((s.group for s in steps if kinds[s.id] is SegmentKind.TRANSITION and s.ms >= 5000), "")
    longer = random.choice([s.id for s in steps if s.works and s.partner] or [""])
    left_out = random.choice([s.group for s in steps if s.works]) if random.random() < 0.15 else ""
    done: set[str] = set()
    run: Run = fold(steps, told)
    while not run.ended:
        step = run.step
        new: list[tuple[int, str, int]] = []
        if step.group == slow_way and slow and step.group not in done:
            new = [(3000, "pause", 0), (3000 + 1000 * max(1, slow + random.randint(-1, 2)), "resume", 0)]
        elif step.id == longer and step.id not in done:
            new = [(2000, "longer", 10_000)]
        elif step.group == left_out and step.group not in done:
            new = [(1000, "skip", 0)]
        elif step.waits:
            new = [(step.ms, "end-now", 0)]
        done |= {step.id, step.group}
        begun = run.clock
        for after_ms, kind, ms in new:
            told.append(Event(str(len(told)), begun + after_ms, kind, ms=ms))
            run = after(run, told[-1])
        if not run.ended and run.step.id == step.id:
            run = advance(run, run.clock + max(1, run.step.ms - run.into))
    told.append(Event(str(len(told)), run.clock, "end"))
    return told
