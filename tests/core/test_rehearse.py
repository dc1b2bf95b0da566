"""Rehearsing: the same order with its work cut short, and what the measured times teach."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.edit.script_edits import remove_item
from extendum.core.model.errors import RefusedError
from extendum.core.model.timeline import Mode, SegmentKind
from extendum.core.model.voice import Speech
from extendum.core.run.fold import fold
from extendum.core.run.learned import Taught, learn, lessons
from extendum.core.run.log import cut_short, spent
from extendum.core.run.rehearse import SHORT_S, rehearsal_steps, rehearsed, segment_of, took
from extendum.core.run.state import Event
from extendum.core.timing.compile import compile_script
from extendum.core.timing.speech import speaking_ms
from extendum.formats.document import loads
from tests.strategies import scripts

DIGGING = loads((Path(__file__).parents[2] / "src/extendum/data/demo" / "after-digging.json").read_bytes())


def played(steps, ms_of):
    """Events of a rehearsal in which each step that waits is gone on from after so many milliseconds."""
    at, events = 0, [Event("s", 0, "start")]
    for n, step in enumerate(steps):
        at += ms_of(step) if step.waits else step.ms
        if step.waits:
            events.append(Event(f"e{n}", at, "end-now"))
    return events, at


@settings(max_examples=28)
@given(scripts(), st.integers(1, 40))
def test_a_rehearsal_is_the_class_in_the_same_order_and_measures_what_was_taken(script, more_s):
    timeline = compile_script(script)
    short = rehearsed(timeline)
    assert list(dict.fromkeys(segment_of(s.id) for s in short.segments)) == [s.id for s in timeline.segments]
    assert [s.start_s for s in short.segments] == [0, *(s.end_s for s in short.segments)][:-1]
    assert len({s.id for s in short.segments}) == len(short.segments)
    steps = rehearsal_steps(script, short)
    assert all(step.waits or step.ms <= SHORT_S * 1000 for step in steps)
    kept = {cue.text for cue in short.cues if cue.mode is Mode.SPOKEN}
    works = {s.id for s in timeline.segments if s.kind.works}
    assert all(c.text in kept for c in timeline.cues if c.mode is Mode.SPOKEN and c.segment not in works)
    events, _ = played(steps, lambda step: step.ms + more_s * 1000)
    run = fold(steps, events)
    assert run.ended == bool(steps) or not steps[-1].waits
    parts = {}
    for step in steps:
        parts[segment_of(step.id)] = parts.get(segment_of(step.id), 0) + step.waits
    planned = {s.id: s.seconds for s in timeline.segments}
    measured = took(run)
    assert measured == {
        name: (planned[name] + more_s * n) * 1000 for name, n in parts.items() if n and name in measured
    }
    assert set(measured) >= {name for name, n in parts.items() if n} - {segment_of(steps[-1].id) if steps else ""}


def said_exactly(script, timeline, rate, way_more_s=0):
    """What a teacher takes who speaks at a rate and whose ways last so much longer."""
    said = {}
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN:
            said[cue.segment] = said.get(cue.segment, 0) + speaking_ms(cue.text, Speech(rate))
    ways = {s.id for s in timeline.segments if s.kind in (SegmentKind.TRANSITION, SegmentKind.SWITCH)}
    return {
        s.id: (s.seconds + way_more_s) * 1000 if s.id in ways else said[s.id]
        for s in timeline.segments
        if not s.kind.works and (s.id in ways or s.id in said)
    }


def test_who_takes_what_the_script_says_learns_nothing():
    timeline = compile_script(DIGGING)
    assert lessons(DIGGING, timeline, said_exactly(DIGGING, timeline, 165)) == []


@pytest.mark.parametrize("rate", [120, 150, 200])
def test_the_rate_is_found_from_what_is_only_words(rate):
    timeline = compile_script(DIGGING)
    (first, *_) = lessons(DIGGING, timeline, said_exactly(DIGGING, timeline, rate))
    assert (first.what, first.said) == (Taught.RATE, 165)
    assert abs(first.real - rate) <= 1
    assert learn(DIGGING, [first]).style.words_per_minute == first.real


def test_ways_that_take_longer_are_set_and_then_take_what_they_took():
    timeline = compile_script(DIGGING)
    found = lessons(DIGGING, timeline, said_exactly(DIGGING, timeline, 165, way_more_s=5))
    assert {lesson.what for lesson in found} == {Taught.WAY, Taught.SWITCH}
    assert "Getting to Wall calf stretch took 13 s and the script has 8 s: use 13 s." in [
        lesson.words for lesson in found
    ]
    learnt = learn(DIGGING, found)
    after = compile_script(learnt)
    ways = [s for s in timeline.segments if s.kind in (SegmentKind.TRANSITION, SegmentKind.SWITCH)]
    assert after.length_s == timeline.length_s + 5 * len(ways)
    assert "as you set it" in next(s.reason for s in after.segments if s.kind is SegmentKind.TRANSITION)
    assert lessons(learnt, after, said_exactly(learnt, after, 165)) == []


def test_a_talk_that_takes_longer_is_wanted_so_long_and_a_shorter_one_is_not_told():
    timeline = compile_script(DIGGING)
    talk = [s for s in timeline.segments if s.kind is SegmentKind.TALK][-1]
    (lesson,) = lessons(DIGGING, timeline, {talk.id: 17_400})
    assert lesson.words == f"Goodbye took 18 s and the script has {talk.seconds} s: use 18 s."
    assert learn(DIGGING, [lesson]).item(talk.item).quantity.wanted == 18
    assert lessons(DIGGING, timeline, {talk.id: 5000}) == []
    with pytest.raises(RefusedError):
        learn(remove_item(DIGGING, talk.item), [lesson])


def test_what_was_left_for_somewhere_else_is_not_measured():
    short = rehearsed(compile_script(DIGGING))
    steps = rehearsal_steps(DIGGING, short)
    way = next(n for n, step in enumerate(steps) if step.waits and step.group != steps[0].group)
    events, _ = played(steps[:way], lambda step: 2000)
    last = events[-1].at + 700
    skipped = [*events, Event("x", last, "skip"), Event("y", last + 500, "end")]
    left = cut_short(steps, skipped)
    assert steps[way].id in left
    assert segment_of(steps[way].id) not in took(fold(steps, skipped), left)
    assert segment_of(steps[0].id) in took(fold(steps, skipped), left)
    paused = [*events, Event("p", last, "pause"), Event("r", last + 60_000, "resume")]
    on = spent(fold(steps, [*paused, Event("e", last + 61_000, "end-now")]))[steps[way].id]
    assert (on.on, on.paused, on.whole) == (1700, 60_000, 61_700)
