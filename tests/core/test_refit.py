"""Catching up: the rest gives inside its limits, sides stay equal, the closing stays, and it ends when it should."""

from dataclasses import replace
from itertools import product
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.oracle import dose_cost
from extendum.core.model.dose_values import allowed
from extendum.core.model.item import MoveItem
from extendum.core.model.section import Role
from extendum.core.run.fold import after, fold
from extendum.core.run.refit import refit
from extendum.core.run.state import Event, advance
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"
CLASSES = {p.stem: loads(p.read_bytes()) for p in sorted(DEMO.glob("*.json"))}


def begun(script, seconds, *more):
    timeline = compile_script(script)
    run = fold(steps_of(script, timeline), [Event("s", 0, "start"), *more])
    return timeline, advance(run, seconds * 1000)


def applied(run, found):
    for n, (step, ms) in enumerate(found.fits):
        run = after(run, Event(f"f{n}", run.clock, "fit", step, ms))
    return run


@settings(max_examples=20, deadline=None)
@given(st.sampled_from(sorted(CLASSES)), st.floats(0.05, 0.8), st.integers(-60, 60))
def test_a_refit_ends_when_it_should_or_says_how_far_off(name, share, late):
    script = CLASSES[name]
    timeline, run = begun(script, round(share * compile_script(script).length_s))
    ends_at = run.clock + run.left_ms - late * 1000
    found = refit(script, timeline, run, ends_at)
    after_it = applied(run, found)
    off = (after_it.clock + after_it.left_ms - ends_at) / 1000
    assert abs(off - found.off_s) <= 1.5
    if abs(late) <= 1:
        assert found.off_s == 0
    by_id = {step.id: step for step in after_it.steps}
    for n, step in enumerate(after_it.steps):
        if step.partner and n > run.at:
            assert by_id[step.partner].ms == step.ms
    closing = {i.id for s in script.sections if s.role is Role.CLOSING for i in s.items}
    limits = {item.id: [dose.quantity for dose in item.doses] for item in script.moves()}
    for step_id, ms in found.fits:
        item = by_id[step_id].item
        assert item not in closing
        assert [s.id for s in run.steps].index(step_id) > run.at
        dose = script.item(item).dose
        if dose.unit == "s":
            assert min(q.least for q in limits[item]) <= ms / 1000 <= max(q.most for q in limits[item])


def test_running_late_the_holds_to_come_give_and_the_sentence_says_so():
    script = CLASSES["after-digging"]
    timeline, run = begun(script, 200, Event("p", 100_000, "pause"), Event("r", 125_000, "resume"))
    found = refit(script, timeline, run, timeline.length_s * 1000)
    assert found.off_s == 0
    assert found.sentence.startswith("On time again: ")
    assert "shorter" in found.sentence
    ended = applied(run, found)
    assert abs(ended.clock + ended.left_ms - timeline.length_s * 1000) <= 1000


def test_a_second_side_whose_first_is_done_keeps_what_that_got():
    script = CLASSES["after-digging"]
    timeline = compile_script(script)
    work = [at for step, at in begins(steps_of(script, timeline)) if step.item == "i6" and step.works]
    timeline, run = begun(script, work[1] + 2)
    calf = [step for step in run.steps if step.item == "i6" and step.works]
    run = after(run, Event("l", run.clock, "longer", "", 8000)) if run.step.works else run
    found = refit(script, timeline, run, run.clock + run.left_ms - 30_000)
    assert calf[1].id not in dict(found.fits)
    assert found.changes


@pytest.mark.parametrize("name", sorted(CLASSES))
def test_the_other_side_of_the_work_that_is_on_keeps_what_this_side_gets(name):
    script = CLASSES[name]
    timeline = compile_script(script)
    sided = [(step, begin) for step, begin in begins(steps_of(script, timeline)) if step.partner]
    for step, begin in sided:
        timeline, run = begun(script, begin + 1)
        assert run.step == step
        found = refit(script, timeline, run, run.clock + run.left_ms - 20_000)
        assert step.partner not in dict(found.fits)
    assert sided


def begins(steps):
    at = 0
    for step in steps:
        yield step, at
        at += step.ms // 1000


def test_what_cannot_be_caught_up_is_said_with_what_could_go():
    script = CLASSES["after-digging"]
    timeline, run = begun(script, 200)
    found = refit(script, timeline, run, run.clock + 120_000)
    assert found.off_s > 60
    assert "still" in found.sentence and "late" in found.sentence
    assert 0 < len(found.could_go) <= 2
    names = {item.name for item in script.moves()}
    assert set(found.could_go) <= names
    early = refit(script, timeline, run, run.clock + 3_600_000)
    assert early.off_s < 0 and early.could_go == ()
    assert "early" in early.sentence


@pytest.mark.parametrize("seconds", [0, 719])
def test_at_the_very_ends_it_says_something_true(seconds):
    script = CLASSES["after-digging"]
    timeline, run = begun(script, seconds)
    found = refit(script, timeline, run, timeline.length_s * 1000)
    assert found.sentence == "On time: nothing needs to change."
    assert found.fits == ()


def test_locked_doses_do_not_give():
    script = CLASSES["after-digging"]
    items = {i.id: replace(i, dose=i.dose.having(replace(i.dose.quantity, locked=True))) for i in script.moves()}
    from extendum.core.edit.script_edits import replace_items

    locked = replace_items(script, items)
    timeline, run = begun(locked, 100)
    found = refit(locked, timeline, run, run.clock + run.left_ms - 20_000)
    assert found.fits == ()
    assert found.off_s == 20
    assert all(isinstance(item, MoveItem) for item in items.values())


@pytest.mark.parametrize("late", [-9, 7, 16])
def test_what_gives_is_what_costs_least_by_the_costs_of_a_fit(late):
    script = CLASSES["after-digging"]
    steps = steps_of(script, compile_script(script))
    last = [step for step in steps if step.works and script.item(step.item).dose.tag == "hold"][-3:]
    begin = next(at for step, at in begins(steps) if step == last[0])
    timeline, run = begun(script, begin - 1)
    found = refit(script, timeline, run, run.clock + run.left_ms - late * 1000)
    options = []
    for step in last:
        item, now = script.item(step.item), step.ms // 1000
        values = allowed(item.dose, script.style.breath_ms)
        costs = {v: dose_cost(now, v, now, item.matters, off_grid=v % 5 != 0) for v in values}
        options.append({(step.id, v - now): cost for v, cost in (costs | {now: 0}).items()})
    way = {step.id: (dict(found.fits).get(step.id, step.ms) - step.ms) // 1000 for step in last}
    ours = sum(unit[step.id, way[step.id]] for unit, step in zip(options, last, strict=True))
    ways = [one for one in product(*options) if sum(by for _, by in one) == -late]
    assert ours == min(sum(unit[choice] for unit, choice in zip(options, one, strict=True)) for one in ways)
    assert (sum(way.values()), found.off_s) == (-late, 0)
