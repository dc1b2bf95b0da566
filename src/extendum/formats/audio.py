"""The audio guide as a file: what is heard of a class, with music under it, in stereo, mastered."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from enum import StrEnum
from io import BytesIO
from pathlib import Path

import av
import numpy as np
import soundfile

from extendum.core.model.timeline import Timeline
from extendum.core.outputs.sound import BLOCK, Hurried, Speaker, render
from extendum.core.sound.bed import Bed, under
from extendum.core.sound.master import PEAK_DB, Meter, gain_for, mastered
from extendum.core.sound.speech import RATE, Samples


class Kind(StrEnum):
    """How it is kept."""

    WAV = "wav"
    FLAC = "flac"
    OGG = "ogg"
    MP3 = "mp3"


_AS = {Kind.WAV: ("WAV", "PCM_16"), Kind.FLAC: ("FLAC", "PCM_16"), Kind.MP3: ("MP3", "MPEG_LAYER_III")}
#: Opus: bits a second, and how hard it tries (0 to 10); at 10 it takes four times as long.
_OPUS_BITS, _SPEECH_BITS, _OPUS_TRIES = 96_000, 28_000, "5"
#: What loses a little of the sound may play a peak a little higher.
_LOSSY_DB = 1.5
#: Shares of the work: what is heard, how loud it is, and the file.
_HEARD, _MEASURED = 0.6, 0.75


def audio_guide(
    timeline: Timeline,
    path: Path,
    kind: Kind,
    rate: int,
    voice: Speaker | None = None,
    progress: Callable[[float], object] = lambda share: None,
    bed: Bed | None = None,
) -> list[Hurried]:
    """Write the class as sound, block by block; what the voice had to hurry. ``progress`` is told the share done."""
    hurried: list[Hurried] = []
    spoken: list[tuple[int, int]] = []
    whole = max(1, timeline.length_s * RATE)
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=f".{path.name.lstrip('.')}.") as folder:
        heard = Path(folder) / "heard.w64"
        with soundfile.SoundFile(heard, "w", RATE, 1, "PCM_24", format="W64") as file:
            for n, block in enumerate(render(timeline, rate, voice, hurried, spoken), 1):
                file.write(block)
                progress(_HEARD * min(1.0, n * BLOCK / whole))
        meter = Meter()
        for n, block in enumerate(_mix(heard, bed, spoken), 1):
            meter.add(block)
            progress(_HEARD + (_MEASURED - _HEARD) * min(1.0, n * BLOCK / whole))
        most = PEAK_DB if kind in (Kind.WAV, Kind.FLAC) else PEAK_DB - _LOSSY_DB
        with _written(path, kind) as write:
            for n, block in enumerate(mastered(_mix(heard, bed, spoken), gain_for(meter.loudness), most), 1):
                write(block)
                progress(_MEASURED + (1 - _MEASURED) * min(1.0, n * BLOCK / whole))
    return hurried


@contextmanager
def _written(path: Path, kind: Kind) -> Iterator[Callable[[Samples], object]]:
    """What writes blocks of two channels into a file."""
    if kind is Kind.OGG:
        with av.open(str(path), "w", format="ogg") as film:
            stream = film.add_stream("libopus", rate=RATE, layout="stereo")
            stream.bit_rate = _OPUS_BITS
            stream.codec_context.options = {"compression_level": _OPUS_TRIES}
            at = 0

            def write(block: Samples | None) -> None:
                nonlocal at
                frame = None
                if block is not None:
                    frame = av.AudioFrame.from_ndarray(block.reshape(1, -1), format="flt", layout="stereo")
                    frame.sample_rate, frame.pts = RATE, at
                    at += len(block)
                film.mux(stream.encode(frame))

            yield write
            write(None)
        return
    form, subtype = _AS[kind]
    with soundfile.SoundFile(path, "w", RATE, 2, subtype, format=form) as file:
        yield file.write


def opus(samples: Samples) -> bytes:
    """Speech of one channel as a small Ogg Opus file."""
    out = BytesIO()
    with av.open(out, "w", format="ogg") as film:
        stream = film.add_stream("libopus", rate=RATE, layout="mono")
        stream.bit_rate = _SPEECH_BITS
        stream.codec_context.options = {"compression_level": _OPUS_TRIES, "application": "voip"}
        frame = av.AudioFrame.from_ndarray(samples.astype(np.float32).reshape(1, -1), format="flt", layout="mono")
        frame.sample_rate, frame.pts = RATE, 0
        film.mux(stream.encode(frame))
        film.mux(stream.encode(None))
    return out.getvalue()


def _mix(heard: Path, bed: Bed | None, spoken: list[tuple[int, int]]) -> Iterator[Samples]:
    """What is heard in the middle, and the bed around it."""
    with soundfile.SoundFile(heard) as file:
        music: Iterable[Samples | None] = under(bed, spoken, file.frames, BLOCK) if bed else _nothing()
        for block, beside in zip(file.blocks(BLOCK, dtype="float32"), music, strict=False):
            mix = np.repeat(block[:, np.newaxis], 2, axis=1)
            yield mix if beside is None else mix + beside


def _nothing() -> Iterator[None]:
    while True:
        yield None


@dataclass(frozen=True, slots=True)
class Recorded:
    """A recording at 48 kHz with two channels, read from its file as it is wanted; ``frames``: how long it is."""

    path: Path
    frames: int

    def __len__(self) -> int:
        return self.frames

    def read(self, start: int, length: int) -> Samples:
        """So many samples from one on, up to its end."""
        with soundfile.SoundFile(self.path) as file:
            file.seek(start)
            found: Samples = file.read(length, dtype="float32", always_2d=True)
            return found
