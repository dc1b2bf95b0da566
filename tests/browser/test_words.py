"""The Words screen: written, followed by its strip, and undone."""

import pytest
from playwright.sync_api import expect

pytestmark = pytest.mark.browser


@pytest.fixture
def words(page, digging):
    page.goto(f"/classes/{digging.pk}/words/")
    page.wait_for_selector("#text-i6-moving")
    return page


def test_words_are_typed_with_placeholders_and_the_strip_follows(words):
    page = words
    box = page.locator("#text-i6-moving")
    box.fill(
        "Bring the left foot a long way back behind you and do not hurry at all, there is all the time in the world. "
    )
    strip = page.locator("#strip-i6-moving")
    expect(strip).to_contain_text("says “left” itself")
    expect(strip).to_contain_text("delays the hold")
    box.fill("The ")
    box.press("End")
    page.keyboard.type("{si")
    expect(page.locator("#offered [aria-selected=true]")).to_contain_text("{side}")
    page.keyboard.press("Enter")
    page.keyboard.type(" foot back.")
    expect(box).to_have_value("The {side} foot back.")
    box.press("Tab")
    expect(page.locator("#passage-i6 .said-as").first).to_have_text("left The left foot back.")
    expect(strip).not_to_contain_text("itself")
    page.click("#undo")
    expect(box).to_have_value("Hands to the wall and step the {side} foot back.")


def test_a_wrong_placeholder_is_refused_and_stays(words):
    page = words
    page.fill("#text-i6-there", "Lean {sideways}.")
    page.keyboard.press("Escape")
    page.press("#text-i6-there", "Tab")
    expect(page.locator("#notice")).to_contain_text("placeholders are among")
    expect(page.locator("#text-i6-there")).to_have_value("Lean {sideways}.")


def test_reading_the_sample_sets_the_rate(page, digging):
    page.clock.install(time=0)
    page.goto(f"/classes/{digging.pk}/words/")
    page.clock.pause_at(3_600_000)  # only the test moves it from here on
    page.click("#calibrate")
    page.click("#begin")
    page.clock.run_for(36_000)
    page.click("#done")
    expect(page.locator("#calibrate")).to_contain_text("Rate: 126 words a minute")
