"""The logbook: a session for each class that was taught, with what the teacher adds, and many of them together."""

import csv
import io
import re
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone

from extendum.core.edit.script_edits import add_move, new_script, set_title
from extendum.core.run.steps import steps_of
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_move
from extendum.web.classes import store
from extendum.web.classes.store import change, script_of
from extendum.web.records.demo import WEEKS, teach_for_months
from extendum.web.records.models import NextTime, Session
from extendum.web.records.sessions import log_of, offers
from extendum.web.records.views import LISTED
from extendum.web.teach.models import LiveRun
from tests.web.test_live import START, tell


def teach(client, of, key="r1", late_ms=0, **more):
    """A whole class; the teacher waits so long on the first way that lasts a while."""
    script = script_of(of.head)
    steps = steps_of(script, compile_script(script))
    way = next(n for n, step in enumerate(steps) if not step.works and step.group != steps[0].group)
    at = START["at"] + sum(step.ms for step in steps[:way]) + 1000
    events = [START]
    if late_ms:
        events += [{"id": "p", "at": at, "kind": "pause"}, {"id": "g", "at": at + late_ms, "kind": "resume"}]
    end = START["at"] + sum(step.ms for step in steps) + late_ms
    events.append({"id": "e", "at": end, "kind": "end"})
    return tell(client, of, run=key, me="a", events=events, **more)


def plan(client, of, **more):
    form = {"class": of.pk, "day": "2027-01-11", "hour": "18:30", "place": "Small hall", "group": ""} | more
    return client.post(reverse("plan"), form)


def test_a_class_that_was_taught_has_a_session_and_a_rehearsal_has_none(asking, stretch_class):
    tell(asking, stretch_class, run="mine", rehearsal=True)
    assert Session.objects.count() == 0
    teach(asking, stretch_class, late_ms=40_000)
    one = Session.objects.get()
    page = asking.get(reverse("session", args=[one.pk])).content.decode()
    assert "40 s over, most of it paused (40 s)." in page
    assert "Both sides got the same in every move." in page
    assert 'class="compare"' in page
    assert "as planned" in asking.get(reverse("logbook")).content.decode() or "40 s over" in page


def test_a_planned_session_is_taught_once_and_a_second_log_is_one_of_its_own(asking, stretch_class):
    assert plan(asking, stretch_class).status_code == 302
    planned = Session.objects.get()
    assert "Teach it" in asking.get(reverse("logbook")).content.decode()
    stage = asking.get(reverse("stage", args=[stretch_class.pk]), {"session": planned.pk}).content.decode()
    assert f'data-session="{planned.pk}"' in stage
    assert "message" not in teach(asking, stretch_class, session=planned.pk).json()
    second = teach(asking, stretch_class, "r2", session=planned.pk).json()
    assert "has a log already" in second["message"]
    planned.refresh_from_db()
    assert planned.run.key == "r1"
    assert Session.objects.get(run__key="r2").pk != planned.pk


def test_the_class_that_is_planned_next_lies_first_on_the_shelf(asking, owner, stretch_class):
    store.create(owner, new_script("Changed last", 300), "Made")
    shelf = asking.get("/").content.decode()
    assert shelf.index(">Changed last<") < shelf.index(">Evening class<")
    later = timezone.localtime() + timedelta(days=1)
    plan(asking, stretch_class, day=f"{later:%Y-%m-%d}", hour="18:30")
    plan(asking, stretch_class, day=f"{later + timedelta(days=3):%Y-%m-%d}", hour="07:00")
    shelf = asking.get("/").content.decode()
    assert shelf.index(">Evening class<") < shelf.index(">Changed last<")
    assert "Tomorrow 18:30" in shelf and shelf.count(">Evening class<") == 1


@pytest.mark.parametrize("typed", [{"day": "soon"}, {"hour": "25:00"}, {"class": "x"}])
def test_a_plan_that_makes_no_sense_is_refused_and_what_was_typed_stays(asking, stretch_class, typed):
    answer = plan(asking, stretch_class, place="Yard", **typed)
    assert answer.status_code == 422
    assert 'value="Yard"' in answer.content.decode()
    assert Session.objects.count() == 0


def test_people_notes_and_tags_are_kept_and_a_wrong_number_changes_nothing(asking, other_client, stretch_class):
    teach(asking, stretch_class)
    one = Session.objects.get()
    page = reverse("session", args=[one.pk])
    asking.post(
        page, {"people": "11", "notes": "Quiet.", "tags": "autumn, autumn, hall", "place": "", "group": "Choir"}
    )
    one.refresh_from_db()
    assert (one.people, one.notes, one.tags, one.group) == (11, "Quiet.", "autumn, autumn, hall", "Choir")
    wrong = asking.post(page, {"people": "eleven", "notes": "Louder.", "tags": ""})
    assert wrong.status_code == 422
    assert "Louder." in wrong.content.decode()
    one.refresh_from_db()
    assert one.notes == "Quiet."
    assert other_client.get(page).status_code == 404


def test_a_class_changed_after_it_was_taught_keeps_its_log(asking, stretch_class):
    teach(asking, stretch_class)
    before = log_of(LiveRun.objects.get()).report.facts()
    change(stretch_class, stretch_class.stamp, "title", lambda s: set_title(s, "Another"))
    run = LiveRun.objects.get()
    assert log_of(run).report.facts() == before
    assert log_of(run).script.title != "Another"


def test_a_move_that_comes_twice_is_two_lines_with_their_numbers(asking, stretch_class):
    twice = change(stretch_class, stretch_class.stamp, "again", lambda s: add_move(s, shipped_move("calf-lean"))[0])
    teach(asking, twice)
    page = asking.get(reverse("session", args=[Session.objects.get().pk])).content.decode()
    items = re.findall(r'<td class="num r">(\d+)</td><td>([^<]+)</td><td class="num r">([\d:]+)</td>', page)
    assert [(number, name) for number, name, _ in items[:3]] == [
        ("1", "Wall calf stretch"),
        ("2", "Shoulder rolls"),
        ("3", "Wall calf stretch"),
    ]


def test_offers_come_from_the_middle_of_the_last_sessions_and_are_set_as_one_step(asking, stretch_class):
    for n, late in enumerate((30_000, 28_000, 90_000)):
        teach(asking, stretch_class, f"r{n}", late_ms=late)
    late, way = offers(stretch_class)
    assert late.words.startswith("This class usually runs 30 s over (median of 3 times)")
    assert way.real == way.said + 30
    card = asking.get(reverse("card", args=[stretch_class.pk]), {"run": "r2"}).content.decode()
    assert card.count("Save") == 2
    form = {"stamp": stretch_class.stamp, "lesson": way.key}
    assert asking.post(reverse("card", args=[stretch_class.pk]), form).status_code == 302
    stretch_class.refresh_from_db()
    assert script_of(stretch_class.head).item(way.item).switch_s == way.real
    form |= {"stamp": stretch_class.stamp, "lesson": late.key}
    assert asking.post(reverse("card", args=[stretch_class.pk]), form).status_code == 302
    stretch_class.refresh_from_db()
    assert script_of(stretch_class.head).brief.target_s == late.real
    assert offers(stretch_class) == []  # neither the way nor the length is offered once more
    form |= {"stamp": stretch_class.stamp}
    assert asking.post(reverse("card", args=[stretch_class.pk]), form).status_code == 422


def test_the_next_time_comes_up_on_the_desk_until_it_is_done(asking, other_client, stretch_class):
    page = reverse("next-time", args=[stretch_class.pk])
    asking.post(page, {"text": "Chairs out first"})
    assert "Chairs out first" in asking.get(reverse("desk", args=[stretch_class.pk])).content.decode()
    assert other_client.post(page, {"text": "x"}).status_code == 404
    answer = asking.post(page, {"done": NextTime.objects.get().pk, "back": "//elsewhere.example/"})
    assert answer["Location"] == reverse("desk", args=[stretch_class.pk])
    assert "Chairs out first" not in asking.get(reverse("desk", args=[stretch_class.pk])).content.decode()


def test_of_many_next_times_the_first_are_shown_and_the_others_one_press_away(asking, stretch_class):
    stretch_class.next_times.bulk_create(NextTime(of=stretch_class, text=f"Mend {n}") for n in range(7))
    shown, more = asking.get(reverse("desk", args=[stretch_class.pk])).content.decode().split("<summary>3 more", 1)
    assert shown.count("Done: Mend") == 4
    assert more.count("Done: Mend") == 3


def test_the_logbook_goes_on_to_older_sessions(asking, stretch_class):
    at = timezone.now()
    for n in range(LISTED + 3):
        run = LiveRun.objects.create(of=stretch_class, key=f"k{n}", stamp=1)
        Session.objects.create(owner=stretch_class.owner, of=stretch_class, at=at - timedelta(days=n), run=run)
    first = asking.get("/logbook/", {"class": stretch_class.pk}).content.decode()
    assert first.count("No events were kept.") == LISTED
    assert f"?from={LISTED}&amp;class={stretch_class.pk}" in first
    second = asking.get("/logbook/", {"from": LISTED}).content.decode()
    assert second.count("No events were kept.") == 3
    assert "Older ones" not in second
    assert "Newer ones" in second


def test_three_months_of_demo_are_in_the_overview_and_the_list_for_spreadsheets(asking, stretch_class):
    teach_for_months([stretch_class])
    taught = Session.objects.exclude(run=None)
    assert WEEKS // 2 < taught.count() < WEEKS
    assert all(log_of(one.run).report.off_s for one in taught)
    shown = asking.get(reverse("overview")).content.decode()
    assert f"{taught.count()} classes as you really taught them" in shown
    answer = asking.get(reverse("sessions-csv")).content.decode()
    rows = list(csv.DictReader(io.StringIO(answer)))
    assert len(rows) == taught.count()
    assert all(int(row["real_s"]) - int(row["planned_s"]) == int(row["off_s"]) for row in rows)
    one = taught.first()
    Session.objects.filter(pk=one.pk).update(notes="=1+1")
    assert "'=1+1" in asking.get(reverse("sessions-csv")).content.decode()
    Session.objects.update(at=timezone.now() - timedelta(weeks=30))
    assert "No class was taught in these weeks" in asking.get(reverse("overview")).content.decode()
