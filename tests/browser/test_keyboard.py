"""The whole main path with the keyboard alone, and the tour."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_main_path import add, settled

pytestmark = pytest.mark.browser


def tab_to(page, selector, most=80):
    """Press Tab until this has the focus; every stop on the way must be seen to have it."""
    for _ in range(most):
        page.keyboard.press("Tab")
        seen = page.evaluate(
            """() => { const it = document.activeElement, box = it.getBoundingClientRect(), look = getComputedStyle(it);
                 const there = box.width > 0 && box.right > 0 && box.bottom > 0;
                 const shown = look.outlineStyle !== "none" || it.closest(".choice, .chip, .profile, label");
                 return it === document.body || (there && Boolean(shown)); }"""
        )
        assert seen, page.evaluate("document.activeElement.outerHTML.slice(0, 200)")
        if page.evaluate("selector => document.activeElement.matches(selector)", selector):
            return
    raise AssertionError(f"{selector} is not reached by {most} tabs")


def test_from_signing_in_to_the_logbook_without_a_mouse(page):
    page.context.clear_cookies()
    page.goto("/")
    page.locator("input[name=username]:focus").wait_for()
    page.keyboard.type("ada")
    page.keyboard.press("Tab")
    page.keyboard.type("a long password")
    page.keyboard.press("Enter")
    page.locator("text=The shelf is empty").wait_for()
    page.keyboard.press("n")
    page.keyboard.type("Lunch")
    page.keyboard.press("Tab")
    page.keyboard.type("3:30")
    page.keyboard.press("Enter")
    page.wait_for_selector("#brief-form")
    tab_to(page, "[name=profile], .profile, .profile *")
    page.keyboard.press("Enter")
    settled(page)
    page.keyboard.press("Control+Enter")
    page.wait_for_selector("#order-list")
    page.keyboard.press("a")
    for typed, name in {
        "shoulder circ": "Shoulder rolls",
        "calf lean": "Wall calf stretch",
        "chest op": "Clasped-hands chest opener",
    }.items():
        add(page, typed, name)
    page.keyboard.press("Escape")
    page.keyboard.press("ArrowUp")
    settled(page)
    page.keyboard.press("ArrowRight")  # five seconds longer
    settled(page)
    page.keyboard.press("f")
    page.keyboard.press("Enter")
    page.locator("#off-target", has_text="to the second").wait_for()
    page.keyboard.press("Escape")
    page.keyboard.press("c")
    page.wait_for_selector("#checks-view")
    page.keyboard.press("Escape")
    page.wait_for_selector("#order-list")
    page.keyboard.press("w")
    page.wait_for_selector("#words-view")
    page.keyboard.press("Escape")
    page.wait_for_selector("#order-list")
    page.keyboard.press("g")
    expect(page.locator("#start")).to_be_enabled()
    page.keyboard.press(" ")
    expect(page.locator("#pause-word")).to_have_text("Pause")
    page.keyboard.press("?")
    expect(page.locator("#help")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("#help")).to_be_hidden()
    expect(page.locator("#ask")).to_be_hidden()  # the same press does not leave the class
    for _ in range(60):
        if page.locator("#after").is_visible():
            break
        page.keyboard.press("n")
    page.locator("text=That was the class.").wait_for()
    page.locator(".facts").wait_for()
    tab_to(page, "a[href='/']")
    page.keyboard.press("Enter")
    page.wait_for_selector(".shelf")
    tab_to(page, "a[href='/logbook/']")
    page.keyboard.press("Enter")
    expect(page.locator("main")).to_contain_text("Lunch")


def test_a_length_out_of_reach_is_answered_with_the_keyboard(page, digging):
    page.goto(f"/classes/{digging.pk}/")
    page.keyboard.press("f")
    page.keyboard.type("18:00")
    page.keyboard.press("Enter")
    offers = page.locator("#notice button")
    expect(offers.first).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(offers.last).to_be_focused()
    page.keyboard.press("Escape")
    expect(offers).to_have_count(0)
    expect(page.locator("#target")).to_be_focused()
    assert page.input_value("#target") == "18:00"
    page.keyboard.press("Enter")
    expect(offers.first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("#length")).to_have_text("18:00")


def test_the_tour_goes_on_when_what_it_asks_for_is_done(page):
    page.goto("/")
    page.click("#take-tour")
    tour, step = page.locator("#tour"), page.locator("#tour section:visible")
    expect(step).to_contain_text("This is one class")
    page.keyboard.press(".")
    page.keyboard.press(".")
    expect(step).to_contain_text("Fit it to ten minutes")
    page.keyboard.press("f")
    page.keyboard.type("10:00")
    page.keyboard.press("Enter")
    expect(step).to_contain_text("Add what comes next")
    page.locator("#target").blur()
    page.keyboard.press("a")
    page.locator("#found [data-move]").first.wait_for()
    page.keyboard.press("Enter")
    expect(step).to_contain_text("Nothing is lost")
    settled(page)
    page.reload()
    expect(step).to_contain_text("Nothing is lost")
    page.keyboard.press("u")
    expect(step).to_contain_text("Checked while you write")
    box, ring = tour.bounding_box(), page.locator("#tour-ring").bounding_box()
    assert box["x"] >= ring["x"] + ring["width"] or box["y"] >= ring["y"] + ring["height"]
    page.keyboard.press(".")
    with page.expect_response("**/tour/"):
        page.keyboard.press(".")
    expect(tour).to_be_hidden()
    page.reload()
    expect(page.locator("#desk")).to_be_visible()
    expect(tour).to_have_count(0)
