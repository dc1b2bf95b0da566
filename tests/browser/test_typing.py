"""Typed fast or slowly, the same comes of it: nothing is lost, doubled or done to something else meanwhile."""

import random

import pytest
from playwright.sync_api import expect

from extendum.formats.document import dumps
from extendum.web.classes import store
from extendum.web.classes.models import StretchClass
from tests.browser.conftest import digging_class

pytestmark = pytest.mark.browser
FAST_MS, AWAY_MS = 10, 400


@pytest.fixture
def slow_answers(page):
    """Every answer of the server takes 400 ms longer."""
    network = page.context.new_cdp_session(page)

    def by(latency):
        speed = {"downloadThroughput": -1, "uploadThroughput": -1}
        network.send("Network.emulateNetworkConditions", {"offline": False, "latency": latency, **speed})

    network.send("Network.enable")
    by(AWAY_MS)
    return by


def kept(of=None):
    return store.script_of((of or StretchClass.objects.latest("pk")).head)


def done(page):
    """Everything that was asked for has been answered."""
    page.evaluate("import('/static/js/desk/turns.js').then(({ reload }) => reload())")


@pytest.mark.parametrize("begin", ["click", "ArrowDown"])
def test_every_letter_arrives_while_a_choice_is_answered(desk, slow_answers, begin):
    page = desk
    if begin == "click":
        page.click("#open-i6")
    else:
        page.keyboard.press(begin)
    page.keyboard.press("a")
    page.keyboard.type("arm circ", delay=FAST_MS)
    expect(page.locator("#add")).to_have_value("arm circ")
    page.locator("#found [data-for='arm circ']").wait_for()
    done(page)
    expect(page.locator("#add")).to_have_value("arm circ")
    page.keyboard.press("Enter")
    expect(page.locator("#item-name")).to_have_value("Arm circles")


MOVES = ("calf lean", "jaw", "hinge")
KEYS = (
    "ArrowDown",
    "ArrowUp",
    "ArrowRight",
    "Shift+ArrowLeft",
    "Alt+ArrowDown",
    "l",
    "o",
    "u",
    "r",
    "Delete",
    *MOVES,
)


def played(page, keys, between):
    """Press keys, or add a move by its name, and give the class that came of it."""
    for key in keys:
        if key in MOVES:
            page.keyboard.press("a")
            page.keyboard.type(key, delay=FAST_MS)
            page.keyboard.press("Enter")
            expect(page.locator("#add")).to_have_value("")
            page.keyboard.press("Escape")
        else:
            page.keyboard.press(key)
        between(page)
    done(page)
    return dumps(kept())


@pytest.mark.parametrize("seed", range(1))
def test_keys_pressed_fast_make_the_class_that_slow_ones_make(page, owner, slow_answers, seed):
    keys = random.Random(seed).choices(KEYS, k=11)  # noqa: S311 - a test
    made = []
    for latency, between in ((0, done), (AWAY_MS, lambda page: None)):
        of = digging_class(owner)
        slow_answers(latency)
        page.goto(f"/classes/{of.pk}/")
        page.locator("#desk").wait_for()
        made.append(played(page, keys, between))
    assert made[0] == made[1], keys


def test_what_is_typed_at_once_after_a_new_talk_is_its_words(desk, slow_answers):
    page = desk
    page.click("#open-i6")
    page.keyboard.press("t")
    page.keyboard.type("Welcome back.", delay=FAST_MS)  # W, B and C are keys of the Desk
    expect(page.locator("#words-talk")).to_have_value("Welcome back.")
    page.keyboard.press("Escape")
    expect(page.locator("#row-i6 + .row .name")).to_have_text("Talk")
    done(page)
    assert [item.words for item in kept().items() if item.tag == "talk" and "back." in item.words] == ["Welcome back."]


def test_what_an_earlier_search_left_is_typed_over(desk):
    page = desk
    for words in ("no such move", "jaw"):
        page.keyboard.press("a")
        page.keyboard.type(words, delay=FAST_MS)
        expect(page.locator("#add")).to_have_value(words)
        page.keyboard.press("Escape")


def test_enter_pressed_twice_adds_one_move(desk, slow_answers):
    page = desk
    rows = page.locator(".row").count()
    page.keyboard.press("a")
    page.keyboard.type("jaw", delay=FAST_MS)
    page.locator("#found [data-for=jaw]").wait_for()
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    page.locator("#found .found-head").first.wait_for()  # what could come next is there
    done(page)
    assert page.locator(".row").count() == rows + 1


def test_who_types_into_a_panel_keeps_it_until_the_field_is_left(desk, slow_answers):
    page = desk
    page.click("#open-i6")
    expect(page.locator("#item-name")).to_have_value("Wall calf stretch")
    page.keyboard.press("ArrowDown")  # another panel is on its way
    page.click("#item-name", click_count=3)
    page.keyboard.type("Wall lean", delay=FAST_MS)
    done(page)
    expect(page.locator("#item-name")).to_have_value("Wall lean")
    page.keyboard.press("Tab")
    page.keyboard.press("Escape")
    expect(page.locator("#row-i6 .name")).to_have_text("Wall lean")
    done(page)
    assert [item.name for item in kept().items()].count("Wall lean") == 1 and kept().item("i6").name == "Wall lean"


def test_texts_typed_one_after_the_other_all_stay(page, digging, slow_answers):
    page.goto(f"/classes/{digging.pk}/words/")
    boxes = page.locator("#words-view article textarea[name=moving]")
    names = [f"Step {n} back with the {{side}} foot." for n in range(3)]
    for n, words in enumerate(names):
        boxes.nth(n).click()
        page.keyboard.press("Control+a")
        page.keyboard.type(words, delay=FAST_MS)
    page.keyboard.press("Tab")
    for n, words in enumerate(names):
        expect(boxes.nth(n)).to_have_value(words)
    expect(page.locator("#words-view")).to_have_attribute("data-stamp", "4")
    page.reload()
    for n, words in enumerate(names):
        expect(boxes.nth(n)).to_have_value(words)


def test_a_form_that_is_sent_twice_is_done_once(page, owner, slow_answers):
    page.goto("/")
    page.fill("#new-title", "Twice")
    page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    page.locator("#brief-page").wait_for()
    assert StretchClass.objects.filter(title="Twice").count() == 1
