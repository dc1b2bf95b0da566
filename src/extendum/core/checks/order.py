"""Order: effort, up and down, and the two ends of a class."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import fewer_changes, listed, say_at_close
from extendum.core.checks.subject import SLOW_PERCENT, Subject
from extendum.core.model.audience import Condition
from extendum.core.model.body import Base
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Kind
from extendum.core.model.script import Script
from extendum.core.model.section import Role
from extendum.core.model.talk import Talk, TalkKind

#: How often people may get down or up: once down and once up for a group that needs time, twice for others.
CHANGES_SLOW, CHANGES_MOST = 2, 4
#: Who needs time to get down and up.
_NEED_TIME = frozenset({Condition.KNEES, Condition.BALANCE, Condition.HIP_REPLACEMENT})
#: How often they may change between standing, chair and floor.
SUPPORTS_SLOW, SUPPORTS_MOST = 4, 6
#: From this effort (1 to 5) on a move is hard; a rise to it of so many steps at once leaves people behind.
HARD, RISE = 4, 2
RECHECK = "Notice again what you noticed at the start. What has changed?"
CLOSE = "Stay here a moment and let your breath come and go. Get up slowly when you are ready."


@checked(
    Family.ORDER,
    "effort-jumps",
    Severity.CONSIDER,
    "whether effort rises step by step",
    "Each move has an effort from 1 to 5. A jump of two steps or more to hard work (4 or 5) leaves people behind.",
)
def effort_jumps(subject: Subject) -> Iterator[Found]:
    """Effort rises too steeply."""
    jumps = [
        (a, b) for a, b in pairwise(subject.visits) if b.move.effort >= HARD and b.move.effort - a.move.effort >= RISE
    ]
    yield from _between(jumps, "Effort jumps from {} to {} at {}.")


@checked(
    Family.ORDER,
    "effort-drops",
    Severity.CONSIDER,
    "whether hard work eases off before stillness",
    "Stopping suddenly after hard work can make people dizzy. Put something easier in between.",
)
def effort_drops(subject: Subject) -> Iterator[Found]:
    """Stillness follows hard work directly."""
    drops = [
        (a, b)
        for a, b in pairwise(subject.visits)
        if a.move.effort >= HARD and b.move.effort == 1 and b.move.kind in (Kind.STATIC, Kind.BREATH)
    ]
    if subject.visits and subject.visits[-1].move.effort >= HARD:
        last = subject.visits[-1]
        yield Found(f"The class ends with {last.name}, effort {last.move.effort}.", (last.id,))
        return
    yield from _between(drops, "Effort drops from {} to {} at {}.")


def _between(pairs: list[tuple[MoveItem, MoveItem]], sentence: str) -> Iterator[Found]:
    if pairs:
        before, after = pairs[0]
        told = sentence.format(before.move.effort, after.move.effort, listed(b.name for _, b in pairs))
        yield Found(told, tuple(dict.fromkeys(b.id for _, b in pairs)))


@checked(
    Family.ORDER,
    "floor-often",
    Severity.CONSIDER,
    "how often this group gets down to the floor and up again",
    "Getting down and up costs time, and is the hardest part of a class for people with sore knees or poor balance.",
)
def floor_often(subject: Subject) -> Iterator[Found]:
    """People get down and up more often than suits this group."""
    at = _changes(subject, frozenset({frozenset({Base.FLOOR, Base.LYING})}))
    careful = needs_time(subject.script)
    most = CHANGES_SLOW if careful else CHANGES_MOST
    if len(at) > most:
        whom = ", with somebody who needs time for it" if careful else ""
        yield Found(
            f"People get down or up {len(at)} times{whom}.",
            tuple(dict.fromkeys(at)),
            facts=(("changes", len(at)), ("most", most)),
            mend=Mend("Put a section in an order with fewer changes", fewer_changes),
        )


def needs_time(script: Script) -> bool:
    """Whether somebody in the group needs time to get down and up, or to change supports."""
    has = {one.casefold() for one in script.brief.conditions}
    return script.style.pace_percent >= SLOW_PERCENT or not has.isdisjoint(_NEED_TIME)


def _changes(subject: Subject, supports: frozenset[frozenset[Base]]) -> list[str]:
    """The items at which people come to one of these supports, or leave it, in their order."""
    support = {base: told for told in supports for base in told}
    at, found = support.get(Base.of(subject.script.start_posture)), list[str]()
    for item in subject.visits:
        for posture in (item.move.posture, item.move.ends_in):
            now = support.get(Base.of(posture))
            if now != at:
                at = now
                found.append(item.id)
    return found


@checked(
    Family.ORDER,
    "supports-often",
    Severity.CONSIDER,
    "how often people change between standing, chair and floor",
    "Each change costs time and attention. Do what belongs on the chair together, and what belongs on the floor.",
)
def supports_often(subject: Subject) -> Iterator[Found]:
    """People go back and forth between supports."""
    if any(floor_often.find(subject)):
        return
    on_chair = frozenset({Base.CHAIR})
    at = _changes(subject, frozenset({frozenset({Base.FLOOR, Base.LYING}), on_chair}))
    most = SUPPORTS_SLOW if needs_time(subject.script) else SUPPORTS_MOST
    if len(at) > most:
        yield Found(
            f"People change between standing, chair and floor {len(at)} times.",
            tuple(dict.fromkeys(at)),
            facts=(("changes", len(at)), ("most", most)),
            mend=Mend("Put a section in an order with fewer changes", fewer_changes),
        )


@checked(
    Family.ORDER,
    "no-closing",
    Severity.CONSIDER,
    "whether the class has a closing",
    "A few words or breaths at the end let people settle before they leave.",
)
def no_closing(subject: Subject) -> Iterator[Found]:
    """The class has no time to settle at the end."""
    closing = [item for section, items in subject.sections if section.role is Role.CLOSING for item in items]
    if not any(isinstance(item, MoveItem | Talk) for item in closing):
        change = say_at_close(TalkKind.TALK, "Close", CLOSE)
        yield Found("The class has no closing.", mend=Mend("Add a few closing words", change))


@checked(
    Family.ORDER,
    "no-recheck",
    Severity.CONSIDER,
    "whether a check-in has a follow-up",
    "When you ask people to notice something, ask again later whether it changed.",
)
def no_recheck(subject: Subject) -> Iterator[Found]:
    """A check-in has no follow-up, or a follow-up has no check-in before it."""
    asked: Talk | None = None
    for talk in subject.talks:
        if talk.kind is TalkKind.CHECK_IN:
            asked = asked or talk
        elif talk.kind is TalkKind.RECHECK:
            if asked is None:
                yield Found(f"{talk.name} follows up on a check-in that the class does not have.", (talk.id,))
            asked = None
    if asked:
        change = say_at_close(TalkKind.RECHECK, "Notice again", RECHECK)
        yield Found(f"{asked.name} has no follow-up.", (asked.id,), mend=Mend("Add a recheck to the closing", change))


CHECKS: tuple[Check, ...] = (*(effort_jumps, effort_drops, floor_often, supports_often, no_closing, no_recheck),)
