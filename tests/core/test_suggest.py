"""Suggestions keep to the brief, are not in the class already, and say why."""

from dataclasses import replace

import pytest
from hypothesis import given, settings

from extendum.core.edit import script_edits as edit
from extendum.core.edit.brief_edits import apply_audience, audience_of
from extendum.core.model.audience import PROFILES, Condition, WhatNext
from extendum.core.model.body import Posture, Region, Stance
from extendum.core.model.brief import AtHand
from extendum.core.model.move import Kind, Move
from extendum.core.model.section import Role
from extendum.core.model.style import HoldConvention
from extendum.core.moves.objections import concerns, objections
from extendum.core.moves.suggest import Place, _effort, missing_areas, sets_to_begin, stand_ins, suggest
from extendum.formats.library import shipped_move, shipped_moves, starting_sets
from tests.strategies import scripts

MOVES = shipped_moves()
CHAIRS = next(one for one in PROFILES if one.name == "Older adults on chairs")


def briefed(script=None, **changes):
    script = script or edit.new_script("A", 600)
    return replace(script, brief=replace(script.brief, **changes))


def with_moves(script, *keys):
    return edit.add_moves(script, [(shipped_move(key), "") for key in keys])[0]


@settings(max_examples=28)
@given(scripts())
def test_what_is_suggested_keeps_to_the_brief_and_is_new_to_the_class(script):
    places = (None, *(item.id for item in script.items()))
    for after in places[:3]:
        found = suggest(script, MOVES, after)
        assert len(found) == len({one.entry.move.key for one in found}) <= 5
        for one in found:
            assert not objections(one.entry.move, script.brief)
            assert one.entry.move.key not in {item.move.key for item in script.moves()}
            assert set(one.cautions) == set(concerns(one.entry.move, script.brief))
        assert found == suggest(script, MOVES, after)


def test_a_missing_area_comes_first_and_is_named_as_the_reason():
    script = briefed(areas=(Region.CALF, Region.NECK))
    first = suggest(script, MOVES)[0]
    assert set(first.entry.move.main_regions) & {Region.CALF, Region.NECK}
    assert "still missing" in first.reasons[0]
    script = with_moves(script, "neck-turns", "heel-raises")
    assert missing_areas(script) == ()
    assert not any("still missing" in reason for one in suggest(script, MOVES) for reason in one.reasons)


def test_filling_a_brief_by_the_first_suggestion_alone_reaches_every_area():
    script = apply_audience(briefed(areas=(Region.NECK, Region.CALF, Region.DEEP_HIP, Region.WRIST)), CHAIRS)
    for _ in range(4):
        entry = suggest(script, MOVES)[0].entry
        script, _ = edit.add_move(script, entry)
        assert entry.move.posture in CHAIRS.postures
    assert missing_areas(script) == ()


def test_the_same_posture_is_preferred_and_getting_elsewhere_says_its_seconds():
    script = with_moves(briefed(), "seated-cat")
    found = suggest(script, MOVES, most=150)
    assert found[0].entry.move.posture is Posture.CHAIR
    assert "stays on a chair" in found[0].reasons
    lying = next(one for one in found if one.entry.move.key == "knees-to-chest")
    assert "12 s to get onto the back" in lying.reasons
    slow = replace(script, style=replace(script.style, pace_percent=200))
    lying = next(one for one in suggest(slow, MOVES, most=150) if one.entry.move.key == "knees-to-chest")
    assert "24 s to get onto the back" in lying.reasons


@pytest.mark.parametrize(
    ("role", "before", "kinds"),
    [
        (Role.OPENING, WhatNext.NOTHING, {Kind.BREATH}),
        (Role.WARM_UP, WhatNext.NOTHING, {Kind.MOBILITY, Kind.DYNAMIC, Kind.PULSE_RAISER}),
        (Role.CLOSING, WhatNext.NOTHING, {Kind.BREATH}),
        (Role.MAIN, WhatNext.STRENGTH, {Kind.MOBILITY, Kind.DYNAMIC, Kind.PULSE_RAISER}),
    ],
)
def test_each_part_of_a_class_gets_its_kind(role, before, kinds):
    script = edit.add_section(briefed(before=before), "Part", role)
    section = next(s for s in script.sections if s.name == "Part")
    script = with_moves(script, "standing-turns") if role is Role.CLOSING else script
    found = suggest(script, MOVES, section.groups[0].id)
    assert {one.entry.move.kind for one in found[:3]} <= kinds


@pytest.mark.parametrize(
    ("key", "changes", "said"),
    [
        ("calf-lean", {"postures": (Posture.CHAIR,)}, "lunge is not in the brief's postures"),
        ("soft-forward-hang", {"postures": (Posture.FORWARD_FOLD,)}, "standing is not in the brief's postures"),
        ("lying-hamstring", {"props": (AtHand("mat"),)}, "no strap at hand"),
        ("side-neck", {"props": (AtHand("chair", "stable, with arms"),)}, "must be without arms, and is with arms"),
        ("side-neck", {"props": (AtHand("wall"),)}, "no chair at hand"),
        ("seated-figure-four", {"conditions": (Condition.HIP_REPLACEMENT,)}, "Take small hip circles instead."),
        ("plank-stay", {"avoid": ("lying on the front", "plank")}, "the brief says to avoid “plank”"),
        ("half-kneeling-hip", {"avoid": ("kneeling",)}, "the brief says to avoid “kneeling”"),
    ],
)
def test_what_speaks_against_a_move_is_said(key, changes, said):
    found = objections(shipped_move(key).move, briefed(**changes).brief)
    assert len(found) == 1
    assert said in found[0]


@pytest.mark.parametrize(
    ("key", "changes"),
    [
        ("calf-lean", {}),
        ("side-neck", {"props": (AtHand("wall"),), "postures": (Posture.CHAIR,)}),
        ("side-neck", {"props": (AtHand("chair", "stable, without wheels, without arms"),)}),
        ("childs-pose", {"props": (AtHand("mat"),)}),  # its cushion is not required
        ("chin-glide", {"conditions": (Condition.NECK,)}),  # adapted, not left out
        ("neck-turns", {"avoid": ("necklace",)}),
    ],
)
def test_what_the_brief_allows_is_not_objected_to(key, changes):
    assert objections(shipped_move(key).move, briefed(**changes).brief) == ()


def test_a_profile_sets_pace_rate_holds_and_postures_and_can_be_kept_under_another_name():
    script = apply_audience(edit.new_script("A", 600), CHAIRS)
    assert script.start_posture is Posture.CHAIR
    assert (script.style.pace_percent, script.style.words_per_minute, script.style.one_leg_most_s) == (150, 145, 20)
    item = with_moves(script, "side-neck").moves()[0]
    assert (item.dose.quantity.least, item.dose.quantity.most) == (30, 30)
    own = audience_of(script, "Tuesday chairs")
    assert replace(own, name=CHAIRS.name, about=CHAIRS.about) == CHAIRS
    assert apply_audience(with_moves(edit.new_script("B", 60), "calf-lean"), CHAIRS).start_posture is Posture.STANDING


def test_a_move_is_taken_up_with_the_dose_of_the_convention_and_the_prompts_that_fit():
    script = briefed()
    short = replace(script, style=replace(script.style, holds=HoldConvention.REPEATED))
    repeated = with_moves(short, "calf-lean").moves()[0]
    assert (repeated.dose.quantity.wanted, repeated.sets) == (8, 3)
    assert [p.kind.value for p in repeated.words.prompts] == ["easier"]
    usual = with_moves(script, "calf-lean").moves()[0]
    assert (usual.dose.quantity.wanted, usual.sets) == (30, 1)
    assert len(usual.words.prompts) > 2
    assert with_moves(script, "calf-reps-then-stay").moves()[0].then[0].name == "stay"


def test_swapping_a_move_keeps_its_place_and_marks():
    script = with_moves(briefed(), "calf-lean", "side-neck")
    script = edit.mark(script, script.moves()[0].id, keep=edit.Keep.OPTIONAL)
    swapped = edit.swap_move(script, script.moves()[0].id, shipped_move("seated-calf-strap"))
    first = swapped.moves()[0]
    assert (first.id, first.keep, first.move.key) == (script.moves()[0].id, edit.Keep.OPTIONAL, "seated-calf-strap")


def test_what_stands_in_works_the_same_area_keeps_to_the_brief_and_prefers_the_moves_own_options():
    script = apply_audience(briefed(), CHAIRS)
    found = stand_ins(shipped_move("calf-lean").move, script, MOVES)
    assert found[0].move.key == "seated-calf-strap"
    strapless = replace(script, brief=replace(script.brief, props=(AtHand("chair"),)))
    found = stand_ins(shipped_move("calf-lean").move, strapless, MOVES)
    assert [entry.move.key for entry in found] == ["heel-raises"]
    assert not any(objections(entry.move, strapless.brief) for entry in found)


def test_sets_begin_an_empty_section_keep_to_the_brief_and_fit_its_part():
    script = apply_audience(briefed(), CHAIRS)
    found = sets_to_begin(script, MOVES, starting_sets())
    assert found[0].key == "warm-chair"
    assert not {"back-floor", "legs-wall"} & {one.key for one in found}
    for one in found:
        assert not any(objections(shipped_move(key).move, script.brief) for key in one.moves)
    begun = with_moves(script, "seated-cat")
    assert sets_to_begin(begun, MOVES, starting_sets()) == ()
    closing = sets_to_begin(begun, MOVES, starting_sets(), "g2")
    assert closing[0].key == "close-seated"
    assert "warm-chair" not in {one.key for one in closing}  # one of its moves is in the class


@pytest.mark.parametrize(
    ("role", "was", "effort", "points"),
    [
        (Role.MAIN, 2, 3, []),
        (Role.MAIN, 2, 4, [-12]),
        (Role.MAIN, 4, 1, [-24]),
        (Role.CLOSING, 2, 2, [8]),
        (Role.CLOSING, 2, 4, [-24]),
        (Role.WARM_UP, 2, 3, [8]),
    ],
)
def test_effort_rises_by_single_steps_and_not_into_the_close(role, was, effort, points):
    place = Place(role, Stance(Posture.STANDING), Move("Before", effort=was), frozenset(), (), frozenset(), True, False)
    assert [point for point, _ in _effort(Move("Next", effort=effort), place)] == points
