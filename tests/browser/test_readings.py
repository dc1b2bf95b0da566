"""Reading a class in through a microphone, as its user does: three texts, their lengths, a fit, and the guide."""

import numpy as np
import pytest
import soundfile
from django.test import override_settings
from playwright.sync_api import expect
from scipy.signal import correlate

from bench.chromium import chromium
from extendum.core.edit import script_edits as edit
from extendum.core.model.timeline import Mode
from extendum.core.model.voice import spoken_key
from extendum.core.outputs.readings import to_read
from extendum.core.sound.clean import cleaned
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.formats.audio import Kind, audio_guide
from extendum.formats.library import shipped_move
from extendum.web.classes import store
from extendum.web.voices.models import Reading, Voice
from extendum.web.voices.store import keep, named, readings_of, speaker, spoken
from tests.browser.test_run import until
from tests.core.test_recorded import in_a_room, said, silence


@pytest.fixture
def evening(owner):
    script = edit.new_script("Evening", 180)
    for key in ("calf-lean", "shoulder-circles"):
        script, _ = edit.add_move(script, shipped_move(key))
    return store.create(owner, script, "Made")


@pytest.fixture
def speaking(playwright, tmp_path, live_server, owner, client):
    """A page whose microphone hears somebody say the same again and again; readings go into a folder of their own."""
    rng = np.random.default_rng(8)
    heard = in_a_room(np.concatenate([silence(0.4), said("Sit tall.", rng), silence(1.3)]), rng)
    soundfile.write(tmp_path / "said.wav", heard, RATE, "PCM_16")
    flags = ["--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream"]
    browser = chromium(playwright, *flags, f"--use-file-for-fake-audio-capture={tmp_path / 'said.wav'}")
    context = browser.new_context(base_url=live_server.url, permissions=["microphone"])
    client.force_login(owner)
    session = client.cookies["sessionid"].value
    context.add_cookies([{"name": "sessionid", "value": session, "url": live_server.url}])
    with override_settings(DATA=tmp_path):
        yield context.new_page()
    browser.close()


def test_three_texts_are_read_taken_into_the_class_and_heard_in_their_places(speaking, evening, owner, tmp_path):
    page = speaking
    page.goto(f"/classes/{evening.pk}/readings/")
    page.fill("#new-voice [name=name]", "Ada")
    page.keyboard.press("Enter")
    expect(page.locator("#counts")).to_contain_text("0 read")
    page.keyboard.press("f")
    page.keyboard.press("Space")  # and from there on it goes by itself
    expect(page.locator("#counts")).to_contain_text("3 read", timeout=60_000)
    page.keyboard.press("f")
    expect(page.locator("#texts li").first).to_contain_text("read")
    page.keyboard.press("t")
    page.wait_for_selector("#desk")
    page.keyboard.press("f")
    page.keyboard.type("3:00")
    page.keyboard.press("Enter")
    expect(page.get_by_text("to the second").first).to_be_visible()
    evening.refresh_from_db()
    script = store.script_of(evening.present)
    lengths = {spoken_key(one.text): one.ms for one in Reading.objects.all()}
    assert script.style.voice.lengths.items() <= lengths.items()
    assert length_of(script) == script.brief.target_s
    timeline = compile_script(script)
    audio_guide(timeline, tmp_path / "guide.wav", Kind.WAV, 150, speaker(script, owner, None))
    sound = soundfile.read(tmp_path / "guide.wav", dtype="float32")[0].mean(axis=1)
    readings = readings_of(Voice.objects.get())
    cues = [one for one in timeline.cues if one.mode is Mode.SPOKEN and spoken_key(one.text) in lengths]
    assert len(cues) >= 3
    for cue in cues:
        assert abs(cue.end_ms - cue.start_ms - lengths[spoken_key(cue.text)]) <= 1
        first = max(0, cue.start_ms * RATE // 1000 - RATE // 10)
        read = readings.samples(cue.text)
        around = sound[first : first + len(read) + RATE // 5]
        found = first + int(correlate(around, read, "valid", "fft").argmax())
        assert abs(found * 1000 / RATE - cue.start_ms) <= 20


def test_what_was_read_waits_in_the_browser_while_the_server_is_away(speaking, evening):
    page = speaking
    page.goto(f"/classes/{evening.pk}/readings/")
    page.fill("#new-voice [name=name]", "Ada")
    page.keyboard.press("Enter")
    expect(page.locator("#counts")).to_contain_text("0 read")
    page.keyboard.press("f")
    page.route("**/keep/", lambda route: route.abort())
    page.keyboard.press("Space")
    expect(page.locator("#notice")).to_contain_text("1 reading waits in this browser", timeout=30_000)
    page.keyboard.press("f")
    assert not Reading.objects.exists()
    page.unroute("**/keep/")
    page.reload()
    expect(page.locator("#texts li").first).to_contain_text("· read")
    assert Reading.objects.exists()


#: Every sound that a page begins, and whether it is silent for now.
WATCHED = """
window.begun = []; window.contexts = [];
const Real = AudioContext;
window.AudioContext = class extends Real { constructor(...all) { super(...all); contexts.push(this); } };
const start = AudioBufferSourceNode.prototype.start;
AudioBufferSourceNode.prototype.start = function (...all) {
  begun.push(Math.round(1000 * this.buffer.duration));
  return start.apply(this, all);
};
"""


def test_the_stage_speaks_with_the_readings_and_pauses_within_a_word(page, evening, owner, tmp_path):
    rng = np.random.default_rng(3)
    with override_settings(DATA=tmp_path):
        voice = named(owner, "Ada")
        script = store.script_of(evening.present)
        texts = [one.text for one in to_read(script, compile_script(script))]
        for text in texts[:3]:
            recorded = in_a_room(np.concatenate([silence(0.5), said(text, rng), silence(0.5)]), rng)
            keep(voice, text, recorded, cleaned(recorded), evening)
        of = store.change(evening, evening.stamp, "Spoken", lambda script: spoken(script, voice))
        first = Reading.objects.order_by("pk").first()
        page.add_init_script(WATCHED)
        page.goto(f"/classes/{of.pk}/stage/")
        page.keyboard.press("m")
        page.select_option("#speaks", "mine")
        page.keyboard.press("m")
        page.keyboard.press("Space")
        until(page, "begun.length > 0")
        assert abs(page.evaluate("begun[0]") - first.ms) <= 90  # with the 40 ms around it
        page.keyboard.press("Space")
        until(page, "contexts.some((one) => one.state === 'suspended')")
        page.keyboard.press("Space")
        until(page, "contexts.every((one) => one.state === 'running')")
