"""The stand-in for a teacher's voice: espeak-ng, where it is installed. Outside the core, since it starts a program."""

from __future__ import annotations

import io
import shutil
import subprocess

import numpy as np
import soundfile

from extendum.core.outputs.sound import Speaker
from extendum.core.sound.speech import Samples
from extendum.formats.recordings import at_rate

#: What is as soft as this before and after the words is no part of them.
SILENT = 0.01
LONGEST_S = 30


def espeak() -> Speaker | None:
    """A voice of espeak-ng; None where it is not installed."""
    program = shutil.which("espeak-ng")
    if program is None:
        return None

    def say(text: str, rate: int) -> Samples:
        command = [program, "-v", "en", "-s", str(rate), "--stdout"]
        done = subprocess.run(command, input=text.encode(), capture_output=True, timeout=LONGEST_S, check=True)  # noqa: S603
        return _words_only(done.stdout)

    return say


def _words_only(wav: bytes) -> Samples:
    """The samples of a recording as readings are: at their rate and loudness, without the silence around the words."""
    from extendum.core.sound.clean import as_loud  # takes a second to load: only where it is wanted

    samples, rate = soundfile.read(io.BytesIO(wav), dtype="float32", always_2d=True)
    mono = at_rate(samples.mean(axis=1), rate)
    loud = np.flatnonzero(np.abs(mono) > SILENT)
    kept = mono[loud[0] : loud[-1] + 1] if len(loud) else mono[:0]
    return as_loud(np.asarray(kept, dtype=np.float32))
