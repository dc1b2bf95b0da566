"""Words for the way to another support, what they listen to, and what stands in for a prop."""

from dataclasses import replace
from itertools import product

import pytest

from extendum.core.edit.script_edits import add_move, new_script, set_group
from extendum.core.edit.way_edits import set_rig
from extendum.core.listening.support import sends_to
from extendum.core.model.body import Base, Posture, Side
from extendum.core.model.brief import AtHand
from extendum.core.model.dose import Hold
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Move, Prop, Sidedness
from extendum.core.model.placeholders import fill
from extendum.core.model.section import Group, PassRef, SidePlan
from extendum.core.model.timeline import CueKind
from extendum.core.model.ways import WayWords, usual_way_words, way_words
from extendum.core.model.words import Words
from extendum.core.moves.objections import objections
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.timing.at_hand import as_taught, renamed
from extendum.core.timing.compile import compile_script
from extendum.core.timing.needs import needs_of
from extendum.formats.library import shipped_move


def test_the_way_to_every_posture_on_another_support_has_words_that_send_there():
    for before, after in product(Posture, Posture):
        words = usual_way_words(before, after)
        assert bool(words) is (Base.of(before) is not Base.of(after))
        assert not words or Base.of(after) in sends_to(words)


@pytest.mark.parametrize(
    ("words", "base"),
    [
        ("When you are ready, roll to your side and rise.", Base.STANDING),
        ("Slide forward, plant your feet and get up.", Base.STANDING),
        ("Please take a seat.", Base.CHAIR),
        ("Sit tall, near the edge.", Base.CHAIR),
        ("Settle on the mat with one leg crossed.", Base.FLOOR),
        ("Kneel, the {side} foot in front.", Base.FLOOR),
        ("From there, onto your back, arms by your sides.", Base.LYING),
        ("We end lying down.", Base.LYING),
    ],
)
def test_words_that_send_people_somewhere_are_heard(words, base):
    assert base in sends_to(words)


@pytest.mark.parametrize(
    "words",
    [
        "Hands on your knees.",
        "Soften your standing leg.",
        "Put one hand on your back.",
        "Press both feet to the floor.",
        "Don't sit down yet.",
        "Feel both sit bones.",
        "Reach your arms up.",
    ],
)
def test_words_that_send_nobody_anywhere_are_not(words):
    assert sends_to(words) == frozenset()


def singers(**words):
    move = Move("Cat-cow", posture=Posture.CHAIR)
    script, item = add_move(
        new_script("Choir", 120), replace(shipped_move("seated-cat"), move=move, words=Words(**words))
    )
    return script, item


def ways(script):
    return [cue.text for cue in compile_script(script).cues if cue.kind is CueKind.WAY]


def test_a_choir_that_stands_is_told_to_sit_before_its_hands_go_to_its_knees():
    script, _ = singers(there="Hands on your knees.")
    assert ways(script) == ["Have a seat on your chair."]
    assert ways(singers(moving="Sit down, hands on your knees.")[0]) == []
    own = replace(script.style, way_words=(WayWords(Base.STANDING, Posture.CHAIR, "Chairs, everybody."),))
    assert ways(replace(script, style=own)) == ["Chairs, everybody."]


def test_the_words_of_an_instructor_are_for_one_support_and_posture_alone():
    own = (WayWords(Base.STANDING, Posture.SUPINE, "Down we go."),)
    assert way_words(Posture.LUNGE, Posture.SUPINE, own) == "Down we go."
    assert way_words(Posture.LUNGE, Posture.PRONE, own) == usual_way_words(Posture.LUNGE, Posture.PRONE)
    assert way_words(Posture.CHAIR, Posture.SUPINE, own) == usual_way_words(Posture.CHAIR, Posture.SUPINE)


def test_a_thing_that_stands_in_has_its_article_its_plural_and_its_capital():
    words = "Take a strap. Strap round one foot, both straps in hand, unstrapped."
    assert renamed(words, {"strap": "elastic band"}) == (
        "Take an elastic band. Elastic band round one foot, both elastic bands in hand, unstrapped."
    )


def strapped(*props, at_hand=()):
    move = Move("Strap reach", props=props)
    entry = replace(shipped_move("seated-cat"), move=move, words=Words(moving="Take the strap."))
    script, _ = add_move(new_script("Straps", 120), entry)
    return replace(script, brief=replace(script.brief, props=tuple(at_hand)))


def test_a_brief_that_has_only_a_towel_hears_of_a_towel_and_is_content():
    script = strapped(Prop("strap", "long"), at_hand=[AtHand("towel", counts_as="strap")])
    assert needs_of(as_taught(script).moves()).told == "You'll need a long towel."
    assert "Take the towel." in [cue.text for cue in compile_script(script).cues]
    assert objections(script.moves()[0].move, script.brief) == ()


def test_a_bicycle_that_counts_as_a_wall_is_not_picked_up():
    script = strapped(Prop("wall"), at_hand=[AtHand("bicycle", counts_as="wall")])
    (bicycle,) = as_taught(script).moves()[0].move.props
    assert (bicycle.name, bicycle.pick_up_s, bicycle.put_down_s) == ("bicycle", 0, 0)
    assert objections(script.moves()[0].move, script.brief) == ()


def test_what_a_move_takes_as_well_is_needed_or_used_where_it_is_there():
    prop = Prop("strap", or_else=("belt", "towel"))
    assert needs_of(strapped(prop).moves()).told == "You'll need a strap, a belt or a towel."
    assert [p.name for p in as_taught(strapped(prop, at_hand=[AtHand("belt")])).moves()[0].move.props] == ["belt"]
    (told,) = objections(strapped(prop).moves()[0].move, replace(strapped(prop).brief, props=(AtHand("mat"),)))
    assert told == "no strap, or a belt or towel at hand"


def test_what_nobody_needs_is_used_only_where_it_is_there():
    prop = Prop("cushion", required=False)
    assert as_taught(strapped(prop, at_hand=[AtHand("mat")])).moves()[0].move.props == ()
    assert as_taught(strapped(prop, at_hand=[AtHand("cushion")])).moves()[0].move.props == (prop,)
    assert as_taught(strapped(prop)).moves()[0].move.props == (prop,)


def test_a_prop_that_the_item_does_not_have_cannot_be_put_on():
    script, item = singers()
    with pytest.raises(RefusedError, match="a prop of Cat-cow"):
        set_rig(script, item, "strap", "round one foot", 8)


@pytest.mark.parametrize(
    ("passes", "said"),
    [
        ([("left", "up"), ("right", "up"), ("left", "down")], "as many of a left as of its other side"),
        ([("left", "up"), ("right", "up")], "at least one, down"),
        ([("left", "sideways"), ("right", "")], "one of up, down; found sideways"),
        ([("both", ""), ("left", "")], "left or right where the item has sides"),
    ],
)
def test_passes_of_an_interleaved_group_do_every_direction_on_both_sides(passes, said):
    move = Move("Palms", sidedness=Sidedness.EACH_SIDE_AND_DIRECTION, directions=("up", "down"))
    refs = tuple(PassRef("a", Side(side), way) for side, way in passes)
    with pytest.raises(RefusedError, match=said):
        Group("g", items=(MoveItem("a", move, Hold(Elastic(5, 5, 5))),), side_plan=SidePlan.INTERLEAVED, passes=refs)


def test_one_of_what_is_counted_is_said_as_one():
    told = "{minutes} minutes, {moves} moves, and {minutes} more seconds"
    assert fill(told, {"minutes": "1", "moves": "21"}) == "1 minute, 21 moves, and 1 more second"


def test_what_comes_after_a_round_of_one_move_is_that_move_again():
    script, _ = add_move(new_script("Rounds", 120), shipped_move("heel-digs"))
    script = set_group(script, "g1", rounds=2)
    said = [cue.text for cue in compile_script(script).cues if cue.kind is CueKind.NEXT]
    assert said == ["Next, Heel digs with arm curls."]


def test_a_cue_sheet_names_what_stands_in():
    script = strapped(Prop("strap", "long"), at_hand=[AtHand("towel", counts_as="strap")])
    entries = cue_sheet(script, compile_script(script))
    assert {prop for entry in entries for prop in entry.props} == {"towel"}
