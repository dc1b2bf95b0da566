"""A mix mastered as it goes by, and music under it: as long as the class, held under its peaks, softer under speech."""

from itertools import pairwise

import numpy as np
import pyloudnorm
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.edit.script_edits import new_script, set_music
from extendum.core.model.errors import RefusedError
from extendum.core.outputs.bedding import SHIPPED, Music, bedding, music_of
from extendum.core.sound.bed import CROSSFADE_S, DUCK_DB, FADE_IN_S, FADE_OUT_S, Drone, InTurn, Looped, under
from extendum.core.sound.between import at_rate, between
from extendum.core.sound.clean import peak_db
from extendum.core.sound.loudness import integrated
from extendum.core.sound.master import LOUDNESS, PEAK_DB, Meter, gain_for, mastered
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script


def noise(seconds, loud=0.1, seed=1):
    return (loud * np.random.default_rng(seed).standard_normal((int(seconds * RATE), 2))).astype(np.float32)


def measured(samples, block):
    meter = Meter()
    for n in range(0, len(samples), block):
        meter.add(samples[n : n + block])
    return meter.loudness


@pytest.mark.parametrize("block", [1000, RATE // 3, 5 * RATE])
def test_loudness_is_that_of_the_standard_however_the_blocks_fall(block):
    samples = np.concatenate([noise(3, 0.2), noise(4, 0.0005, 2), noise(3, 0.05, 3)])
    assert measured(samples, block) == pytest.approx(pyloudnorm.Meter(RATE).integrated_loudness(samples), abs=0.05)


def test_silence_has_no_loudness_and_stays_silent():
    assert measured(np.zeros((RATE, 2), np.float32), RATE) is None
    assert gain_for(None) == 1.0
    assert gain_for(-80.0) < 40  # what is nearly silent is not made a roar


@settings(max_examples=20, deadline=None)
@given(st.lists(st.integers(1, 2 * RATE), min_size=1, max_size=6), st.floats(0.05, 3.0))
def test_a_master_is_as_long_as_its_mix_and_has_no_peak_above(lengths, gain):
    samples = noise(sum(lengths) / RATE + 0.1, 0.3)[: sum(lengths)]
    blocks = list(mastered((samples[a:b] for a, b in pairwise(np.cumsum([0, *lengths]))), gain))
    whole = np.concatenate(blocks)
    assert len(whole) == len(samples)
    assert max(peak_db(whole[:, side]) for side in range(2)) <= PEAK_DB + 0.05
    quiet = np.abs(samples).max() * gain < 0.4
    assert not quiet or np.allclose(whole, samples * np.float32(gain), atol=1e-6)


def test_speech_comes_out_as_loud_as_it_should():
    samples = noise(20, 0.03)
    whole = np.concatenate(list(mastered([samples], gain_for(measured(samples, RATE)))))
    assert measured(whole, RATE) == pytest.approx(LOUDNESS, abs=0.3)


class Piece:
    """Music that says where it is: the same level all over."""

    def __init__(self, seconds):
        self.samples = np.full((int(seconds * RATE), 2), 0.5, np.float32)

    def __len__(self):
        return len(self.samples)

    def read(self, start, length):
        return self.samples[start : start + length]


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 60 * RATE), st.integers(1, 20 * RATE))
def test_a_loop_has_no_hole_and_is_the_same_in_parts(start, length):
    bed = Looped(Piece(13.0))
    whole = bed.part(start, length)
    middle = length // 2
    halves = [bed.part(start, middle), bed.part(start + middle, length - middle)]
    assert np.allclose(whole, np.concatenate(halves), atol=1e-5)
    heard = whole if start else whole[RATE * CROSSFADE_S :]
    assert heard.size == 0 or (heard.min() > 0.49 and heard.max() < 0.5 * 1.42)


def test_the_drone_has_no_seam():
    drone = Drone()
    joint = drone.part(24 * RATE - 50, 100)
    assert np.abs(np.diff(joint, axis=0)).max() < 3 * np.abs(np.diff(drone.part(RATE, 100), axis=0)).max()
    assert np.array_equal(drone.part(0, 100), drone.part(24 * RATE, 100))


def test_music_goes_down_before_somebody_speaks_and_is_gone_at_the_end():
    whole, speech = 40 * RATE, [(12 * RATE, 14 * RATE), (15 * RATE, 17 * RATE)]
    heard = np.concatenate(list(under(Looped(Piece(60.0)), speech, whole, 5 * RATE)))[:, 0]
    assert len(heard) == whole
    down = 0.5 * 10 ** (-DUCK_DB / 20)
    assert heard[12 * RATE : 17 * RATE] == pytest.approx(np.full(5 * RATE, down), rel=0.01)  # the short pause too
    assert heard[10 * RATE] == pytest.approx(0.5, rel=0.01)
    assert heard[20 * RATE] == pytest.approx(0.5, rel=0.01)
    assert heard[0] == 0
    assert heard[FADE_IN_S * RATE // 2] < 0.3
    assert heard[-1] < 0.001
    assert heard[-FADE_OUT_S * RATE] == pytest.approx(0.5, rel=0.01)


def test_sections_have_music_of_their_own_one_after_the_other():
    script = set_music(new_script("Music", 300), "drone")
    assert music_of(script) == {"drone"}
    script = set_music(script, "silence", script.sections[0].id)
    timeline = compile_script(script)
    found = bedding(script, timeline, SHIPPED)
    assert isinstance(found, InTurn)
    assert [bed is None for _, bed in found.beds] == [False]  # the first section is empty: only the closing is played
    own = set_music(script, "river", script.sections[1].id)
    river = Music(Looped(Piece(30.0)), "mine")
    assert bedding(own, timeline, {"river": river}).part(10 * RATE, 100)[0, 0] == pytest.approx(0.5)
    assert bedding(own, timeline, {}) is None
    with pytest.raises(RefusedError, match="a section of this class"):
        set_music(script, "drone", "nowhere")


@settings(max_examples=20, deadline=None)
@given(st.integers(0, 10**6), st.integers(6, 40))
def test_loudness_without_filters_that_run_is_that_of_the_standard(seed, tenths):
    length = tenths * RATE // 10
    rng = np.random.default_rng(seed)
    samples = rng.standard_normal(length).astype(np.float32) * 10 ** rng.uniform(-3, -1)
    samples[: length // 3] *= 0.01
    assert integrated(samples) == pytest.approx(pyloudnorm.Meter(RATE).integrated_loudness(samples), abs=0.02)


def test_silence_has_no_loudness_and_peaks_between_samples_are_found():
    assert integrated(np.zeros(RATE, np.float32)) is None
    n = np.arange(RATE)
    quarter = np.sin(2 * np.pi * n / 4 + np.pi / 4).astype(np.float32)  # no sample is at its peak
    assert np.abs(quarter).max() < 0.75
    assert between(quarter)[RATE:-RATE].max() == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize("rate", [8000, 22_050, 44_100, 96_000])
def test_a_tone_at_another_rate_is_the_same_tone_and_as_long(rate):
    tone = np.sin(2 * np.pi * 440 * np.arange(rate * 3 // 2) / rate).astype(np.float32)
    found = at_rate(tone, rate)
    assert len(found) == RATE * 3 // 2
    inside = slice(RATE // 10, -RATE // 10)
    assert found[inside] == pytest.approx(np.sin(2 * np.pi * 440 * np.arange(len(found)) / RATE)[inside], abs=0.02)
