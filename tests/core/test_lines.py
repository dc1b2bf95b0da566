"""What is said of the class itself: each talk_style sounds its own way, and no line comes twice running."""

from dataclasses import replace
from itertools import pairwise

import pytest

from extendum.core.edit.script_edits import add_moves, new_script
from extendum.core.model.style import SHIPPED, TalkStyle
from extendum.core.model.timeline import CueKind
from extendum.core.timing.compile import compile_script
from extendum.core.timing.lines import Lines
from extendum.formats.library import shipped_move

CALLS = (CueKind.NEXT, CueKind.HALFWAY, CueKind.TIME_LEFT)


def said(talk_style):
    """The calls of a class with four holds, in order."""
    entries = [(shipped_move(key), "") for key in ("calf-lean", "lying-rest", "childs-pose", "seated-hamstring")]
    script = add_moves(new_script("Lines", 600), entries)[0]
    style = replace(script.style, talk_style=talk_style, halfway=True, next_call=True, time_left=(10,), prompts=False)
    cues = compile_script(replace(script, style=style)).cues
    return [(cue.kind, cue.text) for cue in cues if cue.kind in CALLS]


def test_the_shipped_styles_speak_in_three_manners():
    assert [style.talk_style for style in SHIPPED] == [TalkStyle.PLAIN, TalkStyle.CALM, TalkStyle.BRISK]


def test_each_manner_calls_at_the_same_places_in_words_of_its_own():
    plain, calm, brisk = (said(talk_style) for talk_style in TalkStyle)
    assert [kind for kind, _ in plain] == [kind for kind, _ in calm] == [kind for kind, _ in brisk]
    assert not {text for _, text in plain} & {text for _, text in calm}
    assert not {text for _, text in calm} & {text for _, text in brisk}
    assert plain[0] == (CueKind.HALFWAY, "Halfway.")


@pytest.mark.parametrize("talk_style", [TalkStyle.CALM, TalkStyle.BRISK])
def test_no_line_is_said_twice_running(talk_style):
    for kind in (CueKind.HALFWAY, CueKind.TIME_LEFT):
        texts = [text for one, text in said(talk_style) if one is kind]
        assert len(texts) > 3
        assert all(a != b for a, b in pairwise(texts))


def test_the_last_reps_are_called_by_their_number():
    assert [Lines(TalkStyle.PLAIN).last(n) for n in (3, 2, 1)] == ["Three more.", "Two more.", "Last one."]
    assert Lines(TalkStyle.CALM).last(1) == "One more, nice and slow."
