"""Loads: how long one hold, one posture or one joint has to bear, and whether breath goes on under strain."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import partial
from itertools import groupby, pairwise

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import at_most, each, listed, with_prompt
from extendum.core.checks.subject import Subject
from extendum.core.listening.words import stem, stems_of
from extendum.core.model.audience import Condition
from extendum.core.model.body import Posture, Region, Side
from extendum.core.model.dose import Hold
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Effect, Kind, Named, OnSide
from extendum.core.model.prompts import PromptKind
from extendum.core.model.timeline import CueKind, Segment, SegmentKind, clock

#: One hold beyond this is a practice of its own: on the neck, and anywhere.
NECK_MOST_S, HOLD_MOST_S = 90, 180
#: Seconds flat on the back in a class with somebody in later pregnancy, and on sore knees; on anybody's at one time.
BACK_MOST_S, SORE_KNEES_MOST_S, KNEES_AT_ONCE_S = 180, 120, 600
#: A straining hold beyond this with high blood pressure; of at least this, it wants a word about breath.
STRAIN_MOST_S, STRAIN_S = 30, 15
#: From this effort (1 to 5) on holding still is straining.
STRAINS = 4
KNEELING = frozenset({Posture.KNEELING, Posture.HALF_KNEELING, Posture.ALL_FOURS, Posture.HEELS})
BREATHE_ON = "Keep breathing."
_AIR = frozenset(map(stem, ("breath", "breathe", "exhale", "inhale", "air")))


@checked(
    Family.HOLDS,
    "hold-very-long",
    Severity.CONSIDER,
    f"whether one hold lasts more than {NECK_MOST_S} s on the neck or {HOLD_MOST_S} s anywhere",
    "Holds of 10 to 30 s, for older adults 30 to 60 s, are what guidelines recommend (Garber and others, 2011). Much "
    "longer ones are a practice of their own and need props for support.",
)
def hold_very_long(subject: Subject) -> Iterator[Found]:
    """One hold is far longer than what is usual."""
    for item in subject.moves:
        rests = item.move.effort == 1 and not any(t.effect is Effect.STRETCH for t in item.move.targets)
        most = NECK_MOST_S if Region.NECK in item.move.main_regions else HOLD_MOST_S
        holds = [one for one in subject.work[item.id] if one.kind in (SegmentKind.HOLD, SegmentKind.OPEN)]
        longest = max(holds, key=_seconds, default=None)
        if longest is not None and longest.seconds > most and not rests:
            yield Found(
                f"{item.name} is held for {longest.seconds} s in one go.",
                (item.id,),
                longest.id,
                facts=(("seconds", longest.seconds), ("most", most)),
                mend=Mend(f"Hold it for {most} s", each([item.id], partial(at_most, most=most)))
                if isinstance(item.dose, Hold)
                else None,
            )


def _seconds(segment: Segment) -> int:
    return segment.seconds


@checked(
    Family.SAFETY,
    "back-long",
    Severity.CONSIDER,
    f"whether a class with somebody in later pregnancy lies on the back for more than {BACK_MOST_S // 60} minutes",
    "In later pregnancy, lying flat on the back for long is to be avoided (American College of Obstetricians and "
    "Gynecologists, Committee Opinion 804, 2020). Propped up or on the side, the same moves can often be done.",
)
def back_long(subject: Subject) -> Iterator[Found]:
    """Somebody in later pregnancy would lie on the back for long."""
    if subject.has(Condition.PREGNANCY):
        yield from _in_postures(subject, frozenset({Posture.SUPINE}), BACK_MOST_S, "lie on their backs")


@checked(
    Family.SAFETY,
    "knees-long",
    Severity.CONSIDER,
    f"whether a class kneels for more than {SORE_KNEES_MOST_S // 60} minutes where somebody's knees are sore, or for "
    f"more than {KNEES_AT_ONCE_S // 60} minutes at one time",
    "Kneeling loads the front of the knee. Padding helps, and so does a change of posture.",
)
def knees_long(subject: Subject) -> Iterator[Found]:
    """People kneel for long."""
    if subject.has(Condition.KNEES):
        yield from _in_postures(subject, KNEELING, SORE_KNEES_MOST_S, "kneel")
        return
    kneels = {item.id: item.name for item in subject.moves if item.move.posture in KNEELING}
    for there, run in groupby(subject.timeline.segments, lambda one: one.item in kneels):
        segments = list(run)
        seconds = sum(map(_seconds, segments))
        if there and seconds > KNEES_AT_ONCE_S:
            ids = tuple(dict.fromkeys(one.item for one in segments))
            names = listed(kneels[one] for one in ids)
            yield Found(f"People kneel for {clock(seconds)} without a change: {names}.", ids)
            return


def _in_postures(subject: Subject, postures: frozenset[Posture], most: int, how: str) -> Iterator[Found]:
    """Long in these postures; what the brief speaks against anyway is another finding."""
    there = [item for item in subject.moves if item.move.posture in postures and item.id not in subject.objections]
    seconds = sum(_all(subject, there))
    if seconds > most:
        yield Found(
            f"People {how} for {clock(seconds)} in all: {listed(item.name for item in there)}.",
            tuple(item.id for item in there),
            facts=(("seconds", seconds), ("most", most)),
        )


def _all(subject: Subject, items: Iterable[MoveItem]) -> Iterator[int]:
    """The seconds of these items, each with all that belongs to it, once."""
    return (one.seconds for item in dict.fromkeys(item.id for item in items) for one in subject.segments[item])


def _strained(subject: Subject, item: MoveItem) -> int:
    """Seconds of the longest hold in which muscles strain against a load or the body's weight."""
    if item.move.kind is not Kind.STRENGTH and item.move.posture is not Posture.PLANK and item.move.effort < STRAINS:
        return 0
    still = (SegmentKind.HOLD, SegmentKind.OPEN)
    return max((one.seconds for one in subject.work[item.id] if one.kind in still), default=0)


@checked(
    Family.SAFETY,
    "isometric-long",
    Severity.CONSIDER,
    f"whether straining holds are longer than {STRAIN_MOST_S} s where somebody's blood pressure is high",
    "A muscle that strains without moving raises the blood pressure for as long as it lasts. Shorter holds "
    "with rests in between strain it less.",
)
def isometric_long(subject: Subject) -> Iterator[Found]:
    """A straining hold is long, and somebody has high blood pressure."""
    if not subject.has(Condition.BLOOD_PRESSURE):
        return
    for item in subject.moves:
        seconds = _strained(subject, item)
        if seconds > STRAIN_MOST_S and item.id not in subject.objections:
            yield Found(
                f"{item.name} is a straining hold of {seconds} s, and somebody has high blood pressure.",
                (item.id,),
                facts=(("seconds", seconds), ("most", STRAIN_MOST_S)),
                mend=Mend(f"Hold it for {STRAIN_MOST_S} s", each([item.id], partial(at_most, most=STRAIN_MOST_S)))
                if isinstance(item.dose, Hold)
                else None,
            )


@checked(
    Family.BREATH,
    "breath-unsaid",
    Severity.CONSIDER,
    f"whether straining holds of {STRAIN_S} s or more have a word about breath",
    "People who strain hold their breath without noticing.",
)
def breath_unsaid(subject: Subject) -> Iterator[Found]:
    """People strain in a hold, and nobody reminds them to breathe."""
    quiet = [item for item in subject.moves if _strained(subject, item) >= STRAIN_S and not _airs(subject, item)]
    if quiet:
        line = partial(with_prompt, kind=PromptKind.BREATH, text=BREATHE_ON)
        yield Found(
            f"No words about breath in {listed(item.name for item in quiet)}, where people strain.",
            tuple(item.id for item in quiet),
            mend=Mend("Remind them to breathe", each([item.id for item in quiet], line)),
        )


def _airs(subject: Subject, item: MoveItem) -> bool:
    """Whether something about breath is said, or is to be said, in a move."""
    generated = any(
        cue.kind is CueKind.KEEP_BREATHING for one in subject.work[item.id] for cue in subject.cues.get(one.id, ())
    )
    return generated or any(stems & _AIR for text in subject.texts[item.id] for stems in stems_of(text.words))


@checked(
    Family.SIDES,
    "joint-twice",
    Severity.CONSIDER,
    "whether the same leg or arm works hard in two moves in a row",
    "A tired side works badly. Let the other side go first, or put something easy in between.",
)
def joint_twice(subject: Subject) -> Iterator[Found]:
    """One side bears or works in two moves in a row."""
    by_id = {item.id: item for item in subject.moves}
    work = [one for one in subject.timeline.segments if one.item in by_id and one.kind.works]
    for before, after in pairwise(work):
        if before.item == after.item:
            continue
        both = loads(by_id[before.item], before.side) & loads(by_id[after.item], after.side)
        if both:
            joint, side = min(both)
            yield Found(
                f"The {side} {joint} works in {by_id[before.item].name} and again right after it, in "
                f"{by_id[after.item].name}.",
                (after.item, before.item),
                after.id,
            )
            return


def loads(item: MoveItem, side: Side | None) -> frozenset[tuple[str, str]]:
    """What bears or strains on one side in a pass: the leg that one stands on, and regions that are strengthened."""
    if side not in (Side.LEFT, Side.RIGHT):
        return frozenset()
    found = set()
    if item.move.posture is Posture.ONE_LEG:
        stands = side if item.move.named is Named.STANDING else side.other
        found.add(("standing leg", stands.value))
    if item.move.effort > 1:
        for target in item.move.targets:
            if target.main and target.effect is Effect.STRENGTHEN and target.side is not OnSide.BOTH:
                on = side.other if target.side is OnSide.OTHER else side
                found.add((target.region.value, on.value))
    return frozenset(found)


CHECKS: tuple[Check, ...] = (hold_very_long, back_long, knees_long, isometric_long, breath_unsaid, joint_twice)
