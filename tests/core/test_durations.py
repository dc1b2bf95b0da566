"""How long ways and handling take, worked out by hand: what is put down, picked up, re-rigged, and who gets up."""

from dataclasses import replace

import pytest

from extendum.core.model.body import Posture, Side
from extendum.core.model.brief import Brief
from extendum.core.model.dose import Hold
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Move, Prop, Sidedness
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.timing.compile import compile_script

STRAP = Prop("strap")  # 5 s to pick up, 3 s to put down


def move(name, posture=Posture.STANDING, props=(), **more):
    return MoveItem(name, Move(name.title(), posture=posture, props=props, **more), Hold(Elastic(5, 10, 20)))


def talk(name, **handles):
    return Talk(name, Elastic(0, 1, 20), "", "Talk", TalkKind.PROPS, **handles)


def script(*items, start=Posture.STANDING, **more):
    sections = (Section("s", "", Role.MAIN, (Group("g", "", items, **more),)),)
    return Script("Worked out", Brief(), start_posture=start, sections=sections)


def lengths(one, item):
    return [(str(segment.kind), segment.seconds) for segment in compile_script(one).of_item(item)]


@pytest.mark.parametrize(
    ("handles", "taken", "way"),
    [
        ({}, 1, []),  # it stays in the hand
        ({"puts_down": ("strap",)}, 3, [("transition", 5)]),
        ({"picks_up": (STRAP,)}, 5, []),
        ({"puts_down": ("strap",), "picks_up": (Prop("block"),)}, 8, [("transition", 8)]),  # 3 + 5
    ],
)
def test_what_a_talk_puts_down_is_picked_up_again(handles, taken, way):
    one = script(move("first", props=(STRAP,)), talk("between", **handles), move("then", props=(STRAP,)))
    assert lengths(one, "between") == [("props", taken)]
    assert lengths(one, "then")[:-2] == way


@pytest.mark.parametrize(
    ("before", "posture", "seconds"),
    [
        (Posture.STANDING, Posture.STANDING, 0),
        (Posture.FORWARD_FOLD, Posture.STANDING, 5),  # slowly, the head last
        (Posture.ALL_FOURS, Posture.PLANK, 2),
        (Posture.STANDING, Posture.SUPINE, 11),
        (Posture.SUPINE, Posture.STANDING, 10),
    ],
)
def test_ways_last_what_the_table_of_postures_says(before, posture, seconds):
    ways = [s for kind, s in lengths(script(move("only", posture), start=before), "only") if kind == "transition"]
    assert sum(ways) == seconds


@pytest.mark.parametrize(
    ("posture", "ends", "props", "seconds"),
    [
        (Posture.STANDING, None, (), 2),
        (Posture.HALF_KNEELING, None, (), 5),
        (Posture.STANDING, None, (Prop("strap", rerig_s=8),), 10),
        (Posture.SUPINE, Posture.STANDING, (), 11),  # back down takes longer than changing sides
    ],
)
def test_changing_sides_takes_getting_back_or_the_change_whichever_is_longer(posture, ends, props, seconds):
    sided = move("sided", posture, props, end_posture=ends, sidedness=Sidedness.EACH_SIDE)
    assert ("switch", seconds) in lengths(script(sided), "sided")


def test_the_next_move_on_the_other_side_of_a_one_sided_posture_needs_a_change():
    lunge = {"posture": Posture.LUNGE, "sidedness": Sidedness.EACH_SIDE}
    one = script(move("first", **lunge), move("then", **lunge))
    assert ("transition", 4) in lengths(one, "then")  # from the right back to the left
    leads = replace(move("then", **lunge), lead_side=Side.RIGHT)
    other = script(move("first", **lunge), leads)
    assert "transition" not in dict(lengths(other, "then"))
