"""Music from a file of whatever kind, kept beside it at 48 kHz, so that any part of it is at hand when it is wanted."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np
import soundfile

from extendum.core.model.errors import RefusedError
from extendum.core.outputs.bedding import Music
from extendum.core.sound.bed import LOUDNESS, Looped
from extendum.core.sound.master import Meter
from extendum.core.sound.speech import RATE, Samples
from extendum.formats.audio import Recorded

#: A piece of music is at least so long, and at the most.
LEAST_S, LONGEST_S = 5, 3600


def music_from(path: Path, kept: Path, rights: str = "") -> Music:
    """Music for under a class; what is read of it is kept in another file (WAV).

    RefusedError where it is no sound, or too short or too long.
    """
    if not kept.is_file():
        beside = kept.with_suffix(".new")
        try:
            with soundfile.SoundFile(beside, "w", RATE, 2, "PCM_16", format="WAV") as file:
                for block in decoded(path):
                    file.write(block)
                    if file.frames > LONGEST_S * RATE:
                        raise RefusedError("music", f"at most {LONGEST_S // 60} minutes long", "more")
                seconds = file.frames / RATE
            if seconds < LEAST_S:
                raise RefusedError("music", f"at least {LEAST_S} s long", f"{seconds:.1f} s")
            beside.replace(kept)
        finally:
            beside.unlink(missing_ok=True)
    meter = Meter()
    for block in soundfile.blocks(kept, 5 * RATE, dtype="float32"):
        meter.add(block)
    gain = 10 ** ((LOUDNESS - meter.loudness) / 20) if meter.loudness is not None else 1.0
    return Music(Looped(Recorded(kept, soundfile.info(kept).frames), gain), rights)


def decoded(path: Path, layout: str = "stereo") -> Iterator[Samples]:
    """The first sound in any file that holds one, a film too, in blocks at 48 kHz, shaped (samples, channels)."""
    try:
        with av.open(str(path)) as file:
            if not file.streams.audio:
                raise RefusedError("recording", "a file with sound in it", path.name)
            into = av.AudioResampler(format="flt", layout=layout, rate=RATE)
            for frame in (*file.decode(audio=0), None):
                for part in into.resample(frame):
                    yield part.to_ndarray().reshape(-1, len(part.layout.channels)).astype(np.float32)
    except av.FFmpegError as error:
        raise RefusedError("recording", "sound that can be read", error.strerror or "something else") from None
