"""Words as they are edited, and as the screens have them: what is the teacher's stays hers."""

import json
import re
from pathlib import Path

import pytest
from django.urls import reverse

from extendum.core.model.talk import TalkPace
from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.teach.models import Link
from tests.web.test_live import START, tell

HANDS = Path(__file__).parents[2] / "src/extendum/data/demo/hands-after-throwing.json"
NOTES = ("Turn side-on, so that they see your back.", "Come close, so that they see your fingers.")


@pytest.fixture
def hands(owner):
    """A class that counts, waits, breathes in its reps, and has notes."""
    return store.create(owner, loads(HANDS.read_bytes()), "Made")


def post(asking, of, **form):
    of.refresh_from_db()
    answer = asking.post(reverse("edit", args=[of.pk]), {"stamp": of.stamp, **form}, headers={"HX-Request": "true"})
    of.refresh_from_db()
    return answer, store.script_of(of.present)


def test_words_tell_the_scope_and_the_turns_of_a_prompt_and_the_quiet_of_a_talk(asking, hands):
    page = asking.get(reverse("words", args=[hands.pk])).content.decode()
    assert re.search(r"\d+ s quiet, until they answer", page)
    assert re.search(r"at 6:\d\d: The inside of this forearm should feel long too\.", page)
    assert "<option selected>before the first pass</option>" in page
    assert "in each: back" in page
    assert "no-room" not in page and "talk-cap" not in page


def test_words_that_keep_people_waiting_in_position_show_it_and_short_ones_do_not(asking, hands):
    long = {"field": "there", "text": "Let the weight sink into the back heel and wait. " * 9}
    strip = asking.post(reverse("speech", args=[hands.pk]), long).content.decode()
    assert 'class="over"' in strip
    assert re.search(r"everybody waits in position \d+ s longer than 15 s", strip)
    short = asking.post(reverse("speech", args=[hands.pk]), {**long, "text": "Heel heavy."}).content.decode()
    assert "waits" not in short and 'class="over"' not in short and 'class="edge"' not in short


def test_a_talk_is_put_in_a_row_and_a_prompt_into_one_round_from_words(asking, hands):
    answer, script = post(asking, hands, edit="talk-pace", item="i2", pace="in a row", view="words")
    assert answer.status_code == 200
    assert script.item("i2").pace is TalkPace.IN_A_ROW
    form = {"prompt": "4", "prompt_4": "Straighten it.", "prompt_4_when": "one round", "prompt_4_round": "2"}
    _, script = post(asking, hands, edit="words", item="i8", view="words", **form)
    deeper = script.item("i8").words.prompts[4]
    assert (deeper.text, deeper.when, deeper.in_round) == ("Straighten it.", "one round", 2)
    _, script = post(asking, hands, edit="words", item="i6", phase_stage="1", phase_nth="1", phase="", view="words")
    assert [one.said for one in script.item("i6").dose.says] == ["Exhale, and *round* your back.", "Breathe in."]
    answer, _ = post(asking, hands, edit="words", item="i6", phase_stage="1", phase_nth="7", phase="Up.", view="words")
    assert answer.status_code == 422


def test_a_part_that_is_another_place_keeps_what_its_form_does_not_have(asking, hands):
    dose = {"least": "10", "wanted": "18", "most": "30", "stage": "2"}
    form = {"stage_way_s": "4", "stage_targets": "wrist, hand", "stage_facing": "side-on"}
    before = store.script_of(hands.present).item("i8").then[0]
    _, script = post(asking, hands, edit="dose", item="i8", **dose, **form)
    place = script.item("i8").then[0]
    assert (place.way_s, place.facing, place.words, place.prompts) == (4, "side-on", before.words, before.prompts)
    assert [str(target.region) for target in place.targets] == ["wrist", "hand"]
    answer, _ = post(asking, hands, edit="dose", item="i8", **dose, stage_targets="elbow")
    assert answer.status_code == 422
    assert "areas: must be one of" in answer.content.decode()


def test_a_note_is_on_the_stage_and_on_the_cue_sheet_and_nowhere_in_the_class(asking, client, hands):
    stage = asking.get(reverse("stage", args=[hands.pk])).content.decode()
    sheet = asking.get(reverse("give-file", args=[hands.pk, "md"])).content.decode()
    assert all(note in stage and note in sheet for note in NOTES)
    asking.post(reverse("links"), {"kind": "room", "name": "Mine"})
    link = Link.objects.get(kind="room")
    tell(asking, hands, me="a", events=[START])
    room = client.get(reverse("room", args=[link.code])).content.decode()
    told = client.get(reverse("room-captions", args=[link.code])).json()
    captions = asking.get(reverse("give-file", args=[hands.pk, "vtt"])).content.decode()
    for text in (room, json.dumps(told), captions):
        assert "Inhale, and lift" in text or text is room
        assert not any(note in text for note in NOTES)
    assert {cue["mode"] for cue in told["cues"]} == {"spoken"}
    Link.objects.update(revoked_at="2026-01-01T00:00Z")
    assert client.get(reverse("room-captions", args=[link.code])).status_code == 404


def test_another_move_and_another_route_are_kept_ready_and_taken_from_the_desk(asking, hands):
    def named(script):
        return [item.name for item in script.sections[3].groups[0].items]

    refused, _ = post(asking, hands, edit="instead-add", item="i9", move="levitate")
    assert refused.status_code == 422
    _, script = post(asking, hands, edit="instead-add", item="i9", move="seated twist")
    nth = str(len(script.item("i9").instead) - 1)
    _, script = post(asking, hands, edit="instead-take", item="i9", nth=nth)
    assert script.item("i9").name == "Seated twist"
    panel, script = post(asking, hands, edit="instead-drop", item="i9", nth=nth)
    assert "Keep ready" in panel.content.decode()
    before = named(script)
    _, script = post(asking, hands, edit="route-add", group="g4", route_name="as it was")
    _, script = post(asking, hands, edit="remove", item="i9")
    assert named(script) != before
    last = str(len(script.sections[3].groups[0].routes) - 1)
    _, script = post(asking, hands, edit="route-take", group="g4", nth=last)
    assert named(script) == before
    _, script = post(asking, hands, edit="round-apart", group="g4")
    assert [group.rounds for group in script.sections[3].groups] == [1, 1]
    _, script = post(asking, hands, edit="route-drop", group="g4", nth=last)
    assert len(script.sections[3].groups[0].routes) == int(last)
