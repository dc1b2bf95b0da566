"""The camera of a recording: its clap is found, and its teacher decides which takes are kept."""

import numpy as np
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from django.urls import reverse

from extendum.core.sound.speech import RATE
from tests.core.test_clap import clap
from tests.web.test_live import START, tell


def test_a_recording_is_cut_as_its_teacher_decides(asking, other_client, stretch_class, tmp_path):
    events = [
        START,
        {"id": "m", "at": START["at"] + 2000, "kind": "mark", "step": "insert shot"},
        {"id": "r", "at": START["at"] + 5000, "kind": "retake"},
        {"id": "e", "at": START["at"] + 60_000, "kind": "end"},
    ]
    tell(asking, stretch_class, run="film", rehearsal=True, taking=True, events=events)
    page, decide = (reverse(name, args=[stretch_class.pk, "film"]) for name in ("takes", "decide-takes"))
    rows = asking.get(page).context["rows"]
    assert [(row[2], row[5].kept) for row in rows][:2] == [(1, False), (2, True)]
    group = rows[0][5].group
    asking.post(decide, {"keep": f"{group}|1"})
    asking.post(decide, {"delete": f"{group}|2"})
    asking.post(decide, {"deed": "note", "shot": "0", "note": "the heel"})
    asking.post(decide, {"deed": "clap", "at": "12500"})
    context = asking.get(page).context
    assert (context["rows"][0][2], context["rows"][0][5].kept) == (1, True)
    assert (context["gone"], context["offset"], context["marks"][0][5]) == (1, "12.5", "the heel")
    csv = asking.get(reverse("take-file", args=[stretch_class.pk, "film", "takes"])).content.decode()
    assert "insert shot: the heel" in csv and "14.500" in csv
    listed = asking.get(reverse("take-file", args=[stretch_class.pk, "film", "edit-list"]), {"rate": "50"})
    assert "C        00:00:12:25" in listed.content.decode()
    asking.post(decide, {"back": "1"})
    assert len(asking.get(page).context["rows"]) == len(rows)
    assert other_client.post(decide, {"keep": f"{group}|1"}).status_code == 404


def test_the_clap_is_found_in_what_the_camera_recorded(asking, other_client, stretch_class, tmp_path):
    rng = np.random.default_rng(1)
    heard = 0.02 * rng.standard_normal(20 * RATE)
    heard[7 * RATE : 7 * RATE + len(clap(0.3))] += clap(0.3)
    soundfile.write(tmp_path / "camera.flac", heard, RATE)
    tell(asking, stretch_class, run="film", rehearsal=True, taking=True, events=[START])
    attach = reverse("attach-camera", args=[stretch_class.pk, "film"])
    with override_settings(DATA=tmp_path):
        with (tmp_path / "camera.flac").open("rb") as file:
            assert asking.post(attach, {"camera": file}).status_code == 302
        context = asking.get(reverse("takes", args=[stretch_class.pk, "film"])).context
        assert context["clap"] is True
        assert abs(context["wave"]["clap"] - 7000) < 20
        assert context["wave"]["from"] == context["wave"]["clap"] - 3000
        wrong = asking.post(attach, {"camera": SimpleUploadedFile("film.mp4", b"no film at all")})
        assert (wrong.status_code, "must be sound that can be read" in wrong.content.decode()) == (422, True)
        assert asking.get(reverse("camera-sound", args=[stretch_class.pk, "film"])).status_code == 200
        assert other_client.get(reverse("camera-sound", args=[stretch_class.pk, "film"])).status_code == 404
