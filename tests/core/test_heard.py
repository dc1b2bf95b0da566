"""A recording is heard: measured on texts in different styles, three of them written before and never tuned to."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from extendum.core.heard.guess import What
from extendum.core.heard.hear import hear
from extendum.core.heard.report import heard_report
from extendum.core.model.errors import RefusedError
from extendum.formats.timed_text import Spoken, read_timed
from tests.spoken import FOLDER, HELD_OUT, TUNED, heard, summed


def test_switches_calls_and_counts_are_found_in_texts_that_nothing_was_tuned_to():
    whole, rates, (middle, _) = summed(HELD_OUT)
    assert whole["switches"][2] == 6
    assert min(rates["switches"]) >= 0.9
    assert min(rates["halfway"]) >= 0.9
    assert min(rates["time left"]) >= 0.9
    assert min(rates["countdowns"]) >= 0.9
    assert min(rates["reps"]) >= 0.9
    assert middle < 5


def test_and_in_those_that_were_looked_at():
    _, rates, (middle, most) = summed(TUNED)
    assert min(rates["switches"]) >= 0.9
    assert min(rates["time left"]) >= 0.8
    assert middle < 3
    assert most < 6


def lines(*some):
    return [Spoken(float(at), text) for at, text in some]


def test_sides_calls_halves_and_slips_are_held_against_what_really_was():
    said = lines(
        (0, "Hello. Five minutes for the legs. This prevents injuries."),
        (8, "Calf stretch. Step your left foot back."),
        (15, "And hold."),
        (25, "Halfway. Keep breathing."),
        (40, "Ten more seconds."),
        (56, "Release. Keep breathing."),
        (60, "Other side. Right foot back."),
        (66, "And hold. Keep breathing."),
        (80, "Five, four, two, one, and release."),
        (90, "Push through the pain next time. Thank you."),
    )
    found = heard_report(said, hear(said))
    assert (found.announced_min, found.length_s) == (5, 94)
    (sides,) = found.sides
    assert (sides.name, sides.sides, sides.apart_s) == ("calf stretch", (("left", 41), ("right", 16)), 25)
    assert [(call.said_s, call.real_s) for call in found.calls] == [(10, 16)]
    assert [half.percent for half in found.halves] == [24]
    assert [slip for _, slip in found.slips] == ["2 after 4"]
    assert found.repeated == (("Keep breathing.", 3),)
    assert [what for _, what, _ in found.said if what != "caution"] == ["claim", "pushes"]
    assert found.facts()[-2:] == ["An easier way was not offered.", "Breath was prompted 3 times."]
    assert found.opening_s == 8
    told = found.facts()
    assert told[0] == "1:34 long, 5 minutes were announced: 3:26 under; 8 s before the first move, 12 s after the last."
    assert "Calf stretch: left 41 s, right 16 s: 25 s apart." in told
    assert "At 0:40 10 seconds were called and 16 came." in told
    assert "At 0:25 half was called at 24 % of it." in told
    assert sum(minute.words for minute in found.minutes) == sum(len(line.text.split()) for line in said)


def test_a_guess_that_is_wrong_is_left_out_and_the_rest_follows():
    said = lines((0, "Calf stretch. Left foot back."), (6, "Hold."), (30, "Other one waved to me."), (40, "Release."))
    first = hear(said)
    (switch,) = first.of(What.SWITCH)
    assert [s.seconds for s in first.stretches] == [24.0]
    again = hear(said, wrong={switch.key})
    assert again.of(What.SWITCH) == []
    assert [(s.side, s.seconds) for s in again.stretches] == [("left", 34.0)]
    assert switch.why == "“other one”"


def test_every_guess_of_the_texts_has_its_reason_and_lies_inside():
    for name in (*TUNED, *HELD_OUT):
        found, _ = heard(name)
        assert all(one.why and 0 < one.sure < 1 and 0 <= one.at <= found.length for one in found.guesses)
        assert len({one.key for one in found.guesses}) == len(found.guesses)
        for one, other in zip(found.stretches, found.stretches[1:], strict=False):
            assert one.end <= other.start


def test_three_ways_of_timing_are_read_alike():
    vtt = "WEBVTT\n\n00:00:05.500 --> 00:00:07.000 align:start\n<v Ada>And hold.</v>\nBreathe.\n\nNOTE x\n"
    srt = "1\n00:00:05,500 --> 00:00:07,000\nAnd hold.\nBreathe.\n"
    assert read_timed(vtt) == read_timed(srt) == [Spoken(5.5, "And hold. Breathe.", 7.0)]
    assert read_timed("[0:05] And hold.\nBreathe.\n(1:02:03) End") == [
        Spoken(5.0, "And hold. Breathe."),
        Spoken(3723.0, "End"),
    ]
    for path in FOLDER.glob("*.[vst]*t"):
        assert len(read_timed(path.read_bytes())) > 5


@settings(max_examples=40, deadline=None)
@given(
    st.one_of(st.text(max_size=300), st.binary(max_size=300), st.text("[]0123456789:>-. lefthodswic\n,", max_size=300))
)
def test_anything_is_read_or_refused_and_never_breaks(text):
    try:
        said = read_timed(text)
    except RefusedError as error:
        assert str(error)
        return
    found = heard_report(said, hear(said, ["Calf lean"]))
    assert found.length_s >= 0


@pytest.mark.parametrize(("gap", "switches"), [(11.9, 1), (12, 2)])
def test_what_is_said_again_within_twelve_seconds_is_the_same(gap, switches):
    said = lines((0, "Calf stretch. Step your left foot back."), (10, "And hold."), (40, "Other side."))
    said += lines((40 + gap, "Other side."), (90, "Release."))
    assert sum(guess.what is What.SWITCH for guess in hear(said).guesses) == switches
