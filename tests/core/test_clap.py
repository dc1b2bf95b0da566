"""The clap of a recording is found within a frame of the camera, in noise and beside speech; and there may be none."""

import numpy as np
import pytest

from extendum.core.sound.clap import CLAP_MS, HERTZ, clap_ms
from extendum.core.sound.speech import RATE
from tests.core.test_recorded import hum

FRAME_MS = 1000 / 50


def clap(loud):
    """As the Stage plays it: a square wave."""
    at = np.arange(RATE * CLAP_MS // 1000) / RATE
    return loud * np.sign(np.sin(2 * np.pi * HERTZ * at))


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("loud", [0.4, 0.12])
def test_it_is_found_within_a_frame_in_noise_and_speech(seed, loud):
    rng = np.random.default_rng(seed)
    room = 0.03 * rng.standard_normal(12 * RATE)
    at = int(rng.uniform(2, 5) * RATE)
    room[at : at + RATE * CLAP_MS // 1000] += clap(loud)
    again = at + 5 * RATE  # the slate of a retake, nearer to the camera
    room[again : again + RATE * CLAP_MS // 1000] += clap(2 * loud)
    for start in (0, at + RATE // 2):
        spoken = hum(1.5, rng, 180.0)
        room[start : start + len(spoken)] += spoken
    assert abs(clap_ms(room.astype(np.float32)) - at * 1000 / RATE) < FRAME_MS


@pytest.mark.parametrize("seconds", [0.01, 5.0])
def test_noise_and_speech_have_no_clap(seconds):
    rng = np.random.default_rng(2)
    room = 0.03 * rng.standard_normal(int(seconds * RATE)) + hum(seconds, rng)[: int(seconds * RATE)]
    assert clap_ms(room.astype(np.float32)) is None
