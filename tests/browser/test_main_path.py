"""The path of a first class: from the empty shelf to both sides on the Stage."""

import re

import pytest
from playwright.sync_api import expect

from extendum.core.model.timeline import parse_clock
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass

pytestmark = pytest.mark.browser


def to_the_stage(page, of):
    """The Stage of a class, ready to start, with a clock that only the test moves."""
    page.clock.install(time=0)
    page.goto(f"/classes/{of.pk}/stage/")
    expect(page.locator("#start")).to_be_enabled()
    page.clock.pause_at(3_600_000)


def settled(page):
    """Wait until the Desk has answered everything that was asked of it."""
    expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)


def pass_time(page, seconds):
    """Jump ahead, as a laptop that was busy would, and let the Stage draw: it counts nothing, so nothing is lost."""
    page.clock.fast_forward(seconds * 1000 - 100)
    page.clock.run_for(100)


def add(page, typed, name):
    """Type into the adder, which keeps the focus, and take the first that is found."""
    page.keyboard.type(typed)
    expect(page.locator("#found [aria-selected=true]")).to_contain_text(name)
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value(name)
    settled(page)


def test_from_the_empty_shelf_to_a_fitted_class_taught_on_the_stage(page):
    page.goto("/")
    page.locator("text=The shelf is empty").wait_for()
    page.keyboard.press("n")
    page.keyboard.type("After work")
    page.keyboard.press("Enter")
    page.wait_for_selector("#brief-form")
    page.keyboard.press("Escape")  # all of the brief can be skipped
    page.wait_for_selector("text=Add the first move.")
    page.evaluate("document.activeElement.blur()")

    moves = {
        "shoulder": "Shoulder rolls",
        "calf lean": "Wall calf stretch",
        "side reach": "Standing side bend",
        "standing hip": "Standing hip flexor stretch",
        "chest": "Clasped-hands chest opener",
        "upper back reach": "Standing upper back stretch",
        "standing thigh": "Standing quad stretch",
    }
    page.keyboard.press("a")
    for typed, name in moves.items():
        add(page, typed, name)
    page.keyboard.press("Escape")
    page.keyboard.press("f")
    page.keyboard.type("10:00")
    page.keyboard.press("Enter")
    page.locator("#off-target", has_text="to the second").wait_for()
    assert page.locator("#length").inner_text().strip() == "10:00"

    made = StretchClass.objects.select_related("head").get()
    script = store.script_of(made.head)
    calf = next(item for item in script.moves() if item.name == "Wall calf stretch")
    hold = calf.quantity.value
    starts = page.evaluate(
        """item => [...document.querySelectorAll(`.seg.k-hold[role=button][data-item=${item}]`)]
              .map(seg => seg.dataset.about)""",
        calf.id,
    )
    spans = [re.match(r"(\S+) to (\S+), Wall calf stretch, (\w+), hold", about).groups() for about in starts]
    spans = [(parse_clock(a), parse_clock(b), side) for a, b, side in spans]
    assert [(b - a, side) for a, b, side in spans] == [(hold, "left"), (hold, "right")]

    page.evaluate("document.activeElement.blur()")
    page.clock.install(time=0)
    page.keyboard.press("g")
    expect(page.locator("#start")).to_be_enabled()
    page.clock.pause_at(3_600_000)
    page.keyboard.press(" ")
    at = 0
    page.clock.run_for(20)  # a little into every second that is looked at
    for start, end, side in spans:
        for second, count in ((start, hold), (start + hold // 2, hold - hold // 2), (end - 3, 3), (end - 1, 1)):
            pass_time(page, second - at)
            at = second
            assert page.inner_text("#name") == "Wall calf stretch"
            assert page.locator("#side > span").inner_text() == side
            assert page.inner_text("#phase") == "hold"
            assert page.inner_text("#count") == str(count)
        pass_time(page, end - at)
        at = end
        assert page.inner_text("#phase") == "let go"
    late = []
    page.route("**/card/**", lambda route: late.append(route))
    with page.expect_request("**/card/**"), page.expect_response("**/taught/"):
        pass_time(page, 600 - at)
    page.locator("text=That was the class.").wait_for()
    back = page.locator("text=Back to shelf")
    there = back.bounding_box()
    late[0].continue_()
    expect(page.locator("#learned")).not_to_be_empty()
    assert back.bounding_box() == there  # what the class was comes a moment later, and moves no key
    back.click()
    page.locator("text=taught").first.wait_for()
    assert "not taught yet" not in page.inner_text("main")


def test_stage_keys_pause_go_on_skip_back_and_leave(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    page.clock.run_for(5000)
    page.keyboard.press(" ")
    left = page.inner_text("#left")
    assert left == "11:55 to go"
    assert page.inner_text("#phase") == "paused"
    page.clock.run_for(60_000)
    assert page.inner_text("#left") == left
    page.keyboard.press("n")
    assert page.inner_text("#name") == "Standing slow breathing"
    page.keyboard.press(" ")
    page.clock.run_for(3100)
    page.keyboard.press("b")
    assert page.inner_text("#name") == "Standing slow breathing"
    page.keyboard.press("b")
    assert page.inner_text("#name") == "Welcome"
    page.keyboard.press("m")
    page.locator("#sound[open] [name=start]").uncheck()
    page.keyboard.press("m")
    assert page.evaluate("JSON.parse(localStorage.getItem('extendum-sound')).start") is False
    page.keyboard.press("Escape")
    page.locator("#ask[open]").wait_for()
    assert page.inner_text("#phase") == "paused"
    page.click("#stay")
    assert page.inner_text("#phase") != "paused"
    page.keyboard.press("Escape")
    page.click("#really")
    page.wait_for_selector("#desk")


def test_leaving_a_running_class_by_accident_asks_first(page, digging):
    page.goto(f"/classes/{digging.pk}/stage/")
    page.click("#start")
    expect(page.locator("#before")).to_be_hidden()
    asked = []
    page.on("dialog", lambda dialog: (asked.append(dialog.type), dialog.accept()))
    page.goto("/")
    assert asked == ["beforeunload"]


def test_the_stage_plays_on_without_the_server(page, digging):
    to_the_stage(page, digging)
    page.keyboard.press(" ")
    page.clock.run_for(1000)
    page.context.set_offline(True)
    page.clock.run_for(60_000)
    assert page.inner_text("#name") == "Shoulder rolls"
    page.context.set_offline(False)
