"""A small mark for each kind of move, in the language of the minute sheet: shape alone tells them apart."""

from __future__ import annotations

from extendum.core.model.move import Kind
from extendum.draw.svg import tag

_SHAPES = {
    Kind.STATIC: tag("path", d="M1 4H17V10H1Z", class_="full"),
    Kind.DYNAMIC: tag("path", d="M2 12V2M6 12V7M10 12V2M14 12V7", class_="line"),
    Kind.MOBILITY: tag("path", d="M2 11C4 3 14 3 16 11", class_="line") + tag("path", d="M14 12h4v-4Z", class_="full"),
    Kind.BREATH: tag("path", d="M1 10C4 10 4 4 7 4S10 10 13 10S16 4 17 4", class_="line"),
    Kind.STRENGTH: tag("path", d="M1 3H17V6H1ZM4 8H14V11H4Z", class_="full"),
    Kind.PULSE_RAISER: tag("path", d="M1 9L5 3L8 11L12 3L15 11L17 8", class_="line"),
    Kind.PRESSING: tag("circle", cx="9", cy="7", r="3", class_="full") + tag("path", d="M1 12H17", class_="line"),
}


def draw_kind(kind: Kind) -> str:
    """The mark of a kind, 18 by 14, in the colour of its text; it is named beside it or in its title."""
    inside = tag("title", str(kind)) + _SHAPES[kind]
    return tag("svg", inside, class_="kind-mark", viewBox="0 0 18 14", width="18", height="14", role="img")
