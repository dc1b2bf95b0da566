"""Edits: each gives a new script and leaves the old one as it was."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit import dose_edits
from extendum.core.edit import script_edits as edit
from extendum.core.edit.import_clashes import clashes
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.section import Role
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.formats.library import shipped_move
from tests.strategies import scripts


def order(script):
    return [[item.id for item in section.items] for section in script.sections]


@pytest.fixture
def script():
    made = edit.new_script("A class", 600)
    for key in ("calf-lean", "side-neck", "hip-hinge"):
        made, _ = edit.add_move(made, shipped_move(key))
    return made


def test_a_new_class_ends_in_its_closing_quiet():
    assert order(edit.new_script("A", 600)) == [[], ["i1"]]


def test_moves_go_before_the_closing_or_after_the_one_named(script):
    assert order(script) == [["i2", "i3", "i4"], ["i1"]]
    again, new = edit.add_move(script, shipped_move("bridge"), after="i2")
    assert (order(again), new) == ([["i2", "i5", "i3", "i4"], ["i1"]], "i5")


def test_an_item_crosses_into_the_next_section_and_back(script):
    down = edit.shift_item(script, "i4", 1)
    assert order(down) == [["i2", "i3"], ["i4", "i1"]]
    assert order(edit.shift_item(down, "i4", -1)) == [["i2", "i3", "i4"], ["i1"]]
    assert edit.shift_item(script, "i2", -1) == script
    assert edit.shift_item(script, "i1", 1) == script


@given(scripts(), st.data())
def test_reordering_loses_and_changes_no_item(script, data):
    ids = [item.id for item in script.items()]
    item = data.draw(st.sampled_from(ids))
    groups = [g.id for s in script.sections for g in s.groups]
    moved = edit.place_item(script, item, data.draw(st.sampled_from(groups)), data.draw(st.integers(0, 9)))
    shifted = edit.shift_item(moved, item, data.draw(st.sampled_from((-1, 1))))
    assert {i.id: i for i in shifted.items()} == {i.id: i for i in script.items()}


def test_a_new_wish_moves_the_limits_out_of_its_way(script):
    longer = dose_edits.nudge(script, "i2", 40).item("i2").quantity
    assert (longer.least, longer.wanted, longer.most, longer.value) == (15, 70, 70, 70)
    assert dose_edits.nudge(script, "i2", -999).item("i2").quantity.wanted == 1
    assert dose_edits.nudge(script, "i1", -999).item("i1").quantity.wanted == 0


def test_sections_go_where_their_role_belongs(script):
    script = edit.add_section(script, "Arrive", Role.OPENING)
    script = edit.add_section(script, "Legs", Role.MAIN)
    assert [s.name for s in script.sections] == ["Arrive", "Class", "Legs", "Close"]
    assert [s.name for s in edit.remove_section(script, script.sections[2].id).sections][2] == "Close"
    with pytest.raises(RefusedError, match="empty before it is removed"):
        edit.remove_section(script, "s1")


def test_what_is_not_there_is_refused(script):
    for wrong in (
        lambda: edit.remove_item(script, "zz"),
        lambda: edit.place_item(script, "i2", "zz", 0),
        lambda: edit.rename_section(script, "zz", "A"),
        lambda: edit.insert_item(script, Talk("t", Elastic(1, 1, 1)), after="zz"),
    ):
        with pytest.raises(RefusedError):
            wrong()


def test_moves_clash_where_they_have_one_key_and_are_not_the_same():
    script, _ = edit.add_move(edit.new_script("Given", 600), shipped_move("calf-lean"))
    own = shipped_move("calf-lean").move
    other = replace(own, name="Wall lean")
    assert clashes(script, {"calf-lean": own}) == {}
    assert clashes(script, {"calf-lean": other}) == {"calf-lean": (own, other)}
    assert clashes(script, {"bridge": other}) == {}


@pytest.mark.parametrize(("seconds", "allowed"), [(2, False), (3, True), (600, True), (601, False)])
def test_calls_of_the_time_left_are_three_seconds_to_ten_minutes_before_the_end(seconds, allowed):
    try:
        assert CueStyle(time_left=(seconds,)).time_left == (seconds,)
        assert allowed
    except RefusedError:
        assert not allowed
