"""The fit against a general solver, on random classes with every feature; `make bench` asks five hundred."""

from random import Random

import pytest

from bench.oracle import least_cost
from bench.random_classes import random_class
from extendum.core.edit.script_edits import add_group, add_move, new_script, set_group, set_move_item
from extendum.core.fit.fit import Fitter
from extendum.core.model.item import DirectionOrder
from extendum.core.model.keeping import Keep
from extendum.core.model.section import SidePlan
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_move


@pytest.mark.parametrize("seed", range(24))
def test_same_least_cost_as_a_general_solver(seed):
    script, rng = random_class(seed, 3 + seed % 6), Random(seed)  # noqa: S311 - repeated, not secret
    fitter = Fitter(script)
    target = fitter.least_s + round((fitter.most_s - fitter.least_s) * rng.uniform(-0.1, 1.1))
    result = fitter.fit(target)
    assert result.cost == least_cost(script, target)
    if result.reached:
        assert compile_script(result.script).length_s == target


def test_a_chain_of_which_only_what_is_between_the_sides_stays():
    """From the second round on, what is between the sides comes after itself."""
    script = new_script("Chain", 120)
    script, _ = add_move(script, shipped_move("calf-lean"))
    script = set_group(add_group(script, "s1"), "g3", side_plan=SidePlan.CHAIN, rounds=3)
    script, between = add_move(script, shipped_move("bridge"))
    script = set_move_item(script, between, between=True, keep=Keep.OPTIONAL)
    fitter = Fitter(script)
    for target in range(fitter.least_s, fitter.most_s + 1, 7):
        assert fitter.cost_of(target) == least_cost(script, target)
    assert not fitter.fit(fitter.least_s).script.item(between).present
    assert fitter.fit(fitter.most_s).script.item(between).present


def test_the_random_classes_have_every_feature():
    groups = [g for seed in range(60) for s in random_class(seed, 10).sections for g in s.groups]
    items = [item for group in groups for item in group.items]
    moves = [item for item in items if item.tag == "move"]
    assert {(g.side_plan.value, g.rounds > 1) for g in groups} == {
        (plan, often) for plan in ("each move", "whole chain", "interleaved") for often in (False, True)
    }
    assert any(g.taper_percent < 100 for g in groups) and any(g.cadence_s for g in groups)
    assert {item.dose.tag for item in moves} == {"hold", "pulses", "reps", "breaths", "timed", "open"}
    for told in (
        lambda i: i.then,
        lambda i: i.sets > 1,
        lambda i: i.between,
        lambda i: i.even(1),
        lambda i: i.move.sidedness.by_direction and i.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION,
        lambda i: getattr(i.dose, "snap", False),
        lambda i: i.dose.quantity.locked,
        lambda i: "{seconds}" in i.words.there,
    ):
        assert any(told(item) for item in moves)
    assert {item.keep.value for item in items if item.tag != "quiet"} == {"always in", "may be left out"}
