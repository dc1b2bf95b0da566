"""What may be done instead: chosen and given back, and nothing of either is lost."""

from dataclasses import replace

import pytest

from extendum.core.edit.choice_edits import (
    add_instead,
    add_route,
    choose_instead,
    choose_route,
    last_round_apart,
    remove_instead,
)
from extendum.core.edit.dose_edits import nudge
from extendum.core.edit.script_edits import add_group, add_move, new_script, set_group
from extendum.core.model.errors import RefusedError
from extendum.core.timing.layout import length_of
from extendum.formats.document import dumps, loads
from extendum.formats.library import shipped_move


@pytest.fixture
def script():
    made = new_script("Choices", 600)
    for key in ("calf-lean", "standing-side-reach"):
        made, _ = add_move(made, shipped_move(key))
    return made


def test_another_move_takes_the_place_of_an_item_and_gives_it_back_with_its_own_dose(script):
    ready = add_instead(script, "i2", shipped_move("seated-calf-strap"))
    longer = nudge(ready, "i2", 5)
    other = choose_instead(longer, "i2", 0)
    assert (other.item("i2").name, other.item("i2").instead[0].name) == (
        "Seated calf stretch with a strap",
        "Wall calf stretch",
    )
    assert length_of(other) != length_of(longer)
    back = choose_instead(other, "i2", 0)
    assert replace(back.item("i2"), taken="") == replace(longer.item("i2"), taken="")
    assert loads(dumps(other)) == other
    with pytest.raises(RefusedError, match="choice: must be one of the 1"):
        choose_instead(ready, "i2", 1)
    assert remove_instead(ready, "i2", 0).item("i2").instead == ()


def test_a_route_is_a_copy_that_can_be_taken_and_left_again(script):
    kept = add_route(script, "g1", "the standing route")
    group = kept.sections[0].groups[0]
    assert [item.name for item in group.routes[0].items] == ["Wall calf stretch", "Standing side bend"]
    changed, _ = add_move(kept, shipped_move("seated-twist"), "i3")
    assert len(changed.ids()) == len({*changed.ids()})
    taken = choose_route(changed, "g1", 0)
    group = taken.sections[0].groups[0]
    assert (group.route, [item.name for item in group.items]) == (
        "the standing route",
        ["Wall calf stretch", "Standing side bend"],
    )
    assert [route.name for route in group.routes] == ["the first route"]
    back = choose_route(taken, "g1", 0)
    assert [item.id for item in back.items()] == [item.id for item in changed.items()]
    assert loads(dumps(taken)) == taken


def test_the_last_round_on_its_own_lasts_what_it_lasted_but_for_its_set_ups(script):
    twice = set_group(add_group(script, "s1"), "g1", rounds=2, taper_percent=50)
    apart = last_round_apart(twice, "g1")
    first, second = apart.sections[0].groups[:2]
    assert (first.rounds, second.rounds) == (1, 1)
    assert [i.quantity.value for i in second.items] == [
        max(i.quantity.least, i.quantity.value // 2) for i in first.items
    ]
    with pytest.raises(RefusedError, match="two rounds or more"):
        last_round_apart(apart, "g1")
