"""A class as planned and as it was, one above the other on the lines of a minute sheet."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from html import escape

from extendum.core.model.timeline import Segment, SegmentKind, Timeline, clock
from extendum.draw.ruling import TWO_COLUMNS_FROM, Ruling, box, pieces
from extendum.draw.svg import clip, n, tag, text

#: Heights of a line: the names, the plan, what was, and the room to the next one.
NAMES, PLAN, REAL, ROOM = 13.0, 9.0, 13.0, 7.0
NAME_PX = 11.5


#: So wide is it on a page, and on a phone, where it has one column.
WIDE, NARROW = 1180.0, 360.0


def draw_compare(planned: Timeline, real: Timeline, width: float = WIDE) -> str:
    """Two tracks a minute: the plan above, what was below it; a pause is a dashed frame."""
    lines = max(1, -(-max(planned.length_s, real.length_s) // 60))
    columns = 1 + (lines >= TWO_COLUMNS_FROM and width > NARROW)
    whole = Ruling(width=width, columns=columns, lines=lines, margin=24, top=2)
    above = replace(whole, label=NAMES, track=PLAN, gap=REAL + ROOM)
    below = replace(whole, label=NAMES + PLAN + 1.5, track=REAL, gap=ROOM - 1.5)
    drawn = list(_rules(below))
    for timeline, ruling, lane in ((planned, above, "plan"), (real, below, "real")):
        drawn += _track(timeline, ruling, lane)
    drawn += _names(real, above)
    about = f"As planned, {clock(planned.length_s)}, above; as it was, {clock(real.length_s)}, below."
    size = f"0 0 {n(width)} {n(above.height)}"
    return tag("svg", "".join(drawn), class_="compare", viewBox=size, role="img", aria_label=about)


def _rules(ruling: Ruling) -> Iterator[str]:
    for line in range(ruling.lines):
        x, y = ruling.place(line)
        yield tag("path", d=f"M{n(x)} {n(y + ruling.track + 1)}h{n(ruling.second * 60)}", class_="rule")
        yield text(str(line), x - 7, y + ruling.track - 3, class_="minute", text_anchor="end")


def _track(timeline: Timeline, ruling: Ruling, lane: str) -> Iterator[str]:
    for piece in pieces(timeline.segments):
        segment = piece.segment
        x, y, height = box(piece, ruling)
        wide = max(0.8, (piece.to_s - piece.from_s) * ruling.second - 0.5)
        kind = "paused" if not segment.item else segment.kind
        about = tag("title", escape(_told(segment))) if piece.first else ""
        shape = {"x": n(x), "y": n(y), "width": n(wide), "height": n(height)}
        yield tag("rect", about, **shape, class_=f"small k-{kind} {lane}")


def _told(segment: Segment) -> str:
    side = f", {segment.side}" if segment.side else ""
    name = segment.name if segment.item else "paused"
    return f"{clock(segment.start_s)} {name}{side}: {segment.kind}, {segment.seconds} s"


def _names(real: Timeline, ruling: Ruling) -> Iterator[str]:
    """The name of each item where it begins, as far as there is room before the next one."""
    starts = [s for s, before in zip(real.segments, (None, *real.segments), strict=False) if _begins(s, before)]
    for segment, after in zip(starts, (*starts, None)[1:], strict=True):
        line = segment.start_s // 60
        x, y = ruling.place(line)
        end = min(after.start_s if after else real.length_s, (line + 1) * 60)
        words = clip(segment.name, (end - segment.start_s) * ruling.second - 4, NAME_PX)
        if words:
            at = x + (segment.start_s - line * 60) * ruling.second
            yield text(words, at, y - 3, class_="name")


def _begins(segment: Segment, before: Segment | None) -> bool:
    return (
        bool(segment.item) and segment.kind is not SegmentKind.RESET and (before is None or before.item != segment.item)
    )
