"""Figures in use: the mirrored one on the second side of the Stage, moving with the timeline, and on hover."""

import pytest
from playwright.sync_api import expect

from tests.browser.test_main_path import pass_time

pytestmark = pytest.mark.browser


def start(page, pk):
    page.goto(f"/classes/{pk}/stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.install()
    page.goto(f"/classes/{pk}/stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.pause_at(page.evaluate("Date.now()") + 1000)
    page.keyboard.press(" ")


def letter(page):
    """How far the letter of the side is from the middle of the picture, to the right."""
    left, _, wide, _ = (float(n) for n in page.locator("#figure svg").get_attribute("viewBox").split())
    return float(page.locator("#figure .fig-tag").get_attribute("cx")) - left - wide / 2


def outline(page):
    return page.locator("#figure .fig-limb").first.get_attribute("d")


def test_the_second_side_shows_the_mirrored_figure(page, digging):
    start(page, digging.pk)
    pass_time(page, 210)  # in the hold on the left of the calf lean
    expect(page.locator("#name")).to_have_text("Calf lean")
    expect(page.locator("#side")).to_contain_text("left")
    expect(page.locator("#figure .fig-letter")).to_have_text("L")
    expect(page.locator("#next-figure .fig-letter")).to_have_text("R")
    first, left = letter(page), outline(page)
    pass_time(page, 30)
    expect(page.locator("#side")).to_contain_text("right")
    expect(page.locator("#figure .fig-letter")).to_have_text("R")
    assert outline(page) != left
    assert abs(letter(page) + first) < 2
    expect(page.locator("#figure svg")).to_have_attribute(
        "aria-label",
        "Calf lean: lunge, standing, picture from the side, with wall, the stretch is marked at calf, right side",
    )


def test_reps_move_the_figure_with_the_beat_and_stand_still_where_less_motion_is_asked_for(page, digging):
    start(page, digging.pk)
    pass_time(page, 70)
    expect(page.locator("#name")).to_have_text("Shoulder circles")
    seen = set()
    for _ in range(6):
        pass_time(page, 1)
        seen.add(page.locator("#figure .frame.on").last.get_attribute("data-frame"))
    assert len(seen) > 1
    page.emulate_media(reduced_motion="reduce")
    pass_time(page, 1)
    for _ in range(4):
        pass_time(page, 1)
        assert page.locator("#figure .frame.on").last.get_attribute("data-frame") == "0"


def test_pointing_at_the_sheet_shows_the_figure_of_that_side(desk):
    desk.locator("#sheet .seg.s-right[data-item=i6]").first.hover()
    picture = desk.locator("#sheet-figure")
    expect(picture).to_be_visible()
    expect(picture).to_have_attribute("src", "/moves/calf-lean/figure.svg?side=right")
    desk.locator("#sheet .seg.k-talk").first.hover()
    expect(picture).to_be_hidden()
