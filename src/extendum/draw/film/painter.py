"""The frames of a film: what a class looks like at a moment. What does not change is not painted again."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, field

from PIL import Image

from extendum.core.model.body import Side
from extendum.core.model.timeline import CueKind, Segment, SegmentKind, clock
from extendum.core.outputs.captions import Caption
from extendum.core.run.seen import Seen, Watched
from extendum.draw.figures.tones import mixed
from extendum.draw.film import cards
from extendum.draw.film.band import band
from extendum.draw.film.layout import Layout, Place, layout
from extendum.draw.film.paint import (
    BOLD,
    NAME,
    TEXT,
    Canvas,
    Palette,
    Planes,
    fitted,
    pasted,
    planes,
    ribbon_colours,
    width,
)
from extendum.draw.film.parts import Kept, comma, ends, place_of, put_count, put_side
from extendum.draw.film.pen import Pen
from extendum.draw.small import ON_THE_WAY

PHASES = {
    SegmentKind.TRANSITION: "get there",
    SegmentKind.SWITCH: "change sides",
    SegmentKind.TURN: "the other way",
    SegmentKind.SETUP: "come into it",
    SegmentKind.SETTLE: "settle",
    SegmentKind.HOLD: "stay",
    SegmentKind.TIMED: "keep moving",
    SegmentKind.OPEN: "stay",
    SegmentKind.RELEASE: "let go",
    SegmentKind.QUIET: "quiet",
    SegmentKind.DEMONSTRATION: "watch first",
    SegmentKind.REST: "rest",
}
#: So many pictures of figures, of texts, and of what stays while a part lasts are kept, and so many of them unpacked.
_FIGURES, _OTHERS, _BASES = (300, 16), (300, 24), (8, 2)
#: What an easier way is introduced with: the picture says it already.
_OTHERWISE = re.compile(r"^(to make it easier|for less( of a stretch| stretch)?|easier|easier still), ", re.IGNORECASE)
#: Seconds of the card of a section.
SECTION_S = 3
#: A figure by its item, the number of its stage (0: of its easier way), and its side.
Pens = Mapping[tuple[str, int, Side], Pen]
EASIER = 0


@dataclass(frozen=True, slots=True)
class Told:
    """What a film tells beside the timeline: words of the cards, names by item, sections by the second they begin.

    ``cover``: the item whose figure stands for the class; ``shown``: items with their names, at the end.
    """

    title: str
    about: str
    needs: tuple[str, ...]
    care: str
    done: str
    home: str
    after: str
    names: Mapping[str, str]
    sections: Mapping[int, str] = field(default_factory=dict)
    cover: str = ""
    shown: tuple[tuple[str, str], ...] = ()


class Painter:
    """Paints the frames of one class in one size; ``words``: the captions that are drawn in, or none."""

    def __init__(
        self, watched: Watched, told: Told, pens: Pens, words: Sequence[Caption], palette: Palette, wide: int, tall: int
    ) -> None:
        self.watched, self.told, self.pens, self.palette = watched, told, pens, palette
        self.places: Layout = layout(wide, tall)
        self._words, self._word_starts = words, [one.start_ms for one in words]
        self._figures, self._others, self._bases = Kept(*_FIGURES), Kept(*_OTHERS), Kept(*_BASES)
        segments = watched.timeline.segments
        self.title_ms, self.end_ms = ends(segments)
        self._easier = [
            (cue.start_ms, cue.of.item, cue.of.round, cue.text)
            for cue in watched.timeline.cues
            if cue.kind is CueKind.EASIER and cue.text
        ]

    def frame(self, ms: int) -> Planes:
        """The picture at a moment of the class, in milliseconds."""
        index = self.watched.index(ms)
        seen = self.watched.at(ms)
        words = self._word(ms)
        if ms < self.title_ms or ms >= self.end_ms:
            kind = "title" if ms < self.title_ms else "end"
            return self._with(self._card(kind), [(self.places.words, self._strip(words)), *self._ribbon(ms)])
        segment = seen.segment
        pen = self._pen(segment, seen.side)
        floor = self._floor(pen)
        patches = [(self.places.band, planes(self._band(seen))), *self._ribbon(ms)]
        patches.append(
            (self.places.clock, self._clock(-(-(self.watched.timeline.length_s * 1000 - ms) // 1000), floor))
        )
        if pen is None:
            patches.append((self.places.figure, self._large(words, seen, floor)))
        else:
            patches.append((self.places.figure, self._figure(pen, seen)))
            patches.append((self.places.words, self._strip(words)))
        patches += [(self.places.count, self._count(seen, floor)), (self.places.phase, self._phase(seen, floor))]
        patches.append((self.places.side, self._side(seen, floor)))
        patches.append((self.places.easier, self._easy(self._easier_at(ms, segment), segment, seen.side, floor)))
        return self._with(self._base(index, pen, floor, self._section(ms)), patches)

    def _with(self, base: Planes, patches: Sequence[tuple[Place, Planes]]) -> Planes:
        made = (base[0].copy(), base[1].copy(), base[2].copy())
        for place, patch in patches:
            pasted(made, patch, place.x, place.y)
        return made

    # ---- what stays while a part lasts ---------------------------------------------------------------------------
    def _floor(self, pen: Pen | None) -> int:
        """Where the floor begins: that of the figure, right across the picture."""
        place = self.places.figure
        return round(place.y + place.tall * (1 - pen.ground)) if pen else place.y + place.tall

    def _base(self, index: int, pen: Pen | None, floor: int, section: str) -> Planes:
        segment = self.watched.timeline.segments[index]
        following = self.watched.following(index)
        shown = self._pen(following, following.side) if following else None
        key = ("base", segment.item, following.id if following else "", floor, section)

        def draw() -> Image.Image:
            places, palette = self.places, self.palette
            canvas = Canvas(places.wide, places.tall, palette.paper)
            canvas.box(0, floor, places.wide, places.band.y + places.band.tall - floor, palette.floor)
            strip = places.next.y if places.upright else places.words.y
            if places.upright:
                canvas.box(0, places.words.y, places.wide, places.words.tall, palette.paper)
            canvas.box(0, strip, places.wide, places.next.tall, palette.strip)
            place = places.name
            name = self.told.names.get(segment.item, segment.name)
            size, lines = fitted(section or name, NAME, place.size, place.wide)
            canvas.text(lines[0], place.x, place.y + place.tall / 2, size, palette.ink, NAME, anchor="lm")
            self._next(canvas, segment, following, shown)
            return canvas.image

        return self._bases.get(key, draw)

    def _next(self, canvas: Canvas, segment: Segment, following: Segment | None, pen: Pen | None) -> None:
        place, palette = self.places.next, self.palette
        middle, x = place.y + place.tall / 2, float(place.x)
        small = round(place.size * 0.62)
        canvas.text("next", x, middle, small, palette.edge, TEXT, anchor="lm")
        x += width("next", TEXT, small) + place.size * 0.4
        if pen:
            size = place.tall - max(4, place.tall // 8)
            picture = pen.picture(size, pen.step(pen.still, 0.0))
            canvas.put(picture, x, place.y + (place.tall - size) / 2)
            x += size + place.size * 0.35
        told = "the end"
        if following:
            name = self.told.names.get(following.item, following.name)
            told = f"{'same' if following.item == segment.item else name}{comma(following.side)}"
        size, lines = fitted(told, TEXT, place.size, place.right - x)
        if lines != [told]:
            size, lines = fitted(told, TEXT, round(place.size * 0.8), place.right - x, 2)
        y = middle - (len(lines) - 1) * size * 0.61
        for line in lines:
            canvas.text(line, x, y, size, palette.on_strip, TEXT, anchor="lm")
            y += size * 1.22

    def cover(self) -> Image.Image:
        """What the class is, as a picture of its own."""
        canvas = Canvas(self.places.wide, self.places.tall, self.palette.paper)
        cards.title(canvas, self.told, self.pens, self.palette, self.places, self.places.tall)
        return canvas.image

    def _card(self, kind: str) -> Planes:
        def draw() -> Image.Image:
            strip, words = self.places.next.y, self.places.words.y
            canvas = Canvas(self.places.wide, self.places.tall, self.palette.paper)
            if kind == "title":
                cards.title(canvas, self.told, self.pens, self.palette, self.places, words)
            else:
                cards.end(canvas, self.told, self.pens, self.palette, self.places)
            canvas.box(0, strip, self.places.wide, self.places.tall - strip, self.palette.strip)
            return canvas.image

        return self._bases.get(("card", kind), draw)

    def _figure(self, pen: Pen, seen: Seen) -> Planes:
        step, size = pen.step(place_of(pen, seen), self._breath(pen, seen)), self.places.figure.wide
        sign = seen.side.value[0].upper() if seen.side in (Side.LEFT, Side.RIGHT) else ""
        return self._figures.get((id(pen), step, sign), lambda: pen.picture(size, step, sign, BOLD))

    def _breath(self, pen: Pen, seen: Seen) -> float:
        """Somebody who moves breathes with the movement; the breath of the body is seen where she stays."""
        return 0.0 if pen.moves and seen.works and seen.segment.kind is not SegmentKind.BREATHS else seen.breathing

    def _band(self, seen: Seen) -> Image.Image:
        return band(seen, self.places.band.wide, self.places.band.tall, self.palette)

    def _count(self, seen: Seen, floor: int) -> Planes:
        text = "" if seen.pace else str(seen.nth if seen.total else seen.left_s)
        of = f"of {seen.total}" if seen.total else ""
        colour = self.palette.ink if seen.works else self.palette.soft
        return self._text(
            self.places.count,
            ("count", text, of, colour),
            lambda canvas, place: put_count(canvas, place, text, of, colour, self.palette.soft, heavy=seen.works),
            floor,
        )

    def _phase(self, seen: Seen, floor: int) -> Planes:
        flows = seen.word if seen.segment.kind is SegmentKind.BREATHS else seen.breath
        breath = f"breathe {flows}" if flows in ("in", "out") else ""
        told = f"your pace, {seen.pace}" if seen.pace else breath if seen.total else PHASES.get(seen.segment.kind, "")
        anchor = "lm" if self.places.upright else "rm"
        return self._line(self.places.phase, ("phase", told), told, self.palette.air, BOLD, anchor, floor)

    def _clock(self, left_s: int, floor: int) -> Planes:
        told = f"{clock(left_s)} to go"
        return self._line(self.places.clock, ("clock", told), told, self.palette.soft, TEXT, "rm", floor)

    def _easy(self, told: str, segment: Segment, side: Side | None, floor: int) -> Planes:
        """The easier way, with its figure where another move is one."""
        pen = self.pens.get((segment.item, EASIER, side or Side.BOTH)) if told else None

        def draw(canvas: Canvas, place: Place) -> None:
            upright, room = self.places.upright, place.wide - (place.tall * 1.15 if pen else 0)
            size, broken = fitted(told, TEXT, place.size, room, 1 if upright else 2)
            canvas.lines(broken, 0 if upright else room, 0, size, self.palette.soft, TEXT, "la" if upright else "ra")
            if pen:
                canvas.put(pen.picture(place.tall, pen.step(pen.still, 0.0)), place.wide - place.tall, 0)

        return self._text(self.places.easier, ("easier", told, pen and id(pen)), draw, floor)

    def _side(self, seen: Seen, floor: int) -> Planes:
        side = seen.side if seen.side in (Side.LEFT, Side.RIGHT) else None
        draw = lambda canvas, place: put_side(canvas, place, side, self.palette.stay, self.places)  # noqa: E731
        return self._text(self.places.side, ("side", side), draw, floor)

    def _strip(self, words: Caption | None) -> Planes:
        """What is being said, in the strip below."""
        lying = not self.places.upright
        ground, ink = (self.palette.strip, self.palette.on_strip) if lying else (self.palette.paper, self.palette.ink)
        text = " ".join(words.lines) if words else ""

        def draw() -> Image.Image:
            place = self.places.words
            canvas = Canvas(place.wide, place.tall, ground)
            size, lines = fitted(text, TEXT, place.size, place.wide, 1)
            if len(text) > 24 and (size < place.size * 0.8 or lines[0] != text):
                size, lines = fitted(
                    text, TEXT, round(place.size * (0.8 if lying else 1)), place.wide, 2 if lying else 3
                )
            y = place.tall / 2 - (len(lines) - 1) * size * 0.58
            for line in lines:
                canvas.text(line, 0, y, size, ink, TEXT, anchor="lm")
                y += size * 1.16
            return canvas.image

        return self._others.get(("strip", text), draw)

    def _large(self, words: Caption | None, seen: Seen, floor: int) -> Planes:
        """What is being said where there is no figure: large, in its place."""
        text = " ".join(words.lines) if words else PHASES.get(seen.segment.kind, "")

        def draw(canvas: Canvas, place: Place) -> None:
            size, lines = fitted(text, TEXT, round(place.wide * 0.11), place.wide, 5)
            canvas.lines(lines, 0, place.tall * 0.2, size, self.palette.ink)

        return self._text(self.places.figure, ("large", text), draw, floor)

    def _ribbon(self, ms: int) -> list[tuple[Place, Planes]]:
        place, length = self.places.ribbon, self.watched.timeline.length_s * 1000
        at = round(ms / length * place.wide / 2) * 2

        def draw(canvas: Canvas, place: Place) -> None:
            canvas.box(0, place.tall / 2, place.wide, 1, self.palette.rule)
            colours = ribbon_colours(self.palette)
            for segment in self.watched.timeline.segments:
                if segment.kind in ON_THE_WAY:
                    continue
                x, end = (n * 1000 / length * place.wide for n in (segment.start_s, segment.end_s))
                half = place.tall / 2
                y, tall = {Side.LEFT: (1, half - 1), Side.RIGHT: (half, half - 1)}.get(
                    segment.side or Side.BOTH, (1, place.tall - 2)
                )
                colour = colours.get(segment.kind.value, self.palette.rule)
                canvas.box(
                    x, y, max(1, end - x - 1), tall, colour if x >= at else mixed(colour, self.palette.paper, 0.7)
                )
            canvas.box(at - 2, 0, 5, place.tall, self.palette.clay)

        return [(place, self._text(place, ("ribbon", at), draw, place.y + place.tall))]

    # ---- helpers -------------------------------------------------------------------------------------------------
    def _text(self, place: Place, key: Hashable, draw: Callable[[Canvas, Place], None], floor: int) -> Planes:
        """A patch of a place, on paper down to the floor; it may have text, and nothing behind it."""
        low = min(place.y + place.tall, floor)

        def drawn() -> Image.Image:
            canvas = Canvas(place.wide, place.tall, self.palette.paper)
            if low < place.y + place.tall:
                canvas.box(0, max(0, low - place.y), place.wide, place.tall, self.palette.floor)
            draw(canvas, place)
            return canvas.image

        return self._others.get((key, low), drawn)

    def _line(self, place: Place, key: Hashable, text: str, colour: str, face: str, anchor: str, floor: int) -> Planes:
        def draw(canvas: Canvas, place: Place) -> None:
            size, lines = fitted(text, face, place.size, place.wide)
            x = place.wide if anchor[0] == "r" else 0
            canvas.text(lines[0], x, place.tall / 2, size, colour, face, anchor=anchor)

        return self._text(place, key, draw, floor)

    def _pen(self, segment: Segment, side: Side | None) -> Pen | None:
        """The figure of a part: of the stage that is on or comes next in its pass."""
        stage = segment.stage or 1
        for key in ((segment.item, stage, side), (segment.item, 1, side), (segment.item, 1, segment.side)):
            if pen := self.pens.get((key[0], key[1], key[2] or Side.BOTH)):
                return pen
        return None

    def _word(self, ms: int) -> Caption | None:
        n = bisect_right(self._word_starts, ms) - 1
        return self._words[n] if n >= 0 and ms < self._words[n].end_ms else None

    def _easier_at(self, ms: int, segment: Segment) -> str:
        """The easier way, from when it is said until its move is over."""
        said = [one for one in self._easier if one[0] <= ms and one[1:3] == (segment.item, segment.round)]
        return f"easier: {_OTHERWISE.sub('', said[-1][3])}" if said else ""

    def _section(self, ms: int) -> str:
        begun = (name for start, name in self.told.sections.items() if start <= ms / 1000 < start + SECTION_S)
        return next(begun, "")
