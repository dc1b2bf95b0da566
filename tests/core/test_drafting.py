"""What was heard as the draft of a class: as long as the recording, its moves and doses, the speaker's own words."""

import re
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bench.hear import heard_in, names
from extendum.core.heard.beside import beside, to_mend
from extendum.core.heard.corrected import corrected
from extendum.core.heard.drafting import draft
from extendum.core.heard.hear import hear
from extendum.core.heard.recording import HeardMove, Pass
from extendum.core.heard.repeats import blocks_of
from extendum.core.heard.saying import Remark
from extendum.core.model.errors import RefusedError
from extendum.core.model.section import SidePlan
from extendum.core.timing.compile import compile_script
from extendum.formats.document import dumps, loads
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken

NAMES = {entry.move.key: entry.move.name for entry in shipped_moves()}
EVERY = tuple(one for kind in ("dev", "lesson", "check", "fresh") for one in names(kind))


@pytest.mark.parametrize("name", EVERY)
def test_a_draft_has_the_moves_in_order_and_lasts_as_long_as_the_recording(name):
    heard = heard_in(name)
    script = draft(heard, name, shipped_moves())
    once = [move.name for move in heard.moves]
    assert {item.name for item in script.moves()} == set(once)
    if all(group.rounds == 1 and group.side_plan is SidePlan.EACH_MOVE for group in groups(script)):
        assert [item.name for item in script.moves()] == once
    assert compile_script(script).length_s == pytest.approx(heard.length, rel=0.03)
    assert loads(dumps(script)) == script
    sided = [item for item in script.moves() if item.move.sidedness.by_side and item.lead_side]
    assert not any(re.search(r"\b(?:left|right) (?:foot|leg|arm|hand|knee)", item.words.moving) for item in sided)
    assert not re.search(r"\bum\b|[\[\]]", " ".join(item.words.moving for item in script.moves()))


def groups(script):
    return [group for section in script.sections for group in section.groups]


def move(name, start, *sides, lasts=20.0):
    passes = tuple(Pass(side, start + 30.0 * n, start + 30.0 * n + lasts, 1.0) for n, side in enumerate(sides))
    return HeardMove(name, name, (), start - 8, passes[-1].end + 2, passes, 1.0, 0, 0, 0)


@settings(max_examples=100, deadline=None)
@given(st.lists(st.sampled_from("abcd"), max_size=12))
def test_every_move_is_in_one_block_once_and_returns_come_after(keys):
    moves = [move(key, 60.0 * n, "both") for n, key in enumerate(keys)]
    found = [n for block in blocks_of(moves) for returns in block.moves for n in returns]
    assert sorted(found) == list(range(len(keys)))
    for block in blocks_of(moves):
        assert all(list(returns) == sorted(returns) for returns in block.moves)
        assert all(len({keys[n] for n in returns}) == 1 for returns in block.moves)
        assert block.rounds == 1 or block.moves


def test_rounds_are_told_from_chains_and_what_is_done_once():
    rounds = [move(key, 60.0 * n, "both") for n, key in enumerate("wabcabdc")]
    one, again, after = blocks_of(rounds)
    assert (one.moves, again.rounds, again.moves) == (((0,),), 2, ((1, 4), (2, 5), (3, 7)))
    assert after.moves == ((6,),)
    chain = [move("a", 0, "left"), move("b", 60, "left"), move("a", 120, "right"), move("b", 180, "right")]
    (block,) = blocks_of(chain)
    assert (block.chain, block.rounds, block.moves) == (True, 1, ((0, 2), (1, 3)))


@pytest.mark.parametrize(
    ("key", "passes", "sidedness", "directions"),
    [
        ("shoulder-circles", [("first", "back"), ("second", "on")], "each direction", ("back", "on")),
        ("arm-circles", [("first", "one way"), ("second", "the other way")], "each direction", ("backward", "forward")),
        ("wrist-circles", [("right", ""), ("left", "")], "each side", None),
        ("", [(s, d) for s in ("left", "right") for d in ("in", "out")], "each side and direction", ("in", "out")),
        ("", [("left", ""), ("right", "")], "each side", None),
    ],
)
def test_a_draft_has_the_sides_and_directions_that_were_heard_and_no_others(key, passes, sidedness, directions):
    heard = heard_in("dev-01")
    told = tuple(Pass(side, 60 + 20.0 * n, 75 + 20.0 * n, 1.0, direction=way) for n, (side, way) in enumerate(passes))
    one = HeardMove(NAMES.get(key, "Stir it"), key, (), 50, 160, told, 1.0, 100, 110, 150)
    (item,) = draft(replace(heard, moves=(one,)), "Circles", shipped_moves()).moves()
    assert item.move.sidedness == sidedness
    assert directions is None or item.move.directions == directions


def test_a_move_with_a_name_of_its_own_is_laid_beside_itself_and_not_beside_what_it_could_have_been():
    heard = heard_in("lesson-05")
    (own, *_) = (one for one in heard.moves if not one.key)
    script = draft(heard, "Market", shipped_moves())
    assert any(offer.key in {item.move.key for item in script.moves()} for offer in own.offers)
    (row,) = (one for one in beside(script, compile_script(script), [heard]) if one.name == own.name)
    assert row.heard_s == (round(sum(one.seconds for one in own.passes)),)
    assert abs(row.planned_s - row.heard_s[0]) <= len(own.passes)  # a draft has what was heard, settling included


def test_what_to_mend_names_sides_rounds_promises_and_nothing_that_was_as_it_should_be():
    even = replace(
        heard_in("dev-01"),
        moves=(move("Calf", 20, "left", "right"),),
        promises=(),
        calls=(),
        counts=(),
        halves=(),
        words=(),
    )
    assert to_mend(even) == []
    calf = move("Calf", 20, "left", "right")
    longer = replace(calf, passes=(calf.passes[0], replace(calf.passes[1], end=calf.passes[1].end + 8)))
    alone = move("Neck", 120, "left")
    told = to_mend(replace(even, moves=(longer, alone), promises=(Remark("moves", 5, "three things", 3),)))
    assert told == [
        "Calf: right got 8 s more than left.",
        "Neck: only left was heard.",
        "3 moves were announced; 2 were heard.",
    ]


def test_the_words_of_a_move_are_the_speakers_own_without_what_speech_is_full_of():
    spoken = (
        (0, "Um, now step your left foot back, you know, and press the heel down. Keep your hips level."),
        (9, "I saw a heron yesterday. Breathe out slowly. Five more seconds."),
        (30, "And step in. The right foot back now, heel down."),
        (40, "Stay."),
        (60, "And step in. Thank you."),
    )
    heard = hear([Spoken(float(at), text) for at, text in spoken], hearing(tuple(shipped_moves())))
    (item,) = draft(heard, "Calves", shipped_moves()).moves()
    assert item.words.moving.startswith("now step your {side} foot back, and press the heel down.".capitalize())
    assert "heron" not in " ".join(one.text for one in item.words.prompts)
    assert "Breathe out slowly." in [one.text for one in item.words.prompts]
    assert item.words.release == "And step in."
    assert "{side} foot back" in item.words.switch


def test_without_a_move_there_is_no_class():
    heard = heard_in("dev-01")
    with pytest.raises(RefusedError, match="in which a move was heard"):
        draft(corrected(heard, ()), "x", shipped_moves())
