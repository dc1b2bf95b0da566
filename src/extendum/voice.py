"""The stand-in for a teacher's voice: a program that speaks. Outside the core, since it starts one.

espeak-ng where it is installed, or the command in EXTENDUM_SPEAKER: it is given text and writes WAV; {rate} stands for
words a minute.
"""

from __future__ import annotations

import io
import os
import shlex
import shutil
import subprocess

import numpy as np
import soundfile

from extendum.core.model.errors import RefusedError
from extendum.core.outputs.sound import Speaker
from extendum.core.sound.between import at_rate
from extendum.core.sound.clean import as_loud
from extendum.core.sound.speech import Samples

NAMED, USUAL = "EXTENDUM_SPEAKER", "espeak-ng -v en -s {rate} --stdout"
#: What is as soft as this before and after the words is no part of them.
SILENT = 0.01
LONGEST_S = 30


def stand_in() -> Speaker | None:
    """Whoever speaks where nobody has read; None where there is no such program."""
    words = shlex.split(os.environ.get(NAMED, "").strip() or USUAL)
    program = shutil.which(words[0])
    if program is None:
        return None

    def say(text: str, rate: int) -> Samples:
        command = [program, *(word.replace("{rate}", str(rate)) for word in words[1:])]
        try:
            done = subprocess.run(command, input=text.encode(), capture_output=True, timeout=LONGEST_S, check=True)  # noqa: S603
            return _words_only(done.stdout)
        except subprocess.CalledProcessError as error:
            found = error.stderr.decode(errors="replace").strip()[:200] or f"exit code {error.returncode}"
        except subprocess.TimeoutExpired:
            found = f"nothing for {LONGEST_S} s"
        except soundfile.LibsndfileError:
            found = "something else"
        raise RefusedError("speaking program", f"a command that reads text and writes WAV, as {words[0]} should", found)

    return say


def _words_only(wav: bytes) -> Samples:
    """The samples of a recording as readings are: at their rate and loudness, without the silence around the words."""
    samples, rate = soundfile.read(io.BytesIO(wav), dtype="float32", always_2d=True)
    mono = at_rate(samples.mean(axis=1), rate)
    loud = np.flatnonzero(np.abs(mono) > SILENT)
    kept = mono[loud[0] : loud[-1] + 1] if len(loud) else mono[:0]
    return as_loud(np.asarray(kept, dtype=np.float32))
