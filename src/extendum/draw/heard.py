"""A recording on a minute sheet: what was held on which side, and where switches, calls and counts were heard."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape

from extendum.core.heard.recording import Heard, HeardMove, Pass
from extendum.core.model.timeline import clock
from extendum.draw.ruling import TWO_COLUMNS_FROM, Ruling
from extendum.draw.svg import SIGN, clip, n, tag, text

LABEL, TRACK, ROOM, NAME_PX = 13.0, 18.0, 8.0, 11.5
#: How wide a sheet is in its own units, so that names can be read on a desk, on a tablet upright, and on a phone.
WIDTHS = {"desk": 1180.0, "upright": 760.0, "phone": 360.0}
#: A name has so much room at the least; at the end of a line it ends where that does.
LEAST_NAME, LAST_NAME = 60.0, 200.0
#: The first side lies above, the second below; what has one side only fills the line.
_BELOW = frozenset({"right", "second"})


def draw_heard(heard: Heard, width: float, *, edges: bool = False) -> str:
    """Bars for time that was held, a slanted stroke for a switch, ticks for calls, dots for counts.

    ``edges``: with what a pass can be drawn longer or shorter by, and where each minute lies.
    """
    lines = max(1, -(-int(heard.length) // 60))
    columns = 1 + (lines >= TWO_COLUMNS_FROM and width > WIDTHS["phone"])
    ruling = Ruling(width=width, margin=24, top=2, label=LABEL, track=TRACK, gap=ROOM, columns=columns, lines=lines)
    drawn = []
    for line in range(lines):
        x, y = ruling.place(line)
        drawn.append(tag("path", d=f"M{n(x)} {n(y + TRACK + 1)}h{n(ruling.second * 60)}", class_="rule"))
        drawn.append(text(str(line), x - 7, y + TRACK - 4, class_="minute", text_anchor="end"))
    for number, move in enumerate(heard.moves, 1):
        whole = not any(one.side in _BELOW for one in move.passes)
        for one in move.passes:
            drawn += _bar(one, move, ruling, whole=whole, told=f"{number} {move.name}" if one is move.passes[0] else "")
    for at in heard.switches:
        x, y = _at(at, ruling)
        drawn.append(
            tag("path", _told(at, "switch"), d=f"M{n(x - 4)} {n(y)}L{n(x + 4)} {n(y + TRACK)}", class_="turned")
        )
    called = [(one.at, f"{one.said_s} seconds called") for one in heard.calls] + [
        (one.at, "half") for one in heard.halves
    ]
    for at, about in called:
        x, y = _at(at, ruling)
        drawn.append(tag("path", _told(at, about), d=f"M{n(x)} {n(y - 2)}v{n(TRACK + 4)}", class_="called"))
    for count in heard.counts:
        x, y = _at(count.at, ruling)
        about = f"{count.numbers[0]} to {count.numbers[-1]}"
        drawn.append(tag("circle", _told(count.at, about), cx=n(x), cy=n(y + TRACK / 2), r="3.4", class_="counted"))
    places = {}
    if edges:
        for row, move in enumerate(heard.moves):
            drawn += [_edge(row, k, one, end, ruling) for k, one in enumerate(move.passes) for end in ("from", "to")]
        minutes = " ".join(",".join(map(n, ruling.place(line))) for line in range(lines))
        places = {"data_minutes": minutes, "data_second": n(ruling.second), "data_length": n(heard.length)}
    size = f"0 0 {n(width)} {n(ruling.height)}"
    about = f"What was heard in {clock(int(heard.length))}"
    return tag("svg", "".join(drawn), class_="compare heard", viewBox=size, role="img", aria_label=about, **places)


def _told(at: float, about: str) -> str:
    return tag("title", escape(f"{clock(int(at))} {about}"))


def _at(seconds: float, ruling: Ruling) -> tuple[float, float]:
    line = min(ruling.lines - 1, int(seconds // 60))
    x, y = ruling.place(line)
    return x + (seconds - 60 * line) * ruling.second, y


def _edge(row: int, k: int, one: Pass, end: str, ruling: Ruling) -> str:
    """One end of a pass, to be dragged."""
    at = one.start if end == "from" else one.end
    x, y = _at(max(0.0, at - 0.01), ruling)
    told = f"Drag: {'begins' if end == 'from' else 'ends'} at {clock(round(at))}"
    place = {"x": n(x - 5), "y": n(y - 1), "width": "10", "height": n(TRACK + 2)}
    return tag("rect", tag("title", told), class_="edge", **place, data_row=str(row), data_pass=str(k), data_end=end)


def _bar(one: Pass, move: HeardMove, ruling: Ruling, *, whole: bool, told: str) -> Iterator[str]:
    start = one.start
    about = f"{clock(int(one.start))} {move.name}, {one.side}: {one.seconds:.0f} s"
    doubt = " doubt" if move.doubtful else ""
    while start < one.end - 0.01:
        end = min(one.end, (start // 60 + 1) * 60)
        x, y = _at(start, ruling)
        top, tall = (y, TRACK) if whole else (y + TRACK / 2 if one.side in _BELOW else y, TRACK / 2 - 1)
        shape = {"x": n(x), "y": n(top), "width": n((end - start) * ruling.second), "height": n(tall)}
        yield tag("rect", tag("title", escape(about)), **shape, class_=f"small k-hold{doubt}")
        if told and start == one.start:
            last = ruling.place(int(start // 60))[0] + 60 * ruling.second
            if x + len(told) * NAME_PX * SIGN > last:
                yield text(clip(told, LAST_NAME, NAME_PX), last, y - 3, class_="name", text_anchor="end")
            else:
                room = max(LEAST_NAME, (end - start) * ruling.second)
                yield text(clip(told, room, NAME_PX), x, y - 3, class_="name")
        start = end
