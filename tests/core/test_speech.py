"""Speaking time: words as spoken, at a rate, plus a pause per sentence. Lengths worked out by hand."""

import pytest

from extendum.core.listening.spelled import number_words
from extendum.core.model.errors import RefusedError
from extendum.core.model.timeline import clock, parse_clock
from extendum.core.model.voice import Speech
from extendum.core.timing.speech import sentences, speaking_ms, word_count


@pytest.mark.parametrize(
    ("text", "words", "ends"),
    [
        ("", 0, 0),
        ("...", 0, 0),
        ("Welcome.", 1, 1),
        ("Don’t hurry, it's fine", 4, 1),
        ("Hold for 35 seconds. Then 2!", 7, 2),  # hold for thirty five seconds, then two
        ("Slow-rise, one leg.", 4, 1),
        ("Wait 2.5 s. Go on", 7, 2),  # wait two point five s, go on
        ("“Stay.” Now you", 3, 2),
        ("100000 steps", 4, 1),  # one hundred thousand steps
        ("1234567 steps", 8, 1),  # digit by digit
    ],
)
def test_words_and_sentences_as_spoken(text, words, ends):
    assert (word_count(text), len(sentences(text))) == (words, ends)


def test_speaking_time_is_words_at_the_rate_plus_a_pause_per_sentence():
    assert speaking_ms("Stand tall and let your shoulders drop.", Speech(165)) == 2545 + 300
    assert speaking_ms("Sit. Stay.", Speech(120)) == 1000 + 600


def test_numbers_are_spelled_out():
    expected = {0: "zero", 13: "thirteen", 35: "thirty five", 100: "one hundred", 219: "two hundred nineteen"}
    assert {n: number_words(n) for n in expected} == expected


@pytest.mark.parametrize(("text", "seconds"), [("10", 600), ("9:05", 545), ("1:02:30", 3750), (" 0:07 ", 7)])
def test_lengths_are_read_as_people_write_them(text, seconds):
    assert parse_clock(text) == seconds
    assert parse_clock(clock(seconds)) == seconds


@pytest.mark.parametrize("text", ["", "ten", "1:60", "-1", "1:2:3:4", "1.5", "99999:00"])
def test_what_is_no_length_is_refused_with_what_was_typed(text):
    with pytest.raises(RefusedError) as refused:
        parse_clock(text)
    assert refused.value.found == text
