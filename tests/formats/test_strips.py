"""The strips of the panel and of a group, and the sheet in the room of a window: nothing lies outside."""

import re
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit.script_edits import add_move, new_script, set_group
from extendum.core.model.dose import COUNTED
from extendum.core.model.section import SidePlan
from extendum.core.timing.compile import compile_script
from extendum.draw.group_strip import draw_group
from extendum.draw.pass_strip import SHORT, draw_amount, draw_pass
from extendum.draw.ruling import LEAST_PITCH, ruling_in
from extendum.formats.library import shipped_move
from extendum.web.classes.strips import strips_of
from tests.strategies import scripts


def strips(script, width=640.0):
    timeline = compile_script(script)
    return [(item, strip) for item in script.moves() for strip in strips_of(item, timeline, width)]


@given(scripts(), st.sampled_from([430.0, 640.0, 1200.0]))
def test_every_part_of_a_pass_can_be_typed_and_lies_inside_its_strip(script, width):
    for _, strip in strips(script, width):
        fields = [one.field for one in strip.typed]
        assert {"least", "wanted", "most"} <= set(fields)
        for one in strip.typed:
            assert one.x >= -4
            assert one.x + one.wide <= width + 160
        for one in strip.handles:
            assert 0 <= one.x <= width + 1
            assert one.per_px > 0


@pytest.mark.parametrize("key", ["calf-lean", "hip-hinge", "slow-breaths-standing"])
def test_the_peg_stands_where_the_dose_is_and_limits_on_their_sides(key):
    script, _ = add_move(new_script("One", 600), shipped_move(key))
    (move, strip), *_ = strips(script)
    at = {one.field: one.x for one in strip.handles if one.y < SHORT}
    assert at["least"] <= at["wanted"] <= at["most"]
    quantity = move.dose.quantity
    per = {one.field: one.per_px for one in strip.handles}["wanted"]
    if not isinstance(move.dose, COUNTED):
        assert at["most"] - at["wanted"] == pytest.approx((quantity.most - quantity.value) / per)
    typed = {one.field: one.value for one in strip.typed}
    assert (typed["least"], typed["most"]) == (str(quantity.least), str(quantity.most))


def test_both_sides_are_two_lines_and_what_is_done_together_is_one():
    script, _ = add_move(new_script("Two", 600), shipped_move("calf-lean"))
    script, _ = add_move(script, shipped_move("squat"))
    (_, calf), (_, squat) = strips(script)
    assert calf.height > squat.height
    assert ">left<" in calf.drawing and ">right<" in calf.drawing
    assert ">left<" not in squat.drawing
    assert "switch_s" in {one.field for one in calf.handles}


def test_a_group_is_drawn_in_its_order_with_later_rounds_below():
    script = new_script("Rounds", 900)
    for key in ("calf-lean", "squat"):
        script, _ = add_move(script, shipped_move(key))
    script = set_group(script, "g1", side_plan=SidePlan.CHAIN, rounds=2, taper_percent=60)
    timeline = compile_script(script)
    own = [s for s in timeline.segments if s.item in ("i2", "i3")]
    drawn = draw_group(own, {"i2": 1, "i3": 2}, 700, framed="i2")
    boxes = [tuple(map(float, one)) for one in re.findall(r'<rect x="([\d.]+)" y="([\d.]+)" width="([\d.]+)"', drawn)]
    assert drawn.count('class="frame"') == 2 * 2  # both sides, twice
    rows = {y // 34 for _, y, _ in boxes}
    assert rows == {0.0, 1.0}
    longest = [max(x + wide for x, y, wide in boxes if y // 34 == row) for row in (0.0, 1.0)]
    assert longest[1] < longest[0] <= 700
    assert "round 2" in drawn


@given(st.integers(60, 7200), st.integers(300, 2600), st.integers(150, 1400))
def test_a_sheet_fills_its_room_and_its_lines_can_be_read(seconds, wide, high):
    ruling = ruling_in(seconds, wide, high)
    assert ruling.width == wide
    assert ruling.pitch >= LEAST_PITCH
    assert ruling.columns == 1 or ruling.column >= 360
    assert ruling.per_column * ruling.columns >= ruling.lines
    places = [ruling.place(line) for line in range(ruling.lines)]
    assert all(x + 60 * ruling.second <= wide + 1 for x, _ in places)
    assert all(a[1] < b[1] or a[0] < b[0] for a, b in pairwise(places))
    if -(-ruling.lines // ruling.columns) * LEAST_PITCH <= high - 8:
        assert ruling.height <= high + 9


def test_a_narrow_band_of_a_talk_says_less():
    script, _ = add_move(new_script("One", 600), shipped_move("calf-lean"))
    quantity = script.item("i2").quantity.at(20)
    assert "now 20" in next(one.unit for one in draw_amount(quantity, 300).typed if one.field == "wanted")
    assert "fitted to 20 s" in next(one.unit for one in draw_amount(quantity, 700).typed if one.field == "wanted")
    assert draw_pass(script.item("i2").dose, [], [], 500).drawing
