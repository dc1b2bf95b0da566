"""What must hold for every script, tried on generated ones."""

from itertools import pairwise

from hypothesis import given, settings

from extendum.core.compile import compile_script, length_of
from extendum.core.cues import HALFWAY_LEAST_S, RULES
from extendum.core.dose import Breaths, Hold, Reps, pass_seconds
from extendum.core.script import Countdown, MoveItem, Talk
from extendum.core.speech import sentences
from extendum.core.timeline import CueKind, Mode, SegmentKind
from extendum.core.words import PromptKind
from tests.strategies import scripts


@given(scripts())
def test_segments_tile_the_class_and_compiling_is_deterministic(script):
    timeline = compile_script(script)
    at = 0
    for segment in timeline.segments:
        assert segment.start_s == at
        at = segment.end_s
    assert at == timeline.length_s == length_of(script)
    assert compile_script(script) == timeline
    assert len({s.id for s in timeline.segments}) == len(timeline.segments)


@given(scripts())
def test_both_sides_of_an_item_get_equal_working_time(script):
    timeline = compile_script(script)
    for item in script.moves():
        work = [s for s in timeline.of_item(item.id) if s.kind.works]
        seconds = pass_seconds(item.dose)
        if item.move.sided:
            lead = script.style.lead_side
            assert [(s.side, s.seconds) for s in work] == [(lead, seconds), (lead.other, seconds)]
        else:
            assert [(s.side.value, s.seconds) for s in work] == [("both", seconds)]


@given(scripts())
def test_spoken_cues_never_overlap_and_lie_in_their_segment(script):
    timeline = compile_script(script)
    spoken = [c for c in timeline.cues if c.mode is Mode.SPOKEN]
    assert all(a.end_ms <= b.start_ms for a, b in pairwise(spoken))
    at = {s.id: s for s in timeline.segments}
    for cue in timeline.cues:
        assert at[cue.segment].start_s * 1000 <= cue.start_ms < cue.end_ms <= at[cue.segment].end_s * 1000


@given(scripts())
def test_a_countdown_ends_exactly_with_its_segment(script):
    timeline = compile_script(script)
    ends = {s.id: s.end_s * 1000 for s in timeline.segments}
    for cue in timeline.cues:
        if cue.kind is CueKind.COUNT:
            n = int(cue.text)
            assert (cue.start_ms, cue.end_ms) == (
                ends[cue.segment] - n * 1000,
                ends[cue.segment] - (n - 1) * 1000,
            )


def asked_for(script):
    """Every cue that a script asks for, told from the script alone."""
    style, moves = script.style, script.moves()
    first = {Countdown.FROM_5: 5, Countdown.FROM_3: 3, Countdown.NONE: 0}[style.countdown]
    found = []
    for item in script.items():
        if isinstance(item, Talk):
            texts = item.words.replace("{next}", "x").replace("{moves}", "1").replace("{minutes}", "1")
            found += [f"{item.id}.1.1.1.talk.{n}" for n in range(len(sentences(texts)))]
        if not isinstance(item, MoveItem):
            continue
        numbers = (1, 2) if item.move.sided else (1,)
        for number in numbers:
            on = {
                "moving": bool(item.words.moving) and number == 1,
                "there": bool(item.words.there) and number == 1,
                "switch": bool(item.words.switch) and number == 2,
                "release": bool(item.words.release),
                "next": style.next_call and item is not moves[-1] and number == numbers[-1],
                "halfway": style.halfway and isinstance(item.dose, Hold),
            }
            asked = [(kind, 0) for kind, wanted in on.items() if wanted]
            if isinstance(item.dose, Hold):
                asked += [("count", n) for n in range(1, first + 1)]
            if style.prompts:
                asked += [
                    (prompt.kind.value, n)
                    for n, prompt in enumerate(item.words.prompts)
                    if number == 1 or prompt.kind not in (PromptKind.CAUTION, PromptKind.EASIER)
                ]
            value = item.quantity.value
            if isinstance(item.dose, Reps):
                d = item.dose
                phases = sum(ms > 0 for ms in (d.out_ms, d.stay_ms, d.back_ms, d.rest_ms))
                asked += [("rep-phase", n) for n in range(phases * value)]
            if isinstance(item.dose, Breaths):
                d = item.dose
                phases = sum(ms > 0 for ms in (d.in_ms, d.full_ms, d.out_ms, d.empty_ms))
                asked += [("breath-phase", n) for n in range(phases * value)]
            found += [f"{item.id}.1.{number}.1.{kind}.{n}" for kind, n in asked]
    return sorted(found)


@given(scripts())
def test_every_cue_asked_for_is_placed_or_listed_as_unsaid(script):
    timeline = compile_script(script)
    answered = [c.id for c in timeline.cues] + [u.id for u in timeline.unsaid]
    assert sorted(answered) == asked_for(script)
    for unsaid in timeline.unsaid:
        assert unsaid.rule in RULES
        assert unsaid.text


@given(scripts())
def test_halfway_is_at_the_half_or_says_why_not(script):
    timeline = compile_script(script)
    at = {s.id: s for s in timeline.segments}
    for cue in timeline.cues:
        if cue.kind is CueKind.HALFWAY:
            hold = at[cue.segment]
            assert hold.seconds >= HALFWAY_LEAST_S
            assert cue.start_ms == (hold.start_s + hold.end_s) * 500


@given(scripts())
def test_beats_fill_their_segment_without_a_gap(script):
    timeline = compile_script(script)
    for segment in timeline.segments:
        if segment.kind in (SegmentKind.REPS, SegmentKind.BREATHS):
            beats = [c for c in timeline.cues if c.segment == segment.id and c.mode is not Mode.SPOKEN]
            assert beats[0].start_ms == segment.start_s * 1000
            assert beats[-1].end_ms == segment.end_s * 1000
            assert all(a.end_ms == b.start_ms for a, b in pairwise(beats))


@given(scripts())
@settings(max_examples=50)
def test_no_posture_is_entered_without_the_seconds_to_get_there(script):
    """Where the table asks for seconds between two postures, a transition of at least these stands before."""
    from extendum.core.body import Stance, body_seconds

    timeline = compile_script(script)
    stance = Stance(script.start_posture)
    for item in script.moves():
        first = timeline.of_item(item.id)[0]
        needed = body_seconds(stance, Stance(item.move.posture, first.side))
        if needed:
            assert first.kind is SegmentKind.TRANSITION
            assert first.seconds * 100 >= needed * script.style.pace_percent
        stance = Stance(item.move.ends_in, script.style.lead_side.other if item.move.sided else first.side)
