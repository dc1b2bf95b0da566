"""A recording on a minute sheet: what was held on which side, and where switches, calls and counts were heard."""

from __future__ import annotations

from collections.abc import Iterator
from html import escape

from extendum.core.heard.guess import Guess, Heard, Stretch, What
from extendum.core.model.timeline import clock
from extendum.draw.ruling import TWO_COLUMNS_FROM, Ruling
from extendum.draw.svg import clip, n, tag, text

LABEL, TRACK, ROOM, NAME_PX = 13.0, 18.0, 8.0, 11.5
#: The first side lies above, the second below; what has one side only fills the line.
_BELOW = frozenset({"right", "second"})


def draw_heard(heard: Heard, width: float = 1180) -> str:
    """Bars for time that was held, a slanted stroke for a switch, ticks for calls, dots for counts."""
    lines = max(1, -(-int(heard.length) // 60))
    columns = 1 + (lines >= TWO_COLUMNS_FROM)
    ruling = Ruling(width=width, margin=24, top=2, label=LABEL, track=TRACK, gap=ROOM, columns=columns, lines=lines)
    drawn = []
    for line in range(lines):
        x, y = ruling.place(line)
        drawn.append(tag("path", d=f"M{n(x)} {n(y + TRACK + 1)}h{n(ruling.second * 60)}", class_="rule"))
        drawn.append(text(str(line), x - 7, y + TRACK - 4, class_="minute", text_anchor="end"))
    sided = {one.name for one in heard.stretches if one.side in _BELOW}
    before = ""
    for one in heard.stretches:
        drawn += _bar(one, ruling, whole=one.name not in sided, named=one.name != before)
        before = one.name
    for guess in heard.guesses:
        drawn += _mark(guess, ruling)
    size = f"0 0 {n(width)} {n(ruling.height)}"
    about = f"What was heard in {clock(int(heard.length))}"
    return tag("svg", "".join(drawn), class_="compare heard", viewBox=size, role="img", aria_label=about)


def _at(seconds: float, ruling: Ruling) -> tuple[float, float]:
    line = min(ruling.lines - 1, int(seconds // 60))
    x, y = ruling.place(line)
    return x + (seconds - 60 * line) * ruling.second, y


def _bar(one: Stretch, ruling: Ruling, *, whole: bool, named: bool) -> Iterator[str]:
    start = one.start
    told = f"{clock(int(one.start))} {one.name}, {one.side}: {one.seconds:.0f} s"
    while start < one.end - 0.01:
        end = min(one.end, (start // 60 + 1) * 60)
        x, y = _at(start, ruling)
        top, tall = (y, TRACK) if whole else (y + TRACK / 2 if one.side in _BELOW else y, TRACK / 2 - 1)
        shape = {"x": n(x), "y": n(top), "width": n((end - start) * ruling.second), "height": n(tall)}
        yield tag("rect", tag("title", escape(told)), **shape, class_="small k-hold")
        if named and start == one.start:
            yield text(clip(one.name, max(60, (end - start) * ruling.second), NAME_PX), x, y - 3, class_="name")
        start = end


def _mark(guess: Guess, ruling: Ruling) -> Iterator[str]:
    x, y = _at(guess.at, ruling)
    about = tag("title", escape(f"{clock(int(guess.at))} {guess.what}: {guess.why}"))
    if guess.what is What.SWITCH:
        yield tag("path", about, d=f"M{n(x - 4)} {n(y)}L{n(x + 4)} {n(y + TRACK)}", class_="turned")
    elif guess.what in (What.HALFWAY, What.LEFT):
        yield tag("path", about, d=f"M{n(x)} {n(y - 2)}v{n(TRACK + 4)}", class_="called")
    elif guess.what in (What.COUNTDOWN, What.REPS):
        yield tag("circle", about, cx=n(x), cy=n(y + TRACK / 2), r="3.4", class_="counted")
