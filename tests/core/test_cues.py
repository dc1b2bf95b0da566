"""Where cues find their place, at the edges; at 200 words a minute a word takes 300 ms, and a sentence 300 more."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.model.body import Posture, Side
from extendum.core.model.brief import Brief
from extendum.core.model.dose import Hold, Manner, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import CountIs, MoveItem, SetOrder
from extendum.core.model.move import Move, Sidedness
from extendum.core.model.phases import PhaseBreath, PhaseWords
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.style import Countdown, CueStyle, RepCount, SideNames
from extendum.core.model.talk import Talk, TalkPace
from extendum.core.model.timeline import Anchor, Mode
from extendum.core.model.words import Words
from extendum.core.timing.compile import compile_script


def words(many):
    return " ".join(["a"] * many)


def compiled(*items, rounds=1, **style):
    plain = {"words_per_minute": 200, "quiet_percent": 0, "halfway": False, "next_call": False, "settle_s": 0}
    sections = (Section("s", "", Role.MAIN, (Group("g", "", items, rounds=rounds),)),)
    return compile_script(Script("Cues", Brief(), CueStyle(**plain | style), Posture.STANDING, sections))


def hold(seconds, *prompts, **more):
    told = Words(prompts=tuple(Prompt(kind, text) for kind, text in prompts))
    return MoveItem("m", Move("Lean"), Hold(Elastic(1, seconds, 90)), told, **more)


def at(timeline, kind):
    """Milliseconds from the beginning of their segments at which cues of a kind begin."""
    begins = {segment.id: segment.start_s * 1000 for segment in timeline.segments}
    return [cue.start_ms - begins[cue.segment] for cue in timeline.cues if cue.kind == kind]


def rules(timeline):
    return [(str(one.kind), one.rule) for one in timeline.unsaid]


def test_a_talk_that_just_fits_its_time_is_said_and_one_word_more_is_not():
    def talk(many):
        return compiled(Talk("t", Elastic(3, 3, 3), words(many)))

    assert rules(talk(9)) == []  # 9 x 300 + 300 ms
    assert rules(talk(10)) == [("talk", "talk-overrun")]


def test_halfway_is_called_from_twenty_seconds_on_and_moves_with_the_middle():
    assert rules(compiled(hold(19), halfway=True)) == [("halfway", "short-hold")]
    (cue,) = [one for one in compiled(hold(21), halfway=True).cues if one.kind == "halfway"]
    assert (cue.start_ms, cue.anchor, cue.offset_ms) == (10_500, Anchor.MIDDLE, 0)


@pytest.mark.parametrize(("left", "placed"), [(8, [12_000]), (9, [])])
def test_calls_keep_half_a_second_apart(left, placed):
    timeline = compiled(hold(20), halfway=True, time_left=(left,))  # halfway from 10.0 to 10.6
    assert at(timeline, "time-left") == placed


@pytest.mark.parametrize(("many", "placed"), [(12, [1550]), (13, [])])
def test_prompts_keep_a_second_and_a_half_apart(many, placed):
    timeline = compiled(hold(10, (PromptKind.FORM, words(many))))  # the countdown begins at 7.0
    assert at(timeline, "form") == placed


@pytest.mark.parametrize(("quiet", "unsaid"), [(40, []), (41, [("form", "talk-cap")])])
def test_a_hold_keeps_its_share_of_quiet_to_the_millisecond(quiet, unsaid):
    timeline = compiled(hold(20, (PromptKind.FORM, words(29))), quiet_percent=quiet)  # 9 s, and 3 s of counting
    assert rules(timeline) == unsaid


def test_what_goes_deeper_is_said_late_and_a_caution_as_soon_as_may_be():
    deeper, caution = (PromptKind.DEEPER, "A little more."), (PromptKind.CAUTION, "Mind your knee.")
    timeline = compiled(hold(40, deeper, caution), time_left=(20, 10))
    assert at(timeline, "caution") == [1500]
    assert all(start >= 16_000 for start in at(timeline, "deeper"))
    assert len(at(timeline, "deeper")) == 1


def test_each_kind_is_said_where_it_is_usual_in_two_rounds():
    kinds = ("caution", "easier", "form", "feel", "breath", "deeper")
    prompts = [(PromptKind(kind), f"{kind.capitalize()} now.") for kind in kinds]
    timeline = compiled(hold(60, *prompts), rounds=2, quiet_percent=0)
    rounds = {kind: [cue.of.round for cue in timeline.cues if cue.kind == kind] for kind in kinds}
    once = {kind: [1] for kind in ("caution", "easier", "form", "feel")}
    assert rounds == {**once, "breath": [1, 2], "deeper": [2]}


def test_the_last_reps_are_called_as_they_begin_and_sides_alternate_from_the_lead():
    dose = Reps(Elastic(1, 4, 9), 1000, 0, 1000, 0)
    reps = MoveItem("m", Move("Sway", sidedness=Sidedness.ALTERNATING), dose, count_is=CountIs.TOTAL)
    timeline = compiled(reps, last_calls=2, countdown=Countdown.NONE, lead_side=Side.RIGHT)
    assert [(c.text, c.start_ms) for c in timeline.cues if c.kind == "last"] == [
        ("Two more.", 4000),
        ("Last one.", 6000),
    ]
    assert [c.text for c in timeline.cues if c.mode is Mode.SILENT][:3] == ["out 1 right", "back 1 right", "out 2 left"]


@pytest.mark.parametrize(("order", "rests"), [(SetOrder.SIDE_BY_SIDE, 2), (SetOrder.SET_BY_SET, 1)])
def test_sets_rest_between_them_and_not_at_the_change_of_sides(order, rests):
    lean = Move("Lean", sidedness=Sidedness.EACH_SIDE)
    item = MoveItem("m", lean, Hold(Elastic(1, 10, 90)), sets=2, rest_s=9, set_order=order)
    assert [s.seconds for s in compiled(item).segments if s.kind == "rest"] == [9] * rests


def said(timeline, *kinds):
    return [cue.text for cue in timeline.cues if cue.kind in kinds]


def alternating(told, dose=None, **style):
    step = Move("Step", sidedness=Sidedness.ALTERNATING)
    item = MoveItem("m", step, dose or Reps(Elastic(1, 2, 9), 1000, 0, 1000, 0), told)
    return compiled(item, countdown=Countdown.NONE, **style)


def test_in_what_alternates_the_side_is_the_one_that_comes_first_and_each_change_has_its_words():
    told = Words(moving="{side} foot forward, then the {other}.", each="Now {side}.")
    timeline = alternating(told, lead_side=Side.RIGHT)
    assert said(timeline, "moving") == ["Right foot forward, then the left."]
    assert said(timeline, "each") == ["Now right.", "Now left.", "Now right.", "Now left."]
    assert at(timeline, "each") == [0, 2000, 4000, 6000]
    slow = alternating(Words(each="Now {side}, as far as it goes."))
    assert rules(slow) == [("each", "phase-shorter")] * 4
    unspoken = alternating(told, side_names=SideNames.UNSPOKEN)
    assert said(unspoken, "moving", "each")[:2] == ["Foot forward, then the.", "Now."]


def test_at_half_the_words_of_the_switch_name_the_side_that_comes():
    dose = Timed(Elastic(2, 20, 60), Manner.HALVES)
    lean = MoveItem("m", Move("Lean"), dose, Words(moving="Lean {side}.", switch="And {side}."))
    timeline = compiled(lean, countdown=Countdown.NONE)
    assert said(timeline, "moving", "half-switch") == ["Lean left.", "And right."]
    plain = compiled(MoveItem("m", Move("Lean"), dose), countdown=Countdown.NONE)
    assert said(plain, "half-switch") == ["Change sides."]


def test_directions_name_their_side_and_mirror_with_it():
    def circles(*directions, follow):
        move = Move(
            "Circle", sidedness=Sidedness.EACH_SIDE_AND_DIRECTION, directions=directions, directions_follow_side=follow
        )
        item = MoveItem("m", move, Reps(Elastic(1, 1, 9)), Words(turn="Now {direction}.", switch="{direction}."))
        return said(compiled(item), "turn", "switch")

    assert circles("to the left", "to the right", follow=True) == [
        "Now to the right.",
        "To the right.",
        "Now to the left.",
    ]
    assert circles("left", "right", follow=False) == ["Now right.", "Left.", "Now right."]
    assert circles("to the {side}", "to the {other}", follow=False)[1:] == ["To the right.", "Now to the left."]
    with pytest.raises(RefusedError, match="directions"):
        Move("Circle", sidedness=Sidedness.EACH_DIRECTION, directions=("to the {side}", "back"))


@given(st.integers(0, 40), st.booleans())
def test_a_talk_of_any_length_says_all_its_words_and_only_its_silence_gives(spare, spread):
    pace = TalkPace.SPREAD if spread else TalkPace.IN_A_ROW
    told = "How are you? [until they answer] Good. [4 s] Then we begin. And breathe."
    talk = Talk("t", Elastic(0, 6 + spare, 60), told, pace=pace)
    timeline = compiled(talk)
    said = [cue for cue in timeline.cues if cue.kind == "talk"]
    waits = [cue.end_ms - cue.start_ms for cue in timeline.cues if cue.kind == "wait"]
    words_ms = sum(cue.end_ms - cue.start_ms for cue in said)
    silence = (6 + spare) * 1000 - words_ms
    assert [cue.text for cue in said] == ["How are you?", "Good.", "Then we begin.", "And breathe."]
    assert all(wait > 0 for wait in waits)
    assert sum(waits) <= silence
    if silence <= 9000:
        assert sum(waits) == silence  # all that there is, in shares
    else:
        assert waits == [silence - 4000, 4000]


COUNTS = [
    (RepCount.UP, 0, ["One", "Two", "Three", "Four"], [0, 4000, 8000, 12_000]),
    (RepCount.DOWN, 0, ["Four", "Three", "Two", "One"], [0, 4000, 8000, 12_000]),
    (RepCount.UP, 2, ["One", "Two"], [0, 4000]),
    (RepCount.NONE, 2, [], []),
    (RepCount.INSIDE, 3, ["One", "Two", "One", "Two", "Two", "One", "Two"], [0, 1000, 2000, 3000, 5000, 6000, 7000]),
]


@pytest.mark.parametrize(("how", "calls", "texts", "begins"), COUNTS)
def test_reps_are_counted_aloud_and_the_last_ones_called_in_place_of_their_counts(how, calls, texts, begins):
    dose = Reps(Elastic(1, 4, 8), 2000, 0, 2000)
    timeline = compiled(MoveItem("m", Move("Bend"), dose, count_reps=how, last_calls=calls), words_per_minute=300)
    counted = [cue.text for cue in timeline.cues if cue.kind == "counted"]
    assert (counted[: len(texts)], at(timeline, "counted")[: len(begins)]) == (texts, begins)
    assert len(at(timeline, "last")) == calls


def test_words_of_phases_are_said_in_the_first_reps_and_come_back_in_the_last():
    says = (PhaseWords("out", "Reach."), PhaseWords("back", "", PhaseBreath.OUT))
    dose = Reps(Elastic(1, 5, 8), 2000, 0, 2000, says=says, say_first=2)
    timeline = compiled(MoveItem("m", Move("Bend"), dose, count_reps=RepCount.UP))
    assert at(timeline, "phase-words") == [0, 2000, 4000, 6000, 16_000, 18_000]
    assert [cue.text for cue in timeline.cues if cue.kind == "phase-words"][:2] == ["Reach.", "Breathe out."]
    assert [cue.text for cue in timeline.cues if cue.kind == "counted"] == ["Three", "Four"]
