"""Lines between two orders of the same rows, side by side: where each row went."""

from __future__ import annotations

from collections.abc import Sequence

from extendum.draw.svg import n, tag

#: A row is so high, and the lines cross so wide a space; both are stretched to the rows beside them.
ROW, WIDTH = 10.0, 20.0


def draw_order_lines(before: Sequence[str], after: Sequence[str]) -> str:
    """A line from the place of each row in one order to its place in the other; those that moved are drawn apart."""
    places, drawn = {row: place for place, row in enumerate(before)}, ""
    for to, row in enumerate(after):
        start, end = (places[row] + 0.5) * ROW, (to + 0.5) * ROW
        path = f"M0 {n(start)}C{n(WIDTH / 2)} {n(start)} {n(WIDTH / 2)} {n(end)} {n(WIDTH)} {n(end)}"
        drawn += tag("path", d=path, class_="stays" if places[row] == to else "went")
    box = f"0 0 {n(WIDTH)} {n(len(after) * ROW)}"
    return tag("svg", drawn, class_="order-lines", viewBox=box, preserveAspectRatio="none", aria_hidden="true")
