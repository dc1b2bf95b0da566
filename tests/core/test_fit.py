"""The exact fit against trying everything, and against the compiler."""

from itertools import product
from math import prod

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from extendum.core.choices import choices
from extendum.core.compile import compile_script, length_of, whole_minutes
from extendum.core.dose import Elastic
from extendum.core.edit import insert_item, new_script, replace_items, set_locked
from extendum.core.fit import Fitter
from extendum.core.script import MoveItem, Talk
from tests.strategies import scripts

slow = settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])


def says_minutes(script):
    return any("{minutes}" in str((item.words, item.then)) for item in script.moves())


def quantities(script):
    return [dose.quantity for item in script.items() for dose in getattr(item, "doses", (item,))]


def chosen(script, values):
    """The script with each dose at a value."""
    made = {}
    for choice, value in zip(choices(script, 1), values, strict=True):
        item = made.get(choice.item.id, choice.item)
        made[item.id] = item.having(choice.quantity.at(value), choice.stage)
    return replace_items(script, made)


@given(scripts(most_items=3, high=12))
@slow
def test_same_least_cost_as_trying_every_combination(script):
    """The oracle compiles every combination; it shares nothing with the fit but the cost of one dose."""
    script = set_locked(script, "q", True)
    options = choices(script, whole_minutes(script.brief.target_s))
    if says_minutes(script) or prod(len(one.values) for one in options) > 800:
        return
    best = {}
    for picked in product(*(range(len(one.values)) for one in options)):
        values = tuple(one.values[n] for one, n in zip(options, picked, strict=True))
        length = length_of(chosen(script, values))
        cost = sum(one.costs[n] for one, n in zip(options, picked, strict=True))
        wanted = [one.quantity.wanted for one in options]
        key = (cost, [(abs(v - w), v) for v, w in zip(values, wanted, strict=True)], values)
        best[length] = min(key, best.get(length, key))
    fitter = Fitter(script)
    assert set(fitter.reachable) == set(best)
    for target, (_, _, values) in best.items():
        assert tuple(fitter.values_for(target)) == values


@given(scripts(), st.integers(30, 1200))
@slow
def test_a_fit_ends_on_the_second_or_says_what_stands_in_the_way(script, target):
    fitter = Fitter(script)
    result = fitter.fit(target)
    if result.reached:
        assert compile_script(result.script).length_s == target
        for before, after in zip(quantities(script), quantities(result.script), strict=True):
            assert before.least <= after.value <= before.most
            assert (after.wanted, after.locked) == (before.wanted, before.locked)
    else:
        assert result.script == script
        assert result.seconds == length_of(script)
        if not says_minutes(script):
            near = [s for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
            assert near
            for seconds in near:
                assert fitter.fit(seconds).reached
            below, above = result.nearest_below_s, result.nearest_above_s
            between = range(below + 1 if below else target, above if above else target + 1)
            assert not any(fitter.values_for(s) for s in between)


def test_a_second_fit_starts_from_what_the_teacher_wanted():
    script = insert_item(new_script("A", 60), Talk("t", Elastic(10, 20, 60)))
    there_and_back = Fitter(Fitter(script).fit(70).script).fit(26).script
    assert [i.quantity.value for i in there_and_back.items()] == [20, 6]


def test_a_lock_keeps_what_it_is_now():
    script = set_locked(insert_item(new_script("A", 60), Talk("t", Elastic(10, 20, 60))), "t", True)
    result = Fitter(script).fit(60)
    assert not result.reached
    assert [(limit.item, limit.which, limit.value) for limit in result.limits] == [
        ("t", "locked", 20),
        ("i1", "most", 20),
    ]
    assert result.nearest_below_s == 40


def test_steps_that_skip_a_length_are_named_as_granularity():
    from extendum.core.dose import Reps
    from extendum.core.move import Move

    script = insert_item(new_script("A", 60), MoveItem("m", Move("Turns"), Reps(Elastic(2, 4, 9), 3000, 0, 2000)))
    script = set_locked(script, "i1", True)
    result = Fitter(script).fit(28)
    assert (result.nearest_below_s, result.nearest_above_s) == (26, 31)
    assert [(limit.item, limit.which, limit.value) for limit in result.limits] == [("m", "granularity", 5)]
