"""A group as it runs: a line for each round, with every pass in its order, left above and right below."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from extendum.core.model.body import Side
from extendum.core.model.timeline import Segment, SegmentKind, clock
from extendum.draw.svg import n, tag, text

LINE, BAR, LEFT, RIGHT = 34.0, 22.0, 64.0, 52.0
#: More rounds than this are only counted.
MOST_LINES = 4
_KINDS = {SegmentKind.REPS: "beat", SegmentKind.TIMED: "beat", SegmentKind.BREATHS: "air"}


def draw_group(segments: Sequence[Segment], numbers: Mapping[str, int], width: float, framed: str = "") -> str:
    """The passes of a group in time, by round; ``numbers``: of its items; ``framed``: the item that is meant."""
    rounds = sorted({segment.round for segment in segments})
    own = {one: [s for s in segments if s.round == one] for one in rounds}
    longest = max((some[-1].end_s - some[0].start_s for some in own.values()), default=1)
    second, drawn = (width - LEFT - RIGHT) / max(1, longest), ""
    for row, one in enumerate(rounds[:MOST_LINES]):
        some, top = own[one], row * LINE + 6
        begin = some[0].start_s
        if len(rounds) > 1:
            drawn += text(f"round {one}", 0, top + BAR * 0.7, class_="name")
        drawn += tag("path", d=f"M{n(LEFT)} {n(top + BAR + 2)}h{n(longest * second)}", class_="rule")
        for segment in some:
            if segment.kind.works or not segment.item:
                x, wide = LEFT + (segment.start_s - begin) * second, max(2.0, segment.seconds * second - 1)
                drawn += _pass(segment, numbers.get(segment.item, 0), x, top, wide, framed=segment.item == framed)
        length = some[-1].end_s - begin
        drawn += text(clock(length), LEFT + length * second + 8, top + BAR * 0.7, class_="length")
    more = len(rounds) - MOST_LINES
    lines = min(len(rounds), MOST_LINES)
    if more > 0:
        drawn += text(f"and {more} more", 0, lines * LINE + 14, class_="name")
    height = lines * LINE + 8 + (14 if more > 0 else 0)
    about = {"role": "img", "aria_label": "The group as it runs"}
    return tag("svg", drawn, class_="group-strip", viewBox=f"0 0 {n(width)} {n(height)}", **about)


def _pass(segment: Segment, number: int, x: float, top: float, wide: float, *, framed: bool) -> str:
    y = top + (BAR / 2 if segment.side is Side.RIGHT else 0)
    high = BAR if segment.side not in (Side.LEFT, Side.RIGHT) else BAR / 2 - 1
    kind = _KINDS.get(segment.kind, "stay")
    box = tag("rect", x=n(x), y=n(y), width=n(wide), height=n(high), rx="2", class_=f"pass-{kind}")
    if framed:
        box += tag("rect", x=n(x - 1.5), y=n(y - 1.5), width=n(wide + 3), height=n(high + 3), rx="3", class_="frame")
    if wide > 12:
        middle = y + high / 2 + (4.4 if high == BAR else 3.6)
        box += text(str(number), x + wide / 2, middle, class_=f"number on-{kind}", text_anchor="middle")
    return tag("g", tag("title", f"{segment.name}, {segment.side or ''} {segment.seconds} s") + box)
