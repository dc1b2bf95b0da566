"""The figures that the screens of a class show: of each move on its sides, and of the parts that are other places."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.model.body import Side
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.moves.spares import Spare
from extendum.web.library.figures import live_figure
from extendum.web.library.store import Library


def pictures(
    script: Script, timeline: Timeline, tray: Sequence[Spare], library: Library, look: str
) -> Iterator[tuple[str, str, str]]:
    """What each is of (a part as ``item@2``), its side, and the drawing; empty where there is none."""
    items = {item.id: item for item in (*script.moves(), *(one.item for one in tray))}
    segments = [segment for played in (timeline, *(one.timeline for one in tray)) for segment in played.segments]
    sides = {(segment.item, segment.side or Side.BOTH) for segment in segments if segment.item in items}
    for item, side in sorted(sides):
        yield item, side.value, live_figure(items[item].move, side, look)
        for number, other in enumerate(items[item].instead, 1):
            there = side if other.move.sided else Side.BOTH
            yield f"{item}@+{number}", side.value, live_figure(other.move, there, look)
        for number, stage in enumerate(items[item].then, 2):
            if stage.figure in library.moves:
                yield f"{item}@{number}", side.value, live_figure(library.moves[stage.figure].move, side, look)
