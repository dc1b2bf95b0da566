"""Pages to print on: their faces, texts and figures. Readable in black and white."""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import nullcontext
from dataclasses import replace
from typing import NamedTuple

from fpdf import FPDF
from fpdf.enums import StrokeCapStyle, StrokeJoinStyle

from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem
from extendum.draw.figures.flat import Flat
from extendum.draw.figures.picture import LETTER
from extendum.draw.figures.tones import Skin
from extendum.formats.figures import drawing, figure_of, printed_figure
from extendum.formats.paper import Look, Paper, font_file

MARGIN, FACE, SIGNS = 14.0, "Source", "Signs"
#: Points of the text, and millimetres of a point.
TEXT_PT, POINT = 9.5, 25.4 / 72
#: A picture that shows less than so many centimetres is a close one: it has a scale of its own.
CLOSE_CM = 100.0
#: How the lines of figures end, and what is as good as wholly opaque.
_ROUND = {"stroke_cap_style": StrokeCapStyle.ROUND, "stroke_join_style": StrokeJoinStyle.ROUND}
_WHOLE = 0.98


class Box(NamedTuple):
    """A place on a page, in millimetres."""

    x: float
    y: float
    wide: float
    tall: float


class Pages(FPDF):
    """Pages with the class's name and their number at the foot."""

    def __init__(self, title: str, paper: Paper, look: Look) -> None:
        super().__init__(format=paper.value)
        self.look = look
        for style, name in (("", "regular"), ("B", "bold")):
            self.add_font(FACE, style, font_file(f"source-sans-3-{name}"))
        self.add_font(SIGNS, "", font_file("signs"))
        self.set_fallback_fonts([SIGNS], exact_match=False)
        self.title_told, self.pictured = title, False
        self.set_title(title)
        self.set_margins(MARGIN, MARGIN)
        self.set_auto_page_break(False)
        self.add_page()

    @property
    def room(self) -> float:
        """Where a page ends."""
        return float(self.h) - MARGIN - 6

    def footer(self) -> None:
        """The class and the page."""
        self.set_y(-MARGIN)
        self.set_font(FACE, "", 8)
        key = (
            "  ·  figures: long lines are stretched, bars worked, dots mobilised, dashed on the far side"
            if self.pictured
            else ""
        )
        page, room = f"  ·  page {self.page_no()} of {{nb}}{key}", self.epw - 2
        name = self.title_told
        while name and self.get_string_width(f"{name}{page}") > room:
            name = f"{name.removesuffix('…')[:-1].rstrip()}…" if len(name) > 2 else ""
        self.cell(0, 4, f"{name}{page}" if name else page.removeprefix("  ·  "), align="C")

    def put(self, text: str, x: float, y: float, width: float, size: float = TEXT_PT, *, bold: bool = False) -> float:
        """A text in a column; where it ends."""
        self.set_font(FACE, "B" if bold else "", size)
        self.set_xy(x, y)
        self.multi_cell(width, size * POINT * 1.22, text, align="L", new_x="LEFT", new_y="NEXT")
        return float(self.get_y())

    def tall(self, text: str, width: float, size: float = TEXT_PT, *, bold: bool = False) -> float:
        """How tall a text in a column is."""
        self.set_font(FACE, "B" if bold else "", size)
        found = self.multi_cell(width, size * POINT * 1.22, text, align="L", dry_run=True, output="HEIGHT")
        return float(found)  # type: ignore[arg-type]

    def figure(self, item: MoveItem, side: Side, box: Box, *, scale: float = 0.0) -> bool:
        """A move's figure in a box, standing on its lower edge; whether it has one.

        ``scale``: millimetres of a centimetre, so that all people are of one size; close pictures, and all where it
        is 0, are as large as the box.
        """
        figure = figure_of(item.move)
        if figure is None:
            return False
        self.pictured = True
        shown = replace(figure, build=self.look.build, skin=self.look.skin)
        shapes, letter = printed_figure(shown, side)
        cm, full = drawing(replace(shown, flipped=False, skin=Skin.MIDDLE)).size, min(box.wide, box.tall)
        size = min(full, cm * scale) if scale and cm >= CLOSE_CM else full
        x, y = box.x + (box.wide - size) / 2, box.y + box.tall - size
        with self.rect_clip(*box), self.local_context(**_ROUND):
            for shape in shapes:
                self._shape(shape, x, y, size)
        if letter and side is not Side.BOTH:
            self._letter(side.value[0].upper(), x + letter[0] * size, y + letter[1] * size, size * LETTER)
        return True

    def _shape(self, shape: Flat, x: float, y: float, size: float) -> None:
        """A shape of a figure; what ends at the edge of its picture goes on beyond it, as a floor does."""
        points = [(x + _beyond(across) * size, y + _beyond(down) * size) for across, down in shape.points]
        if not shape.width:
            self.set_fill_color(shape.colour)
            with self.local_context(fill_opacity=shape.opacity) if shape.opacity < _WHOLE else nullcontext():
                self.polygon(points, style="F")
            return
        self.set_draw_color(shape.colour)
        self.set_line_width(shape.width * size)
        if shape.dash:
            self.set_dash_pattern(shape.dash[0] * size, shape.dash[1] * size)
        with self.local_context(stroke_opacity=shape.opacity) if shape.opacity < _WHOLE else nullcontext():
            self.polyline(points, polygon=shape.closed, style="D")
        if shape.dash:
            self.set_dash_pattern()

    def _letter(self, sign: str, x: float, y: float, radius: float) -> None:
        """The letter of a side in its ring."""
        self.set_fill_color(255, 252, 245)
        self.set_draw_color(0)
        self.set_line_width(radius / 6)
        self.circle(x, y, radius, style="DF")
        self.set_font(FACE, "B", radius * 1.2 / POINT)
        self.text(x - self.get_string_width(sign) / 2, y + radius * 0.43, sign)

    def finished(self) -> bytes:
        """The whole file."""
        return bytes(self.output())


def _beyond(share: float) -> float:
    """A place in a picture; one at its edge lies far outside."""
    return -9.0 if share <= 0 else 10.0 if share >= 1 else share


def one_scale(items: Iterable[MoveItem], look: Look, room: float) -> float:
    """Millimetres of a centimetre by which the largest of some figures fills its room."""
    shown = [replace(one, build=look.build) for item in items if (one := figure_of(item.move))]
    sizes = [drawing(replace(one, flipped=False, skin=Skin.MIDDLE)).size for one in shown]
    return room / max((size for size in sizes if size >= CLOSE_CM), default=CLOSE_CM)
