"""Reading in over the web: looked at first, chosen otherwise, made once; clashes with own moves are asked about."""

import re
from dataclasses import replace

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from extendum.core.model.limits import LARGEST_FILE
from extendum.formats.document import dumps
from extendum.formats.library import shipped_move
from extendum.web.classes.models import StretchClass
from extendum.web.classes.store import script_of
from extendum.web.library import store as library

PAGE = "/read-in/"
LIST = "Main\nCalf at a fence, 30 s each side\nShoulder rolls, 8 reps\nFlying, 9999 s\n"


def made():
    return StretchClass.objects.order_by("-pk").first()


def test_a_list_is_shown_line_by_line_before_anything_is_made(asking, owner):
    shown = asking.post(PAGE, {"text": LIST, "title": "From a list"}).content.decode()
    assert StretchClass.objects.count() == 0
    assert '<option value="shoulder-circles" selected>' in shown
    assert "check this" in shown
    assert "found 9999" in shown
    assert "1 line with a problem" in shown


def test_it_is_made_as_it_was_chosen_and_fits_to_a_length_are_not_made_up(asking, owner):
    form = {"text": LIST, "title": "From a list", "make": "1", "row-1": "own", "row-2": "talk"}
    answer = asking.post(PAGE, form)
    assert answer.url == reverse("desk", args=[made().pk])
    script = script_of(made().head)
    assert [(item.tag, item.name) for item in script.items()][:3] == [
        ("move", "Wall calf stretch"), ("move", "Shoulder rolls"), ("talk", "Flying")
    ]  # fmt: skip
    assert next(iter(script.items())).move.key == "calf-lean"
    assert script.title == "From a list"


def test_a_file_is_named_by_its_own_name(asking, owner):
    file = SimpleUploadedFile("Tuesday class.csv", "\ufeffitem;dose\nCalf lean;30 s\n".encode())
    assert 'value="Tuesday class"' in asking.post(PAGE, {"file": file}).content.decode()


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "must be a file, or a list in the field"),
        ("{", "line 1, column 2: this is not JSON; a name in double quotes should stand here"),
        ('{"format": "other"}', "format: must be"),
        ("Warm-up\nMain\n", "at least one line"),
    ],
)
def test_what_cannot_be_read_is_refused_and_what_was_typed_stays(asking, owner, text, said):
    answer = asking.post(PAGE, {"text": text, "title": "Mine"})
    assert answer.status_code == 422
    shown = answer.content.decode()
    assert said in shown
    assert 'value="Mine"' in shown
    assert StretchClass.objects.count() == 0


def test_a_file_that_is_too_large_or_no_text_is_refused(asking, owner):
    for raw, said in ((b"x" * (LARGEST_FILE + 1), "at most"), (b"PK\x03\x04\x00\x00\x81", "text")):
        answer = asking.post(PAGE, {"file": SimpleUploadedFile("a.csv", raw)})
        assert answer.status_code == 422
        assert said in answer.content.decode()


def test_a_document_is_made_at_once_and_keeps_its_moves(asking, stretch_class):
    script = script_of(stretch_class.head)
    asking.post(PAGE, {"text": dumps(script)})
    assert script_of(made().head) == script


def test_a_clash_with_an_own_move_is_asked_about_and_settled_either_way(asking, owner, stretch_class):
    script = script_of(stretch_class.head)
    entry = shipped_move("calf-lean")
    library.keep(owner, replace(entry, move=replace(entry.move, name="My lean")))
    text = dumps(script)
    shown = asking.post(PAGE, {"text": text}).content.decode()
    assert "Which version should this class use?" in shown
    assert StretchClass.objects.count() == 1
    asking.post(PAGE, {"text": text, "settled": "1", "move-calf-lean": "mine"})
    names = [item.move.name for item in script_of(made().head).moves()]
    assert "My lean" in names
    asking.post(PAGE, {"text": text, "settled": "1", "move-calf-lean": "theirs"})
    theirs = next(item for item in script_of(made().head).moves() if item.move.name == "Wall calf stretch")
    assert theirs.move.key == ""
    assert library.library_of(owner).moves["calf-lean"].move.name == "My lean"


SPOKEN = """[0:00] Five minutes for the legs.
[0:08] Calf stretch. Left foot back.
[0:14] And hold.
[0:40] Ten more seconds.
[0:56] Release.
[1:00] Other side. Right foot back.
[1:06] And hold.
[1:40] Release. Thank you.
"""


def test_a_recording_is_shown_with_guesses_that_can_be_corrected_and_compared(asking, stretch_class):
    shown = asking.post(PAGE, {"text": SPOKEN, "against": stretch_class.pk}).content.decode()
    assert "Calf stretch: left 42 s, right 34 s: 8 s apart." in shown
    assert "At 0:40 10 seconds were called and 16 came." in shown
    assert 'class="compare heard"' in shown
    row = re.search(r"<td>Wall calf stretch</td><td[^>]*>(\d+) s</td><td[^>]*>(\d+) s</td>", shown)
    assert int(row.group(2)) == 42 + 34
    key = re.search(r'name="wrong" value="(time left@[^"]+)"', shown).group(1)
    again = asking.post(PAGE, {"text": SPOKEN, "wrong": key}).content.decode()
    assert "1 left out" in again
    assert "seconds were called" not in again
    assert f'value="{key}" checked' in again


def test_a_class_is_begun_from_what_was_heard(asking, owner):
    answer = asking.post(PAGE, {"text": SPOKEN, "title": "Legs again", "begin": "1"})
    assert answer.status_code == 302
    script = script_of(made().head)
    item = next(iter(script.items()))
    assert script.title == "Legs again"
    assert item.dose.quantity.value == 38
    assert item.move.sidedness.by_side


def test_another_owners_class_is_not_compared_with(asking, other_client, stretch_class):
    assert other_client.post(PAGE, {"text": SPOKEN, "against": stretch_class.pk}).status_code == 404
