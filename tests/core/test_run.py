"""A run as a fold: any order of events, duplicates change nothing, and the parts add up to the wall clock."""

from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.model.errors import RefusedError
from extendum.core.model.timeline import SegmentKind
from extendum.core.run.actions import ACTIONS
from extendum.core.run.fold import after, fold
from extendum.core.run.log import spent
from extendum.core.run.state import Event, Run, advance
from extendum.core.run.steps import Step, closing_quiet, steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from tests.strategies import scripts

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"
CALF = (
    Step("way", "calf", "calf.1", 4000, "left"),
    Step("hold", "calf", "calf.1", 30_000, "left", works=True, partner="hold-2"),
    Step("out", "calf", "calf.1", 2000, "left"),
    Step("way-2", "calf", "calf.2", 3000, "right"),
    Step("hold-2", "calf", "calf.2", 30_000, "right", works=True),
    Step("out-2", "calf", "calf.2", 2000, "right"),
    Step("reps", "march", "march.1", 16_000, works=True, unit_ms=2000),
    Step("stay", "rest", "rest.1", 20_000, works=True, waits=True),
)


@st.composite
def happenings(draw, steps=CALF, most=14):
    """Events in the order of time, some of them twice; the first starts the run in most cases."""
    at, found = draw(st.integers(0, 5000)), []
    names = [step.id for step in steps]
    for n in range(draw(st.integers(0, most))):
        kind = "start" if n == 0 and draw(st.integers(0, 5)) else draw(st.sampled_from(list(ACTIONS)))
        ms = draw(st.sampled_from((0, 1000, 10_000, -5000, 45_000)))
        found.append(Event(f"e{n}", at, kind, draw(st.sampled_from((*names, "nowhere"))), ms))
        at += draw(st.sampled_from((0, 1, 500, 3000, 17_000, 60_000)))
    return found


@given(happenings())
def test_the_parts_add_up_to_the_wall_clock(events):
    run = fold(CALF, events)
    starts = [e.at for e in events if e.kind == "start"]
    if not run.started:
        assert run.log == ()
        return
    assert run.log[0].start >= starts[0] if run.log else True
    for one, other in zip(run.log, run.log[1:], strict=False):
        assert one.end <= other.start
    assert all(span.end > span.start for span in run.log)
    if not any(fold(CALF, events[: n + 1]).ended for n in range(len(events))):
        assert sum(span.end - span.start for span in run.log) == run.clock - starts[0]


@given(happenings())
def test_an_event_told_twice_changes_nothing(events):
    assert fold(CALF, events) == fold(CALF, [twice for event in events for twice in (event, event)])
    assert fold(CALF, events) == fold(CALF, [*events, *events])


@given(happenings(), st.integers(0, 200_000), st.integers(0, 200_000))
def test_looking_in_between_changes_nothing(events, first, more):
    run = fold(CALF, events)
    once = advance(run, run.clock + first + more)
    assert advance(advance(run, run.clock + first), run.clock + first + more) == once
    assert once.clock >= run.clock


@given(happenings())
def test_where_a_run_is_always_makes_sense(events):
    run = fold(CALF, events)
    assert 0 <= run.at <= len(run.steps)
    assert run.ended == (run.at == len(run.steps))
    assert run.into >= 0
    assert not (run.ended and run.running)
    assert run.ended or run.step.waits or run.into <= run.step.ms
    assert all(step.ms >= 0 for step in run.steps)
    gone = {step.id for step in CALF} - {step.id for step in run.steps}  # of an item that was skipped
    assert not gone or "skip-item" in {event.kind for event in events}


def test_the_closing_quiet_is_the_first_of_the_last_ones_with_nothing_to_do_after_it():
    def closes(*kinds):
        whole = compile_script(loads((DEMO / "after-digging.json").read_text()))
        some = tuple(replace(whole.segments[0], id=f"s{n}", kind=kind) for n, kind in enumerate(kinds))
        found = closing_quiet(replace(whole, segments=some))
        return found and found.id

    hold, quiet, talk, up = SegmentKind.HOLD, SegmentKind.QUIET, SegmentKind.TALK, SegmentKind.TRANSITION
    assert closes(hold, quiet, quiet, up, talk) == "s1"
    assert closes(quiet, hold, talk) is None
    assert closes(quiet, hold, quiet) == "s2"


def taught(*events):
    """A run of events given as (seconds, kind) or (seconds, kind, milliseconds), started at nought."""
    made = [Event("s", 0, "start")]
    made += [Event(f"e{n}", round(at * 1000), kind, "", *ms) for n, (at, kind, *ms) in enumerate(events)]
    return fold(CALF, made)


def at(run, seconds):
    return advance(run, round(seconds * 1000))


def test_a_hold_made_longer_is_matched_by_the_second_side():
    run = at(taught((10, "longer", 10_000), (12, "longer", 10_000)), 58)
    assert (run.step.id, run.steps[4].ms) == ("way-2", 50_000)


def test_a_hold_ended_now_is_matched_too_and_what_ends_at_once_is_not():
    run = taught((19, "end-now"))
    assert (run.step.id, run.steps[4].ms) == ("out", 15_000)
    assert taught((4, "end-now")).steps[4].ms == 30_000


def test_they_are_in_begins_the_hold_and_does_nothing_once_it_is_on():
    run = taught((1, "in"))
    assert (run.step.id, run.into) == ("hold", 0)
    assert taught((1, "in"), (5, "in")).into == 4000


def test_one_more_rep_adds_its_own_time_and_only_where_something_is_counted():
    assert taught((75, "more")).steps[6].ms == 18_000
    assert taught((10, "more")).steps == CALF


def test_an_open_step_waits_until_it_is_ended():
    run = at(taught(), 71 + 16 + 500)
    assert (run.step.id, run.into) == ("stay", 500_000)
    assert after(run, Event("x", run.clock, "end-now")).ended


def test_skip_repeat_and_back_go_by_passes():
    assert taught((10, "skip")).step.id == "way-2"
    assert taught((10, "repeat")).step.id == "way"
    assert taught((40, "back")).step.id == "way-2"
    assert taught((36.5, "back")).step.id == "way"
    over = taught((10, "end"))
    assert over.ended
    assert after(over, Event("b", over.clock, "back")).step.id == "stay"


def test_sides_can_be_swapped_until_the_second_has_begun():
    swapped = taught((2, "swap"))
    assert [step.side for step in swapped.steps[:6]] == ["right"] * 3 + ["left"] * 3
    assert taught((40, "swap")).steps == at(taught(), 40).steps
    assert taught((75, "swap")).steps == at(taught(), 75).steps


def test_a_rest_is_put_in_before_the_next_pass_and_a_fit_changes_what_is_to_come():
    run = taught((10, "insert", 20_000))
    assert [step.id for step in run.steps[2:5]] == ["out", "e0", "way-2"]
    fitted = after(run, Event("f", run.clock, "fit", "hold-2", 12_000))
    assert fitted.steps[5].ms == 12_000
    assert after(run, Event("f", run.clock, "fit", "way", 1)).steps == run.steps


def test_a_rewind_goes_back_over_the_steps_as_they_are():
    run = taught((38, "rewind", 5000))
    assert (run.step.id, run.into) == ("hold", 29_000)
    assert taught((3, "rewind", 60_000)).into == 0


def test_the_ladder_of_options_goes_down_to_its_end_and_up_again():
    steps = tuple(replace(step, down=2, up=1) if step.item == "calf" else step for step in CALF)
    presses = ("easier", "easier", "deeper", "deeper", "deeper", "deeper", "easier", "easier", "easier", "easier")
    rungs = []
    for count in range(1, len(presses) + 1):
        events = [Event(f"{n}", n, kind) for n, kind in enumerate(("start", *presses[:count]))]
        rungs.append(fold(steps, events).rung("calf"))
    assert rungs == [-1, -2, -1, 0, 1, 1, 0, -1, -2, 0]


def test_the_easier_option_is_on_until_it_is_asked_for_again():
    assert taught((10, "easier")).easier == {"calf"}
    assert taught((10, "easier"), (12, "easier")).easier == frozenset()


def test_a_move_is_brought_in_with_both_its_sides_and_their_match():
    first = Step("x", "spare", "spare.1.1", 5000, "left", works=True, partner="y")
    spare = (first, Step("y", "spare", "spare.2.1", 5000, "right", works=True))
    run = fold(CALF, [Event("s", 0, "start"), Event("b", 1000, "bring", "spare")], spare)
    assert [step.id for step in run.steps[3:6]] == ["x~b", "y~b", "way-2"]
    assert run.steps[3].partner == "y~b"
    assert after(run, Event("n", 2000, "bring", "nowhere")).steps == run.steps
    assert fold(CALF, [Event("s", 0, "start"), Event("b", 1000, "bring", "spare")]).steps == CALF


def test_a_pause_is_in_the_log_and_moves_nothing():
    run = at(taught((10, "pause"), (70, "resume")), 75)
    assert (run.step.id, run.into) == ("hold", 11_000)
    assert {name: one.on for name, one in spent(run).items()} == {"way": 4000, "hold": 11_000}
    assert sum(span.end - span.start for span in run.log if span.paused) == 60_000


def test_reps_that_are_ended_by_hand_are_as_many_on_the_other_side():
    steps = (
        Step("one", "reach", "reach.1", 16_000, "left", works=True, unit_ms=2000, partner="two"),
        Step("two", "reach", "reach.2", 16_000, "right", works=True, unit_ms=2000),
    )
    run = fold(steps, [Event("s", 0, "start"), Event("e", 8300, "end-now")])  # in the fifth
    assert (run.step.id, run.step.ms) == ("two", 10_000)


def test_what_is_no_event_is_refused():
    with pytest.raises(RefusedError, match="kind"):
        fold(CALF, [Event("a", 0, "dance")])
    assert fold((), [Event("a", 0, "start")]) == Run((), seen=frozenset({"a"}))


@settings(max_examples=28)
@given(scripts())
def test_a_class_taught_without_a_touch_takes_what_its_timeline_says(script):
    timeline = compile_script(script)
    steps = tuple(replace(step, waits=False) for step in steps_of(script, timeline))
    run = advance(fold(steps, [Event("s", 0, "start")]), timeline.length_s * 1000)
    assert run.ended == bool(steps)
    assert {name: one.on for name, one in spent(run).items()} == {
        segment.id: segment.seconds * 1000 for segment in timeline.segments
    }
    by_id = {step.id: step for step in steps}
    for step in steps:
        if step.partner:
            assert by_id[step.partner].side != step.side
            assert by_id[step.partner].ms == step.ms


def test_each_first_side_of_a_demo_class_has_its_second():
    script = loads((DEMO / "after-digging.json").read_bytes())
    steps = steps_of(script, compile_script(script))
    assert sum(bool(step.partner) for step in steps) == 5
    assert sum(step.unit_ms > 0 for step in steps) == 6


def test_going_back_goes_to_the_pass_before_only_just_after_this_one_began():
    way = next(at_ms for step, at_ms in _begins(CALF) if step.id == "way-2")
    early = taught(((way + 1999) / 1000, "back"))
    late = taught(((way + 2000) / 1000, "back"))
    assert (early.step.group, late.step.group) == (CALF[0].group, CALF[3].group)


def _begins(steps):
    at_ms = 0
    for step in steps:
        yield step, at_ms
        at_ms += step.ms


def test_a_fit_changes_what_is_to_come_and_not_what_is_on():
    run = taught((10, "pause"))
    for step, ms in ((run.step.id, run.step.ms), (run.steps[4].id, 12_000)):
        assert after(run, Event("f", 10_000, "fit", step, 12_000)).steps[[s.id for s in run.steps].index(step)].ms == ms
