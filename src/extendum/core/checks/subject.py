"""A class as the checks look at it: script, timeline and library, with what several of them ask for."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import cached_property
from typing import NamedTuple

from extendum.core.model.audience import Condition
from extendum.core.model.body import Posture
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Meanwhile, Script
from extendum.core.model.section import Section
from extendum.core.model.spoken import Place, spoken_texts
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Cue, CueKind, Segment, Timeline
from extendum.core.moves.objections import Objection, objections_to
from extendum.core.outputs.coverage import Coverage, coverage

#: From this pace on a group counts as slow: it needs the easier option, and few changes of level.
SLOW_PERCENT = 125


class Text(NamedTuple):
    """Words of an item and where they stand in it, or what is said meanwhile, from this item on."""

    item: MoveItem | Talk
    place: Place
    words: str
    under: Meanwhile | None = None

    @property
    def field(self) -> str:
        """Which of the item's texts it is; of a prompt its kind."""
        return self.place.field

    @property
    def name(self) -> str:
        """What a finding calls the one that says it."""
        return self.under.name if self.under else self.item.name


class Subject:
    """A script with its timeline; the library is where alternatives come from, and may be empty.

    ``taken`` gives the mark of a library's move by its key, as `MoveItem.taken` keeps it.
    """

    def __init__(
        self,
        script: Script,
        timeline: Timeline,
        library: Sequence[LibraryMove] = (),
        taken: Callable[[str], str] = lambda key: "",
    ) -> None:
        """Nothing is computed before a check asks for it."""
        self.script, self.timeline, self.library, self.taken = script, timeline, library, taken
        self.brief, self.style = script.brief, script.style

    @cached_property
    def items(self) -> list[Item]:
        """The items that are in, in the order of the class."""
        return [item for item in self.script.items() if item.present]

    @cached_property
    def moves(self) -> list[MoveItem]:
        """The moves that are in."""
        return [item for item in self.items if isinstance(item, MoveItem)]

    @cached_property
    def talks(self) -> list[Talk]:
        """The talks that are in."""
        return [item for item in self.items if isinstance(item, Talk)]

    @cached_property
    def place(self) -> dict[str, int]:
        """The position of each item among those that are in."""
        return {item.id: n for n, item in enumerate(self.items)}

    @cached_property
    def segments(self) -> dict[str, list[Segment]]:
        """Segments by item."""
        found: dict[str, list[Segment]] = {item.id: [] for item in self.items}
        for segment in self.timeline.segments:
            found[segment.item].append(segment)
        return found

    @cached_property
    def work(self) -> dict[str, list[Segment]]:
        """The segments in which the dose itself is done, by item."""
        return {item: [s for s in segments if s.kind.works] for item, segments in self.segments.items()}

    @cached_property
    def cues(self) -> dict[str, list[Cue]]:
        """Cues by segment."""
        found: dict[str, list[Cue]] = {}
        for cue in self.timeline.cues:
            found.setdefault(cue.segment, []).append(cue)
        return found

    @property
    def spoken_ways(self) -> Iterator[Cue]:
        """The ready-made words for the way to another support that are said."""
        return (cue for cue in self.timeline.cues if cue.kind is CueKind.WAY)

    @cached_property
    def texts(self) -> dict[str, list[Text]]:
        """The words of each item that are not empty, and those that are said meanwhile from it on."""
        found = {item.id: list(_texts_of(item)) for item in self.items if isinstance(item, MoveItem | Talk)}
        for under in self.script.meanwhiles:
            if under.from_item in found:
                found[under.from_item] += _texts_under(under, self.script.item(under.from_item))
        return found

    def heard_at(self, item: Item) -> list[str]:
        """What people hear while they do an item: its own words, and what is said meanwhile."""
        at = self.place[item.id]
        under = [
            one.words
            for one in self.script.meanwhiles
            if one.words and self.place.get(one.from_item, at + 1) <= at <= self.place.get(one.to_item, at - 1)
        ]
        return [*(text.words for text in self.texts.get(item.id, ())), *under]

    @cached_property
    def all_texts(self) -> list[Text]:
        """The words of the whole class in order."""
        return [text for texts in self.texts.values() for text in texts]

    @cached_property
    def visits(self) -> list[MoveItem]:
        """The moves in the order in which they are really done, once for each visit."""
        by_id = {item.id: item for item in self.moves}
        found: list[MoveItem] = []
        for segment in self.timeline.segments:
            item = by_id.get(segment.item)
            if item and segment.kind.works and (not found or found[-1] is not item):
                found.append(item)
        return found

    @cached_property
    def conditions(self) -> frozenset[str]:
        """What somebody in the group has, in small letters."""
        return frozenset(one.casefold() for one in self.brief.conditions)

    def has(self, *conditions: Condition) -> bool:
        """Whether somebody in the group has one of these."""
        return any(one.value in self.conditions for one in conditions)

    @property
    def slow(self) -> bool:
        """Whether the group is one that needs more time than others."""
        return self.style.pace_percent >= SLOW_PERCENT

    @cached_property
    def coverage(self) -> Coverage:
        """What the class works, by region and effect."""
        return coverage(self.script, self.timeline)

    @cached_property
    def objections(self) -> dict[str, list[Objection]]:
        """What in the brief speaks against a move, by item; items that nothing speaks against are not in it."""
        found = ((item.id, list(objections_to(item.move, self.brief))) for item in self.moves)
        return {item: told for item, told in found if told}

    @cached_property
    def entries(self) -> dict[str, LibraryMove]:
        """The library's moves by key."""
        return {entry.move.key: entry for entry in self.library}

    @cached_property
    def posture_in(self) -> dict[str, Posture]:
        """The posture that people are in during each item, as the running order has it."""
        at, found = self.script.start_posture, {}
        for item in self.items:
            found[item.id] = item.move.posture if isinstance(item, MoveItem) else at
            at = item.move.ends_in if isinstance(item, MoveItem) else at
        return found

    @cached_property
    def sections(self) -> list[tuple[Section, list[Item]]]:
        """Each section with its items that are in."""
        return [(section, [i for i in section.items if i.present]) for section in self.script.sections]


def _texts_of(item: MoveItem | Talk) -> Iterator[Text]:
    return (Text(item, place, words) for place, words in spoken_texts(item))


def _texts_under(under: Meanwhile, host: Item) -> Iterator[Text]:
    """What is said meanwhile, at the item under which it begins."""
    if under.words and isinstance(host, MoveItem | Talk):
        yield Text(host, Place("meanwhile"), under.words, under)
