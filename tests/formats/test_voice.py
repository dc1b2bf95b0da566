"""The voice: a program that makes sound, used as it is installed; here a stand-in that hums."""

import stat
import sys

import numpy as np
import pytest

from extendum import voice
from extendum.core.model.errors import RefusedError
from extendum.core.outputs.sound import render
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from tests.formats.test_exports import ROOT

HUMS = """#!{python}
import math, struct, sys, wave
words = len(sys.stdin.read().split())
rate = int(sys.argv[sys.argv.index("-s") + 1])
out = wave.open(sys.stdout.buffer, "wb")
out.setnchannels(1); out.setsampwidth(2); out.setframerate(16000)
silence = [0] * 4000
hum = [int(9000 * math.sin(n / 6)) for n in range(int(16000 * words * 60 / rate))]
out.writeframes(b"".join(struct.pack("<h", one) for one in silence + hum + silence))
out.close()
"""


@pytest.fixture
def humming(tmp_path, monkeypatch):
    """A program that hums for as long as the words take, with silence around it."""
    program = tmp_path / "espeak-ng"
    program.write_text(HUMS.format(python=sys.executable))
    program.chmod(program.stat().st_mode | stat.S_IXUSR)
    monkeypatch.setattr(voice.shutil, "which", lambda name: str(program))
    return voice.stand_in()


def test_words_are_at_the_rate_of_the_core_and_without_the_silence_around_them(humming):
    said = humming("one two three four five six", 120)
    assert said.dtype == np.float32
    assert abs(len(said) - 3 * RATE) < RATE // 100
    assert abs(said[:50]).max() > voice.SILENT


def test_without_the_program_there_is_no_voice(monkeypatch):
    monkeypatch.setattr(voice.shutil, "which", lambda name: None)
    assert voice.stand_in() is None


def test_a_class_is_spoken_with_each_cue_where_it_belongs(humming):
    script = loads((ROOT / "src/extendum/data/demo" / "wheel-wrists.json").read_bytes())
    timeline = compile_script(script)
    whole = np.concatenate(list(render(timeline, 165, humming, [])))
    assert len(whole) == timeline.length_s * RATE
    for cue in [one for one in timeline.cues if one.mode == "spoken"][:40]:
        at = cue.start_ms * RATE // 1000
        assert np.abs(whole[at : at + RATE // 20]).max() > 0.1  # within 50 ms


def test_another_program_is_named_by_a_command_and_what_goes_wrong_is_told(humming, tmp_path, monkeypatch):
    monkeypatch.setenv(voice.NAMED, f"{tmp_path / 'espeak-ng'} -s {{rate}}")
    assert len(voice.stand_in()("one two three", 60)) == pytest.approx(3 * RATE, rel=0.02)
    monkeypatch.undo()
    for command, found in (("false", "exit code 1"), ("cat", "something else")):
        monkeypatch.setenv(voice.NAMED, command)
        with pytest.raises(RefusedError, match=f"must be a command that reads text and writes WAV.*{found}"):
            voice.stand_in()("one", 150)
    monkeypatch.setenv(voice.NAMED, "no-such-program --loud")
    assert voice.stand_in() is None
