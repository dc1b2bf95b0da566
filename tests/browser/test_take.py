"""In front of a camera: slate, prompter, one item taken again; captions follow the take that was kept. And the pack."""

import zipfile
from urllib.request import Request, urlopen

import pysubs2
import pytest
from playwright.sync_api import expect

from extendum.core.outputs.captions import captions
from extendum.core.timing.compile import compile_script
from extendum.web.classes import store
from extendum.web.records.models import Session
from tests.browser.test_main_path import pass_time

pytestmark = pytest.mark.browser


def test_a_recording_with_one_retake_has_captions_that_follow(page, digging):
    page.clock.install(time=0)
    page.goto(f"/classes/{digging.pk}/take/")
    expect(page.locator("#start")).to_be_enabled()
    page.clock.pause_at(3_600_000)
    page.keyboard.press(" ")
    page.clock.run_for(1000)
    expect(page.locator("#counting")).to_contain_text("Slate")
    page.clock.run_for(2100)
    expect(page.locator("#counting")).to_be_hidden()
    pass_time(page, 200)
    assert (page.inner_text("#name"), page.inner_text("#phase")) == ("Wall calf stretch", "hold")
    expect(page.locator("#prompter .now")).to_have_count(1)
    page.clock.run_for(50)  # a frame after the fonts are there
    mark, box = page.locator("#prompter .now").bounding_box(), page.locator("#prompter").bounding_box()
    assert box["y"] <= mark["y"] + mark["height"]
    assert mark["y"] < box["y"] + box["height"] / 2
    page.keyboard.press("k")
    page.keyboard.press("r")
    assert page.inner_text("#phase") == "get there"
    expect(page.locator("#late")).to_contain_text("in the file")
    pass_time(page, 800)
    expect(page.locator("#learned")).to_contain_text("Retaken: Wall calf stretch. 1 insert shot marked.")
    page.click("text=The take list")
    cookies = "; ".join(f"{one['name']}={one['value']}" for one in page.context.cookies())
    address = page.locator("a[href*='srt'][href*='cut']").evaluate("link => link.href")
    text = urlopen(Request(address, headers={"Cookie": cookies})).read().decode()  # noqa: S310
    planned = captions(compile_script(store.script_of(digging.head)))
    cut = pysubs2.SSAFile.from_string(text)
    assert len(cut) == len(planned)
    assert all(abs(line.start - one.start_ms) <= 150 for line, one in zip(cut, planned, strict=True))
    assert Session.objects.count() == 0
    digging.refresh_from_db()
    assert digging.taught_at is None


def test_the_pack_is_made_with_progress_and_saved(page, digging, settings, tmp_path):
    settings.DATA = tmp_path
    page.goto(f"/classes/{digging.pk}/")
    page.keyboard.press("e")
    page.wait_for_url("**/give/")
    page.click("text=Make the pack")
    expect(page.locator("#making-pack")).to_contain_text("being made")
    with page.expect_download(timeout=180_000) as saved:
        page.click("text=Save the pack", timeout=180_000)
    assert saved.value.suggested_filename == "after-the-digging-pack.zip"
    with zipfile.ZipFile(saved.value.path()) as files:
        assert {"captions.vtt", "cue-sheet.pdf", "handout.pdf", "guide.ogg", "class.json"} <= set(files.namelist())
