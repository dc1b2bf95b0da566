"""The Shelf and the Desk without a browser: what they keep, refuse and say."""

import json
import re
from pathlib import Path

import pytest
from django.urls import reverse

from extendum.core.edit.script_edits import new_script
from extendum.core.model.body import Region, Side
from extendum.core.model.elastic import Elastic
from extendum.core.model.notes import NoteWhen
from extendum.core.model.timeline import clock
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from extendum.web.classes.posted import EDITS, OWN_EDITS
from extendum.web.classes.posted_checks import CHECK_EDITS
from extendum.web.classes.posted_choices import CHOICE_EDITS

HX = {"HX-Request": "true"}


def group(of):
    return of.sections[0].groups[0]


def script(of):
    return store.script_of(StretchClass.objects.get(pk=of.pk).head)


def post(client, of, /, **form):
    of.refresh_from_db()
    return client.post(reverse("edit", args=[of.pk]), {"stamp": of.stamp, **form}, headers=HX)


def test_page_and_fragment_share_an_address_and_say_so(asking, stretch_class):
    page = asking.get(f"/classes/{stretch_class.pk}/?item=i2")
    fragment = asking.get(f"/classes/{stretch_class.pk}/?item=i2", headers=HX)
    assert "HX-Request" in fragment.headers["Vary"]
    assert b"<html" in page.content
    assert fragment.content.lstrip().startswith(b'<div class="desk')
    assert b'aria-current="true"' in fragment.content


def test_a_new_class_goes_to_its_brief(asking):
    answer = asking.post("/classes/new/", {"title": "Lunch break", "length": "8:30"})
    made = StretchClass.objects.get()
    assert answer.url == f"/classes/{made.pk}/brief/?new"
    assert script(made).brief.target_s == 510


@pytest.mark.parametrize(("title", "length", "said"), [("", "10", "title"), ("A", "soon", "length: must be a length")])
def test_a_refused_new_class_keeps_what_was_typed(asking, title, length, said):
    answer = asking.post("/classes/new/", {"title": title, "length": length})
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert f'value="{length}"' in answer.content.decode()
    assert not StretchClass.objects.exists()


def test_duplicate_rename_archive_and_restore(asking, stretch_class):
    pk = stretch_class.pk
    asking.post(f"/classes/{pk}/rename/", {"title": "Late class", "stamp": stretch_class.stamp})
    assert script(stretch_class).title == "Late class"
    asking.post(f"/classes/{pk}/duplicate/")
    copy = StretchClass.objects.exclude(pk=pk).get()
    assert script(copy).sections == script(stretch_class).sections
    asking.post(f"/classes/{pk}/archive/")
    assert b"Late class</a>" not in asking.get("/").content
    assert b"Late class" in asking.get("/?archived=1").content
    asking.post(f"/classes/{pk}/restore/")
    assert b"Late class</a>" in asking.get("/").content


def test_a_saved_file_is_the_class(asking, stretch_class):
    answer = asking.get(f"/classes/{stretch_class.pk}/document/")
    assert 'filename="evening-class.json"' in answer.headers["Content-Disposition"]
    assert loads(answer.content) == script(stretch_class)


WORDS = {"moving": "Go.", "there": "Stay.", "switch": "Other {side}.", "release": "Out.", "prompts": "2"}
SAID = {"say_first": "3", "says_0": "Inhale, arch up.", "breath_0": "in", "says_2": "Exhale, round."}
COUNT = {"least": "4", "wanted": "6", "most": "12", "counts": "0"}
TEMPO = {"out_ms": "1.5", "stay_ms": "0", "back_ms": "3", "rest_ms": "1"}
SIDES = {"sets": "2", "rest_s": "15", "demonstrate_s": "0", "way_s": "0", "switch_s": "0"}
GROUP = {"taper_percent": "80", "reset_s": "0", "cadence_s": "0", "under_name": "Feet"}
STYLE = {
    "last_calls": "1",
    "time_left": "30, 10",
    "say_breaths": "2",
    "breath_every_s": "0",
    "quiet_percent": "50",
    "breath_in_ms": "3.5",
    "breath_out_ms": "5",
    "title": "Renamed",
    "words_per_minute": "150",
    "countdown": "5-1",
    "lead_side": "right",
    "teaching": "match",
    "settle_s": "4",
    "pace_percent": "120",
}

BRIEF = {
    "length": "7:30",
    "group": "The choir",
    "audience": "Mixed adults",
    "setting": "recorded",
    "posture": ["standing", "on a chair"],
    "prop": ["chair", "strap"],
    "chair_is": ["with arms"],
    "other_props": "strap: a scarf; bench: low",
    "area": ["neck", "calf"],
    "before": "gentle activity",
    "condition": ["glaucoma"],
    "other_conditions": "a stiff thumb",
    "avoid": "plank, kneeling",
    "pace_percent": "110",
    "words_per_minute": "150",
    "holds": "20 to 30 s",
    "one_leg_most_s": "20",
    "start_posture": "on a chair",
    "notes": "",
}


@pytest.mark.parametrize(
    ("form", "shows"),
    [
        (
            {"edit": "add", "move": "side-neck", "item": "i2"},
            lambda s: [i.name for i in s.items()][1] == "Neck side bend",
        ),
        (
            {"edit": "add-set", "set": "neck-chair", "item": "i3"},
            lambda s: [i.move.key for i in s.moves()][2:4] == ["seated-shoulder-lifts", "chin-glide"],
        ),
        ({"edit": "swap", "item": "i2", "move": "seated-calf-strap"}, lambda s: s.item("i2").name.startswith("Seated")),
        ({"edit": "brief", **BRIEF}, lambda s: s.brief.areas == (Region.NECK, Region.CALF) and s.brief.target_s == 450),
        ({"edit": "talk"}, lambda s: any(i.tag == "talk" for i in s.items())),
        ({"edit": "section"}, lambda s: s.sections[-2].name == "New section"),
        ({"edit": "section", "item": "i3"}, lambda s: [i.id for i in s.sections[1].items] == ["i3"]),
        ({"edit": "set", "item": "i2", "field": "wanted", "value": "40"}, lambda s: s.item("i2").quantity.wanted == 40),
        ({"edit": "set", "item": "i2", "field": "most", "value": "50"}, lambda s: s.item("i2").quantity.most == 50),
        ({"edit": "set", "item": "i2", "field": "way_s", "value": "12"}, lambda s: s.item("i2").way_s == 12),
        ({"edit": "set", "item": "i3", "field": "out_ms", "value": "3,5"}, lambda s: s.item("i3").dose.out_ms == 3500),
        ({"edit": "set", "item": "i2", "field": "settle_s", "value": "5"}, lambda s: s.style.settle_s == 5),
        ({"edit": "group-rows", "rows": "i2 i3", "plan": "chain"}, lambda s: group(s).side_plan == "whole chain"),
        ({"edit": "group-rows", "rows": "i2 i3", "plan": "rounds"}, lambda s: group(s).rounds == 2),
        ({"edit": "dose-rows", "rows": "i2 i3", "steps": "1"}, lambda s: s.item("i2").quantity.value == 35),
        ({"edit": "shift-rows", "rows": "i3", "by": "-1"}, lambda s: [i.id for i in s.items()] == ["i3", "i2", "i1"]),
        ({"edit": "place-rows", "rows": "i2 i3", "group": "g2", "at": "0"}, lambda s: not s.sections[0].items),
        ({"edit": "remove-rows", "rows": "i2 i3"}, lambda s: not s.moves()),
        ({"edit": "rename-section", "section": "s1", "name": "Legs"}, lambda s: s.sections[0].name == "Legs"),
        ({"edit": "remove", "item": "i2"}, lambda s: len(s.moves()) == 1),
        ({"edit": "shift", "item": "i2", "by": "1"}, lambda s: [i.id for i in s.moves()] == ["i3", "i2"]),
        ({"edit": "place", "item": "i3", "group": "g1", "at": "0"}, lambda s: s.moves()[0].id == "i3"),
        ({"edit": "nudge", "item": "i2", "by": "5"}, lambda s: s.item("i2").quantity.wanted == 35),
        ({"edit": "lock", "item": "i2"}, lambda s: s.item("i2").quantity.locked),
        ({"edit": "mark", "item": "i2", "keep": "left out"}, lambda s: [i.id for i in s.moves()] == ["i3"]),
        ({"edit": "order", "section": "s1", "order": "i3,i2"}, lambda s: [i.id for i in s.moves()] == ["i3", "i2"]),
        (
            {"edit": "pin", "section": "s1", "pinned": "i2", "where": "i3"},
            lambda s: [pin.after for pin in s.sections[0].pins] == ["i3"],
        ),
        (
            {"edit": "mark", "item": "i2", "matters": "matters most"},
            lambda s: s.item("i2").matters.halves == 4 and s.item("i2").present,
        ),
        (
            {"edit": "dose", "item": "i2", "least": "10", "wanted": "30", "most": "60", "snap": "on"},
            lambda s: (s.item("i2").quantity.least, s.item("i2").dose.snap) == (10, True),
        ),
        (
            {"edit": "dose", "item": "i2", "least": "15", "wanted": "90", "most": "45"},
            lambda s: s.item("i2").quantity.most == 90,
        ),
        (
            {"edit": "dose", "item": "i2", "kind": "breaths"},
            lambda s: (s.item("i2").dose.tag, s.item("i2").quantity.wanted) == ("breaths", 3),
        ),
        (
            {"edit": "dose", "item": "i3", "least": "4", "wanted": "6", "most": "12", "counts": "2", **TEMPO},
            lambda s: (s.item("i3").dose.cycle_ms, s.item("i3").dose.counts) == (5500, 2),
        ),
        (
            {"edit": "quantity", "item": "i1", "least": "0", "wanted": "9", "most": "20"},
            lambda s: s.item("i1").quantity.wanted == 9,
        ),
        ({"edit": "add-stage", "item": "i2"}, lambda s: len(s.item("i2").doses) == 2),
        ({"edit": "add-group", "group": "g1"}, lambda s: len(s.sections[0].groups) == 2),
        (
            {"edit": "group", "group": "g1", "side_plan": "interleaved", "rounds": "2", **GROUP},
            lambda s: len(s.sections[0].groups[0].passes) == 3 and s.meanwhiles[0].name == "Feet",
        ),
        ({"edit": "style", "style": "Brisk and counted"}, lambda s: s.style.last_calls == 2),
        (
            {"edit": "sides", "item": "i2", "sides": "alternating", "count_is": "in total", **SIDES},
            lambda s: s.item("i2").count_is == "in total" and (s.item("i2").sets, s.item("i2").rest_s) == (2, 15),
        ),
        (
            {"edit": "sides", "item": "i2", "countdown": "5-1", "release_after": "once", "turn_s": "4", **SIDES},
            lambda s: (s.item("i2").countdown, s.item("i2").release_after, s.item("i2").turn_s) == ("5-1", "once", 4),
        ),
        (
            {"edit": "rig", "item": "i2", "prop": "wall", "rig": "at arm's length", "rerig_s": "6"},
            lambda s: [(p.rig, p.rerig_s) for p in s.item("i2").move.props] == [("at arm's length", 6)],
        ),
        (
            {"edit": "dose", "item": "i3", **COUNT, **TEMPO, **SAID},
            lambda s: [one.words for one in s.item("i3").dose.says] == ["Inhale, arch up.", "Exhale, round."],
        ),
        (
            {"edit": "dose", "item": "i3", **COUNT, **TEMPO, "gives": "out"},
            lambda s: s.item("i3").quantity == Elastic(1, 2, 4) and s.item("i3").dose.count.wanted == 6,
        ),
        (
            {"edit": "sides", "item": "i3", "count_reps": "down", "last_calls": "3", **SIDES},
            lambda s: (s.item("i3").count_reps, s.item("i3").last_calls) == ("down", 3),
        ),
        (
            {
                "edit": "words",
                "item": "i2",
                "prompt": "0",
                "prompt_0": "Sit tall. | Grow.",
                "prompt_0_when": "first pass",
            },
            lambda s: s.item("i2").words.prompts[0].wordings == ("Sit tall.", "Grow."),
        ),
        (
            {"edit": "notes", "item": "i2", "notes": "1", "note_0": "Turn round.", "note_0_when": "as the work begins"},
            lambda s: [(one.text, one.when) for one in s.item("i2").notes] == [("Turn round.", NoteWhen.START)],
        ),
        (
            {"edit": "under", "item": "i2", "under_name": "Hands", "under_words": "Press.", "under_side": "right"},
            lambda s: [(one.from_item, one.side, one.words) for one in s.meanwhiles] == [("i2", Side.RIGHT, "Press.")],
        ),
        ({"edit": "say-way", "item": "i2"}, lambda s: not s.item("i2").say_way),
        (
            {"edit": "way-words", "before": "standing", "posture": "all fours", "way_words": "Down we go."},
            lambda s: [one.words for one in s.style.way_words] == ["Down we go."],
        ),
        (
            {"edit": "words", "item": "i2", **WORDS, "prompt_0": "Slow.", "prompt_0_kind": "form", "prompt_1": ""},
            lambda s: s.item("i2").words.there == "Stay." and [p.text for p in s.item("i2").words.prompts] == ["Slow."],
        ),
        (
            {"edit": "line", "item": "i2", "line": "Point your back toes at the wall."},
            lambda s: (
                [(p.kind, p.text) for p in s.item("i2").words.prompts][-1:]
                == [("form", "Point your back toes at the wall.")]
            ),
        ),
        ({"edit": "name", "item": "i2", "name": "Wall lean"}, lambda s: s.item("i2").name == "Wall lean"),
        ({"edit": "fit", "target": "2:40"}, lambda s: s.brief.target_s == 160),
        (
            {"edit": "class", "group": "All", **STYLE},
            lambda s: s.title == "Renamed" and s.style.pace_percent == 120 and not s.style.halfway,
        ),
    ],
)
def test_every_edit_does_what_it_says_and_can_be_undone(asking, stretch_class, form, shows):
    before = script(stretch_class)
    assert not shows(before)
    assert post(asking, stretch_class, **form).status_code == 200
    assert shows(script(stretch_class))
    stretch_class.refresh_from_db()
    asking.post(reverse("step", args=[stretch_class.pk]), {"stamp": stretch_class.stamp, "which": "undo"})
    assert script(stretch_class) == before


def test_ready_made_words_that_are_as_they_ship_are_not_the_classes_own(asking, stretch_class):
    way = {"edit": "way-words", "before": "standing", "posture": "all fours"}
    post(asking, stretch_class, **way, way_words="Down we go.")
    stretch_class.refresh_from_db()
    post(asking, stretch_class, **way, way_words="Come down onto all fours.")
    assert script(stretch_class).style.way_words == ()
    stretch_class.refresh_from_db()
    refused = post(asking, stretch_class, edit="way-words", before="standing", posture="lunge", way_words="Step.")
    assert refused.status_code == 422


def test_rows_copied_in_one_class_are_pasted_into_another_as_they_were_and_never_into_a_strangers(
    asking, other_client, owner, stranger, stretch_class
):
    copied = {"of": stretch_class.pk, "revision": stretch_class.head_id, "rows": "i2 i3"}
    post(asking, stretch_class, edit="remove-rows", rows="i2", cut="1")
    other = store.create(owner, new_script("Other", 300), "Made")
    answer = post(asking, other, edit="paste-rows", **copied)
    assert answer.status_code == 200
    assert [item.name for item in script(other).items()] == ["Wall calf stretch", "Shoulder rolls", "Closing quiet"]
    theirs = store.create(stranger, new_script("Theirs", 300), "Made")
    refused = post(other_client, theirs, edit="paste-rows", **copied)
    assert (refused.status_code, "one of your classes" in refused.content.decode()) == (422, True)


def test_a_groups_panel_gives_examples_from_its_own_moves(asking, stretch_class):
    form = {"group": "g1", "rounds": "2", "lead_side": "", **GROUP}
    assert post(asking, stretch_class, edit="group", **form).status_code == 200
    page = asking.get(f"/classes/{stretch_class.pk}/?item=g1").content.decode()
    assert "Wall calf stretch left, Wall calf stretch right; then the next move." in page  # the rolls have no sides
    assert re.search(r"Wall calf stretch: \d+ s, and (\d+) s in the second round", page)[1] == "24"
    second = [s for s in compile_script(script(stretch_class)).of_item("i2") if s.round == 2 and s.kind.works]
    assert {one.seconds for one in second} == {24}


def test_the_edits_above_are_all_but_those_told_elsewhere():
    from tests.web import test_pages

    marks = test_pages.test_every_edit_does_what_it_says_and_can_be_undone.pytestmark
    shown = {form["edit"] for form, _ in marks[0].args[1]}
    elsewhere = {
        "paste-rows",
        "remove-section",
        "remove-stage",
        "talk-words",
        "talk-pace",
        "remedy",
        "newer",
        "instead-add",
    }
    assert {*EDITS, *OWN_EDITS} - shown == elsewhere | set(CHECK_EDITS) | set(CHOICE_EDITS)


@pytest.mark.parametrize(
    ("form", "said"),
    [
        ({"edit": "dance"}, "edit: must be one of"),
        ({"edit": "set", "item": "i2", "field": "colour", "value": "1"}, "field: must be one that this item has"),
        ({"edit": "set", "item": "i2", "field": "least", "value": "few"}, "least: must be a whole number; found few"),
        ({"edit": "set", "item": "i2", "field": "least", "value": "90"}, "least: must be at most the wanted"),
        ({"edit": "group-rows", "rows": "zz", "plan": "chain"}, "items: must be one or more items of this class"),
        ({"edit": "add", "move": "levitate"}, "move: must be a move of your library; found levitate"),
        ({"edit": "nudge", "item": "zz", "by": "5"}, "item: must be an item of this class; found zz"),
        ({"edit": "order", "section": "s1", "order": "i3"}, "order: must be every item of the section once"),
        (
            {"edit": "pin", "section": "s1", "pinned": "i2", "where": "i2"},
            "pins: must be an order in which i2 does not",
        ),
        ({"edit": "mark", "item": "i1", "keep": "left out"}, "item: must be a move or a talk; found Closing quiet"),
        ({"edit": "remedy", "target": "9:00", "gives": "dance", "part": "1", "value": "1"}, "remedy: must be one of"),
        ({"edit": "nudge", "item": "i2", "by": "lots"}, "by: must be a whole number; found lots"),
        (
            {"edit": "quantity", "item": "i2", "least": "40", "wanted": "30", "most": "45"},
            "least: must be at most the wanted 30",
        ),
        (
            {"edit": "dose", "item": "i2", "least": "1", "wanted": "30", "most": "99999"},
            "most: must be a whole number from 0 to 7200",
        ),
        (
            {"edit": "dose", "item": "i3", "least": "4", "wanted": "6", "most": "12", "out_ms": "fast"},
            "must be seconds, such as 2 or 2.5; found fast",
        ),
        ({"edit": "sides", "item": "i2", "sides": "three", **SIDES}, "sides: must be one of together"),
        ({"edit": "words", "item": "i2", **WORDS, "there": "Turn {sid}."}, "placeholders are among"),
        ({"edit": "talk-words", "item": "i2", "words": "Hi."}, "item: must be a talk"),
        ({"edit": "line", "item": "i2", "line": "Sing."}, "line: must be a line of Wall calf stretch"),
        ({"edit": "remove-section", "section": "s1"}, "empty before it is removed; found 2 items"),
        ({"edit": "fit", "target": "later"}, "length: must be a length such as 10:00"),
        ({"edit": "shift"}, "item"),
        ({"edit": "class", **STYLE, "time_left": "soon"}, "time left: must be a whole number"),
        (
            {"edit": "group", "group": "g1", "side_plan": "interleaved", "rounds": "0", **GROUP},
            "rounds: must be a whole number from 1 to 20; found 0",
        ),
        (
            {"edit": "dose", "item": "i2", "least": "11", "wanted": "15", "most": "19", "snap": "on"},
            "dose.seconds: must be limits that hold a whole number of breaths of 10 s; found 11 to 19 s",
        ),
    ],
)
def test_a_refused_edit_says_what_must_hold_and_changes_nothing(asking, stretch_class, form, said):
    before = script(stretch_class)
    answer = post(asking, stretch_class, **form)
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert script(stretch_class) == before
    assert stretch_class.revisions.count() == 1


def test_out_of_reach_offers_the_nearest(asking, stretch_class):
    answer = post(asking, stretch_class, edit="fit", target="59:00").content.decode()
    assert "59:00 cannot be reached" in answer
    assert "Limits in the way: Wall calf stretch (at most 45 s)" in answer
    nearest = answer.split('data-edit="fit" data-target="')[1].split('"')[0]
    assert post(asking, stretch_class, edit="fit", target=nearest).status_code == 200


def test_a_remedy_applied_makes_what_was_refused_fit_in_one_step(asking, stretch_class):
    asked = {"edit": "fit", "target": "1:15"}
    refused = post(asking, stretch_class, **asked)
    assert refused.status_code == 422
    offered = refused.content.decode().split('data-edit="remedy" ')[1].split(">")[0]
    remedy = dict(re.findall(r'data-(gives|of|part|value|told|target)="([^"]*)"', offered))
    assert post(asking, stretch_class, edit="remedy", **remedy).status_code == 200
    stretch_class.refresh_from_db()
    assert length_of(script(stretch_class)) == 75
    assert stretch_class.head.label.endswith("fitted to 1:15")
    asking.post(f"/classes/{stretch_class.pk}/step/", {"which": "undo", "stamp": stretch_class.stamp})
    assert stretch_class.revisions.count() == 2
    stretch_class.refresh_from_db()
    assert post(asking, stretch_class, **asked).status_code == 422


def test_the_preview_says_what_would_change_and_changes_nothing(asking, stretch_class):
    found = asking.get(f"/classes/{stretch_class.pk}/preview/?target=3:00").json()
    assert found["reached"]
    assert found["stretches"][-1][1] == 180
    assert found["sentence"].startswith("3:00 to the second: ")
    assert {change["item"] for change in found["changes"]} <= {"i1", "i2", "i3"}
    far = asking.get(f"/classes/{stretch_class.pk}/preview/?target=59:00").json()
    assert (far["reached"], far["stretches"]) == (False, [])
    wrong = asking.get(f"/classes/{stretch_class.pk}/preview/?target=soon")
    assert wrong.status_code == 422
    assert wrong.json()["message"].startswith("length: must be a length such as")
    assert stretch_class.revisions.count() == 1


def test_what_an_edit_would_do_is_told_and_drawn_and_changes_nothing(asking, other_client, stretch_class):
    address = reverse("what-if", args=[stretch_class.pk])
    asked = {"edit": "set", "item": "i2", "field": "wanted", "value": "40"}
    found = asking.post(address, asked).json()
    assert found["label"] == "Wall calf stretch: 40 s each side"
    longer = length_of(script(stretch_class)) + 20
    assert found["clock"] == clock(longer)
    assert found["stretches"][-1][1] == longer
    assert asking.post(address, {**asked, "value": "x"}).json()["message"].startswith("wanted: must be a whole number")
    assert stretch_class.revisions.count() == 1
    assert other_client.post(address, asked).status_code == 404


def test_the_sheet_and_the_strip_are_drawn_to_the_room_that_the_window_has(asking, stretch_class):
    def drawn(room):
        asking.cookies["room"] = room
        page = asking.get(f"/classes/{stretch_class.pk}/?item=i2").content.decode()
        sheet = re.search(r'class="sheet" id="sheet" viewBox="0 0 ([\d.]+)', page)[1]
        strip = re.search(r'class="pass" viewBox="0 0 (\d+)', page)[1]
        return int(sheet), int(strip), re.search(r'data-room="([^"]*)"', page)[1]

    assert drawn("1400x900") == (1400, 1170, "1400x900")
    assert drawn("362x600x1") == (362, 430, "362x600x1")
    usual = drawn("")
    assert drawn("wide") == drawn("0x0") == drawn("9x-1") == drawn("1x2x3x4") == usual


def test_a_stale_edit_is_refused_and_carries_what_was_typed(asking, stretch_class):
    post(asking, stretch_class, edit="nudge", item="i2", by="5")
    answer = asking.post(
        reverse("edit", args=[stretch_class.pk]),
        {"stamp": 1, "edit": "name", "item": "i2", "name": "Typed"},
        headers=HX,
    )
    assert answer.status_code == 409
    assert "Wall calf stretch: 35 s each side" in answer.content.decode()
    assert 'data-typed-name="Typed"' in answer.content.decode()


def test_a_style_of_ones_own_is_kept_and_used_in_another_class(asking, owner, stretch_class):
    post(asking, stretch_class, edit="class", **STYLE)
    stretch_class.refresh_from_db()
    address = reverse("keep-style", args=[stretch_class.pk])
    for name, said in (("Brisk and counted", "name: must be a name of your own"), ("", "name: must be 1 to 80")):
        refused = asking.post(address, {"stamp": stretch_class.stamp, "style_name": name}, headers=HX)
        assert (refused.status_code, said in refused.content.decode()) == (422, True)
    asking.post(address, {"stamp": stretch_class.stamp, "style_name": "Hall evenings"}, headers=HX)
    other = store.create(owner, new_script("Other", 300), "Made")
    assert post(asking, other, edit="style", style="Hall evenings").status_code == 200
    assert (script(other).style.name, script(other).style.say_breaths) == ("Hall evenings", 2)
    assert script(other).style.words_per_minute == 165


def test_words_page_and_its_edits_answer_with_the_page(asking, stretch_class):
    page = asking.get(f"/classes/{stretch_class.pk}/words/").content.decode()
    assert "Place your hands on the wall and step your left foot back." in page
    answer = post(asking, stretch_class, edit="words", item="i2", view="words", there="Lean on the left wall.")
    assert answer.content.decode().lstrip().startswith('<div id="words-view"')
    assert "says “left” itself" in answer.content.decode()
    before = script(stretch_class).item("i2").words
    post(asking, stretch_class, edit="words", item="i2", view="words", prompt="0", prompt_0="")
    after = script(stretch_class).item("i2").words
    assert (after.there, after.prompts) == (before.there, before.prompts[1:])


def test_a_strip_follows_what_is_typed_and_stores_nothing(asking, stretch_class):
    form = {"text": "Step right up. Turn the right foot out.", "room": "1000", "sided": "1", "field": "moving"}
    answer = asking.post(f"/classes/{stretch_class.pk}/words/speech/", form).content.decode()
    assert "3.5 s of 1 s" in answer
    assert "delays the hold by 3 s" in answer
    assert "says “right” itself" in answer
    assert stretch_class.revisions.count() == 1


def test_calibration_sets_the_rate_as_a_step_or_says_why_not(asking, stretch_class):
    address = f"/classes/{stretch_class.pk}/words/calibrate/"
    refused = asking.post(address, {"milliseconds": "900", "stamp": "1"}, headers=HX)
    assert refused.status_code == 422
    assert "a reading of the whole sample" in refused.content.decode()
    assert asking.post(address, {"milliseconds": "40000", "stamp": "1"}, headers=HX).status_code == 200
    assert script(stretch_class).style.words_per_minute == 113  # 72 words in 40 s less six pauses
    assert asking.post(address, {"milliseconds": "40000", "stamp": "1"}, headers=HX).status_code == 409


ODD = (
    '{"format": "extendum-class", "version": 1, "title": %s,'
    ' "sections": [{"id": "s", "groups": [{"id": "g", "items": [%s]}]}]}'
)


def odd_items(count, name="Odd", seconds=30):
    dose = {"type": "hold", "seconds": {"least": 1, "wanted": seconds, "most": 7200}}
    return ",".join(
        json.dumps({"type": "move", "id": f"i{n}", "move": {"name": name, "sidedness": "each side"}, "dose": dose})
        for n in range(count)
    )


@pytest.mark.parametrize(
    "items",
    [
        odd_items(0),
        odd_items(1),
        odd_items(80),
        odd_items(2, "<b>" + "Long & longer " * 14),
        odd_items(1, seconds=3600),
    ],
    ids=["empty", "one", "eighty", "long names", "an hour"],
)
def test_odd_classes_have_every_screen(asking, owner, items):
    of = store.create(owner, loads(ODD % (json.dumps("T<i>" * 50), items)), "Made")
    for page in (
        "/",
        f"/classes/{of.pk}/",
        f"/classes/{of.pk}/?item=i0",
        f"/classes/{of.pk}/stage/",
        f"/classes/{of.pk}/words/",
    ):
        answer = asking.get(page)
        assert answer.status_code == 200
        assert b"<b>Long" not in answer.content
        assert b"T<i>" not in answer.content


def test_the_sheet_as_a_table_has_every_stretch_of_the_class_in_order(asking, stretch_class):
    page = asking.get(f"/classes/{stretch_class.pk}/table/").content.decode()
    timeline = compile_script(store.script_of(stretch_class.head))
    rows = re.findall(r'<tr><td class="num r">([\d:]+)</td><td class="num r">(\d+) s</td>.*?<td>(\w*)</td>', page)
    sided = ("left", "right")
    told = [(clock(one.start_s), str(one.seconds), one.side if one.side in sided else "") for one in timeline.segments]
    assert rows == told
    assert sum(int(seconds) for _, seconds, _ in rows) == timeline.length_s


def test_no_line_of_a_template_is_too_long_to_be_read():
    templates = Path(store.__file__).parents[1] / "templates"
    long = [
        f"{path.relative_to(templates)}:{n}"
        for path in templates.rglob("*.html")
        for n, line in enumerate(path.read_text().splitlines(), 1)
        if len(line) > 160
    ]
    assert long == []
