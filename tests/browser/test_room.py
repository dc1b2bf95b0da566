"""Stage, Room and clicker together: the screen follows, the clicker's keys are done, and all know when it is over."""

import re

import pytest
from django.db.models import F
from django.urls import reverse
from playwright.sync_api import expect

from extendum.web.records.models import Session
from extendum.web.teach.models import Link, LiveRun

pytestmark = pytest.mark.browser
TO_THE_FIRST_HOLD = (
    "Standing slow breathing",
    "Shoulder rolls",
    "Standing trunk rotations",
    "Hip hinge",
    "Wall calf stretch",
)
BOTH = "() => document.getElementById('count').textContent"


def opened(page, base, owner, kind, wide, high):
    """A page of somebody without an account, by the code."""
    link = Link.objects.create(owner=owner, kind=kind, name="Mine", easier=True)
    size = {"width": wide, "height": high}
    other = page.context.browser.new_context(base_url=base, viewport=size, reduced_motion="reduce")
    found = other.new_page()
    found.set_default_timeout(15_000)
    found.goto(reverse(kind, args=[link.code]))
    return link, found


def to_the_first_hold(page):
    for name in TO_THE_FIRST_HOLD:
        page.keyboard.press("n")
        expect(page.locator("#name")).to_have_text(name)


def test_the_room_follows_and_the_clicker_is_done(page, live_server, digging, owner):
    link, clicker = opened(page, live_server.url, owner, "clicker", 390, 780)
    _, room = opened(page, live_server.url, owner, "room", 1280, 800)
    expect(room.locator("#room-waits")).to_contain_text("begins soon")
    expect(clicker.locator("#waits")).to_be_visible()
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    page.keyboard.press(" ")
    expect(room.locator("#name")).to_have_text("Welcome")
    expect(clicker.locator("#name")).to_have_text("Welcome")
    to_the_first_hold(page)
    expect(room.locator("#name")).to_have_text(TO_THE_FIRST_HOLD[-1])
    expect(clicker.locator("#go-word")).to_have_text("They are in")
    clicker.click("[data-press=go]")
    expect(page.locator("#phase")).to_have_text("hold")
    expect(room.locator("#phase")).to_have_text("stay")
    assert room.locator("#side").inner_text() == "← left"
    assert abs(int(page.evaluate(BOTH)) - int(room.evaluate(BOTH))) <= 1
    expect(room.locator("#words")).to_have_count(0)
    clicker.click("[data-press=longer]")
    expect(page.locator("#count")).to_have_text(re.compile(r"4\d"))  # of 35 s and 10 more
    clicker.keyboard.press(" ")
    expect(page.locator("#phase")).to_have_text("paused")
    expect(room.locator("#phase")).to_have_text("a moment")
    clicker.click("[data-press=pause]")
    expect(page.locator("#phase")).to_have_text("hold")
    # A reload of either screen comes back to the same second.
    room.reload()
    expect(room.locator("#phase")).to_have_text("stay")
    assert abs(int(page.evaluate(BOTH)) - int(room.evaluate(BOTH))) <= 1
    page.keyboard.press("Escape")
    page.keyboard.press("e")
    expect(page.locator("#learned .facts")).to_contain_text("instead of 12:00")
    expect(room.locator("#room-over")).to_be_visible()
    expect(clicker.locator("#over")).to_be_visible()
    # Four minutes later it waits for the next class.
    LiveRun.objects.update(clock_off=F("clock_off") - 4 * 60 * 1000)
    room.reload()
    expect(room.locator("#room-waits")).to_be_visible()
    expect(room.locator("#room-waits")).to_contain_text("The class begins soon.")
    page.fill("input[name=text]", "Chairs out first")
    page.click("text=Add note")
    expect(page.locator("#next-times")).to_contain_text("Chairs out first")
    assert Session.objects.get().run.events.filter(kind="longer").count() == 1
    Link.objects.filter(pk=link.pk).update(revoked_at=link.made_at)
    expect(clicker.locator("#gone")).to_be_visible()
    for other in (room, clicker):
        other.context.close()
