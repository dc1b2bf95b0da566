"""The ruling of a minute sheet: where a second of the class lies on the paper."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from extendum.core.model.body import Side
from extendum.core.model.timeline import Segment

#: From so many lines on, a sheet is set in two columns, and from so many in three.
TWO_COLUMNS_FROM, THREE_COLUMNS_FROM = 13, 61
#: The height that a sheet should fill, and the least and the most from line to line.
SHEET_HEIGHT, LEAST_PITCH, MOST_PITCH = 370.0, 24.5, 46.0


@dataclass(frozen=True, slots=True)
class Ruling:
    """The measures of a sheet: all in user units of its drawing."""

    width: float = 900
    margin: float = 30
    top: float = 4
    label: float = 14
    track: float = 22
    gap: float = 6
    columns: int = 1
    lines: int = 1
    between: float = 22

    @property
    def pitch(self) -> float:
        """From one line to the next."""
        return self.label + self.track + self.gap

    @property
    def per_column(self) -> int:
        """Lines in one column."""
        return -(-self.lines // self.columns)

    @property
    def column(self) -> float:
        """Width of a column, its margin included."""
        return (self.width - self.between * (self.columns - 1)) / self.columns

    @property
    def second(self) -> float:
        """Width of one second."""
        return (self.column - self.margin - 2) / 60

    @property
    def height(self) -> float:
        """Height of the whole drawing."""
        return self.top * 2 + self.pitch * self.per_column

    def place(self, line: int) -> tuple[float, float]:
        """Left end and top of the track of a line."""
        column, row = divmod(line, self.per_column)
        return (
            column * (self.column + self.between) + self.margin,
            self.top + row * self.pitch + self.label,
        )


def ruling_for(length_s: int) -> Ruling:
    """The ruling that shows so many seconds well."""
    lines = max(1, -(-length_s // 60))
    columns = 1 + (lines >= TWO_COLUMNS_FROM) + (lines >= THREE_COLUMNS_FROM)
    rows = -(-lines // columns)
    pitch = min(max(SHEET_HEIGHT / rows, LEAST_PITCH), MOST_PITCH)
    return Ruling(columns=columns, lines=lines, label=13, track=pitch - 17, gap=4, margin=24)


#: A column of a sheet that is drawn to a window is at least so wide, in pixels.
LEAST_COLUMN = 390
#: And the most from line to line there.
MOST_IN_ROOM = 58.0


def ruling_in(length_s: int, width: float, height: float) -> Ruling:
    """The ruling that fills a room with so many seconds: one column while its lines have room, then two, then three."""
    lines = max(1, -(-length_s // 60))
    most = max(1, min(3, int(width // LEAST_COLUMN)))
    columns = next((c for c in range(1, most) if -(-lines // c) * LEAST_PITCH <= height), most)
    pitch = min(max((height - 8) / -(-lines // columns), LEAST_PITCH), MOST_IN_ROOM)
    return Ruling(width=width, columns=columns, lines=lines, label=13, track=pitch - 17, gap=4, margin=24)


@dataclass(frozen=True, slots=True)
class Piece:
    """The part of a segment that lies on one line."""

    segment: Segment
    line: int
    from_s: int
    to_s: int

    @property
    def first(self) -> bool:
        """Whether the segment begins here."""
        return self.from_s == self.segment.start_s

    @property
    def last(self) -> bool:
        """Whether the segment ends here."""
        return self.to_s == self.segment.end_s


def pieces(segments: Iterable[Segment]) -> Iterator[Piece]:
    """Segments cut at the minutes."""
    for segment in segments:
        at = segment.start_s
        while at < segment.end_s:
            to = min(segment.end_s, (at // 60 + 1) * 60)
            yield Piece(segment, at // 60, at, to)
            at = to


def box(piece: Piece, ruling: Ruling) -> tuple[float, float, float]:
    """Left end, top and height of a piece: the half of the line that its side has, or the whole."""
    x, y = ruling.place(piece.line)
    x += (piece.from_s - piece.line * 60) * ruling.second
    half = ruling.track / 2
    if piece.segment.side is Side.LEFT:
        return x, y, half - 0.7
    if piece.segment.side is Side.RIGHT:
        return x, y + half + 0.7, half - 0.7
    return x, y, ruling.track
