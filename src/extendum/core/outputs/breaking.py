"""Where a text is broken into captions and lines: after a sentence, a clause, then a phrase, never inside one.

Every gap between two words has a cost by what it would tear apart. Of all ways to cut a text into captions of at most
two lines the one with the least cost in all is taken, by dynamic programming.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from itertools import pairwise

WIDE, LINES = 42, 2

#: Costs of a gap: after a sentence, a clause; before a phrase; between words that nothing holds together or apart;
#: inside a phrase; after a word that only opens one.
SENTENCE, CLAUSE, PHRASE, PLAIN, INSIDE, TORN = 0, 1, 3, 6, 14, 24
#: What a caption costs by itself, what its end weighs beside the end of a line, and a line that is so much shorter.
CAPTION, END_WEIGHT, UNEVEN = 5, 3, 0.06
#: A sentence of so few words that asks something belongs to the answer after it, and so does a name before a colon.
SHORT = 2


def _words(some: str) -> frozenset[str]:
    return frozenset(some.split())


#: A line does not end with one of these: what they begin is torn from them.
_OPENS = _words("""
    a an the this that these those each every both either neither any some no another other
    my your his her its our their one two three four five six seven eight nine ten
    and or but nor so then if when while where until unless because as than though
    of to in on at by for from with without into onto over under behind between through towards toward across along
    above below beside against around past near like about after before during
    is are was were be been being am do does did has have had can could may might must shall should will would let
    don't doesn't didn't can't won't isn't aren't not never very too more most less least only just still even almost
    left right upper lower front back top same whole next last first second third i you we they it he she who which
    keep feel you'll you're we'll we're it's that's there's
""")
#: A phrase begins with these.
_BEGINS = _words("""
    and or but so then if when while where until unless because as than though
    of to in on at by for from with without into onto over under behind between through towards toward across along
    above below beside against around past near like about after before during who which that
""")
#: These finish what the word before them says: sit tall, lift up, breathe out, let go.
_ENDS = _words("""
    tall up down out off away apart together forward forwards backward backwards upwards downwards sideways inward
    inwards outward outwards slowly gently softly smoothly evenly again still open closed straight heavy long loose soft
    wide flat quiet easy easily lightly deeply fully go there here too instead alone first
""")
#: These may stand for a thing, and end a line before a phrase: step to the left | and lean.
_THINGS = _words("left right back front top one two three four five six seven eight nine ten first second third")


def broken(text: str) -> list[tuple[str, ...]]:
    """The text as captions, each of one or two lines of at most 42 characters; together they are all of its words."""
    words = [part for word in text.split() for part in _short(word)]
    if not words:
        return []
    gaps = [_gap(before, after, words, n) for n, (before, after) in enumerate(pairwise(words))]
    gaps.append(SENTENCE)
    lengths = [len(word) for word in words]

    @cache
    def line_from(first: int) -> int:
        """How many words from one on fit on a line."""
        width, n = lengths[first], first + 1
        while n < len(words) and width + 1 + lengths[n] <= WIDE:
            width += 1 + lengths[n]
            n += 1
        return n

    best: list[tuple[float, int, int]] = [(0.0, 0, 0)] * (len(words) + 1)
    for first in range(len(words) - 1, -1, -1):
        options = []
        for middle in range(first + 1, line_from(first) + 1):
            options.append((CAPTION + END_WEIGHT * gaps[middle - 1] + best[middle][0], middle, middle))
            for end in range(middle + 1, line_from(middle) + 1 if middle < len(words) else 0):
                uneven = abs(sum(lengths[first:middle]) - sum(lengths[middle:end]))
                cost = CAPTION + gaps[middle - 1] + UNEVEN * uneven + END_WEIGHT * gaps[end - 1] + best[end][0]
                options.append((cost, middle, end))
        best[first] = min(options)
    found, at = [], 0
    while at < len(words):
        _, middle, end = best[at]
        lines = (words[at:middle], words[middle:end])
        found.append(tuple(" ".join(line) for line in lines if line))
        at = end
    return found


def _short(word: str) -> list[str]:
    """A word that is wider than a line, in parts."""
    return [word[n : n + WIDE] for n in range(0, len(word), WIDE)]


def _gap(before: str, after: str, words: Sequence[str], n: int) -> int:
    """What it costs to break between two words."""
    if before[-1] in ".!?…":
        begins = next((k for k in range(n - 1, -1, -1) if words[k][-1] in ".!?…"), -1) + 1
        asks = before[-1] == "?" and n - begins < SHORT
        return INSIDE if asks else SENTENCE
    if before[-1] in ":;,–—":
        return INSIDE if before[-1] == ":" and n < SHORT else CLAUSE
    bare, then = before.strip("“”\"'()").casefold(), after.strip("“”\"'().,;:!?…").casefold()
    if then in _ENDS:
        return INSIDE if bare not in _OPENS else TORN
    if bare in _OPENS and not (bare in _THINGS and then in _BEGINS):
        return TORN
    return PHRASE if then in _BEGINS else PLAIN
