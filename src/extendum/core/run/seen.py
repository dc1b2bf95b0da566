"""What is to be seen of a class at a moment: the part that is on, its count, side, phase and breath, as planned.

The screens that are played by scripts have the same in seen.js and drawing.js; a test holds them together.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass, replace

from extendum.core.model.body import Side
from extendum.core.model.dose import COUNTED, Breaths, Dose, Reps, Timed
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.timeline import Segment, SegmentKind, Timeline
from extendum.core.run.steps import steps_of
from extendum.core.timing.at_hand import as_taught

#: Milliseconds of a swing from one end of a movement to the other where no beat is given, and of a breath.
SWING_MS, BREATH_MS = 1500, 7000
#: How far the band is drawn out in the phases of counted work: from, to.
_OUT = {"out": (0, 1), "in": (0, 1), "back": (1, 0), "stay": (1, 1), "full": (1, 1), "rest": (0, 0), "empty": (0, 0)}


@dataclass(frozen=True, slots=True)
class Seen:
    """A moment of a class.

    ``left_s``: whole seconds to go in this part; ``share`` of it that is over. Of counted work: the ``nth`` of
    ``total``, the ``word`` of its phase, how far the phase is (``part``), and the ``breath`` of it. ``pace``: of reps
    at everybody's own pace. ``out``: how far the band is drawn out.
    """

    segment: Segment
    into_ms: int
    left_s: int
    share: float
    side: Side | None
    works: bool
    nth: int = 0
    total: int = 0
    word: str = ""
    breath: str = ""
    part: float = 0.0
    first: bool = False
    pace: str = ""

    @property
    def out(self) -> float:
        """How far the band is drawn out, from 0 to 1."""
        kind, share = self.segment.kind, self.share
        if kind is SegmentKind.HOLD:
            return share
        if kind is SegmentKind.RELEASE:
            return max(0.0, 1 - share * 3)
        if kind is SegmentKind.PULSES:
            return 1.0 if self.first else 0.35
        if kind in (SegmentKind.TIMED, SegmentKind.OPEN):
            return 0.5 + 0.5 * share
        if kind is SegmentKind.BREATHS and self.word == "out":
            return 1 - self.part
        begins, ends = _OUT.get(self.word, (0, 0))
        return begins + (ends - begins) * self.part

    @property
    def breathing(self) -> float:
        """How full of air somebody is, from 0 to 1: as the breath is counted, or at rest."""
        if self.segment.kind is SegmentKind.BREATHS and self.word:
            return {"in": self.part, "full": 1.0, "out": 1 - self.part}.get(self.word, 0.0)
        return eased(abs((self.into_ms / (BREATH_MS / 2)) % 2 - 1))


def eased(share: float) -> float:
    """A share of a way, slow at both ends."""
    return 0.5 - 0.5 * math.cos(math.pi * min(1.0, max(0.0, share)))


class Watched:
    """A compiled class as it is watched."""

    def __init__(self, script: Script, timeline: Timeline) -> None:
        self.timeline = timeline
        self.items = {item.id: item for item in as_taught(script).moves()}
        self._starts = [segment.start_s * 1000 for segment in timeline.segments]
        self._units = {step.id: step.unit_ms for step in steps_of(script, timeline)}
        self._leads = {
            item.id: item.lead_side or group.lead_side or script.style.lead_side
            for section in script.sections
            for group in section.groups
            for item in group.items
            if isinstance(item, MoveItem)
        }

    def index(self, ms: int) -> int:
        """The number of the segment that is on."""
        return max(0, min(len(self._starts) - 1, bisect_right(self._starts, ms) - 1))

    def at(self, ms: int) -> Seen:
        """What is to be seen at a moment of the class, in milliseconds."""
        segment = self.timeline.segments[self.index(ms)]
        into = max(0, min(ms - segment.start_s * 1000, segment.seconds * 1000))
        left = max(0, -(-(segment.seconds * 1000 - into) // 1000))
        found = Seen(segment, into, left, into / (segment.seconds * 1000), segment.side, segment.kind.works)
        item = self.items.get(segment.item)
        return self._counted(found, item) if item else found

    def _counted(self, seen: Seen, item: MoveItem) -> Seen:
        segment = seen.segment
        dose = item.dose_at(segment.stage) if segment.stage is not None else None
        if isinstance(dose, Timed) and dose.own_pace:
            return replace(seen, pace=dose.reps_told)
        if not seen.works and segment.kind is not SegmentKind.RELEASE and seen.side is Side.BOTH and _turns(item):
            seen = replace(seen, side=self._leads[item.id])
        unit = self._units.get(segment.id, 0)
        if not isinstance(dose, COUNTED) or not unit:
            return seen
        total = max(1, round(segment.seconds * 1000 / unit))
        nth = min(seen.into_ms // unit + 1, total)
        word, part, first = _phase(dose, seen.into_ms - (nth - 1) * unit)
        side = seen.side
        if isinstance(dose, Reps | Breaths) and item.move.sidedness.alternates:
            lead = self._leads[item.id]
            side = lead if nth % 2 else lead.other
        told = dose.told_in(word)
        breath = told.breath.value if told else "free"
        return replace(seen, nth=nth, total=total, word=word, breath=breath, part=part, first=first, side=side)

    def following(self, index: int) -> Segment | None:
        """The first part of what comes next: the other side of the same item, or the next item."""
        now = self.timeline.segments[index]
        for segment in self.timeline.segments[index + 1 :]:
            if segment.item != now.item or _side(segment) is not _side(now):
                return segment
        return None


def _side(segment: Segment) -> Side | None:
    return segment.side if segment.side in (Side.LEFT, Side.RIGHT) else None


def _turns(item: MoveItem) -> bool:
    return item.move.sidedness.alternates and any(isinstance(dose, Reps | Breaths) for dose in item.doses)


def _phases(dose: Dose) -> Iterator[tuple[str, int]]:
    return ((name, ms) for name, ms in dose.named_phases if ms) if isinstance(dose, COUNTED) else iter(())


def _phase(dose: Dose, into: int) -> tuple[str, float, bool]:
    """The phase that is on so many milliseconds into a cycle, how far it is, and whether it is the first."""
    phases = list(_phases(dose))
    for name, ms in phases:
        if into < ms:
            return name, into / ms, name == phases[0][0]
        into -= ms
    return phases[-1][0], 1.0, phases[-1][0] == phases[0][0]
