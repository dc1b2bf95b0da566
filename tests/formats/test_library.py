"""The shipped library as data: every move is complete, and says nothing that its facts deny."""

import re
from dataclasses import replace

import pytest

from extendum.core.edit.script_edits import add_moves, new_script
from extendum.core.edit.take_up import take_up
from extendum.core.model.audience import PROFILES, Condition, WhatNext
from extendum.core.model.body import Posture, Region
from extendum.core.model.dose import Hold
from extendum.core.model.item import may_go
from extendum.core.model.move import Effect, Kind, OptionKind
from extendum.core.model.prompts import PromptKind
from extendum.core.model.style import CueStyle, HoldConvention
from extendum.core.model.timeline import CueKind
from extendum.core.moves.cautions import ABOUT
from extendum.core.moves.find import Query, find
from extendum.core.moves.otherwise import left_out_with
from extendum.core.outputs.wording import literal_sides
from extendum.core.timing.compile import compile_script
from extendum.formats.library import form_of, shipped_move, shipped_moves, starting_sets
from extendum.formats.sources import shipped_sources

MOVES = shipped_moves()
each_move = pytest.mark.parametrize("entry", MOVES, ids=lambda entry: entry.move.key)
#: The longest text of each kind, in words: what can be said while people get there.
LONGEST = {"moving": 24, "there": 24, "short": 14, "switch": 14, "turn": 8, "release": 16}
LONGEST_SENTENCE, LONGEST_PROMPT = 15, 16
PUSHING = re.compile(r"\b(force|through the pain|as far as you can|no pain|must|detox|cure|injur)", re.I)
#: What somebody who cannot see the teacher has to hear, by posture, to know where to be.
GETS_THERE = {
    Posture.CHAIR: r"\b[Ss]it\b|seat",
    Posture.CHAIR_EDGE: r"\b[Ss]it\b|seat",
    Posture.LONG_SITTING: r"\b[Ss]it\b",
    Posture.STRADDLE: r"\b[Ss]it\b",
    Posture.CROSS_LEGGED: r"\b[Ss]it\b",
    Posture.HEELS: r"[Kk]neel|hands and knees",
    Posture.KNEELING: r"[Kk]neel|hands and knees",
    Posture.HALF_KNEELING: r"[Kk]neel|hands and knees",
    Posture.ALL_FOURS: r"hands and knees",
    Posture.PLANK: r"hands and knees",
    Posture.SUPINE: r"[Ll]ie (?:on your )?back",
    Posture.PRONE: r"[Ll]ie on your front",
    Posture.SIDE_LYING: r"[Ll]ie on (?:your|whichever)",
    Posture.LUNGE: r"\bstep|place your \{(?:side|other)\} foot|\{side\} foot",
    Posture.ONE_LEG: r"[Hh]old|[Ss]tand",
    Posture.DEEP_SQUAT: r"[Ss]tand",
    Posture.FORWARD_FOLD: r"[Ss]tand|[Hh]old",
    Posture.STANDING: r"[Ss]tand|wall|[Ss]tep|\bheel\b|arms?\b|hands?\b|\bHold\b",
}


def sentences(text):
    return [one for one in re.split(r"(?<=[.!?])\s+", text) if one]


def regions(move):
    return {target.region for target in move.targets}


def needed(move):
    return {prop.name for prop in move.props if prop.required}


def test_enough_moves_with_keys_and_names_of_their_own_in_every_posture_and_area():
    assert len(MOVES) >= 150
    assert len({entry.move.key for entry in MOVES}) == len({entry.move.name for entry in MOVES}) == len(MOVES)
    assert {entry.move.posture for entry in MOVES} == set(Posture)
    assert {region for entry in MOVES for region in entry.move.main_regions} == set(Region)
    assert {entry.move.kind for entry in MOVES} == set(Kind)
    assert {target.effect for entry in MOVES for target in entry.move.targets} == set(Effect)
    props = {prop.name for entry in MOVES for prop in entry.move.props}
    assert props >= {"chair", "wall", "strap", "cushion", "block", "ball", "stick", "mat", "towel"}


@pytest.mark.parametrize("region", [r for r in Region if r not in (Region.BREATH, Region.WHOLE_BODY)])
def test_every_area_can_be_worked_both_standing_or_lying_and_on_a_chair(region):
    own = [entry.move for entry in MOVES if region in regions(entry.move)]
    chair = [move for move in own if move.posture in (Posture.CHAIR, Posture.CHAIR_EDGE)]
    assert chair, "nothing for people on chairs"
    assert len(own) > len(chair), "nothing but on chairs"


@each_move
def test_words_are_complete_of_a_sensible_length_and_leave_sides_to_the_placeholders(entry):
    move, words = entry.move, entry.words
    assert words.moving or words.there
    assert words.short
    assert words.release
    assert bool(words.switch) == move.sided
    assert bool(words.turn) == move.sidedness.by_direction
    for name, longest in LONGEST.items():
        assert len(getattr(words, name).split()) <= longest, name
    assert len(words.short.split()) < len(f"{words.moving} {words.there}".split())
    assert all(len(prompt.text.split()) <= LONGEST_PROMPT for prompt in words.prompts)
    assert all(len(one.split()) <= LONGEST_SENTENCE for one in sentences(f"{words.moving} {words.there}"))
    assert re.search(GETS_THERE[move.posture], f"{words.moving} {words.there}"), "where to be is not said"
    assert not set(sentences(words.switch)) & set(sentences(words.release)), "the switch repeats the release"
    prompts = (told for prompt in words.prompts for told in prompt.wordings)
    for text in (*words.timed(), words.each, words.demonstration, *prompts):
        assert not literal_sides(text), text
        assert not PUSHING.search(text), text
        assert move.sided or not re.search(r"\{(side|other)\}", text), text
    if move.sided:
        for text in (f"{words.moving} {words.there}", words.short, words.switch):
            assert "{side}" in text, text


@each_move
def test_prompts_say_what_to_feel_how_to_breathe_and_what_is_easier(entry):
    kinds = [prompt.kind for prompt in entry.words.prompts]
    assert {PromptKind.FEEL, PromptKind.FORM, PromptKind.BREATH, PromptKind.EASIER} <= set(kinds)
    assert PromptKind.DEEPER in kinds or entry.move.kind is Kind.BREATH
    assert len(entry.move.ways(OptionKind.ADJUST)) == 1
    assert len(set(kinds)) == len(kinds)


@each_move
def test_another_posture_works_the_same_area_and_needs_no_missing_prop(entry):
    move = entry.move
    other = shipped_move(move.option(OptionKind.OTHER_POSTURE).move).move
    assert other.posture is not move.posture
    assert set(move.main_regions) & regions(other)
    easier = move.option(OptionKind.EASIER)
    if easier and easier.move:
        found = shipped_move(easier.move).move
        assert found.effort <= move.effort
        assert set(move.main_regions) & regions(found)
    deeper = move.option(OptionKind.DEEPER)
    if deeper and deeper.move:
        assert set(move.main_regions) & regions(shipped_move(deeper.move).move)
    without = move.option(OptionKind.WITHOUT_PROP)
    assert without or needed(move) <= {"mat"}
    if without and without.move:
        assert not (needed(move) - {"mat"}) & needed(shipped_move(without.move).move)
    for option in move.options:
        assert not option.move or shipped_move(option.move)


@each_move
def test_every_condition_is_considered_once_and_what_to_do_is_a_sentence(entry):
    """Left out, adapted, or no usual objection: it is stated, and a left-out move names one that may be done."""
    move, named = entry.move, [caution.condition for caution in entry.move.cautions]
    assert sorted((*named, *entry.no_objection)) == sorted(Condition)
    assert move.space
    for one in move.cautions:
        assert re.fullmatch(r"[A-Z][^—]+\.", one.advice)
        assert one.leave_out == bool(one.instead), "what is left out names what to do"
        assert one.leave_out or not re.match(r"(?:Leave it out|Do it seated|Take the .* instead)", one.advice), (
            one.advice
        )
        if one.instead:
            assert not left_out_with(shipped_move(one.instead).move, one.condition), one


@each_move
def test_a_move_has_mistakes_to_watch_for_a_reason_sources_and_ladders(entry):
    """What docs/move-rubric.md asks and a program can see."""
    item = take_up(entry, "m", CueStyle())
    assert len(entry.move.watch) == 2
    assert all(one.seen.endswith(".") and len(one.say.split()) <= 16 for one in entry.move.watch)
    assert len(sentences(entry.move.why)) == 1
    assert not PUSHING.search(entry.move.why)
    assert {entry.move.why_from, *entry.sources} <= set(shipped_sources())
    assert entry.sources
    assert len(item.ladder(PromptKind.EASIER)) >= 2
    assert len(item.ladder(PromptKind.DEEPER)) >= 2 or entry.move.kind is Kind.BREATH
    assert len(entry.aliases) >= 2


def test_the_usual_cautions_stand_on_every_move_that_they_are_about():
    for condition, applies, _ in ABOUT:
        about = [entry.move for entry in MOVES if applies(entry.move)]
        assert about, condition
        for move in about:
            assert condition in {caution.condition for caution in move.cautions}, move.key


@each_move
def test_holds_have_limits_for_each_convention_and_stay_short_on_one_leg(entry):
    if not isinstance(entry.dose, Hold):
        assert not entry.holds
        return
    assert {one.convention for one in entry.holds} == set(HoldConvention) - {HoldConvention.OWN}
    by_convention = {one.convention: one.seconds for one in entry.holds}
    assert by_convention[HoldConvention.REPEATED].most <= 10
    assert by_convention[HoldConvention.ONCE].most <= 30
    assert by_convention[HoldConvention.STEADY].most <= 30
    assert by_convention[HoldConvention.LONG].most <= 60
    if entry.move.posture is Posture.ONE_LEG:
        assert all(one.most <= 30 for one in (*by_convention.values(), entry.dose.seconds))


@each_move
def test_a_feel_word_names_a_place_that_is_a_target(entry):
    """Named places must be among the targets; a feel without a place is free."""
    places = {
        "calf": {Region.CALF},
        "neck": {Region.NECK},
        "chest": {Region.CHEST},
        "forearm": {Region.FOREARM},
        "wrist": {Region.WRIST},
        "behind the thigh": {Region.BACK_THIGH},
        "front of the thigh": {Region.FRONT_THIGH},
        "inside of the thigh": {Region.INNER_THIGH},
        "lower back": {Region.LOWER_BACK, Region.SPINE, Region.BREATH, Region.WHOLE_BODY},
        "ankle": {Region.ANKLE},
        "jaw": {Region.JAW},
    }
    feel = next(p.text.casefold() for p in entry.words.prompts if p.kind is PromptKind.FEEL)
    for place, meant in places.items():
        if place in feel:
            assert meant & regions(entry.move), feel


def test_every_move_can_be_taken_up_and_taught_under_every_profile():
    for profile in PROFILES:
        script = new_script(profile.name, 600)
        script = add_moves(script, [(entry, "") for entry in MOVES])[0]
        assert compile_script(script).length_s > 3600
        assert not any(may_go(item) for item in script.items())


def test_every_phase_has_time_for_its_words():
    for entry in MOVES:
        timeline = compile_script(add_moves(new_script("One move", 600), [(entry, "")])[0])
        assert not [one.text for one in timeline.unsaid if one.kind is CueKind.PHASE_WORDS], entry.move.key


def test_starting_sets_hold_moves_of_the_library_that_belong_together():
    sets = starting_sets()
    assert len(sets) >= 10
    assert len({one.key for one in sets}) == len(sets)
    for one in sets:
        entries = [shipped_move(key) for key in one.moves]
        assert 3 <= len(entries) == len(set(one.moves)) <= 6
        floor = {entry.move.posture in (Posture.CHAIR, Posture.CHAIR_EDGE) for entry in entries}
        assert len(floor) == 1, f"{one.key} leaves the chair"


def test_a_profile_leaves_something_to_teach_in_each_part_of_a_class():
    for profile in PROFILES:
        fit_for = [e.move for e in MOVES if not profile.postures or e.move.posture in profile.postures]
        assert {Kind.STATIC, Kind.MOBILITY, Kind.BREATH, Kind.PULSE_RAISER} <= {move.kind for move in fit_for}
    assert {profile.before for profile in PROFILES} >= {WhatNext.NOTHING, WhatNext.STRENGTH}


@pytest.mark.parametrize(
    ("words", "first"),
    [
        ("calf lean", ["calf-lean", "bent-knee-calf-lean"]),
        ("hip flexor chair", ["seated-hip-front"]),
        ("supine back of thigh", ["contract-relax-hamstring", "legs-up-wall", "lying-hamstring"]),
        ("child", ["childs-pose"]),
        ("STICK", ["stick-overhead"]),
        ("zzz", []),
    ],
)
def test_search_finds_by_name_area_posture_and_prop(words, first):
    found = [entry.move.key for entry in find(MOVES, Query(words))]
    assert found[: len(first)] == first
    assert bool(found) == bool(first)


def test_of_equals_those_in_the_posture_one_is_in_come_first():
    assert find(MOVES, Query("side reach"), Posture.CROSS_LEGGED)[0].move.key == "cross-legged-side-reach"
    assert find(MOVES, Query("calf lean"), Posture.SUPINE)[0].move.key == "calf-lean"


def test_filters_hold_together():
    on_chair = find(MOVES, Query(area=Region.NECK, posture=Posture.CHAIR, kind=Kind.STATIC))
    assert {entry.move.key for entry in on_chair} == {"side-neck", "diagonal-neck"}
    free = find(MOVES, Query(prop="none"))
    assert free
    assert not any(needed(entry.move) for entry in free)
    balls = find(MOVES, Query(prop="ball", effect=Effect.PRESS))
    assert {entry.move.key for entry in balls} == {"ball-at-wall", "lying-ball-back", "ball-under-foot"}
    suited = find(MOVES, Query(suits=Condition.HIP_REPLACEMENT))
    assert not {"seated-figure-four", "lying-knee-drop"} & {entry.move.key for entry in suited}
    assert [e.move.key for e in find(MOVES, Query(keys=frozenset({"sphinx"})))] == ["sphinx"]
    strengthens = find(MOVES, Query(area=Region.HIP_SIDE, effect=Effect.STRENGTHEN))
    assert "crossed-leg-lean" not in {entry.move.key for entry in strengthens}


def test_a_form_changes_with_anything_in_a_move():
    entry = shipped_move("calf-lean")
    other = replace(entry, words=replace(entry.words, release="Step in slowly."))
    assert form_of(other) != form_of(entry) == form_of(replace(entry))
