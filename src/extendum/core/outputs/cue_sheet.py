"""The cue sheet: a class in the order that it is taught, each visit of an item with its times and what is said when."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.body import Side
from extendum.core.model.item import Item, MoveItem, dose_words
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Section
from extendum.core.model.timeline import Cue, CueKind, Mode, Segment, SegmentKind, Timeline
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.sequence import Pass


@dataclass(frozen=True, slots=True)
class Line:
    """Something that is said, in milliseconds of the class, in which part and on which side.

    What is ``private`` is the teacher's own note: it is read and not said.
    """

    at_ms: int
    kind: SegmentKind
    side: Side | None
    text: str
    private: bool = False


@dataclass(frozen=True, slots=True)
class Entry:
    """One visit of an item: in which section, its number in the running order, its times, dose, sides and words."""

    section: Section
    number: int
    item: Item
    round: int
    rounds: int
    start_s: int
    end_s: int
    sides: tuple[Side, ...]
    lines: tuple[Line, ...]

    @property
    def seconds(self) -> int:
        """How long it lasts."""
        return self.end_s - self.start_s

    @property
    def title(self) -> str:
        """The item's name, with its round where there are several."""
        return f"{self.item.name}, round {self.round}" if self.rounds > 1 else self.item.name

    @property
    def dose(self) -> str:
        """The dose in a few words."""
        return dose_words(self.item)

    @property
    def props(self) -> tuple[str, ...]:
        """What is needed for it."""
        return tuple(prop.name for prop in self.item.move.props) if isinstance(self.item, MoveItem) else ()


def cue_sheet(script: Script, timeline: Timeline) -> list[Entry]:
    """Every visit of every item, in order of time; they tile the class."""
    script = as_taught(script)
    places = {i.id: (section, group) for section in script.sections for group in section.groups for i in group.items}
    there = {segment.item for segment in timeline.segments}
    numbers = {item.id: n for n, item in enumerate((i for i in script.items() if i.id in there), 1)}
    said, found = _said(timeline), list[Entry]()
    for visit in _visits(timeline):
        first, item = visit[0], script.item(visit[0].item)
        section, group = places[item.id]
        rounds = max(segment.round for segment in timeline.of_item(item.id))
        sides = tuple(dict.fromkeys(s.side for s in visit if s.kind.works and s.side in (Side.LEFT, Side.RIGHT)))
        lines = tuple(line for segment in visit for line in said.get(segment.id, ()))
        here = in_round(item, group, first.round, script.style.breath_ms)
        times = first.start_s, visit[-1].end_s
        found.append(Entry(section, numbers[item.id], here, first.round, rounds, *times, sides, lines))
    return found


def _said(timeline: Timeline) -> dict[str, list[Line]]:
    """What is said in each segment, with the waits in it and the teacher's own notes, in order."""
    segments = {segment.id: segment for segment in timeline.segments}
    found: dict[str, list[Line]] = {}
    told = [cue for cue in timeline.cues if _is_told(cue) and cue.segment in segments]
    for cue in counted(sorted(told, key=lambda one: one.start_ms), every=True):
        here, private = segments[cue.segment], cue.mode is Mode.PRIVATE
        text = f"({cue.text if cue.text.startswith('until') else 'wait ' + cue.text})" if _waits(cue) else cue.text
        found.setdefault(cue.segment, []).append(Line(cue.start_ms, here.kind, here.side, text, private))
    return found


def _is_told(cue: Cue) -> bool:
    return bool(cue.text) and (cue.mode in (Mode.SPOKEN, Mode.PRIVATE) or _waits(cue))


def _waits(cue: Cue) -> bool:
    return cue.kind is CueKind.WAIT


def in_round(item: Item, group: Group, round_: int, breath_ms: int) -> Item:
    """An item with the doses that it has in a round: a later one has the group's taper."""
    if not isinstance(item, MoveItem):
        return item
    here = Pass(item, group, 1, Side.BOTH, Side.LEFT, round=round_)
    for stage, dose in enumerate(item.doses, start=1):
        item = item.having(replace(dose.quantity, now=here.value(stage, breath_ms)), stage)
    return item


#: Counts that follow on one another so closely are read as one.
_CLOSE_MS = 1500
_COUNTS = (CueKind.COUNT, CueKind.COUNTED)


def counted(spoken: Sequence[Cue], *, every: bool = False) -> Iterator[Cue]:
    """Cues with counts that are close to one another as one: nobody can read a number every second.

    On a page (``every``) all counts that follow on one another are one, however far apart they are.
    """
    waiting: Cue | None = None
    for cue in spoken:
        close = waiting is not None and (every or cue.start_ms - waiting.end_ms < _CLOSE_MS)
        if waiting and close and cue.kind is waiting.kind and cue.segment == waiting.segment:
            said = cue.text if cue.kind is CueKind.COUNT else cue.text.lower()
            waiting = waiting._replace(end_ms=cue.end_ms, text=f"{waiting.text}, {said}")
            continue
        if waiting:
            yield waiting
        waiting = cue if cue.kind in _COUNTS else None
        if waiting is None:
            yield cue
    if waiting:
        yield waiting


def _visits(timeline: Timeline) -> list[list[Segment]]:
    """Segments that follow one another for the same item and round."""
    found: list[list[Segment]] = []
    for segment in timeline.segments:
        if found and (found[-1][-1].item, found[-1][-1].round) == (segment.item, segment.round):
            found[-1].append(segment)
        else:
            found.append([segment])
    return found
