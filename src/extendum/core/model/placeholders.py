"""Placeholders in words: which there are, what they are filled with, and how a filled text reads."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from functools import lru_cache

from extendum.core.model.errors import RefusedError

#: Every placeholder, and what it is filled with.
PLACEHOLDERS = {
    "side": "the side now worked",
    "other": "the opposite side",
    "direction": "the direction now worked",
    "count": "how many reps or breaths",
    "seconds": "seconds of one pass",
    "least": "the fewest reps, breaths or seconds of the dose",
    "most": "the most reps, breaths or seconds of the dose",
    "next": "the name of the next move",
    "minutes": "the whole minutes that the class lasts",
    "moves": "how many moves the class has",
    "moves_left": "how many moves are still to come",
    "rounds": "how many rounds the group has",
    "needs": "the props that the class uses, and what they must be",
}
#: Those that speak of the whole class.
CLASS_PLACEHOLDERS = frozenset({"next", "minutes", "moves", "moves_left", "rounds", "needs"})
#: All that a talk may use: in a chain it has a side.
TALK_PLACEHOLDERS = CLASS_PLACEHOLDERS | {"side", "other"}
_BRACED = re.compile(r"\{([^{}]*)\}")
#: What is counted, where there is one of it.
_ONE = re.compile(r"(?<![\d.,:])\b1 (?:more )?(?:minutes|moves|rounds|seconds|reps|breaths|times)\b")


def check_placeholders(where: str, words: str, allowed: Collection[str] = PLACEHOLDERS) -> None:
    """Refuse a brace that opens no placeholder allowed here, so that none is ever read aloud."""
    for name in _BRACED.findall(words):
        if name not in allowed:
            known = ", ".join("{" + known + "}" for known in PLACEHOLDERS if known in allowed)
            raise RefusedError(where, f"words whose placeholders are among {known}", "{" + name + "}")
    if re.search(r"[{}]", _BRACED.sub("", words)):
        raise RefusedError(where, "words with each { closed by a }", words)


def fill(words: str, facts: Mapping[str, str]) -> str:
    """The words with every placeholder replaced by its fact; one that begins a sentence begins with a capital."""
    if "{" not in words:
        return words

    def told(match: re.Match[str]) -> str:
        fact, before = facts[match.group(1)], words[: match.start()].rstrip()
        return capital(fact) if not before or before[-1] in ".!?" else fact

    words = _ONE.sub(lambda m: m.group().removesuffix("s"), _BRACED.sub(told, words))
    # A side that is not spoken leaves no space behind.
    return re.sub(r" +(?=[ .,;:!?])", "", words).strip()


def capital(words: str) -> str:
    """The words with a capital at their beginning."""
    return words[:1].upper() + words[1:]


@lru_cache(maxsize=8192)
def placeholders(*words: str) -> frozenset[str]:
    """The placeholders that these texts hold."""
    return frozenset(name for text in words for name in _BRACED.findall(text))


def mentions(words: str, names: set[str]) -> bool:
    """Whether the words hold one of these placeholders."""
    return not names.isdisjoint(placeholders(words))
