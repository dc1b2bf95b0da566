"""The cue sheet as pages that are read from the floor, and the minute sheet after it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.timeline import SegmentKind, Timeline, clock
from extendum.core.outputs.cue_sheet import Entry
from extendum.draw.ruling import Piece, pieces
from extendum.formats.figures import figure_of
from extendum.formats.paper import USUAL_LOOK, Look, Paper
from extendum.formats.pdf import FACE, MARGIN, Box, Pages, one_scale

#: Points of what is said and of small print, and the size of a figure in millimetres.
WORDS_PT, SMALL_PT, FIGURE_MM = 11.0, 9.0, 19.0
#: What is left of a page is used from so many millimetres on: an entry goes on over the page, the minutes begin.
WORTH_MM = 32.0
#: Millimetres of one minute on the minute sheet, and of one that is made smaller so that no page holds only a few.
MINUTE_MM, TIGHT_MM = 11.0, 8.6


def cue_sheet_pdf(
    script: Script, timeline: Timeline, entries: Sequence[Entry], paper: Paper = Paper.A4, look: Look = USUAL_LOOK
) -> bytes:
    """The cue sheet: each visit with its time, figure, dose, sides and words; the minute sheet after it."""
    pages = Pages(script.title, paper, look)
    scale = one_scale((one.item for one in entries if isinstance(one.item, MoveItem)), look, FIGURE_MM)
    y = _heading(pages, script, timeline, entries)
    section = None
    for entry in entries:
        head = 8.0 if entry.section is not section else 0.0
        tall, room = _entry_tall(pages, entry), pages.room - y - head
        if tall > room and room < max(WORTH_MM, _head_tall(pages, entry)):
            pages.add_page()
            y = MARGIN
        if head:
            section = entry.section
            y = pages.put(section.name or str(section.role), MARGIN, y + 1.5, 120, 13, bold=True) + 0.8
        y = _entry(pages, entry, y, scale)
    _minute_sheet(pages, timeline, {entry.item.id: entry.number for entry in entries}, y)
    return pages.finished()


def _heading(pages: Pages, script: Script, timeline: Timeline, entries: Sequence[Entry]) -> float:
    width = pages.epw
    y = pages.put(script.title, MARGIN, MARGIN, width, 20, bold=True)
    props = dict.fromkeys(prop for entry in entries for prop in entry.props)
    needs = f"needs {', '.join(props)}" if props else ""
    told = [clock(timeline.length_s), f"lead side {script.style.lead_side}", script.brief.group, needs]
    return pages.put(" · ".join(filter(None, told)), MARGIN, y + 0.5, width, 11) + 1.5


def _columns(pages: Pages) -> tuple[float, float, float, float]:
    """Left ends of the time, the figure, the name and the words."""
    name = MARGIN + 15 + FIGURE_MM + 3
    return MARGIN, MARGIN + 15, name, name + 44


def _told(entry: Entry) -> str:
    sides = ", then ".join(entry.sides) if len(entry.sides) > 1 else ""
    return "\n".join(filter(None, (entry.dose, sides, ", ".join(entry.props))))


def _words(entry: Entry) -> Iterator[str]:
    for line in entry.lines:
        side = f" ({line.side})" if line.side and len(entry.sides) > 1 else ""
        text = f"[For you: {line.text}]" if line.private else line.text
        yield f"{clock(line.at_ms // 1000)}{side}  {text}"


def _titled(entry: Entry) -> str:
    return f"{entry.number}  {entry.title}"


def _head_tall(pages: Pages, entry: Entry) -> float:
    """What stands beside the words: it is not broken over the page."""
    _, _, name, words = _columns(pages)
    called = pages.tall(_titled(entry), words - name - 2, 11.5, bold=True)
    called += pages.tall(_told(entry), words - name - 2, SMALL_PT)
    pictured = FIGURE_MM if isinstance(entry.item, MoveItem) and figure_of(entry.item.move) else 0.0
    return max(called, pictured, 7.0) + 2.4


def _entry_tall(pages: Pages, entry: Entry) -> float:
    *_, words = _columns(pages)
    said = sum(pages.tall(line, pages.epw + MARGIN - words, WORDS_PT) for line in _words(entry))
    return max(said + 2.4, _head_tall(pages, entry))


def _entry(pages: Pages, entry: Entry, y: float, scale: float) -> float:
    """An entry, where there is room for what stands beside its words; where it ends, maybe on a further page."""
    time, figure, name, words = _columns(pages)
    pages.set_draw_color(170)
    pages.set_line_width(0.2)
    pages.line(MARGIN, y, pages.w - MARGIN, y)
    top, y = y, y + 1.0
    pages.put(clock(entry.start_s), time, y, 15, 12, bold=True)
    pages.put(f"{entry.seconds} s", time, y + 5.2, 15, SMALL_PT)
    if isinstance(entry.item, MoveItem):
        side = entry.sides[0] if entry.sides else Side.BOTH
        pages.figure(entry.item, side, Box(figure, y, FIGURE_MM, FIGURE_MM), scale=scale)
    under = pages.put(_titled(entry), name, y, words - name - 2, 11.5, bold=True)
    pages.put(_told(entry), name, under, words - name - 2, SMALL_PT)
    at, ends = y, top + _head_tall(pages, entry)
    for line in _words(entry):
        if at + pages.tall(line, pages.epw + MARGIN - words, WORDS_PT) > pages.room:
            pages.add_page()
            pages.put(f"{_titled(entry)}, continued", name, MARGIN, words - name - 2, SMALL_PT)
            at, ends = MARGIN, MARGIN + 8
        at = pages.put(line, words, at, pages.epw + MARGIN - words, WORDS_PT)
    return max(at + 1.4, ends)


# ---- the minute sheet: kinds by texture, so that it needs no colour ------------------------------------------------


def _minute_sheet(pages: Pages, timeline: Timeline, numbers: dict[str, int], y: float) -> None:
    lines = max(1, -(-timeline.length_s // 60))
    if y + 15 + min(lines, 5) * TIGHT_MM > pages.room:
        pages.add_page()
        y = MARGIN
    pitch = (pages.room - y - 15) / lines
    pitch = min(MINUTE_MM, pitch) if pitch >= TIGHT_MM else MINUTE_MM
    top = pages.put("Minute by minute", MARGIN, y + 2, pages.epw, 14, bold=True)
    told = "Each line is a minute. Upper half: left side, lower half: right, full height: both. Numbers as above."
    top = pages.put(told, MARGIN, top, pages.epw, SMALL_PT) + 2
    for line in range(lines):
        if top + pitch > pages.room + 0.1:
            pages.add_page()
            top = MARGIN
        pages.put(str(line), MARGIN, top + pitch * 0.45, 8, SMALL_PT)
        pages.set_draw_color(190)
        pages.set_line_width(0.15)
        pages.line(MARGIN + 8, top + pitch - 0.6, pages.w - MARGIN, top + pitch - 0.6)
        here = [piece for piece in pieces(timeline.segments) if piece.line == line]
        for piece in here:
            _piece(pages, piece, top, pitch)
        _names(pages, here, numbers, top + pitch * 0.36)
        top += pitch


def _place(pages: Pages, piece: Piece) -> tuple[float, float]:
    """Where a piece begins, and how wide it is."""
    scale = (pages.epw - 8) / 60
    return MARGIN + 8 + (piece.from_s - piece.line * 60) * scale, (piece.to_s - piece.from_s) * scale


def _names(pages: Pages, here: Sequence[Piece], numbers: dict[str, int], y: float) -> None:
    """The names over a line: whole ones, and of what has no room for its name the number."""
    begins = [piece for piece in here if piece.first and piece.segment.kind.works]
    ends = [*(_place(pages, piece)[0] for piece in begins[1:]), pages.w - MARGIN][: len(begins)]
    pages.set_font(FACE, "", SMALL_PT)
    for piece, until in zip(begins, ends, strict=True):
        segment, x = piece.segment, _place(pages, piece)[0]
        number = str(numbers.get(segment.item, ""))
        side = f", {segment.side}" if segment.side in (Side.LEFT, Side.RIGHT) else ""
        short = f", {segment.side.value[0].upper()}" if side and segment.side else ""
        every = (f"{number} {segment.name}{side}", f"{number}{side}", f"{number}{short}", number, "")
        name = next(one for one in every if pages.get_string_width(one) < until - x - 1)
        pages.text(x, y, name)


def _piece(pages: Pages, piece: Piece, y: float, pitch: float) -> None:
    x, wide = _place(pages, piece)
    tall = pitch * 0.5
    top = y + pitch * 0.42
    if piece.segment.side is Side.LEFT:
        tall /= 2
    elif piece.segment.side is Side.RIGHT:
        top, tall = top + tall / 2, tall / 2
    _texture(pages, piece.segment.kind, x, top, max(0.3, wide - 0.3), tall - 0.3)


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
