"""What is done on the Desk with keys, with the pointer, and from two windows."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_main_path import settled

pytestmark = pytest.mark.browser


def names(page):
    return page.locator(".row .name").all_inner_texts()


def test_keys_choose_change_move_lock_remove_and_undo(desk):
    page = desk
    before = names(page)
    for _ in range(6):
        page.keyboard.press("ArrowDown")
        settled(page)
    expect(page.locator("#item-name")).to_have_value("Wall calf stretch")
    for _ in range(3):
        page.keyboard.press("ArrowRight")  # three at once: each waits for the one before
    page.locator("#row-i6", has_text="50 s each side").wait_for()
    page.keyboard.press("Shift+ArrowLeft")
    page.locator("#row-i6", has_text="49 s each side").wait_for()
    page.keyboard.press("l")
    page.locator("#lock[aria-pressed=true]").wait_for()
    page.keyboard.press("Alt+ArrowDown")
    expect(page.locator(".row .name").nth(6)).to_have_text("Wall calf stretch")
    page.keyboard.press("Delete")
    expect(page.locator(".row")).to_have_count(15)
    page.keyboard.press("Escape")
    expect(page.locator("#desk")).to_have_attribute("data-item", "")
    for _ in range(8):
        page.keyboard.press("u")
        settled(page)
    assert names(page) == before
    page.locator("#row-i6", has_text="35 s each side").wait_for()
    page.keyboard.press("Control+Shift+z")
    page.locator("#row-i6", has_text="49 s each side").wait_for()


def test_the_sheet_chooses_the_item_and_tells_why(desk):
    page = desk
    page.hover("[id='seg-i6.2.1.switch'] .hit")
    assert page.inner_text("#why").endswith("changing sides 4.4 s, words 2.5 s")
    page.click("[id='seg-i8.1.1.hold'] .hit")
    expect(page.locator("#item-name")).to_have_value("Standing hip flexor stretch")
    assert page.locator("#row-i8[data-chosen]").count() == 1
    page.focus("[id='seg-i1.1.1.talk']")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    assert "Standing slow breathing, breaths" in page.inner_text("#why")
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Standing slow breathing")
    page.click("#row-i6 .name")
    expect(page.locator(".seg.chosen").nth(5)).to_be_attached()


def along(page, seconds):
    """How far so many seconds are on the band, in pixels."""
    return page.evaluate(
        """(seconds) => {
            const band = document.getElementById("band"), { ruler, wide } = band.dataset;
            return (seconds / ruler) * wide * (band.getBoundingClientRect().width / band.viewBox.baseVal.width);
        }""",
        seconds,
    )


def test_dragging_the_peg_fits_and_escape_takes_back(desk):
    page = desk
    box = page.locator("#peg").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + 12
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - along(page, 120), y, steps=4)
    assert page.input_value("#target") == "10:00"
    page.keyboard.press("Escape")
    page.mouse.up()
    assert page.input_value("#target") == "12:00"
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - along(page, 120), y, steps=4)
    page.mouse.up()
    expect(page.locator("#length")).to_have_text("10:00")
    page.focus("#peg")
    page.keyboard.press("PageUp")
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    expect(page.locator("#length")).to_have_text("11:04")


def test_enter_pressed_before_the_answer_adds_what_was_typed(desk):
    page = desk
    page.keyboard.press("a")
    expect(page.locator("#found [data-move]").first).to_be_visible()  # what is found for nothing typed
    page.keyboard.type("chest")
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Clasped-hands chest opener")
    expect(page.locator(".row")).to_have_count(17)


def test_out_of_reach_says_so_and_offers_the_nearest(desk):
    page = desk
    page.fill("#target", "45:00")
    page.keyboard.press("Enter")
    page.locator("#notice", has_text="45:00 cannot be reached").wait_for()
    assert page.input_value("#target") == "45:00"
    assert page.inner_text("#length").strip() == "12:00"
    page.click("text=Fit to 17:26")
    expect(page.locator("#length")).to_have_text("17:26")
    assert page.inner_text("#notice") == ""


def test_reordering_by_drag(desk):
    page = desk
    page.drag_and_drop("#row-i7", "#row-i6", target_position={"x": 80, "y": 4})
    expect(page.locator(".row .name").nth(5)).to_have_text("Bent-knee calf stretch")


def test_wrong_words_are_refused_and_stay_in_their_field(desk):
    page = desk
    page.click("#row-i6 .name")
    page.fill("#words-there", "Lean on the {sdie} wall.")
    page.press("#words-there", "Tab")
    page.locator("#notice", has_text="placeholders are among").wait_for()
    assert page.input_value("#words-there") == "Lean on the {sdie} wall."
    page.fill("#words-there", "Lean on the wall with the {side} foot heavy, and then a good deal more to say.")
    page.press("#words-there", "Tab")
    page.locator("#words", has_text="6.5 s").wait_for()


def test_two_windows_the_older_is_told_and_loses_nothing(desk, digging):
    page = desk
    page.click("#row-i6 .name")
    page.wait_for_selector("#item-name")
    other = page.context.new_page()
    other.goto(f"/classes/{digging.pk}/?item=i7")
    other.keyboard.press("ArrowRight")
    other.locator("#row-i7", has_text="25 s each side").wait_for()
    page.fill("#item-name", "Wall lean")
    page.press("#item-name", "Tab")
    page.locator("#notice", has_text="changed in the meantime").wait_for()
    assert "Bent-knee calf stretch: 25 s each side" in page.inner_text("#notice")
    assert page.input_value("#item-name") == "Wall lean"
    page.click("text=Apply my change to the newer version")
    page.locator("#row-i6", has_text="Wall lean").wait_for()
    assert "25 s each side" in page.inner_text("#row-i7")


def test_another_move_takes_the_place_of_one(desk):
    page = desk
    page.click("#row-i6 .name")
    settled(page)
    page.keyboard.press("Shift+R")
    dialog = page.locator("#stand-ins[open]")
    expect(dialog.locator("h2")).to_have_text("Instead of Wall calf stretch")
    other = dialog.locator("li strong").first.inner_text()
    dialog.locator("#stand-in-1").click()
    expect(page.locator("#row-i6 .name")).to_have_text(other)
    expect(dialog).to_be_hidden()


def test_every_step_can_be_gone_back_to(desk):
    page = desk
    page.keyboard.press("t")
    expect(page.locator("#words-talk")).to_be_focused()
    page.keyboard.press("Escape")
    page.keyboard.press("h")
    page.click("#steps >> text=Go there")
    expect(page.locator(".row")).to_have_count(16)


def test_the_server_gone_says_so_and_keeps_what_was_typed(desk):
    page = desk
    page.click("#row-i6 .name")
    page.wait_for_selector("#item-name")
    page.route("**/edit/", lambda route: route.abort())
    page.fill("#item-name", "Wall lean")
    page.press("#item-name", "Tab")
    page.locator("#notice", has_text="server does not answer").wait_for()
    assert page.input_value("#item-name") == "Wall lean"
