"""The compiled timeline: the one source of time for the sheet, the stage, captions and the log."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError


class SegmentKind(StrEnum):
    """What a stretch of the main lane is. The closed list of docs/format.md."""

    TALK = "talk"
    CHECK_IN = "check-in"
    NOTICE = "notice"
    RECHECK = "recheck"
    REST = "rest"
    PROPS = "props"
    STATION = "station"
    DEMONSTRATION = "demonstration"
    TRANSITION = "transition"
    SWITCH = "switch"
    TURN = "turn"
    SETUP = "setup"
    SETTLE = "settle"
    HOLD = "hold"
    PULSES = "pulses"
    REPS = "reps"
    BREATHS = "breaths"
    TIMED = "timed"
    OPEN = "open"
    RELEASE = "release"
    QUIET = "quiet"
    RESET = "reset"
    MEANWHILE = "meanwhile"

    @property
    def works(self) -> bool:
        """Whether the dose itself is done here."""
        return self in _WORKING


_WORKING = frozenset(
    {
        SegmentKind.HOLD,
        SegmentKind.PULSES,
        SegmentKind.REPS,
        SegmentKind.BREATHS,
        SegmentKind.TIMED,
        SegmentKind.OPEN,
    }
)


class CueKind(StrEnum):
    """What a cue is. The closed list of docs/format.md."""

    TALK = "talk"
    DEMONSTRATION = "demonstration"
    MOVING = "moving"
    THERE = "there"
    SHORT = "short"
    SWITCH = "switch"
    TURN = "turn"
    STAGE = "stage"
    HALF_SWITCH = "half-switch"
    WAY = "way"
    AGAIN = "again"
    EACH = "each"
    RELEASE = "release"
    COUNT = "count"
    LAST = "last"
    NEXT = "next"
    HALFWAY = "halfway"
    TIME_LEFT = "time-left"
    MEANWHILE = "meanwhile"
    CAUTION = "caution"
    EASIER = "easier"
    FEEL = "feel"
    FORM = "form"
    BREATH = "breath"
    DEEPER = "deeper"
    ENCOURAGEMENT = "encouragement"
    ADJUST = "adjust"
    SAY_BREATH = "say-breath"
    KEEP_BREATHING = "keep-breathing"
    BREATH_PHASE = "breath-phase"
    PULSE_PHASE = "pulse-phase"
    REP_PHASE = "rep-phase"
    REP_COUNT = "rep-count"
    PHASE_WORDS = "phase-words"
    COUNTED = "counted"
    WAIT = "wait"
    NOTE = "note"


class Mode(StrEnum):
    """How a cue reaches the class; what is private reaches the teacher alone."""

    SPOKEN = "spoken"
    TONE = "tone"
    SILENT = "silent"
    PRIVATE = "private"


class Anchor(StrEnum):
    """The point of its segment that a cue keeps its distance to when the segment changes length."""

    START = "start"
    MIDDLE = "middle"
    END = "end"


class Why(NamedTuple):
    """Where a length comes from: what tells it in words, which is done only when somebody asks, and about what."""

    tell: Callable[..., str] = str
    about: tuple[object, ...] = ()

    def __str__(self) -> str:
        return self.tell(*self.about)


#: Of a length that nothing is known of.
NO_REASON = Why()


@dataclass(frozen=True, slots=True)
class Segment:
    """A stretch of whole seconds [start_s, end_s) on the main lane, and why it lasts that long.

    ``way_s``: of a way into a pass, the seconds that bodies and props need, whatever is said meanwhile.
    ``words_ms``: how long all that is to be said from its start takes, placeholders filled; also what finds no room.
    """

    id: str
    kind: SegmentKind
    start_s: int
    end_s: int
    item: str
    name: str
    side: Side | None
    pass_number: int
    round: int
    stage: int | None
    why: Why = NO_REASON
    direction: str | None = None
    way_s: int = 0
    words_ms: int = 0

    def __post_init__(self) -> None:
        if self.end_s <= self.start_s:
            raise RefusedError("end_s", f"after the start {self.start_s}", self.end_s)

    @property
    def seconds(self) -> int:
        """How long it lasts."""
        return self.end_s - self.start_s

    @property
    def reason(self) -> str:
        """Why it lasts that long, in words."""
        return str(self.why)


class CueRef(NamedTuple):
    """What a cue is of: an item, a stage from 1, a pass from 1, a round from 1; its kind, and which of its kind."""

    item: str
    stage: int
    pass_number: int
    round: int
    kind: CueKind
    nth: int

    def __str__(self) -> str:
        return f"{self.item}.{self.stage}.{self.pass_number}.{self.round}.{self.kind}.{self.nth}"


class Cue(NamedTuple):
    """One thing said or sounded, in milliseconds of the class, anchored in its segment; ``key``: its key words."""

    of: CueRef
    mode: Mode
    segment: str
    anchor: Anchor
    offset_ms: int
    start_ms: int
    end_ms: int
    text: str
    key: str = ""

    @property
    def id(self) -> str:
        """What it is known by in files and on screens."""
        return str(self.of)

    @property
    def kind(self) -> CueKind:
        """What it is."""
        return self.of.kind


class Unsaid(NamedTuple):
    """A cue that was asked for and finds no place, with the rule that left it out."""

    of: CueRef
    text: str
    rule: str

    @property
    def id(self) -> str:
        """What it is known by in files and on screens."""
        return str(self.of)

    @property
    def kind(self) -> CueKind:
        """What it would be."""
        return self.of.kind


@dataclass(frozen=True, slots=True)
class Timeline:
    """Everything that happens, in order of time."""

    length_s: int
    segments: tuple[Segment, ...] = ()
    cues: tuple[Cue, ...] = ()
    unsaid: tuple[Unsaid, ...] = ()
    underlays: tuple[Segment, ...] = ()

    def of_item(self, item_id: str) -> tuple[Segment, ...]:
        """The segments of one item."""
        return tuple(s for s in self.segments if s.item == item_id)


def clock(seconds: int) -> str:
    """Seconds as people read a length: 9:05, or 1:02:30 from an hour on."""
    minutes, rest = divmod(seconds, 60)
    hours, minutes = divmod(minutes, 60)
    return f"{hours}:{minutes:02}:{rest:02}" if hours else f"{minutes}:{rest:02}"


def parse_clock(words: str) -> int:
    """Seconds from ``9:05``, ``1:02:30`` or plain minutes ``10``; RefusedError otherwise."""
    parts = words.strip().split(":")
    must = "a length such as 10:00, 1:05:00 or 10 for ten minutes"
    if not 1 <= len(parts) <= 3 or not all(p.isascii() and p.isdigit() and len(p) <= 4 for p in parts):
        raise RefusedError("", must, words)
    numbers = [int(p) for p in parts]
    if len(numbers) == 1:
        return numbers[0] * 60
    if any(n > 59 for n in numbers[1:]):
        raise RefusedError("", must + ", seconds and minutes after the colon below 60", words)
    return sum(n * 60**i for i, n in enumerate(reversed(numbers)))
