"""A mix mastered as it goes by: how loud all of it is, then made as loud as speech is broadcast, with its peaks held.

Blocks of any length, two channels at 48 kHz; nothing of a mix is kept but what its next block needs.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np
import scipy  # its parts take 75 MB, and are loaded when the first of them is used

from extendum.core.sound.between import between
from extendum.core.sound.loudness import HOP, Floats, gated, weighting
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


class Meter:
    """The loudness of everything that it was given."""

    def __init__(self) -> None:
        self._states = [np.stack([scipy.signal.lfiltic(one.b, one.a, [])] * 2, axis=1) for one in weighting()]
        self._rest = np.zeros((0, 2))
        self._powers: list[float] = []

    def add(self, block: Samples) -> None:
        """Hear more, shaped (samples, 2)."""
        heard = block + _FAINT[: len(block)] if len(block) <= len(_FAINT) else block.astype(np.float64)
        for n, one in enumerate(weighting()):
            heard, self._states[n] = scipy.signal.lfilter(one.b, one.a, heard, axis=0, zi=self._states[n])
        heard = np.concatenate((self._rest, heard))
        hops = len(heard) // HOP
        self._rest = heard[hops * HOP :]
        powers = np.square(heard[: hops * HOP]).reshape(hops, HOP, 2).mean(axis=1).sum(axis=1)
        self._powers += powers.tolist()

    @property
    def loudness(self) -> float | None:
        """LUFS of all of it; None where nothing is loud enough to count."""
        return gated(self._powers)


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
    around = between(samples).reshape(len(samples), -1)
    peaks = np.maximum.reduce([around[:, n] for n in range(around.shape[1])])
    gain = np.minimum(1.0, most / np.maximum(peaks, 1e-9))
    least = _least(gain, 2 * REACH + 1)
    sums = np.cumsum(np.pad(least, (REACH // 2 + 1, REACH - 1 - REACH // 2), "edge"))
    smooth: Samples = ((sums[REACH:] - sums[:-REACH]) / REACH).astype(np.float32)
    return smooth


def _least(values: Floats, width: int) -> Floats:
    """The least of each value and those around it, ``width`` in all: each step looks twice as far as the one before."""
    found, size = np.pad(values, width // 2, "edge"), 1
    while 2 * size <= width:
        found, size = np.minimum(found[:-size], found[size:]), 2 * size
    return np.minimum(found[: len(values)], found[width - size :][: len(values)])
