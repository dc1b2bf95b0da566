"""One long recording with many texts in order, cut where one text ends and the next begins.

The pieces of speech between silences are given to the texts in order, so that each text gets about as long as it
takes to say and the cuts lie in the longest silences: the best of all ways by dynamic programming. What was said
besides, a cough or a false start, may be left out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from extendum.core.model.errors import RefusedError
from extendum.core.sound.clean import without_rumble
from extendum.core.sound.speech import RATE, Samples, Stretch, speech_in

#: So many pieces at most are one text.
PIECES_MOST = 24
#: What a piece costs that is left out, by itself and for each second of it.
LEFT_OUT, LEFT_OUT_S = 1.2, 1.5
#: By how much the length of a text may differ from what is guessed before it is in doubt: a factor, and milliseconds
#: beside it. So many milliseconds are nothing in a comparison, since the shortest texts vary most.
DOUBT_FACTOR, DOUBT_MS, SLACK_MS = 1.6, 300, 250
#: Silences compared by their logarithm: a text that goes on over a long one is unlikely, and a cut in a short one.
_GAP_WEIGHT, _LENGTH_WEIGHT = 0.9, 4.0


@dataclass(frozen=True, slots=True)
class Piece:
    """Where a text is in a recording, and why that is in doubt; no doubt is an empty text."""

    text: int
    at: Stretch
    doubt: str = ""


def cut(recorded: Samples, guesses_ms: Sequence[int]) -> tuple[Piece, ...]:
    """A piece for each text, in order; RefusedError where there are fewer pieces of speech than texts.

    ``guesses_ms``: about how long each text takes to say.
    """
    found = speech_in(without_rumble(recorded)).stretches
    if len(found) < len(guesses_ms):
        raise RefusedError(
            "recording", f"{len(guesses_ms)} texts with a silence after each", f"{len(found)} pieces of speech"
        )
    # How fast somebody reads shows in the whole; what was left out makes it no more than a beginning.
    faster = sum(one.ms for one in found) / max(1, sum(guesses_ms))
    runs = _best(found, [guess * faster for guess in guesses_ms])
    ratio = float(np.median([_span(found, *run).ms / guess for run, guess in zip(runs, guesses_ms, strict=True)]))
    runs = _best(found, [guess * ratio for guess in guesses_ms])
    return tuple(
        Piece(n, _span(found, *run), _doubt(found, run, guess * ratio))
        for n, (run, guess) in enumerate(zip(runs, guesses_ms, strict=True))
    )


def _span(found: Sequence[Stretch], first: int, last: int) -> Stretch:
    return Stretch(found[first].start, found[last].end)


def _best(found: Sequence[Stretch], guesses: Sequence[float]) -> list[tuple[int, int]]:
    """The first and the last piece of each text, in the best of all ways."""
    gaps = [max(1.0, (b.start - a.end) * 1000 / RATE) for a, b in pairwise(found)]
    middle = float(np.log(np.median(gaps))) if gaps else 0.0
    long = [float(np.log(gap)) - middle for gap in gaps]
    left_out = [LEFT_OUT + LEFT_OUT_S * one.ms / 1000 for one in found]
    pieces, texts = len(found), len(guesses)
    best = np.full((texts + 1, pieces + 1), np.inf)
    came = np.zeros((texts + 1, pieces + 1), dtype=np.int32)  # the first piece of the text that ends here; -1: left out
    best[0] = np.concatenate(([0.0], np.cumsum(left_out)))
    for text in range(1, texts + 1):
        for end in range(text, pieces + 1):
            options = [(best[text, end - 1] + left_out[end - 1], -1)]
            inside = 0.0
            for first in range(end - 1, max(text - 2, end - 1 - PIECES_MOST), -1):
                if first < end - 1:
                    inside += max(0.0, long[first]) * _GAP_WEIGHT
                length = (found[end - 1].end - found[first].start) * 1000 / RATE
                off = abs(float(np.log((length + SLACK_MS) / (guesses[text - 1] + SLACK_MS))))
                cuts = -_GAP_WEIGHT * min(1.5, long[first - 1]) if first else 0.0
                options.append((best[text - 1, first] + _LENGTH_WEIGHT * off**2 + inside + cuts, first))
            best[text, end], came[text, end] = min(options)
    runs, at = [], pieces
    for text in range(texts, 0, -1):
        while came[text, at] < 0:
            at -= 1
        runs.append((int(came[text, at]), at - 1))
        at = int(came[text, at])
    return runs[::-1]


def _doubt(found: Sequence[Stretch], run: tuple[int, int], guess: float) -> str:
    """Why a piece may be cut wrongly, in a few words."""
    length = _span(found, *run).ms
    if length > guess * DOUBT_FACTOR + DOUBT_MS:
        return "longer than expected: more than this text may be in it"
    if length * DOUBT_FACTOR + DOUBT_MS < guess:
        return "shorter than expected: a part may be missing"
    return ""
