"""Fitting seen before it is done, what would have to give, other lengths, and other orders."""

import pytest
from playwright.sync_api import expect

from extendum.core.timing.layout import length_of
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from tests.browser.test_desk import along
from tests.browser.test_main_path import settled

pytestmark = pytest.mark.browser


def test_the_peg_shows_what_would_change_before_it_fits_and_undo_takes_it_back(desk):
    page = desk
    box = page.locator("#peg").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + 12
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - along(page, 180), y, steps=8)
    expect(page.locator("#preview .sentence")).to_contain_text("9:00 to the second:")
    expect(page.locator("#ghost rect").first).to_be_attached()
    expect(page.locator("#becomes-i6")).to_have_text("35 to 28 s")
    expect(page.locator("#length")).to_have_text("12:00")
    out = page.locator(".row.goes .name").all_inner_texts()
    page.mouse.up()
    expect(page.locator("#length")).to_have_text("9:00")
    expect(page.locator("#ghost, #preview:not([hidden])")).to_have_count(0)
    assert (
        page.locator(".row.is-out .name").all_inner_texts()
        == out
        == ["Bent-knee calf stretch", "Standing forward fold"]
    )
    settled(page)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("u")
    expect(page.locator("#length")).to_have_text("12:00")
    expect(page.locator(".row.is-out")).to_have_count(0)


def test_escape_and_a_typed_length_show_and_take_back(desk):
    page = desk
    page.keyboard.press("p")
    page.keyboard.press("PageUp")
    expect(page.locator("#preview .sentence")).to_contain_text("13:00 to the second:")
    page.keyboard.press("Escape")
    expect(page.locator("#preview")).to_be_hidden()
    assert page.input_value("#target") == "12:00"
    page.fill("#target", "59:00")
    expect(page.locator("#preview .sentence")).to_contain_text("59:00 cannot be reached")
    page.fill("#target", "soon")
    expect(page.locator("#preview .sentence")).to_contain_text("length: must be a length such as")
    page.keyboard.press("Escape")
    expect(page.locator("#preview")).to_be_hidden()
    expect(page.locator(".becomes:not(:empty)")).to_have_count(0)


def test_a_desk_that_is_drawn_anew_keeps_what_was_being_fitted(desk):
    page = desk
    page.keyboard.press("p")
    page.keyboard.press("PageUp")
    expect(page.locator("#preview .sentence")).to_contain_text("13:00 to the second:")
    drawn_anew(page, {"width": 1280, "height": 700})
    expect(page.locator("#preview .sentence")).to_contain_text("13:00 to the second:")
    assert page.get_attribute("#peg", "aria-valuetext") == page.input_value("#target") == "13:00"
    page.keyboard.press("Escape")
    page.fill("#target", "59:00")
    expect(page.locator("#preview .sentence")).to_contain_text("59:00 cannot be reached")
    drawn_anew(page, {"width": 1280, "height": 800})
    expect(page.locator("#preview .sentence")).to_contain_text("59:00 cannot be reached")
    assert page.input_value("#target") == "59:00"


def drawn_anew(page, size):
    settled = "document.body.addEventListener('htmx:afterSettle', resolve, { once: true })"
    page.evaluate(f"() => {{ window.anew = new Promise((resolve) => {settled}); }}")
    page.set_viewport_size(size)
    page.evaluate("() => window.anew.then(() => true)")


def test_a_remedy_makes_what_was_refused_fit(desk):
    page = desk
    page.fill("#target", "6:00")
    page.keyboard.press("Enter")
    page.locator("#notice", has_text="6:00 cannot be reached").wait_for()
    page.locator(".remedies button").first.click()
    expect(page.locator("#length")).to_have_text("6:00")
    expect(page.locator("#off-target")).to_have_text("to the second")


def test_marks_by_key_and_an_order_with_a_pin(desk):
    page = desk
    page.click("#row-i8 .name")
    settled(page)
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("o")
    expect(page.locator("#row-i8 .under")).to_contain_text("may go")
    page.keyboard.press("x")
    expect(page.locator("#row-i8.is-out .under")).to_contain_text("left out")
    page.keyboard.press("x")
    expect(page.locator(".row.is-out")).to_have_count(0)
    settled(page)
    page.keyboard.press("s")
    page.locator("#order[open] h2", has_text="Order of Legs").wait_for()
    page.click("#pins-i9")  # where it stands: after the one before it
    expect(page.locator("#pin-i9")).to_have_value("i8")
    page.select_option("#pin-i9", "first")
    expect(page.locator("#order")).to_contain_text("does not respect: Standing quad stretch first")
    page.locator("#order section", has_text="Feet to head").locator("button").click()
    expect(page.locator(".row .name").nth(5)).to_have_text("Standing quad stretch")
    expect(page.locator("#order[open]")).to_have_count(0)


def test_a_version_and_a_warm_up_are_kept_as_classes(desk, digging):
    page = desk
    page.keyboard.press("v")
    page.click("text=any move")
    page.fill("#own-length", "5:30")
    page.keyboard.press("Enter")
    page.locator(".versions > .own", has_text="your length").locator("button").click()
    expect(page.locator("#length")).to_have_text("5:30")
    page.keyboard.press("k")
    expect(page.locator("#set-notes")).to_have_value(
        store.script_of(StretchClass.objects.latest("pk").head).brief.notes.replace("\r", "")
    )
    page.goto(f"/classes/{digging.pk}/versions/")
    page.check("text=chest")
    page.fill("[name=warm]", "4:00")
    page.click("text=Choose them")
    page.locator(".versions.one button").click()
    expect(page.locator("#class-title")).to_have_text("After the digging, warm-up 4:00")
    kept = [store.script_of(one.head) for one in StretchClass.objects.order_by("pk")]
    assert [length_of(script) for script in kept] == [720, 330, 240]
    assert "Left out: " in kept[1].brief.notes
    assert 4 <= len(kept[2].moves()) <= 6
    assert any(item.name == "Clasped-hands chest opener" for item in kept[2].moves())
