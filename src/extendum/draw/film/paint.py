"""Texts and shapes as pixels, the two palettes, and pixels as the planes that films are made of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

import av
import numpy as np
from av.video.reformatter import ColorRange, Colorspace
from PIL import Image, ImageDraw, ImageFont

from extendum.draw.film.pen import Pixels

#: Brightness and two colours of a picture, as rows of bytes: 4:2:0, BT.709, of limited range.
Planes = tuple[Pixels, Pixels, Pixels]
_FONTS = files("extendum.data").joinpath("fonts")
TEXT, BOLD, NAME = (
    str(_FONTS.joinpath(f"{one}.ttf")) for one in ("source-sans-3-regular", "source-sans-3-bold", "literata-bold")
)
#: A text that does not fit is made smaller, down to this share of its size; then it is broken into lines.
SMALLEST = 0.62


@dataclass(frozen=True, slots=True)
class Palette:
    """The colours of a film."""

    paper: str
    floor: str
    ink: str
    soft: str
    stay: str
    beat: str
    air: str
    clay: str
    wash: str
    rule: str
    edge: str
    strip: str
    on_strip: str


LIGHT = Palette(
    "#f7f0e4", "#e7dac0", "#22262b", "#5b5546", "#2b4a78", "#e2bb62", "#1f6159", "#a9421f", "#f6e2d8", "#d5c8b0",
    "#8d8168", "#22262b", "#fffcf5",
)  # fmt: skip
DARK = Palette(
    "#1d2126", "#2d2b27", "#f5ecdb", "#b9b0a0", "#8fb0e6", "#c9a04b", "#a5d3c6", "#f08a64", "#43291f", "#454b52",
    "#9c927d", "#101316", "#f5ecdb",
)  # fmt: skip


def planes(image: Image.Image) -> Planes:
    """A picture of even width and height as planes."""
    frame = av.VideoFrame.from_ndarray(np.asarray(image), "rgb24")
    made = frame.reformat(
        format="yuv420p", dst_colorspace=Colorspace.ITU709, dst_color_range=ColorRange.MPEG, threads=1
    )
    bright, blue, red = (
        np.frombuffer(memoryview(plane), np.uint8).reshape(plane.height, plane.line_size)[:, : plane.width].copy()
        for plane in made.planes
    )
    return bright, blue, red


def pasted(onto: Planes, patch: Planes, x: int, y: int) -> None:
    """Put a patch onto a picture, at an even place."""
    tall, wide = patch[0].shape
    onto[0][y : y + tall, x : x + wide] = patch[0]
    for whole, part in zip(onto[1:], patch[1:], strict=True):
        whole[y // 2 : (y + tall) // 2, x // 2 : (x + wide) // 2] = part


def even(number: float) -> int:
    """The nearest even number that is not larger."""
    return int(number) // 2 * 2


@lru_cache(maxsize=256)
def font(face: str, size: int) -> ImageFont.FreeTypeFont:
    """A face at a size in pixels."""
    return ImageFont.truetype(face, size)


def width(text: str, face: str, size: int) -> float:
    """How wide a text is."""
    return font(face, size).getlength(text)


def fitted(text: str, face: str, size: int, room: float, lines: int = 1) -> tuple[int, list[str]]:
    """The size at which a text fits into so many lines of a width, and its lines; the last is cut where it must be."""
    least = max(8, round(size * SMALLEST))
    for now in range(size, least - 1, -2):
        broken = wrapped(text, face, now, room)
        if len(broken) <= lines:
            return now, broken
    broken = wrapped(text, face, least, room)[:lines]
    while broken[-1] and width(f"{broken[-1]}…", face, least) > room:
        broken[-1] = broken[-1][:-1].rstrip()
    return least, [*broken[:-1], f"{broken[-1]}…"]


def wrapped(text: str, face: str, size: int, room: float) -> list[str]:
    """A text in lines of a width, broken between words."""
    found: list[str] = []
    for word in text.split():
        if found and width(f"{found[-1]} {word}", face, size) <= room:
            found[-1] = f"{found[-1]} {word}"
        else:
            found.append(word)
    return found or [""]


class Canvas:
    """A picture that texts and boxes are put on; sizes and places in pixels."""

    def __init__(self, wide: int, tall: int, colour: str) -> None:
        self.image = Image.new("RGB", (wide, tall), colour)
        self.draw = ImageDraw.Draw(self.image)

    def text(
        self, words: str, x: float, y: float, size: int, colour: str, face: str = TEXT, *, anchor: str = "la"
    ) -> None:
        """One line; ``anchor`` as Pillow has it: left, middle or right, and ascender, middle or baseline."""
        self.draw.text((x, y), words, colour, font(face, size), anchor=anchor)

    def lines(
        self,
        some: Sequence[str],
        x: float,
        y: float,
        size: int,
        colour: str,
        face: str = TEXT,
        anchor: str = "la",
        lead: float = 1.22,
    ) -> float:
        """Lines under one another, ``lead`` of their size apart; where they end."""
        for line in some:
            self.text(line, x, y, size, colour, face, anchor=anchor)
            y += size * lead
        return y

    def box(self, x: float, y: float, wide: float, tall: float, colour: str) -> None:
        """A filled box; nothing where it is thinner than half a pixel."""
        if min(wide, tall) < 0.5:
            return
        self.draw.rectangle(
            (round(x), round(y), max(round(x), round(x + wide) - 1), max(round(y), round(y + tall) - 1)), colour
        )

    def put(self, picture: Image.Image, x: float, y: float) -> None:
        """Another picture."""
        self.image.paste(picture, (round(x), round(y)))


def ribbon_colours(palette: Palette) -> Mapping[str, str]:
    """The colour of each kind of work on the ribbon; the rest is as the rules are."""
    stay = dict.fromkeys(("hold", "pulses", "open"), palette.stay)
    return stay | dict.fromkeys(("reps", "timed"), palette.beat) | {"breaths": palette.air}
