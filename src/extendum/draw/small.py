"""A class at a glance: the small sheet of the shelf and the ribbon of the stage."""

from __future__ import annotations

from extendum.core.model.body import Side
from extendum.core.model.timeline import SegmentKind, Timeline
from extendum.draw.ruling import Ruling, box, pieces
from extendum.draw.svg import n, tag


def draw_small_sheet(timeline: Timeline, target_s: int, width: float = 200) -> str:
    """The sheet without words, for a list of classes: its height is the length of the class or of its slot."""
    lines = max(1, -(-max(timeline.length_s, target_s) // 60))
    ruling = Ruling(width=width, margin=10, top=6, label=0, track=4.6, gap=1.6, lines=lines)
    drawn = [
        tag("path", d=f"M{n(x)} {n(y + ruling.track + 0.8)}h{n(ruling.second * 60)}", class_="rule")
        for x, y in map(ruling.place, range(lines))
    ]
    for piece in pieces(timeline.segments):
        if piece.segment.kind is SegmentKind.TRANSITION:
            continue
        x, y, height = box(piece, ruling)
        wide = max(0.8, (piece.to_s - piece.from_s) * ruling.second - 0.4)
        kind = f"k-{piece.segment.kind}"
        drawn.append(tag("rect", x=n(x), y=n(y), width=n(wide), height=n(height), class_=f"small {kind}"))
    return tag(
        "svg",
        "".join(drawn),
        class_="small-sheet",
        viewBox=f"0 0 {n(width)} {n(ruling.height)}",
        width=n(width),
        height=n(ruling.height),
        aria_hidden="true",
    )


#: Parts in which nothing is worked: a class at a glance leaves them out.
ON_THE_WAY = (
    SegmentKind.TRANSITION,
    SegmentKind.SWITCH,
    SegmentKind.TURN,
    SegmentKind.SETUP,
    SegmentKind.SETTLE,
    SegmentKind.RELEASE,
)


def draw_ribbon(timeline: Timeline, width: float = 1240) -> str:
    """The whole class on one line, for the stage: where we are is drawn over it."""
    length = max(1, timeline.length_s)
    drawn = [tag("path", d=f"M0 13h{n(width)}", class_="rule")]
    for segment in timeline.segments:
        if segment.kind in ON_THE_WAY:
            continue
        y, height = {Side.LEFT: (2.0, 10.0), Side.RIGHT: (14.0, 10.0)}.get(segment.side or Side.BOTH, (2.0, 22.0))
        x, wide = segment.start_s / length * width, segment.seconds / length * width
        drawn.append(
            tag(
                "rect",
                x=n(x),
                y=n(y),
                width=n(max(1.0, wide - 1)),
                height=n(height),
                class_=f"small k-{segment.kind}",
                data_end=segment.end_s,
            )
        )
    drawn.append(tag("path", d="M0 0v26", class_="here", id="here"))
    return tag(
        "svg",
        "".join(drawn),
        class_="ribbon",
        id="ribbon",
        viewBox=f"0 0 {n(width)} 26",
        preserveAspectRatio="none",
        aria_hidden="true",
        data_width=n(width),
    )
