"""Timed text however somebody writes it: each word once, when it is said, and nothing that is not said."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bench.written import WAYS, rolling
from extendum.core.heard.calling import calls
from extendum.core.heard.hear import hear
from extendum.core.heard.said import pieces_of, written
from extendum.core.model.errors import RefusedError
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken
from extendum.formats.timed_text import is_timed, read_timed

HEARING = hearing(tuple(shipped_moves()))
SAID = st.sampled_from(["and", "breathe", "in", "out", "left", "three", "two", "one"])
ROWS = st.lists(st.lists(SAID, min_size=1, max_size=6), min_size=3, max_size=14)


def heard_of(text):
    heard = hear(read_timed(text), HEARING)
    return [(move.name, move.passes) for move in heard.moves], heard.counts, heard.calls


@pytest.mark.parametrize("way", [way for way in WAYS if "captions" not in way and "timed" not in way])
def test_the_same_is_heard_however_it_is_written(way):
    assert heard_of(WAYS[way]("dev-01")) == heard_of(WAYS["as it is"]("dev-01"))


@given(ROWS)
def test_captions_that_roll_are_heard_once(rows):
    captions, above = [], []
    for n, row in enumerate(rows):
        timed = row[0] + "".join(f"<00:00:{4 * n + k // 2:02d}.{5 * (k % 2)}00> {row[k]}" for k in range(1, len(row)))
        captions.append(f"00:00:{4 * n:02d}.000 --> 00:00:{4 * n + 4:02d}.000\n{' '.join(above) or ' '}\n{timed}\n")
        above = row
    said = read_timed("WEBVTT\n\n" + "\n".join(captions))
    assert [word for one in said for word in one.text.split()] == [word for row in rows for word in row]
    assert all(one.end is None or one.start <= one.end <= one.start + 4.01 for one in said)


def test_rolling_captions_of_a_whole_class_lose_no_word_and_say_none_twice():
    whole = [word.text for word in hear(read_timed(WAYS["as it is"]("dev-02")), HEARING).words]
    for timed in (True, False):
        assert [word.text for word in hear(read_timed(rolling("dev-02", timed=timed)), HEARING).words] == whole


def test_a_row_that_grows_word_by_word_is_said_once():
    told = ["okay", "okay sit", "okay sit tall", "and breathe", "and breathe out"]
    text = "\n".join(f"00:00:{n:02d}.000 --> 00:00:{n + 1:02d}.000\n{row}\n" for n, row in enumerate(told))
    assert " ".join(one.text for one in read_timed(text)) == "okay sit tall and breathe out"


def test_what_is_said_twice_in_captions_that_do_not_roll_stays():
    told = "WEBVTT\n\n" + "\n".join(
        f"00:00:{n:02d}.000 --> 00:00:{n + 1:02d}.000\n{text}\n"
        for n, text in enumerate(["And breathe.", "And breathe.", "Lower.", "Rest."])
    )
    assert [one.text for one in read_timed(told)] == ["And breathe.", "And breathe.", "Lower.", "Rest."]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("[0:03] one [0:08] two (pause) [1:00] [music] three ♪", [
            (3, "one", None), (8, "two", None), (60, "three", None),
        ]),
        ("0:00:03.500,0:00:07.250\nhello there\n\n0:00:08.000,0:00:09.000\nyou", [
            (3.5, "hello there", 7.25), (8, "you", 9),
        ]),
        ("0:03\nSit tall.\n\n0:30\nLower.", [(3, "Sit tall.", None), (30, "Lower.", None)]),
        ("0:03 - 0:07 HOLD IT. I SAID\n0:09 - 0:12 REST", [(3, "Hold it. I said", 7), (9, "Rest", 12)]),
        ("[0:01] Ann: up\n[0:02] Ann: left: down\n[0:03] >> Ann: hold\n[0:04] Left: and rest", [
            (1, "up", None), (2, "left: down", None), (3, "hold", None), (4, "Left: and rest", None),
        ]),
        ("1\n00:00:01,000 --> 00:00:02,000\n<i>You &amp; me</i>\n \n2\n00:00:02,000 --> 00:00:03,000\nrest", [
            (1, "You & me", 2), (2, "rest", 3),
        ]),
    ],
)  # fmt: skip
def test_times_names_and_noises_are_no_words(text, said):
    assert is_timed(text)
    assert read_timed(text) == [Spoken(*one) for one in said]


def test_a_time_that_cannot_be_names_its_line():
    with pytest.raises(RefusedError, match=r"line 3.*a time up to 6 hours.*0:75"):
        read_timed("[0:01] one\n\n[0:75] two")
    with pytest.raises(RefusedError, match=r"line 1.*an end after its start"):
        read_timed("00:00:09.000 --> 00:00:02.000\nback")


def test_words_that_signs_join_are_words_of_their_own_and_are_written_as_they_were():
    told = "Twenty-five seconds left—hold,then rest...and half-kneel – or sit."
    assert [word for word, *_ in pieces_of(told)] == (
        ["twenty", "five", "seconds", "left", "hold", "then", "rest", "and", "half", "kneel", "or", "sit"]
    )
    words = hear([Spoken(0, told), Spoken(20, "Up.")], HEARING).words
    assert written(words[:12]) == "Twenty-five seconds left— hold, then rest... and half-kneel – or sit."
    assert [(one.number, one.unit) for one in calls(words, [])] == [(25, "seconds")]
