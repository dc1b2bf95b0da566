"""Nothing lies over anything and nothing leaves the window: the screens of a class, from phone to large screen."""

import pytest
from playwright.sync_api import expect

from extendum.web.classes import store
from tests.browser.boxes import FEW, SIZES, faults
from tests.browser.test_main_path import pass_time, to_the_stage
from tests.browser.test_room import TO_THE_FIRST_HOLD, opened, to_the_first_hold
from tests.browser.test_run import until

pytestmark = pytest.mark.browser


def redrawn(page):
    """The page's clock stands still: a frame has to be let pass after the window has another size."""
    page.clock.run_for(400)


def look(page, where, told):
    return [f"{told}: {one}" for one in faults(page, where, redrawn)]


def test_the_checker_finds_what_lies_over_something_and_what_is_outside(page, digging):
    page.goto(f"/classes/{digging.pk}/words/")
    assert not [one for one in faults(page, "header") if "1440x900" in one]
    page.evaluate("document.querySelector('h1').style.position = 'absolute'")
    assert any(one.startswith("1440x900 overlap: ") for one in faults(page, "header"))
    page.evaluate("Object.assign(document.querySelector('h1').style, { right: '-40px' })")
    assert any("leaves the window: h1" in one for one in faults(page, "header"))


def test_the_stage_in_every_state(page, digging):
    to_the_stage(page, digging)
    found = look(page, "#before", "before")
    page.keyboard.press(" ")
    for told, seconds in (("talk", 5), ("breath", 40), ("way", 25), ("reps", 25), ("hold", 130), ("switch", 26)):
        pass_time(page, seconds)
        found += look(page, "#stage", told)
    page.keyboard.press("n")
    page.clock.run_for(100)
    assert page.locator("#told").is_visible()
    found += look(page, "#stage", "told")
    page.keyboard.press(" ")
    pass_time(page, 200)
    found += look(page, "#stage", "paused and late")
    page.keyboard.press("t")
    found += look(page, "#tray", "tray")
    page.keyboard.press("t")
    page.keyboard.press("m")
    found += look(page, "#sound", "sound")
    page.keyboard.press("m")
    page.keyboard.press("Escape")
    found += look(page, "#ask", "leaving")
    page.keyboard.press("e")
    page.clock.run_for(1500)
    expect(page.locator("#after")).to_be_visible()
    found += look(page, "#after", "end card")
    assert found == []


def test_the_take_in_every_state(page, digging):
    page.clock.install()
    page.goto(f"/classes/{digging.pk}/take/")
    expect(page.locator("#start")).to_be_enabled()
    found = look(page, "#before", "before")
    page.keyboard.press(" ")
    pass_time(page, 6)
    for told, seconds in (("talk", 1), ("reps", 80), ("hold", 130)):
        pass_time(page, seconds)
        found += look(page, "#stage", told)
    assert found == []


def test_the_room_and_the_clicker(page, live_server, digging, owner):
    screens = {}
    for kind in ("room", "clicker"):
        _, screens[kind] = opened(page, live_server.url, owner, kind, 1280, 800)
    found = [f"waits: {one}" for kind, screen in screens.items() for one in faults(screen, "#follows")]
    page.goto(f"/classes/{digging.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    page.keyboard.press(" ")
    to_the_first_hold(page)
    for screen in screens.values():
        expect(screen.locator("#name")).to_have_text(TO_THE_FIRST_HOLD[-1])
    page.keyboard.press("Enter")
    screens["room"].click("#captions")
    for kind, screen in screens.items():
        found += [f"{kind}, hold: {one}" for one in faults(screen, "#follows")]
        screen.context.close()
    assert found == []


#: The Desk has measured this window, and is drawn to it.
DRAWN = """(() => {
  const page = document.querySelector(".desk-page"), near = (a, b) => Math.abs(a - b) <= 8;
  if (page.dataset.measured !== `${innerWidth}x${innerHeight}`) return false;
  const rooms = [/room=([0-9x]+)/.exec(document.cookie)[1], document.getElementById("desk").dataset.room];
  const [told, drawn] = rooms.map((one) => one.split("x").map(Number));
  return told.length === drawn.length && near(told[0], drawn[0]) && near(told[1], drawn[1]);
})()"""


def settled(page):
    """The Desk tells the server of its room after a moment, and is drawn anew."""
    until(page, DRAWN)


def test_the_desk_with_each_of_its_panels(page, digging):
    found = []
    script = store.script_of(digging.present)
    talk, hold = script.sections[0].items[0].id, script.sections[2].items[0].id
    reps, group = script.sections[1].items[0].id, script.sections[2].groups[0].id
    for told, chosen in (
        ("open", ""),
        ("hold", hold),
        ("reps", reps),
        ("talk", talk),
        ("group", group),
        ("settings", "settings"),
    ):
        page.goto(f"/classes/{digging.pk}/?item={chosen}")
        expect(page.locator("#length")).to_be_visible()
        sizes = SIZES if told in ("hold", "group") else FEW
        found += [f"{told}: {one}" for one in faults(page, "#desk", settled, sizes)]
    assert found == []


@pytest.mark.parametrize("width", [390, 820])
def test_the_brief_is_no_wider_than_the_screen(page, digging, width):
    page.set_viewport_size({"width": width, "height": 1000})
    page.goto(f"/classes/{digging.pk}/brief/")
    page.click("#activities summary")
    assert page.evaluate("document.documentElement.scrollWidth") == width
    ends = page.evaluate("[...document.querySelectorAll('.chip')].map((chip) => chip.getBoundingClientRect().right)")
    assert max(ends) <= width
