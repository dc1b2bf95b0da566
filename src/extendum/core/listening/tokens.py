"""Words as they are heard: in small letters, without punctuation, in sentences; and what is said not to be done."""

from __future__ import annotations

import re
from functools import lru_cache

_TOKEN = re.compile(r"[a-z]+(?:'[a-z]+)?|\d+")
_END = re.compile(r"[.!?;:…]+")
#: After one of these, and up to so many words further, what is named is not asked for.
_NEGATIONS = frozenset({"not", "no", "never", "without", "don't", "doesn't", "won't", "avoid", "instead"})
_SCOPE = 3

Tokens = tuple[str, ...]


@lru_cache(maxsize=4096)
def heard(words: str) -> tuple[Tokens, ...]:
    """The tokens of each sentence."""
    plain = words.casefold().replace("\u2019", "'").replace("-", " ")
    return tuple(tokens for one in _END.split(plain) if (tokens := tuple(_TOKEN.findall(one))))


def negated(tokens: Tokens, at: int) -> bool:
    """Whether a negation shortly before reaches the token at a place."""
    return not _NEGATIONS.isdisjoint(tokens[max(0, at - _SCOPE) : at])
