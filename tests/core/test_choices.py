"""The doses of a class, computed all at once, are what each is by itself."""

from dataclasses import replace

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from bench.oracle import dose_cost, one_pass_s
from extendum.core.fit.dose_options import Visited, choices_of, in_round
from extendum.core.model.body import Side
from extendum.core.model.dose import Hold, Manner, Timed
from extendum.core.model.dose_values import actual
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.keeping import Matters
from extendum.core.model.move import Move
from extendum.core.model.section import Group
from extendum.core.model.style import CueStyle
from extendum.core.timing.durations import work_seconds
from extendum.core.timing.sequence import Pass
from tests.strategies import move_items


def agrees(item, group, times, style):
    """Whether seconds, costs and weight of an item are those that the rules of one dose give."""
    passes = [Pass(item, group, 0, Side.BOTH, Side.LEFT, round=n + 1) for n in range(group.rounds)]
    found = choices_of([Visited(item, group, times)], style)[item.id]
    weights = []
    for choice in found.choices:
        dose, stage = item.dose_at(choice.stage), choice.stage
        wanted = actual(dose, style.breath_ms, dose.quantity.wanted)

        def lasting(value, stage=stage):
            return times * sum(
                work_seconds(one.item, stage, one.value(stage, style.breath_ms, value)) for one in passes
            )

        weights.append(lasting(wanted))
        for value, seconds, cost in zip(choice.values, choice.seconds.tolist(), choice.costs.tolist(), strict=True):
            assert seconds == lasting(value)
            off = isinstance(dose, Hold) and not dose.snap and value % 5 != 0
            wanted_s, dose_s = one_pass_s(item, stage, wanted), one_pass_s(item, stage, value)
            assert cost == dose_cost(wanted_s, dose_s, weights[-1], item.matters, off_grid=off)
        assert (choice.least_s, choice.most_s) == (choice.seconds.min(), choice.seconds.max())
    assert found.weight == sum(weights)


@given(
    move_items("a", 90), st.integers(1, 3), st.sampled_from((1, 2, 3, 9, 20)), st.sampled_from((100, 70, 33)), st.data()
)
def test_seconds_and_costs_are_those_of_each_dose_by_itself(item, times, rounds, taper, data):
    breath_ms = data.draw(st.sampled_from((6000, 6909)))
    group = Group("g", "", (item,), rounds=rounds, taper_percent=taper)
    style = CueStyle(breath_out_ms=breath_ms)
    agrees(item, group, times, style)
    for choice in choices_of([Visited(item, group, times)], style)[item.id].choices:
        for round_ in range(1, rounds + 1):
            one = Pass(item, group, 0, Side.BOTH, Side.LEFT, round=round_)
            done = in_round(item, choice.stage, np.array(choice.values), round_, taper, style.breath_ms)
            assert done.tolist() == [one.value(choice.stage, style.breath_ms, value) for value in choice.values]


def test_a_time_that_cannot_be_halved_is_done_for_the_even_part():
    halves = MoveItem("a", Move("Sway"), Timed(Elastic(7, 7, 7), Manner.HALVES))
    agrees(halves, Group("g", "", (halves,)), 1, CueStyle())


def test_costs_that_are_too_large_on_the_way_are_exact():
    long = MoveItem("a", Move("Long"), Hold(Elastic(1, 7200, 7200)), matters=Matters.MOST)
    group = Group("g", "", (long,), rounds=20)
    agrees(long, group, 20, CueStyle())
    short = replace(long, dose=Hold(Elastic(1, 10, 7200)))
    agrees(short, replace(group, items=(short,)), 20, CueStyle())
