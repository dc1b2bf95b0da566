"""Who sees what: every address as its owner, as another owner and as nobody."""

from dataclasses import replace

import pytest
from django.test import override_settings
from django.urls import get_resolver, reverse

from extendum.core.edit.script_edits import new_script
from extendum.formats.library import shipped_move
from extendum.web.classes import store as classes
from extendum.web.library import store as library
from extendum.web.library.models import OwnMove

OPEN_TO_ALL = {"sign-in"}
PATTERNS = {pattern.name: pattern for pattern in get_resolver().url_patterns}


#: Opened by a code of their own; those that need more than a class in their address are tested where they belong.
BY_CODE = {name for name, pattern in PATTERNS.items() if "code" in pattern.pattern.converters}
WITH_MORE = {"session", "link", "card", "learned", "presses", "making", "made", "takes", "take-file"}
WITH_MORE |= {"cutting", "keep-cuts", "forget-cuts", "cutting-sound", "reading-sound", "keep-reading", "forget-reading"}
WITH_MORE |= {
    "revoke-page",
    "cancel-making",
    "read-recording",
    "remove-music",
    "attach-camera",
    "camera-sound",
    "decide-takes",
    "correct-recording",
    "remove-recording",
}


def address(name, pk):
    plain = {"pk": pk, "key": "calf-lean", "code": "x" * 16, "kind": "vtt", "making": 1, "voice": 1}
    plain |= {"reading": 1, "piece": 1, "page": 1, "recording": 1, "name": "x"}
    return reverse(name, kwargs={part: plain[part] for part in PATTERNS[name].pattern.converters})


def answers(client, name, pk):
    """The codes that a page and a post get."""
    return {client.get(address(name, pk)).status_code, client.post(address(name, pk)).status_code}


@pytest.mark.parametrize("name", sorted(PATTERNS))
def test_nobody_gets_to_the_sign_in_page_and_no_further(client, stretch_class, name):
    if name in OPEN_TO_ALL:
        assert client.get(address(name, stretch_class.pk)).status_code == 200
        return
    if name in BY_CODE:
        assert answers(client, name, stretch_class.pk) <= {404, 405}
        return
    for answer in (client.get(address(name, stretch_class.pk)), client.post(address(name, stretch_class.pk))):
        assert answer.status_code in (302, 405)
        assert answer.status_code == 405 or answer.url.startswith(reverse("sign-in"))


@pytest.mark.parametrize("name", sorted(n for n, p in PATTERNS.items() if "pk" in p.pattern.converters))
def test_another_owner_finds_nothing(client, stretch_class, stranger, name):
    before = stretch_class.stamp
    client.force_login(stranger)
    assert answers(client, name, stretch_class.pk) <= {404, 405}
    stretch_class.refresh_from_db()
    assert (stretch_class.stamp, stretch_class.archived_at, stretch_class.taught_at) == (before, None, None)


def test_the_owner_gets_every_page(asking, stretch_class):
    for name in PATTERNS.keys() - BY_CODE - WITH_MORE:
        if name == "newer":  # needs an item that the library has
            assert asking.get(address(name, stretch_class.pk), {"item": "i2"}).status_code == 200
        elif name != "sign-out":
            assert asking.get(address(name, stretch_class.pk)).status_code in (200, 405), name


def test_another_owner_has_neither_the_own_moves_nor_the_profiles(client, owner, stranger):
    entry = shipped_move("calf-lean")
    kept = library.keep(owner, replace(entry, move=replace(entry.move, key="", name="Ada's lean")))
    classes.keep_audience(owner, new_script("A", 60), "Ada's chairs")
    client.force_login(stranger)
    assert client.get(f"/moves/{kept.move.key}/").status_code == 404
    for address in (f"/moves/{kept.move.key}/edit/", f"/moves/{kept.move.key}/remove/"):
        assert client.post(address, {"name": "Mine"}).status_code == 404
    assert b"Ada" not in client.get("/moves/").content
    assert [own.name for own in OwnMove.objects.filter(removed_at__isnull=True)] == ["Ada's lean"]
    assert all(one.name != "Ada's chairs" for one in classes.audiences_of(stranger))


def test_strict_content_security_policy_on_every_page(asking, client, stretch_class):
    own = (f"/classes/{stretch_class.pk}/{view}" for view in ("", "stage/", "brief/"))
    for page in ("/", *own, "/moves/", "/moves/calf-lean/", "/moves/new/", "/nothing/"):
        answer = asking.get(page)
        policy = answer.headers["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "unsafe" not in policy
        assert b"<script>" not in answer.content
        assert b' style="' not in answer.content


@pytest.fixture
def demo(settings, owner):
    settings.MIDDLEWARE = [
        *settings.MIDDLEWARE[: settings.MIDDLEWARE.index("django.contrib.auth.middleware.LoginRequiredMiddleware")],
        "extendum.web.accounts.demo.DemoSignIn",
        *settings.MIDDLEWARE[settings.MIDDLEWARE.index("django.contrib.auth.middleware.LoginRequiredMiddleware") :],
    ]
    settings.DEMO_USER = owner.username


def test_demo_mode_signs_in_by_itself_on_this_machine_only(client, demo, stretch_class):
    assert b"Evening class" in client.get("/").content
    assert client.get("/", REMOTE_ADDR="192.0.2.7").status_code == 403


def test_a_wrong_password_says_so_and_keeps_the_name(client, owner):
    answer = client.post("/sign-in/", {"username": "ada", "password": "wrong"})
    assert b"name or the password is wrong" in answer.content
    assert b'value="ada"' in answer.content


@override_settings(DEBUG=False)
def test_an_unknown_address_says_where_to_go(asking):
    answer = asking.get("/classes/999999/")
    assert answer.status_code == 404
    assert b"Back to shelf" in answer.content
