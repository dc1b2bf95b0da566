"""Where a class went otherwise than meant: counts that went wrong, and what the speaker puts right by word."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from extendum.core.heard.recording import Heard
from extendum.core.heard.said import running

#: Words for the same slip come within so long.
SAME_S = 12.0
_LIMBS = r"(?:side|hand|arm|leg|foot|knee|ear|one|way|ankle|shoulder)"
_TOLD = (
    ("a side was put right", rf"\b(?:sorry|no|oops|whoops)\b (?:\w+ ){{0,3}}(?:wrong|other|left|right) {_LIMBS}?\b"),
    (
        "a side was put right",
        rf"\bwrong {_LIMBS}\b|\bi mean(?:t)? (?:the |your )?(?:other|left|right)\b|\bother (?:left|right)\b",
    ),
    (
        "a side may have been left out",
        r"\bdid we (?:do|have) (?:both|the other|the left|the right)\b|\bonly did (?:one|the)\b",
    ),
    (
        "a move came late or was left out",
        r"\bi(?:'ve| have)? (?:forgot(?:ten)?|skipped|missed|left out|left (?:\w+ ){1,2}out)\b|\bnearly forgot\b|"
        r"\bwas (?:supposed|meant) to be\b|\bthere was one missing\b|\bwe (?:missed|skipped|forgot)\b",
    ),
    ("the count was lost", r"\b(?:lost|losing) count\b|\bwhere (?:was i|were we)\b|\bhow many (?:was|is) that\b"),
    ("something was taken again", r"\b(?:do|try|take) that (?:one |bit )?again for\b|\bone more time for the camera\b"),
)


@dataclass(frozen=True, slots=True)
class Slip:
    """What went wrong, and when in seconds of the recording."""

    at: float
    what: str


def slips_of(heard: Heard) -> list[Slip]:
    """Every slip that was heard, in order."""
    counted = [Slip(one.at, slip) for one in heard.counts for slip in one.slips[:1]]
    found: list[Slip] = []
    for one in sorted([*counted, *_told(heard)], key=lambda slip: slip.at):
        if not any(one.what == other.what and one.at - other.at < SAME_S for other in found):
            found.append(one)
    return found


def _told(heard: Heard) -> Iterator[Slip]:
    """What the speaker puts right by word."""
    told = running(heard.words)
    for what, pattern in _TOLD:
        for match in re.finditer(pattern, told.text):
            yield Slip(heard.words[told.word(match.start())].at, what)
