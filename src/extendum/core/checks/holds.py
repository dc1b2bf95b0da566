"""Holds and reps: their lengths against the class's convention and the areas of the brief, and their pace."""

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
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import SegmentKind
from extendum.core.outputs.coverage import of_region, static_seconds

#: About so many seconds in all for an area, over its repetitions: Garber and others, 2011.
RANGE_S = 60
#: From so many static seconds on, moving comes after them, and so much of it: shorter holds inside a full warm-up cost
#: little (Behm and others, 2016).
STATIC_SOME_S, MOVING_S = 30, 30
#: An area gets no less than this where each move has a length of its own.
AREA_S = 10
#: A rep quicker than this cannot be followed, a count quicker than that cannot be said.
REP_LEAST_MS, COUNT_LEAST_MS = 1000, 500


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
    off = [(item, seconds) for item in subject.moves if (seconds := _off(subject, item))]
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
    "range-little",
    Severity.NOTE,
    "how long the areas of the brief are stretched, where no activity follows",
    "For more range, healthy adults hold 10 to 30 s two to four times, about 60 s in all for an area, on two or three "
    "days a week (Garber and others, 2011, Medicine & Science in Sports & Exercise 43(7):1334-1359).",
)
def range_little(subject: Subject) -> Iterator[Found]:
    """An area of the brief is stretched for less than about a minute."""
    missing = set(subject.brief.areas) - {region for item in subject.moves for region in item.move.main_regions}
    if subject.brief.before is not WhatNext.NOTHING or missing:
        return
    little = {}
    for region in subject.brief.areas:
        worked = subject.coverage.get((region, Effect.STRETCH))
        if worked and 0 < static_seconds(worked) < RANGE_S and region not in _short(subject):
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
    Family.COVERAGE,
    "area-little",
    Severity.CONSIDER,
    "whether each area of the brief gets at least one hold's worth of time",
    "An area that was asked for deserves at least the shortest hold of the class's convention, held or moved.",
)
def area_little(subject: Subject) -> Iterator[Found]:
    """An area of the brief gets less than the shortest hold of the class's convention."""
    least = shortest_hold_s(subject.style)
    if little := _short(subject):
        told = listed(f"{region} {seconds} s" for region, seconds in little.items())
        items = [item.id for item in subject.moves if set(item.move.main_regions) & set(little)]
        yield Found(
            f"The brief wants these areas, and they get less than {least} s: {told}.",
            tuple(items),
            facts=tuple((str(region), seconds) for region, seconds in little.items()),
        )


def shortest_hold_s(style: CueStyle) -> int:
    """Seconds that each area of a brief deserves: the shortest hold of the class's convention."""
    return (style.holds.limits or (AREA_S, AREA_S))[0]


def _short(subject: Subject) -> dict[Region, int]:
    """Areas of the brief with less time than one hold; none that a hold out of its convention is to blame for."""
    least = shortest_hold_s(subject.style)
    told = {region for item in subject.moves if _off(subject, item) for region in item.move.main_regions}
    found = {}
    for region in subject.brief.areas:
        seconds = sum(worked.most for worked in of_region(subject.coverage, region).values())
        if 0 < seconds < least and region not in told:
            found[region] = seconds
    return found


def _off(subject: Subject, item: MoveItem) -> int:
    """The longest hold of a static move that is outside the class's convention; 0 where none is."""
    least, most = subject.style.holds.limits or (0, 10_000)
    # A later round may be shorter because people are warm: only too long counts there.
    longest = max(_holds(subject, item), default=0)
    return longest if item.move.kind is Kind.STATIC and longest and not least <= longest <= most else 0


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
    *(hold_off_convention, range_little, area_little, bouncing),
    reps_too_quick,
)
