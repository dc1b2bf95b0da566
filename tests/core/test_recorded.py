"""Recorded speech: found in a noisy room, cleaned and evened, and one long recording cut into its texts."""

from pathlib import Path

import numpy as np
import pytest

from bench.cutting import measured
from extendum.core.model.errors import RefusedError
from extendum.core.model.voice import Speech
from extendum.core.sound.clean import LOUDNESS, PEAK_DB, cleaned, limited, loudness_of, peak_db
from extendum.core.sound.cut import cut
from extendum.core.sound.speech import RATE, speech_in
from extendum.core.timing.speech import sentences, speaking_ms
from extendum.formats.document import loads

DATA = Path(__file__).parents[1] / "data"

TEXTS = [
    *("Sit tall.", "Lower your left ear towards your left shoulder. Let your right arm grow heavy.", "Halfway."),
    *("Three", "Two", "One", "Bring your head slowly back to the middle.", "Now the other side. Lower your right ear."),
    *("For less, tilt only a little.", "Keep your nose pointing forward and both shoulders low.", "Once more."),
    *("Let your breath out slowly.", "Next, Prayer stretch.", "Let go and shake out your hands.", "Breathe in."),
    "Sit tall and press your palms together in front of your chest.",
    "Nothing should hurt: a mild stretch is plenty. Ease off or stop at any pain, and keep breathing.",
    "Thank you.",
]


def hum(seconds, rng, hertz=150.0):
    """A voice that says nothing: harmonics that swell and fade with each syllable."""
    at = np.arange(int(seconds * RATE)) / RATE
    tone = sum(np.sin(2 * np.pi * hertz * k * at * (1 + 0.02 * rng.random())) / k for k in range(1, 9))
    syllables = 0.55 + 0.45 * np.sin(2 * np.pi * 4.5 * at + rng.random())
    return (0.12 * tone * syllables).astype(np.float32)


def silence(seconds):
    return np.zeros(int(seconds * RATE), np.float32)


def said(text, rng):
    """A text in such a voice, with the pauses of its sentences."""
    parts = []
    for sentence in sentences(text):
        parts += [hum(max(0.18, (speaking_ms(sentence, Speech(150)) - 300) / 1000 * rng.uniform(0.85, 1.2)), rng)]
        parts += [silence(rng.uniform(0.18, 0.45))]
    return np.concatenate(parts[:-1])


def in_a_room(samples, rng, noise=0.0008):
    rumble = 0.02 * np.sin(2 * np.pi * 35 * np.arange(len(samples)) / RATE)
    return (samples + rumble + noise * rng.standard_normal(len(samples))).astype(np.float32)


@pytest.mark.parametrize("loud", [0.08, 1.0, 2.5])
@pytest.mark.parametrize("seconds", [0.3, 4.0])
def test_a_reading_is_trimmed_and_evened_however_loud_it_was(loud, seconds):
    rng = np.random.default_rng(4)
    recorded = in_a_room(np.concatenate([silence(0.7), loud * hum(seconds, rng), silence(1.1)]), rng)
    found = cleaned(recorded)
    assert abs(found.ms - 1000 * seconds) <= 40
    assert abs(len(found.samples) * 1000 / RATE - found.ms - 80) <= 1
    around = RATE * 40 // 1000
    assert loudness_of(found.samples[around:-around]) == pytest.approx(LOUDNESS, abs=0.6)
    assert peak_db(found.samples) <= PEAK_DB
    assert found.samples[0] == found.samples[-1] == 0.0
    low = np.abs(np.fft.rfft(found.samples))[: int(50 * len(found.samples) / RATE)]
    assert low.max() < 0.05 * np.abs(np.fft.rfft(found.samples)).max()


def test_what_is_wrong_with_a_recording_is_told():
    rng = np.random.default_rng(5)
    spoken = np.concatenate([silence(0.5), hum(2, rng), silence(0.5)])
    assert cleaned(in_a_room(spoken, rng)).told == ()
    assert "too loud for the microphone" in cleaned(np.clip(8 * spoken, -1, 1)).told[0]
    assert "The room is loud" in cleaned(in_a_room(spoken, rng, noise=0.012)).told[0]
    for nothing in (silence(2), in_a_room(silence(2), rng), silence(0)):
        with pytest.raises(RefusedError, match="somebody who speaks"):
            cleaned(nothing)


def test_peaks_are_held_down_and_what_has_none_stays():
    rng = np.random.default_rng(6)
    quiet = 0.1 * hum(1, rng)
    assert limited(quiet) is quiet
    clap = quiet.copy()
    clap[RATE // 2] = 0.99
    held = limited(clap)
    assert peak_db(held) <= PEAK_DB and np.allclose(held[: RATE // 4], quiet[: RATE // 4], atol=1e-6)


@pytest.mark.parametrize("seed", range(4))
def test_a_long_recording_is_cut_where_its_texts_end(seed):
    rng = np.random.default_rng(seed)
    parts, truth, at = [silence(0.8)], [], int(0.8 * RATE)
    for n, text in enumerate(TEXTS):
        if n == 7:  # a cough
            parts += [hum(0.12, rng, 90), silence(0.9)]
            at += len(parts[-1]) + len(parts[-2])
        spoken = said(text, rng)
        truth.append((at, at + len(spoken)))
        parts += [spoken, silence(rng.uniform(0.7, 1.6))]
        at += len(spoken) + len(parts[-1])
    pieces = cut(in_a_room(np.concatenate(parts), rng), [speaking_ms(text, Speech(165)) for text in TEXTS])
    assert [piece.text for piece in pieces] == list(range(len(TEXTS)))
    near = RATE * 60 // 1000
    right = [abs(p.at.start - a) < near and abs(p.at.end - b) < near for p, (a, b) in zip(pieces, truth, strict=True)]
    assert sum(right) >= len(TEXTS) - 1
    assert not any(piece.doubt for piece, good in zip(pieces, right, strict=True) if good)


def test_the_measure_of_cutting_counts_what_is_right():
    script = loads((DATA / "digging.json").read_text())
    rng = np.random.default_rng(8)
    assert measured(script, 1, lambda text, rate, voice: said(text, rng), texts=8)[:2] == (8, 8)


def test_a_recording_with_too_little_in_it_is_refused():
    rng = np.random.default_rng(7)
    with pytest.raises(RefusedError, match="2 pieces of speech"):
        cut(in_a_room(np.concatenate([hum(1, rng), silence(1), hum(1, rng), silence(1)]), rng), [1000] * 3)
    assert speech_in(silence(0.005)).stretches == ()
