"""A headless Chromium signed in to the running application, which fails on any error in the page."""

import shutil
from pathlib import Path

import pytest
from django.contrib.auth import get_user_model
from django.contrib.staticfiles.handlers import StaticFilesHandler
from playwright.sync_api import expect, sync_playwright

from extendum.formats.document import loads
from extendum.web.classes import store

DATA = Path(__file__).parents[1] / "data"
SIZE = {"width": 1280, "height": 800}
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


expect.set_options(timeout=15_000)  # as the page's own: a busy machine is no failure


@pytest.fixture(scope="session")
def chromium():
    path = shutil.which("chromium")
    assert path, "the browser tests need Debian's chromium: `make test` installs it or says how"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=path, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="session", autouse=True)
def kept():
    """Scripts, styles and fonts are kept by a browser, as those that a real server gives are."""
    plain = StaticFilesHandler.serve

    def serve(self, request):
        answer = plain(self, request)
        answer["Cache-Control"] = "max-age=3600"
        return answer

    StaticFilesHandler.serve = serve
    yield
    StaticFilesHandler.serve = plain


@pytest.fixture
def owner(transactional_db):
    return get_user_model().objects.create_user("ada", password="a long password", first_name="Ada")


@pytest.fixture
def page(chromium, live_server, owner, client):
    """A page of 1280x800, signed in; errors in a script and breaches of the policy fail the test.

    Less motion is asked for: figures that move at the screen's rate take a processor that other tests need.
    """
    context = chromium.new_context(base_url=live_server.url, viewport=SIZE, reduced_motion="reduce")
    page = context.new_page()
    page.set_default_timeout(15_000)
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.on("console", lambda m: errors.append(m.text) if "Content Security Policy" in m.text else None)
    client.force_login(owner)
    context.add_cookies([{"name": "sessionid", "value": client.cookies["sessionid"].value, "url": live_server.url}])
    yield page
    context.close()
    assert errors == []


def digging_class(owner):
    """A class of twelve minutes that stays as it is whatever becomes of the demo, on somebody's shelf."""
    return store.create(owner, loads((DATA / "digging.json").read_text()), "Loaded")


@pytest.fixture
def digging(owner):
    """The class of twelve minutes on the owner's shelf."""
    return digging_class(owner)


@pytest.fixture
def desk(page, digging):
    """The Desk with that class on it."""
    page.goto(f"/classes/{digging.pk}/")
    page.wait_for_selector("#desk")
    return page
