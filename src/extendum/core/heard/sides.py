"""Which side somebody speaks of, where the other one comes, and whether a move has a second one at all."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from extendum.core.heard.likeness import Likeness, weighed
from extendum.core.heard.said import Word

OTHER = {"left": "right", "right": "left", "first": "second", "second": "first"}
#: The same limb is named with the other side so many seconds after.
FLIP_S = (5.0, 110.0)
#: How much likelier a move is than one that is less like what was said, for a point of likeness.
LIKELIER = 12.0
_LIMB = re.compile(r"^(leg|arm|foot|feet|hand|knee|ankle|ear|elbow|shoulder|hip|thigh|shin|heel|wrist|one)s?$")
_BOTH = re.compile(r"^(?:legs|arms|feet|hands|knees|ankles|ears|elbows|shoulders|hips|thighs|shins|heels|wrists|both)$")


@dataclass(frozen=True)
class Sides:
    """What tells a move with a second pass from one without: the likeliest moves of the library, and what is named.

    The worth of each in logarithms: ``base`` of nothing, ``alike`` where all the likeliest moves have one, ``one`` for
    a limb of one side (three count at the most), ``both`` for limbs of both, ``named`` where left or right is said.
    """

    often: tuple[bool, ...]
    base: float
    alike: float
    one: float
    both: float
    named: float

    def twice(self, words: Sequence[Word], likeness: Likeness) -> float:
        """How likely a move with such words has more than one pass (0.02 to 0.98)."""
        told = self.base + sum(
            worth * n
            for worth, n in zip((self.alike, self.one, self.both, self.named), self.found(words, likeness), strict=True)
        )
        return min(0.98, max(0.02, 1 / (1 + math.exp(-told))))

    def found(self, words: Sequence[Word], likeness: Likeness) -> tuple[float, int, int, int]:
        """What is found of each in some words."""
        likely = np.exp(LIKELIER * likeness.alike(weighed((words, 1.0))))
        one = sum(bool(_LIMB.match(word.text)) and not _BOTH.match(word.text) and word.text != "ones" for word in words)
        both = sum(bool(_BOTH.match(word.text)) for word in words)
        named = any(word.text in ("left", "right") for word in words)
        return float(likely @ np.array(self.often) / likely.sum()), min(3, one), min(2, both), int(named)


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
