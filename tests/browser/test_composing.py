"""From the brief to a class of six moves: by suggestions, a set, typing, a swap, and a move of one's own."""

import pytest
from playwright.sync_api import expect

from extendum.core.moves.suggest import missing_areas
from extendum.formats.library import shipped_move
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from tests.browser.test_main_path import settled

pytestmark = pytest.mark.browser


def names(page):
    return page.locator(".row .name").all_inner_texts()


def test_from_the_brief_to_six_moves_that_keep_to_it(page):
    page.goto("/")
    page.keyboard.press("n")
    page.keyboard.type("Chairs on Thursday")
    page.keyboard.press("Enter")
    page.click("text=Older adults on chairs")
    expect(page.locator("#brief-wpm")).to_have_value("145")
    for area in ("neck", "calf", "deep hip"):
        page.locator(".areas-chips .chip", has_text=area).first.click()
    page.locator(".props .chip", has_text="chair").first.click()
    page.locator(".chip", has_text="hip replacement").click()
    page.keyboard.press("Control+Enter")
    expect(page.locator(".reached")).to_contain_text("missing: neck, deep hip, calf")

    # Three by suggestion: each is the first of what could come next, with its reasons.
    page.keyboard.press("a")
    for rows in (2, 3, 4):
        expect(page.locator("#found [aria-selected=true] .found-why").first).to_be_visible()
        page.keyboard.press("Enter")
        expect(page.locator(".row")).to_have_count(rows)
        settled(page)
    expect(page.locator(".reached")).to_contain_text("every area reached")

    # One by typing, one that does not keep to the brief and is swapped for one that does, one as a set's.
    page.keyboard.type("prayer")
    expect(page.locator("#found [aria-selected=true]")).to_contain_text("Prayer stretch")
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Prayer stretch")
    settled(page)
    page.keyboard.type("lying hamstring")
    page.locator("#found [data-for='lying hamstring']").wait_for()  # what is found for less of it goes away
    ruled_out = page.locator("#found [data-move] .against").first
    expect(ruled_out).to_contain_text("supine is not in the brief's postures")
    page.keyboard.press("Enter")  # nothing is chosen that the brief rules out
    expect(ruled_out).to_be_visible()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator("#panel")).to_contain_text("Against the brief: supine")
    page.keyboard.press("Escape")
    page.locator(".swaps button", has_text="Seated hamstring stretch").click()
    expect(page.locator("#item-name")).to_have_value("Seated hamstring stretch")
    expect(page.locator("#panel")).not_to_contain_text("Against the brief")
    page.keyboard.press("u")
    expect(page.locator("#item-name")).to_have_value("Lying hamstring stretch")
    page.keyboard.press("Delete")
    expect(page.locator(".row")).to_have_count(5)
    page.keyboard.press("a")
    page.keyboard.type("settle on a chair")
    page.locator("#set-close-seated").click()
    expect(page.locator(".row")).to_have_count(8)
    of = StretchClass.objects.get()
    script = store.script_of(of.head)
    assert missing_areas(script) == ()
    assert {item.move.posture.value for item in script.moves()} <= {"on a chair", "chair's edge", "standing"}
    assert not any(c.leave_out and c.condition == "hip replacement" for i in script.moves() for c in i.move.cautions)
    assert len(script.moves()) >= 6
    page.click("#to-brief")
    expect(page.locator(".chip", has_text="hip replacement").locator("input")).to_be_checked()


def test_a_missing_area_looks_for_itself(desk, digging):
    page = desk
    page.click("#to-brief")
    page.locator(".areas-chips .chip", has_text="jaw").click()
    page.click("#to-desk")
    page.click(".reached .area >> text=jaw")
    expect(page.locator("#found [aria-selected=true]")).to_contain_text("Jaw")


def test_a_brief_that_is_refused_keeps_what_was_chosen(desk):
    page = desk
    page.click("#to-brief")
    page.locator(".chip", has_text="glaucoma").click()
    page.fill("#brief-length", "soon")
    page.click("#to-desk")
    page.locator("#notice", has_text="length: must be").wait_for()
    expect(page.locator(".chip", has_text="glaucoma").locator("input")).to_be_checked()
    assert page.input_value("#brief-length") == "soon"


def test_a_move_of_ones_own_is_written_found_used_and_its_newer_form_offered(desk, digging):
    page = desk
    page.goto("/moves/")
    page.keyboard.press("/")
    page.keyboard.type("calf")
    expect(page.locator("#map")).to_contain_text("Wall calf stretch")
    expect(page.locator("#map a", has_text="Chin tuck")).to_have_count(0)
    page.click("#map >> text=/^Wall calf stretch$/")
    page.locator("h1", has_text="Wall calf stretch").wait_for()
    page.keyboard.press("e")
    page.fill("#move-name", "Fence lean")
    page.fill("#text-release", "Come away from the {fence}.")
    page.keyboard.press("Control+Enter")
    page.locator("#notice", has_text="placeholders are among").wait_for()
    assert page.input_value("#text-release") == "Come away from the {fence}."
    page.fill("#text-release", "Come away from the fence.")
    page.keyboard.press("Control+Enter")
    page.locator("h1", has_text="Fence lean").wait_for()

    page.goto(f"/classes/{digging.pk}/")
    page.keyboard.press("a")
    page.keyboard.type("fence")
    expect(page.locator("#found [aria-selected=true]")).to_contain_text("Fence lean")
    page.keyboard.press("Enter")
    expect(page.locator("#words-release")).to_have_value("Come away from the fence.")
    item = page.locator("#desk").get_attribute("data-item")
    page.goto("/moves/calf-lean/edit/")
    page.fill("#text-release", "Step away.")
    page.click("#keep")
    page.locator("#edit").wait_for()
    page.goto(f"/classes/{digging.pk}/?item={item}")
    page.click("#see-newer")
    expect(page.locator("#newer")).to_contain_text("Step away.")
    page.click("#newer >> text=Use what is ticked")
    expect(page.locator("#words-release")).to_have_value("Step away.")
    expect(page.locator("#see-newer")).to_have_count(0)
    assert shipped_move("calf-lean").words.release == "Step in and stand on both feet."


def test_a_refusal_is_marked_at_its_field_until_it_is_mended(page, digging):
    page.goto(f"/classes/{digging.pk}/brief/")
    length = page.locator("#brief-length")
    length.fill("soon")
    page.focus("[name=notes]")
    page.keyboard.press("Control+Enter")
    expect(page.locator("#notice-text")).to_contain_text("found soon")
    expect(length).to_have_attribute("aria-invalid", "true")
    expect(length).to_have_attribute("aria-describedby", "notice-text")
    expect(length).to_be_focused()
    length.fill("12:00")
    expect(length).not_to_have_attribute("aria-invalid", "true")
    page.goto("/moves/new/")
    page.fill("#move-name", "Gate swings")
    page.keyboard.press("Control+Enter")
    expect(page.locator("#notice-text")).to_contain_text("at least one area")
    expect(page.locator("[name=target_0_region]")).to_be_focused()
    expect(page.locator("#move-name")).to_have_value("Gate swings")


def test_from_a_name_to_a_class_that_was_proposed(page, owner):
    page.goto("/")
    page.keyboard.press("n")
    page.keyboard.type("For the neck")
    page.fill("[name=length]", "6:00")
    page.keyboard.press("Enter")
    page.click("text=Older adults on chairs")
    page.locator("#brief-wpm[value='145']").wait_for()
    page.click(".chip:has-text('neck') >> nth=0")
    page.keyboard.press("q")
    page.locator("#take-1").wait_for()
    page.locator("#take-3").wait_for(timeout=60_000)
    page.keyboard.press("2")
    expect(page.locator("#off-target")).to_have_text("to the second")
    expect(page.locator("#length")).to_have_text("6:00")
    page.keyboard.press("u")
    expect(page.locator(".row .name")).to_have_text(["Closing quiet"])
