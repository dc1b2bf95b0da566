"""Figures in use: the mirrored one on the second side of the Stage, moving with the timeline, and on hover."""

import re

import pytest
from playwright.sync_api import expect

from tests.browser.test_main_path import pass_time

pytestmark = pytest.mark.browser


@pytest.fixture
def page(page):
    """A page on which figures move."""
    page.emulate_media(reduced_motion="no-preference")
    return page


def start(page, pk):
    page.goto(f"/classes/{pk}/stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.install()
    page.goto(f"/classes/{pk}/stage/")
    page.locator("#start:enabled").wait_for()
    page.clock.pause_at(page.evaluate("Date.now()") + 1000)
    page.keyboard.press(" ")


def canvas(page, where="#figure"):
    return page.locator(f"{where} canvas")


def at(page):
    """The moment of its movement that the figure shows."""
    return float(canvas(page).get_attribute("data-at"))


def letter_is_left(page, where="#figure"):
    """Whether the ring of the letter is on the left half of the picture."""
    holder = page.locator(f"{where} .live")
    data = page.evaluate("async (address) => (await fetch(address)).json()", holder.get_attribute("data-figure"))
    return (data["letter"][0] < data["units"] / 2) != (holder.get_attribute("data-flip") == "yes")


def picture(page):
    return page.evaluate("document.querySelector('#figure canvas').toDataURL()")


def test_the_second_side_shows_the_mirrored_figure(page, digging):
    start(page, digging.pk)
    pass_time(page, 210)  # in the hold on the left of the calf lean
    expect(page.locator("#name")).to_have_text("Wall calf stretch")
    expect(page.locator("#side")).to_contain_text("left")
    expect(page.locator("#figure .live")).to_have_attribute("data-sign", "L")
    expect(page.locator("#next-figure .live")).to_have_attribute("data-sign", "R")
    canvas(page).wait_for()
    first, left = picture(page), letter_is_left(page)
    pass_time(page, 30)
    expect(page.locator("#side")).to_contain_text("right")
    expect(page.locator("#figure .live")).to_have_attribute("data-sign", "R")
    canvas(page).wait_for()
    assert picture(page) != first
    assert left
    assert not letter_is_left(page)
    expect(page.locator("#figure .live")).to_have_attribute(
        "aria-label",
        "Wall calf stretch: lunge, standing, picture from the side, with wall, "
        "the stretch is marked at calf, right side",
    )


def test_reps_move_the_figure_with_the_beat_and_stand_still_where_less_motion_is_asked_for(page, digging):
    start(page, digging.pk)
    pass_time(page, 70)
    expect(page.locator("#name")).to_have_text("Shoulder rolls")
    canvas(page).wait_for()
    seen = set()
    for _ in range(6):
        pass_time(page, 0.5)
        seen.add(at(page))
    assert len(seen) > 3
    page.emulate_media(reduced_motion="reduce")
    pass_time(page, 1)
    for _ in range(4):
        pass_time(page, 0.5)
        assert at(page) == 0


def test_in_a_hold_the_body_breathes_and_nothing_else_moves(page, digging):
    start(page, digging.pk)
    pass_time(page, 215)
    canvas(page).wait_for()
    seen, place = set(), at(page)
    for _ in range(5):
        pass_time(page, 0.7)
        seen.add(picture(page))
        assert at(page) == place
    assert len(seen) > 2


def test_the_page_of_a_move_shows_its_movement_until_it_is_held_still(page):
    page.goto("/moves/hip-hinge/")
    figure = page.locator(".move-figures canvas")
    figure.wait_for()
    button = page.locator("#figure-still")
    first = figure.get_attribute("data-at")
    expect(figure).not_to_have_attribute("data-at", first)
    button.click()
    expect(button).to_have_text("Show it moving")
    held = figure.get_attribute("data-at")
    page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    assert figure.get_attribute("data-at") == held


def test_without_its_drawing_the_still_picture_stays(page):
    page.route("**/figure.json*", lambda route: route.abort())
    page.goto("/moves/hip-hinge/")
    expect(page.locator(".move-figures .live img")).to_be_visible()
    expect(page.locator("#figure-still")).to_be_hidden()
    assert page.locator(".move-figures canvas").count() == 0


def test_a_figure_seen_from_elsewhere_takes_the_place_of_the_old_one_when_it_is_drawn(page):
    page.goto("/moves/calf-lean/edit/")
    seen, told = page.locator("#figure-seen img"), page.locator("#figure-seen [role=status]")
    first = seen.get_attribute("src")
    page.route("**/figure.svg?*view=*", lambda route: route.abort())
    page.select_option("[name=figure_view]", "the front")
    expect(told).to_contain_text("the one before it")
    expect(seen).to_have_attribute("src", first)
    page.unroute("**/figure.svg?*view=*")
    page.select_option("[name=figure_view]", "behind")
    expect(seen).to_have_attribute("src", re.compile(r"calf-lean/figure\.svg\?v=\w+&view=270&side=left"))
    expect(told).to_be_empty()


def test_pointing_at_the_sheet_shows_the_figure_of_that_side(desk):
    desk.locator("#sheet .seg.s-right[data-item=i6]").first.hover()
    picture = desk.locator("#sheet-figure")
    expect(picture).to_be_visible()
    expect(picture).to_have_attribute("src", re.compile(r"/moves/calf-lean/figure\.svg\?v=\w+&side=right"))
    desk.locator("#sheet .seg.k-talk").first.hover()
    expect(picture).to_be_hidden()
