"""Orders: against every permutation, with pins, and beyond what can be proved."""

import re
from dataclasses import replace
from itertools import permutations
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.edit.script_edits import remove_item, set_group
from extendum.core.model.errors import RefusedError
from extendum.core.model.section import Pin, SidePlan
from extendum.core.order.best_order import EXACT_UP_TO, Costs, best_tour
from extendum.core.order.section_order import (
    Changes,
    OrderBy,
    apply_order,
    broken_pins,
    changes_of,
    proposals,
    set_pins,
)
from extendum.core.order.told import cost_words
from extendum.core.timing.layout import length_of
from extendum.draw.order_lines import draw_order_lines
from extendum.formats.document import loads

HALL = loads((Path(__file__).parents[2] / "src/extendum/data/demo" / "hall-two-rounds.json").read_text())


@st.composite
def costs(draw, low, high):
    n = draw(st.integers(low, high))
    rng = np.random.default_rng(draw(st.integers(0, 10**6)))
    pair = rng.integers(0, 9, (n, n))
    other = rng.integers(0, 9, (n, n)) if draw(st.booleans()) else pair
    first = draw(st.none() | st.just(0))
    needs = [frozenset(draw(st.sets(st.integers(0, j - 1), max_size=1)) if j else ()) for j in range(n)]
    return Costs(
        rng.integers(0, 9, n),
        tuple(other if k % 2 else pair for k in range(n)),
        rng.integers(0, 9, n),
        rng.integers(0, 9, (n, n)) * draw(st.booleans()),
        rng.integers(0, 2, (n, n)) * draw(st.sampled_from((0, 5))),
        rng.integers(0, 2, (n, n)),
        tuple(needs),
        first,
    )


@given(costs(1, 6))
@settings(deadline=None)
def test_up_to_twelve_nothing_is_better(some):
    found = best_tour(some)
    assert sorted(found) == list(range(some.size))
    assert some.of(found) == min(some.of(list(order)) for order in permutations(range(some.size)))


@given(costs(EXACT_UP_TO + 1, 15))
@settings(deadline=None, max_examples=12)
def test_beyond_twelve_the_order_keeps_the_rules_and_no_swap_betters_it(some):
    found = best_tour(some)
    assert sorted(found) == list(range(some.size))
    cost = some.of(found)
    assert cost < 10**9
    for n in range(some.size - 1):
        assert some.of([*found[:n], found[n + 1], found[n], *found[n + 2 :]]) >= cost


def test_fewest_changes_beats_the_present_order_and_says_by_how_much():
    section = HALL.sections[2]
    ids = [item.id for item in section.items]
    mixed = apply_order(HALL, section.id, (*ids[::2], *ids[1::2]))
    found = {one.by: one for one in proposals(mixed, section.id)}
    for one in found.values():
        assert sorted(one.order) == sorted(ids)
        assert one.exact
        made = apply_order(mixed, section.id, one.order)
        assert made == one.script
        assert length_of(made) - length_of(mixed) == one.seconds
        assert changes_of(made, section.id) == one.after
    few = found[OrderBy.FEWEST_CHANGES]
    assert few.after.postures + few.after.props < few.before.postures + few.before.props
    heights = ["Cat-cow", "Half-kneeling hip flexor stretch", "Bridge"]
    down, up = ([HALL.item(i).name for i in found[by].order] for by in (OrderBy.HEAD_TO_FEET, OrderBy.FEET_TO_HEAD))
    assert [down.index(one) for one in heights] == sorted(down.index(one) for one in heights)
    assert [up.index(one) for one in heights] == sorted((up.index(one) for one in heights), reverse=True)


def test_no_order_of_a_small_section_has_fewer_changes_in_the_compiled_class():
    hall = remove_item(HALL, HALL.sections[1].items[0].id)
    section = hall.sections[1]
    few = next(one for one in proposals(hall, section.id) if one.by is OrderBy.FEWEST_CHANGES)

    def measure(order):
        made = apply_order(hall, section.id, order)
        inside, after = changes_of(made, section.id), changes_of(made, hall.sections[2].id)
        return inside.postures + inside.props + after.postures + after.props

    orders = permutations(item.id for item in section.items)
    assert measure(few.order) == min(map(measure, orders))


def test_a_chain_and_an_interleaved_group_are_not_said_to_be_proved():
    for plan in (SidePlan.CHAIN, SidePlan.INTERLEAVED):
        asked = set_group(HALL, HALL.sections[1].groups[0].id, side_plan=plan)
        assert not any(one.exact for one in proposals(asked, HALL.sections[1].id))


def test_pins_hold_in_every_proposal_and_what_breaks_them_is_named():
    section = HALL.sections[1]
    ids = [item.id for item in section.items]
    pinned = set_pins(HALL, section.id, (Pin(ids[-1]), Pin(ids[0], ids[2])))
    assert broken_pins(pinned.sections[1]) == [Pin(ids[-1]), Pin(ids[0], ids[2])]
    for one in proposals(pinned, section.id):
        assert one.order[0] == ids[-1]
        assert one.order.index(ids[0]) > one.order.index(ids[2])
        assert not broken_pins(one.script.sections[1])


@pytest.mark.parametrize(
    ("pins", "said"),
    [
        ((Pin("i3"), Pin("i4")), "the only first of its group"),
        ((Pin("i3", "i4"), Pin("i4", "i3")), "does not wait for itself"),
        ((Pin("i3"), Pin("i3", "i4")), "come first"),
        ((Pin("i3", "i9"),), "a move of the same group"),
        ((Pin("i9"),), "a move of this section"),
    ],
)
def test_pins_that_contradict_each_other_are_refused(pins, said):
    with pytest.raises(RefusedError, match=said):
        set_pins(HALL, HALL.sections[1].id, pins)


def test_what_an_order_costs_is_a_sentence():
    one = replace(
        proposals(HALL, HALL.sections[1].id)[0],
        before=Changes(4, 2),
        after=Changes(2, 3),
        seconds=-8,
        exact=True,
        moved=2,
    )
    assert cost_words(one) == (
        "2 fewer changes of posture (2 instead of 4), 1 more prop in or out of hand (3 instead of 2); 8 s shorter."
        " Proved the best."
    )
    alike = replace(one, after=one.before, seconds=0, exact=False)
    assert cost_words(alike) == "As many changes as now; the same length. Good, not proved the best."
    assert cost_words(replace(one, moved=0)) == "This is the present order."


def test_lines_lead_each_row_from_its_old_place_to_its_new_one():
    drawn = re.findall(r'M0 (\d+)C.*? 20 (\d+)" class="(\w+)"', draw_order_lines("abc", "acb"))
    assert drawn == [("5", "5", "stays"), ("25", "15", "went"), ("15", "25", "went")]
