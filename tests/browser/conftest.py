"""A headless Chromium signed in to the running application, which fails on any error in the page."""

from collections import deque
from pathlib import Path

import pytest
from django.contrib.auth import get_user_model
from django.contrib.staticfiles.handlers import StaticFilesHandler
from playwright.sync_api import expect, sync_playwright

from bench.chromium import chromium as launched
from extendum.formats.document import loads
from extendum.web.classes import store

DATA = Path(__file__).parents[1] / "data"
SIZE = {"width": 1280, "height": 800}

expect.set_options(timeout=15_000)  # as the page's own: a busy machine is no failure


@pytest.fixture(scope="session")
def playwright():
    with sync_playwright() as playwright:
        yield playwright


@pytest.fixture(scope="session")
def chromium(playwright):
    browser = launched(playwright)
    yield browser
    browser.close()


@pytest.fixture(scope="session", autouse=True)
def as_one_window():
    """What the server of all tests gives to one browser window: files that are kept, as those of a real server are.

    An answer to what a page of an earlier test still sent, whose session is gone by then, signs nobody out.
    """
    serve, answer = StaticFilesHandler.serve, StaticFilesHandler.__call__

    def kept(self, request):
        file = serve(self, request)
        file["Cache-Control"] = "max-age=3600"
        return file

    def signing_nobody_out(self, environ, start_response):
        def start(status, headers, *more):
            passed = [(name, value) for name, value in headers if not value.startswith('sessionid="";')]
            return start_response(status, passed, *more)

        return answer(self, environ, start)

    StaticFilesHandler.serve, StaticFilesHandler.__call__ = kept, signing_nobody_out
    yield
    StaticFilesHandler.serve, StaticFilesHandler.__call__ = serve, answer


@pytest.fixture
def owner(transactional_db):
    return get_user_model().objects.create_user("ada", password="a long password", first_name="Ada")


class Window:
    """One browser window for all tests: scripts, styles and figures are fetched once, as by whoever comes again."""

    def __init__(self, browser, base):
        self.browser, self.base, self.context = browser, base, None
        self.asked = deque(maxlen=12)

    def opened(self):
        """A page with nothing stored.

        Less motion is asked for: figures that move at the screen's rate take a processor that other tests need.
        """
        self.context = self.context or self.browser.new_context(
            base_url=self.base, viewport=SIZE, reduced_motion="reduce"
        )
        page = self.context.new_page()
        self.asked.clear()
        page.on("response", lambda answer: self.asked.append(f"{answer.status} {answer.request.method} {answer.url}"))
        page.on("requestfailed", lambda asked: self.asked.append(f"{asked.failure} {asked.method} {asked.url}"))
        stored = self.context.new_cdp_session(page)
        everything = {"origin": self.base, "storageTypes": "cookies,local_storage,indexeddb"}
        stored.send("Storage.clearDataForOrigin", everything)
        return page

    def forget(self):
        """The next page is opened by somebody who was never here."""
        if self.context:
            self.context.close()
            self.context = None

    def leave(self, page):
        """Everything is closed; where the clock was set, it would be for later tests too."""
        if page.is_closed() or not page.evaluate("/native code/.test(setTimeout.toString())"):
            self.forget()
            return
        self.context.set_offline(False)
        for one in self.context.pages:
            one.close()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item, call):
    """With a failure stands what its page showed by then and had asked for last."""
    report = yield
    page, window = (item.funcargs.get(name) for name in ("page", "window"))
    if report.when == "call" and report.failed and page and not page.is_closed():
        focus = page.evaluate("document.activeElement.outerHTML.slice(0, 200)")
        notice = page.evaluate("document.getElementById('notice')?.innerText")
        told = [page.url, f"focus: {focus}", f"notice: {notice}", *window.asked]
        report.sections.append(("the page", "\n".join(told)))
    return report


@pytest.fixture(scope="session")
def window(chromium, live_server):
    return Window(chromium, live_server.url)


@pytest.fixture
def page(window, live_server, owner, client):
    """A page of 1280x800, signed in; errors in a script and breaches of the policy fail the test."""
    page = window.opened()
    page.set_default_timeout(15_000)
    errors = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.on("console", lambda m: errors.append(m.text) if "Content Security Policy" in m.text else None)
    client.force_login(owner)
    session = client.cookies["sessionid"].value
    page.context.add_cookies([{"name": "sessionid", "value": session, "url": live_server.url}])
    yield page
    window.leave(page)
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
