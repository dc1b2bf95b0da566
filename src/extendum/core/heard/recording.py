"""What is heard of a recording: its moves with their passes, its calls and counts, and what was said besides."""

from __future__ import annotations

from dataclasses import dataclass

from extendum.core.heard.calling import Count
from extendum.core.heard.said import Word
from extendum.core.heard.saying import Remark

#: A border less sure than this, or a name so little before the next best, is marked and open until somebody has looked.
#: Of names that are not marked so, seven in eight were right where one in two was of those that are.
DOUBT, CLOSE = 0.3, 0.9


@dataclass(frozen=True, slots=True)
class Pass:
    """Work on one side, in seconds of the recording, and how sure its beginning is (0 to 1).

    ``side``: left, right, both, or first and second where nobody says which; ``count``: reps that were counted;
    ``direction``: where that changes and not the side; ``out``: until when people come out of it, 0 where that is not
    known.
    """

    side: str
    start: float
    end: float
    sure: float
    count: int = 0
    direction: str = ""
    out: float = 0.0

    @property
    def seconds(self) -> float:
        """How long it lasted."""
        return self.end - self.start


@dataclass(frozen=True, slots=True)
class Offer:
    """A move of the library that it could be, and how much speaks for it."""

    key: str
    name: str
    score: float


@dataclass(frozen=True, slots=True)
class HeardMove:
    """One move: what it could be, the likeliest first; without a good one it has the speaker's own words for a name.

    ``first`` and ``last``: its words, from which to before which; ``work``: where those of its work begin;
    ``bases``: how likely people are on each base in it, empty where nothing tells; ``posture``: that of its move in the
    library, where this fits, or else the base.
    """

    name: str
    key: str
    offers: tuple[Offer, ...]
    start: float
    end: float
    passes: tuple[Pass, ...]
    sure: float
    first: int
    work: int
    last: int
    bases: tuple[float, ...] = ()
    posture: str = ""

    @property
    def doubtful(self) -> bool:
        """Whether it is for somebody to look at: its borders or its name are not sure."""
        close = len(self.offers) > 1 and self.offers[0].score - self.offers[1].score < CLOSE
        return not self.key or close or min(self.sure, *(one.sure for one in self.passes)) < DOUBT


@dataclass(frozen=True, slots=True)
class HeardCall:
    """Seconds that were called, and what came until the work ended; None where nothing ended it."""

    at: float
    said_s: int
    real_s: float | None


@dataclass(frozen=True, slots=True)
class Half:
    """A call of the half: how far into its pass it really was, in percent; None outside of work."""

    at: float
    percent: int | None


@dataclass(frozen=True, slots=True)
class Heard:
    """Everything that was heard of a recording; ``few``: reps and breaths that were called as left."""

    length: float
    words: tuple[Word, ...]
    moves: tuple[HeardMove, ...]
    switches: tuple[float, ...]
    calls: tuple[HeardCall, ...]
    few: tuple[float, ...]
    halves: tuple[Half, ...]
    counts: tuple[Count, ...]
    remarks: tuple[Remark, ...]
    promises: tuple[Remark, ...]
    reminders: tuple[tuple[str, tuple[float, ...]], ...]

    def of(self, what: str) -> list[Remark]:
        """The remarks of one kind, in order."""
        return [one for one in self.remarks if one.what == what]
