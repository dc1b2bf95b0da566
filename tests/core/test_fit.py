"""The exact fit against trying everything, and against the compiler."""

from dataclasses import replace
from itertools import product
from math import prod

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from bench.oracle import dose_cost, left_out_cost, one_pass_s, words_need_s
from extendum.core.edit.dose_edits import set_locked
from extendum.core.edit.script_edits import insert_item, new_script, replace_items, set_style
from extendum.core.fit.fit import Fitter
from extendum.core.model.body import Posture
from extendum.core.model.brief import Priority
from extendum.core.model.dose import Hold, Reps
from extendum.core.model.dose_values import actual, allowed
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem, is_out, may_go
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.move import Move
from extendum.core.model.style import HoldConvention
from extendum.core.model.talk import Talk
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import lay_out, length_of, step_s, talk_needs_s
from tests.strategies import scripts

slow = settings(max_examples=30, deadline=None, suppress_health_check=[HealthCheck.too_slow])


def says_minutes(script):
    return any("{minutes}" in str((item.words, item.then)) for item in script.moves())


def quantities(script):
    return [dose.quantity for item in script.items() for dose in getattr(item, "doses", (item,))]


def doses_of(item):
    return getattr(item, "doses", None) or (item,)


def values_of(item, stage, style, said_s=0):
    """What a dose may be, and its cost, from the rules alone."""
    dose = doses_of(item)[stage]
    q = dose.quantity
    if not isinstance(item, MoveItem):
        return [q.value] if q.locked else list(range(max(q.least, said_s), max(q.most, said_s) + 1))
    if q.locked:
        return [actual(dose, style.breath_ms)]
    found = allowed(dose, style.breath_ms, even=item.even(stage + 1))
    limits = style.holds.limits or (0, 10_000)
    if item.move.posture is Posture.ONE_LEG and style.one_leg_most_s:
        limits = (limits[0], min(limits[1], style.one_leg_most_s))
    if isinstance(dose, Hold):
        wanted = actual(dose, style.breath_ms, q.wanted)
        low, high = min(limits[0], wanted), max(limits[1], wanted)
        found = [v for v in found if low <= v <= high] or found
    return list(found)


def with_values(item, values, *, out=False):
    for stage, value in enumerate(values, 1):
        quantity = doses_of(item)[stage - 1].quantity
        item = item.having(replace(quantity, most=max(quantity.most, value)).at(value), stage)
    return replace(item, dropped=out) if hasattr(item, "dropped") else item


def weights(script):
    """Seconds of each dose at its wanted value over all passes, read off a compiled class with everything in."""
    wanted = {}
    for item in script.items():
        values = [actual(d, script.style.breath_ms, d.quantity.wanted) for d in getattr(item, "doses", ())]
        wanted[item.id] = with_values(item, values or [item.quantity.wanted])
    segments = compile_script(replace_items(script, wanted)).segments
    found = {}
    for item in script.items():
        own = [s for s in segments if s.item == item.id]
        if isinstance(item, MoveItem):
            found[item.id] = [sum(s.seconds for s in own if s.stage == n + 1) for n in range(len(item.doses))]
        else:
            visits = {(s.pass_number, s.round) for s in own}
            found[item.id] = [item.quantity.wanted * len(visits)]
    return found


def price(item, stage, value, weight, style):
    dose = doses_of(item)[stage]
    if not isinstance(item, MoveItem):
        return dose_cost(dose.quantity.wanted, value, weight, item.matters, off_grid=False)
    wanted = actual(dose, style.breath_ms, dose.quantity.wanted)
    off = isinstance(dose, Hold) and not dose.snap and value % 5 != 0
    seconds = one_pass_s(item, stage + 1, value)
    return dose_cost(one_pass_s(item, stage + 1, wanted), seconds, weight, item.matters, off_grid=off)


def ways_of(item, style, weight, priority, said_s=0):
    """Every way that one item can be: the item, its cost, and how it ranks among equals."""
    if is_out(item):
        return [(item, 0, ())]
    found = []
    for values in product(*(values_of(item, n, style, said_s) for n in range(len(doses_of(item))))):
        cost = sum(price(item, n, v, weight[n], style) for n, v in enumerate(values))
        near = tuple((abs(v - doses_of(item)[n].quantity.wanted), v) for n, v in enumerate(values))
        found.append((with_values(item, values), cost, (0, near)))
    if may_go(item):
        found.append((with_values(item, (), out=True), left_out_cost(sum(weight), item.matters, priority), (1, ())))
    return found


def locked(item):
    for stage, dose in enumerate(doses_of(item), 1):
        item = item.having(replace(dose.quantity, locked=True), stage)
    return item


@given(scripts(most_items=4, high=9) | scripts(most_items=7, high=9), st.booleans())
@settings(slow, max_examples=32)
def test_same_least_cost_as_trying_every_combination(script, only_which):
    """The oracle compiles every combination; it shares nothing with the fit but the cost of one dose."""
    script = set_locked(script, "q", True)
    if only_which:  # nearly every dose is locked, so that many items may stay or go
        script = replace_items(script, {item.id: locked(item) for item in list(script.items())[1:]})
    if says_minutes(script):
        return
    weight = weights(script)
    priority = script.brief.priority
    options = [
        ways_of(i, script.style, weight[i.id], priority, words_need_s(as_taught(script), as_taught(script).item(i.id)))
        for i in script.items()
    ]
    if prod(map(len, options)) > 200:
        return
    best = {}
    for picked in product(*options):
        made = replace_items(script, {item.id: item for item, _, _ in picked})
        length = length_of(made)
        key = (sum(cost for _, cost, _ in picked), [rank for _, _, rank in picked])
        if length not in best or key < best[length][0]:
            best[length] = (key, made)
    fitter = Fitter(script)
    assert set(fitter.reachable.tolist()) == set(best)
    for target, ((cost, _), made) in best.items():
        result = fitter.fit(target)
        assert result.cost == cost
        there = [item for item in result.script.items() if item.present]
        assert there == [item for item in made.items() if item.present]


@given(scripts(), st.integers(30, 1200))
@slow
def test_a_fit_ends_on_the_second_or_says_what_stands_in_the_way(script, target):
    fitter = Fitter(script)
    result = fitter.fit(target)
    if result.reached:
        assert compile_script(result.script).length_s == target
        for before, after in zip(quantities(script), quantities(result.script), strict=True):
            assert before.least <= after.value <= after.most
            assert (after.wanted, after.locked) == (before.wanted, before.locked)
        for before, after in zip(script.items(), result.script.items(), strict=True):
            assert after.present == before.present or may_go(before)
            if isinstance(before, Talk) and after.present and not is_out(before) and not before.quantity.locked:
                assert after.quantity.value >= talk_needs_s(result.script, after.id)
            elif before.quantity.value != after.quantity.value:
                assert after.quantity.value <= before.quantity.most
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
            assert not any(fitter.cost_of(s) is not None for s in between)


def test_a_second_fit_starts_from_what_the_teacher_wanted():
    script = insert_item(new_script("A", 60), Talk("t", Elastic(10, 20, 60)))
    there_and_back = Fitter(Fitter(script).fit(70).script).fit(26).script
    assert [i.quantity.value for i in there_and_back.items()] == [20, 6]


def test_words_win_over_the_most_that_a_talk_may_last():
    words = "Welcome. Today you will look after your back, your hips and your calves, and you will go home taller."
    script = insert_item(new_script("A", 60), Talk("t", Elastic(2, 4, 5), words))
    needs_s = talk_needs_s(script, "t")
    shortest = Fitter(script).fit(Fitter(script).least_s).script.item("t").quantity
    assert needs_s > 5
    assert (shortest.value, shortest.most, shortest.wanted) == (needs_s, needs_s, 4)


def test_a_lock_keeps_what_it_is_now():
    script = set_locked(insert_item(new_script("A", 60), Talk("t", Elastic(10, 20, 60))), "t", True)
    result = Fitter(script).fit(60)
    assert not result.reached
    assert [(limit.item, limit.which, limit.value) for limit in result.limits] == [
        ("t", "locked", 20),
        ("i1", "most", 20),
    ]
    assert result.nearest_below_s == 40


@given(scripts(), st.floats(-0.1, 1.1))
@slow
def test_a_target_asked_for_alone_is_answered_as_one_of_all(script, where):
    alone, all_of_them = Fitter(script), Fitter(script)
    lengths = all_of_them.reachable
    target = max(1, alone.least_s + round((alone.most_s - alone.least_s) * where))
    assert alone.fit(target) == all_of_them.fit(target)
    assert (target in lengths) == (alone.cost_of(target) is not None) or says_minutes(script)


def test_steps_that_skip_a_length_are_named_as_granularity():
    script = insert_item(new_script("A", 60), MoveItem("m", Move("Turns"), Reps(Elastic(2, 4, 9), 3000, 0, 2000)))
    script = set_locked(script, "i1", True)
    result = Fitter(script).fit(28)
    assert (result.nearest_below_s, result.nearest_above_s) == (26, 31)
    assert [(limit.item, limit.which, limit.value) for limit in result.limits] == [("m", "granularity", 5)]


@given(scripts())
@slow
def test_the_quick_seconds_of_a_step_are_those_of_its_parts(script):
    for one in lay_out(script):
        assert step_s(one.step, one.before, script.style, one.facts) == sum(part.seconds for part in one.parts)


def test_a_hold_keeps_to_the_convention_and_a_wish_beyond_it_moves_only_its_own_limit():
    script = new_script("A", 60)
    for name, wanted in (("short", 25), ("long", 50)):
        script = insert_item(script, MoveItem(name, Move(name), Hold(Elastic(5, wanted, 90))))
    script = set_style(script, replace(script.style, holds=HoldConvention.STEADY))
    ends = [Fitter(script).fit(Fitter(script).least_s), Fitter(script).fit(Fitter(script).most_s)]
    assert [[i.quantity.value for i in end.script.moves()] for end in ends] == [[20, 20], [30, 50]]


def test_what_matters_less_gives_more_and_the_priority_says_whether_moves_go():
    script = new_script("A", 60)
    for name, matters in (("a", Matters.LESS), ("b", Matters.AS_OTHERS), ("c", Matters.MOST)):
        item = MoveItem(name, Move(name), Hold(Elastic(1, 60, 90)), matters=matters, keep=Keep.OPTIONAL)
        script = insert_item(script, item)
    values = {}
    for priority in Priority:
        asked = replace(script, brief=replace(script.brief, priority=priority))
        made = Fitter(asked).fit(132).script
        values[priority] = [item.quantity.value if item.present else 0 for item in list(made.items())[:3]]
    kept = values[Priority.MOVES]
    assert 0 < kept[0] < kept[1] < kept[2]
    assert values[Priority.HOLDS] == [0, 60, 60]
