"""The audio guide as a file: WAV, or Ogg Vorbis."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum
from pathlib import Path

import soundfile

from extendum.core.model.timeline import Mode, Timeline, clock
from extendum.core.outputs.sound import BLOCK, RATE, Hurried, Speaker, render


class Kind(StrEnum):
    """How it is kept."""

    WAV = "wav"
    OGG = "ogg"


_AS = {Kind.WAV: ("WAV", "PCM_16"), Kind.OGG: ("OGG", "VORBIS")}


def audio_guide(
    timeline: Timeline,
    path: Path,
    kind: Kind,
    rate: int,
    voice: Speaker | None = None,
    progress: Callable[[float], object] = lambda share: None,
) -> list[Hurried]:
    """Write the class as sound, block by block; what the voice had to hurry. ``progress`` is told the share done."""
    hurried: list[Hurried] = []
    form, subtype = _AS[kind]
    whole = max(1, timeline.length_s * RATE)
    with soundfile.SoundFile(path, "w", RATE, 1, subtype, format=form) as file:
        for n, block in enumerate(render(timeline, rate, voice, hurried), 1):
            file.write(block)
            progress(min(1.0, n * BLOCK / whole))
    return hurried


def spoken_list(timeline: Timeline) -> str:
    """What is to be said and when, for a guide without a voice."""
    spoken = sorted((cue for cue in timeline.cues if cue.mode is Mode.SPOKEN), key=lambda cue: cue.start_ms)
    return "".join(f"{clock(cue.start_ms // 1000)} {cue.text}\n" for cue in spoken)
