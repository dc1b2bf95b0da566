"""A past recording: heard, put right by dragging and typing, kept with its class, and made a class of its own."""

import pytest
from playwright.sync_api import expect

from extendum.web.classes.models import StretchClass
from extendum.web.classes.store import script_of

pytestmark = pytest.mark.browser
SPOKEN = """[0:00] Hello, five minutes for the legs. I was late today, and my bus was late too.
[0:14] Now step your left foot back and press the heel down, hands on the wall.
[0:20] Stay there. Breathe.
[0:50] And step in.
[0:54] Other side. Right foot back, press the heel down.
[1:00] Stay. Keep breathing, and feel the calf.
[1:20] And step in. Now lie on your front, elbows under your shoulders, and lift your chest.
[1:30] Stay there, and breathe.
[1:55] And lower. That was it, thank you, and come back on Friday.
"""


def hear(page):
    page.goto("/read-in/")
    page.fill("textarea", SPOKEN)
    page.click("text=Preview")
    page.wait_for_selector(".heard-rows")


def seconds(page, name):
    minutes, rest = page.input_value(f"[name={name}]").split(":")
    return 60 * int(minutes) + int(rest)


@pytest.mark.parametrize(
    ("size", "drawn", "units"),
    [((1280, 800), "sheet-desk", 1180), ((820, 1180), "sheet-upright", 760), ((390, 844), "sheet-phone", 360)],
)
def test_an_end_of_a_bar_is_dragged_and_enter_in_a_row_leads_back_to_it(page, digging, size, drawn, units):
    page.set_viewport_size(dict(zip(("width", "height"), size, strict=True)))
    hear(page)
    was = seconds(page, "to-0-1")
    edge = page.locator(f".{drawn} .edge[data-row='0'][data-pass='1'][data-end='to']")
    edge.scroll_into_view_if_needed()
    box, sheet = edge.bounding_box(), page.locator(f".{drawn} svg.heard")
    second = sheet.bounding_box()["width"] / units * float(sheet.get_attribute("data-second"))
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 5 * second, y, steps=4)
    page.mouse.up()
    expect(page.get_by_text("1 correction so far")).to_be_visible()
    assert abs(seconds(page, "to-0-1") - (was - 5)) <= 1
    page.fill("#name-1", "Cobra")
    page.press("#name-1", "Enter")
    expect(page.get_by_text("2 corrections so far")).to_be_visible()
    assert page.url.endswith("#move-1")
    page.click("text=Undo")
    expect(page.locator("#name-1")).not_to_have_value("Cobra")


def test_a_recording_becomes_a_class_that_can_be_taught_and_keeps_it(page, digging):
    hear(page)
    page.fill("[name=title]", "Legs and front")
    page.click("text=Create class from it")
    page.wait_for_selector("#desk")
    of = StretchClass.objects.get(title="Legs and front")
    assert [item.move.key for item in script_of(of.present).moves()] == ["calf-lean", "sphinx"]
    page.goto(f"/classes/{of.pk}/recordings/")
    expect(page.get_by_role("heading", name="Legs and front", exact=False).first).to_be_visible()
    page.click("text=Correct")
    expect(page.get_by_text("Kept with")).to_be_visible()
    page.goto(f"/classes/{of.pk}/stage/")
    page.click("#start")
    expect(page.locator("#words, #key-words").first).to_be_attached()
