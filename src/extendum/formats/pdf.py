"""Printed pages: the cue sheet with figures, the minute sheet, and pages to print on. Readable in black and white."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import nullcontext
from dataclasses import dataclass, replace
from enum import StrEnum
from importlib.resources import files

from fpdf import FPDF
from fpdf.enums import StrokeCapStyle, StrokeJoinStyle

from extendum.core.figure.builds import Build
from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.timeline import SegmentKind, Timeline, clock
from extendum.core.outputs.cue_sheet import Entry
from extendum.draw.figures.flat import Flat
from extendum.draw.figures.picture import LETTER
from extendum.draw.figures.tones import Skin
from extendum.draw.ruling import Piece, pieces
from extendum.formats.figures import figure_of, printed_figure

MARGIN, FACE = 14.0, "Source"
#: Points of the text, and millimetres of a point.
TEXT_PT, POINT = 9.5, 25.4 / 72
FIGURE_MM = 17.0
#: How the lines of figures end, and what is as good as wholly opaque.
_ROUND = {"stroke_cap_style": StrokeCapStyle.ROUND, "stroke_join_style": StrokeJoinStyle.ROUND}
_WHOLE = 0.98


class Paper(StrEnum):
    """What is printed on."""

    A4 = "A4"
    LETTER = "Letter"


@dataclass(frozen=True, slots=True)
class Look:
    """How somebody wants the figures on a page."""

    build: Build = Build.SLIGHT
    skin: Skin = Skin.MIDDLE


USUAL_LOOK = Look()


class Pages(FPDF):
    """Pages with the class's name and their number at the foot."""

    def __init__(self, title: str, paper: Paper, look: Look) -> None:
        super().__init__(format=paper.value)
        self.look = look
        fonts = files("extendum.data").joinpath("fonts")
        for style, name in (("", "regular"), ("B", "bold")):
            self.add_font(FACE, style, str(fonts.joinpath(f"source-sans-3-{name}.ttf")))
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
        self.cell(0, 4, f"{self.title_told}  ·  page {self.page_no()} of {{nb}}{key}", align="C")

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

    def figure(self, item: MoveItem, side: Side, x: float, y: float, size: float) -> bool:
        """A move's figure; whether it has one."""
        figure = figure_of(item.move)
        if figure is None:
            return False
        self.pictured = True
        shapes, letter = printed_figure(replace(figure, build=self.look.build, skin=self.look.skin), side)
        with self.rect_clip(x, y, size, size), self.local_context(**_ROUND):
            for shape in shapes:
                self._shape(shape, x, y, size)
        if letter and side is not Side.BOTH:
            self._letter(side.value[0].upper(), x + letter[0] * size, y + letter[1] * size, size * LETTER)
        return True

    def _shape(self, shape: Flat, x: float, y: float, size: float) -> None:
        """A shape of a figure."""
        points = [(x + across * size, y + down * size) for across, down in shape.points]
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


def cue_sheet_pdf(
    script: Script, timeline: Timeline, entries: Sequence[Entry], paper: Paper = Paper.A4, look: Look = USUAL_LOOK
) -> bytes:
    """The cue sheet: each visit with its time, figure, dose, sides and words; the minute sheet after it."""
    pages = Pages(script.title, paper, look)
    y = _heading(pages, script, timeline, entries)
    section = None
    for entry in entries:
        head = 7.0 if entry.section is not section else 0.0
        tall = _entry_tall(pages, entry)
        if y + head + tall > pages.room and y > MARGIN + 1:
            pages.add_page()
            y = MARGIN
        if head:
            section = entry.section
            y = pages.put(section.name or str(section.role), MARGIN, y + 1.5, 120, 12, bold=True) + 0.8
        y = _entry(pages, entry, y, tall)
    _minute_sheet(pages, timeline)
    return pages.finished()


def _heading(pages: Pages, script: Script, timeline: Timeline, entries: Sequence[Entry]) -> float:
    width = pages.epw
    y = pages.put(script.title, MARGIN, MARGIN, width, 20, bold=True)
    props = dict.fromkeys(prop for entry in entries for prop in entry.props)
    needs = f"needs {', '.join(props)}" if props else ""
    told = [clock(timeline.length_s), f"lead side {script.style.lead_side}", script.brief.group, needs]
    return pages.put(" · ".join(filter(None, told)), MARGIN, y + 0.5, width, 10) + 1.5


def _columns(pages: Pages) -> tuple[float, float, float, float]:
    """Left ends of the time, the figure, the name and the words."""
    return MARGIN, MARGIN + 14, MARGIN + 14 + FIGURE_MM + 3, MARGIN + 14 + FIGURE_MM + 3 + 46


def _told(entry: Entry) -> str:
    sides = ", then ".join(entry.sides) if len(entry.sides) > 1 else ""
    return "\n".join(filter(None, (entry.dose, sides, ", ".join(entry.props))))


def _words(entry: Entry) -> Iterator[str]:
    for line in entry.lines:
        side = f" ({line.side})" if line.side and len(entry.sides) > 1 else ""
        text = f"[For you: {line.text}]" if line.private else line.text
        yield f"{clock(line.at_ms // 1000)}{side}  {text}"


def _entry_tall(pages: Pages, entry: Entry) -> float:
    _, _, name, words = _columns(pages)
    said = sum(pages.tall(line, pages.epw + MARGIN - words, 8.5) for line in _words(entry))
    called = pages.tall(entry.title, words - name - 2, 10.5, bold=True) + pages.tall(
        _told(entry), words - name - 2, 8.5
    )
    pictured = FIGURE_MM if isinstance(entry.item, MoveItem) and figure_of(entry.item.move) else 0.0
    return max(said, called, pictured, 6.0) + 2.4


def _entry(pages: Pages, entry: Entry, y: float, tall: float) -> float:
    time, figure, name, words = _columns(pages)
    pages.set_draw_color(170)
    pages.set_line_width(0.2)
    pages.line(MARGIN, y, pages.w - MARGIN, y)
    y += 1.0
    pages.put(clock(entry.start_s), time, y, 14, 11, bold=True)
    pages.put(f"{entry.seconds} s", time, y + 4.8, 14, 8.5)
    if isinstance(entry.item, MoveItem):
        pages.figure(entry.item, entry.sides[0] if entry.sides else Side.BOTH, figure, y, FIGURE_MM)
    under = pages.put(entry.title, name, y, words - name - 2, 10.5, bold=True)
    pages.put(_told(entry), name, under, words - name - 2, 8.5)
    at = y
    for line in _words(entry):
        at = pages.put(line, words, at, pages.epw + MARGIN - words, 8.5)
    return y - 1.0 + tall


# ---- the minute sheet: kinds by texture, so that it needs no colour ------------------------------------------------


def _minute_sheet(pages: Pages, timeline: Timeline) -> None:
    lines = max(1, -(-timeline.length_s // 60))
    pages.add_page()
    top = pages.put("Minute by minute", MARGIN, MARGIN, pages.epw, 14, bold=True)
    told = "Each line is a minute. Upper half: left side, lower half: right, full height: both."
    top = pages.put(told, MARGIN, top, pages.epw, 8.5) + 2
    pitch = min(11.0, (pages.room - top) / min(lines, 30))
    per_page = max(1, int((pages.room - top) / pitch))
    for line in range(lines):
        if line and line % per_page == 0:
            pages.add_page()
        y = top + line % per_page * pitch
        pages.put(str(line), MARGIN, y + pitch * 0.45, 8, 8)
        pages.set_draw_color(190)
        pages.set_line_width(0.15)
        pages.line(MARGIN + 8, y + pitch - 0.6, pages.w - MARGIN, y + pitch - 0.6)
        for piece in pieces(timeline.segments):
            if piece.line == line:
                _piece(pages, piece, y, pitch)


def _piece(pages: Pages, piece: Piece, y: float, pitch: float) -> None:
    segment, scale = piece.segment, (pages.epw - 8) / 60
    x, wide = MARGIN + 8 + (piece.from_s - piece.line * 60) * scale, (piece.to_s - piece.from_s) * scale
    tall = pitch * 0.5
    top = y + pitch * 0.42
    if segment.side is Side.LEFT:
        tall /= 2
    elif segment.side is Side.RIGHT:
        top, tall = top + tall / 2, tall / 2
    _texture(pages, segment.kind, x, top, max(0.3, wide - 0.3), tall - 0.3)
    if piece.first and segment.kind.works:
        pages.set_font(FACE, "", 6.5)
        side = f", {segment.side}" if segment.side in (Side.LEFT, Side.RIGHT) else ""
        name = f"{segment.name}{side}"
        room = min(max(wide, 14), pages.w - MARGIN - x)
        while name and pages.get_string_width(name) > room:
            name = name[:-1]
        pages.text(x, y + pitch * 0.38, name)


_STROKES = {
    SegmentKind.REPS: 1.6,
    SegmentKind.TIMED: 1.0,
    SegmentKind.BREATHS: 3.2,
}


def _texture(pages: Pages, kind: SegmentKind, x: float, y: float, wide: float, tall: float) -> None:
    pages.set_draw_color(60)
    pages.set_line_width(0.2)
    if kind in (SegmentKind.HOLD, SegmentKind.PULSES, SegmentKind.OPEN):
        pages.set_fill_color(70)
        pages.rect(x, y, wide, tall, style="F")
    elif kind in _STROKES:
        pages.rect(x, y, wide, tall)
        at = x + _STROKES[kind]
        while at < x + wide:
            slant = tall if kind is SegmentKind.BREATHS else 0.0
            pages.line(at, y, min(x + wide, at + slant), y + tall)
            at += _STROKES[kind]
    elif kind in (SegmentKind.QUIET, SegmentKind.REST):
        pages.set_dash_pattern(0.8, 0.6)
        pages.rect(x, y, wide, tall)
        pages.set_dash_pattern()
    else:
        pages.line(x, y + tall / 2, x + wide, y + tall / 2)
