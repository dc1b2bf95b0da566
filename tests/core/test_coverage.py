"""Coverage counts the side that is worked, main and secondary apart."""

from dataclasses import replace

import pytest
from hypothesis import given

from extendum.core.checks.mends import limited, listed
from extendum.core.edit.script_edits import new_script
from extendum.core.model.body import Region, Side
from extendum.core.model.dose import Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Effect, Kind, Move, OnSide, Sidedness, Target
from extendum.core.model.section import Group, Section
from extendum.core.moves.cautions import is_spoken, lacking, spoken
from extendum.core.outputs.coverage import MIDDLE, coverage
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_moves
from tests.strategies import elastics, scripts

TEN = Reps(Elastic(10, 10, 10), out_ms=500, back_ms=500)


COLUMNS = [(side, main) for main in (True, False) for side in (Side.LEFT, Side.RIGHT)]


def class_of(move):
    items = (MoveItem("i", move, TEN),)
    return replace(new_script("One", 60), sections=(Section("s", groups=(Group("g", items=items),)),))


def worked(move):
    script = class_of(move)
    found = coverage(script, compile_script(script))
    return {key: tuple(one.seconds(side, main=main) for side, main in COLUMNS) for key, one in found.items()}


# (how it uses the sides, on which side the target is) -> main seconds left and right of a dose of 10 s
@pytest.mark.parametrize(
    ("sidedness", "on", "left_right"),
    [
        (Sidedness.TOGETHER, OnSide.NAMED, (10, 10)),
        (Sidedness.EACH_SIDE, OnSide.NAMED, (10, 10)),
        (Sidedness.EACH_SIDE, OnSide.OTHER, (10, 10)),
        (Sidedness.EACH_SIDE, OnSide.BOTH, (20, 20)),
        (Sidedness.ALTERNATING, OnSide.NAMED, (10, 10)),
        (Sidedness.ALTERNATING, OnSide.BOTH, (20, 20)),
        (Sidedness.EACH_SIDE_AND_DIRECTION, OnSide.NAMED, (20, 20)),
    ],
)
def test_each_side_gets_what_is_done_for_it(sidedness, on, left_right):
    target = Target(Region.CALF, Effect.STRETCH, side=on)
    found = worked(Move("One", sidedness=sidedness, targets=(target,)))
    assert found[Region.CALF, Effect.STRETCH] == (*left_right, 0, 0)


def test_a_target_on_the_other_side_is_counted_there_and_a_middle_one_once_for_both():
    targets = (
        Target(Region.CALF, side=OnSide.OTHER),
        Target(Region.FRONT_THIGH, main=False),
        Target(Region.SPINE, Effect.MOBILISE),
    )
    found = worked(Move("One", sidedness=Sidedness.EACH_SIDE, targets=targets))
    assert found[Region.SPINE, Effect.MOBILISE] == (20, 20, 0, 0)
    assert found[Region.FRONT_THIGH, Effect.STRETCH] == (0, 0, 10, 10)
    script = class_of(Move("One", sidedness=Sidedness.EACH_SIDE, targets=targets))
    timeline = compile_script(script)
    only_left = replace(timeline, segments=tuple(s for s in timeline.segments if s.side is Side.LEFT))
    calf = coverage(script, only_left)[Region.CALF, Effect.STRETCH]
    assert (calf.seconds(Side.LEFT), calf.seconds(Side.RIGHT)) == (0, 10)


@given(scripts())
def test_no_side_is_worked_longer_than_the_class_lasts_and_items_are_those_of_the_class(script):
    timeline = compile_script(script)
    working = sum(s.seconds for s in timeline.segments if s.kind.works)
    for (region, _), one in coverage(script, timeline).items():
        targets = max(len(item.targets_at(n)) for item in script.moves() for n in range(1, len(item.doses) + 1))
        for side in (Side.LEFT, Side.RIGHT):
            assert 0 <= one.seconds(side) <= working * targets
        if region in MIDDLE:
            assert one.seconds(Side.LEFT) == one.seconds(Side.RIGHT)
        assert set(one.items) <= {item.id for item in script.moves()}


@pytest.mark.parametrize("entry", shipped_moves(), ids=lambda entry: entry.move.key)
def test_every_caution_of_the_library_is_heard_when_it_is_spoken(entry):
    for caution in entry.move.cautions:
        line = spoken(caution)
        assert is_spoken(caution, line), line
        assert line[0].isupper() and line.endswith(".")
    assert lacking(entry.move) == ()


def test_a_caution_is_not_heard_in_other_words():
    entry = next(e for e in shipped_moves() if e.move.key == "cat-and-cow")
    assert not any(is_spoken(caution, "Come down to your mat.") for caution in entry.move.cautions)
    assert lacking(replace(entry.move, cautions=()))
    assert not lacking(Move("Plain", kind=Kind.MOBILITY))


@given(elastics())
def test_a_quantity_brought_within_limits_lies_within_them(quantity):
    inside = limited(quantity, 10, 20)
    assert 10 <= inside.value <= 20
    assert inside.least <= inside.wanted <= inside.most
    assert inside.locked == quantity.locked


@pytest.mark.parametrize(
    ("names", "told"),
    [((), ""), (("a",), "a"), (("a", "a", "b"), "a and b"), ("abcdef", "a, b, c, d and 2 more")],
)
def test_names_are_listed_up_to_four(names, told):
    assert listed(names) == told
