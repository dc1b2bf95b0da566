"""What is to do at home: marked moves in doses of their own, once; or else the class as it is."""

from dataclasses import replace
from importlib.resources import files

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit.home import set_home
from extendum.core.edit.script_edits import replace_items
from extendum.core.model.errors import RefusedError
from extendum.core.outputs.at_home import at_home, home_class
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads

DEMO = files("extendum.data").joinpath("demo")
DIGGING = loads(DEMO.joinpath("after-digging.json").read_bytes())
ROUNDS = loads(DEMO.joinpath("hall-two-rounds.json").read_bytes())


def told(script):
    return at_home(script, cue_sheet(script, compile_script(script)))


@given(st.data())
def test_a_home_class_has_what_is_marked_once_and_never_more_of_it(data):
    script = data.draw(st.sampled_from([DIGGING, ROUNDS]))
    moves = {item.id: item for item in script.moves()}
    chosen = data.draw(st.lists(st.sampled_from(sorted(moves)), min_size=1, max_size=5, unique=True))
    doses = {one: data.draw(st.integers(1, moves[one].quantity.value)) for one in chosen}
    marked = set_home(script, doses, " once a day ")
    found = home_class(marked)
    assert marked.often == "once a day"
    assert {item.id: item.quantity.value for item in found.moves()} == doses
    assert [one.item.id for one in told(marked)] == [item.id for item in script.moves() if item.id in doses]
    assert all(segment.round == 1 for segment in compile_script(found).segments)
    assert home_class(set_home(marked, {}, "")) == set_home(script, {}, "")


def test_every_round_of_an_unmarked_class_is_told_with_how():
    by_name = {one.item.name: one for one in told(ROUNDS)}
    assert by_name["Child's pose"].dose == "30 s, then 21 s"
    assert by_name["Lying twist"].dose == "22 s, then 15 s each side"
    assert by_name["Wall calf stretch"].dose == "25 s each side"
    assert by_name["Lying twist"].how == "Lower both knees to the left."


def test_a_dose_at_home_is_one_that_the_class_does():
    first = DIGGING.moves()[0]
    for doses in ({first.id: first.quantity.value + 1}, {first.id: 0}, {"nothing": 3}):
        with pytest.raises(RefusedError):
            set_home(DIGGING, doses, "")
    # A class that was fitted shorter since then gives no more than it has.
    marked = set_home(DIGGING, {first.id: first.quantity.value}, "")
    short = replace(first, home=first.quantity.value).having(first.quantity.wanting(1))
    assert home_class(replace_items(marked, {first.id: short})).moves()[0].quantity.value == 1
