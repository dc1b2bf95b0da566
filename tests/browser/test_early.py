"""What is done while a page or an answer is still on its way is neither lost nor done twice."""

from contextlib import contextmanager

import pytest
from playwright.sync_api import expect

from extendum.core.edit.script_edits import new_script
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass

pytestmark = pytest.mark.browser


@pytest.fixture(autouse=True)
def nothing_is_here_yet(window):
    """Scripts that a browser has kept come at once: here they must be asked for, so that they can be late."""
    window.forget()


@contextmanager
def held_back(page, pattern, method="GET"):
    """One request is answered when the block ends; what the block is given waits until it was sent."""
    held = []

    def hold(route):
        if held or route.request.method != method:
            route.continue_()
        else:
            held.append(route)

    def sent():
        while not held:
            page.evaluate("0")

    page.route(pattern, hold)
    yield sent
    sent()
    held[0].continue_()


@contextmanager
def without(page, script, address, seen):
    """The page as it is seen while one of its scripts has not come yet; it comes when the block ends."""
    with held_back(page, f"**/{script}*.js"):
        page.goto(address, wait_until="commit")
        page.locator(seen).first.wait_for()
        yield


@pytest.mark.parametrize("script", ["htmx", "desk/main", "page"])
def test_moves_are_added_by_keys_that_came_before_the_page_was_ready(page, owner, script):
    made = store.create(owner, new_script("Early", 600), "Made")
    with without(page, script, f"/classes/{made.pk}/", "text=Add the first move."):
        page.keyboard.press("a")
        page.keyboard.type("calf lean")
        page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Wall calf stretch")
    expect(page.locator(".row .name")).to_have_text(["Wall calf stretch", "Closing quiet"])


def test_each_key_name_and_click_before_the_page_is_ready_counts_once(page, digging):
    with without(page, "page", f"/classes/{digging.pk}/?item=i6", "#row-i6"):
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowRight")
        page.fill("#item-name", "Wall lean")
        page.keyboard.press("Tab")
        page.click("#open-table")
    expect(page.locator("#row-i6")).to_contain_text("45 s each side")
    expect(page.locator("#row-i6 .name")).to_have_text("Wall lean")
    expect(page.locator("#table")).to_be_visible()


def test_a_form_that_a_key_opens_is_filled_in_by_keys_that_came_before_it(page, owner):
    with without(page, "shelf", "/", "text=Extendum"):
        page.keyboard.press("n")
        page.keyboard.type("Lunch")
        page.keyboard.press("Tab")
        page.keyboard.type("3:30")
        page.keyboard.press("Tab")
        page.keyboard.press("Shift+Tab")
    expect(page.locator("#new-title")).to_have_value("Lunch")
    expect(page.locator("[name=length]")).to_have_value("3:30")
    expect(page.locator("[name=length]")).to_be_focused()


def test_what_was_typed_into_the_adder_is_looked_for(page, digging):
    with without(page, "htmx", f"/classes/{digging.pk}/", "#row-i6"):
        page.click("#add")
        page.keyboard.type("jaw")
    expect(page.locator("#found [aria-selected=true]")).to_contain_text("Jaw")


@pytest.mark.parametrize("script", ["htmx", "brief"])
def test_a_profile_and_the_key_that_keeps_the_brief_are_taken_up(page, digging, script):
    with without(page, script, f"/classes/{digging.pk}/brief/", "#brief-form"):
        page.click("text=Older adults on chairs")
        page.keyboard.press("Control+Enter")
    page.locator("#order-list").wait_for()
    kept = store.script_of(StretchClass.objects.get().head)
    assert (kept.brief.audience, kept.style.words_per_minute) == ("Older adults on chairs", 145)


def test_what_is_ticked_while_a_profile_comes_stays_and_the_brief_waits_for_it(page, digging):
    page.goto(f"/classes/{digging.pk}/brief/")
    page.fill("#brief-wpm", "200")  # the profile is chosen after it, and has its own
    with held_back(page, "**/brief/", "POST") as sent:
        page.click("text=Older adults on chairs")
        sent()
        page.locator(".areas-chips .chip", has_text="jaw").click()
        page.fill("#brief-group", "Chairs on Thursday")
        page.keyboard.press("Control+Enter")
    page.locator("#order-list").wait_for()
    kept = store.script_of(StretchClass.objects.get().head)
    assert (kept.brief.audience, kept.style.words_per_minute) == ("Older adults on chairs", 145)
    assert "jaw" in {area.value for area in kept.brief.areas} and kept.brief.group == "Chairs on Thursday"


def test_a_press_on_what_is_found_holds_though_the_list_comes_again_meanwhile(desk):
    page = desk
    rows = page.locator(".row").count()
    page.keyboard.press("a")
    page.keyboard.type("jaw")
    found = page.locator("#found [aria-selected=true]")
    expect(found).to_contain_text("Jaw")
    with held_back(page, "**/found/**") as sent:
        page.keyboard.type(" ")
        page.keyboard.type("s")
        sent()
        box = found.bounding_box()
        page.mouse.move(box["x"] + 20, box["y"] + 10)
        page.mouse.down()
    page.locator("#found [data-for='jaw s']").wait_for()
    page.mouse.up()
    expect(page.locator(".row")).to_have_count(rows + 1)


SHIFTS = "new PerformanceObserver((all) => all.getEntries().forEach((one) => { moved += one.value; }))"
DRAWN = "new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => requestIdleCallback(done))))"


def test_next_to_nothing_moves_when_the_fonts_come_late(page, digging):
    page.add_init_script(f"window.moved = 0; {SHIFTS}.observe({{ type: 'layout-shift', buffered: true }});")
    held = []
    page.route("**/fonts/*", lambda route: held.append(route))
    page.goto(f"/classes/{digging.pk}/", wait_until="domcontentloaded")
    page.evaluate(f"{DRAWN}.then(() => null)")
    assert len(held) == 2
    for route in held:
        route.continue_()
    page.evaluate(f"document.fonts.ready.then(() => {DRAWN}).then(() => null)")
    assert page.evaluate("document.fonts.check('16px \"Source Sans\"')")
    assert page.evaluate("moved") < 0.002
