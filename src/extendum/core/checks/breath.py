"""Breath: holding it, forcing it, and paces that nobody keeps."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import drop_sentences, each
from extendum.core.checks.spoken_truth import sayings
from extendum.core.checks.subject import Subject
from extendum.core.listening.asking import forces_breath, holds_breath
from extendum.core.model.audience import Condition
from extendum.core.model.dose import Breaths, Dose
from extendum.core.model.item import Item, MoveItem

#: A pause at the top or the bottom of a breath up to this long is a pause, not holding it.
PAUSE_MS = 2000
#: Breaths quicker than 20 a minute for longer than this, or slower than 4 a minute, are more than a beginner's.
QUICK_MS, QUICK_FOR_S, SLOW_MS = 3000, 20, 15_000
_NEVER_HELD = (
    *(Condition.BLOOD_PRESSURE, Condition.GLAUCOMA, Condition.PREGNANCY, Condition.BREATH, Condition.DIZZINESS),
)


@checked(
    Family.BREATH,
    "breath-held",
    Severity.CONSIDER,
    "whether the class asks people to hold their breath",
    "Holding the breath raises the pressure in head and chest. It should be rare, and never with high blood pressure, "
    "glaucoma, heart trouble, dizziness or in later pregnancy.",
)
def breath_held(subject: Subject) -> Iterator[Found]:
    """A dose or the words ask people to hold their breath."""
    severity = Severity.FIX if subject.has(*_NEVER_HELD) else None
    held = set()
    for item in subject.moves:
        long = max((_pause_ms(dose) for dose in item.doses), default=0)
        if long > PAUSE_MS:
            held.add(item.id)
            yield Found(
                f"{item.name} asks people to hold their breath for {long / 1000:g} s.",
                (item.id,),
                facts=(("held, ms", long),),
                mend=Mend("Remove the pause", each([item.id], _flowing)),
                severity=severity,
            )
    for item_id, texts, first in sayings(subject, holds_breath):
        if item_id not in held:
            name = texts[0].item.name
            mend = drop_sentences(texts, holds_breath)
            yield Found(f"{name} says “{first}”.", (item_id,), mend=mend, severity=severity)


def _pause_ms(dose: Dose) -> int:
    return max(dose.full_ms, dose.empty_ms) if isinstance(dose, Breaths) else 0


def _each_dose(item: Item, change: Callable[[Dose], Dose]) -> Item:
    if not isinstance(item, MoveItem):
        return item
    then = tuple(replace(stage, dose=change(stage.dose)) for stage in item.then)
    return replace(item, dose=change(item.dose), then=then)


def _flowing(item: Item) -> Item:
    return _each_dose(item, _without_pauses)


def _without_pauses(dose: Dose) -> Dose:
    return replace(dose, full_ms=0, empty_ms=0) if isinstance(dose, Breaths) else dose


@checked(
    Family.BREATH,
    "breath-forced",
    Severity.CONSIDER,
    "whether breathing is forced, fast for long, or slower than is comfortable",
    "Settling breath is about 6 a minute, and resting adults breathe 12 to 20 times. Forced breathing makes "
    "people light-headed, and then they should breathe as usual.",
)
def breath_forced(subject: Subject) -> Iterator[Found]:
    """Breathing is fast for too long, or slower than a mixed group finds comfortable."""
    told = set()
    for item in subject.moves:
        for dose in item.doses:
            if not isinstance(dose, Breaths):
                continue
            lasts = dose.many(dose.quantity.value) * dose.cycle_ms // 1000
            quick = dose.cycle_ms < QUICK_MS and lasts > QUICK_FOR_S
            if (quick or dose.cycle_ms > SLOW_MS) and item.id not in told:
                told.add(item.id)
                pace = f"{60_000 / dose.cycle_ms:.2g} breaths a minute"
                yield Found(
                    f"{item.name} asks for {pace}{f' for {lasts} s' if quick else ''}.",
                    (item.id,),
                    facts=(("breath, ms", dose.cycle_ms),),
                    mend=Mend("Breathe at the class's pace", each([item.id], partial(_at_pace, subject=subject))),
                )
    for item_id, texts, first in sayings(subject, forces_breath):
        if item_id not in told:
            mend = drop_sentences(texts, forces_breath)
            yield Found(f"{texts[0].item.name} says “{first}”.", (item_id,), mend=mend)


def _at_pace(item: Item, subject: Subject) -> Item:
    return _each_dose(item, partial(_paced, in_ms=subject.style.breath_in_ms, out_ms=subject.style.breath_out_ms))


def _paced(dose: Dose, in_ms: int, out_ms: int) -> Dose:
    """As many slow breaths as take about the time of the present ones."""
    if not isinstance(dose, Breaths):
        return dose
    count = max(1, round(dose.many(dose.quantity.value) * dose.cycle_ms / (in_ms + out_ms)))
    slow = replace(dose, in_ms=in_ms, full_ms=0, out_ms=out_ms, empty_ms=0, stretches="", stretch_s=None)
    return slow.having(dose.count.wanting(count))


CHECKS: tuple[Check, ...] = (breath_held, breath_forced)
