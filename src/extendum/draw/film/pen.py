"""Figures as pixels, at any place of their movement: the same layers as on the screens (figure.js)."""

from __future__ import annotations

from collections.abc import Mapping

import aggdraw
import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageChops, ImageDraw, ImageFont

from extendum.core.figure.rings import Points
from extendum.draw.figures.drawing import Drawing, Stroke
from extendum.draw.figures.outline import outwards
from extendum.draw.figures.picture import LETTER
from extendum.draw.figures.tones import DASHES, LINES

Pixels = NDArray[np.uint8]
#: Pieces of each curve; what is less opaque than this is not painted.
_PIECES, _SEEN = 3, 0.02
#: Steps between two moments of a movement, and of a breath, that look different.
MOMENT_STEPS, BREATH_STEPS = 16, 12


class Pen:
    """Draws one figure in given tones: left and right change places where it is ``mirrored``."""

    def __init__(self, drawing: Drawing, tones: Mapping[str, str], *, mirrored: bool = False) -> None:
        self.drawing, self.tones, self.mirrored = drawing, tones, mirrored
        weights = {one.grown for one in drawing.layers}
        self._sets: list[list[Points]] = [
            [np.array(moment) / 100 for moment in moments]
            if n in weights
            else [np.cumsum(np.array(moment, float).reshape(-1, 2), axis=0) for moment in moments]
            for n, moments in enumerate(drawing.sets)
        ]
        self._breath = {n: np.array(by, float).reshape(-1, 2) for n, by in drawing.breath.items()}

    @property
    def moves(self) -> bool:
        """Whether it is a movement."""
        return self.drawing.moments > 1

    @property
    def still(self) -> float:
        """Where a still picture is: at the stop that is held."""
        stops = self.drawing.stops
        return self.drawing.held / (len(stops) - 1) if len(stops) > 1 else 0.0

    @property
    def ground(self) -> float:
        """How high the floor stands, as a share of the picture; 0 where there is none."""
        floor = next((one.outline for one in self.drawing.layers if one.tone == "floor"), None)
        if floor is None:
            return 0.0
        return 1 - max(0.0, float(self._sets[floor][0][:, 1].min())) / self.drawing.units

    def step(self, place: float, breath: float) -> tuple[int, int]:
        """The moment and the breath of a picture in steps: what has the same ones looks the same."""
        stops = self.drawing.stops
        along = min(1.0, max(0.0, place)) * (len(stops) - 1)
        low = min(int(along), max(0, len(stops) - 2))
        at = stops[low] + (stops[low + 1] - stops[low]) * (along - low) if len(stops) > 1 else 0.0
        return round(at * MOMENT_STEPS), round(breath * BREATH_STEPS)

    def picture(self, size: int, step: tuple[int, int], sign: str = "", face: str = "") -> Image.Image:
        """The square picture of a step; ``sign``: the letter of its side, in the face of that file."""
        at, breath = step[0] / MOMENT_STEPS, step[1] / BREATH_STEPS
        image = Image.new("RGB", (size, size), self.tones["paper"])
        board = _Board(image, size / self.drawing.units)
        outlines: dict[int, Points] = {}

        def outline(n: int) -> Points:
            if n not in outlines:
                outlines[n] = self._outline(n, at, breath)
            return outlines[n]

        orders = self.drawing.orders
        for n in orders[min(round(at), len(orders) - 1)]:
            stroke, opacity = self.drawing.layers[n], self._opacity(n, at)
            if opacity <= _SEEN:
                continue
            points = outline(stroke.outline)
            if stroke.grown >= 0:
                points = points + outwards(points) * self._sets[stroke.grown][0][:, None] * self.drawing.gap
            points = _curved(points, stroke) + np.array(stroke.shift)
            colour = self.tones[stroke.tone]
            if stroke.tone in LINES:
                board.line(points, colour, stroke, opacity)
            elif stroke.clip < 0:
                board.fill(points, colour, opacity)
            else:
                board.clipped(points, _smooth(outline(stroke.clip)), colour, opacity)
        board.done()
        if self.mirrored:
            image = image.transpose(Image.Transpose.FLIP_LEFT_RIGHT)
        if sign and self.drawing.letter:
            _letter(image, self, sign, face)
        return image

    def _outline(self, n: int, at: float, breath: float) -> Points:
        moments = self._sets[n]
        low = min(int(at), len(moments) - 1)
        points = moments[low]
        if low + 1 < len(moments) and at > low:
            points = points + (moments[low + 1] - points) * (at - low)
        return points + self._breath[n] * breath if breath and n in self._breath else points

    def _opacity(self, n: int, at: float) -> float:
        shown = self.drawing.opaque.get(n)
        if not shown:
            return 1.0
        low = min(int(at), len(shown) - 1)
        return shown[low] + (shown[min(low + 1, len(shown) - 1)] - shown[low]) * (at - low)


def _smooth(points: Points) -> Points:
    """A closed line through the middles of its pieces, bent at its points."""
    before = (np.roll(points, 1, axis=0) + points) / 2
    after = (points + np.roll(points, -1, axis=0)) / 2
    t = (np.arange(_PIECES) / _PIECES)[None, :, None]
    bent = (1 - t) ** 2 * before[:, None] + 2 * t * (1 - t) * points[:, None] + t * t * after[:, None]
    return np.asarray(bent.reshape(-1, 2))


def _curved(points: Points, stroke: Stroke) -> Points:
    if not stroke.curved:
        return points
    if stroke.closed:
        return _smooth(points)
    if len(points) < 3:
        return points
    # An open line begins and ends at its own ends.
    joints = np.vstack([points[:1], (points[1:-2] + points[2:-1]) / 2, points[-1:]])
    t = (np.arange(_PIECES) / _PIECES)[None, :, None]
    begin, bend, end = joints[:-1, None], points[1:-1, None], joints[1:, None]
    bent = (1 - t) ** 2 * begin + 2 * t * (1 - t) * bend + t * t * end
    return np.vstack([bent.reshape(-1, 2), points[-1:]])


class _Board:
    """An image that is painted on, in the units of a drawing."""

    def __init__(self, image: Image.Image, scale: float) -> None:
        self.image, self.scale = image, scale
        self._draw: aggdraw.Draw | None = None

    @property
    def draw(self) -> aggdraw.Draw:
        self._draw = self._draw or aggdraw.Draw(self.image)
        return self._draw

    def done(self) -> None:
        """What was painted is in the image."""
        if self._draw:
            self._draw.flush()
            self._draw = None

    def fill(self, points: Points, colour: str, opacity: float) -> None:
        self.draw.polygon((points * self.scale).ravel().tolist(), aggdraw.Brush(colour, round(255 * opacity)))

    def line(self, points: Points, colour: str, stroke: Stroke, opacity: float) -> None:
        if stroke.closed:
            points = np.vstack([points, points[:1]])
        pen = aggdraw.Pen(colour, max(0.8, stroke.line * self.scale), round(255 * opacity))
        for piece in _dashes(points, DASHES.get(stroke.tone)):
            self.draw.line((piece * self.scale).ravel().tolist(), pen)

    def clipped(self, points: Points, clip: Points, colour: str, opacity: float) -> None:
        """A fill that is only seen inside of another outline."""
        points, clip = points * self.scale, clip * self.scale
        low = np.maximum(np.floor(np.maximum(points.min(axis=0), clip.min(axis=0))), 0).astype(int)
        high = np.minimum(points.max(axis=0), clip.max(axis=0))
        high = np.minimum(np.ceil(high), self.image.width).astype(int)
        if (high <= low).any():
            return
        self.done()
        wide, tall = (high - low).tolist()
        mask = ImageChops.multiply(_mask(points - low, wide, tall), _mask(clip - low, wide, tall))
        if opacity < 1:
            mask = mask.point([round(value * opacity) for value in range(256)])
        self.image.paste(colour, (int(low[0]), int(low[1])), mask)


def _mask(points: Points, wide: int, tall: int) -> Image.Image:
    drawn = aggdraw.Draw("L", (wide, tall), 0)
    drawn.polygon(points.ravel().tolist(), aggdraw.Brush("white"))
    return Image.frombytes("L", (wide, tall), drawn.tobytes())


def _dashes(points: Points, dash: tuple[int, int] | None) -> list[Points]:
    """A line in pieces, where it is dashed."""
    if dash is None:
        return [points]
    lengths = np.hypot(*np.diff(points, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(lengths)])
    found = []
    for begin in np.arange(0.0, along[-1], sum(dash)):
        inside = (along > begin) & (along < begin + dash[0])
        places = np.concatenate([[begin], along[inside], [min(begin + dash[0], along[-1])]])
        found.append(np.stack([np.interp(places, along, points[:, axis]) for axis in (0, 1)], axis=1))
    return found


def _letter(image: Image.Image, pen: Pen, sign: str, face: str) -> None:
    """The letter of a side in its ring; it stays readable where the picture is turned over."""
    size, units = image.width, pen.drawing.units
    left, top = pen.drawing.letter or (0, 0)
    r = LETTER * size
    x, y = (units - left if pen.mirrored else left) * size / units, top * size / units
    draw = aggdraw.Draw(image)
    draw.ellipse((x - r, y - r, x + r, y + r), aggdraw.Pen(pen.tones["letter"], r / 6), aggdraw.Brush(pen.tones["tag"]))
    draw.flush()
    font = ImageFont.truetype(face, max(6, round(r * 1.3)))
    ImageDraw.Draw(image).text((x, y), sign, pen.tones["letter"], font, anchor="mm")
