"""A class that counts, waits and notes, as its teacher uses it: scopes on the Desk, notes and words on the Stage."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from extendum.core.model.timeline import CueKind
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.web.classes import store
from tests.browser.test_main_path import pass_time, settled, to_the_stage

pytestmark = pytest.mark.browser


@pytest.fixture
def hands(owner):
    """The demo class that uses what teachers use."""
    return store.create(
        owner,
        loads((Path(__file__).parents[2] / "src/extendum/data/demo/hands-after-throwing.json").read_bytes()),
        "Loaded",
    )


def test_a_prompt_is_given_turns_and_a_scope_on_the_desk_and_words_says_when_each_is_heard(page, hands):
    page.goto(f"/classes/{hands.pk}/?item=i9")
    page.locator("#prompt-1").fill("You should feel this along your side. | Feel it along this side too.")
    page.locator("#prompt-1").press("Tab")
    settled(page)
    page.locator("#prompt-when-1").select_option("every pass")
    settled(page)
    page.keyboard.press("Escape")
    page.goto(f"/classes/{hands.pk}/words/")
    line = page.locator("#passage-i9 .text-line", has=page.locator("#prompt-i9-1"))
    expect(line).to_contain_text(re.compile(r"at \d+:\d\d.*: You should feel this along your side\."))
    expect(line).to_contain_text(re.compile(r"at \d+:\d\d.*: Feel it along this side too\."))


def test_the_stage_tells_notes_ahead_shows_own_pace_and_words_of_phases_and_only_key_words_when_asked(page, hands):
    timeline = compile_script(store.script_of(hands.present))
    note = next(cue for cue in timeline.cues if cue.kind is CueKind.NOTE)
    begins = next(s.start_s for s in timeline.segments if s.item == note.of.item and s.kind.works)
    own_pace = next(s.start_s for s in timeline.segments if s.kind.works)
    to_the_stage(page, hands)
    page.keyboard.press(" ")
    pass_time(page, own_pace + 2)
    expect(page.locator("#phase")).to_have_text("your pace, 5 to 8")
    expect(page.locator("#mine")).to_be_hidden()
    pass_time(page, note.start_ms // 1000 - own_pace - 6)
    expect(page.locator("#mine")).to_contain_text(note.text)
    expect(page.locator("#mine-when")).to_have_text(re.compile(r"in \d s"))
    pass_time(page, 6)
    expect(page.locator("#own")).to_contain_text("side-on")
    page.keyboard.press("d")
    expect(page.locator("#key-words")).to_have_text("Round · lift")
    expect(page.locator("#words")).to_be_hidden()
    pass_time(page, begins - note.start_ms // 1000)
    expect(page.locator("#phase")).to_have_text(re.compile(r"(Exhale|Inhale), and (round|lift)"))
    page.keyboard.press("Shift+X")
    expect(page.locator("#deeper")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("x")
    expect(page.locator("#deeper")).to_have_attribute("aria-pressed", "false")
    page.keyboard.press("d")
    expect(page.locator("#key-words")).to_be_hidden()
