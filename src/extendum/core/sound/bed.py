"""Music under a class: looped without a seam, as long as the class, and softer while somebody speaks.

A bed is asked for its parts, so no more of it than a block is ever in memory.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Protocol

import numpy as np

from extendum.core.sound.speech import RATE, Samples

#: Loudness of a bed beside speech at -20 LUFS, and by how much it goes down under speech.
LOUDNESS, DUCK_DB = -32.0, 8.0
#: It is down when speech begins and takes so long to come back; it stays down in pauses that are shorter.
ATTACK_MS, RELEASE_MS, PAUSE_MS = 300, 1200, 2500
#: How long the end of a loop and its beginning are heard together, and one bed and the next.
CROSSFADE_S = 4
FADE_IN_S, FADE_OUT_S = 3, 6
#: The drone is the same again after so many seconds.
DRONE_S = 24
#: Its tones: Hertz, loudness, and how often each swells in a loop: whole numbers, so that its end meets its beginning.
_TONES = ((98.0, 1.0, 1), (147.0, 0.7, 2), (196.0, 0.5, 3), (294.0, 0.22, 2))


class Bed(Protocol):
    """Sound of any length, two channels at 48 kHz."""

    def part(self, start: int, length: int) -> Samples:
        """So many samples of it from one on, shaped (length, 2)."""


class Piece(Protocol):
    """A recording that can be read from any sample on."""

    def __len__(self) -> int: ...

    def read(self, start: int, length: int) -> Samples:
        """So many samples of it, shaped (length, 2), at the most up to its end."""


@dataclass(frozen=True, slots=True)
class Looped:
    """A recording again and again; its end and its beginning are heard together, as loud as either.

    ``gain``: what it is multiplied by.
    """

    piece: Piece
    gain: float = 1.0

    def part(self, start: int, length: int) -> Samples:
        """Of any part of the endless loop."""
        over = min(CROSSFADE_S * RATE, len(self.piece) // 3)
        period = len(self.piece) - over
        made = np.zeros((length, 2), np.float32)
        for turn in range(max(0, (start - over) // period), (start + length) // period + 1):
            first = max(start, turn * period)
            last = min(start + length, turn * period + len(self.piece))
            if last <= first:
                continue
            at = first - turn * period
            heard = self.piece.read(at, last - first)
            made[first - start : last - start] += heard * self._shape(at, len(heard), over, first_turn=turn == 0)
        return made * np.float32(self.gain)

    def _shape(self, at: int, length: int, over: int, first_turn: bool) -> Samples:
        """How loud each sample of a turn is: rising over its beginning, falling over its end, in equal power."""
        place = np.arange(at, at + length, dtype=np.float32)
        rising = np.ones(length, np.float32) if first_turn else np.clip(place / over, 0, 1)
        falling = np.clip((len(self.piece) - place) / over, 0, 1)
        shape: Samples = np.sin(np.pi / 2 * rising) * np.sin(np.pi / 2 * falling)
        return shape[:, np.newaxis]


class Drone:
    """Four slow tones that swell and fade apart from each other: made, not recorded, so nobody's rights are in it."""

    def part(self, start: int, length: int) -> Samples:
        """Of a loop that has no seam."""
        whole = _drone()
        return whole[np.arange(start, start + length) % len(whole)]


@cache
def _drone() -> Samples:
    made = np.zeros((DRONE_S * RATE, 2), np.float32)
    for second in range(DRONE_S):
        turn = 2 * np.pi * (second + np.arange(RATE) / RATE) / DRONE_S
        part = made[second * RATE :][:RATE]
        for hertz, loud, swells in _TONES:
            for side, other in enumerate((1, -1)):
                swell = 0.65 + 0.35 * np.sin(swells * turn + side * 1.3 + hertz)
                part[:, side] += loud * swell * np.sin((round(hertz * DRONE_S) + other * swells) * turn)
    return made * np.float32(0.014)


@dataclass(frozen=True, slots=True)
class InTurn:
    """One bed after another, None for silence: from which sample each is heard, in order, the first from nought."""

    beds: Sequence[tuple[int, Bed | None]]

    def part(self, start: int, length: int) -> Samples:
        """Each in its stretch, and a little of the one before while it comes in."""
        made, over = np.zeros((length, 2), np.float32), CROSSFADE_S * RATE
        ends = [first for first, _ in self.beds[1:]]
        for n, (first, bed) in enumerate(self.beds):
            end = ends[n] if n < len(ends) else None
            low, high = max(start, first), start + length if end is None else min(start + length, end + over)
            if bed is None or high <= low:
                continue
            place = np.arange(low, high, dtype=np.float32)
            shape = np.ones(high - low, np.float32) if n == 0 else np.clip((place - first) / over, 0, 1)
            if end is not None:
                shape = shape * np.clip((end + over - place) / over, 0, 1)
            made[low - start : high - start] += (
                bed.part(low - first, high - low) * np.sin(np.pi / 2 * shape)[:, np.newaxis]
            )
        return made


def ducking(speech: Sequence[tuple[int, int]]) -> tuple[Samples, Samples]:
    """Where a bed goes down and up again, as samples and decibels between which it goes in straight lines.

    ``speech``: from which sample to which somebody speaks, in order.
    """
    attack, release, pause = (RATE * ms // 1000 for ms in (ATTACK_MS, RELEASE_MS, PAUSE_MS))
    joined: list[list[int]] = []
    for first, last in speech:
        if joined and first - joined[-1][1] < pause:
            joined[-1][1] = max(joined[-1][1], last)
        else:
            joined.append([first, last])
    at, down = [0.0], [0.0]
    for first, last in joined:
        at += [max(at[-1], first - attack), first, last, last + release]
        down += [0.0, -DUCK_DB, -DUCK_DB, 0.0]
    return np.asarray(at, np.float64), np.asarray(down, np.float64)


def under(bed: Bed, speech: Sequence[tuple[int, int]], whole: int, block: int) -> Iterator[Samples]:
    """The bed in blocks, as long as the class (``whole`` samples): softer under speech, from and to silence."""
    at, down = ducking(speech)
    for start in range(0, whole, block):
        place = np.arange(start, min(start + block, whole))
        gain = 10 ** (np.interp(place, at, down) / 20)
        gain = gain * np.clip(place / (FADE_IN_S * RATE), 0, 1) * np.clip((whole - place) / (FADE_OUT_S * RATE), 0, 1)
        yield bed.part(start, len(place)) * gain[:, np.newaxis].astype(np.float32)
