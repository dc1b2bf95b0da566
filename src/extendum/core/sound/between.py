"""What lies between samples, by their spectrum: how high it reaches, and the same sound at another rate."""

from __future__ import annotations

from math import gcd

import numpy as np
import numpy.typing as npt

from extendum.core.sound.speech import RATE, Samples

#: Samples between two samples that peaks are looked for at, and the silence around what is looked at.
OVER, AROUND = 4, 64


def between(samples: Samples) -> npt.NDArray[np.float64]:
    """How high the samples and what lies between them reach: OVER times as many, on as many channels."""
    length = quick(len(samples) + 2 * AROUND)
    padded = np.pad(samples, [(AROUND, length - AROUND - len(samples)), *[(0, 0)] * (samples.ndim - 1)])
    wave = np.fft.irfft(np.fft.rfft(padded, axis=0), OVER * length, axis=0) * OVER
    found: npt.NDArray[np.float64] = np.abs(wave[OVER * AROUND : OVER * (AROUND + len(samples))])
    return found


def at_rate(samples: Samples, rate: int) -> Samples:
    """One channel at the rate of every reading, without what that rate cannot hold."""
    if rate == RATE or not len(samples):
        return samples
    common = gcd(rate, RATE)
    up, down = RATE // common, rate // common
    before = -(-AROUND // down)  # whole steps, so that both begin together
    times = quick(before + -(-(len(samples) + AROUND) // down))
    padded = np.pad(samples, (before * down, (times - before) * down - len(samples)))
    wave = np.fft.irfft(np.fft.rfft(padded), times * up) * (up / down)
    first = before * up
    found: Samples = wave[first : first + -(-len(samples) * up // down)].astype(np.float32)
    return found


def quick(length: int) -> int:
    """The next length that a transform is quick with: a power of two, or one and a half of one."""
    power: int = 1 << (length - 1).bit_length()
    return power * 3 // 4 if power * 3 // 4 >= length else power
