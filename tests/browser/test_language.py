"""The whole language of cues, written from the Desk and read from the sheet."""

import re

import pytest
from playwright.sync_api import expect

from extendum.core.model.timeline import parse_clock
from tests.browser.test_main_path import add, settled

pytestmark = pytest.mark.browser


@pytest.fixture
def desk(page):
    page.goto("/")
    page.fill("#new-title", "Everything")
    page.keyboard.press("Enter")
    page.click("#skip")
    page.wait_for_selector("text=Add the first move.")
    return page


def choose(page, selector, name):
    page.click(selector)
    expect(page.locator("#item-name")).to_have_value(name)
    settled(page)


def put(page, selector, value):
    """Type a value, leave the field, and wait for the Desk as it then is."""
    with page.expect_response("**/edit/") as answer:
        page.fill(selector, value)
        page.press(selector, "Tab")
    assert answer.value.status == 200
    settled(page)


def pick(page, selector, label):
    with page.expect_response("**/edit/") as answer:
        page.select_option(selector, label)
    assert answer.value.status == 200
    settled(page)


def check(page, selector):
    with page.expect_response("**/edit/") as answer:
        page.locator(selector).check()
    assert answer.value.status == 200
    settled(page)


def work(page):
    """(name, side, kind, seconds) of every working stretch, as the sheet tells it."""
    found = []
    for about in page.locator(".seg[role=button]").evaluate_all("all => all.map(one => one.dataset.about)"):
        match = re.match(r"(\S+) to (\S+), (.+?)(?:, (left|right))?, (hold|reps|breaths|timed|pulses|open): ", about)
        if match:
            start, end, name, side, kind = match.groups()
            found.append((name, side, kind, parse_clock(end) - parse_clock(start)))
    return found


def group_of(page, number):
    page.locator(".sides").nth(number).click()
    page.wait_for_selector("#group-form")
    settled(page)


def add_all(page, *moves):
    page.keyboard.press("a")
    for typed, name in moves:
        add(page, typed, name)
    page.keyboard.press("Escape")


def test_a_chain_with_one_between_and_its_mirror(desk):
    page = desk
    add_all(page, ("calf lean", "Wall calf stretch"), ("side reach", "Standing side bend"), ("hip hinge", "Hip hinge"))
    group_of(page, 0)
    check(page, "#plan-whole-chain")
    choose(page, "#row-i4 .name", "Hip hinge")
    check(page, "#between")
    assert work(page) == [
        ("Wall calf stretch", "left", "hold", 30),
        ("Standing side bend", "left", "hold", 20),
        ("Hip hinge", None, "reps", 40),
        ("Wall calf stretch", "right", "hold", 30),
        ("Standing side bend", "right", "hold", 20),
    ]


def test_a_circuit_of_two_rounds_with_a_shorter_second(desk):
    page = desk
    add_all(page, ("chest", "Clasped-hands chest opener"), ("hip hinge", "Hip hinge"))
    group_of(page, 0)
    put(page, "#rounds", "2")
    put(page, "#taper", "60")
    names = [("Clasped-hands chest opener", None, "hold", 25), ("Hip hinge", None, "reps", 40)]
    shorter = [("Clasped-hands chest opener", None, "hold", 15), ("Hip hinge", None, "reps", 25)]
    assert work(page) == names + shorter
    assert "2 rounds at 60 %" in page.inner_text("#order-list")


def test_what_is_typed_while_an_answer_is_on_its_way_is_not_overwritten(desk):
    page = desk
    add_all(page, ("chest", "Clasped-hands chest opener"))
    group_of(page, 0)
    page.fill("#rounds", "3")
    page.fill("#taper", "50")
    page.fill("#reset", "4")
    page.press("#reset", "Tab")
    settled(page)
    assert [page.input_value(one) for one in ("#rounds", "#taper", "#reset")] == ["3", "50", "4"]
    expect(page.locator("#order-list")).to_contain_text("3 rounds at 50 %")
    choose(page, "#row-i2 .name", "Clasped-hands chest opener")
    page.fill("#words-there", "Refused {so}.")
    page.press("#words-there", "Tab")
    expect(page.locator("#notice")).to_contain_text("placeholders are among")
    page.click("#lock")
    expect(page.locator("#lock")).to_have_attribute("aria-pressed", "true")
    assert page.input_value("#words-there") == "Refused {so}."


def test_breath_led_contralateral_and_two_stage_moves(desk):
    page = desk
    add_all(page, ("upper back reach", "Standing upper back stretch"), ("bridge", "Bridge"), ("cat", "Cat-cow"))
    choose(page, "#row-i2 .name", "Standing upper back stretch")
    pick(page, "#kind-1", "breaths")
    put(page, "#wanted", "4")
    choose(page, "#row-i3 .name", "Bridge")
    page.click("#add-stage")
    page.wait_for_selector("#wanted-2")
    put(page, "#wanted-2", "12")
    choose(page, "#row-i4 .name", "Cat-cow")
    pick(page, "#sides-kind", "crossed")
    assert work(page) == [
        ("Standing upper back stretch", None, "breaths", 40),
        ("Bridge", None, "reps", 40),
        ("Bridge", None, "hold", 12),
        ("Cat-cow", "left", "reps", 36),
        ("Cat-cow", "right", "reps", 36),
    ]
    pick(page, "#sides-kind", "crossed, alternating")
    assert work(page)[-1] == ("Cat-cow", None, "reps", 72)


def test_the_speaking_rate_moves_set_ups_and_never_a_hold(page, digging):
    page.goto(f"/classes/{digging.pk}/?item=settings")
    page.wait_for_selector("#class-form")
    before, length = work(page), page.inner_text("#length")
    put(page, "#set-wpm", "110")
    assert work(page) == before
    assert page.inner_text("#length") != length
