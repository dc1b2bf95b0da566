"""Long recordings of whole classes, as a speaking program reads them, cut into their texts: `make bench-cutting`.

Forty texts of each demo class, at a rate and a loudness of its own for every text, with silences of half a second to
1.4 s and the noise of a room; three voices. A text is cut right whose ends are off by less than 120 ms.
"""

from __future__ import annotations

import io
import shutil
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import soundfile
from scipy.signal import resample_poly

from extendum.core.model.script import Script
from extendum.core.model.voice import Speech
from extendum.core.outputs.readings import to_read
from extendum.core.sound.cut import cut
from extendum.core.sound.speech import RATE, Samples
from extendum.core.timing.compile import compile_script
from extendum.core.timing.speech import speaking_ms
from extendum.formats.document import loads

TEXTS, NEAR_S = 40, 0.12
VOICES = ("en", "en-us", "en-gb-scotland")
DEMO = Path(__file__).parents[1] / "src" / "extendum" / "data" / "demo"
Say = Callable[[str, int, str], Samples]


def spoken(text: str, rate: int, voice: str) -> Samples:
    """A text as espeak-ng reads it, without the silence around it."""
    program = shutil.which("espeak-ng")
    if program is None:
        raise FileNotFoundError("espeak-ng is needed: apt-get install espeak-ng")
    command = [program, "-v", voice, "-s", str(rate), "--stdout", text]
    made = subprocess.run(command, capture_output=True, check=True).stdout  # noqa: S603
    samples, own = soundfile.read(io.BytesIO(made), dtype="float32")
    samples = resample_poly(samples, RATE, own).astype(np.float32)
    loud = np.flatnonzero(np.abs(samples) > 0.01)
    return np.asarray(samples[loud[0] : loud[-1] + 1], np.float32)


def measured(script: Script, seed: int, say: Say = spoken, texts: int = TEXTS) -> tuple[int, int, int, float]:
    """How many texts were cut right, of how many, how many were in doubt, and seconds of work."""
    rng, parts, truth = np.random.default_rng(seed), [np.zeros(RATE // 2, np.float32)], []
    wanted = [one.text for one in to_read(script, compile_script(script))][:texts]
    at = len(parts[0])
    for text in wanted:
        one = say(text, int(rng.integers(125, 175)), VOICES[seed % 3])
        silence = np.zeros(int(rng.uniform(0.5, 1.4) * RATE), np.float32)
        truth.append((at, at + len(one)))
        parts += [one * np.float32(rng.uniform(0.4, 1)), silence]
        at += len(one) + len(silence)
    whole = np.concatenate(parts)
    whole += 0.001 * rng.standard_normal(len(whole)).astype(np.float32)
    began = time.perf_counter()
    pieces = cut(whole, [speaking_ms(text, Speech(165)) for text in wanted])
    took = time.perf_counter() - began
    ends = [(abs(piece.at.start - a), abs(piece.at.end - b)) for piece, (a, b) in zip(pieces, truth, strict=True)]
    right = sum(max(one) < NEAR_S * RATE for one in ends)
    return right, len(wanted), sum(bool(piece.doubt) for piece in pieces), took


def main() -> int:
    """Every demo class in three voices."""
    whole = [0, 0, 0]
    for path in sorted(DEMO.glob("*.json")):
        script = loads(path.read_text("utf-8"))
        for seed in range(len(VOICES)):
            right, of, doubts, took = measured(script, seed)
            whole = [a + b for a, b in zip(whole, (right, of, doubts), strict=True)]
            print(f"{script.title}, {VOICES[seed]}: {right} of {of} right, {doubts} in doubt, {took:.1f} s", flush=True)
    print(f"{whole[0]} of {whole[1]} cut right, {whole[2]} in doubt")
    return 0


if __name__ == "__main__":
    sys.exit(main())
