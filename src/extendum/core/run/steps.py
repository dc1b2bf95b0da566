"""What a run plays: the segments of a timeline as steps, with what may be done to each while it lasts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from extendum.core.model.body import Side
from extendum.core.model.dose import COUNTED
from extendum.core.model.item import MoveItem
from extendum.core.model.prompts import PromptKind
from extendum.core.model.script import Script
from extendum.core.model.timeline import Segment, SegmentKind, Timeline
from extendum.core.timing.sequence import named_direction


@dataclass(frozen=True, slots=True)
class Step:
    """A segment to be played: milliseconds, the pass it belongs to, and its partner on the other side.

    ``unit_ms``: what one more rep, breath or pulse takes; 0 where nothing is counted. ``waits``: it lasts until the
    teacher goes on. ``partner``: the step that gets what this one really got. ``down`` and ``up``: how many easier and
    deeper options its move has; whatever it is, it has an easier one, be it only asked for. ``instead``: how many
    other moves are kept ready in its place.
    """

    id: str
    item: str
    group: str
    ms: int
    side: str = ""
    works: bool = False
    waits: bool = False
    unit_ms: int = 0
    partner: str = ""
    down: int = 1
    up: int = 0
    instead: int = 0


def pass_of(segment: Segment) -> str:
    """What the segments of one pass have in common."""
    return f"{segment.item}.{segment.pass_number}.{segment.round}"


#: What may come between the closing quiet and the end of a class.
_AFTER_IT = (SegmentKind.QUIET, SegmentKind.TALK, SegmentKind.TRANSITION, SegmentKind.RELEASE)


def closing_quiet(timeline: Timeline) -> Segment | None:
    """The quiet with which a class closes, nothing but words and getting up after it; None where there is none."""
    found = None
    for segment in reversed(timeline.segments):
        if segment.kind not in _AFTER_IT:
            break
        found = segment if segment.kind is SegmentKind.QUIET else found
    return found


def steps_of(script: Script, timeline: Timeline) -> tuple[Step, ...]:
    """The steps of a compiled class."""
    moves = {item.id: item for item in script.moves()}
    partners = _partners(timeline, moves)
    found = []
    for segment in timeline.segments:
        item = moves.get(segment.item)
        found.append(
            Step(
                segment.id,
                segment.item,
                pass_of(segment),
                segment.seconds * 1000,
                segment.side.value if segment.side in (Side.LEFT, Side.RIGHT) else "",
                segment.kind.works,
                segment.kind is SegmentKind.OPEN,
                _unit_ms(item, segment),
                partners.get(segment.id, ""),
                max(1, len(item.ladder(PromptKind.EASIER)) if item else 0),
                len(item.ladder(PromptKind.DEEPER)) if item else 0,
                len(item.instead) if item else 0,
            )
        )
    return tuple(found)


def _unit_ms(item: MoveItem | None, segment: Segment) -> int:
    if item is None or segment.stage is None:
        return 0
    dose = item.dose_at(segment.stage)
    return dose.cycle_ms if isinstance(dose, COUNTED) else 0


def _partners(timeline: Timeline, moves: Mapping[str, MoveItem]) -> Mapping[str, str]:
    """For the work on the first side, the same work on the other: the n-th of its item, round, stage and direction."""
    waiting: dict[tuple[object, ...], list[Segment]] = {}
    found: dict[str, str] = {}
    for segment in timeline.segments:
        if not segment.kind.works or segment.side not in (Side.LEFT, Side.RIGHT):
            continue
        key = (segment.item, segment.round, segment.stage, _direction(moves, segment), segment.kind)
        firsts = waiting.get((*key, segment.side.other), [])
        if firsts:
            found[firsts.pop(0).id] = segment.id
        else:
            waiting.setdefault((*key, segment.side), []).append(segment)
    return found


def _direction(moves: Mapping[str, MoveItem], segment: Segment) -> int:
    """The place of a direction among those of its move: its name may be another one on the other side."""
    item, side = moves.get(segment.item), segment.side
    if segment.direction is None or item is None or side is None:
        return 0
    names = [named_direction(item, one, side) for one in item.move.directions]
    return names.index(segment.direction) if segment.direction in names else 0
