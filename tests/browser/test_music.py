"""Music of one's own under a class: never sent, softer under words, gone by the closing quiet, without the server."""

import io

import numpy as np
import pytest
import soundfile
from playwright.sync_api import expect

from tests.browser.test_main_path import pass_time, to_the_stage

pytestmark = pytest.mark.browser
PLAYER = "import('/static/js/stage/music.js').then(({ state }) => state())"
RATE = 8000


def sound(name, seconds):
    """A file of a plain tone, as a file chooser gives it."""
    written = io.BytesIO()
    tone = 0.1 * np.sin(2 * np.pi * 220 * np.arange(round(seconds * RATE)) / RATE)
    soundfile.write(written, tone, RATE, format="WAV")
    return {"name": name, "mimeType": "audio/wav", "buffer": written.getvalue()}


def player(page):
    return page.evaluate(PLAYER)


def until_it(page, what, why):
    """The music is as asked; it lives in the browser's own time, also where the page's clock is held."""
    for _ in range(400):
        if what(player(page)):
            return
        page.evaluate("new Promise((done) => navigator.locks.request('a moment', done))")
        page.clock.run_for(20)
    raise AssertionError(f"{why}: {player(page)}")


def test_music_is_picked_told_ordered_and_kept_in_this_browser_only(page, digging):
    page.goto(f"/classes/{digging.pk}/stage/")
    sent = []
    page.on("request", lambda request: sent.append(len(request.post_data_buffer or b"")))
    page.set_input_files("#music-files", [sound("slow.wav", 3), sound("slower.wav", 65)])
    rows = page.locator("#music-list li")
    expect(rows).to_have_count(2)
    expect(rows.nth(1)).to_contain_text("1:05")
    expect(page.locator("#music-told")).to_contain_text("2 files, 1:08: ")
    expect(page.locator("#music-told")).to_contain_text("until the closing quiet, so it begins again after 1:08.")
    page.uncheck("#music-again")
    expect(page.locator("#music-told")).to_contain_text("have no music")
    page.click("text=Earlier")
    expect(rows.nth(0)).to_contain_text("slower.wav")
    page.set_input_files("#music-files", {"name": "notes.wav", "mimeType": "audio/wav", "buffer": b"no sound at all"})
    expect(page.locator("#music-refused")).to_contain_text("This browser cannot play notes.wav.")
    page.reload()
    expect(rows).to_have_count(2)
    expect(rows.nth(0)).to_contain_text("slower.wav")
    expect(page.locator("#music-again")).not_to_be_checked()
    page.click("text=Remove >> nth=0")
    expect(rows).to_have_text(["slow.wav0:03Remove"])
    assert max(sent, default=0) < 2000  # what was told to the server has no room for a sound


def test_music_follows_the_class_and_has_faded_when_the_closing_quiet_begins(page, digging):
    to_the_stage(page, digging)
    page.set_input_files("#music-files", [sound("first.wav", 0.5), sound("second.wav", 600)])
    expect(page.locator("#music-list li")).to_have_count(2)
    page.context.set_offline(True)
    page.keyboard.press(" ")
    until_it(page, lambda it: it["playing"] and it["n"] == 1, "without the server the second file follows the first")
    pass_time(page, 2)
    assert player(page)["target"] == 0.125  # the welcome is being said
    pass_time(page, 215)
    assert page.inner_text("#phase") == "hold"
    until_it(page, lambda it: it["target"] == 0.5, "in a hold without words it is as loud as was asked")
    page.keyboard.press(" ")
    until_it(page, lambda it: not it["playing"], "a paused class is silent")
    page.keyboard.press(" ")
    until_it(page, lambda it: it["playing"], "and goes on")
    page.context.set_offline(False)
    was = player(page)["at"]
    page.reload()
    until_it(page, lambda it: it["n"] == 1 and it["at"] >= was > 0, "after a reload it is where it was")
    page.keyboard.press("d")  # what a browser may want before it plays
    until_it(page, lambda it: it["playing"], "and plays on")
    for _ in range(40):
        if "Closing quiet" in page.inner_text("#next"):
            break
        page.keyboard.press("Shift+N")
        page.clock.run_for(50)
    page.evaluate("0")
    loud = player(page)["target"]
    pass_time(page, int(page.inner_text("#count")) - 2)
    assert 0 < player(page)["target"] < loud
    pass_time(page, 3)
    expect(page.locator("#phase")).to_have_text("quiet")
    until_it(page, lambda it: not it["playing"], "the closing quiet is quiet")
