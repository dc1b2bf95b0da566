"""A chair class for older adults: a floor move is found, swapped for its alternative, and nothing is left to fix."""

import pytest
from playwright.sync_api import expect

from extendum.core.checks.finding import Severity
from extendum.core.checks.report import check
from extendum.core.timing.compile import compile_script
from extendum.formats.library import shipped_moves
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from tests.browser.test_main_path import settled

pytestmark = pytest.mark.browser


def add(page, words, name):
    page.keyboard.press("a")
    page.keyboard.type(words)
    expect(page.locator("#found [aria-selected=true]")).to_contain_text(name)
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value(name)
    settled(page)
    page.keyboard.press("Escape")


def test_a_floor_move_in_a_chair_class_is_found_swapped_and_nothing_is_left_to_fix(page):
    page.goto("/")
    page.keyboard.press("n")
    page.keyboard.type("Chairs on Thursday")
    page.keyboard.press("Enter")
    page.click("text=Older adults on chairs")
    expect(page.locator("#brief-wpm")).to_have_value("145")
    page.fill("#brief-length", "5:00")
    page.locator(".props .chip", has_text="chair").first.click()
    page.keyboard.press("Control+Enter")
    expect(page.locator("#desk")).to_be_visible()
    for words, name in (
        ("slow breaths seated", "Seated slow breathing"),
        ("shoulder lift", "Shoulder shrugs"),
        ("seated hamstring", "Seated hamstring stretch"),
    ):
        add(page, words, name)
    page.keyboard.press("a")
    page.keyboard.type("lying hamstring")
    page.locator("#found [data-for='lying hamstring'] .against").first.wait_for()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Lying hamstring stretch")
    settled(page)
    page.keyboard.press("Escape")

    # On the Desk: a mark at its place, in its row, and a count in the line.
    row = page.locator(".row", has_text="Lying hamstring stretch")
    expect(row.locator(".flag.f-fix")).to_be_visible()
    expect(page.locator(".sheet .flag.f-fix").first).to_be_visible()
    expect(page.locator("#to-checks")).to_contain_text("to fix")
    page.keyboard.press("c")

    # The alternative, with one click; then everything else that an edit can mend, the weightiest first.
    found = page.locator(".finding", has_text="is not in the brief")
    expect(found).to_contain_text("Lying hamstring stretch")
    expect(found.locator(".will")).to_contain_text("takes the place of Lying hamstring stretch. The class becomes")
    page.locator(".body-picture a[data-area]").first.dispatch_event("click")
    expect(page.locator(".area-about h3")).to_be_visible()
    expect(found.locator(".will")).to_contain_text("takes the place of Lying hamstring stretch. The class becomes")
    found.locator(".mend").click()
    expect(found).to_have_count(0)
    while page.locator("h2.severity", has_text="To fix").count():
        first = page.locator(".finding").first
        told = first.get_attribute("id")
        first.locator(".mend").click()
        expect(page.locator(f'[id="{told}"]')).to_have_count(0)
    expect(page.locator(".severity").first).to_contain_text("To consider")

    # One is kept, with a reason.
    kept = page.locator(".finding").first
    kept.locator(".keeping summary").click()
    page.keyboard.type("we do it together")
    page.keyboard.press("Enter")
    expect(page.locator(".finding.kept")).to_contain_text("Kept, because: we do it together")

    script = store.script_of(StretchClass.objects.get().head)
    report = check(script, compile_script(script), shipped_moves())
    assert report.of(Severity.FIX) == ()
    assert len(report.kept) == 1
    assert "Lying hamstring stretch" not in [item.name for item in script.moves()]


def test_the_words_of_a_remedy_that_come_late_move_nothing_that_is_being_pressed(page):
    page.goto("/")
    page.fill("#new-title", "Late")
    page.keyboard.press("Enter")
    page.click("#skip")
    page.wait_for_selector("text=Add the first move.")
    late = []
    page.route("**/remedy/**", lambda route: late.append(route))
    with page.expect_request("**/remedy/**"):
        add(page, "upper back reach", "Standing upper back stretch")
    top = page.locator("#add-stage").bounding_box()["y"]
    for one in late:
        one.continue_()
    expect(page.locator("#panel .will")).to_contain_text("Standing upper back stretch")
    assert page.locator("#add-stage").bounding_box()["y"] == pytest.approx(top, abs=0.5)


def test_the_body_picture_answers_a_click_with_moves_and_offers(page, digging):
    page.goto(f"/classes/{digging.pk}/checks/")
    page.locator('.body-picture a[data-area="chest"]').first.focus()
    page.keyboard.press("Enter")
    about = page.locator(".area-about")
    expect(about).to_contain_text("Chest")
    expect(about).to_contain_text("25 s each side")
    before = len(store.script_of(StretchClass.objects.get().head).moves())
    about.locator("button[data-do=add]").first.click()
    expect(about.locator(".area-items li")).to_have_count(2)
    page.keyboard.press("u")
    expect(about.locator(".area-items li")).to_have_count(1)
    assert len(store.script_of(StretchClass.objects.get().head).moves()) == before
    page.locator(".choice a", has_text="mobilise").click()
    expect(page.locator(".choice a.on")).to_have_text("mobilise")
    page.keyboard.press("Escape")
    expect(page.locator("#desk")).to_be_visible()
