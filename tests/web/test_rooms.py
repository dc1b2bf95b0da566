"""Screens and clickers: they follow by a code, are told no words, and are nothing once revoked."""

import json
import re
import ssl
import subprocess
import sys
from datetime import timedelta

import pytest
from cryptography import x509
from django.urls import reverse
from django.utils import timezone

from extendum.web.certificate import addresses, own_certificate
from extendum.web.teach import following
from extendum.web.teach.clicker import DONE_WITHIN
from extendum.web.teach.following import HELD_FOR, SHOWN_FOR, clock_off
from extendum.web.teach.models import Link, LiveRun, Press
from tests.web.conftest import Reader
from tests.web.test_live import START, tell


@pytest.fixture
def nobody():
    """Somebody without an account."""
    return Reader()


def made(asking, kind):
    asking.post(reverse("links"), {"kind": kind, "name": "Mine"})
    return Link.objects.get(kind=kind)


def news(client, link, seen=""):
    return client.get(reverse(f"{link.kind}-now", args=[link.code]), {"seen": seen})


def press(client, link, kind="go", key="p1"):
    address = reverse("press", args=[link.code])
    return client.post(address, json.dumps({"id": key, "kind": kind}), content_type="application/json")


def test_a_screen_is_told_what_is_new_and_only_that(asking, nobody, stretch_class):
    link = made(asking, "room")
    assert news(nobody, link).json()["run"] is None
    now = round(timezone.now().timestamp() * 1000)
    tell(asking, stretch_class, me="a", now=now - 5000, events=[START])
    first = news(nobody, link).json()
    assert [event["kind"] for event in first["events"]] == ["start"]
    assert abs(first["off"] - 5000) < 1000
    assert abs(first["now"] - now) < 2000
    seen = f"{first['run']}.{first['events'][0]['n']}"
    assert news(nobody, link, seen).json()["events"] == []
    tell(asking, stretch_class, me="a", events=[START | {"id": "2", "kind": "pause"}])
    assert [event["kind"] for event in news(nobody, link, seen).json()["events"]] == ["pause"]
    assert len(news(nobody, link, "999.5").json()["events"]) == 2
    assert len(news(nobody, link, f"{first['run']}.{'9' * 30}").json()["events"]) == 2
    LiveRun.objects.update(held_at=timezone.now() - SHOWN_FOR)
    assert news(nobody, link).json()["run"] is None


def test_a_screen_is_asked_without_a_session(asking, nobody, stretch_class, django_assert_max_num_queries):
    link = made(asking, "room")
    tell(asking, stretch_class, me="a")
    with django_assert_max_num_queries(3):
        answer = news(nobody, link)
    assert answer.cookies == {}
    assert "no-store" in answer["Cache-Control"]


def test_many_screens_ask_the_database_once_and_each_is_told_what_it_does_not_know(
    asking, nobody, stretch_class, settings, monkeypatch, django_assert_num_queries
):
    link = made(asking, "room")
    tell(asking, stretch_class, me="a")
    settings.FOLLOWERS_SHARE_S = 60
    monkeypatch.setattr(following, "_KEPT", {})
    first = news(nobody, link).json()
    with django_assert_num_queries(0):
        again = [news(nobody, link).json() for _ in range(3)]
        known = news(nobody, link, f"{first['run']}.{first['events'][-1]['n']}").json()
    assert all(one["events"] == first["events"] for one in again)
    assert known["events"] == []
    asking.post(f"/screens/{link.pk}/", {"revoke": 1})
    monkeypatch.setattr(following, "monotonic", lambda: 10**9)  # a minute later
    assert nobody.get(f"/room/{link.code}/now/").status_code == 404


def test_the_class_is_told_nothing_of_what_is_to_be_said(asking, nobody, stretch_class):
    link = made(asking, "room")
    page = reverse("room", args=[link.code])
    assert "begins soon" in nobody.get(page).content.decode()
    tell(asking, stretch_class, me="a")
    shown = nobody.get(page).content.decode()
    score = json.loads(re.search(r'<script id="score"[^>]*>(.*?)</script>', shown).group(1))
    assert score["cues"] == []
    assert not {"props", "facing", "space", "tray"} & score.keys()
    assert "reason" not in score["segments"][0]
    assert "figure-" in shown


def test_what_was_revoked_or_never_was_answers_clearly(asking, nobody, other_client, stretch_class):
    room, clicker = made(asking, "room"), made(asking, "clicker")
    tell(asking, stretch_class, me="a")
    assert other_client.post(reverse("link", args=[room.pk]), {"revoke": "1"}).status_code == 404
    for link in (room, clicker):
        asking.post(reverse("link", args=[link.pk]), {"revoke": "1"})
        answer = nobody.get(reverse(link.kind, args=[link.code]))
        assert answer.status_code == 404
        assert "revoked it" in answer.content.decode()
        assert news(nobody, link).status_code == 404
    assert press(nobody, clicker).status_code == 404
    assert nobody.get(reverse("room", args=["nothing"])).status_code == 404
    assert nobody.get(reverse("links")).status_code == 302
    assert room.code not in asking.get(reverse("links")).content.decode()


def test_a_code_opens_its_own_kind_only(asking, nobody, stretch_class):
    room = made(asking, "room")
    tell(asking, stretch_class, me="a")
    for name in ("clicker", "clicker-now"):
        assert nobody.get(reverse(name, args=[room.code])).status_code == 404
    assert press(nobody, room).status_code == 404
    assert len(room.code) == 16
    assert len({Link(kind="room").code for _ in range(50)}) == 50


def test_settings_of_a_screen_and_its_square(asking, nobody, stretch_class):
    link = made(asking, "room")
    asking.post(reverse("link", args=[link.pk]), {"easier": "on"})
    link.refresh_from_db()
    assert (link.mirrored, link.easier) == (False, True)
    shown = asking.get(reverse("links")).content.decode()
    assert f"http://testserver/room/{link.code}/" in shown
    assert "<svg" in shown


def test_a_press_is_kept_once_and_given_to_the_stage_while_it_is_fresh(asking, nobody, other_client, stretch_class):
    link = made(asking, "clicker")
    answer = press(nobody, link)
    assert (answer.status_code, answer.json()["message"]) == (409, "No class is running now: this press did nothing.")
    tell(asking, stretch_class, me="a")
    assert press(nobody, link).json() == {"done": "go"}
    press(nobody, link)
    press(nobody, link, "longer", "p2")
    page = reverse("presses", args=[stretch_class.pk])
    found = asking.get(page, {"run": "r1"}).json()["presses"]
    assert [one["kind"] for one in found] == ["go", "longer"]
    assert asking.get(page, {"run": "r1", "after": found[0]["n"]}).json()["presses"] == found[1:]
    assert other_client.get(page, {"run": "r1"}).status_code == 404
    Press.objects.update(at=timezone.now() - DONE_WITHIN)
    assert asking.get(page, {"run": "r1"}).json()["presses"] == []


@pytest.mark.parametrize("body", ["{", "[]", '{"id": "1"}', '{"id": "", "kind": "go"}', '{"id": "1", "kind": "end"}'])
def test_a_press_that_makes_no_sense_is_refused(asking, nobody, stretch_class, body):
    link = made(asking, "clicker")
    tell(asking, stretch_class, me="a")
    answer = nobody.post(reverse("press", args=[link.code]), body, content_type="application/json")
    assert answer.status_code == 422
    assert Press.objects.count() == 0


def test_a_class_that_ended_has_nothing_to_click(asking, nobody, stretch_class):
    link = made(asking, "clicker")
    tell(asking, stretch_class, me="a", events=[START, START | {"id": "2", "kind": "end"}])
    assert press(nobody, link).status_code == 409
    LiveRun.objects.update(holder="a", held_at=timezone.now() - HELD_FOR)
    assert press(nobody, link).status_code == 409


def test_the_clock_of_a_stage_is_known_from_its_quickest_message():
    at = timezone.now()
    ms = round(at.timestamp() * 1000)
    assert clock_off(None, ms - 300, at) == 300
    assert clock_off(300, ms - 40, at) == 40
    assert clock_off(40, ms - 900, at) == 40
    assert clock_off(40, ms - 60_000, at) == 60_000
    assert clock_off(40, "soon", at) == 40


@pytest.mark.parametrize(
    ("given", "said"),
    [
        ({"HOST": "127.0.0.1", "CERT": "README.md", "KEY": "README.md"}, "must be a certificate and its key, in PEM"),
        ({"CERT": "nowhere.pem", "KEY": "x"}, "CERT must be a file; found nowhere.pem"),
        ({"PORT": "²"}, "PORT must be a number from 1 to 65535; found '²'"),
        ({"PORT": "70000"}, "PORT must be a number from 1 to 65535"),
    ],
)
def test_serving_a_network_asks_for_what_it_needs(given, said):
    env = {"PATH": "/usr/bin:/bin", "PYTHONPATH": "src", **given}
    command = [sys.executable, "-m", "extendum.web.serve", "--check"]
    answer = subprocess.run(command, env=env, capture_output=True, text=True)  # noqa: S603
    assert answer.returncode == 2
    assert said in answer.stderr


def test_a_certificate_is_made_for_the_address_kept_and_made_anew_for_another(tmp_path):
    certificate, key = own_certificate(tmp_path, ["192.0.2.7", "hall.example"])
    made = x509.load_pem_x509_certificate(certificate.read_bytes())
    names = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert [str(name.value) for name in names] == ["192.0.2.7", "hall.example"]
    assert made.not_valid_after_utc - made.not_valid_before_utc < timedelta(days=398)
    assert key.stat().st_mode & 0o077 == 0
    ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(certificate, key)
    kept = certificate.read_bytes()
    assert own_certificate(tmp_path, ["192.0.2.7", "hall.example"])[0].read_bytes() == kept
    assert own_certificate(tmp_path, ["192.0.2.7"])[0].read_bytes() != kept
    assert addresses("192.0.2.7") == ["192.0.2.7"] and "127.0.0.1" in addresses("0.0.0.0")  # noqa: S104


def test_a_server_that_only_shows_pages_has_nothing_in_memory_that_makes_files():
    heavy = ("av", "fontTools", "fpdf", "ortools", "pandas", "PIL", "pyloudnorm", "scipy.signal")
    asks = f"""
import sys, django
django.setup()
from django.urls import get_resolver
assert get_resolver().url_patterns
print(*(name for name in {heavy} if name in sys.modules))
"""
    env = {"PATH": "/usr/bin:/bin", "PYTHONPATH": "src", "DJANGO_SETTINGS_MODULE": "extendum.web.settings"}
    env |= {"EXTENDUM_DEMO": "1"}
    answer = subprocess.run([sys.executable, "-c", asks], env=env, capture_output=True, text=True, check=True)  # noqa: S603
    assert answer.stdout.split() == []
