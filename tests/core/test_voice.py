"""A voice: what was read lasts as long as it was read, the rest follows from it, and what is missing is known."""

import random
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.fit.fit import Fitter
from extendum.core.model.timeline import CueKind, Mode
from extendum.core.model.voice import Length, Speech, Voice, spoken_key
from extendum.core.outputs.readings import fitted_rate, spoken_with, to_read, voice_of
from extendum.core.timing.compile import compile_script
from extendum.core.timing.reasons import speech_reason
from extendum.core.timing.speech import at_rate_ms, speaking_ms
from extendum.formats.document import dumps, loads
from tests.core.test_invariants import INVARIANTS
from tests.strategies import scripts

DATA = Path(__file__).parents[1] / "data"


def read_in(script, rng, share=1.0):
    """The class with a voice that has read some of its texts, each a little faster or slower than is guessed."""
    lengths = [
        Length(one.text, max(1, round(at_rate_ms(one.text, 165) * rng.uniform(0.5, 1.8))))
        for one in to_read(script, compile_script(script))
        if rng.random() < share
    ]
    return replace(script, style=replace(script.style, voice=Voice("Ada", tuple(lengths))))


@pytest.mark.parametrize(
    ("one", "other"),
    [("Halfway.", "halfway"), ("Sit *tall*,  now.", "sit tall, now"), ("Don’t push!", "Don't push"), ("And …", "and")],
)
def test_a_text_is_known_by_what_is_heard_of_it(one, other):
    assert spoken_key(one) == spoken_key(other)
    assert spoken_key("Lift your left arm.") != spoken_key("Lift your right arm.")


def test_what_was_read_lasts_as_long_as_it_was_read_and_the_rest_goes_by_the_voices_rate():
    voice = Voice("Ada", (Length("Sit tall.", 1234),), word_ms=400, sentence_ms=250)
    assert speaking_ms("SIT tall", Speech(165, voice)) == 1234
    assert speaking_ms("Sit very tall. Wait.", Speech(165, voice)) == 4 * 400 + 2 * 250
    assert speaking_ms("Sit very tall.", Speech(165, replace(voice, word_ms=0))) == at_rate_ms("Sit very tall.", 165)
    assert speech_reason(2, ["Sit tall."], Speech(165, voice)) == "2 s: read by Ada in 1.2 s"
    assert speech_reason(2, ["Sit very tall."], Speech(165, voice)) == "2 s: 3 words as Ada speaks, 1.4 s"


@settings(max_examples=40, deadline=None)
@given(scripts(), st.integers(0, 99), st.sampled_from((0.3, 1.0)))
def test_every_invariant_holds_in_any_voice(script, number, share):
    spoken = read_in(script, random.Random(number), share)  # noqa: S311
    timeline = compile_script(spoken)
    for invariant in INVARIANTS:
        invariant(spoken, timeline)
    lengths = spoken.style.voice.lengths
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN and cue.kind is not CueKind.COUNT and spoken_key(cue.text) in lengths:
            assert cue.end_ms - cue.start_ms == lengths[spoken_key(cue.text)], cue


def test_a_class_in_a_voice_is_fitted_to_the_second_and_keeps_the_table_in_its_document():
    script = loads((DATA / "digging.json").read_text())
    every = read_in(script, random.Random(1)).style.voice  # noqa: S311
    more = voice_of("Ada", (*every.readings, Length("Something that this class never says.", 2000)))
    spoken = spoken_with(script, more, compile_script(script))
    assert len(spoken.style.voice.readings) == len(every.readings) and spoken.style.voice.word_ms == more.word_ms > 0
    assert Fitter(spoken).fit(720).reached
    assert loads(dumps(spoken)) == spoken and compile_script(loads(dumps(spoken))) == compile_script(spoken)
    assert spoken_with(spoken, None, compile_script(spoken)) == script


def test_what_is_missing_and_what_does_not_fit_is_known():
    script = loads((DATA / "digging.json").read_text())
    texts = to_read(script, compile_script(script))
    assert len({one.key for one in texts}) == len(texts) and all(one.read_ms is None for one in texts)
    assert next(one for one in texts if one.text == "Halfway.").times > 3
    three = next(one for one in texts if one.kind is CueKind.COUNT and one.text == "3")
    assert three.room_ms == 1000
    slow = replace(script, style=replace(script.style, voice=Voice("Ada", (Length("3", 1400), Length("2", 700)))))
    read = {one.text: one for one in to_read(slow, compile_script(slow))}
    assert not read["3"].fits and read["2"].fits and read["2"].read_ms == 700


def test_the_rate_of_a_voice_is_found_again_with_its_error():
    rng = random.Random(3)  # noqa: S311
    texts = ["Sit tall.", "Lift your left arm and lean.", "Breathe out slowly. And once more.", "Let go of your foot."]
    texts += ["Halfway.", "Bend both knees and keep your heels down, as far as is easy.", "Rest. Shake it out."]
    exact = [Length(one, round(speaking_ms(one, Speech(165, Voice("A", (), 410, 280))))) for one in texts]
    assert fitted_rate(exact) == (410, 280, pytest.approx(0, abs=0.1))
    uneven = [replace(one, ms=round(one.ms * rng.uniform(0.9, 1.1))) for one in exact]
    assert 1 < fitted_rate(uneven).off_percent < 10
    assert fitted_rate(exact[:5]) is None
