"""Reading a class in by the command line: one long recording, cut and kept, and a guide in that voice to the second."""

import json

import numpy as np
import pytest
import soundfile
from scipy.signal import correlate

from extendum.cli import main
from extendum.core.model.timeline import CueKind, Mode
from extendum.core.model.voice import spoken_key
from extendum.core.outputs.readings import to_read
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.recordings import kept
from tests.core.test_recorded import hum, in_a_room, said, silence
from tests.core.test_voice import DATA

CLASS = str(DATA / "digging.json")


@pytest.fixture(scope="module")
def read_in(tmp_path_factory):
    """The class with everything that is said in it read into one recording, and cut into its texts."""
    place, rng = tmp_path_factory.mktemp("read"), np.random.default_rng(1)
    script = loads((DATA / "digging.json").read_text())
    texts = [one.text for one in to_read(script, compile_script(script))]
    parts = [silence(1)]
    for text in texts:
        parts += [said(text, rng), silence(rng.uniform(0.7, 1.3))]
    whole = in_a_room(np.concatenate(parts), rng)
    soundfile.write(place / "all.wav", np.stack([whole, whole], axis=1)[::2], RATE // 2)
    asked = ["readings", CLASS, "--in", str(place / "ada"), "--voice", "Ada", "--cut", str(place / "all.wav")]
    code = main([*asked, "-o", str(place / "class.json"), "--json"])
    return code, place, texts


def test_one_recording_becomes_a_reading_of_every_text(read_in, capsys):
    code, place, texts = read_in
    assert code == 0
    assert main(["readings", CLASS, "--in", str(place / "ada"), "--json"]) == 0
    rows = json.loads(capsys.readouterr().out.splitlines()[-1])["texts"]
    assert [row["text"] for row in rows if row["read_ms"] is None] == []
    assert {spoken_key(row["text"]) for row in rows} == {spoken_key(text) for text in texts}
    assert main(["readings", CLASS, "--in", str(place / "ada")]) == 0
    assert capsys.readouterr().out.startswith(f"{len(texts)} texts, {len(texts)} read; ")
    spoken = loads((place / "class.json").read_text())
    lengths = spoken.style.voice.lengths
    for cue in compile_script(spoken).cues:
        if cue.mode is Mode.SPOKEN and cue.kind is not CueKind.COUNT:
            assert cue.end_ms - cue.start_ms == lengths[spoken_key(cue.text)]


def test_a_guide_in_that_voice_has_each_reading_in_its_place(read_in):
    _, place, _ = read_in
    guide, readings = place / "guide.wav", kept(place / "ada")
    asked = ["export", str(place / "class.json"), "--as", "wav", "-o", str(guide), "--readings", str(place / "ada")]
    assert main(asked) == 0
    sound, rate = soundfile.read(guide, dtype="float32")
    sound = sound.mean(axis=1)
    timeline = compile_script(loads((place / "class.json").read_text()))
    assert (rate, len(sound)) == (RATE, timeline.length_s * RATE)
    looked = [cue for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.end_ms - cue.start_ms > 900][:40]
    assert len(looked) > 20
    for cue in looked:
        read = readings.samples(cue.text)
        first = cue.start_ms * RATE // 1000 - RATE // 10
        heard = sound[max(0, first) : first + len(read) + RATE // 5]
        found = int(correlate(heard, read, "valid", "fft").argmax()) + max(0, first)
        assert abs(found * 1000 / RATE - cue.start_ms) <= 20, cue


def test_what_is_in_doubt_is_told_and_not_kept(tmp_path, capsys):
    rng = np.random.default_rng(2)
    script = loads((DATA / "digging.json").read_text())
    texts = [one.text for one in to_read(script, compile_script(script))]
    parts = [silence(1)]
    for n, text in enumerate(texts):
        spoken = said(text, rng) if n != 3 else hum(12, rng)  # somebody went on and on
        parts += [spoken, silence(0.9)]
    soundfile.write(tmp_path / "all.flac", in_a_room(np.concatenate(parts), rng), RATE)
    asked = ["readings", CLASS, "--in", str(tmp_path / "ada"), "--voice", "Ada", "--cut", str(tmp_path / "all.flac")]
    assert main(asked) == 1
    assert f"In doubt, not kept: {texts[3]} (longer than expected" in capsys.readouterr().out
    assert spoken_key(texts[3]) not in kept(tmp_path / "ada").by_key


@pytest.mark.parametrize(
    ("more", "said_of_it"),
    [
        (["--cut", CLASS], "--in: must be given, with --voice"),
        (["--cut", CLASS, "--in", "new", "--voice", "Ada"], "recording: must be sound as WAV, FLAC, Ogg or MP3"),
        (["--in", "ada", "--voice", "Bo"], "voice: must be Ada, whose readings are in"),
    ],
)
def test_what_cannot_be_read_in_is_refused(tmp_path, monkeypatch, capsys, more, said_of_it):
    monkeypatch.chdir(tmp_path)
    (tmp_path / "ada").mkdir()
    (tmp_path / "ada" / "readings.json").write_text('{"voice": "Ada", "readings": []}')
    assert main(["readings", CLASS, *more]) == 2
    assert said_of_it in capsys.readouterr().err
    assert not (tmp_path / "new").exists()
