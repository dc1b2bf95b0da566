"""What the Stage tells: kept once, whenever it comes, and refused where it makes no sense."""

import json
import re

import pytest
from django.urls import reverse
from django.utils import timezone

from extendum.core.edit.script_edits import set_title
from extendum.core.moves.objections import objections
from extendum.core.moves.spares import SPARES, spares
from extendum.core.run.rehearse import rehearsal_steps, rehearsed
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.web.classes.desk import DESK_PARTS
from extendum.web.classes.store import change, script_of
from extendum.web.library.store import library_of
from extendum.web.settings import WEB
from extendum.web.teach.following import HELD_FOR
from extendum.web.teach.models import LiveEvent, LiveRun
from extendum.web.teach.views import STAGE_PARTS

START = {"id": "0-1", "at": 1_700_000_000_000, "kind": "start", "step": "", "ms": 0}


def tell(client, of, **body):
    plain = {"run": "r1", "stamp": of.stamp, "events": [START]} | body
    return client.post(reverse("events", args=[of.pk]), json.dumps(plain), content_type="application/json")


def test_events_told_twice_are_kept_once_and_later_ones_join_the_same_run(asking, stretch_class):
    assert tell(asking, stretch_class).json() == {"kept": 1}
    more = START | {"id": "1-2", "kind": "longer", "ms": 10_000}
    assert tell(asking, stretch_class, events=[START, more]).json() == {"kept": 2}
    assert tell(asking, stretch_class, events=[more]).json() == {"kept": 2}
    assert tell(asking, stretch_class, run="r2").json() == {"kept": 1}
    assert LiveRun.objects.count() == 2
    assert LiveEvent.objects.get(run__key="r1", key="1-2").ms == 10_000


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ({"run": ""}, "run: must be a name"),
        ({"run": 5}, "run: must be a name"),
        ({"stamp": "x"}, "stamp: must be"),
        ({"events": "all"}, "events: must be a list"),
        ({"events": [START] * 2001}, "events: must be a list of at most 2000"),
        ({"events": [5]}, "events[0]: must be an object"),
        ({"events": [START | {"kind": "dance"}]}, "events[0].kind: must be one of start"),
        ({"events": [START | {"id": "x" * 41}]}, "events[0].id"),
        ({"events": [START | {"at": True}]}, "events[0].at"),
        ({"events": [START | {"ms": 2**40}]}, "events[0].ms"),
        ({"events": [START, START | {"id": "1", "step": "s" * 121}]}, "events[1].step"),
    ],
)
def test_what_makes_no_sense_is_refused_and_nothing_of_it_is_kept(asking, stretch_class, body, said):
    answer = tell(asking, stretch_class, **body)
    assert answer.status_code == 422
    assert said in answer.json()["message"]
    assert LiveRun.objects.count() == LiveEvent.objects.count() == 0


def test_a_body_that_is_no_json_is_refused(asking, stretch_class):
    answer = asking.post(reverse("events", args=[stretch_class.pk]), "{", content_type="application/json")
    assert answer.status_code == 422


def test_the_worker_is_served_from_the_root_and_never_old(asking):
    answer = asking.get("/worker.js")
    assert answer["Content-Type"].startswith("text/javascript")
    assert answer["Service-Worker-Allowed"] == "/"
    assert answer["Cache-Control"] == "no-cache"


def catch_up(client, of, **body):
    plain = {
        "run": "r1",
        "stamp": of.stamp,
        "events": [START],
        "at": START["at"] + 5000,
        "ends_at": START["at"] + 90_000,
    }
    address = reverse("catch-up", args=[of.pk])
    return client.post(address, json.dumps(plain | body), content_type="application/json")


def test_catching_up_tells_new_lengths_and_changes_nothing_itself(asking, stretch_class):
    answer = catch_up(asking, stretch_class).json()
    assert set(answer) == {"sentence", "fits", "off"}
    assert answer["fits"]
    assert LiveEvent.objects.count() == 0


@pytest.mark.parametrize(
    ("body", "status", "said"),
    [
        ({"stamp": 99}, 409, "changed since this Stage was opened"),
        ({"at": "now"}, 422, "at: must be a whole number"),
        ({"ends_at": -1}, 422, "ends_at: must be"),
        ({"events": [START | {"kind": "dance"}]}, 422, "events[0].kind"),
    ],
)
def test_what_cannot_be_caught_up_says_why(asking, stretch_class, body, status, said):
    answer = catch_up(asking, stretch_class, **body)
    assert answer.status_code == status
    assert said in answer.json()["message"]


def test_one_stage_teaches_another_only_watches_until_it_takes_over(asking, stretch_class):
    assert tell(asking, stretch_class, me="A").status_code == 200
    refused = tell(asking, stretch_class, me="B", run="r2")
    assert refused.status_code == 423
    assert [event["kind"] for event in refused.json()["run"]["events"]] == ["start"]
    assert asking.get(reverse("events", args=[stretch_class.pk])).json()["run"]["run"] == "r1"
    assert tell(asking, stretch_class, me="B", take=True).status_code == 200
    assert tell(asking, stretch_class, me="A").status_code == 423
    assert LiveRun.objects.count() == 1


def test_a_stage_that_was_not_heard_of_or_has_ended_holds_nothing(asking, stretch_class):
    tell(asking, stretch_class, me="A")
    LiveRun.objects.update(held_at=timezone.now() - HELD_FOR * 2)
    assert asking.get(reverse("events", args=[stretch_class.pk])).json() == {"run": None}
    assert tell(asking, stretch_class, me="B", run="r2").status_code == 200
    over = START | {"id": "9-9", "at": START["at"] + 9, "kind": "end"}
    tell(asking, stretch_class, me="B", run="r2", events=[over])
    assert tell(asking, stretch_class, me="C", run="r3").status_code == 200


def test_the_tray_has_easy_moves_of_different_areas_that_keep_to_posture_brief_and_props(owner, stretch_class):
    script = script_of(stretch_class.head)
    found = [spare.item.move for spare in spares(script, library_of(owner))]
    at_hand = {prop.name for item in script.moves() for prop in item.move.props}
    assert found
    for posture in {item.move.posture for item in script.moves()}:
        here = [move for move in found if move.posture is posture]
        assert len({move.main_regions[:1] for move in here}) == len(here) <= SPARES
        assert [move.effort for move in here] == sorted(move.effort for move in here)
    assert not {move.key for move in found} & {item.move.key for item in script.moves()}
    assert not [move for move in found if objections(move, script.brief)]
    assert {prop.name for move in found for prop in move.props if prop.required} <= at_hand


def rehearsed_with(client, of, more_ms):
    """Tell a whole rehearsal in which every text and way takes so much longer than the script says."""
    script = script_of(of.head)
    at, events = START["at"], [START]
    for n, step in enumerate(rehearsal_steps(script, rehearsed(compile_script(script)))):
        at += step.ms + more_ms * step.waits
        if step.waits:
            events.append({"id": f"{n}", "at": at, "kind": "end-now"})
    assert tell(client, of, run="mine", rehearsal=True, events=events).status_code == 200


def test_a_rehearsal_holds_no_class_and_offers_what_it_measured_as_one_step(asking, stretch_class):
    tell(asking, stretch_class, run="other", me="another")
    rehearsed_with(asking, stretch_class, 4000)
    assert asking.get(reverse("events", args=[stretch_class.pk])).json()["run"]["run"] == "other"
    page = reverse("learned", args=[stretch_class.pk])
    shown = asking.get(page, {"run": "mine"}).content.decode()
    told = re.findall(r"Getting to .* took (\d+) s and the script has (\d+) s: use (\d+) s\.", shown)
    assert told
    assert all(int(took) == int(said) + 4 == int(use) for took, said, use in told)
    offered = re.findall(r'name="lesson" value="([^"]+)"', shown)
    ways = [one for one in offered if one.startswith("way:")]
    before = length_of(script_of(stretch_class.head))
    form = {"run": "mine", "stamp": stretch_class.stamp, "lesson": ways}
    assert asking.post(page, form).status_code == 302
    stretch_class.refresh_from_db()
    assert length_of(script_of(stretch_class.head)) == before + 4 * len(ways)
    assert f"{len(ways)} times" in stretch_class.head.label
    assert asking.post(page, form).status_code == 409
    assert asking.get(page, {"run": "other"}).status_code == 404


def test_a_class_that_was_shown_on_a_stage_keeps_that_revision(asking, stretch_class):
    def word(text):
        stretch_class.refresh_from_db()
        change(stretch_class, stretch_class.stamp, text, lambda s: set_title(s, text), "title")
        stretch_class.refresh_from_db()
        return stretch_class.head_id

    word("A")
    assert word("B") == word("C")
    asking.get(reverse("stage", args=[stretch_class.pk]))  # looking writes nothing
    opened, stamp = reverse("opened", args=[stretch_class.pk]), stretch_class.stamp
    assert asking.post(opened, {"stamp": stamp - 1}).status_code == 409
    assert asking.post(opened, {"stamp": stamp}).status_code == 204
    shown = stretch_class.head_id
    assert word("D") != shown
    tell(asking, stretch_class, revision=shown)
    run = LiveRun.objects.get()
    assert script_of(run.revision).title == "C"
    tell(asking, stretch_class, run="r2", revision=10**6)
    assert LiveRun.objects.get(key="r2").revision_id == stretch_class.head_id


def test_what_is_told_after_the_class_is_kept_and_holds_nothing(asking, stretch_class):
    tell(asking, stretch_class, run="now", me="a")
    end = START | {"id": "9", "kind": "end"}
    assert tell(asking, stretch_class, run="before", me="b", late=True, events=[START, end]).json() == {"kept": 2}
    late = LiveRun.objects.get(key="before")
    assert (late.holder, late.held_at, late.session.of) == ("", None, stretch_class)
    assert asking.get(reverse("events", args=[stretch_class.pk])).json()["run"]["run"] == "now"


@pytest.mark.parametrize(
    ("parts", "main", "more", "address"),
    [(STAGE_PARTS, "js/stage/main.js", [], "stage/"), (DESK_PARTS, "js/desk/main.js", ["js/keep.js"], "")],
)
def test_a_page_names_every_module_that_it_is_made_of(asking, stretch_class, parts, main, more, address):
    root = WEB / "static"
    found, waiting = set(), [main, "js/page.js", *more]
    while waiting:
        name = waiting.pop()
        if name in found:
            continue
        found.add(name)
        for other in re.findall(r'(?:from|import) "(\.[^"]+)"', (root / name).read_text()):
            waiting.append(str(((root / name).parent / other).resolve().relative_to(root.resolve())))
    assert set(parts) == found
    page = asking.get(f"/classes/{stretch_class.pk}/{address}").content.decode()
    assert page.count('rel="modulepreload"') == len(found)
