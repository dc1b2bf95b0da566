"""Marks in words: waits between the sentences of a talk, and the key words of any text.

``How are you today? [until they answer] Good. [3 s] Then we begin.`` has two waits. ``Press your *heel down*.`` has one
pair of key words, for a screen that shows no more than these. Neither is ever spoken.
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

from extendum.core.model.errors import RefusedError

LONGEST_WAIT_S = 300
#: What a wait until something happens is given where nothing else is known.
OPEN_WAIT_S = 5
_WAIT = re.compile(r"\[\s*(?:(\d{1,4})\s*s|(until\s[^\[\]]+))\s*\]", re.I)
_KEY = re.compile(r"\*(?=\S)([^*\n]*\S)\*")


class Wait(NamedTuple):
    """Silence between sentences: so many milliseconds, or until something happens, and what is shown of it."""

    ms: int
    text: str

    @property
    def open(self) -> bool:
        """Whether it lasts until something happens, so that it takes what time is left."""
        return self.text.startswith("until")


def _wait(match: re.Match[str]) -> Wait:
    seconds, until = match.groups()
    if until is not None:
        return Wait(OPEN_WAIT_S * 1000, " ".join(until.casefold().split()))
    return Wait(int(seconds) * 1000, f"{int(seconds)} s")


@lru_cache(maxsize=4096)
def parted(words: str) -> tuple[str | Wait, ...]:
    """A talk as texts and the waits between them, in order; empty texts are left out."""
    found: list[str | Wait] = []
    at = 0
    for match in _WAIT.finditer(words):
        found += [words[at : match.start()].strip(), _wait(match)]
        at = match.end()
    return tuple(one for one in (*found, words[at:].strip()) if one)


def check_waits(where: str, words: str) -> None:
    """Refuse a wait of no time, or of more than anybody stands in silence."""
    for match in _WAIT.finditer(words):
        if match.group(1) is not None and not 1 <= int(match.group(1)) <= LONGEST_WAIT_S:
            raise RefusedError(where, f"waits of 1 to {LONGEST_WAIT_S} s", match.group())


def refuse_waits(where: str, words: str) -> None:
    """Refuse a wait in words that are said in a row."""
    match = _WAIT.search(words)
    if match:
        raise RefusedError(where, "no wait, as only a talk and what is said meanwhile have them", match.group())


def without_marks(words: str) -> str:
    """The words as they are spoken: no waits, and key words without their asterisks."""
    if "[" in words and _WAIT.search(words):
        words = " ".join(one for one in parted(words) if isinstance(one, str))
    return _KEY.sub(r"\1", words) if "*" in words else words


def key_words(words: str) -> str:
    """The marked key words of a text, each as it stands, parted by a middle dot; empty where none are marked."""
    return " · ".join(_KEY.findall(words)) if "*" in words else ""
