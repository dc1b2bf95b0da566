"""Holds and reps: their lengths against the class's convention, what comes next, and warmth."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import drop_sentences, each, limited, listed
from extendum.core.checks.spoken_truth import sayings
from extendum.core.checks.subject import Subject
from extendum.core.listening.asking import bounces
from extendum.core.model.audience import WhatNext
from extendum.core.model.body import Region
from extendum.core.model.dose import Hold, Reps
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import Effect, Kind
from extendum.core.model.timeline import SegmentKind
from extendum.core.outputs.coverage import static_seconds

#: Static seconds per muscle before strength or speed from which on they cost something: Behm and others, 2016.
STATIC_MOST_S = 60
#: About so many seconds in all for an area, over its repetitions: Garber and others, 2011.
RANGE_S = 60
#: A hold of at least so long wants warm muscles, and moving of at least so long makes them so.
LONG_HOLD_S, WARM_S = 30, 30
#: What a hold before any warm-up is shortened to.
COLD_S = 20
#: A rep quicker than this cannot be followed, a count quicker than that cannot be said.
REP_LEAST_MS, COUNT_LEAST_MS = 1000, 500
_MOVING = (Kind.DYNAMIC, Kind.MOBILITY, Kind.PULSE_RAISER, Kind.STRENGTH)


def _holds(subject: Subject, item: MoveItem) -> list[int]:
    return [s.seconds for s in subject.work[item.id] if s.kind is SegmentKind.HOLD and (s.stage or 1) == 1]


@checked(
    Family.HOLDS,
    "hold-off-convention",
    Severity.CONSIDER,
    "whether static holds keep to the class's hold convention",
    "Schools differ: 5 to 10 s repeated, 15 to 30 s once, 30 to 60 s for older adults. A class should keep to one.",
)
def hold_off_convention(subject: Subject) -> Iterator[Found]:
    """Static holds are shorter or longer than the class's convention."""
    limits = subject.style.holds.limits
    if limits is None:
        return
    least, most = limits
    off = []
    for item in subject.moves:
        # A later round may be shorter because people are warm: only too long counts there.
        seconds = _holds(subject, item)
        if item.move.kind is Kind.STATIC and seconds and (max(seconds) < least or max(seconds) > most):
            off.append((item, max(seconds)))
    if off:
        names = listed(f"{item.name} {seconds} s" for item, seconds in off)
        yield Found(
            f"These holds are outside {subject.style.holds}: {names}.",
            tuple(item.id for item, _ in off),
            mend=Mend(
                f"Bring them within {least} to {most} s",
                each([item.id for item, _ in off], partial(_within, least=least, most=most)),
            ),
        )


def _within(item: Item, least: int, most: int) -> Item:
    if not isinstance(item, MoveItem) or not isinstance(item.dose, Hold):
        return item
    return item.having(limited(item.dose.seconds, least, most))


@checked(
    Family.HOLDS,
    "static-before-activity",
    Severity.FIX,
    "how long each muscle is held before strength, speed or gentle activity",
    "Static stretching of 60 s or more per muscle just before strength or speed costs performance, shorter holds in a "
    "full warm-up cost little (Behm and others, 2016, Applied Physiology, Nutrition, and Metabolism 41(1):1-11).",
)
def static_before_activity(subject: Subject) -> Iterator[Found]:
    """A muscle is held for 60 s or more before activity."""
    if subject.brief.before is WhatNext.NOTHING:
        return
    held = {
        region: (static_seconds(worked), worked.items)
        for (region, effect), worked in subject.coverage.items()
        if effect is Effect.STRETCH and static_seconds(worked) >= STATIC_MOST_S and region is not Region.BREATH
    }
    if held:
        ids = dict.fromkeys(item for _, items in held.values() for item, main in items.items() if main)
        static = [i for i in subject.moves if i.id in ids and i.move.kind is Kind.STATIC]
        told = listed(f"{region} {seconds} s" for region, (seconds, _) in held.items())
        most = max(seconds for seconds, _ in held.values())
        shares = {item.id: 100 * (STATIC_MOST_S - 5) // most for item in static}
        yield Found(
            f"Static holds of {STATIC_MOST_S} s or more before {subject.brief.before}: {told}.",
            tuple(item.id for item in static),
            facts=tuple((str(region), seconds) for region, (seconds, _) in held.items()),
            mend=Mend("Shorten these holds", each(shares, partial(_shortened, shares=shares))),
            severity=Severity.NOTE if subject.brief.before is WhatNext.GENTLE else None,
        )


def _shortened(item: Item, shares: dict[str, int]) -> Item:
    """A static move with its seconds cut to a share; whole seconds, and no less than five."""
    if not isinstance(item, MoveItem) or not isinstance(item.dose, Hold):
        return item
    seconds = item.dose.seconds
    return item.having(limited(seconds, 1, max(5, seconds.value * shares[item.id] // 100)))


@checked(
    Family.HOLDS,
    "cold-hold",
    Severity.CONSIDER,
    "whether people move before long holds, unless they arrive warm",
    "Muscles stretch better when they are warm, so people should move before long holds (Garber and others, 2011).",
)
def cold_hold(subject: Subject) -> Iterator[Found]:
    """A long static hold comes before people are warm."""
    if subject.brief.warm:
        return
    moved = 0
    by_id = {item.id: item for item in subject.moves}
    for segment in subject.timeline.segments:
        item = by_id.get(segment.item)
        if item is None or not segment.kind.works:
            continue
        stretches = any(target.effect is Effect.STRETCH for target in item.move.targets)
        long = segment.kind is SegmentKind.HOLD and segment.seconds >= LONG_HOLD_S
        if item.move.kind is Kind.STATIC and long and stretches:
            yield Found(
                f"{item.name} is held for {segment.seconds} s after only {moved} s of moving.",
                (item.id,),
                segment.id,
                facts=(("held", segment.seconds), ("moved before", moved)),
                mend=Mend(f"Hold it for {COLD_S} s", each([item.id], _shorter)),
            )
            return
        if item.move.kind in _MOVING:
            moved += segment.seconds
        if moved >= WARM_S:
            return


def _shorter(item: Item) -> Item:
    return item.having(limited(item.quantity, 1, COLD_S))


@checked(
    Family.HOLDS,
    "range-little",
    Severity.NOTE,
    "how long the areas of the brief are stretched, where no activity follows",
    "For more range, healthy adults hold 10 to 30 s two to four times, about 60 s in all for an area, on two or three "
    "days a week (Garber and others, 2011, Medicine & Science in Sports & Exercise 43(7):1334-1359).",
)
def range_little(subject: Subject) -> Iterator[Found]:
    """An area of the brief is stretched for less than about a minute."""
    if subject.brief.before is not WhatNext.NOTHING:
        return
    little = {}
    for region in subject.brief.areas:
        worked = subject.coverage.get((region, Effect.STRETCH))
        if worked and 0 < static_seconds(worked) < RANGE_S:
            little[region] = static_seconds(worked)
    if little:
        told = listed(f"{region} {seconds} s" for region, seconds in little.items())
        items = [i for i in subject.moves if set(i.move.main_regions) & set(little) and i.move.kind is Kind.STATIC]
        yield Found(
            f"Less than a minute of stretching on each side: {told}.",
            tuple(item.id for item in items),
            facts=tuple((str(region), seconds) for region, seconds in little.items()),
        )


@checked(
    Family.HOLDS,
    "bouncing",
    Severity.CONSIDER,
    "whether the words ask people to bounce at the end of a stretch",
    "Some teachers use bouncing and others avoid it. Keep it to moves that are meant that way, with their caution.",
)
def bouncing(subject: Subject) -> Iterator[Found]:
    """The words ask people to bounce in a move that has no caution about it."""
    for item, texts, first in sayings(subject, bounces):
        move = next((one.move for one in subject.moves if one.id == item), None)
        meant = move is not None and move.kind is Kind.DYNAMIC and any(bounces(c.advice) for c in move.cautions)
        if not meant and not (move is not None and move.kind is Kind.PULSE_RAISER):
            name = texts[0].item.name
            yield Found(f"{name} says “{first}”.", (item,), mend=drop_sentences(texts, bounces))


@checked(
    Family.HOLDS,
    "reps-too-quick",
    Severity.CONSIDER,
    "whether a rep is slow enough to follow and to count",
    "When a rep is over before it can be said, people stop following the count.",
)
def reps_too_quick(subject: Subject) -> Iterator[Found]:
    """Reps, or the counts in them, are too quick to follow."""
    for item in subject.moves:
        for stage, dose in enumerate(item.doses, 1):
            if not isinstance(dose, Reps):
                continue
            per_count = dose.cycle_ms // dose.counts if dose.counts else dose.cycle_ms
            if dose.cycle_ms < REP_LEAST_MS or per_count < COUNT_LEAST_MS:
                needs = max(REP_LEAST_MS, dose.counts * COUNT_LEAST_MS)
                many = f", with {dose.counts} counts in it" if dose.counts else ""
                yield Found(
                    f"A rep of {item.name} takes {dose.cycle_ms / 1000:g} s{many}.",
                    (item.id,),
                    facts=(("rep, ms", dose.cycle_ms), ("counts", dose.counts)),
                    mend=Mend(
                        f"Slow it to {needs / 1000:g} s", each([item.id], partial(_slowed, stage=stage, needs=needs))
                    ),
                )
                break


def _slowed(item: Item, stage: int, needs: int) -> Item:
    if not isinstance(item, MoveItem):
        return item
    dose = item.dose_at(stage)
    if not isinstance(dose, Reps):
        return item
    slow = replace(dose, out_ms=dose.out_ms + -(-(needs - dose.cycle_ms) // 2), back_ms=dose.back_ms)
    slow = replace(slow, back_ms=slow.back_ms + max(0, needs - slow.cycle_ms))
    if stage == 1:
        return replace(item, dose=slow)
    return replace(item, then=tuple(replace(s, dose=slow) if n == stage else s for n, s in enumerate(item.then, 2)))


CHECKS: tuple[Check, ...] = (
    *(hold_off_convention, static_before_activity, cold_hold, range_little, bouncing, reps_too_quick),
)
