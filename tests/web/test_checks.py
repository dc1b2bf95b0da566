"""Findings on the Desk and on the Checks screen: shown at their place, mended, kept, opened again; the body picture."""

import json
import re
from dataclasses import replace
from pathlib import Path

import pytest
from django.urls import reverse

from extendum.core.edit import script_edits as edit
from extendum.core.model.body import Region
from extendum.formats.document import loads
from extendum.formats.library import shipped_move
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass

HX = {"HX-Request": "true"}
POOR = Path(__file__).parents[1] / "data" / "poor.json"


@pytest.fixture
def poor(owner):
    return store.create(owner, loads(POOR.read_bytes()), "Loaded")


def checks(client, of, **query):
    return client.get(reverse("checks", args=[of.pk]), query).content.decode()


def post(client, of, **form):
    of.refresh_from_db()
    return client.post(reverse("edit", args=[of.pk]), {"stamp": of.stamp, "view": "checks", **form}, headers=HX)


def script(of):
    return store.script_of(StretchClass.objects.get(pk=of.pk).head)


def test_the_desk_marks_findings_where_they_are_and_counts_them_in_a_line(asking, poor):
    page = asking.get(reverse("desk", args=[poor.pk]), {"item": "breaths"}).content.decode()
    line = re.sub(r"<[^>]+>", "", page.split('id="to-checks"')[1].split("</a>")[0])
    assert re.search(r"\d+ to fix", line)
    row = page.split('id="row-roll"')[1].split("</li>")[0]
    assert "f-fix" in row
    assert re.search(r'<g class="flag f-fix"[^>]*data-choose="roll"><title>[^<]*Neck half circles', page)
    panel = page.split('id="panel"')[1]
    assert "asks people to hold their breath for 4 s" in panel
    assert 'data-finding="breath-held.breaths"' in panel


def test_a_mend_is_one_step_that_can_be_undone(asking, poor):
    before = script(poor)
    answer = post(asking, poor, edit="mend", finding="breath-held.breaths")
    assert answer.status_code == 200
    assert "asks people to hold their breath for 4 s" not in answer.content.decode()
    assert script(poor).item("breaths").dose.full_ms == 0
    poor.refresh_from_db()
    answer = asking.post(reverse("step", args=[poor.pk]), {"stamp": poor.stamp, "which": "undo"})
    told = json.loads(answer["HX-Trigger-After-Settle"])["told"]
    assert told == {"text": "Taken back: Remove the pause (breath-held).", "which": "redo"}
    assert script(poor) == before
    answer = post(asking, poor, edit="remove", item="plank")
    assert json.loads(answer["HX-Trigger-After-Settle"])["told"] == {"text": "Removed Plank.", "which": "undo"}


def test_a_remedy_tells_what_it_would_change_and_changes_nothing(asking, poor):
    before = script(poor)
    asked = reverse("remedy", args=[poor.pk])
    told = asking.get(asked, {"finding": "eyes-closed.reach"}).content.decode()
    assert told.startswith("Standing side reach no longer says “Close your eyes")
    assert re.search(r"The class (becomes|stays) \d+:\d\d.* \d+ findings left\.$", told)
    assert "must be one that an edit can mend" in asking.get(asked, {"finding": "effort-jumps.plank"}).content.decode()
    assert "must be one of" in asking.get(asked, {"finding": "<nothing>"}).content.decode()
    assert "<nothing>" not in asking.get(asked, {"finding": "<nothing>"}).content.decode()
    assert script(poor) == before


def test_a_swap_by_mend_marks_which_form_of_the_library_it_took(asking, poor):
    post(asking, poor, edit="mend", finding="posture-out.soles")
    item = script(poor).item("soles")
    assert item.move.key != "soles-together"
    assert item.taken
    assert "newer form" not in asking.get(reverse("desk", args=[poor.pk])).content.decode().split('id="row-soles"')[1]


def test_kept_with_a_reason_it_stands_apart_and_can_be_shown_again(asking, poor):
    page = post(asking, poor, edit="keep", finding="lead-wanders", because="They <like> it so").content.decode()
    assert "Kept, because: They &lt;like&gt; it so" in page
    assert 'id="mend-lead-wanders.reach"' not in page
    page = post(asking, poor, edit="open-again", finding="lead-wanders").content.decode()
    assert "Kept, because" not in page
    assert 'id="mend-lead-wanders.reach"' in page


@pytest.mark.parametrize(
    ("form", "said"),
    [
        ({"edit": "keep", "finding": "lead-wanders", "because": " "}, "because: must be a reason in a few words"),
        ({"edit": "mend", "finding": "nothing"}, "finding: must be one of against-condition.plank"),
        ({"edit": "mend", "finding": "effort-jumps.plank"}, "finding: must be one that an edit can mend"),
        ({"edit": "mend", "finding": "area-missing", "stamp": "0"}, "changed"),
    ],
)
def test_what_cannot_be_done_is_said_and_nothing_changes(asking, poor, form, said):
    before = script(poor)
    answer = post(asking, poor, **form)
    assert answer.status_code in (409, 422)
    assert said in answer.content.decode()
    assert script(poor) == before


def test_a_fit_that_is_out_of_reach_says_so(asking, poor):
    store.change(poor, poor.stamp, "Short", lambda s: edit.set_target(s, 60))
    answer = post(asking, poor, edit="mend", finding="off-slot")
    assert answer.status_code == 422
    assert "cannot be reached" in answer.content.decode()


def test_findings_are_grouped_by_severity_each_with_its_reason_and_the_scope_is_said(asking, poor):
    page = checks(asking, poor)
    assert page.index("To fix") < page.index("To consider")
    assert page.index('id="found-pushing.reach"') < page.index("To consider") < page.index('id="found-no-closing"')
    assert "Words that push say the opposite" in page
    assert "does not mean that a class is safe" in page
    assert "licensed health professional" in page


def test_without_moves_there_is_nothing_to_look_at(asking, owner):
    empty = store.create(owner, edit.new_script("Empty", 300), "Made")
    assert "There is nothing to check yet" in checks(asking, empty)
    assert 'id="to-checks"' not in asking.get(reverse("desk", args=[empty.pk])).content.decode()


def test_the_body_picture_has_left_and_right_and_says_the_sides(asking, stretch_class):
    page = checks(asking, stretch_class)
    calf = re.search(r'<a href="[^"]*area=calf"[^>]*aria-label="([^"]+)"', page)
    assert calf.group(1) == "calf: 30 s on each side"


def test_a_wanted_area_that_nothing_reaches_is_outlined_and_the_library_offers_for_it(asking, stretch_class):
    store.change(
        stretch_class,
        stretch_class.stamp,
        "Brief",
        lambda s: replace(s, brief=replace(s.brief, areas=(Region.NECK, Region.CALF))),
    )
    page = checks(asking, stretch_class, area="neck", effect="stretch")
    neck = re.search(r'<a [^>]*class="(region[^"]*)"[^>]*data-area="neck"', page)
    assert neck.group(1) == "region missing chosen"
    about = page.split('class="area-about"')[1].split("</section>")[0]
    assert "Nothing in this class." in about
    offered = re.search(r'data-do="add" data-move="([^"]+)"', about).group(1)
    assert Region.NECK in shipped_move(offered).move.main_regions
    answer = post(asking, stretch_class, edit="add", move=offered, area="neck", effect="stretch").content.decode()
    assert "Nothing in this class." not in answer
    assert offered in {item.move.key for item in script(stretch_class).moves()}


def test_the_table_tells_main_and_besides_apart_by_effect(asking, stretch_class):
    page = checks(asking, stretch_class)
    table = page.split('<table class="coverage">')[1].split("</table>")[0]
    rows = re.findall(r'<th scope="row">([^<]+)</th>', table)
    assert rows == [region.value for region in Region if region.value in rows]
    assert "calf" in rows
    assert "30 s each side" in table
    assert "besides" in table


def test_names_in_findings_are_escaped_on_the_sheet_and_on_the_screen(asking, poor):
    store.change(poor, poor.stamp, "Named", lambda s: edit.rename_item(s, "breaths", "<b>& breathe"))
    for page in (checks(asking, poor), asking.get(reverse("desk", args=[poor.pk])).content.decode()):
        assert "&lt;b&gt;&amp; breathe" in page
        assert "<b>&" not in page


@pytest.mark.parametrize("where", ["move", "start"])
def test_a_caution_is_put_into_the_words_at_the_move_or_at_the_start(asking, poor, where):
    assert "caution-unspoken" in checks(asking, poor)
    post(asking, poor, edit="caution", item="roll", condition="osteoporosis", where=where)
    line = "With osteoporosis, let the chin sink only a little."
    after = script(poor)
    said = after.item("roll").words.prompts[0].text if where == "move" else next(after.items()).words
    assert line in said


def test_a_caution_that_the_move_does_not_have_is_refused(asking, poor):
    answer = post(asking, poor, edit="caution", item="roll", condition="hiccups")
    assert answer.status_code == 422
    assert "found hiccups" in answer.content.decode()
