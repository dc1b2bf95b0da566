"""The stand-in for a teacher's voice: espeak-ng, where it is installed. Outside the core, since it starts a program."""

from __future__ import annotations

import io
import shutil
import subprocess

import numpy as np
import soundfile

from extendum.core.outputs.sound import RATE, Samples, Speaker

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
    """The samples of a recording at the core's rate, without the silence around the words."""
    samples, rate = soundfile.read(io.BytesIO(wav), dtype="float32", always_2d=True)
    mono = samples.mean(axis=1)
    if rate != RATE:
        at = np.arange(0, len(mono), rate / RATE)
        mono = np.interp(at, np.arange(len(mono)), mono)
    loud = np.flatnonzero(np.abs(mono) > SILENT)
    kept = mono[loud[0] : loud[-1] + 1] if len(loud) else mono[:0]
    return np.asarray(kept, dtype=np.float32)
