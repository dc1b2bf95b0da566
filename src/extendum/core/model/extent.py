"""How much a class unfolds to, counted before it is unfolded.

A small document can ask for very much: a hundred moves in twenty sets and twenty rounds. Passes, reps and segments are
counted from the script by multiplying, without making any of them; the seconds are those of the work, rests, talks and
what is shown first, as they stand now. Segments are counted at the most that a pass can have.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import NamedTuple

from extendum.core.model.dose import COUNTED, Manner, Timed
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem, SetOrder, rep_total
from extendum.core.model.limits import LONGEST_S, MOST_PASSES, MOST_REPS, MOST_SEGMENTS
from extendum.core.model.section import Group, Section, SidePlan
from extendum.core.model.talk import Quiet


class Extent(NamedTuple):
    """How many passes, reps (breaths, pulses) and segments there are, and their whole seconds."""

    passes: int = 0
    reps: int = 0
    segments: int = 0
    seconds: int = 0

    def and_(self, other: Extent) -> Extent:
        """Both together."""
        passes, reps, segments, seconds = other
        return Extent(self.passes + passes, self.reps + reps, self.segments + segments, self.seconds + seconds)

    @property
    def beyond(self) -> Iterator[tuple[str, int, int]]:
        """What there is too much of: its name, how many there are, and how many there may be."""
        if self.passes > MOST_PASSES:
            yield "passes", self.passes, MOST_PASSES
        if self.reps > MOST_REPS:
            yield "reps, breaths and pulses", self.reps, MOST_REPS
        if self.segments > MOST_SEGMENTS:
            yield "segments", self.segments, MOST_SEGMENTS
        if self.seconds > LONGEST_S:
            yield "seconds (24 hours)", self.seconds, LONGEST_S


#: How often an interleaved group lists each of its items, in all its directions (True) or in one of them.
Listed = Counter[tuple[str, bool]]


def listed_in(group: Group) -> Listed:
    """How often a group's passes list its items."""
    return Counter((ref.item, not ref.direction) for ref in group.passes)


def extent_of(item: Item, group: Group, listed: Listed) -> Extent:
    """What one item of a group unfolds to, over all its sides, directions, sets and rounds."""
    move = item.move if isinstance(item, MoveItem) else None
    sided = move is not None and move.sided
    sides = 2 if sided else 1
    visits, single = sides, 0
    if group.side_plan is SidePlan.INTERLEAVED:
        single = listed[item.id, False] * group.rounds
        visits = listed[item.id, True] + listed[item.id, False]
    elif group.side_plan is SidePlan.CHAIN and not sided and (isinstance(item, Quiet) or not item.between):
        visits = 2
    visits *= group.rounds
    if not isinstance(item, MoveItem):
        return Extent(0, 0, visits, visits * item.quantity.value)
    ways = 2 * visits - single if item.move.sidedness.by_direction else visits
    passes = ways * item.sets
    shown = 1 if item.demonstrate_s else 0
    # In order of sets a rest lies between whole sets; otherwise between the sets of each side and direction.
    runs = group.rounds if group.side_plan is SidePlan.EACH_MOVE else visits
    rests = (item.sets - 1) * (ways if item.set_order is SetOrder.SIDE_BY_SIDE else runs) if item.rest_s else 0
    seconds, reps = _work(item)
    segments = passes * (2 + _work_segments(item)) + visits + shown + rests
    seconds = passes * seconds + visits * item.move.slow_rise_s + item.demonstrate_s + rests * item.rest_s
    return Extent(passes, passes * reps, segments, seconds)


def _work_segments(item: MoveItem) -> int:
    """The stages of a pass with the words before each but the first, both halves of time that switches, a settling."""
    halves = sum(isinstance(dose, Timed) and dose.manner is Manner.HALVES for dose in item.doses)
    ahead = len([one for one in item.then if one.words or one.short or one.way_s])
    return len(item.doses) + ahead + halves + item.dose.settles


def _work(item: MoveItem) -> tuple[int, int]:
    """Whole seconds of the work of one pass as it stands now, and the reps, breaths and pulses in it."""
    seconds, reps = sum(stage.way_s for stage in item.then), 0
    for stage, dose in enumerate(item.doses, 1):
        many = rep_total(item, stage, dose.quantity.value)
        seconds += -((dose.lacks_ms - many * dose.cycle_ms) // 1000)
        reps += many if isinstance(dose, COUNTED) else 0
    return seconds, reps


def check_extent(sections: tuple[Section, ...]) -> None:
    """Raise RefusedError, with its path, at the item that makes a class longer than anyone teaches."""
    total = Extent()
    for s, section in enumerate(sections):
        for g, group in enumerate(section.groups):
            listed = listed_in(group)
            for i, item in enumerate(group.items):
                total = total.and_(extent_of(item, group, listed))
                for what, found, most in total.beyond:
                    must = f"at most {most:,} {what} in the whole class, over all its sets, sides and rounds"
                    raise RefusedError(f"sections[{s}].groups[{g}].items[{i}]", must, f"{found:,} up to here")
