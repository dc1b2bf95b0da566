"""What could be done instead of a move, at its place in its class, with what each costs."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise

from extendum.core.checks.finding import Severity
from extendum.core.checks.report import check
from extendum.core.edit.script_edits import move_item, swap_move
from extendum.core.fit.explain import names
from extendum.core.model.body import Region
from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Caution
from extendum.core.model.script import Script
from extendum.core.moves.objections import concerns
from extendum.core.moves.suggest import stand_ins as near
from extendum.core.outputs.coverage import coverage, on_each_side
from extendum.core.timing.compile import compile_script

#: So many of the moves that are for the same are tried in the class.
TRIED = 16
#: Seconds a side that nobody would notice.
SAME_S = 3
_NUMBERS = {1: "one", 2: "two", 3: "three"}
#: The length is mended by the fit that follows.
_LENGTH = "off-slot"


@dataclass(frozen=True, slots=True)
class StandIn:
    """A move in another's place: what becomes of the class before a fit.

    ``seconds``: how much longer it gets, ``changes``: how many more changes of posture it has, ``areas``: by region,
    how many more seconds a side; ``findings``: how many more there are to fix or to consider; ``cautions``: whom it has
    to be adapted for.
    """

    entry: LibraryMove
    seconds: int
    changes: int
    areas: Mapping[Region, int]
    findings: int
    cautions: tuple[Caution, ...]

    @property
    def told(self) -> str:
        """What it costs, in a sentence."""
        return "; ".join(self._parts()) + "."

    def _parts(self) -> Iterator[str]:
        by = abs(self.seconds)
        yield f"{by}\u00a0s {'longer' if self.seconds > 0 else 'shorter'}" if by else "the same length"
        if self.changes:
            many = abs(self.changes)
            more = "more" if self.changes > 0 else "fewer"
            yield f"{_NUMBERS.get(many, many)} {more} change{'s' * (many > 1)} of posture"
        areas = [f"{area} {abs(by)}\u00a0s {'more' if by > 0 else 'less'}" for area, by in self.areas.items()]
        if areas:
            yield f"for {names(areas)} on each side"
        if self.findings:
            many = abs(self.findings)
            yield f"{_NUMBERS.get(many, many)} {'more' if self.findings > 0 else 'fewer'} to fix or consider"
        if self.cautions:
            yield f"to adapt for {names(list(dict.fromkeys(one.condition for one in self.cautions)))}"


@dataclass(frozen=True, slots=True)
class _Looked:
    length_s: int
    changes: int
    areas: dict[Region, int]
    findings: int


def stand_ins(
    script: Script,
    item_id: str,
    library: Iterable[LibraryMove],
    taken: Callable[[str], str] = lambda key: "",
    most: int = 5,
) -> tuple[StandIn, ...]:
    """The best moves to do instead of one, for the same areas; none that the class has or the brief speaks against.

    RefusedError where the item is no move.
    """
    item, library = move_item(script, item_id), tuple(library)
    now = _looked(script, library, taken)
    found = []
    for entry in near(item.move, script, library, TRIED):
        try:
            there = _looked(swap_move(script, item_id, entry), library, taken)
        except RefusedError:  # it does not go with the sides of its group
            continue
        keys = dict.fromkeys((*now.areas, *there.areas))
        areas = {key: by for key in keys if abs(by := there.areas.get(key, 0) - now.areas.get(key, 0)) > SAME_S}
        findings, changes = there.findings - now.findings, there.changes - now.changes
        longer = there.length_s - now.length_s
        found.append(StandIn(entry, longer, changes, areas, findings, concerns(entry.move, script.brief)))
    return tuple(sorted(found, key=lambda one: _worse(one, script))[:most])


def _worse(one: StandIn, script: Script) -> tuple[int, int]:
    """What speaks against a stand-in: what is left to mend, then what is lost and what it costs, in seconds."""
    lost = sum(-by * (2 if area in script.brief.areas else 1) for area, by in one.areas.items() if by < 0)
    return one.findings + len(one.cautions), lost + abs(one.seconds) + 10 * max(0, one.changes)


def _looked(script: Script, library: tuple[LibraryMove, ...], taken: Callable[[str], str]) -> _Looked:
    timeline = compile_script(script)
    found = check(script, timeline, library, taken)
    moves = [item.move for item in script.moves()]
    changes = sum(before.ends_in is not after.posture for before, after in pairwise(moves))
    weighty = sum(one.severity is not Severity.NOTE and one.code != _LENGTH for one in found.open)
    return _Looked(timeline.length_s, changes, on_each_side(coverage(script, timeline)), weighty)
