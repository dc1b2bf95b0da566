"""From the words of a recording to its moves: where its parts can begin, and what speaks for which."""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from extendum.core.heard.cues import Cues
from extendum.core.heard.names import Namer, Sign
from extendum.core.heard.said import JOINTS, Word
from extendum.core.heard.states import Floats, Places, State

#: So many words of a set-up are compared with the words of the library.
ALIKE_WORDS = 18
#: A silence that something can begin after.
SILENCE_S = 0.8
#: The same limb is named with the other side so many seconds after.
FLIP_S = (5.0, 110.0)
#: A text is not punctuated where fewer of its words than this end a sentence or a clause.
UNPUNCTUATED = 0.04
_INSIDE = frozenset(
    [
        "of",
        "to",
        "the",
        "a",
        "an",
        "is",
        "are",
        "was",
        "it",
        "on",
        "over",
        "in",
        "at",
        "be",
        "been",
        "than",
        "your",
        "you",
        "down",
        "up",
        "out",
    ]
)
_NOT_BEFORE = frozenset(
    [
        "to",
        "the",
        "a",
        "an",
        "your",
        "you",
        "can",
        "could",
        "should",
        "would",
        "will",
        "i",
        "we",
        "they",
        "that",
        "it's",
        "don't",
        "not",
        "never",
        "just",
    ]
)
_LIMB = re.compile(r"^(leg|arm|foot|feet|hand|knee|ankle|ear|elbow|shoulder|hip|thigh|shin|heel|wrist|one)s?$")


@dataclass(frozen=True)
class Weights:
    """What speaks for a part to begin at a place, in logarithms."""

    release: float = 1.0
    no_release: float = -2.0
    switch: float = 1.2
    flip: float = 1.8
    no_switch: float = -2.2
    next: float = 1.0
    counted: float = 0.0
    alike: float = 0.0
    posture: float = 0.8
    name: float = 0.6
    name_from: float = 2.2
    joint: float = -0.7
    act: float = -1.0
    comma: float = -0.3


def places_of(words: Sequence[Word], cues: Cues, length: float) -> Places:
    """Where parts can begin."""
    starts = {n for name in ("release", "switch", "next") for n in cues.at[name]}
    after = set(cues.ends["left over"]) | {n + 1 for n in cues.counted}
    bare = sum(bool(word.ends) for word in words) < UNPUNCTUATED * len(words)
    acts = (
        {n for n in range(1, len(words)) if words[n - 1].text not in _NOT_BEFORE and words[n].text not in _INSIDE}
        if bare
        else set()
    )
    own = [0]
    for n in range(1, len(words)):
        before = words[n - 1]
        if (
            before.ends
            or words[n].at - before.until > SILENCE_S
            or words[n].text in JOINTS
            or n in starts
            or n in after
            or n in acts
        ):
            own.append(n)
    begins = [words[n].at for n in own]
    ended = [words[n - 1].until if n else 0.0 for n in own]
    begins[0] = 0.0
    own.append(len(words))
    return Places(np.array(own), np.array([*begins, length]), np.array([*ended, words[-1].until]))


def sided(words: Sequence[Word]) -> list[tuple[int, str, str]]:
    """Each left and right that belongs to a limb, or stands for one."""
    found = []
    for n, word in enumerate(words):
        if word.text not in ("left", "right"):
            continue
        near = [one.text for one in words[n + 1 : n + 3]]
        limb = next((m.group(1) for one in near if (m := _LIMB.match(one))), "")
        before = words[n - 1].text if n else ""
        if not limb and before in ("the", "your", "to", "on"):
            limb = "one"
        if limb and not (
            word.text == "left" and n and words[n - 1].text in ("more", "seconds", "is", "have", "i", "we", "you")
        ):
            found.append((n, word.text, {"feet": "foot"}.get(limb, limb)))
    return found


def flips(words: Sequence[Word], sides: Sequence[tuple[int, str, str]]) -> set[int]:
    """Where the same limb is named with the other side than a while before."""
    found = set()
    for k, (n, side, limb) in enumerate(sides):
        for m, other, same in sides[:k][::-1]:
            gap = words[n].at - words[m].at
            if gap > FLIP_S[1]:
                break
            if (same == limb or "one" in (same, limb)) and gap >= FLIP_S[0]:
                if other != side:
                    found.add(n)
                break
            if same == limb and other != side and gap < FLIP_S[0]:
                break
    return found


def bonus_of(
    words: Sequence[Word], places: Places, cues: Cues, found: Sequence[Sign], w: Weights, namer: Namer | None = None
) -> Floats:
    """What speaks for a part of each state to begin at each place."""
    n = len(places.word)
    told = np.zeros((len(State), n))
    shorts = sorted(cues.at["short"])
    release, switch, following = (sorted(cues.at[name]) for name in ("release", "switch", "next"))
    flip = flips(words, sided(words))
    counted = {one + 1 for one in cues.counted if one + 1 not in cues.counted}
    best = np.zeros(len(words) + 1)
    for sign in found:
        best[sign.first] = max(best[sign.first], sign.signature.worth)

    def near(some: Sequence[int], first: int, reach: int) -> bool:
        k = bisect_left(some, first)
        return bool(k < len(some) and some[k] < first + reach)

    flipped = sorted(flip)
    joints = {n for n, one in enumerate(words) if one.text in JOINTS}.union(release, switch, following, counted)
    for k in range(n - 1):
        word = int(places.word[k])
        plain = words[word - 1].ends if word else 2
        loose = 0.0 if plain == 2 else w.comma if plain == 1 else w.joint if word in joints else w.act
        silent = words[word].at - words[word - 1].until > SILENCE_S if word else True
        if silent and plain != 2:
            loose = 0.0
        ended = near(release, word, 3) or near(shorts, word, 2) or any(c in counted for c in (word, word - 1))
        told[[State.RELEASE, State.RELEASED], k] = (w.release if ended else w.no_release) + loose
        over_counted = any(c in counted for c in (word, word - 1))
        turned = near(switch, word, 5)
        over = near(flipped, word, 10)
        told[State.SWITCH, k] = (
            (w.switch * turned + w.flip * over if turned or over else w.no_switch) + w.counted * over_counted + loose
        )
        named = float(best[word : word + 22].max()) if word < len(words) else 0.0
        like = namer.likest(words, word, word + ALIKE_WORDS) if namer and w.alike else 0.0
        told[State.SET_UP, k] = (
            w.alike * like
            + w.name * (named - w.name_from)
            + w.next * near(following, word, 3)
            + w.counted * over_counted
            + loose
        )
        told[State.TALK, k] = loose
        told[[State.WORK, State.AGAIN], k] = 0.5 * loose
    told[:, n - 1] = 0
    return told
