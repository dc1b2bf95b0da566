"""A running order read in: forgiving about how it is written, right about what it says, safe with anything else."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.model.dose import Breaths, Hold, Open, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import CountIs, MoveItem
from extendum.core.model.move import Sidedness
from extendum.core.model.section import Role
from extendum.core.model.talk import Talk
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.timing.compile import compile_script
from extendum.formats.document import dumps, loads
from extendum.formats.dose_text import read_dose
from extendum.formats.library import shipped_move, shipped_moves
from extendum.formats.order_class import class_of, match_order
from extendum.formats.order_reader import LARGEST, MOST_ROWS, read_order
from extendum.formats.running_order import running_order

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"
EACH, ALT = Sidedness.EACH_SIDE, Sidedness.ALTERNATING


@pytest.mark.parametrize(
    ("text", "kind", "value", "sets", "sides"),
    [
        ("30s", Hold, 30, 1, None),
        ("30 sec each side", Hold, 30, 1, EACH),
        ("0:45 L/R", Hold, 45, 1, EACH),
        ("1:30", Hold, 90, 1, None),
        ("1 min", Hold, 60, 1, None),
        ("1.5 minutes per side", Hold, 90, 1, EACH),
        ("2 x 30s", Hold, 30, 2, None),
        ("2x8", Reps, 8, 2, None),
        ("3 sets of 10 reps", Reps, 10, 3, None),
        ("10-12 reps", Reps, 11, 1, None),
        ("8 reps alternating", Reps, 8, 1, ALT),
        ("20 to 30 s a side", Hold, 25, 1, EACH),
        ("5 slow breaths", Breaths, 5, 1, None),
        ("8", Reps, 8, 1, None),
        ("40", Hold, 40, 1, None),
        ("left and right, 20 s", Hold, 20, 1, EACH),
        ("until ready", Open, 30, 1, None),
        ("2 × 8 reps each side and way", Reps, 8, 2, Sidedness.EACH_SIDE_AND_DIRECTION),
    ],
)
def test_doses_as_people_write_them(text, kind, value, sets, sides):
    told = read_dose(text)
    assert (type(told.dose), told.dose.quantity.value, told.sets, told.sides) == (kind, value, sets, sides)
    assert told.dose.quantity.least <= value <= told.dose.quantity.most


def test_a_range_is_the_limits_and_a_move_says_what_a_bare_number_counts():
    assert read_dose("10-12 reps").dose.count == Elastic(10, 11, 12)
    breaths = shipped_move("slow-breaths-standing").dose
    assert read_dose("4", breaths).dose == breaths.having(read_dose("4 breaths", breaths).dose.quantity)
    assert read_dose("40", breaths).dose.quantity.value == 40
    assert isinstance(read_dose("40 s", Reps(Elastic(5, 8, 12))).dose, Timed)
    assert read_dose("12 in all").count_is is CountIs.TOTAL
    assert read_dose("each side").dose is None


@pytest.mark.parametrize("text", ["abc", "soon", "99999 s", "0 s", "900 reps"])
def test_a_dose_that_says_nothing_or_too_much_is_refused(text):
    with pytest.raises(RefusedError, match="dose"):
        read_dose(text)


MESSY = """Part;Exercise;How long;Sides;Notes
Warm up;;;;
;Shoulder rolls;8 reps;;
Main;;;;
;Calf stretch, lean on wall;2 x 30s;each side;
;Figure four (lying);0:45;L/R;
;hamstring w/ strap;30-40 sec;each leg;keep it soft
;Water break;30s;;
;Sun salute thing;2x8;;breathe
;Child pose;abc;;
;;20 s;;
Cool down;;;;
;Slow breaths lying;6 breaths;;
"""


def test_a_messy_list_is_read_line_by_line_with_what_is_wrong():
    order = read_order(MESSY.encode("cp1252"))
    assert order.columns == ("section", "item", "dose", "sides", "words")
    assert order.skipped == ((11, "no name of an item in 20 s"),)
    matches = match_order(order, shipped_moves())
    assert [one.entry.move.key if one.entry else one.talk for one in matches] == [
        "shoulder-circles", "calf-lean", "lying-figure-four", "lying-hamstring", "water", None, "childs-pose",
        "slow-breaths-lying",
    ]  # fmt: skip
    assert [(one.row.line, one.row.problems) for one in matches if one.row.problems] == [
        (10, ("dose: must be such as 30 s, 2 x 8, 10-12 reps or 3 breaths each side; found abc",))
    ]
    script = class_of("Tried", matches)
    assert [(s.name, s.role) for s in script.sections] == [
        ("Warm up", Role.WARM_UP), ("Main", Role.MAIN), ("Cool down", Role.CLOSING)
    ]  # fmt: skip
    items = list(script.items())
    assert (items[1].sets, items[1].dose.quantity.value) == (2, 30)
    assert items[3].dose.quantity == Elastic(30, 35, 40)
    assert isinstance(items[4], Talk)
    assert (items[5].move.key, items[5].words.there) == ("", "breathe")
    assert items[6].dose == shipped_move("childs-pose").dose
    assert script.brief.target_s == compile_script(script).length_s
    assert loads(dumps(script)) == script


def test_a_list_without_a_heading_and_one_in_one_column_are_read_too():
    plain = read_order("Calf lean, 30 s each side\nCat and cow, 8 reps\nWelcome, 20s\n")
    assert [(r.name, r.told.dose.quantity.value) for r in plain.rows] == [
        ("Calf lean", 30), ("Cat and cow", 8), ("Welcome", 20)
    ]  # fmt: skip
    single = read_order("Legs:\nCalf lean 30 s each side\nBridge 2x8\n")
    assert [(r.section, r.name, r.told.sets) for r in single.rows] == [("Legs", "Calf lean", 1), ("Legs", "Bridge", 2)]


@pytest.mark.parametrize("name", ["after-digging", "hall-two-rounds", "warm-voices", "wheel-wrists"])
def test_a_class_goes_out_as_csv_and_comes_back(name):
    script = loads((DEMO / f"{name}.json").read_bytes())

    def told(one):
        entries = cue_sheet(one, compile_script(one))
        return [(e.section.name, e.title, e.dose, e.sides) for e in entries if e.item.name != "Closing quiet"]

    text = running_order(cue_sheet(script, compile_script(script)))
    matches = match_order(read_order(text), shipped_moves())
    assert not any(one.row.problems for one in matches)
    back = class_of(script.title, matches)
    assert told(back) == told(script)


def test_a_class_goes_out_as_a_document_and_comes_back_the_same():
    script = loads((DEMO / "hall-two-rounds.json").read_bytes())
    assert loads(dumps(script)) == script


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "lines with the name of an item"),
        ("\n\n ; ; \n", "lines with the name of an item"),
        ("a\x00b", "must be text"),
        ("x" * (LARGEST + 1), "at most 1,000,000 bytes"),
        ("Calf lean, 30 s\n" * (MOST_ROWS + 1), f"at most {MOST_ROWS} lines"),
        ("Warm-up\nMain\n", "at least one line with the name"),
    ],
)
def test_what_is_no_list_is_refused_with_the_reason(text, said):
    with pytest.raises(RefusedError) as error:
        read_order(text)
    assert said in str(error.value)


@settings(max_examples=40, deadline=None)
@given(st.one_of(st.text(max_size=400), st.binary(max_size=400)))
def test_anything_is_read_or_refused_and_never_breaks(text):
    try:
        matches = match_order(read_order(text), shipped_moves()[:12])
    except RefusedError:
        return
    script = class_of("Tried", matches[:20])
    assert loads(dumps(script)) == script


@settings(max_examples=40, deadline=None)
@given(st.text("0123456789 -x×:.,'\"smine repatbchdl/&", max_size=40))
def test_any_dose_is_read_or_refused(text):
    try:
        told = read_dose(text)
    except RefusedError:
        return
    assert 1 <= told.sets <= 20
    item = MoveItem("a", shipped_move("calf-lean").move, told.dose or Hold(Elastic(5, 5, 5)), sets=told.sets)
    assert item.dose.quantity.least <= item.dose.quantity.value <= item.dose.quantity.most
