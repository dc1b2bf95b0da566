"""Reading a class in: kept for its owner alone, taken into the class as one step, spoken in its guide; and music."""

import io
import json

import numpy as np
import pytest
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from django.urls import reverse
from scipy.signal import correlate

from extendum.core.model.voice import spoken_key
from extendum.core.outputs.readings import to_read
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.web.classes import store as classes
from extendum.web.records.backup import pack_up, put_back
from extendum.web.voices import store
from extendum.web.voices.models import Music, Reading, Voice
from tests.core.test_recorded import hum, in_a_room, said, silence


def wav(*parts, name="reading.wav"):
    out = io.BytesIO()
    soundfile.write(out, np.concatenate(parts), RATE, format="WAV")
    return SimpleUploadedFile(name, out.getvalue(), "audio/wav")


def one_reading(seconds=2.0, seed=1):
    rng = np.random.default_rng(seed)
    return wav(in_a_room(np.concatenate([silence(0.5), hum(seconds, rng), silence(0.7)]), rng))


@pytest.fixture
def data(tmp_path):
    with override_settings(DATA=tmp_path):
        yield tmp_path


@pytest.fixture
def voice(owner, data):
    return store.named(owner, "Ada")


def texts_of(of):
    script = classes.script_of(of.present)
    return [one.text for one in to_read(script, compile_script(script))]


def keep(client, of, voice, text, sound):
    return client.post(reverse("keep-reading", args=[of.pk, voice.pk]), {"text": text, "sound": sound})


def test_what_is_read_is_kept_with_its_original_and_counts_in_every_class(asking, owner, stretch_class, voice, data):
    text = texts_of(stretch_class)[0]
    answer = keep(asking, stretch_class, voice, text, one_reading()).json()
    assert abs(answer["row"]["ms"] - 2000) <= 30
    assert answer["counts"]["told"].endswith("1 read.")
    assert sorted(path.suffixes[0] for path in (data / "voices" / str(voice.pk)).iterdir()) == [".flac", ".original"]
    other = classes.create(owner, classes.script_of(stretch_class.present), "Copied")
    page = asking.get(reverse("readings", args=[other.pk]), {"voice": voice.pk}).content.decode()
    assert "1 read, 1 from other classes" in page
    heard = asking.get(answer["row"]["sound"])
    samples, rate = soundfile.read(io.BytesIO(b"".join(heard.streaming_content)))
    assert (rate, abs(len(samples) / RATE - 2.08) < 0.05) == (RATE, True)
    again = keep(asking, stretch_class, voice, text.upper(), one_reading(3.0)).json()  # known by what is heard
    assert abs(again["row"]["ms"] - 3000) <= 30
    assert Reading.objects.count() == 1
    assert len(list((data / "voices" / str(voice.pk)).iterdir())) == 2
    gone = asking.post(reverse("forget-reading", args=[stretch_class.pk, voice.pk]), {"text": text}).json()
    assert gone["counts"]["told"].endswith("0 read.")
    assert list((data / "voices" / str(voice.pk)).iterdir()) == []


@pytest.mark.parametrize("sound", [wav(silence(2)), SimpleUploadedFile("a.wav", b"no sound"), None])
def test_what_is_no_reading_is_told_and_not_kept(asking, stretch_class, voice, sound):
    sent = {"text": "Sit tall."} | ({"sound": sound} if sound else {})
    answer = asking.post(reverse("keep-reading", args=[stretch_class.pk, voice.pk]), sent)
    assert answer.status_code == 422
    assert "must be" in answer.json()["refused"]
    assert not Reading.objects.exists()


def test_a_class_takes_its_voice_in_as_one_step_and_gives_it_back(asking, stretch_class, voice):
    texts = texts_of(stretch_class)
    longest = max(texts, key=len)
    keep(asking, stretch_class, voice, longest, one_reading(9.0))
    asked = {"stamp": stretch_class.stamp, "voice": voice.pk}
    taken = asking.post(reverse("take-in", args=[stretch_class.pk]), asked)
    assert taken.url == reverse("desk", args=[stretch_class.pk])
    stretch_class.refresh_from_db()
    assert stretch_class.last_action == "Spoken in the voice of Ada"
    lengths = classes.script_of(stretch_class.present).style.voice.lengths
    assert list(lengths) == [spoken_key(longest)]
    stale = asking.post(reverse("take-in", args=[stretch_class.pk]), asked)
    assert (stale.status_code, "changed in another window" in stale.content.decode()) == (409, True)
    none = {"stamp": stretch_class.stamp, "voice": ""}
    asking.post(reverse("take-in", args=[stretch_class.pk]), none)
    stretch_class.refresh_from_db()
    assert classes.script_of(stretch_class.present).style.voice is None


def test_nobody_else_hears_or_uses_a_voice(other_client, stretch_class, stranger, voice, asking):
    keep(asking, stretch_class, voice, "Sit tall.", one_reading())
    theirs = classes.create(stranger, classes.script_of(stretch_class.present), "Theirs")
    reading = Reading.objects.get()
    assert other_client.get(reverse("reading-sound", args=[voice.pk, reading.pk])).status_code == 404
    assert keep(other_client, theirs, voice, "Sit tall.", one_reading()).status_code == 404
    assert other_client.get(reverse("readings", args=[theirs.pk]), {"voice": voice.pk}).status_code == 404
    taken = {"stamp": theirs.stamp, "voice": voice.pk}
    assert other_client.post(reverse("take-in", args=[theirs.pk]), taken).status_code == 404


def recording_of(texts, rng):
    parts = [silence(1)]
    for text in texts:
        parts += [said(text, rng), silence(0.9)]
    return in_a_room(np.concatenate(parts), rng)


def test_one_recording_is_cut_looked_at_and_kept(asking, stretch_class, voice, data):
    texts, rng = texts_of(stretch_class), np.random.default_rng(5)
    sent = asking.post(
        reverse("read-recording", args=[stretch_class.pk, voice.pk]), {"recording": wav(recording_of(texts, rng))}
    )
    page = asking.get(sent.url)
    facts = page.context["facts"]
    assert [one["text"] for one in facts["pieces"]] == texts
    assert not Reading.objects.exists()  # nothing before it was looked at
    chosen = [{name: one[name] for name in ("text", "from", "to")} for one in facts["pieces"]][1:]
    chosen[0]["to"] -= 100
    kept = asking.post(sent.url + "keep/", {"pieces": json.dumps(chosen)}).json()
    assert (kept["kept"], kept["refused"]) == (len(texts) - 1, [])
    assert {one.text for one in Reading.objects.all()} == set(texts[1:])
    for one in facts["pieces"][2:]:
        assert abs(Reading.objects.get(text=one["text"]).ms - (one["to"] - one["from"])) <= 60
    assert asking.get(sent.url).status_code == 404  # the rest of it is gone
    assert list((data / "voices" / str(voice.pk) / "cutting").iterdir()) == []


def test_a_file_for_each_text_comes_to_it(asking, stretch_class, voice):
    texts = texts_of(stretch_class)
    files = [one_reading(1.0), one_reading(2.0)]
    files[0].name, files[1].name = "2.wav", f"{texts[5]}.wav"
    sent = asking.post(reverse("read-recording", args=[stretch_class.pk, voice.pk]), {"recording": files})
    pieces = asking.get(sent.url).context["facts"]["pieces"]
    assert [one["text"] for one in pieces] == [texts[0], texts[5]]
    forgotten = asking.post(sent.url + "forget/")
    assert asking.get(sent.url).status_code == 404
    assert forgotten.url.startswith(reverse("readings", args=[stretch_class.pk]))


def test_a_backup_brings_what_was_read_back(asking, stretch_class, voice, data, tmp_path):
    from tests.web.test_backup import database

    keep(asking, stretch_class, voice, "Sit tall.", one_reading())
    live, copy = database(data / "live.sqlite3"), tmp_path / "copy.zip"
    name = next((data / "voices").rglob("*.original.flac"))
    before = name.read_bytes()
    pack_up(live, data, copy)
    name.write_bytes(b"damaged")
    (data / "voices" / "later.flac").write_bytes(b"newer")
    put_back(copy, live, data, tmp_path / "kept.zip")
    assert name.read_bytes() == before
    assert not (data / "voices" / "later.flac").exists()
    put_back(tmp_path / "kept.zip", live, data, tmp_path / "kept-2.zip")
    assert (data / "voices" / "later.flac").read_bytes() == b"newer"


def test_music_of_ones_own_needs_its_rights_and_is_chosen_in_one_step(asking, owner, stretch_class, data):
    sound = wav(np.concatenate([hum(8.0, np.random.default_rng(1))]), name="river.wav")
    refused = asking.post(reverse("add-music", args=[stretch_class.pk]), {"name": "River", "rights": "", "file": sound})
    assert (refused.status_code, "whose it is" in refused.content.decode()) == (422, True)
    sound.seek(0)
    sent = {"name": "River", "rights": "Recorded by me.", "file": sound}
    assert "River can be played" in asking.post(reverse("add-music", args=[stretch_class.pk]), sent).content.decode()
    section = classes.script_of(stretch_class.present).sections[0].id
    chosen = {"stamp": stretch_class.stamp, "music": "drone", f"music-{section}": "River"}
    asking.post(reverse("choose-music", args=[stretch_class.pk]), chosen)
    stretch_class.refresh_from_db()
    script = classes.script_of(stretch_class.present)
    assert (script.music, script.sections[0].music) == ("drone", "River")
    piece = Music.objects.get(owner=owner)
    asking.post(reverse("remove-music", args=[stretch_class.pk, piece.pk]))
    assert "River (not here)" in asking.get(reverse("music", args=[stretch_class.pk])).content.decode()
    assert not list((data / "music").rglob("*.wav"))


def test_a_voice_has_a_name_and_there_are_only_so_many(asking, owner, stretch_class, data, monkeypatch):
    assert asking.post(reverse("new-voice", args=[stretch_class.pk]), {"name": " "}).status_code == 422
    monkeypatch.setattr(store, "MOST_VOICES", 1)
    assert asking.post(reverse("new-voice", args=[stretch_class.pk]), {"name": "Ada"}).status_code == 302
    assert asking.post(reverse("new-voice", args=[stretch_class.pk]), {"name": "Bo"}).status_code == 422
    assert [one.name for one in Voice.objects.filter(owner=owner)] == ["Ada"]


def test_a_class_is_heard_from_any_point_in_its_own_voice(asking, owner, stretch_class, voice, monkeypatch):
    monkeypatch.setattr("extendum.web.voices.hearing._stand_in", lambda: None)
    script = classes.script_of(stretch_class.present)
    texts = to_read(script, compile_script(script))
    second = next(one for one in texts if one.item == "i3" and len(one.text) > 20)
    keep(asking, stretch_class, voice, second.text, one_reading(2.5))
    asking.post(reverse("take-in", args=[stretch_class.pk]), {"stamp": stretch_class.stamp, "voice": voice.pk})
    stretch_class.refresh_from_db()
    timeline = compile_script(classes.script_of(stretch_class.present))
    cue = next(one for one in timeline.cues if one.text == second.text)
    answer = asking.get(reverse("hear", args=[stretch_class.pk]), {"item": "i3", "for": 15000})
    facts = json.loads(answer["X-Heard"])
    assert facts["from"] == 1000 * timeline.of_item("i3")[0].start_s
    assert facts["whole"] == 1000 * timeline.length_s
    assert facts["items"][0][1] == "i3"
    heard, _ = soundfile.read(io.BytesIO(answer.content), dtype="float32")
    read = store.readings_of(voice).samples(second.text)
    found = int(correlate(heard, read, "valid", "fft").argmax())
    assert abs(found * 1000 / RATE - (cue.start_ms - facts["from"])) <= 2
    for odd in ({"from": "x", "for": "-3"}, {"item": "nothing"}, {"from": str(10**12)}):
        assert asking.get(reverse("hear", args=[stretch_class.pk]), odd).status_code == 200


def test_a_recording_may_be_larger_than_anything_else_for_whoever_is_signed_in(asking, stretch_class, voice, settings):
    from extendum.web.whole import _signed_in

    key = asking.cookies["sessionid"].value
    assert _signed_in([(b"cookie", f"a=b; sessionid={key}".encode())])
    assert not _signed_in([(b"cookie", b"sessionid=made-up")])
    assert not _signed_in([])
