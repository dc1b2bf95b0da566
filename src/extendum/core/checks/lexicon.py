"""What names say in plain English: the words that tell a move apart, being without a prop."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from extendum.core.listening.words import stem


@lru_cache(maxsize=1024)
def _compiled(pattern: str) -> re.Pattern[str]:
    return re.compile(pattern, re.I)


def _has(pattern: str) -> Callable[[str], bool]:
    compiled = _compiled(pattern)

    @lru_cache(maxsize=8192)
    def listen(words: str) -> bool:
        return bool(compiled.search(words))

    return listen


says_without = _has(r"\bwithout (?:a|the|one)\b|\bno \w+\?|\bif you have no\b|\bnone at hand\b|\bor (?:a|an|your) \w+")
_SMALL_WORDS = frozenset(
    ("a", "an", "the", "your", "our", "in", "on", "of", "to", "and", "with", "for", "at", "it", "is")
) | frozenset(("stretch", "seated", "standing", "lying", "easy"))


@lru_cache(maxsize=4096)
def content_words(words: str) -> frozenset[str]:
    """The stems of the words of a name that tell it apart."""
    found = re.findall(r"[^\W\d_]+", words.casefold())
    return frozenset(stem(word) for word in found if word not in _SMALL_WORDS)
