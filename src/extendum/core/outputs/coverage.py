"""What a class works, for how long, on which side: seconds by region, effect and side.

Coverage counts the side that is worked, the words speak the named one. Main and secondary targets are told
apart and never added.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from extendum.core.model.body import Region, Side
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Effect, Kind, OnSide, Target
from extendum.core.model.script import Script
from extendum.core.model.timeline import Segment, Timeline

#: Regions in the middle of the body: they have no left and right of their own.
MIDDLE = frozenset({Region.JAW, Region.EYES, Region.SPINE, Region.BREATH, Region.WHOLE_BODY})


@dataclass(slots=True)
class Worked:
    """Half seconds on each side of one region with one effect, by rank, and the items that they come from."""

    halves: dict[tuple[bool, Side], int] = field(default_factory=dict)
    static: dict[Side, int] = field(default_factory=dict)
    items: dict[str, bool] = field(default_factory=dict)

    def seconds(self, side: Side, *, main: bool = True) -> int:
        """Whole seconds on a side, main or secondary."""
        return self.halves.get((main, side), 0) // 2

    @property
    def most(self) -> int:
        """Seconds on the side that gets more, main."""
        return max(self.seconds(Side.LEFT), self.seconds(Side.RIGHT))


Coverage = dict[tuple[Region, Effect], Worked]


def coverage(script: Script, timeline: Timeline) -> Coverage:
    """The coverage of a compiled class; regions that nothing is for are not in it."""
    work: dict[str, list[Segment]] = {}
    for segment in timeline.segments:
        if segment.kind.works:
            work.setdefault(segment.item, []).append(segment)
    found: Coverage = {}
    for item in script.moves():
        for stage in range(1, len(item.doses) + 1):
            halves = _halves(item, (one for one in work.get(item.id, ()) if one.stage == stage))
            for target in item.targets_at(stage):
                _add(found.setdefault((target.region, target.effect), Worked()), item, target, halves)
    return found


def _add(one: Worked, item: MoveItem, target: Target, halves: Mapping[Side, int]) -> None:
    """Count what a move does for one of its targets."""
    one.items[item.id] = one.items.get(item.id, False) or target.main
    for named, amount in halves.items():
        side = named.other if target.side is OnSide.OTHER else named
        for on in (Side.LEFT, Side.RIGHT) if _on_both(target, named) else (side,):
            key = (target.main, on)
            one.halves[key] = one.halves.get(key, 0) + amount
            if target.main and item.move.kind is Kind.STATIC:
                one.static[on] = one.static.get(on, 0) + amount


def _on_both(target: Target, named: Side) -> bool:
    return named is Side.BOTH or target.side is OnSide.BOTH or target.region in MIDDLE


def _halves(item: MoveItem, segments: Iterable[Segment]) -> dict[Side, int]:
    """Half seconds by the named side: what alternates gives each side half of its time."""
    found: dict[Side, int] = {}
    for segment in segments:
        named = segment.side or Side.BOTH
        if named is Side.BOTH and item.move.sidedness.alternates:
            for side in (Side.LEFT, Side.RIGHT):
                found[side] = found.get(side, 0) + segment.seconds
        else:
            found[named] = found.get(named, 0) + 2 * segment.seconds
    return found


def static_seconds(worked: Worked) -> int:
    """Seconds of static holds on the side that has more of them, of main targets."""
    return max(worked.static.values(), default=0) // 2


def on_each_side(found: Coverage) -> dict[Region, int]:
    """Seconds that each region gets on the side that gets less, main, with all effects together."""
    done: dict[Region, int] = {}
    for (region, _), worked in found.items():
        done[region] = done.get(region, 0) + min(worked.seconds(Side.LEFT), worked.seconds(Side.RIGHT))
    return done


def of_region(found: Coverage, region: Region) -> dict[Effect, Worked]:
    """What is done for one region, by effect."""
    return {effect: worked for (one, effect), worked in found.items() if one is region}
