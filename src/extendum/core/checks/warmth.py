"""Warmth: moving before long holds, before speed, and between holds and what comes after the class."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import at_most, each, limited, listed
from extendum.core.checks.subject import Subject
from extendum.core.model.audience import WhatNext
from extendum.core.model.body import PARTS, Region
from extendum.core.model.dose import Hold
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import Effect, Kind, Move
from extendum.core.model.timeline import SegmentKind
from extendum.core.outputs.coverage import static_seconds

#: Static seconds per muscle before strength or speed from which on they cost something: Behm and others, 2016.
STATIC_MOST_S = 60
#: From more than so many on, so much moving comes after them: shorter holds inside a full warm-up cost little.
STATIC_SOME_S, MOVING_S = 30, 30
#: A hold longer than this wants warm muscles, and moving of at least so long makes them so.
COLD_S, WARM_S = 20, 30
#: Before strength or speed a class moves for so long.
MOVE_FIRST_S = 60
_WHOLE, _ALL = frozenset({Region.WHOLE_BODY}), frozenset({"", *PARTS.values()})
MOVING = (Kind.DYNAMIC, Kind.MOBILITY, Kind.PULSE_RAISER, Kind.STRENGTH)


@checked(
    Family.HOLDS,
    "static-before-activity",
    Severity.FIX,
    "how long each muscle is held before strength, speed or gentle activity, and whether moving follows",
    "Static stretching of 60 s or more per muscle just before strength or speed costs performance, shorter holds in a "
    "full warm-up cost little (Behm and others, 2016, Applied Physiology, Nutrition, and Metabolism 41(1):1-11).",
)
def static_before_activity(subject: Subject) -> Iterator[Found]:
    """A muscle is held for 60 s or more before activity, or for half a minute with no moving after it."""
    if subject.brief.before is WhatNext.NOTHING:
        return
    held = list(_held_long(subject))
    if held:
        most = max(one.seconds for one in held)
        shares: dict[str, int] = {}
        for one in held:
            shares |= {item.id: min(one.share, shares.get(item.id, 100)) for item in one.items}
        told = listed(f"{one.region} {one.seconds} s" for one in held)
        long = f"of {STATIC_MOST_S} s or more before" if most >= STATIC_MOST_S else "with no moving between them and"
        gentle = subject.brief.before is WhatNext.GENTLE
        yield Found(
            f"Static holds {long} {subject.brief.before}: {told}.",
            tuple(item.id for item in subject.moves if item.id in shares),
            facts=tuple((str(one.region), one.seconds) for one in held),
            mend=Mend("Shorten these holds", each(shares, partial(_shortened, shares=shares))),
            severity=Severity.NOTE if gentle else Severity.CONSIDER if most < STATIC_MOST_S else None,
        )


class _Held(NamedTuple):
    """An area that is held for long: how long, by which static moves, and the share of it that would do, in percent."""

    region: Region
    seconds: int
    items: tuple[MoveItem, ...]
    share: int


def _held_long(subject: Subject) -> Iterator[_Held]:
    for (region, effect), worked in subject.coverage.items():
        seconds = static_seconds(worked)
        if effect is not Effect.STRETCH or region is Region.BREATH or seconds <= STATIC_SOME_S:
            continue
        main = [item for item in subject.moves if worked.items.get(item.id)]
        part = PARTS.get(region, "")
        last = max(subject.place[item.id] for item in main)
        after = (item for item in subject.moves if subject.place[item.id] > last and part in warms(item.move))
        moves = subject.brief.before is WhatNext.GENTLE or sum(_moving(subject, one) for one in after) >= MOVING_S
        most = STATIC_MOST_S - 1 if moves else STATIC_SOME_S
        if seconds > most:
            static = tuple(item for item in main if item.move.kind is Kind.STATIC)
            yield _Held(region, seconds, static, 100 * (most - 4) // seconds)


def _moving(subject: Subject, item: MoveItem) -> int:
    """Seconds of a move in which people move; none of what is held or breathed."""
    return sum(one.seconds for one in subject.work[item.id]) if item.move.kind in MOVING else 0


def warms(move: Move) -> frozenset[str]:
    """The parts of the body that a move warms: those of its targets, and all of them from the trunk or the pulse."""
    parts = frozenset(PARTS.get(target.region, "") for target in move.targets)
    whole = move.kind is Kind.PULSE_RAISER or any(target.region in _WHOLE for target in move.targets)
    return _ALL if whole or "trunk" in parts else parts


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
    moved: dict[str, int] = {}
    by_id = {item.id: item for item in subject.moves}
    for segment in subject.timeline.segments:
        item = by_id.get(segment.item)
        if item is None or not segment.kind.works:
            continue
        stretches = any(target.effect is Effect.STRETCH for target in item.move.targets)
        long = segment.kind is SegmentKind.HOLD and segment.seconds > COLD_S
        if item.move.kind in MOVING:
            for part in warms(item.move):
                moved[part] = moved.get(part, 0) + segment.seconds
        if item.move.kind is not Kind.STATIC or not long or not stretches:
            continue
        warm = max((moved.get(PARTS.get(region, ""), 0) for region in item.move.main_regions), default=WARM_S)
        if warm < WARM_S:
            before = f"after only {warm} s of moving for" if warm else "before anything has moved"
            yield Found(
                f"{item.name} is held for {segment.seconds} s {before} that part of the body.",
                (item.id,),
                segment.id,
                facts=(("held", segment.seconds), ("moved before", warm)),
                mend=Mend(f"Hold it for {COLD_S} s", each([item.id], partial(at_most, most=COLD_S))),
            )
            return


@checked(
    Family.HOLDS,
    "speed-cold",
    Severity.CONSIDER,
    f"whether a class before strength or speed moves for at least {MOVE_FIRST_S} s",
    "Moving prepares for strength and speed better than holding does (Behm and others, 2016).",
)
def speed_cold(subject: Subject) -> Iterator[Found]:
    """A class before strength or speed hardly moves."""
    if subject.brief.before is not WhatNext.STRENGTH:
        return
    seconds = sum(_moving(subject, item) for item in subject.moves)
    if seconds < MOVE_FIRST_S:
        told = f"moves for only {seconds} s" if seconds else "does not move at all"
        yield Found(f"The class comes before strength or speed and {told}.", facts=(("moving", seconds),))


CHECKS: tuple[Check, ...] = (static_before_activity, cold_hold, speed_cold)
