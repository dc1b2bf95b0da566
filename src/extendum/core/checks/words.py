"""Words: whether they fit their time, leave quiet, and are not said too often."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import cautions, each, listed, with_time_to_say
from extendum.core.checks.subject import Subject
from extendum.core.edit.script_edits import set_group
from extendum.core.listening.reminding import reminder
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.prompts import PromptKind
from extendum.core.model.script import Script
from extendum.core.model.section import LONGEST_CADENCE_S, Group
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Cue, Mode, Segment, SegmentKind
from extendum.core.outputs.wording import REMINDERS_MOST, THERE_MOST_S, repeated
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import talk_needs_s
from extendum.core.timing.speech import ceil_s

#: Words on the way that last this much longer than the way make people wait.
PUSHED_S = 4
#: A hold of at least so long has a quiet of at least so long somewhere in it.
QUIET_HOLD_S, QUIET_S = 20, 3
#: A reminder no longer than this is named on the button that thins it out.
NAMED_LETTERS = 40
#: More spoken than this leaves little class to feel anything: classes that are taught run near 40 %, and wordy ones
#: near 60 %.
TALK_MOST_PERCENT = 70
_WAYS = (SegmentKind.TRANSITION, SegmentKind.SWITCH, SegmentKind.TURN)


@checked(
    Family.WORDS,
    "words-push",
    Severity.CONSIDER,
    "whether the cue for moving is longer than the move into position",
    "People who are already in position stand and wait, and the stretch loses the time.",
)
def words_push(subject: Subject) -> Iterator[Found]:
    """A cue is longer than the move into position."""
    pushed: dict[str, int] = {}
    first = ""
    for item in subject.moves:
        for segment in subject.segments[item.id]:
            if segment.way_s and segment.kind in _WAYS:
                said = subject.cues.get(segment.id)
                over = -(-(said[-1].end_ms - segment.start_s * 1000) // 1000) - segment.way_s if said else 0
                if over >= PUSHED_S and segment.seconds > segment.way_s:
                    pushed[item.id] = max(over, pushed.get(item.id, 0))
                    first = first or segment.id
    if pushed:
        most = max(pushed.values())
        names = listed(item.name for item in subject.moves if item.id in pushed)
        yield Found(
            f"The cue is longer than the move into position, by up to {most} s: {names}.",
            tuple(pushed),
            first,
            facts=(("seconds", most),),
        )


@checked(
    Family.WORDS,
    "talk-overruns",
    Severity.FIX,
    "whether the words of a talk fit its time",
    "Speaking time is the words at the class's rate plus a pause for each sentence. What does not fit stays unsaid.",
)
def talk_overruns(subject: Subject) -> Iterator[Found]:
    """A talk has more words than its time allows."""
    for talk, lost in _overrun(subject):
        needs = talk_needs_s(subject.script, talk.id)
        if talk.quantity.wanted < needs:
            has = talk.quantity.value
            beyond = needs > talk.quantity.most and not talk.quantity.locked
            more = f" A fit will give it {needs} s, over its limit of {talk.quantity.most} s." if beyond else ""
            yield Found(
                f"{talk.name} lasts {has} s and its words need {needs} s, so “{lost}” stays unsaid.{more}",
                (talk.id,),
                facts=(("seconds", has), ("needed", needs)),
                mend=Mend(f"Give it {needs} s", partial(with_time_to_say, talk_id=talk.id)),
            )


@checked(
    Family.WORDS,
    "there-long",
    Severity.CONSIDER,
    f"whether the words once people are there last more than {THERE_MOST_S} s before the work begins",
    "People hold the position while you speak, and are tired before you start to count. Say the rest on the way there, "
    "or in the hold.",
)
def there_long(subject: Subject) -> Iterator[Found]:
    """The words once people are there last longer than anybody should wait in position."""
    for item in subject.moves:
        ways = [one for one in subject.segments[item.id] if one.kind is SegmentKind.SETUP]
        longest = max(ways, key=lambda one: one.seconds, default=None)
        if longest is not None and longest.seconds > THERE_MOST_S:
            yield Found(
                f"People are in position for {longest.seconds} s of words before {item.name} begins.",
                (item.id,),
                longest.id,
                facts=(("seconds", longest.seconds), ("most", THERE_MOST_S)),
            )


def _overrun(subject: Subject) -> Iterator[tuple[Talk, str]]:
    """The talks that have not the time for their words, each with the first sentence that stays unsaid."""
    unsaid = [one for one in subject.timeline.unsaid if one.rule == "talk-overrun"]
    for talk in subject.talks:
        lost = next((one.text for one in unsaid if one.of.item == talk.id), None)
        if lost is not None:
            yield talk, lost


@checked(
    Family.WORDS,
    "talk-cut",
    Severity.FIX,
    "whether a fit has cut a talk below its words",
    "A talk that was long enough and is shortened to fit a class loses its last sentences.",
)
def talk_cut(subject: Subject) -> Iterator[Found]:
    """A fit has made a talk shorter than its words."""
    for talk, lost in _overrun(subject):
        has, needs = talk.quantity.value, talk_needs_s(subject.script, talk.id)
        if talk.quantity.wanted >= needs:
            yield Found(
                f"The fit cut {talk.name} to {has} s, and its words need {needs} s, so “{lost}” stays unsaid.",
                (talk.id,),
                facts=(("seconds", has), ("needed", needs)),
                mend=Mend(f"Never less than {needs} s", partial(with_time_to_say, talk_id=talk.id)),
            )


@checked(
    Family.WORDS,
    "meanwhile-cut",
    Severity.FIX,
    "whether what is said meanwhile finds room between the cues",
    "A meanwhile takes no time of its own: its sentences go into the gaps that the moves leave.",
)
def meanwhile_cut(subject: Subject) -> Iterator[Found]:
    """Something that is to be said meanwhile finds no room."""
    for under in subject.script.meanwhiles:
        lost = [one.text for one in subject.timeline.unsaid if one.of.item == under.id]
        if lost and subject.script.item(under.from_item).present:
            more = f", and {len(lost) - 1} more" if len(lost) > 1 else ""
            yield Found(f"{under.name}: “{lost[0]}” finds no room{more}.", (under.from_item,))


@checked(
    Family.WORDS,
    "cadence-short",
    Severity.FIX,
    "whether a group's cadence leaves time for the moves and the words",
    "Between two passes people need time to get into position and to hear how.",
)
def cadence_short(subject: Subject) -> Iterator[Found]:
    """A fixed cadence leaves too little time to move or to speak."""
    unsaid = Counter(one.of.item for one in subject.timeline.unsaid if one.rule == "cadence-short")
    for group in (group for section in subject.script.sections for group in section.groups if group.cadence_s):
        needs = {}
        for item in (one for one in group.items if isinstance(one, MoveItem) and one.present):
            ways = [s for s in subject.segments[item.id] if s.kind in _WAYS]
            if unsaid[item.id] or any(s.way_s > s.seconds for s in ways):
                settle_s = subject.style.settle_s if item.dose.settles else 0
                needs[item] = settle_s + max(max(s.way_s, ceil_s(s.words_ms)) for s in ways)
        if needs:
            yield _too_short(group, needs, sum(unsaid[item.id] for item in needs))


def _too_short(group: Group, needs: dict[MoveItem, int], lost: int) -> Found:
    """A cadence that is too short for these moves; each needs so many seconds."""
    most = max(group.cadence_s, *needs.values())
    cost = f": {lost} times a sentence stays unsaid" if lost else " to get there"
    change = partial(set_group, group_id=group.id, cadence_s=most)
    return Found(
        f"A cadence of {group.cadence_s} s is too short for {listed(item.name for item in needs)}{cost}.",
        tuple(item.id for item in needs),
        facts=(("cadence", group.cadence_s), ("needed", most)),
        mend=Mend(f"Make it {most} s", change) if group.cadence_s < most <= LONGEST_CADENCE_S else None,
    )


@checked(
    Family.WORDS,
    "no-quiet",
    Severity.CONSIDER,
    "whether each hold has some quiet",
    "People feel a stretch best in quiet.",
)
def no_quiet(subject: Subject) -> Iterator[Found]:
    """A hold has no quiet in it."""
    loud: dict[str, Segment] = {}
    for item in subject.moves:
        for segment in subject.work[item.id]:
            holds = segment.kind is SegmentKind.HOLD and segment.seconds >= QUIET_HOLD_S
            if holds and _quiet_ms(segment, subject.cues.get(segment.id, [])) < QUIET_S * 1000:
                loud.setdefault(item.id, segment)
    if loud:
        names = listed(item.name for item in subject.moves if item.id in loud)
        yield Found(
            f"No hold of {names} has {QUIET_S} s without words.",
            tuple(loud),
            next(iter(loud.values())).id,
            mend=Mend("Say less in them", _quieter),
        )


def _quieter(script: Script) -> Script:
    """The script with prompts taken out of the holds that have no quiet, one of each at a time until they have."""
    while True:
        subject = Subject(script, compile_script(script))
        quieter = each([item for found in no_quiet.find(subject) for item in found.items], _saying_less)(script)
        if quieter == script:
            return script
        script = quieter


def _saying_less(item: Item) -> Item:
    """A move without its least important prompt; cautions and the easier option stay."""
    if not isinstance(item, MoveItem):
        return item
    others = [p for p in item.words.prompts if p.kind not in (PromptKind.CAUTION, PromptKind.EASIER)]
    least = max(others, key=lambda prompt: prompt.priority, default=None)
    prompts = tuple(prompt for prompt in item.words.prompts if prompt is not least)
    return replace(item, words=replace(item.words, prompts=prompts))


def _quiet_ms(segment: Segment, cues: list[Cue]) -> int:
    at, longest = segment.start_s * 1000, 0
    for cue in cues:
        if cue.mode is Mode.SPOKEN:
            longest, at = max(longest, cue.start_ms - at), max(at, cue.end_ms)
    return max(longest, segment.end_s * 1000 - at)


@checked(
    Family.WORDS,
    "talk-fills",
    Severity.CONSIDER,
    "how much of the class is spoken",
    "This is spoken time over total time. Most classes that are taught run near 40 %, and wordy ones near 60 %.",
)
def talk_fills(subject: Subject) -> Iterator[Found]:
    """Words fill nearly the whole class."""
    spoken = sum(cue.end_ms - cue.start_ms for cue in subject.timeline.cues if cue.mode is Mode.SPOKEN)
    percent = round(spoken / (10 * subject.timeline.length_s)) if subject.timeline.length_s else 0
    if percent > TALK_MOST_PERCENT:
        yield Found(f"Words fill {percent} % of the class.", facts=(("percent", percent),))


@checked(
    Family.WORDS,
    "reminder-often",
    Severity.CONSIDER,
    f"whether the same reminder is said more than {REMINDERS_MOST} times, or in one wording or another at more than "
    f"{REMINDERS_MOST} moves",
    "What is said ten times is heard twice.",
)
def reminder_often(subject: Subject) -> Iterator[Found]:
    """The same reminder is said again and again."""
    found = repeated(subject.timeline)
    if not found:
        return
    most = found[0]
    key = reminder(most.text)
    items = [i for i in subject.moves if any(reminder(p.text) == key for p in i.words.prompts)]
    kept = 2 if len(items) > 2 else 1
    less = [item.id for item in items[kept:] if _without(item, key) != item]
    more = f", and {len(found) - 1} others too often" if len(found) > 1 else ""
    said = f"is said {most.times} times" if most.alike else f"is said at {most.times} moves, in one wording or another"
    named = f"“{most.text.rstrip('.')}”" if len(most.text) <= NAMED_LETTERS else "it"
    yield Found(
        f"“{most.text}” {said}{more}.",
        tuple(item.id for item in items),
        facts=(("times", most.times),),
        mend=Mend(
            f"Keep {named} in the first {'two moves' if kept == 2 else 'move'}", each(less, partial(_without, key=key))
        )
        if less
        else None,
    )


def _without(item: Item, key: str) -> Item:
    """A move without the reminders that say this; what is a caution stays."""
    if not isinstance(item, MoveItem):
        return item
    stay = (PromptKind.CAUTION, PromptKind.EASIER)
    prompts = tuple(p for p in item.words.prompts if reminder(p.text) != key or p.kind in stay or cautions(p.text))
    return replace(item, words=replace(item.words, prompts=prompts))


CHECKS: tuple[Check, ...] = (
    *(words_push, there_long, talk_overruns, talk_cut, meanwhile_cut, cadence_short),
    *(no_quiet, talk_fills, reminder_often),
)
