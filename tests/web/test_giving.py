"""Files of a class over the web: each at once, the slow ones in the background, and the takes of a recording."""

import io
import re
import zipfile
from datetime import timedelta

import pysubs2
import pytest
from django.test import override_settings
from django.urls import reverse
from django.utils import timezone

from extendum.core.edit.script_edits import set_title
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.exports import FILES
from extendum.web.classes.store import change, script_of
from extendum.web.giving import making as makings
from extendum.web.giving.making import SLOW, Making
from extendum.web.jobs import work
from extendum.web.jobs.models import Job
from extendum.web.records.models import Session
from tests.web.test_live import START, tell


@pytest.fixture
def at_once(monkeypatch, settings, tmp_path):
    """Jobs that are done when they are begun, and files of this test only."""
    settings.DATA = tmp_path
    monkeypatch.setattr(work, "start", lambda job: work.run(job.pk))


def make(client, of, kind="pack"):
    return client.post(reverse("make-file", args=[of.pk]), {"kind": kind, "paper": "Letter"})


@pytest.mark.parametrize("kind", sorted(FILES.keys() - set(SLOW)))
def test_each_file_is_saved_by_its_name(asking, stretch_class, kind):
    answer = asking.get(
        reverse("give-file", args=[stretch_class.pk, kind]), {"paper": "Letter", "at": "2026-03-02T18:30"}
    )
    assert answer.status_code == 200
    assert answer["Content-Disposition"] == f'attachment; filename="evening-class-{FILES[kind][0]}"'
    assert len(answer.content) > 40


def test_the_calendar_entry_is_the_next_planned_session(asking, stretch_class):
    at = timezone.now().replace(microsecond=0) + timedelta(days=2)
    Session.objects.create(owner=stretch_class.owner, of=stretch_class, at=at, place="Small hall")
    text = asking.get(reverse("give-file", args=[stretch_class.pk, "ics"])).content.decode()
    assert f"{at:%Y%m%dT%H%M%S}" in text
    assert "LOCATION:Small hall" in text


@pytest.mark.parametrize("typed", [None, "", "soon", "2026-13-02T18:30"])
def test_a_class_that_is_not_planned_is_asked_for_its_time(asking, stretch_class, typed):
    address = reverse("give-file", args=[stretch_class.pk, "ics"])
    answer = asking.get(address, {} if typed is None else {"at": typed})
    assert answer.status_code == 422 and "Give the day and the time of the class" in answer.content.decode()
    assert b"datetime-local" in asking.get(reverse("give", args=[stretch_class.pk])).content


@override_settings(TIME_ZONE="Europe/Berlin")
def test_a_time_that_is_typed_is_that_of_this_place_and_is_written_in_utc(asking, stretch_class):
    address = reverse("give-file", args=[stretch_class.pk, "ics"])
    text = asking.get(address, {"at": "2026-07-02T18:30"}).content.decode()
    assert "DTSTART:20260702T163000Z" in text and "TZID" not in text


def test_a_pack_is_made_in_the_background_and_saved_as_it_was_asked_for(asking, stretch_class, at_once):
    assert make(asking, stretch_class).status_code == 302
    making = Making(Job.objects.get())
    assert (making.state, making.percent) == ("done", 100)
    page = asking.get(reverse("give", args=[stretch_class.pk])).content.decode()
    assert "Save the pack" in page
    assert "captions" in making.told
    answer = asking.get(reverse("made", args=[stretch_class.pk, making.pk]))
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as files:
        assert "cue-sheet.pdf" in files.namelist()
    change(stretch_class, stretch_class.stamp, "t", lambda s: set_title(s, "Another"))
    assert "the class was changed since" in asking.get(reverse("give", args=[stretch_class.pk])).content.decode()
    making.path.unlink()
    assert asking.get(reverse("made", args=[stretch_class.pk, making.pk])).status_code == 404


def test_what_fails_or_was_stopped_is_said_and_nothing_is_half_made(asking, stretch_class, at_once, monkeypatch):
    def full(*args):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(makings, "pack", full)
    make(asking, stretch_class)
    making = Making(Job.objects.get())
    assert making.state == "failed"
    assert "No space left on device" in asking.get(reverse("give", args=[stretch_class.pk])).content.decode()
    assert not making.path.exists()
    Job.objects.update(state="working", heard_at=timezone.now() - work.KILLED * 2)
    part = asking.get(reverse("making", args=[stretch_class.pk, making.pk])).content.decode()
    assert "stopped when the server did" in part
    assert "hx-get" not in part


def test_another_owner_and_a_wrong_kind_get_nothing(asking, other_client, stretch_class, at_once):
    make(asking, stretch_class, "ogg")
    making = Making(Job.objects.get())
    for name in ("making", "made"):
        assert other_client.get(reverse(name, args=[stretch_class.pk, making.pk])).status_code == 404
    assert make(asking, stretch_class, "vtt").status_code == 404
    assert asking.get(reverse("give-file", args=[stretch_class.pk, "wav"])).status_code == 404


def test_captions_of_a_recording_follow_the_take_that_was_kept(asking, other_client, stretch_class):
    script = script_of(stretch_class.head)
    timeline = compile_script(script)
    steps = steps_of(script, timeline)
    hold = next(n for n, step in enumerate(steps) if step.works and step.partner)
    slip = sum(step.ms for step in steps[:hold]) + 5000
    item_at = sum(step.ms for step in steps[: next(n for n, s in enumerate(steps) if s.item == steps[hold].item)])
    end = START["at"] + timeline.length_s * 1000 + slip - item_at
    events = [
        START,
        {"id": "m", "at": START["at"] + 2000, "kind": "mark", "step": "insert shot"},
        {"id": "r", "at": START["at"] + slip, "kind": "retake"},
        {"id": "e", "at": end, "kind": "end"},
    ]
    assert tell(asking, stretch_class, run="film", rehearsal=True, taking=True, events=events).status_code == 200
    assert Session.objects.count() == 0
    page = reverse("takes", args=[stretch_class.pk, "film"])
    shown = asking.get(page, {"offset": "7,5"}).content.decode()
    assert "Retaken: Wall calf stretch" in shown
    assert "Keep this one" in shown
    assert re.search(r"0:09.5</span>\s+Wall calf stretch", shown)
    assert other_client.get(page).status_code == 404

    def captions(**asked):
        address = reverse("take-file", args=[stretch_class.pk, "film", "srt"])
        return pysubs2.SSAFile.from_string(asking.get(address, asked).content.decode())

    plain = pysubs2.SSAFile.from_string(
        asking.get(reverse("give-file", args=[stretch_class.pk, "srt"])).content.decode()
    )
    raw, cut = captions(offset="7.5"), captions(cut="1")
    assert [line.text for line in raw] == [line.text for line in cut] == [line.text for line in plain]
    assert [line.start for line in cut] == [line.start for line in plain]
    late = [line.start + 7500 + (slip - item_at) * (line.start >= item_at) for line in plain]
    assert [line.start for line in raw] == late
    csv = asking.get(reverse("take-file", args=[stretch_class.pk, "film", "takes"])).content.decode()
    assert csv.count(",kept\r\n") == len({step.group for step in steps}) + 1  # and the heading; one was not
    assert "insert shot" in csv
    assert asking.get(reverse("take-file", args=[stretch_class.pk, "film", "mp3"])).status_code == 404


def test_the_page_shows_a_little_of_what_is_in_the_files(asking, stretch_class):
    page = asking.get(reverse("give", args=[stretch_class.pk])).content.decode()
    script = script_of(stretch_class.head)
    assert page.count("figure.svg") == min(8, len(script.moves())) + len(script.moves())  # once more under For home
    assert f"{len(list(script.items()))} items, " in page and 'class="small-sheet' in page
    assert '<p><span class="num">0:00–' in page
