"""The pace of a class: even time keeps every moment in order, and slow and brisk classes come near each other in it."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bench.hear import lines_of
from bench.written import paced
from extendum.core.heard.hear import hear, length_of
from extendum.core.heard.pace import pace_of
from extendum.core.heard.said import Word, said
from extendum.core.heard.states import Part, State
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken

HEARING = hearing(tuple(shipped_moves()))
SPEECH = st.lists(st.tuples(st.floats(0.1, 1.0), st.floats(0.0, 40.0)), min_size=1, max_size=60)


def spoken(lasts):
    words, at = [], 2.0
    for seconds, silence in lasts:
        words.append(Word("and", "and", at, at + seconds, 0, 0, "and"))
        at += seconds + silence
    return words, at + 1.0


@given(SPEECH)
def test_even_time_keeps_the_order_and_leads_back(lasts):
    words, length = spoken(lasts)
    pace = pace_of(words, length)
    even = pace.evened(np.array([word.at for word in words]))
    assert all(a < b for a, b in pairwise(even))
    parts = [Part(State.TALK, 0, 1, float(a), float(b)) for a, b in pairwise(even)]
    back = [one.start for one in pace.parts(parts)]
    assert back == pytest.approx([word.at for word in words[:-1]], abs=1e-6)
    for word, start in zip(words, even, strict=True):  # what is spoken lasts as long as before
        assert pace.evened(np.array([word.until]))[0] - start == pytest.approx(word.until - word.at, abs=1e-6)


@pytest.mark.parametrize("share", [0.4, 2.5])
def test_another_pace_is_drawn_to_the_usual_one(share):
    def lasts(words, length):
        pace = pace_of(words, length)
        silent = sum(b.at - a.until for a, b in pairwise(words))
        at, until = (pace.evened(np.array([getattr(one, end) for one in words])) for end in ("at", "until"))
        return silent, float(np.sum(at[1:] - until[:-1]))

    lines = lines_of("dev-01")
    usual = said(lines, HEARING.silences)
    other, _ = paced("dev-01", share)
    moved = said(other, HEARING.silences)
    real, even = (a / b for a, b in zip(
        lasts(moved, length_of(moved, other)), lasts(usual, length_of(usual, lines)), strict=True
    ))  # fmt: skip
    assert abs(np.log(even)) < 0.7 * abs(np.log(real))


def test_a_class_four_times_as_slow_is_heard():
    slow = [Spoken(4 * one.start, one.text) for one in lines_of("dev-06")]
    found, usual = (len(hear(some, HEARING).moves) for some in (slow, lines_of("dev-06")))
    assert 0.6 <= found / usual <= 1.7
