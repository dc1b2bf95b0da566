"""What was measured against what the script says: how fast the teacher speaks, how long ways and talks really take.

A rehearsal measures words and ways one by one (`rehearse.took`), a class in front of people the whole way into a pass.

Each lesson is one edit with its reason in one sentence; nothing is changed without being asked.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from statistics import median

from extendum.core.edit.dose_edits import set_quantity
from extendum.core.edit.script_edits import set_move_item, set_style, set_target
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.section import Group
from extendum.core.model.style import RATES
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Mode, Segment, SegmentKind, Timeline, clock
from extendum.core.run.log import Spent, spent
from extendum.core.run.state import Run
from extendum.core.run.steps import pass_of
from extendum.core.timing.speech import SENTENCE_MS, ceil_s, sentences, word_count

#: A rate is judged by at least so many words, and told when it is off by so many percent.
WORDS_LEAST, RATE_PERCENT = 40, 5
#: A class usually ends late when it did so at least so often, by at least so many seconds in the middle.
OFTEN, LATE_S = 3, 20
#: A way or a talk is told when it is off by so many seconds.
WAY_S, TALK_S = 2, 3


class Taught(StrEnum):
    """What a lesson sets."""

    RATE = "rate"
    WAY = "way"
    SWITCH = "switch"
    TURN = "turn"
    TALK = "talk"
    TARGET = "target"


@dataclass(frozen=True, slots=True)
class Lesson:
    """What to set, of which item, from what to what (words a minute, or seconds), and why."""

    what: Taught
    item: str
    said: int
    real: int
    words: str

    @property
    def key(self) -> str:
        """What it is known by."""
        return f"{self.what}:{self.item}"

    @property
    def sure(self) -> bool:
        """Whether it is likely as it is: what took less than half may have been pressed on too early."""
        return self.real * 2 >= self.said


def lessons(script: Script, timeline: Timeline, took: Mapping[str, int]) -> list[Lesson]:
    """What the measured milliseconds by segment teach: the rate first, then what is furthest off."""
    measured = [(segment, took[segment.id]) for segment in timeline.segments if segment.id in took]
    times = [*_ways(script, measured), *_talks(script, measured)]
    return [*_rate(script, timeline, measured), *sorted(times, key=lambda one: -abs(one.real - one.said))]


def learn(script: Script, some: Iterable[Lesson]) -> Script:
    """The script with what was learnt; RefusedError when an item is not there any more."""
    for lesson in some:
        match lesson.what:
            case Taught.RATE:
                script = set_style(script, replace(script.style, words_per_minute=lesson.real))
            case Taught.WAY:
                script = set_move_item(script, lesson.item, way_s=lesson.real)
            case Taught.SWITCH:
                script = set_move_item(script, lesson.item, switch_s=lesson.real)
            case Taught.TURN:
                script = set_move_item(script, lesson.item, turn_s=lesson.real)
            case Taught.TARGET:
                script = set_target(script, lesson.real)
            case Taught.TALK:
                talk = script.item(lesson.item)
                script = set_quantity(script, lesson.item, talk.quantity.wanting(lesson.real))
    return script


Measured = list[tuple[Segment, int]]
_SPEECH = frozenset(
    {SegmentKind.SETUP, SegmentKind.TALK, SegmentKind.CHECK_IN, SegmentKind.NOTICE, SegmentKind.RECHECK}
)


def _rate(script: Script, timeline: Timeline, measured: Measured) -> Iterator[Lesson]:
    """From segments that are nothing but words: while bodies move, a press may wait for the last of them."""
    said: dict[str, list[str]] = {}
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN:
            said.setdefault(cue.segment, []).append(cue.text)
    spoken = [(said[segment.id], ms) for segment, ms in measured if segment.kind in _SPEECH and segment.id in said]
    words = sum(word_count(text) for texts, _ in spoken for text in texts)
    speaking = sum(ms - SENTENCE_MS * sum(len(sentences(text)) for text in texts) for texts, ms in spoken)
    if words < WORDS_LEAST or speaking <= 0:
        return
    before, real = script.style.words_per_minute, round(words * 60_000 / speaking)
    if RATES[0] <= real <= RATES[1] and abs(real - before) * 100 >= RATE_PERCENT * before:
        seconds = round(sum(ms for _, ms in spoken) / 1000)
        told = f"You spoke {real} words a minute ({words} words in {seconds} s). The script has {before}: use {real}."
        yield Lesson(Taught.RATE, "", before, real, told)


def _ways(script: Script, measured: Measured) -> Iterator[Lesson]:
    cadence = {item.id for group in _groups(script) for item in group.items if group.cadence_s}
    for item in script.moves():
        here = [(segment, ms) for segment, ms in measured if segment.item == item.id and item.id not in cadence]
        first = [one for one in here if one[0].kind is SegmentKind.TRANSITION and _is_first(one[0])]
        switches = [one for one in here if one[0].kind is SegmentKind.SWITCH]
        turns = [one for one in here if one[0].kind is SegmentKind.TURN]
        yield from _way(item, Taught.TURN, f"Changing direction in {item.name}", turns)
        yield from _way(item, Taught.WAY, f"Getting to {item.name}", first)
        yield from _way(item, Taught.SWITCH, f"Changing sides in {item.name}", switches)


def _is_first(segment: Segment) -> bool:
    return (segment.pass_number, segment.round) == (1, 1)


def _way(item: MoveItem, what: Taught, told: str, some: Measured) -> Iterator[Lesson]:
    """Longer than the script says; or shorter, where nothing but the way made it so long."""
    if not some:
        return
    said, real = max(segment.seconds for segment, _ in some), ceil_s(round(median(ms for _, ms in some)))
    bound = all(segment.way_s == segment.seconds for segment, _ in some)
    if real - said >= WAY_S or (bound and real and said - real >= WAY_S):
        yield Lesson(what, item.id, said, real, f"{told} took {real} s and the script has {said} s: use {real} s.")


def _talks(script: Script, measured: Measured) -> Iterator[Lesson]:
    """Talks that took longer; a shorter one may have left out what the class answers."""
    real = {segment.item: ms for segment, ms in measured}
    for item in script.items():
        if not isinstance(item, Talk) or item.id not in real:
            continue
        seconds, said = ceil_s(real[item.id]), item.quantity.value
        if seconds - said >= TALK_S:
            yield Lesson(
                Taught.TALK,
                item.id,
                said,
                seconds,
                f"{item.name} took {seconds} s and the script has {said} s: use {seconds} s.",
            )


def _groups(script: Script) -> Iterator[Group]:
    return (group for section in script.sections for group in section.groups)


_WAYS_IN = frozenset({SegmentKind.TRANSITION, SegmentKind.SWITCH})


def ways_taken(timeline: Timeline, run: Run, left: frozenset[str]) -> dict[str, int]:
    """What each way took in front of people, in milliseconds by its segment, pauses on it included.

    All that comes before the work of a pass counts: when people are in, the rest of the words is not waited for.
    """
    happened, passes = spent(run), dict[str, list[Segment]]()
    for segment in timeline.segments:
        passes.setdefault(pass_of(segment), []).append(segment)
    found: dict[str, int] = {}
    for some in passes.values():
        before = some[: next((n for n, one in enumerate(some) if one.kind.works), 0)]
        way = next((one for one in before if one.kind in _WAYS_IN), None)
        if way is None or any(one.id in left for one in before) or not happened.get(some[len(before)].id, Spent()).on:
            continue
        real = sum(happened.get(one.id, Spent()).whole for one in before)
        found[way.id] = max(0, way.seconds * 1000 + real - sum(one.seconds * 1000 for one in before))
    return found


def together(some: Iterable[Mapping[str, int]]) -> dict[str, int]:
    """What several runs took, segment by segment: the middle of them."""
    every: dict[str, list[int]] = {}
    for took in some:
        for name, ms in took.items():
            every.setdefault(name, []).append(ms)
    return {name: round(median(times)) for name, times in every.items()}


def usually_late(script: Script, offs_s: Sequence[int]) -> Lesson | None:
    """The offer to plan for less time where a class usually ends late; ``offs_s``: seconds over, of each run."""
    if len(offs_s) < OFTEN or sum(off > 0 for off in offs_s) < OFTEN:
        return None
    late, target = round(median(offs_s)), script.brief.target_s
    if late < LATE_S or late >= target:
        return None
    told = f"This class usually runs {late} s over (median of {len(offs_s)} times): fit it to {clock(target - late)}."
    return Lesson(Taught.TARGET, "", target, target - late, told)
