"""A recording: what is kept is a whole class once more, in the file's order, its words where they were said."""

import re
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.model.timeline import Mode
from extendum.core.run.fold import fold
from extendum.core.run.state import Event, advance
from extendum.core.run.steps import steps_of
from extendum.core.run.takes import filmed, marks, takes
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.edit_list import RATES, edit_list
from tests.core.test_run import happenings

DIGGING = loads((Path(__file__).parents[2] / "src/extendum/data/demo" / "after-digging.json").read_bytes())
TIMELINE = compile_script(DIGGING)
STEPS = steps_of(DIGGING, TIMELINE)
HOLD = next(step for step in STEPS if step.works and step.partner)


def begins(step):
    return sum(one.ms for one in STEPS[: STEPS.index(step)])


def recorded(*events):
    """A whole recording with (milliseconds, kind) done in it."""
    told = [Event("s", 0, "start"), *(Event(f"e{n}", at, kind) for n, (at, kind) in enumerate(events))]
    run = advance(fold(STEPS, told), 10**7)
    return run, told, takes(run, told)


def spoken(timeline):
    return [cue for cue in timeline.cues if cue.mode is Mode.SPOKEN]


def test_one_go_is_the_timeline_itself():
    run, _, found = recorded()
    assert all(take.kept and take.whole and take.number == 1 for take in found)
    for cut in (False, True):
        film = filmed(TIMELINE, run, found, cut=cut)
        assert film.length_s == TIMELINE.length_s
        assert [(c.start_ms, c.text) for c in spoken(film)] == [(c.start_ms, c.text) for c in spoken(TIMELINE)]


def test_words_follow_the_take_that_was_kept():
    slip = begins(HOLD) + 12_000
    run, _, found = recorded((slip, "retake"))
    again = [take for take in found if take.group == HOLD.group]
    assert [(take.number, take.whole, take.kept) for take in again] == [(1, False, False), (2, True, True)]
    item_begins = sum(step.ms for step in STEPS[: next(n for n, s in enumerate(STEPS) if s.item == HOLD.item)])
    late = slip - item_begins  # what was done twice
    for cut, shift in ((False, late), (True, 0)):
        film = filmed(TIMELINE, run, found, cut=cut)
        assert film.length_s == TIMELINE.length_s + shift // 1000
        before = [c for c in spoken(TIMELINE) if c.start_ms < item_begins]
        after = [c for c in spoken(TIMELINE) if c.start_ms >= item_begins]
        told = [(c.start_ms, c.text) for c in spoken(film)]
        assert told == [(c.start_ms, c.text) for c in before] + [(c.start_ms + shift, c.text) for c in after]


def test_a_second_side_taken_again_keeps_the_first_sides_take():
    second = next(step for step in STEPS if step.id == HOLD.partner)
    _, _, found = recorded((begins(second) + 5000, "repeat"))
    kept = [(take.side, take.number) for take in found if take.item == HOLD.item and take.kept]
    assert kept == [("left", 1), ("right", 2)]


def test_a_take_that_was_left_is_kept_only_where_there_is_no_whole_one():
    _, _, found = recorded((begins(HOLD) + 3000, "back"), (begins(HOLD) + 4000, "skip"))
    (one, other) = [take for take in found if take.group == HOLD.group]
    assert (one.kept, other.kept) == (False, True)
    after_whole = begins(HOLD) + HOLD.ms + 3500
    run, told, _ = recorded((after_whole + 60_000, "mark"), (begins(HOLD) + HOLD.ms + 60_000, "pause"))
    assert marks(run, told)[0].at_ms == after_whole + 60_000
    assert marks(run, told)[0].words == "insert shot"


@settings(max_examples=32)
@given(happenings(steps=STEPS[:24], most=16))
def test_of_each_pass_one_take_is_kept_and_they_lie_in_the_file_in_order(events):
    run = fold(STEPS, events)
    found = takes(run, events)
    kept = [take for take in found if take.kept]
    assert len({take.group for take in kept}) == len(kept)
    assert {take.group for take in kept} == {take.group for take in found}
    for one, other in pairwise(found):
        assert one.start_ms < one.end_ms <= other.start_ms
    for cut in (False, True):
        film = filmed(TIMELINE, run, found, cut=cut)
        for one, other in pairwise(film.segments):
            assert one.end_s <= other.start_s
        assert all(0 <= cue.start_ms <= film.length_s * 1000 for cue in film.cues)
    whole = filmed(TIMELINE, run, found, cut=True)
    assert whole.length_s == -(-sum(take.end_ms - take.start_ms for take in kept) // 1000)


@pytest.mark.parametrize(("kind", "pieces"), [("swap", 2), ("repeat", 2), ("rewind", 2), ("mark", 1), ("longer", 1)])
def test_another_take_begins_after_a_jump_and_at_nothing_else(kind, pieces):
    _, _, found = recorded((begins(HOLD) + 5000, kind))
    assert len([take for take in found if take.group == HOLD.group]) == pieces


def test_another_take_is_kept_where_it_is_chosen_and_a_deleted_one_is_gone():
    slip = begins(HOLD) + 12_000
    run, told, found = recorded((slip, "retake"))
    group = HOLD.group
    chosen = [one for one in takes(run, told, {group: 1}) if one.group == group]
    assert [(one.number, one.kept) for one in chosen] == [(1, True), (2, False)]
    left = takes(run, told, {group: 2}, {(group, 2)})
    assert [(one.number, one.kept) for one in left if one.group == group] == [(1, True)]
    assert [one for one in left if one.group != group] == [one for one in found if one.group != group]
    assert takes(run, told, {group: 7, "nothing": 1}) == found  # a take that is not there changes nothing


def test_an_insert_shot_says_during_what_it_was_marked():
    at = begins(HOLD) + 3000
    run, told, _ = recorded((at, "mark"))
    (one,) = marks(run, told)
    assert (one.at_ms, one.item, one.side) == (at, HOLD.item, HOLD.side or "")


@given(st.lists(st.integers(1, 200_000), max_size=4), st.sampled_from(RATES), st.integers(0, 90_000))
def test_an_edit_list_puts_the_kept_takes_together_without_a_gap(slips, rate, offset):
    _, _, found = recorded(*((at, "retake") for at in sorted(slips)))
    text = edit_list("A class", found, {}, offset, rate)
    codes = re.findall(r"C +(\S+) (\S+) (\S+) (\S+)$", text, re.M)
    frames = [[_frames(code, rate) for code in row] for row in codes]
    assert len(frames) == sum(one.kept for one in found)
    at = 0
    for (first, last, begin, end), take in zip(frames, [one for one in found if one.kept], strict=True):
        assert (begin, end - begin) == (at, last - first)
        assert 0 <= (take.start_ms + offset) * rate / 1000 - first < 1
        at = end


def _frames(code, rate):
    hours, minutes, seconds, frames = map(int, code.split(":"))
    assert frames < rate
    return ((hours * 60 + minutes) * 60 + seconds) * rate + frames
