"""The help of every screen, the tour, and the settings."""

import re

import pytest

from extendum.core.edit.script_edits import set_title
from extendum.web.classes import store
from extendum.web.classes.models import Defaults, OwnStyle, StretchClass
from extendum.web.guide.texts import guide
from extendum.web.settings import WEB

#: Every screen of an instructor, and what its help is called.
SCREENS = {
    "/": "shelf",
    "/classes/{pk}/": "desk",
    "/classes/{pk}/brief/": "brief",
    "/classes/{pk}/words/": "words",
    "/classes/{pk}/checks/": "checks",
    "/classes/{pk}/versions/": "versions",
    "/classes/{pk}/stage/": "stage",
    "/classes/{pk}/rehearse/": "rehearse",
    "/classes/{pk}/take/": "take",
    "/classes/{pk}/give/": "files",
    "/classes/{pk}/readings/": "readings",
    "/classes/{pk}/music/": "music",
    "/moves/": "moves",
    "/moves/calf-lean/": "move",
    "/moves/calf-lean/edit/": "move",
    "/moves/new/": "move",
    "/classes/{pk}/recordings/": "recordings",
    "/logbook/": "logbook",
    "/logbook/overview/": "logbook",
    "/read-in/": "read-in",
    "/classes/{pk}/proposals/": "proposals",
    "/screens/": "screens",
    "/settings/": "settings",
}


@pytest.mark.parametrize("address", SCREENS)
def test_every_screen_has_its_help_and_it_tells_every_key_that_the_screen_shows(asking, stretch_class, address):
    page = asking.get(address.format(pk=stretch_class.pk)).content.decode()
    screen = guide().screens[SCREENS[address]]
    body, dialog = page.split('<dialog id="help"')
    assert screen.title in dialog
    assert "data-help" in body
    told = {pressed for key in screen.keys for pressed in key.pressed}
    shown = {pressed for key in re.findall(r"<kbd>([^<]+)</kbd>", body) for pressed in key.split()}
    assert shown
    assert shown <= told


def test_every_word_of_the_trade_is_on_the_help_page_once(asking):
    page = asking.get("/help/").content.decode()
    for term in guide().terms:
        assert page.count(f"<dt>{term}</dt>") == 1
    assert "does not diagnose" in page


#: What a text shows, without its markup and its code.
SHOWN = re.compile(r"\{%.*?%\}|\{\{.*?\}\}|\{#.*?#\}|<[^>]*>", re.S)


@pytest.mark.parametrize("path", sorted((WEB / "templates").rglob("*.html")), ids=lambda path: path.name)
def test_every_text_speaks_with_one_voice(path):
    words = SHOWN.sub(" ", path.read_text())
    assert "!" not in words
    assert not re.search(r"\b(please|oops|sorry|simply|just click|click here|invalid|awesome|great)\b", words, re.I)
    assert not re.search(r"\b(is|are) safe\b(?! for anybody)", words)


def test_the_tour_walks_over_a_copy_and_leaves_everything_else(asking, stretch_class):
    before = stretch_class.head_id
    answer = asking.post("/tour/", follow=True)
    page = answer.content.decode()
    made = StretchClass.objects.exclude(pk=stretch_class.pk).get()
    assert made.title == "Tour: After the digging"
    assert page.count("data-at=") == len(guide().tour)
    stretch_class.refresh_from_db()
    assert stretch_class.head_id == before
    assert b'id="tour"' not in asking.get(f"/classes/{stretch_class.pk}/").content
    store.change(made, made.stamp, "tried", lambda s: set_title(s, "Tried"))
    asking.post("/tour/")
    made.refresh_from_db()
    assert (StretchClass.objects.count(), made.title, made.revisions.count()) == (2, "Tour: After the digging", 2)
    assert asking.post("/tour/", {"end": 1}).status_code == 204
    assert b'id="tour"' not in asking.get(f"/classes/{made.pk}/").content
    assert StretchClass.objects.count() == 2


BEGIN = {
    "part": "begin",
    "length": "12:30",
    "style": "Steady and spoken",
    "words_per_minute": "140",
    "lead_side": "right",
    "teaching": "match",
    "countdown": "5-1",
    "paper": "Letter",
}


def test_new_classes_begin_with_what_was_set_and_those_there_stay(asking, owner, stretch_class):
    asking.post("/settings/", BEGIN)
    assert b'value="12:30"' in asking.get("/").content
    asking.post("/classes/new/", {"title": "Later", "length": "8:00"})
    style = store.script_of(StretchClass.objects.get(title="Later").head).style
    assert (style.words_per_minute, style.lead_side, style.teaching, style.countdown) == (140, "right", "match", "5-1")
    assert store.script_of(stretch_class.head).style.words_per_minute == 165
    files = asking.get(f"/classes/{stretch_class.pk}/give/").content.decode()
    assert re.search(r'value="Letter" checked', files)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"length": "soon"}, "length: must be a length such as 10:00"),
        ({"length": "0:00"}, "must be"),
        ({"words_per_minute": "20"}, "words_per_minute: must be"),
        ({"words_per_minute": "fast"}, "must be a whole number; found fast"),
        ({"style": "Loud"}, "cue style: must be one of"),
        ({"part": "other"}, "Nothing was changed"),
    ],
)
def test_a_setting_that_cannot_be_is_refused_whole_and_what_was_typed_stays(asking, change, said):
    answer = asking.post("/settings/", {**BEGIN, **change})
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert not Defaults.objects.exists()
    if "part" not in change:
        page = answer.content.decode()
        assert f'value="{({**BEGIN, **change})["length"]}"' in page
        assert all(f'value="{BEGIN[name]}" checked' in page for name in ("lead_side", "teaching", "countdown", "paper"))


def test_what_is_kept_under_a_name_can_be_removed_and_put_back_and_is_nobody_elses(asking, other_client, stretch_class):
    store.keep_style(stretch_class, stretch_class.stamp, "Mine")
    kept = OwnStyle.objects.get()
    forget = {"part": "forget", "kind": "style", "kept": kept.pk}
    assert other_client.post("/settings/", forget).status_code == 404
    assert b"Restore" in asking.post("/settings/", forget, follow=True).content
    assert not OwnStyle.objects.exists()
    other_client.post("/settings/", {"part": "put-back"})
    assert not OwnStyle.objects.exists()
    asking.post("/settings/", {"part": "put-back"})
    assert OwnStyle.objects.get().settings == kept.settings
    assert asking.post("/settings/", {"part": "put-back"}).status_code == 422


def test_a_new_password_needs_the_old_one_and_holds_at_once(asking, client, owner):
    new = {"part": "password", "new_password1": "stretching quietly", "new_password2": "stretching quietly"}
    assert b"entered incorrectly" in asking.post("/settings/", {**new, "old_password": "wrong"}).content
    assert asking.post("/settings/", {**new, "old_password": "a long password"}).status_code == 302
    assert asking.get("/settings/").status_code == 200
    owner.refresh_from_db()
    assert owner.check_password("stretching quietly")
