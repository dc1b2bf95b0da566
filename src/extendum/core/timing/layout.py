"""Every step of a class in its place, with what was true before it, its facts and its parts; how long it all lasts."""

from __future__ import annotations

from typing import NamedTuple

from extendum.core.model.body import Base, Posture, Side, Stance
from extendum.core.model.script import Script
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import SegmentKind
from extendum.core.model.ways import origin_of
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.durations import Facts, line_unsaid, pass_s, still_s
from extendum.core.timing.facts import (
    facts_along,
    pass_facts,
    says_minutes,
    shared_facts,
    side_facts,
    sides_told,
    whole_minutes,
)
from extendum.core.timing.parts import Part, pass_parts, still_parts
from extendum.core.timing.sequence import Pass, Step, Still, sequence
from extendum.core.timing.speech import ceil_s
from extendum.core.timing.talking import talk_ms
from extendum.core.timing.way import Situation, situation_after

_MINUTE_ROUNDS = 4


class Laid(NamedTuple):
    """A step with what was true before it, its facts (of a pass all that its words may say), and its parts."""

    step: Step
    before: Situation
    facts: Facts
    parts: tuple[Part, ...]


def start_situation(script: Script) -> Situation:
    """Bodies and hands at the start of the class."""
    return Situation(Stance(script.start_posture))


def lay_out(script: Script, minutes: int | None = None) -> list[Laid]:
    """Every step with its parts.

    {minutes} may be spoken in a set-up and so change what it counts: laid out again until it is true,
    unless the minutes are given.
    """
    script = as_taught(script)
    steps = sequence(script)
    asked = whole_minutes(script.brief.target_s) if minutes is None else minutes
    for _ in range(_MINUTE_ROUNDS):
        laid, before = [], start_situation(script)
        for step, facts in zip(steps, facts_along(steps, shared_facts(script, asked)), strict=True):
            if isinstance(step, Still):
                facts = {**facts, **sides_told(step.side, step.lead, script.style)}
                parts = still_parts(step, before, script.style, facts)
            else:
                facts = pass_facts(step, script.style, facts)
                parts = pass_parts(step, before, script.style, facts)
            laid.append(Laid(step, before, facts, tuple(parts)))
            before = situation_after(step, before)
        true = whole_minutes(sum(part.seconds for one in laid for part in one.parts))
        if minutes is not None or true == asked or not says_minutes(script):
            break
        asked = true
    return laid


def talk_needs_s(script: Script, item_id: str) -> int:
    """Whole seconds that a talk needs for all its words, in the round where they last longest; 0 for any other item."""
    own = ((one.step.item, one.facts) for one in lay_out(script) if one.step.item.id == item_id)
    return ceil_s(max((talk_ms(t, facts, script.style) for t, facts in own if isinstance(t, Talk)), default=0))


class WayTold(NamedTuple):
    """The words for the way to another support into an item: from where, the posture, and the words."""

    before: Base
    posture: Posture
    words: str
    later: bool = False  # needed where the item comes again, and not the first time

    @property
    def origin(self) -> str:
        """Where the class comes from, as a sentence names it."""
        return origin_of(self.before)


def ways_told(script: Script) -> dict[str, WayTold]:
    """The first such words of each item whose own words do not send people there, said or kept quiet, by its id."""
    found: dict[str, WayTold] = {}
    for one in lay_out(script):
        if isinstance(one.step, Pass) and one.step.item.id not in found:
            words = line_unsaid(one.step, one.before, script.style)
            if words:
                before, posture = Base.of(one.before.stance.posture), one.step.item.move.posture
                later = (one.step.round, one.step.number) > (1, 1)
                found[one.step.item.id] = WayTold(before, posture, words, later)
    return found


def length_of(script: Script) -> int:
    """Whole seconds that the class lasts."""
    if says_minutes(script):  # what is said of its length may change it
        return sum(part.seconds for one in lay_out(script) for part in one.parts)
    script = as_taught(script)
    steps, before, total = sequence(script), start_situation(script), 0
    shared = shared_facts(script, whole_minutes(script.brief.target_s))
    for step, facts in zip(steps, facts_along(steps, shared), strict=True):
        total += step_s(step, before, script.style, facts)
        before = situation_after(step, before)
    return total


def step_s(step: Step, before: Situation, style: CueStyle, facts: Facts) -> int:
    """Whole seconds of a step."""
    if isinstance(step, Still):
        return still_s(step, before)
    said = step.item.said()
    told = side_facts if said.isdisjoint({"count", "seconds"}) else pass_facts
    return pass_s(step, before, style, told(step, style, facts) if said else {})


class Outline(NamedTuple):
    """A stretch of the main lane without its cues: what it is, whose, on which side, and when."""

    kind: SegmentKind
    item: str
    side: Side | None
    start_s: int
    end_s: int


def outline(script: Script) -> list[Outline]:
    """Where everything lies, quickly: enough to draw what a class would become."""
    found, at = [], 0
    for one in lay_out(script):
        side = one.step.side if isinstance(one.step, Pass) else None
        for part in one.parts:
            found.append(Outline(part.kind, one.step.item.id, part.side or side, at, at + part.seconds))
            at += part.seconds
    return found
