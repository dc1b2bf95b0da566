"""Several rows at once: nothing is lost or changed on the way, and what they become is what was asked."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit import rows
from extendum.core.edit import script_edits as edit
from extendum.core.model.errors import RefusedError
from extendum.core.model.section import SidePlan
from extendum.core.model.talk import Quiet
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_move
from tests.strategies import scripts


def order(script):
    return [[[item.id for item in group.items] for group in section.groups] for section in script.sections]


def ids(script):
    return [item.id for item in script.items()]


@pytest.fixture
def script():
    made = edit.new_script("A class", 900)
    for key in ("calf-lean", "side-neck", "hip-hinge", "calf-lean", "squat"):
        made, _ = edit.add_move(made, shipped_move(key))
    return made


some_rows = scripts().flatmap(lambda s: st.tuples(st.just(s), st.sets(st.sampled_from(ids(s)), min_size=1)))


@given(some_rows, st.data())
def test_moving_rows_keeps_every_item_and_their_order_among_themselves(case, data):
    script, chosen = case
    groups = [g.id for s in script.sections for g in s.groups]
    at = data.draw(st.integers(0, 6))
    moved = rows.place_rows(script, chosen, data.draw(st.sampled_from(groups)), at)
    assert {i.id: i for i in moved.items()} == {i.id: i for i in script.items()}
    assert [i for i in ids(moved) if i in chosen] == [i for i in ids(script) if i in chosen]
    assert [i for i in ids(moved) if i not in chosen] == [i for i in ids(script) if i not in chosen]
    places = [ids(moved).index(i) for i in ids(moved) if i in chosen]
    assert places == list(range(places[0], places[0] + len(places)))
    by = data.draw(st.sampled_from((-1, 1)))
    shifted = rows.shift_rows(script, chosen, by)
    assert {i.id: i for i in shifted.items()} == {i.id: i for i in script.items()}
    assert [i for i in ids(shifted) if i in chosen] == [i for i in ids(script) if i in chosen]


@given(some_rows, st.booleans())
def test_rows_become_a_group_with_their_plan_and_the_class_still_compiles(case, chained):
    script, chosen = case
    plan = {"side_plan": SidePlan.CHAIN} if chained else {"rounds": 2}
    made, key = rows.group_rows(script, chosen, **plan)
    group = next(g for s in made.sections for g in s.groups if g.id == key)
    assert {item.id for item in group.items} == chosen
    assert group.side_plan is SidePlan.CHAIN if chained else group.rounds == 2
    assert {i.id: i for i in made.items()} == {i.id: i for i in script.items()}
    compile_script(made)


@given(some_rows)
def test_a_section_splits_before_a_row_and_nothing_else_moves(case):
    script, chosen = case
    item = min(chosen)
    made, key = rows.split_section(script, item, "New")
    assert ids(made) == ids(script)
    at = [s.id for s in made.sections].index(key)
    new = made.sections[at]
    assert new.name == "New"
    first = new.items[0].id if new.items else made.sections[at + 1].items[0].id
    assert first == item


def test_rows_in_the_middle_of_a_chain_leave_a_chain_before_and_after_them(script):
    chain = edit.set_group(script, "g1", side_plan=SidePlan.CHAIN)
    made, _ = rows.group_rows(chain, ["i3", "i4"], rounds=3)
    assert order(made)[0] == [["i2"], ["i3", "i4"], ["i5", "i6"]]
    first, middle, last = made.sections[0].groups
    assert (first.side_plan, middle.side_plan, last.side_plan) == (SidePlan.CHAIN, SidePlan.EACH_MOVE, SidePlan.CHAIN)
    assert (first.rounds, middle.rounds, last.rounds) == (1, 3, 1)
    assert rows.group_rows(made, ["i3", "i4"], side_plan=SidePlan.CHAIN)[0].sections[0].groups[1].rounds == 3


def test_rows_apart_are_gathered_where_the_first_of_them_is(script):
    made, _ = rows.group_rows(script, ["i6", "i2"], side_plan=SidePlan.CHAIN)
    assert order(made)[0] == [["i2", "i6"], ["i3", "i4", "i5"]]


def test_pasted_rows_are_copies_with_ids_of_their_own_and_no_quiet(script):
    pasted, first = rows.paste_rows(script, rows.rows_of(script, ["i2", "i1"]), "i3")
    assert ids(pasted) == ["i2", "i3", first, "i4", "i5", "i6", "i1"]
    assert replace(pasted.item(first), id="i2") == script.item("i2")
    assert sum(isinstance(item, Quiet) for item in pasted.items()) == 1
    with pytest.raises(RefusedError, match="moves or talks to paste"):
        rows.paste_rows(script, [script.item("i1")], None)


def test_doses_change_by_their_own_steps_and_locked_ones_stay(script):
    locked = replace(script.item("i3").quantity, locked=True)
    script = edit.replace_items(script, {"i3": script.item("i3").having(locked)})
    before = {item.id: item.quantity.value for item in script.items()}
    after = rows.nudge_rows(script, ["i1", "i2", "i3", "i4"], 1)
    more = {item.id: item.quantity.value - before[item.id] for item in after.items()}
    assert (more["i1"], more["i2"], more["i3"], more["i4"]) == (0, 5, 0, 1)


def test_what_is_not_in_the_class_is_refused_by_name(script):
    with pytest.raises(RefusedError, match="zz"):
        rows.remove_rows(script, ["i2", "zz"])
    with pytest.raises(RefusedError, match="none"):
        rows.shift_rows(script, [], 1)
    assert ids(rows.remove_rows(script, ["i2", "i5"])) == ["i3", "i4", "i6", "i1"]
    assert rows.shift_rows(script, ["i2", "i3"], -1) == script
