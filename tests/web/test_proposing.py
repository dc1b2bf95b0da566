"""Proposals in the browser's terms: begun, told, stopped, taken as one step; and jobs whatever becomes of them."""

import re
from dataclasses import replace
from datetime import timedelta

import pytest
from django.utils import timezone

from extendum.core.edit.script_edits import new_script
from extendum.core.model.body import Posture, Region
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.jobs import work
from extendum.web.jobs.models import Job
from extendum.web.proposing import asked, worker
from extendum.web.records.demo import teach_for_months
from extendum.web.records.models import Session
from extendum.web.teach.models import LiveEvent


@pytest.fixture
def at_once(monkeypatch):
    """Jobs are done before the answer, with little time for each class."""
    monkeypatch.setattr(work, "start", lambda job: work.run(job.pk))
    monkeypatch.setattr(worker, "SECONDS", 1.5)


@pytest.fixture
def short(owner):
    """A class of six minutes with a brief and nothing in it."""
    script = new_script("For the neck", 360)
    places = (Posture.CHAIR, Posture.CHAIR_EDGE)
    brief = replace(script.brief, areas=(Region.NECK, Region.CHEST), postures=places)
    return store.create(owner, replace(script, brief=brief, start_posture=Posture.CHAIR), "Made")


def longer(script):
    return replace(script, brief=replace(script.brief, target_s=420))


def test_three_classes_are_proposed_and_one_is_taken_as_one_step(asking, short, at_once):
    page = asking.get(f"/classes/{short.pk}/proposals/").content.decode()
    assert "Propose three classes" in page
    shown = asking.post(f"/classes/{short.pk}/proposals/begin/", {"calm": "1"}, HTTP_HX_REQUEST="true").content.decode()
    job = short.jobs.get()
    assert job.state == Job.State.DONE and job.asked["sliders"]["calm"] == 1
    assert len(job.found["proposals"]) == 3 and "take-3" in shown
    assert not any(one["open"] for one in job.found["proposals"])
    answer = asking.post(f"/classes/{short.pk}/proposals/take/", {"nth": "2", "stamp": short.stamp})
    assert answer.url == f"/classes/{short.pk}/"
    short.refresh_from_db()
    assert compile_script(store.script_of(short.present)).length_s == 360
    assert short.present.label == "Took proposal 2"
    later = store.script_of(store.change(short, short.stamp, "Brief", longer).present)
    answer = asking.post(f"/classes/{short.pk}/proposals/take/", {"nth": "1", "stamp": short.stamp + 1})
    short.refresh_from_db()
    assert store.script_of(short.present).brief == later.brief  # what was changed since then stays
    short = store.undo(store.undo(short, short.stamp), short.stamp + 1)
    short = store.undo(short, short.stamp)
    assert not list(store.script_of(short.present).moves())
    old = asking.post(f"/classes/{short.pk}/proposals/take/", {"nth": "1", "stamp": "0"}, HTTP_HX_REQUEST="true")
    assert old.status_code == 409


def test_what_stands_in_the_way_is_told(asking, short, at_once):
    script = store.script_of(short.present)
    brief = replace(script.brief, areas=(Region.CALF,), avoid=("calf", "calves", "heel", "toe"))
    short = store.change(short, short.stamp, "Brief", lambda now: replace(now, brief=brief))
    shown = asking.post(f"/classes/{short.pk}/proposals/begin/", HTTP_HX_REQUEST="true").content.decode()
    assert "The nearest class goes without this: calf" in shown
    assert "No class meets this brief" in shown and "calf: no move reaches it" in shown


def test_a_job_is_told_when_it_is_killed_stopped_or_fails(asking, short, monkeypatch):
    monkeypatch.setattr(work, "start", lambda job: None)
    shown = asking.post(f"/classes/{short.pk}/proposals/begin/", HTTP_HX_REQUEST="true").content.decode()
    assert "Looking for the best class" in shown and 'aria-busy="true"' in shown
    asking.post(f"/classes/{short.pk}/proposals/enough/")
    assert short.jobs.get().enough
    short.jobs.update(heard_at=timezone.now() - timedelta(minutes=1), enough=False)
    assert "The work was cut off" in asking.get(f"/classes/{short.pk}/proposals/").content.decode()
    monkeypatch.setattr(worker, "propose", lambda job, tell: 1 / 0)
    work.run(short.jobs.get().pk)
    assert "a fault of the program" in asking.get(f"/classes/{short.pk}/proposals/").content.decode()


def test_only_so_much_long_work_is_done_at_a_time(asking, short, stranger, monkeypatch):
    monkeypatch.setattr(work, "start", lambda job: None)
    for _ in range(work.AT_ONCE):
        other = store.create(stranger, store.script_of(short.present), "Made")
        Job.objects.create(of=other, kind="propose")
    answer = asking.post(f"/classes/{short.pk}/proposals/begin/", HTTP_HX_REQUEST="true")
    assert answer.status_code == 422 and "Try again in a minute" in answer.content.decode()


def test_moves_of_the_last_weeks_are_known_and_some_were_skipped(owner, stretch_class):
    teach_for_months([stretch_class])
    known, skipped = asked.history(owner, "")
    assert known and set(known.values()) <= {1, 2} and skipped == {}
    assert asked.history(owner, "nobody of this name") == ({}, {})
    run = Session.objects.filter(owner=owner, run__isnull=False).latest("at").run
    LiveEvent.objects.create(run=run, key="past", at=run.told()[0].at + 8_000, kind="skip-item")
    known, skipped = asked.history(owner, "")
    assert skipped == {store.script_of(run.revision).moves()[0].move.key: 1}


def test_another_like_it_and_why_not_a_move(asking, short, at_once):
    address = f"/classes/{short.pk}/proposals/"
    asking.post(f"{address}begin/", HTTP_HX_REQUEST="true")
    asking.post(f"{address}take/", {"nth": "1", "stamp": short.stamp})
    short.refresh_from_db()
    now = {item.move.key for item in store.script_of(short.present).moves()}
    shown = asking.post(f"{address}begin/", {"start": "like"}, HTTP_HX_REQUEST="true").content.decode()
    assert re.search('value="like"\\s+selected', shown)
    for one in short.jobs.latest("pk").found["proposals"]:
        other = {item.move.key for item in loads(one["document"]).moves()}
        assert 5 * len(other & now) <= 3 * len(other)
    assert asking.post(f"{address}begin/", {"start": "nothing"}, HTTP_HX_REQUEST="true").status_code == 422

    best = loads(short.jobs.filter(kind="propose").latest("pk").found["proposals"][0]["document"])
    name = next(m for m in ("Seated side bend", "Chin tucks") if m not in {item.name for item in best.moves()})
    shown = asking.post(f"{address}why/ask/", {"move": name.lower()}, HTTP_HX_REQUEST="true").content.decode()
    assert f"Why not {name}?" in shown and "instead of" in shown and "take-why" in shown
    assert f"Why not {name}?" in asking.get(f"{address}why/").content.decode()
    refused = asking.post(f"{address}why/ask/", {"move": "Nothing such"}, HTTP_HX_REQUEST="true")
    assert refused.status_code == 422 and "the name of a move of the library" in refused.content.decode()
    asking.post(f"{address}take/", {"nth": "1", "why": "1", "stamp": short.stamp})
    short.refresh_from_db()
    assert name in {item.name for item in store.script_of(short.present).moves()}


def test_what_else_could_stand_in_the_place_of_a_move(asking, stretch_class):
    item = next(iter(store.script_of(stretch_class.present).moves()))
    shown = asking.get(f"/classes/{stretch_class.pk}/stand-ins/", {"item": item.id}).content.decode()
    assert f"Instead of {item.name}" in shown and 'data-edit="swap"' in shown
    assert asking.get(f"/classes/{stretch_class.pk}/stand-ins/", {"item": "nothing"}).content == b""


def test_what_cannot_be_had_together_is_told_with_the_nearest_class(asking, short, at_once):
    areas = (Region.NECK, Region.CHEST, Region.ANKLE, Region.SPINE)
    script = store.script_of(short.present)
    brief = replace(script.brief, areas=areas, target_s=120)
    short = store.change(short, short.stamp, "Brief", lambda now: replace(now, brief=brief))
    shown = asking.post(f"/classes/{short.pk}/proposals/begin/", HTTP_HX_REQUEST="true").content.decode()
    assert "a class of 2:00" in shown and "The nearest class goes without this: " in shown
