"""A mix mastered as it goes by: how loud all of it is, then made as loud as speech is broadcast, with its peaks held.

Blocks of any length, two channels at 48 kHz; nothing of a mix is kept but what its next block needs.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cache
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt
import scipy  # its parts take 75 MB, and are loaded when the first of them is used

if TYPE_CHECKING:
    from pyloudnorm import IIRfilter

from extendum.core.sound.speech import RATE, Samples

#: Loudness of a guide (LUFS), and what no peak exceeds (dBTP).
LOUDNESS, PEAK_DB = -16.0, -1.0
#: A peak between samples is found to so many decibels.
MARGIN_DB = 0.3
#: The gain goes down before a peak and up after it, over so many samples.
REACH = RATE // 200
#: What nobody hears: filters that come to rest in silence calculate with numbers too small for a processor to be quick.
_FAINT = 1e-10 * np.random.default_rng(1).standard_normal((5 * RATE, 1))
#: No mix is made louder than by so much: what is nearly silent stays so.
MOST_GAIN_DB = 30.0
#: Loudness is that of 400 ms each 100 ms; what is quieter than this, or so much under the rest, is silence (BS.1770).
_HOP, _HOPS, _ABSOLUTE, _RELATIVE = RATE // 10, 4, -70.0, -10.0


@cache
def _filters() -> tuple[IIRfilter, IIRfilter]:
    """Those of that standard: the head in front of the ears, then what ears do not hear of low sounds."""
    from pyloudnorm import IIRfilter  # brings those parts of scipy

    shelf = IIRfilter(4.0, 1 / np.sqrt(2), 1500.0, RATE, "high_shelf")
    return shelf, IIRfilter(0.0, 0.5, 38.0, RATE, "high_pass")


class Meter:
    """The loudness of everything that it was given."""

    def __init__(self) -> None:
        self._states = [np.stack([scipy.signal.lfiltic(one.b, one.a, [])] * 2, axis=1) for one in _filters()]
        self._rest = np.zeros((0, 2))
        self._powers: list[float] = []

    def add(self, block: Samples) -> None:
        """Hear more, shaped (samples, 2)."""
        heard = block + _FAINT[: len(block)] if len(block) <= len(_FAINT) else block.astype(np.float64)
        for n, one in enumerate(_filters()):
            heard, self._states[n] = scipy.signal.lfilter(one.b, one.a, heard, axis=0, zi=self._states[n])
        heard = np.concatenate((self._rest, heard))
        hops = len(heard) // _HOP
        self._rest = heard[hops * _HOP :]
        powers = np.square(heard[: hops * _HOP]).reshape(hops, _HOP, 2).mean(axis=1).sum(axis=1)
        self._powers += powers.tolist()

    @property
    def loudness(self) -> float | None:
        """LUFS of all of it; None where nothing is loud enough to count."""
        if len(self._powers) < _HOPS:
            return None
        blocks = np.convolve(self._powers, np.ones(_HOPS) / _HOPS, "valid")
        heard = blocks[_lufs(blocks) > _ABSOLUTE]
        if not len(heard):
            return None
        heard = heard[_lufs(heard) > _lufs(heard.mean()) + _RELATIVE]
        return float(_lufs(heard.mean()))


def _lufs(power: npt.ArrayLike) -> npt.NDArray[np.float64]:
    found: npt.NDArray[np.float64] = -0.691 + 10 * np.log10(np.maximum(power, 1e-12))
    return found


def gain_for(loudness: float | None) -> float:
    """By what a mix of this loudness is multiplied."""
    if loudness is None:
        return 1.0
    return float(10 ** (min(MOST_GAIN_DB, LOUDNESS - loudness) / 20))


def mastered(mix: Iterable[Samples], gain: float, peak_db: float = PEAK_DB) -> Iterator[Samples]:
    """The mix times a gain, with no peak above ``peak_db`` (dBTP), in blocks that are together as long as it was."""
    around = 2 * REACH
    ahead = np.zeros((around, 2), np.float32)
    kept = ahead  # what is still to be given, and before it what it is held beside
    for block in mix:
        kept = np.concatenate((kept, block * np.float32(gain)))
        if len(kept) > 2 * around:
            yield held_down(kept, peak_db)[around:-around]
            kept = kept[-2 * around :]
    yield held_down(np.concatenate((kept, ahead)), peak_db)[around:-around]


def held_down(samples: Samples, peak_db: float) -> Samples:
    """The same with its peaks held: both channels by the same gain, which changes too slowly to be heard."""
    most = 10 ** ((peak_db - MARGIN_DB) / 20)
    loud = np.flatnonzero((np.abs(samples) > most / 2).reshape(len(samples), -1).any(axis=1))
    if not len(loud):  # between samples it is never twice as loud
        return samples
    found = samples.copy()
    ends = np.flatnonzero(np.diff(loud) > 4 * REACH)
    for first, last in zip(loud[np.append(0, ends + 1)], loud[np.append(ends, -1)], strict=True):
        part = slice(max(0, first - 2 * REACH), last + 2 * REACH)
        found[part] *= _gain(samples[part], most).reshape(-1, *[1] * (samples.ndim - 1))
    return found


def _gain(samples: Samples, most: float) -> Samples:
    """By what each sample is multiplied so that none, and nothing between two, is above ``most``."""
    between = np.abs(scipy.signal.resample_poly(samples, 4, 1, axis=0)).reshape(len(samples), -1)
    peaks = np.maximum.reduce([between[:, n] for n in range(between.shape[1])])
    gain = np.minimum(1.0, most / np.maximum(peaks, 1e-9))
    least = scipy.ndimage.minimum_filter1d(gain, 2 * REACH + 1)
    smooth: Samples = scipy.ndimage.uniform_filter1d(least, REACH).astype(np.float32)
    return smooth
