"""Where somebody speaks in a recording: stretches of sound above the noise of the room, with silences between them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

#: Samples a second of everything that is recorded.
RATE = 48_000
Samples = npt.NDArray[np.float32]

FRAME_MS = 10
#: What is left of a reading before its first sound and after its last one.
AROUND_MS = 40
#: Speech is so many decibels above the noise of the room, and no more than so many below the loudest part.
ABOVE_NOISE_DB, BELOW_LOUDEST_DB = 12.0, 38.0
#: So much of a recording, at least, is nobody speaking.
QUIETEST_PERCENT = 3
#: A sound shorter than this is a click; a pause shorter than this is inside a word.
SOUND_MS, PAUSE_MS = 50, 120
#: Nothing is quieter than this.
_FLOOR_DB = -100.0


class Stretch(NamedTuple):
    """From one sample up to another."""

    start: int
    end: int

    @property
    def ms(self) -> int:
        """How long it is."""
        return round((self.end - self.start) * 1000 / RATE)


class Heard(NamedTuple):
    """Stretches of speech in a recording, and how loud the room is between them, in decibels below full scale."""

    stretches: tuple[Stretch, ...]
    noise_db: float


def speech_in(samples: Samples) -> Heard:
    """The stretches of speech in a recording that has no rumble; none where all of it is as loud as the room."""
    frame = RATE * FRAME_MS // 1000
    frames = len(samples) // frame
    if not frames:
        return Heard((), _FLOOR_DB)
    power = np.square(samples[: frames * frame].astype(np.float64)).reshape(frames, frame).mean(axis=1)
    level = 10 * np.log10(np.maximum(power, 10 ** (_FLOOR_DB / 10)))
    noise = float(np.percentile(level, QUIETEST_PERCENT))
    loud = level > max(noise + ABOVE_NOISE_DB, float(level.max()) - BELOW_LOUDEST_DB)
    found = [Stretch(a * frame, b * frame) for a, b in _runs(loud)]
    found = _joined([one for one in found if one.ms >= SOUND_MS or _beside(one, found)])
    return Heard(tuple(one for one in found if one.ms >= SOUND_MS), noise)


def _runs(flags: npt.NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Where flags begin to be set and where they end."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], flags.astype(np.int8), [0]))))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def _beside(one: Stretch, others: list[Stretch]) -> bool:
    """Whether a short sound belongs to a longer one: the end of a word."""
    near = RATE * PAUSE_MS // 1000
    return any(
        other.ms >= SOUND_MS and (0 <= one.start - other.end < near or 0 <= other.start - one.end < near)
        for other in others
    )


def _joined(found: list[Stretch]) -> list[Stretch]:
    """Stretches with only the pause inside a word between them are one."""
    joined: list[Stretch] = []
    for one in found:
        if joined and one.start - joined[-1].end < RATE * PAUSE_MS // 1000:
            joined[-1] = Stretch(joined[-1].start, one.end)
        else:
            joined.append(one)
    return joined
