"""Care: nothing that is offered takes a caution away, or leads to what the same condition speaks against."""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.checks.outcome import mended
from extendum.core.checks.report import check, keep
from extendum.core.edit.script_edits import add_moves, new_script, replace_items, set_target
from extendum.core.edit.take_up import take_up
from extendum.core.model.audience import Condition
from extendum.core.model.body import Region, Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.move import Caution, OptionKind
from extendum.core.model.spoken import spoken_texts
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import clock
from extendum.core.moves.further import further_lines
from extendum.core.moves.otherwise import left_out_with, offered, other_move
from extendum.core.moves.suggest import stand_ins, suggest
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_moves
from tests.strategies import scripts

MOVES = shipped_moves()
BY_KEY = {entry.move.key: entry for entry in MOVES}
OUT = [(entry.move.key, one) for entry in MOVES for one in entry.move.cautions if one.leave_out]


def remedied(script, finding):
    """The class with a finding's remedy."""
    return mended(script, finding, MOVES).script


def for_somebody(*keys, conditions):
    """A class of these moves for a group of people of whom some have something."""
    script = add_moves(new_script("Care", 900), [(BY_KEY[key], "") for key in keys])[0]
    script = replace(script, brief=replace(script.brief, conditions=tuple(conditions)))
    return set_target(script, compile_script(script).length_s)


def all_said(script):
    """Every caution that a class carries, in its data and in its words."""
    cautions = {(item.move.key, one.condition, one.advice) for item in script.moves() for one in item.move.cautions}
    spoken = {p.text for item in script.moves() for p in item.words.prompts if p.kind.value == "caution"}
    return cautions, spoken


def test_nobody_is_told_to_get_up_between_two_sides():
    script = for_somebody("straddle-side-reach", "calf-lean", conditions=[])
    floor, standing = script.moves()
    silent = replace(floor, words=replace(floor.words, release="Come upright and lower your arm."))
    script = replace_items(script, {floor.id: silent})
    finding = check(script, compile_script(script), MOVES).get("no-slow-rise")
    after = remedied(script, finding)
    floor, standing = after.moves()
    assert floor.words.release == "Come upright and lower your arm."
    assert standing.words.moving.startswith("Get up slowly")
    assert "no-slow-rise" not in {one.code for one in check(after, compile_script(after)).open}


@pytest.mark.parametrize(("key", "caution"), OUT, ids=[f"{key}, {one.condition}" for key, one in OUT])
def test_who_leaves_a_move_out_is_offered_one_that_they_need_not_leave_out(key, caution):
    move = BY_KEY[key].move
    others = list(offered(caution, move, BY_KEY))
    assert others
    assert others[0].move.key == caution.instead
    assert not [one.move.key for one in others if left_out_with(one.move, caution.condition)]
    script = for_somebody(key, conditions=[caution.condition])
    found = stand_ins(move, script, MOVES)
    assert found[0].move.key == caution.instead
    assert not [one.move.key for one in found if left_out_with(one.move, caution.condition)]


@pytest.mark.parametrize("entry", MOVES, ids=lambda entry: entry.move.key)
def test_what_a_move_can_still_say_is_new_and_each_line_can_be_said_once(entry):
    item = take_up(entry, "i1", CueStyle())
    said = {prompt.text for prompt in item.words.prompts}
    further = further_lines(item)
    texts = [one.text for one in further]
    assert entry.move.why in texts
    assert {one.say for one in entry.move.watch} - said <= set(texts)
    assert not said & set(texts)
    assert len(set(texts)) == len(texts)
    whole = replace(item, words=replace(item.words, prompts=(*item.words.prompts, *further)))
    assert further_lines(whole) == ()


@given(st.sampled_from(MOVES), st.sets(st.sampled_from(Condition), min_size=1, max_size=4))
@settings(max_examples=60, deadline=None)
def test_no_other_way_and_no_suggestion_is_one_that_the_group_leaves_out(entry, conditions):
    script = for_somebody(entry.move.key, conditions=conditions)
    ways = [other_move(entry.move, kind, BY_KEY, script.brief) for kind in OptionKind]
    told = [*filter(None, ways), *stand_ins(entry.move, script, MOVES), *(s.entry for s in suggest(script, MOVES))]
    for other in told:
        assert not [one for one in conditions if left_out_with(other.move, one)], other.move.key


@given(
    st.lists(st.sampled_from(sorted(BY_KEY)), min_size=1, max_size=3, unique=True),
    st.sets(st.sampled_from(Condition), min_size=1, max_size=3),
)
@settings(max_examples=20, deadline=None)
def test_what_a_check_offers_never_removes_a_caution_or_brings_what_a_condition_speaks_against(keys, conditions):
    script = for_somebody(*keys, conditions=conditions)
    cautions, spoken = all_said(script)
    for found in check(script, compile_script(script), MOVES).open:
        if found.found.mend is None:
            continue
        after_it = remedied(script, found)
        kept = {item.move.key for item in after_it.moves()}
        after, said = all_said(after_it)
        assert {one for one in cautions if one[0] in kept} <= after
        words = " ".join(text for item in after_it.items() for _, text in spoken_texts(item))
        assert [text for text in spoken - said if text not in words and _still(text, script, kept)] == []
        for item in after_it.moves():
            if item.move.key not in keys:
                assert not [one for one in conditions if left_out_with(item.move, one)], found.code


def _still(text, script, kept):
    """Whether a spoken caution belongs to a move that is still in the class."""
    return any(
        item.move.key in kept and any(prompt.text == text for prompt in item.words.prompts) for item in script.moves()
    )


def test_a_caution_without_a_move_to_do_instead_offers_the_options():
    move = BY_KEY["seated-forward-rest"].move
    plain = Caution("gout", "Leave it out.", leave_out=True)
    assert [one.move.key for one in offered(plain, move, BY_KEY)] == ["childs-pose"]
    bone = Caution(Condition.OSTEOPOROSIS, "Leave it out.", leave_out=True)
    assert list(offered(bone, move, BY_KEY)) == []


@given(scripts())
@settings(max_examples=10, deadline=None)
def test_after_a_remedy_there_is_never_more_to_find(script):
    before = check(script, compile_script(script), MOVES)
    for found in {one.code: one for one in before.open}.values():
        if found.found.mend is not None:
            try:
                outcome = mended(script, found, MOVES)
            except RefusedError:
                continue
            assert outcome.found <= len(before.open), found.code
            assert len(check(outcome.script, compile_script(outcome.script), MOVES).open) == outcome.found


def test_a_remedy_tells_what_differs_in_a_long_sentence_and_which_side_starts():
    script = for_somebody("calf-lean", "lunge-turn", "standing-side-reach", conditions=[])
    calf, _, reach = script.moves()
    long = "Step the left foot back as far as you like, and keep the heel of it down on the floor."
    told = replace(calf, words=replace(calf.words, moving=long))
    script = replace_items(script, {calf.id: told, reach.id: replace(reach, lead_side=Side.RIGHT)})
    report = check(script, compile_script(script), MOVES)
    words = mended(script, report.get("literal-side"), MOVES).changes
    assert words == ("Wall calf stretch says “… the {side} foot …” instead of “… the left foot …”",)
    assert mended(script, report.get("lead-wanders"), MOVES).changes[-1] == f"{reach.name} starts on the left"


def test_a_remedy_that_brings_something_up_mends_that_too_and_tells_all_of_it():
    script = for_somebody("easy-march", "seated-hamstring", conditions=[])
    script = replace(script, brief=replace(script.brief, areas=(Region.CHEST,)))
    (found,) = [one for one in check(script, compile_script(script), MOVES).open if one.code == "area-missing"]
    outcome = mended(script, found, MOVES)
    assert [line for line in outcome.changes if line.endswith("comes in")]
    assert outcome.also
    assert "Also: " in outcome.told
    assert all(one[1:] in outcome.told for one in outcome.also)
    assert f"The class stays {clock(outcome.now_s)}." in outcome.told
    assert outcome.told.endswith(f"{outcome.found} findings left.")
    assert outcome.now_s == compile_script(outcome.script).length_s


def test_what_was_kept_stays_kept_after_a_remedy_of_something_else():
    script = for_somebody("easy-march", "seated-hamstring", conditions=[])
    item = script.moves()[1]
    words = replace(item.words, there=f"{item.words.there} Push yourself. This prevents injuries.")
    script = replace_items(script, {item.id: replace(item, words=words)})
    claim = check(script, compile_script(script), MOVES).get("claim")
    script = keep(script, claim, "We laugh about it.")
    pushing = check(script, compile_script(script), MOVES).get("pushing")
    after = mended(script, pushing, MOVES).script
    assert "claim" in [one.code for one in check(after, compile_script(after), MOVES).kept]
