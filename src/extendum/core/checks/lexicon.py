"""What names say in plain English: the areas of a section, the words that tell a move apart, being without a prop."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache

from extendum.core.model.body import Region


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
#: What a section's name announces, by the words in it.
_ANNOUNCED: tuple[tuple[str, frozenset[Region]], ...] = (
    (r"\bhips?\b", frozenset({Region.HIP_FRONT, Region.HIP_SIDE, Region.DEEP_HIP, Region.INNER_THIGH})),
    (
        r"\blegs?\b",
        frozenset({Region.FRONT_THIGH, Region.BACK_THIGH, Region.INNER_THIGH, Region.CALF})
        | {Region.HIP_FRONT, Region.HIP_SIDE},
    ),
    (r"\bcal(?:f|ves)\b", frozenset({Region.CALF})),
    (r"\bankles?\b", frozenset({Region.ANKLE, Region.CALF, Region.FOOT})),
    (r"\bfeet\b|\bfoot\b", frozenset({Region.FOOT, Region.ANKLE})),
    (r"\bneck\b", frozenset({Region.NECK})),
    (r"\bjaw\b", frozenset({Region.JAW})),
    (r"\bshoulders?\b", frozenset({Region.SHOULDERS, Region.UPPER_BACK, Region.CHEST})),
    (r"\barms?\b", frozenset({Region.UPPER_ARM, Region.FOREARM, Region.SHOULDERS, Region.WRIST, Region.HAND})),
    (r"\bhands?\b", frozenset({Region.HAND, Region.WRIST, Region.FOREARM})),
    (r"\bwrists?\b", frozenset({Region.WRIST, Region.FOREARM, Region.HAND})),
    (r"\bchest\b", frozenset({Region.CHEST})),
    (r"\bribs?\b", frozenset({Region.SIDE_BODY, Region.BREATH, Region.CHEST})),
    (
        r"\bback\b|\bspine\b",
        frozenset({Region.UPPER_BACK, Region.LOWER_BACK, Region.SPINE, Region.SIDE_BODY}),
    ),
    (r"\bthighs?\b", frozenset({Region.FRONT_THIGH, Region.BACK_THIGH, Region.INNER_THIGH})),
    (r"\bbreath\w*", frozenset({Region.BREATH})),
)


@lru_cache(maxsize=1024)
def announced(name: str) -> tuple[tuple[str, frozenset[Region]], ...]:
    """The places that the name of a section promises; ``Back to work`` promises none."""
    plain = re.sub(r"\bback (?:to|in|and)\b", "", name, flags=re.I)
    matches = ((_compiled(pattern).search(plain), regions) for pattern, regions in _ANNOUNCED)
    return tuple((match.group(), regions) for match, regions in matches if match)


_SMALL_WORDS = frozenset(
    ("a", "an", "the", "your", "our", "in", "on", "of", "to", "and", "with", "for", "at", "it", "is")
) | frozenset(("stretch", "seated", "standing", "lying", "easy"))


@lru_cache(maxsize=4096)
def content_words(words: str) -> frozenset[str]:
    """The words of a name that tell it apart, in small letters and without plural."""
    found = re.findall(r"[^\W\d_]+", words.casefold())
    return frozenset(word.removesuffix("s") for word in found if word not in _SMALL_WORDS)
