"""For home, the page that plays at an address, and the film: made, looked at, made again, revoked, cancelled."""

import pytest
from django.urls import reverse
from django.utils import timezone

from extendum.core.outputs.captions import captions
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.film import SIZES as SIZES_OF_FILMS
from extendum.formats.playing_page import policy_of
from extendum.web.classes.store import script_of
from extendum.web.giving import making as making_module
from extendum.web.giving.making import Making
from extendum.web.giving.models import PlayingPage
from extendum.web.giving.pages import file_of
from extendum.web.jobs import work
from extendum.web.jobs.models import Job
from extendum.web.teach.models import LiveRun
from tests.web.test_giving import at_once  # noqa: F401 a fixture
from tests.web.test_live import START, tell

pytestmark = pytest.mark.usefixtures("at_once")


def make(client, of, **more):
    return client.post(reverse("make-file", args=[of.pk]), {"kind": "page", "part": "home", **more})


def test_what_is_for_home_is_one_step_and_what_was_typed_stays(asking, stretch_class):
    first = script_of(stretch_class.head).moves()[0]
    address = reverse("mark-home", args=[stretch_class.pk])
    form = {"stamp": stretch_class.stamp, "home": [first.id], f"dose-{first.id}": "5", "often": "every morning"}
    assert asking.post(address, form).status_code == 302
    stretch_class.refresh_from_db()
    script = script_of(stretch_class.head)
    assert (script.moves()[0].home, script.often) == (5, "every morning")
    assert asking.post(address, form).status_code == 409  # the same press again is from before the change
    wrong = asking.post(address, form | {"stamp": stretch_class.stamp, f"dose-{first.id}": "9000", "often": "noon"})
    assert wrong.status_code == 422
    assert "dose at home" in wrong.content.decode() and 'value="noon"' in wrong.content.decode()


def test_an_address_plays_for_anybody_stays_when_made_again_and_goes_when_revoked(asking, client, stretch_class):
    assert make(asking, stretch_class, address="1", line="Ana", note="Slowly").status_code == 302
    page = PlayingPage.objects.get()
    client.logout()
    answer = client.get(reverse("play", args=[page.code]))
    text = answer.content.decode()
    assert answer.status_code == 200 and "Slowly" in text
    assert answer.headers["Content-Security-Policy"] == f"{policy_of(text)}; frame-ancestors 'none'"
    client.force_login(stretch_class.owner)
    files = client.get(reverse("give", args=[stretch_class.pk])).content.decode()
    assert f"http://testserver/play/{page.code}/" in files
    make(client, stretch_class, address="1", code=page.code, note="Faster")
    assert "Faster" in client.get(reverse("play", args=[page.code])).content.decode()
    assert PlayingPage.objects.count() == 1
    client.post(reverse("revoke-page", args=[stretch_class.pk, page.pk]))
    assert client.get(reverse("play", args=[page.code])).status_code == 404
    assert not file_of(page).exists()


def test_another_owner_can_neither_revoke_nor_take_over_an_address(asking, client, stranger, stretch_class):
    make(asking, stretch_class, address="1")
    page = PlayingPage.objects.get()
    client.force_login(stranger)
    assert client.post(reverse("revoke-page", args=[stretch_class.pk, page.pk])).status_code == 404
    assert client.get(reverse("play", args=[page.code])).status_code == 200


def test_a_link_that_is_none_is_refused_before_anything_is_made(asking, stretch_class):
    answer = make(asking, stretch_class, link="here", note="A note that stays")
    assert answer.status_code == 422
    assert "begins with https" in answer.content.decode() and "A note that stays" in answer.content.decode()
    assert (
        "begins with https"
        in asking.post(
            reverse("make-file", args=[stretch_class.pk]),
            {"kind": "page", "link": "here"},
            headers={"HX-Request": "true"},
        ).content.decode()
    )


# ---- the film ----------------------------------------------------------------------------------------------------


def test_a_film_is_made_as_it_was_asked_for_and_is_saved(asking, stretch_class, monkeypatch):
    monkeypatch.setitem(SIZES_OF_FILMS, "720", (320, 180))
    answer = asking.post(
        reverse("make-file", args=[stretch_class.pk]), {"kind": "mp4", "size": "720", "tone": "dark", "drawn": "1"}
    )
    assert answer.status_code == 302
    making = Making(Job.objects.get())
    assert (making.state, making.called) == ("done", "film")
    found = asking.get(reverse("made", args=[stretch_class.pk, making.pk]))
    body = b"".join(found.streaming_content)
    assert found["Content-Disposition"].endswith('evening-class-class.mp4"') and body[4:8] == b"ftyp"
    assert "Save the film" in asking.get(reverse("give", args=[stretch_class.pk])).content.decode()


def test_a_film_that_is_not_wanted_any_more_ends_and_leaves_nothing(asking, stretch_class, monkeypatch):
    monkeypatch.setitem(SIZES_OF_FILMS, "720", (320, 180))
    monkeypatch.setattr(making_module, "TELLS_S", 0)

    def cancelled(job):
        asking.post(reverse("cancel-making", args=[stretch_class.pk, job.pk]))
        work.run(job.pk)

    monkeypatch.setattr(work, "start", cancelled)
    asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "mp4"})
    making = Making(Job.objects.get())
    assert (making.state, making.told) == ("failed", "It was cancelled. Nothing half-made was left.")
    assert list(making.path.parent.rglob("*")) == []


def test_what_a_film_that_was_killed_left_is_gone_when_the_next_is_begun(asking, stretch_class, monkeypatch, settings):
    monkeypatch.setattr(work, "start", lambda job: None)
    asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "mp4"})
    job = Job.objects.get()
    left = settings.DATA / "made" / f".{job.pk}.new.abc"
    left.mkdir(parents=True)
    (left / "film.mp4").write_bytes(b"half")
    asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "webm"})
    job.refresh_from_db()
    assert left.exists() and job.enough  # one film at a time; the first one ends as soon as it hears of it
    Job.objects.filter(pk=job.pk).update(heard_at=timezone.now() - work.KILLED * 2)
    asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "mp4"})
    assert not left.exists()


def test_a_size_that_no_film_has_is_refused_at_once(asking, stretch_class):
    answer = asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "mp4", "size": "4000"})
    assert answer.status_code == 422 and not Job.objects.exists()


def test_the_pack_has_the_captions_of_a_recording_where_they_are_asked_for(asking, stretch_class, monkeypatch):
    script = script_of(stretch_class.head)
    steps = steps_of(script, compile_script(script))
    hold = next(n for n, step in enumerate(steps) if step.works and step.partner)
    at = START["at"] + sum(step.ms for step in steps[:hold]) + 1000
    longer = START | {"id": "1-2", "at": at, "kind": "longer", "ms": 10_000}
    end = START | {"id": "1-9", "at": at + 1000 * compile_script(script).length_s, "kind": "end"}
    tell(asking, stretch_class, events=[START, longer, end], rehearsal=True, taking=True)
    run = LiveRun.objects.get()
    said = []
    monkeypatch.setattr(making_module, "pack", lambda one, out, progress: said.append((one.captions, one.chapters)))
    for recording in ("", run.key):
        asking.post(reverse("make-file", args=[stretch_class.pk]), {"kind": "pack", "recording": recording})
    planned, taken = said
    assert planned[0] == captions(compile_script(script)) and planned[0] != taken[0]
    assert [one.title for one in planned[1]] == [one.title for one in taken[1]]
