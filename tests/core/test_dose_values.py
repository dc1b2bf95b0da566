"""Which values a dose may take, and what a later round makes of them, worked out by hand."""

import numpy as np
import pytest

from extendum.core.model.body import Posture
from extendum.core.model.dose import Breaths, Hold, Manner, Pulses, Reps, Timed
from extendum.core.model.dose_values import allowed, conventional, nearest, tapered
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import CountIs, MoveItem
from extendum.core.model.move import Move, Sidedness
from extendum.core.model.style import CueStyle, HoldConvention
from extendum.core.timing.durations import work_seconds

BREATH_MS = 10_000


@pytest.mark.parametrize(
    ("dose", "even", "values"),
    [
        (Hold(Elastic(8, 9, 11)), False, (8, 9, 10, 11)),
        (Hold(Elastic(10, 20, 30), snap=True), False, (10, 20, 30)),
        (Hold(Elastic(11, 20, 29), snap=True), False, (20,)),
        (Reps(Elastic(3, 5, 7)), True, (4, 6)),
        (Reps(Elastic(3, 3, 3)), True, (3,)),  # as it was typed
        (Timed(Elastic(6, 8, 9), Manner.HALVES), False, (6, 8)),
    ],
)
def test_values_keep_to_limits_and_steps(dose, even, values):
    assert allowed(dose, BREATH_MS, even=even) == values


def test_breaths_that_are_no_whole_seconds_snap_to_the_next_one():
    assert allowed(Hold(Elastic(10, 20, 40), snap=True), 10_909) == (11, 22, 33)


@pytest.mark.parametrize(
    ("posture", "one_leg_most_s", "wanted", "values"),
    [
        (Posture.STANDING, 20, 20, range(15, 31)),
        (Posture.ONE_LEG, 20, 20, range(15, 21)),
        (Posture.ONE_LEG, 40, 20, range(15, 31)),  # the convention is narrower
        (Posture.ONE_LEG, 20, 23, range(15, 24)),  # a wish moves its own limit
        (Posture.STANDING, 20, 13, range(13, 31)),
    ],
)
def test_a_fit_keeps_to_the_convention_and_to_what_one_leg_may(posture, one_leg_most_s, wanted, values):
    style = CueStyle(holds=HoldConvention.ONCE, one_leg_most_s=one_leg_most_s)
    dose = Hold(Elastic(10, wanted, 40))
    assert style.holds.limits == (15, 30)
    assert conventional(allowed(dose, BREATH_MS), dose, style, posture) == tuple(values)


@pytest.mark.parametrize(
    ("dose", "even", "value", "round_", "taper", "then"),
    [
        (Hold(Elastic(5, 25, 40)), False, 25, 2, 70, 18),  # 17.5: half up
        (Hold(Elastic(5, 25, 40)), False, 24, 2, 70, 17),  # 16.8
        (Hold(Elastic(5, 25, 40)), False, 31, 2, 70, 22),  # 21.7
        (Hold(Elastic(5, 25, 40)), False, 23, 2, 70, 16),  # 16.1
        (Hold(Elastic(5, 25, 40)), False, 40, 3, 70, 20),  # 19.6
        (Hold(Elastic(20, 25, 40)), False, 25, 2, 70, 20),  # not below its limit
        (Hold(Elastic(10, 30, 40), snap=True), False, 30, 2, 50, 10),  # 15 is as near to 10 as to 20
        (Reps(Elastic(2, 10, 20)), True, 10, 2, 70, 6),  # 7, of 6 and 8 the smaller
        (Hold(Elastic(5, 25, 40)), False, 25, 1, 70, 25),
    ],
)
def test_later_rounds_taper(dose, even, value, round_, taper, then):
    assert tapered(dose, value, round_, taper, BREATH_MS, even=even) == then
    many = tapered(dose, np.array([value, value]), round_, taper, BREATH_MS, even=even)
    assert many.tolist() == [then, then]


def test_of_two_as_near_the_smaller_is_taken():
    assert [nearest((10, 20, 30), one) for one in (1, 14, 15, 16, 25, 99)] == [10, 10, 10, 20, 20, 30]
    assert nearest((10, 20, 30), np.array([1, 14, 15, 16, 25, 99])).tolist() == [10, 10, 10, 20, 20, 30]


@pytest.mark.parametrize(
    ("dose", "sidedness", "value", "seconds"),
    [
        (Hold(Elastic(1, 7, 9)), Sidedness.TOGETHER, 7, 7),
        (Timed(Elastic(1, 7, 9), Manner.HALVES), Sidedness.TOGETHER, 7, 6),
        (Reps(Elastic(1, 3, 9), 1500, 0, 1600, 0), Sidedness.TOGETHER, 3, 10),  # 9.3
        (Reps(Elastic(1, 3, 9), 1500, 0, 1600, 0), Sidedness.ALTERNATING, 3, 19),  # 18.6, three on each side
        (Pulses(Elastic(1, 2, 9)), Sidedness.TOGETHER, 2, 16),  # the last release belongs to coming out
        (Breaths(Elastic(1, 3, 9), 4000, 0, 6909, 0), Sidedness.TOGETHER, 3, 33),  # 32.727
    ],
)
def test_work_lasts_whole_seconds(dose, sidedness, value, seconds):
    item = MoveItem("a", Move("Sway", sidedness=sidedness), dose, count_is=CountIs.PER_SIDE)
    assert work_seconds(item, 1, value) == seconds
    assert work_seconds(item, 1, np.array([value])).tolist() == [seconds]
