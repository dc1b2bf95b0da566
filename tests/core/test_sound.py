"""The class as sound: as long as the timeline to the sample, each cue where it belongs, and no word cut."""

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings

from extendum.core.model.elastic import Elastic
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import CueKind, Mode
from extendum.core.model.voice import Speech
from extendum.core.outputs.sound import BLOCK, FASTER_PERCENT, breath, excerpt, render, sounds, tone
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.core.timing.speech import speaking_ms
from extendum.formats.document import loads
from tests.strategies import scripts

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"


def voice(slower=1.0, least_ms=0):
    """A voice that hums for as long as the words take, so much slower than is planned."""

    def say(text, rate):
        ms = max(least_ms, speaking_ms(text, Speech(rate)) * slower)
        return np.full(int(ms * RATE / 1000), 0.5, np.float32)

    return say


@settings(max_examples=12)
@given(scripts(most_items=3, high=20))
def test_it_is_exactly_as_long_as_the_timeline_and_its_blocks_hide_no_seam(script):
    timeline = compile_script(script)
    hurried = []
    blocks = list(render(timeline, 165, None, hurried))
    whole = np.concatenate(blocks) if blocks else np.zeros(0, np.float32)
    assert len(whole) == timeline.length_s * RATE
    assert all(len(block) == BLOCK for block in blocks[:-1])
    plain = np.zeros(len(whole), np.float32)
    for one in sounds(timeline, 165, None, []):
        part = one.samples[: len(plain) - one.at]
        plain[one.at : one.at + len(part)] += part
    assert np.allclose(whole, np.clip(plain, -1, 1))
    assert hurried == []


@pytest.mark.parametrize("slower", [0.8, 1.0, 1.1, 3.0])
def test_what_is_said_starts_with_its_cue_never_overlaps_and_is_never_cut(slower):
    script = loads((DEMO / "after-digging.json").read_bytes())
    timeline = compile_script(script)
    spoken = sorted((c for c in timeline.cues if c.mode is Mode.SPOKEN), key=lambda c: c.start_ms)
    hurried = []
    said = [one for one in sounds(timeline, 165, voice(slower), hurried) if one.samples[:1] == np.float32(0.5)]
    assert len(said) == len(spoken)
    for cue, one, after in zip(spoken, said, [*said[1:], None], strict=True):
        assert abs(one.at / RATE * 1000 - cue.start_ms) < 1
        assert after is None or one.at + len(one.samples) <= after.at + 1
        assert one.samples[-1] == np.float32(0.5)
    assert bool(hurried) == (slower > 1.25)
    assert all(one.percent > FASTER_PERCENT for one in hurried)


def test_words_that_no_voice_says_fast_enough_are_played_faster_and_told():
    script = loads((DEMO / "after-digging.json").read_bytes())
    timeline = compile_script(script)
    hurried = []
    said = [one for one in sounds(timeline, 165, voice(least_ms=4000), hurried) if one.samples[:1] == np.float32(0.5)]
    assert all(one.at + len(one.samples) <= after.at + 1 for one, after in pairwise(said))
    counts = [one for one in hurried if one.text == "2"]
    assert counts
    assert counts[0].percent > 300


def test_tones_without_a_voice_stand_where_something_would_be_said():
    script = loads((DEMO / "after-digging.json").read_bytes())
    timeline = compile_script(script)
    found = {round(one.at / RATE * 1000) for one in sounds(timeline, 165, None, [])}
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN or cue.kind is CueKind.BREATH_PHASE:
            assert any(abs(at - cue.start_ms) <= 1 for at in found)
    whole = np.concatenate(list(render(timeline, 165, None, [])))
    assert 0.05 < np.abs(whole).max() <= 1


def test_a_breath_swells_and_fades():
    inward, outward = np.abs(breath("in", 4000)), np.abs(breath("out", 6000))
    assert len(inward) == 4 * RATE
    assert inward[: RATE // 20].mean() < inward[len(inward) // 2 :][: RATE // 20].mean()
    assert outward[-RATE // 20 :].mean() < outward[RATE : RATE + RATE // 20].mean()
    assert np.array_equal(breath("in", 4000), breath("in", 4000))
    assert tone("start")[0] == 0


def test_words_that_just_fit_are_said_once_and_not_hurried():
    asked = []

    def exact(text, rate):
        asked.append(rate)
        return np.full(2 * RATE, 0.5, np.float32)

    hurried = []
    item = Talk("t", Elastic(2, 2, 2), "Now.")
    script = Script("Sound", sections=(Section("s", "", Role.MAIN, (Group("g", "", (item,)),)),))
    said = [one for one in sounds(compile_script(script), 165, exact, hurried) if len(one.samples) == 2 * RATE]
    assert (len(said), asked, hurried) == (1, [165], [])


def test_excerpts_beside_each_other_are_the_whole():
    timeline = compile_script(loads((DEMO / "after-digging.json").read_bytes()))
    whole = np.concatenate(list(render(timeline, 165, voice(), [])))
    made = np.zeros(len(whole) + 60 * RATE, np.float32)
    for from_ms in range(0, timeline.length_s * 1000, 7300):
        part = excerpt(timeline, 165, voice(), from_ms, min(timeline.length_s * 1000, from_ms + 7300))
        made[from_ms * RATE // 1000 :][: len(part)] += part
    assert np.allclose(np.clip(made[: len(whole)], -1, 1), whole, atol=1e-4)
