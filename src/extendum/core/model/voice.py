"""Whose voice a class is spoken with: how long that person took for each text that was read, and for words in general.

A text is known by what is heard of it: left and right are two texts, and capitals, marks and its last stop are none.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole

LONGEST_READING_MS = 10 * 60_000
MOST_READINGS = 4000
_SPACE = re.compile(r"\s+")
_QUOTES = str.maketrans("’‘“”", "''\"\"")


def spoken_key(words: str) -> str:
    """What a text is known by, however it is written."""
    heard = _SPACE.sub(" ", words.replace("*", "").translate(_QUOTES)).strip().casefold()
    return heard.rstrip(".!…").rstrip()


@dataclass(frozen=True, slots=True)
class Length(Checked):
    """How long one text takes in a voice, from its first sound to its last."""

    text: str = text(4000, shortest=1)
    ms: int = whole(1, LONGEST_READING_MS, 1000)
    extra: Extra = extra()


@dataclass(frozen=True)
class Voice(Checked):
    """A person's voice: a name, the texts that were read with their lengths, and a rate for those that were not.

    ``word_ms`` and ``sentence_ms``: what a word takes and what each sentence adds; nought while too little was read,
    when the class's own rate counts.
    """

    name: str = text(80, shortest=1)
    readings: tuple[Length, ...] = ()
    word_ms: int = whole(0, 2000, 0)
    sentence_ms: int = whole(0, 5000, 0)
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if len(self.readings) > MOST_READINGS:
            raise RefusedError("readings", f"at most {MOST_READINGS}", len(self.readings))

    @cached_property
    def lengths(self) -> Mapping[str, int]:
        """Milliseconds by what a text is known by; the last one where it was read twice."""
        return {spoken_key(one.text): one.ms for one in self.readings}

    @cached_property
    def _hash(self) -> int:
        return hash((self.name, self.readings, self.word_ms, self.sentence_ms))

    def __hash__(self) -> int:
        return self._hash


class Speech(NamedTuple):
    """What the length of words follows from: a rate in words a minute, and a voice where there is one."""

    words_per_minute: int
    voice: Voice | None = None

    def read_ms(self, words: str) -> int | None:
        """How long a text is in the voice; None where it was not read."""
        return self.voice.lengths.get(spoken_key(words)) if self.voice else None
