"""Three months of the demo instructor's teaching, made up: the same every time, counted back from today."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from random import Random

from django.utils import timezone

from extendum.core.model.timeline import SegmentKind
from extendum.core.run.fold import after, fold
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import Step, steps_of
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.records.models import NextTime, Session
from extendum.web.teach.models import LiveEvent, LiveRun

WEEKS = 13
#: What happens at a step: milliseconds after it begins, the kind of event and its milliseconds.
Acts = tuple[tuple[int, str, int], ...]
Plan = dict[str, Acts]


@dataclass(frozen=True, slots=True)
class Slot:
    """When and where a class is taught, how many come, and how many seconds its slowest way takes more."""

    weekday: int
    hour: int
    place: str
    people: int
    slow_s: int


@dataclass(frozen=True, slots=True)
class Day:
    """One kind of day: how often it comes, what happens on it, and what the instructor notes."""

    weight: int
    happens: Callable[[Sequence[Step], Random], Plan]
    notes: tuple[str, ...] = ("",)
    absent: int = 0


def _as_planned(steps: Sequence[Step], random: Random) -> Plan:
    return {}


def _questions(steps: Sequence[Step], random: Random) -> Plan:
    first = random.choice(_works(steps)[:4])
    return {first.id: ((1500, "pause", 0), (random.randint(20_000, 75_000), "resume", 0))}


def _late_start(steps: Sequence[Step], random: Random) -> Plan:
    return {step.id: ((500, "skip-item", 0),) for step in _some(_firsts(steps)[3:-2], 2, random)}


def _tired(steps: Sequence[Step], random: Random) -> Plan:
    acts = ((1000, "insert", 30_000),), ((2000, "easier", 0),), ((2000, "easier", 0),)
    return {step.id: act for step, act in zip(_some(_works(steps), 3, random), acts, strict=False)}


def _went_well(steps: Sequence[Step], random: Random) -> Plan:
    sided = [step for step in _works(steps) if step.partner] or _works(steps)
    acts = ((2000, "longer", 10_000),), ((2000, "deeper", 0),), ((2000, "longer", 10_000),)
    return {step.id: act for step, act in zip(_some(sided, 3, random), acts, strict=False)}


def _once_more(steps: Sequence[Step], random: Random) -> Plan:
    return {random.choice(_works(steps)).id: ((6000, "repeat", 0),)}


def _broken_off(steps: Sequence[Step], random: Random) -> Plan:
    return {_works(steps)[len(_works(steps)) * 2 // 3].id: ((4000, "end", 0),)}


DAYS = (
    Day(5, _as_planned, ("", "", "", "Went smoothly.")),
    Day(3, _questions, ("Two new people. They asked about their knees first.", "", "Explained the second side again.")),
    Day(2, _late_start, ("The hall was still locked, so we left out two moves.", "Announcements took five minutes.")),
    Day(2, _tired, ("A hot evening. Many took the easier options.", "Everybody was tired, so we rested once more."), 3),
    Day(3, _went_well, ("They liked the long holds.", "", "")),
    Day(1, _once_more, ("Did one move again because nobody could hear me.",)),
    Day(1, _broken_off, ("The fire alarm went off and we stopped.",)),
)
SLOTS = (
    Slot(5, 17, "Allotments, by the tool shed", 9, 5),
    Slot(0, 19, "Community hall", 14, 4),
    Slot(3, 20, "Pottery studio", 7, 0),
    Slot(2, 18, "Choir room", 18, 6),
)


def teach_for_months(classes: list[StretchClass]) -> None:
    """Sessions with their events, and what is planned for the coming week."""
    random = Random(44)  # noqa: S311 - made-up data
    today = timezone.localtime().replace(minute=0, second=0, microsecond=0)
    for of, slot in zip(classes, SLOTS, strict=False):
        day = (today - timedelta(days=today.weekday() - slot.weekday)).replace(hour=slot.hour)
        day += timedelta(weeks=day < today)
        group = store.script_of(of.present).brief.group
        Session.objects.create(owner=of.owner, of=of, at=day, place=slot.place, group=group)
        for week in range(1, WEEKS):
            if random.random() < 0.15:
                continue
            _teach(of, day - timedelta(weeks=week), slot, random, group)
        last = of.sessions.exclude(run=None).order_by("-at").first()
        StretchClass.objects.filter(pk=of.pk).update(taught_at=last.at if last else None)
    NextTime.objects.create(of=classes[0], text="Chairs along the wall before they come in.")


def _teach(of: StretchClass, at: datetime, slot: Slot, random: Random, group: str) -> None:
    day = random.choices(DAYS, [one.weight for one in DAYS])[0]
    start = round(at.timestamp() * 1000) + random.randint(0, 200_000)
    key = f"demo-{at:%Y%m%d%H}"
    run = LiveRun.objects.create(of=of, key=key, stamp=of.stamp, revision=of.present)
    LiveRun.objects.filter(pk=run.pk).update(began_at=at)
    LiveEvent.objects.bulk_create(
        LiveEvent(run=run, key=e.id, at=e.at, kind=e.kind, step=e.step, ms=e.ms)
        for e in _events(of, start, slot.slow_s, day, random)
    )
    people = max(3, slot.people - day.absent + random.randint(-3, 3))
    note = random.choice(day.notes)
    Session.objects.create(
        owner=of.owner, of=of, at=at, run=run, people=people, notes=note, place=slot.place, group=group
    )


def _some(steps: Sequence[Step], count: int, random: Random) -> list[Step]:
    return random.sample(steps, min(count, len(steps)))


def _works(steps: Sequence[Step]) -> list[Step]:
    """The first work of each item, in order."""
    found: dict[str, Step] = {}
    for step in steps:
        if step.works:
            found.setdefault(step.item, step)
    return list(found.values())


def _firsts(steps: Sequence[Step]) -> list[Step]:
    """The first step of each item that has work: the way there."""
    worked = {step.item for step in steps if step.works}
    return list({step.item: step for step in reversed(steps) if step.item in worked}.values())[::-1]


def _events(of: StretchClass, start: int, slow_s: int, day: Day, random: Random) -> list[Event]:
    """A class in front of people: what the day brings, waiting on the slowest way, open doses as long as they last."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    steps, told = steps_of(script, timeline), [Event("0", start, "start")]
    kinds = {segment.id: segment.kind for segment in timeline.segments}
    slow_way = next((s.id for s in steps if kinds[s.id] is SegmentKind.TRANSITION and s.ms >= 5000), "")
    plan = day.happens(steps, random)
    if waits := max(0, slow_s + random.randint(-3, 3)):
        plan.setdefault(slow_way, ((3000, "pause", 0), (3000 + 1000 * waits, "resume", 0)))
    run: Run = fold(steps, told)
    while not run.ended:
        step, begun = run.step, run.clock
        acts = plan.pop(step.id, ())
        if step.waits and not acts:
            acts = ((round(step.ms * random.uniform(0.7, 1.4)), "end-now", 0),)
        for after_ms, kind, ms in acts:
            told.append(Event(str(len(told)), begun + after_ms, kind, ms=ms))
            run = after(run, told[-1])
        if not run.ended and run.step.id == step.id:
            run = advance(run, run.clock + max(1, run.step.ms - run.into))
    if told[-1].kind != "end":
        told.append(Event(str(len(told)), run.clock, "end"))
    return told
