"""Checks of what was asked for and is never said, or hardly: waits, scopes of prompts, words in phases, notes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import each, with_time_to_say
from extendum.core.checks.subject import Subject
from extendum.core.model.dose import COUNTED
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.marks import Wait
from extendum.core.model.prompts import Prompt, Scope
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import CueKind
from extendum.core.timing.layout import talk_needs_s
from extendum.core.timing.talking import pieces_of


@checked(
    Family.WORDS,
    "wait-short",
    Severity.CONSIDER,
    "whether the waits of a talk get their seconds",
    "A question needs time for an answer.",
)
def wait_short(subject: Subject) -> Iterator[Found]:
    """A talk's words leave too little silence for its waits."""
    for talk in subject.talks:
        asked_ms = sum(one.ms for one in pieces_of(talk.words) if isinstance(one, Wait))
        if not asked_ms:
            continue
        segments = {segment.id for segment in subject.segments[talk.id]}
        waits = [c for c in subject.timeline.cues if c.segment in segments and c.kind is CueKind.WAIT]
        visits = max(1, len(segments))
        got_ms = sum(cue.end_ms - cue.start_ms for cue in waits) // visits
        spare_s = asked_ms // 1000
        if got_ms < asked_ms:
            needs = talk_needs_s(subject.script, talk.id) + spare_s
            yield Found(
                f"{talk.name} has {got_ms // 1000} s of silence, and its waits need {spare_s} s.",
                (talk.id,),
                facts=(("asked, ms", asked_ms), ("got, ms", got_ms)),
                mend=Mend(f"Give it {needs} s", partial(with_time_to_say, talk_id=talk.id, spare_s=spare_s)),
            )


@checked(
    Family.WORDS,
    "prompt-never",
    Severity.CONSIDER,
    "whether every prompt can be heard",
    "A prompt set for a side or a round that does not exist will never be heard.",
)
def prompt_never(subject: Subject) -> Iterator[Found]:
    """A prompt is set for a side or a round that the class does not have."""
    rounds = {i.id: g.rounds for s in subject.script.sections for g in s.groups for i in g.items}
    for item in subject.moves:
        stages = range(1, len(item.doses) + 1)
        idle = [p for n in stages for p in item.prompts_at(n) if _never(p, item, rounds[item.id])]
        if idle:
            yield Found(
                f"“{idle[0].text}” at {item.name} is for {_NAMED[idle[0].when]}.",
                (item.id,),
                mend=Mend("Say it as usual", each([item.id], partial(_as_usual, rounds=rounds[item.id]))),
            )


_NAMED = {
    Scope.SECOND_SIDE: "the second side, and the move has no sides",
    Scope.ROUND: "a round that never comes",
    Scope.LATER: "later rounds, and its group has only one",
}


def _never(prompt: Prompt, item: MoveItem, rounds: int) -> bool:
    match prompt.when:
        case Scope.SECOND_SIDE:
            return not item.move.sided
        case Scope.ROUND:
            return prompt.in_round > rounds
        case Scope.LATER:
            return rounds < 2
    return False


def _as_usual(item: Item, rounds: int) -> Item:
    if not isinstance(item, MoveItem):
        return item

    def usual(prompts: tuple[Prompt, ...]) -> tuple[Prompt, ...]:
        return tuple(replace(one, when=Scope.USUAL) if _never(one, item, rounds) else one for one in prompts)

    then = tuple(replace(stage, prompts=usual(stage.prompts)) for stage in item.then)
    return replace(item, words=replace(item.words, prompts=usual(item.words.prompts)), then=then)


@checked(
    Family.WORDS,
    "phase-words-long",
    Severity.CONSIDER,
    "whether the words of a phase fit its time",
    "Words for a phase have to end before the next phase begins.",
)
def phase_words_long(subject: Subject) -> Iterator[Found]:
    """Words for a phase of a rep, breath or pulse take longer than the phase."""
    for item in subject.moves:
        lost = [
            one
            for one in subject.timeline.unsaid
            if one.of.item == item.id and one.kind is CueKind.PHASE_WORDS and one.rule == "phase-shorter"
        ]
        if lost:
            dose = item.dose_at(lost[0].of.stage)
            phases = dose.named_phases if isinstance(dose, COUNTED) else ()
            name, ms = phases[lost[0].of.nth % len(phases)]
            yield Found(
                f"“{lost[0].text}” takes longer than {name} of {item.name}, which lasts {ms / 1000:g} s.",
                (item.id,),
                facts=(("phase, ms", ms),),
            )


@checked(
    Family.WORDS,
    "note-late",
    Severity.CONSIDER,
    "whether all your own notes appear",
    "A note set later than the end of its move never appears.",
)
def note_late(subject: Subject) -> Iterator[Found]:
    """One of your notes is set later than the end of its move."""
    for item in subject.items:
        lost = [u for u in subject.timeline.unsaid if u.of.item == item.id and u.kind is CueKind.NOTE]
        if lost and isinstance(item, MoveItem | Talk):
            after_s = item.notes[lost[0].of.nth].after_s
            yield Found(
                f"Your note “{lost[0].text}” is set {after_s} s into {item.name}, which is over by then.",
                (item.id,),
                facts=(("after, s", after_s),),
                mend=Mend(
                    "Show it as the work begins", each([item.id], partial(_in_time, lost={u.of.nth for u in lost}))
                ),
            )


def _in_time(item: Item, lost: set[int]) -> Item:
    if not isinstance(item, MoveItem | Talk):
        return item
    return replace(item, notes=tuple(replace(n, after_s=0) if i in lost else n for i, n in enumerate(item.notes)))


CHECKS: tuple[Check, ...] = (wait_short, prompt_never, phase_words_long, note_late)
