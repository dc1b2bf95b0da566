"""A class as a film: how it is made, what its cards tell, and each of its frames.

A frame is shown from its own time on, and drawn for the middle of it, so that what counts changes within half a frame.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Protocol

import av
import numpy as np
from PIL import Image

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.move import OptionKind
from extendum.core.model.script import Script
from extendum.core.model.timeline import SegmentKind, Timeline, clock
from extendum.core.moves.cautions import ASK_FIRST, USUAL
from extendum.core.moves.otherwise import other_move
from extendum.core.outputs.at_home import at_home, is_marked
from extendum.core.outputs.captions import captions
from extendum.core.outputs.cue_sheet import Entry, cue_sheet
from extendum.core.run.seen import Watched
from extendum.core.timing.at_hand import as_taught
from extendum.draw.figures.tones import tones
from extendum.draw.film.cards import MOST_SHOWN
from extendum.draw.film.paint import DARK, LIGHT, Planes
from extendum.draw.film.painter import EASIER, Painter, Told
from extendum.draw.film.pen import Pen
from extendum.formats.figures import Shown, as_spoken, drawing, figure_of
from extendum.formats.paper import USUAL_LOOK, Look
from extendum.formats.score import Known

#: Sizes by their names.
SIZES = {"720": (1280, 720), "1080": (1920, 1080), "upright": (1080, 1920)}
RATES = (25, 30)


class Kind(StrEnum):
    """Which container, and with it which codecs."""

    MP4 = "mp4"
    WEBM = "webm"


@dataclass(frozen=True, slots=True)
class Film:
    """How a film is made: its size by name, frames a second, dark or light, and whether captions are drawn in."""

    size: str = "720"
    rate: int = 25
    dark: bool = False
    drawn: bool = True
    kind: Kind | str = Kind.MP4
    author: str = ""

    def __post_init__(self) -> None:
        object.__setattr__(self, "kind", Kind(self.kind))
        if self.size not in SIZES:
            raise RefusedError("size", f"one of {', '.join(SIZES)}", self.size)
        if self.rate not in RATES:
            raise RefusedError("rate", " or ".join(map(str, RATES)), str(self.rate))

    @property
    def pixels(self) -> tuple[int, int]:
        """Its width and height."""
        return SIZES[self.size]


def painter_of(
    script: Script, timeline: Timeline, film: Film, look: Look = USUAL_LOOK, library: Known | None = None
) -> Painter:
    """Who paints the frames of a class; ``library``: where its easier ways are looked up."""
    entries = cue_sheet(script, timeline)
    palette = DARK if film.dark else LIGHT
    words = captions(timeline) if film.drawn else []
    told = _told(script, timeline, entries)
    return Painter(
        Watched(script, timeline), told, _pens(script, look, film, library or {}), words, palette, *film.pixels
    )


def _pens(script: Script, look: Look, film: Film, library: Known) -> Mapping[tuple[str, int, Side], Pen]:
    """A pen for each move on each of its sides, and for the parts of it that have a figure of their own."""
    colours, found = tones(look.skin, dark=film.dark), {}
    for item in as_taught(script).moves():
        figures = [(1, figure_of(item.move))]
        easier = other_move(item.move, OptionKind.EASIER, library, script.brief)
        figures += [(EASIER, figure_of(easier.move))] if easier else []
        figures += [
            (n, figure_of(replace(item.move, key=one.figure))) for n, one in enumerate(item.then, 2) if one.figure
        ]
        for stage, figure in figures:
            if figure is None:
                continue
            shown = Shown(figure.key, figure.flipped, figure.view, look.build, look.skin)
            plain = drawing(replace(shown, flipped=False))
            for side in (Side.LEFT, Side.RIGHT, Side.BOTH):
                turned = as_spoken(shown, side)
                mirrored = (side is Side.RIGHT) != turned.flipped
                found[item.id, stage, side] = Pen(plain, colours, mirrored=mirrored)
    return found


def _told(script: Script, timeline: Timeline, entries: list[Entry]) -> Told:
    """The words of the cards."""
    moves = {e.item.id: e.item for e in entries if isinstance(e.item, MoveItem)}
    props = dict.fromkeys(prop.name for item in moves.values() for prop in item.move.props)
    many = f"{len(moves)} {'move' if len(moves) == 1 else 'moves'}"
    minutes = clock(timeline.length_s)
    sides = {
        side: sum(s.seconds for s in timeline.segments if s.side is side and s.kind.works)
        for side in (Side.LEFT, Side.RIGHT)
    }
    even = f"{clock(sides[Side.LEFT])} left, {clock(sides[Side.RIGHT])} right" if any(sides.values()) else ""
    starts = {}
    for before, entry in zip([None, *entries], entries, strict=False):
        if (
            (before is None or before.section is not entry.section)
            and entry.section.name
            and isinstance(entry.item, MoveItem)
        ):
            starts[entry.start_s] = entry.section.name
    return Told(
        script.title,
        " · ".join(filter(None, (minutes, many, script.brief.group))),
        tuple(props),
        USUAL,
        " · ".join(filter(None, (minutes, many, even))),
        _home(script, entries),
        f"If something hurts tomorrow, leave that move out. {ASK_FIRST}",
        {item.id: item.name for item in script.items()},
        starts,
        _cover_of(timeline, list(moves)),
        tuple((item.id, item.name) for item in list(moves.values())[:: max(1, len(moves) // MOST_SHOWN)][:MOST_SHOWN]),
    )


def _cover_of(timeline: Timeline, moves: list[str]) -> str:
    """The move that stands for the class: the one that is held longest."""
    held = Counter[str]()
    for segment in timeline.segments:
        held[segment.item] += segment.seconds if segment.kind is SegmentKind.HOLD else 0
    return max(moves, key=lambda one: held[one], default="")


def _home(script: Script, entries: list[Entry]) -> str:
    if not is_marked(script):
        return ""
    moves = "; ".join(f"{one.item.name}, {one.dose}" for one in at_home(script, entries))
    return f"At home{', ' if script.often else ''}{script.often}: {moves}."


# ---- frames ------------------------------------------------------------------------------------------------------


def frame_ms(n: int, rate: int) -> int:
    """The moment of the class that a frame shows."""
    return (2 * n + 1) * 500 // rate


class Paints(Protocol):
    """Who paints the frames."""

    def frame(self, ms: int) -> Planes:
        """The picture at a moment of the class, in milliseconds."""

    def cover(self) -> Image.Image:
        """A picture of what is in the film."""


def still(painter: Paints, ms: int, wide: int, tall: int) -> Image.Image:
    """One frame as a picture."""
    return Image.fromarray(video_frame(painter.frame(ms), wide, tall).to_ndarray(format="rgb24"))


def video_frame(some: Planes, wide: int, tall: int) -> av.VideoFrame:
    """A frame as it is packed."""
    frame = av.VideoFrame(wide, tall, "yuv420p")
    for plane, rows in zip(frame.planes, some, strict=True):
        if plane.line_size == rows.shape[1]:
            plane.update(rows.tobytes())
        else:
            padded = np.zeros((rows.shape[0], plane.line_size), np.uint8)
            padded[:, : rows.shape[1]] = rows
            plane.update(padded.tobytes())
    frame.colorspace, frame.color_range = 1, 1  # BT.709, of limited range
    return frame
