"""Who sees what: every address as its owner, as another owner and as nobody."""

import pytest
from django.test import override_settings
from django.urls import get_resolver, reverse

OPEN_TO_ALL = {"sign-in"}
PATTERNS = {pattern.name: pattern for pattern in get_resolver().url_patterns}


def address(name, pk):
    takes_pk = "pk" in PATTERNS[name].pattern.converters
    return reverse(name, args=[pk]) if takes_pk else reverse(name)


def answers(client, name, pk):
    """The codes that a page and a post get."""
    return {client.get(address(name, pk)).status_code, client.post(address(name, pk)).status_code}


@pytest.mark.parametrize("name", sorted(PATTERNS))
def test_nobody_gets_to_the_sign_in_page_and_no_further(client, stretch_class, name):
    if name in OPEN_TO_ALL:
        assert client.get(address(name, stretch_class.pk)).status_code == 200
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
    for name in PATTERNS:
        if name not in ("sign-out",):
            assert asking.get(address(name, stretch_class.pk)).status_code in (200, 405), name


def test_strict_content_security_policy_on_every_page(asking, client, stretch_class):
    for page in ("/", f"/classes/{stretch_class.pk}/", f"/classes/{stretch_class.pk}/stage/", "/nothing/"):
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
    assert b"do not belong together" in answer.content
    assert b'value="ada"' in answer.content


@override_settings(DEBUG=False)
def test_an_unknown_address_says_where_to_go(asking):
    answer = asking.get("/classes/999999/")
    assert answer.status_code == 404
    assert b"To the shelf" in answer.content
