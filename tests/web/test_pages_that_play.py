"""For home, and the page that plays at an address: made, looked at by anybody, made again, revoked."""

import pytest
from django.urls import reverse

from extendum.formats.playing_page import policy_of
from extendum.web.classes.store import script_of
from extendum.web.giving.models import PlayingPage
from extendum.web.giving.pages import file_of
from tests.web.test_giving import at_once  # noqa: F401 a fixture

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
