"""Ends of the range: what many teachers leave out today. A check asks about it and gives the reason."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from extendum.core.checks.finding import Check, Family, Found, Severity, checked
from extendum.core.checks.mends import drop_sentences
from extendum.core.checks.spoken_truth import sayings
from extendum.core.checks.subject import Subject
from extendum.core.listening.ranging import circles_neck, loads_the_end, locks_joints
from extendum.core.model.body import Region
from extendum.core.model.move import Effect, Sidedness

_ROUND = (Sidedness.EACH_DIRECTION, Sidedness.EACH_SIDE_AND_DIRECTION)


def _asked(subject: Subject, hears: Callable[[str], tuple[str, ...]], question: str) -> Iterator[Found]:
    """What words ask for or a move is called, as a question."""
    called = {item.id: said for item in subject.moves if (said := hears(item.name))}
    for item in called:
        yield Found(f"{subject.script.item(item).name}: {question}", (item,))
    for item, texts, first in sayings(subject, hears):
        if item not in called:
            yield Found(f"{texts[0].name} says “{first}”. {question}", (item,), mend=drop_sentences(texts, hears))


@checked(
    Family.SAFETY,
    "neck-circled",
    Severity.CONSIDER,
    "whether the head goes all the way round or drops back",
    "At the back of a full circle the neck is bent and turned at once, which makes some people dizzy and closes the "
    "joints. Half circles, with the chin from one shoulder to the other in front, do without it.",
)
def neck_circled(subject: Subject) -> Iterator[Found]:
    """The head goes all the way round, or drops back."""
    question = "Does the head have to go back? Half circles in front do without it."
    found = list(_asked(subject, circles_neck, question))
    named = {item for one in found for item in one.items}
    for item in subject.moves:
        main = [target for target in item.move.targets if target.main]
        turned = [target for target in main if target.region is Region.NECK and target.effect is Effect.MOBILISE]
        if turned and len(main) == len(turned) and item.move.sidedness in _ROUND and item.id not in named:
            found.append(Found(f"{item.name} takes the neck round in both directions. {question}", (item.id,)))
    yield from found


@checked(
    Family.SAFETY,
    "joint-locked",
    Severity.CONSIDER,
    "whether words ask for locked joints",
    "A locked knee or elbow rests on its ligaments, above all in people who are very flexible. Straight is enough.",
)
def joint_locked(subject: Subject) -> Iterator[Found]:
    """The words ask people to lock a joint."""
    yield from _asked(subject, locks_joints, "Would straight and unlocked do?")


@checked(
    Family.SAFETY,
    "end-loaded",
    Severity.CONSIDER,
    "whether weight comes onto the neck or a joint at the end of its range",
    "The plough, stands on the shoulders or the head, splits and somebody else's weight load joints where they can "
    "go no further. They need months of practice, props, and a teacher who can see each person.",
)
def end_loaded(subject: Subject) -> Iterator[Found]:
    """Weight comes onto the neck, or onto a joint at the end of its range."""
    yield from _asked(subject, loads_the_end, "Is this group ready for it, and can you see each of them?")


CHECKS: tuple[Check, ...] = (neck_circled, joint_locked, end_loaded)
