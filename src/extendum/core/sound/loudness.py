"""How loud sound is to those who hear it (ITU-R BS.1770).

Only numpy, so that what is listened to on the Desk is levelled at once; a whole mix is metered as it goes by
(`master.py`).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from extendum.core.sound.between import quick
from extendum.core.sound.speech import RATE, Samples

Floats = npt.NDArray[np.float64]
#: Loudness is that of 400 ms each 100 ms; what is quieter than this, or so much under the rest, is silence.
HOP, HOPS, ABSOLUTE, RELATIVE = RATE // 10, 4, -70.0, -10.0


@dataclass(frozen=True, slots=True)
class Biquad:
    """A filter of second order: what it is fed with, and what comes back."""

    b: Floats
    a: Floats

    def response(self, turns: Floats) -> npt.NDArray[np.complex128]:
        """What it makes of each frequency, in parts of the rate."""
        z = np.exp(-2j * np.pi * turns[:, None] * np.arange(3))
        answer: npt.NDArray[np.complex128] = (z @ self.b) / (z @ self.a)
        return answer


@cache
def weighting() -> tuple[Biquad, Biquad]:
    """The filters of the standard: the head in front of the ears, then what ears do not hear of low sounds."""
    return _shelf(4.0, 1 / np.sqrt(2), 1500.0), _high_pass(0.5, 38.0)


def _shelf(gain_db: float, q: float, hertz: float) -> Biquad:
    gain, turn = 10 ** (gain_db / 40), 2 * np.pi * hertz / RATE
    cos, rest = np.cos(turn), 2 * np.sqrt(gain) * np.sin(turn) / (2 * q)
    up, down = gain + 1, gain - 1
    b = gain * np.array([up + down * cos + rest, -2 * (down + up * cos), up + down * cos - rest])
    a = np.array([up - down * cos + rest, 2 * (down - up * cos), up - down * cos - rest])
    return Biquad(b / a[0], a / a[0])


def _high_pass(q: float, hertz: float) -> Biquad:
    turn = 2 * np.pi * hertz / RATE
    cos, rest = np.cos(turn), np.sin(turn) / (2 * q)
    b, a = np.array([1 + cos, -2 * (1 + cos), 1 + cos]) / 2, np.array([1 + rest, -2 * cos, 1 - rest])
    return Biquad(b / a[0], a / a[0])


def lufs(power: npt.ArrayLike) -> Floats:
    """Decibels of a power that was weighted."""
    found: Floats = -0.691 + 10 * np.log10(np.maximum(power, 1e-12))
    return found


def gated(powers: npt.ArrayLike) -> float | None:
    """Loudness from the weighted power of each 100 ms; None where nothing is loud enough to count."""
    every = np.asarray(powers, dtype=np.float64)
    if len(every) < HOPS:
        return None
    blocks = np.convolve(every, np.ones(HOPS) / HOPS, "valid")
    heard = blocks[lufs(blocks) > ABSOLUTE]
    if not len(heard):
        return None
    heard = heard[lufs(heard) > lufs(heard.mean()) + RELATIVE]
    return float(lufs(heard.mean()))


def integrated(samples: Samples) -> float | None:
    """LUFS of one channel, from at least 400 ms; None where nothing is loud enough to count."""
    length = quick(len(samples) + RATE // 2)  # what the filters ring on does not come round
    turns = np.fft.rfftfreq(length).astype(np.float64)
    weighted = np.fft.rfft(samples.astype(np.float64), length)
    for one in weighting():
        weighted *= one.response(turns)
    heard = np.fft.irfft(weighted, length)[: len(samples) // HOP * HOP]
    return gated(np.square(heard).reshape(-1, HOP).mean(axis=1))
