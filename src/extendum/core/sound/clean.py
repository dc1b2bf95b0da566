"""A reading made fit to be heard in a class: trimmed to its speech, without rumble, as loud as every other one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy  # its parts are loaded when the first of them is used

from extendum.core.model.errors import RefusedError
from extendum.core.sound.between import between
from extendum.core.sound.loudness import integrated
from extendum.core.sound.master import held_down
from extendum.core.sound.speech import AROUND_MS, RATE, Samples, speech_in

#: How long a reading fades in and out.
FADE_MS = 12
#: Loudness of a reading (LUFS) and what no peak exceeds (dBTP).
LOUDNESS, PEAK_DB = -20.0, -3.0
#: Nothing is made louder than from here.
QUIETEST = -60.0
#: Rumble of steps, of the microphone's stand and of the mains lies below.
RUMBLE_HZ = 80
#: A room is loud whose noise is less than so many decibels below the speech.
NOISY_DB = 30.0
#: So many samples in a row at full scale are cut off.
_CLIPPED_RUN, _FULL = 3, 0.999


@dataclass(frozen=True, slots=True)
class Cleaned:
    """A reading: samples at 48 kHz with AROUND_MS on both sides of its speech; ``ms`` from its first sound to its last.

    ``loudness``: LUFS as it was recorded; ``told``: what was wrong with the recording, in sentences.
    """

    samples: Samples
    ms: int
    loudness: float
    told: tuple[str, ...]


def cleaned(recorded: Samples) -> Cleaned:
    """A recording of one text; RefusedError where nobody speaks in it."""
    told = []
    if _clipped(recorded):
        told.append("It was too loud for the microphone. Move away a little, and read it again.")
    clear = without_rumble(recorded)
    heard = speech_in(clear)
    if not heard.stretches:
        raise RefusedError("recording", "somebody who speaks", "nothing louder than the room")
    first, last = heard.stretches[0].start, heard.stretches[-1].end
    around = RATE * AROUND_MS // 1000
    kept = clear[max(0, first - around) : last + around]
    before, after = around - min(around, first), around - min(around, len(clear) - last)
    spoken = np.pad(kept, (before, after))
    loudness = loudness_of(clear[first:last])
    if loudness - heard.noise_db < NOISY_DB:
        told.append("The room is loud. Close the window, or come nearer to the microphone.")
    even = limited(spoken * np.float32(10 ** ((LOUDNESS - loudness) / 20)))
    return Cleaned(faded(even), round((last - first) * 1000 / RATE), loudness, tuple(told))


def without_rumble(samples: Samples) -> Samples:
    """Everything above RUMBLE_HZ, in its place."""
    if len(samples) < RATE // 50:
        return samples
    passing = scipy.signal.butter(4, RUMBLE_HZ, "highpass", fs=RATE, output="sos")
    clear: Samples = scipy.signal.sosfiltfilt(passing, samples).astype(np.float32)
    return clear


def loudness_of(samples: Samples) -> float:
    """LUFS of speech; what is shorter than a block of the measure is measured as if it were said again and again."""
    least = RATE * 4 // 5
    enough = np.tile(samples, -(-least // max(1, len(samples)))) if len(samples) < least else samples
    found = integrated(enough)
    return QUIETEST if found is None else found


def as_loud(spoken: Samples) -> Samples:
    """Speech as loud as every reading is."""
    if not len(spoken):
        return spoken
    loudness = max(QUIETEST, loudness_of(spoken))
    return limited(spoken * np.float32(10 ** ((LOUDNESS - loudness) / 20)))


def peak_db(samples: Samples) -> float:
    """The true peak in decibels below full scale, between the samples too."""
    peak = float(between(samples).max(initial=0.0))
    return float(20 * np.log10(max(peak, 1e-9)))


def limited(samples: Samples, most_db: float = PEAK_DB) -> Samples:
    """The same with its peaks held down, and once more where that leaves one."""
    for _ in range(4):
        if peak_db(samples) <= most_db:
            break
        samples = held_down(samples, most_db)
    return samples


def faded(samples: Samples) -> Samples:
    """The same, from nothing and to nothing."""
    length = min(len(samples) // 2, RATE * FADE_MS // 1000)
    ramp = np.sin(np.linspace(0, np.pi / 2, length)) ** 2
    found = samples.copy()
    found[:length] *= ramp
    found[len(found) - length :] *= ramp[::-1]
    return found


def _clipped(samples: Samples) -> bool:
    full = np.abs(samples) >= _FULL
    return bool(len(full) >= _CLIPPED_RUN and np.convolve(full, np.ones(_CLIPPED_RUN), "valid").max() >= _CLIPPED_RUN)
