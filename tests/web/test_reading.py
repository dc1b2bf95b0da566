"""Reading in over the web: looked at first, chosen otherwise, made once; clashes with own moves are asked about."""

import html
import re
from dataclasses import replace

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from extendum.core.model.body import Side
from extendum.core.model.limits import LARGEST_FILE
from extendum.core.timing.compile import compile_script
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


SPOKEN = """[0:00] Hello, five minutes for the legs. I was late today, and my bus was late too.
[0:14] Now step your left foot back and press the heel down, hands on the wall.
[0:20] Stay there. Breathe.
[0:34] Ten more seconds.
[0:50] And step in.
[0:54] Other side. Right foot back, press the heel down.
[1:00] Stay. Keep breathing, and feel the calf.
[1:20] And step in. That was it, thank you, and come back on Friday.
"""


def steps_in(page):
    return html.unescape(re.search(r'name="steps" hidden>([^<]*)<', page).group(1))


def test_a_recording_is_shown_move_by_move_put_right_and_laid_beside_a_class(asking, stretch_class):
    shown = asking.post(PAGE, {"text": SPOKEN, "against": stretch_class.pk}).content.decode()
    assert 'class="compare heard"' in shown
    assert re.search("seconds were called and about 1[5-8] came", shown)
    assert StretchClass.objects.count() == 1
    row = re.search(r"<td>Wall calf stretch</td><td[^>]*>(\d+) s</td><td[^>]*>(\d+) s</td>", shown)
    assert 40 <= int(row.group(2)) <= 70
    typed = asking.post(PAGE, {"text": SPOKEN, "steps": "", "name-0": "Cobra", "look": "1"}).content.decode()
    assert steps_in(typed) == "name 0 cobra"
    turned = asking.post(PAGE, {"text": SPOKEN, "steps": steps_in(typed), "side-0-0": "right"}).content.decode()
    assert steps_in(turned).splitlines() == ["name 0 cobra", "side 0 0 right"]
    assert "2 corrections so far" in turned
    undone = asking.post(PAGE, {"text": SPOKEN, "steps": steps_in(turned), "do": "undo"}).content.decode()
    assert steps_in(undone) == "name 0 cobra"
    two = asking.post(PAGE, {"text": SPOKEN, "do": "turn 0", "at-0": "0:30"}).content.decode()
    assert steps_in(two) == "turn 0 30" and two.count('name="side-0-') == turned.count('name="side-0-') + 1
    talk = asking.post(PAGE, {"text": SPOKEN, "do": "talk 0"}).content.decode()
    assert "No move was heard" in talk


def test_a_correction_that_cannot_be_is_refused_and_what_was_done_stays(asking, owner):
    answer = asking.post(PAGE, {"text": SPOKEN, "steps": "name 0 cobra", "do": "split 0", "at-0": "9:00"})
    assert answer.status_code == 422
    assert "split: must be" in answer.content.decode()
    assert steps_in(answer.content.decode()) == "name 0 cobra"
    assert asking.post(PAGE, {"text": SPOKEN, "steps": "drop 7 table"}).status_code == 422


def test_a_class_is_begun_from_what_was_heard_in_the_words_and_the_length_of_the_recording(asking, owner):
    answer = asking.post(PAGE, {"text": SPOKEN, "title": "Legs again", "steps": "name 0 calf-lean", "begin": "1"})
    assert answer.status_code == 302
    script = script_of(made().head)
    assert script.title == "Legs again"
    (item,) = script.moves()
    assert (item.move.key, item.lead_side) == ("calf-lean", Side.LEFT)
    assert "Now step your {side} foot back" in item.words.moving
    assert 20 <= item.dose.quantity.value <= 34
    assert compile_script(script).length_s == pytest.approx(86, rel=0.03)


def test_another_owners_class_is_not_compared_with(asking, other_client, stretch_class):
    assert other_client.post(PAGE, {"text": SPOKEN, "against": stretch_class.pk}).status_code == 404


def test_recordings_are_kept_with_a_class_put_right_laid_beside_each_other_removed_and_brought_back(
    asking, other_client, stretch_class
):
    pk = stretch_class.pk
    where = reverse("recordings", args=[pk])
    assert "No recording of this class is kept yet" in asking.get(where).content.decode()
    for name, text in (("June", SPOKEN), ("July", SPOKEN.replace("[1:20]", "[1:32]"))):
        answer = asking.post(PAGE, {"text": text, "title": name, "against": pk, "keep": "1", "mend": "1"})
        assert answer.status_code == 302
    july, june = stretch_class.past_recordings.all()
    page = asking.get(answer.url).content.decode()
    assert "July" in page and page.count('class="sheet-desk"') == 1
    assert "only" not in page and "seconds were called" in page
    assert stretch_class.next_times.filter(text__contains="seconds were called").count() == 2
    both = asking.get(where, {"one": june.pk, "beside": july.pk}).content.decode()
    row = re.search(r"<td>Wall calf stretch</td>" + r"<td[^>]*>(\d+) s</td>\s*" * 3, both)
    assert int(row.group(3)) - int(row.group(2)) >= 8
    correcting = asking.get(reverse("correct-recording", args=[pk, june.pk])).content.decode()
    assert f'name="kept" value="{june.pk}"' in correcting
    asking.post(PAGE, {"text": SPOKEN, "title": "June", "kept": june.pk, "name-0": "Cobra"})
    june.refresh_from_db()
    assert june.steps == "name 0 cobra"
    stretch_class.past_recordings.filter(pk=june.pk).update(steps="name 0 a-move-that-is-gone")
    for path in (f"{where}?one={june.pk}", reverse("correct-recording", args=[pk, june.pk])):
        assert "correction: must be one that this recording has" in asking.get(path).content.decode()
    for path in (where, reverse("correct-recording", args=[pk, june.pk])):
        assert other_client.get(path).status_code == 404
    assert other_client.post(PAGE, {"text": SPOKEN, "kept": june.pk, "name-0": "Plank"}).status_code == 404
    asking.post(reverse("remove-recording", args=[pk, june.pk]))
    assert "“June” was removed" in asking.get(where).content.decode()
    asking.post(reverse("remove-recording", args=[pk, june.pk]), {"back": "1"})
    assert stretch_class.past_recordings.filter(removed_at=None).count() == 2


def test_a_class_begun_from_a_recording_keeps_it_and_what_to_mend(asking, owner):
    asking.post(PAGE, {"text": SPOKEN, "title": "Legs", "begin": "1", "mend": "1"})
    of = made()
    assert [one.name for one in of.past_recordings.all()] == ["Legs"]
    assert of.next_times.count() >= 1
