"""Recording: what a camera sees, what a recording cannot wait for, and captions that can be read."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import drop_sentences, each, listed
from extendum.core.checks.spoken_truth import sayings
from extendum.core.checks.subject import Subject
from extendum.core.edit.script_edits import set_style
from extendum.core.listening.addressing import speaks_to_camera, speaks_to_room
from extendum.core.model.audience import Setting
from extendum.core.model.body import Base
from extendum.core.model.dose import Hold, Open
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.style import RATES, Facing
from extendum.core.outputs.captions import COMFORTABLE, captions, hasty
from extendum.core.timing.compile import compile_script

#: In such steps of words a minute slower rates are tried.
RATE_STEP = 5


@checked(
    Family.RECORDING,
    "facing-unseen",
    Severity.CONSIDER,
    "whether the camera sees floor positions from the side",
    "From the feet or the head, viewers cannot make out a floor position. From the side they can.",
)
def facing_unseen(subject: Subject) -> Iterator[Found]:
    """In a recording, a floor position is not turned side-on."""
    if subject.brief.setting is not Setting.RECORDED:
        return
    unseen = [
        item
        for item in subject.moves
        if Base.of(item.move.posture) in (Base.FLOOR, Base.LYING) and item.facing is not Facing.SIDE_ON
    ]
    if unseen:
        yield Found(
            f"The camera does not see {listed(item.name for item in unseen)} from the side.",
            tuple(item.id for item in unseen),
            mend=Mend("Turn side-on", each([item.id for item in unseen], _side_on)),
        )


def _side_on(item: Item) -> Item:
    return replace(item, facing=Facing.SIDE_ON) if isinstance(item, MoveItem) else item


@checked(
    Family.RECORDING,
    "said-to-room",
    Severity.CONSIDER,
    "whether a recording speaks to a room or of a time of day",
    "People watch a recording alone, at any time of day.",
)
def said_to_room(subject: Subject) -> Iterator[Found]:
    """The words of a recording speak to a room or of a time of day."""
    if subject.brief.setting is Setting.RECORDED:
        for item, texts, first in sayings(subject, speaks_to_room):
            name = texts[0].item.name
            yield Found(f"{name} says “{first}” in a recording.", (item,), mend=drop_sentences(texts, speaks_to_room))


@checked(
    Family.RECORDING,
    "said-to-camera",
    Severity.CONSIDER,
    "whether a live class speaks to viewers of a recording",
    "People in the room cannot pause, subscribe or follow a link.",
)
def said_to_camera(subject: Subject) -> Iterator[Found]:
    """The words of a live class speak to viewers of a recording."""
    if subject.brief.setting is Setting.LIVE:
        for item, texts, first in sayings(subject, speaks_to_camera):
            name = texts[0].item.name
            mend = drop_sentences(texts, speaks_to_camera)
            yield Found(f"{name} says “{first}” in a live class.", (item,), mend=mend)


@checked(
    Family.RECORDING,
    "open-recorded",
    Severity.CONSIDER,
    "whether a recording waits for you",
    "An open dose waits for you to move on. A recording moves on when its planned seconds are over.",
)
def open_recorded(subject: Subject) -> Iterator[Found]:
    """A recording has an open dose."""
    if subject.brief.setting is not Setting.RECORDED:
        return
    waits = [item for item in subject.moves if any(isinstance(dose, Open) for dose in item.doses)]
    if waits:
        yield Found(
            f"These wait until you move on: {listed(item.name for item in waits)}.",
            tuple(item.id for item in waits),
            mend=Mend("Hold for the planned seconds", each([item.id for item in waits], _closed)),
        )


def _closed(item: Item) -> Item:
    if not isinstance(item, MoveItem):
        return item
    then = tuple(replace(s, dose=Hold(s.dose.seconds)) if isinstance(s.dose, Open) else s for s in item.then)
    dose = Hold(item.dose.seconds) if isinstance(item.dose, Open) else item.dose
    return replace(item, dose=dose, then=then)


@checked(
    Family.RECORDING,
    "captions-fast",
    Severity.NOTE,
    "whether the captions can be read in time",
    f"People read about {COMFORTABLE} characters a second. Captions stay on into the quiet that follows.",
)
def captions_fast(subject: Subject) -> Iterator[Found]:
    """The words of a recording are spoken faster than people can read their captions."""
    if subject.brief.setting is not Setting.RECORDED:
        return
    fast = hasty(captions(subject.timeline))
    if fast:
        first = " ".join(fast[0].lines)
        segment = next(s for s in subject.timeline.segments if s.start_s * 1000 <= fast[0].start_ms < s.end_s * 1000)
        yield Found(
            f"Too fast to read as captions at {subject.style.words_per_minute} words a minute: {len(fast)} "
            f"{'caption' if len(fast) == 1 else 'captions'}, first “{first}”.",
            (segment.item,),
            segment.id,
            facts=(("captions", len(fast)),),
            mend=Mend("Speak slowly enough to read along", _slowly_enough),
        )


def _slowly_enough(script: Script) -> Script:
    """The class at the highest rate, in steps of five words a minute, at which its captions can be read."""
    for rate in range(script.style.words_per_minute - 1, RATES[0] - 1, -1):
        if rate % RATE_STEP == 0:
            slower = set_style(script, replace(script.style, words_per_minute=rate))
            if not hasty(captions(compile_script(slower))):
                return slower
    raise RefusedError("words_per_minute", "a rate at which every caption can be read", "none: shorten the words")


CHECKS: tuple[Check, ...] = (facing_unseen, said_to_room, said_to_camera, open_recorded, captions_fast)
