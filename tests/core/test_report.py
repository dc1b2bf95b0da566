"""The log of a run: it adds up whatever happened, and says what was done otherwise than planned."""

from datetime import date
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.outputs.coverage import coverage
from extendum.core.run.fold import fold
from extendum.core.run.learned import learn, lessons, together, usually_late, ways_taken
from extendum.core.run.log import cut_short
from extendum.core.run.overview import Once, habits
from extendum.core.run.report import Cause, off_words, report
from extendum.core.run.state import Event, advance
from extendum.core.run.steps import steps_of
from extendum.core.run.taught import as_taught
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from tests.core.test_run import happenings
from tests.strategies import scripts

DIGGING = loads((Path(__file__).parents[2] / "src/extendum/data/demo" / "after-digging.json").read_bytes())
TIMELINE = compile_script(DIGGING)
STEPS = steps_of(DIGGING, TIMELINE)
HOLDS = [step for step in STEPS if step.works and step.partner]


def begins(step):
    """When a step begins where nothing is touched, in milliseconds."""
    return sum(one.ms for one in STEPS[: STEPS.index(step)])


def taught(*events):
    """A whole run with these things done in it: (milliseconds, kind, more)."""
    told = [Event("s", 0, "start")]
    told += [Event(f"e{n}", at, kind, **(more[0] if more else {})) for n, (at, kind, *more) in enumerate(events)]
    run = advance(fold(STEPS, told), 10**7)
    return run, report(DIGGING, TIMELINE, run, told)


@settings(max_examples=32)
@given(happenings(steps=STEPS[:20], most=20), st.booleans())
def test_the_causes_add_up_to_the_difference_whatever_happened(events, played_out):
    run = fold(STEPS, events)
    run = advance(run, run.clock + 10**7) if played_out else run
    found = report(DIGGING, TIMELINE, run, events)
    assert sum(found.causes.values()) == found.real_ms - found.planned_ms
    assert found.real_ms == sum(span.end - span.start for span in run.log)
    shown = as_taught(DIGGING, TIMELINE, run)
    for one, other in zip(shown.segments, shown.segments[1:], strict=False):
        assert one.end_s <= other.start_s
    assert len({segment.id for segment in shown.segments}) == len(shown.segments)


@settings(max_examples=40)
@given(scripts())
def test_a_class_taught_as_planned_has_nothing_to_tell(script):
    timeline = compile_script(script)
    steps = steps_of(script, timeline)
    told = [Event("s", 0, "start")]
    seconds = {one.partner for one in steps if one.waits}  # they get what the first side got, without being asked
    ends = {n: sum(x.ms for x in steps[: n + 1]) for n, s in enumerate(steps) if s.waits and s.id not in seconds}
    told += [Event(f"o{n}", end, "end-now") for n, end in ends.items()]
    run = advance(fold(steps, told), 10**8)
    found = report(script, timeline, run, told)
    assert set(found.causes.values()) <= {0}
    assert (found.skipped, found.longer, found.cut_short, found.put_in) == ((), (), (), ())
    plain = as_taught(script, timeline, run)
    assert plain.length_s == timeline.length_s
    both = (coverage(script, plain), coverage(script, timeline))
    assert both[0].keys() == both[1].keys()
    assert all(both[0][key].halves == both[1][key].halves for key in both[0])


def test_a_class_that_was_not_touched_says_three_plain_things():
    _, found = taught()
    assert found.facts() == (
        "12:00, as planned.",
        "Both sides got the same in every move.",
        "Every move went as planned.",
    )


def test_a_longer_hold_is_on_both_sides_and_a_skipped_side_is_named():
    hold = HOLDS[0]
    _, found = taught((begins(hold) + 1000, "longer", {"ms": 10_000}))
    assert found.off_s == 20
    assert found.facts()[0] == "12:20 instead of 12:00: 20 s over, most of it holds and counts (20 s)."
    assert found.facts()[2] == "Longer: Wall calf stretch by 20 s."
    assert not found.uneven
    second = next(step for step in STEPS if step.id == hold.partner)
    _, found = taught((begins(second) + 5000, "skip"))
    assert found.facts()[1] == "Wall calf stretch: left 25 s, right 5 s."
    assert found.facts()[2] == "Cut short: Wall calf stretch by 20 s."


def test_pauses_what_was_put_in_and_what_was_left_out_are_told_apart():
    hold = HOLDS[1]
    at = begins(hold) + 2000
    run, found = taught((at, "pause"), (at + 40_000, "resume"), (at + 41_000, "insert", {"ms": 30_000}))
    assert found.causes[Cause.PAUSED] == 40_000
    assert found.causes[Cause.PUT_IN] == 30_000
    assert found.put_in == ("A rest",)
    assert [s.name for s in as_taught(DIGGING, TIMELINE, run).segments if s.item == ""][:1] == ["paused"]
    way = next(n for n, step in enumerate(STEPS) if step.group == hold.group)
    start = sum(step.ms for step in STEPS[:way])
    _, found = taught((start + 10, "skip"), (start + 20, "skip"), (start + 30, "easier"))
    assert [str(one) for one in found.skipped] == ["Bent-knee calf stretch"]
    assert found.causes[Cause.SKIPPED] < -40_000
    assert found.otherwise.easier == ("Standing hip flexor stretch",)


def test_a_pass_done_again_is_told_as_that():
    hold = HOLDS[0]
    _, found = taught((begins(hold) + 20_000, "repeat"))
    assert found.causes[Cause.AGAIN] > 20_000
    assert found.causes[Cause.WORK] == 0


def test_a_way_that_took_longer_in_front_of_people_is_offered_from_the_middle_of_the_runs():
    ways = []
    for late in (4000, 6000, 30_000):  # the teacher paused on the way until everybody was there
        hold = HOLDS[0]
        way = next(step for step in STEPS if step.group == hold.group)
        at = begins(way) + 3000
        events = [Event("s", 0, "start"), Event("p", at, "pause"), Event("r", at + late, "resume")]
        run = advance(fold(STEPS, events), 10**7)
        ways.append(ways_taken(TIMELINE, run, cut_short(STEPS, events)))
    assert [lesson.words for lesson in lessons(DIGGING, TIMELINE, together(ways))] == [
        "Getting to Wall calf stretch took 14 s and the script has 8 s: use 14 s."
    ]
    events = [Event("s", 0, "start"), Event("x", at, "skip")]
    assert way.id not in ways_taken(
        TIMELINE, fold(STEPS, [*events, Event("e", 10**6, "pause")]), cut_short(STEPS, events)
    )


def test_a_class_that_usually_ends_late_is_offered_less_to_fill():
    assert usually_late(DIGGING, [40, 38]) is None
    assert usually_late(DIGGING, [40, 5, 2]) is None
    assert usually_late(DIGGING, [-60, -50, 70]) is None
    offer = usually_late(DIGGING, [40, 38, -3, 55])
    assert offer.words == "This class usually runs 39 s over (median of 4 times): fit it to 11:21."
    assert learn(DIGGING, [offer]).brief.target_s == 681


@pytest.mark.parametrize(
    ("off_s", "words"),
    [(0, "as planned"), (-2, "as planned"), (3, "3 s over"), (-99, "99 s under"), (100, "1:40 over")],
)
def test_what_is_off_is_said_with_its_unit(off_s, words):
    assert off_words(off_s) == words


def test_a_class_that_was_broken_off_says_nothing_about_its_habit():
    _, whole = taught((begins(HOLDS[0]) + 1000, "longer", {"ms": 20_000}))
    _, broken = taught((60_000, "end"))
    assert (whole.broken_off, broken.broken_off) == (False, True)
    some = [Once(date(2026, 11, 2), "A", DIGGING, TIMELINE, one.off_s, one.broken_off) for one in (whole, broken)]
    assert [(one.times, one.told) for one in habits(some)] == [(1, ("40 s over",) * 3)]
