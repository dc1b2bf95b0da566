"""Where the clap of the slate is in a recording: the Stage's own tone, heard through the noise of a room."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from extendum.core.sound.speech import RATE, Samples

#: What the Stage plays: a square wave of so many hertz for so many milliseconds, so its odd overtones sound, too.
HERTZ, CLAP_MS = 1000, 60
_PARTIALS = (1, 3, 5)
#: The first look goes in steps of so many milliseconds; the second one looks so far around what it found.
STEP_MS, AROUND_MS = 10, 80
#: Of what sounds in a clap so much, at least, are these tones.
LEAST_SHARE = 0.25
#: The first clap is the one of the recording: it is so loud beside the loudest, at least.
LEAST_LOUD = 0.1


def clap_ms(recorded: Samples) -> int | None:
    """Milliseconds from the beginning of a recording (one channel at 48 kHz) to its clap; None where there is none."""
    length, step = RATE * CLAP_MS // 1000, RATE * STEP_MS // 1000
    if len(recorded) < length:
        return None
    starts = np.arange(0, len(recorded) - length + 1, step)
    tones = np.zeros(len(starts))
    whole = np.zeros(len(starts))
    shapes = [_tone(part, length) for part in _PARTIALS]
    for first in range(0, len(starts), 2000):
        some = starts[first : first + 2000]
        windows = recorded[some[:, np.newaxis] + np.arange(length)].astype(np.float64)
        whole[first : first + len(some)] = np.square(windows).sum(axis=1)
        tones[first : first + len(some)] = sum(np.square(np.abs(windows @ one)) for one in shapes) * 2 / length
    share = tones / np.maximum(whole, 1e-9)
    clear = np.where(share >= LEAST_SHARE, tones * np.square(share), 0.0)
    if not clear.max():
        return None
    first_one = int(np.argmax(clear > LEAST_LOUD * clear.max()))  # later ones are those of retakes
    best = first_one + int(clear[first_one : first_one + AROUND_MS // STEP_MS].argmax())
    around = RATE * AROUND_MS // 1000
    low = max(0, int(starts[best]) - around)
    near = recorded[low : int(starts[best]) + length + around].astype(np.float64)
    heard = sum(np.square(np.abs(np.convolve(near, one[::-1], "valid"))) for one in shapes)
    return round((low + int(np.argmax(heard))) * 1000 / RATE)


def _tone(part: int, length: int) -> npt.NDArray[np.complex128]:
    """One overtone of the clap, to be compared with what was recorded."""
    found: npt.NDArray[np.complex128] = np.exp(-2j * np.pi * HERTZ * part * np.arange(length) / RATE)
    return found
