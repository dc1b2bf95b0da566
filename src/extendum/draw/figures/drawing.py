"""A picture as plain data: what ships, what a screen draws and moves, and what SVG is written from.

Outlines are whole units of a square of `UNITS`; from point to point, so that numbers are small.
"""

from __future__ import annotations

from dataclasses import asdict, dataclass, field
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from extendum.core.figure.rings import Points
from extendum.draw.figures.ground import Square
from extendum.draw.figures.picture import GAP, SMALL_GAP, Picture
from extendum.draw.figures.scene import Layer, Moment

#: The side of a picture in its own units, and of one for 96 px.
UNITS, SMALL_UNITS = 2000, 400
Whole = NDArray[np.int64]


@dataclass(slots=True)
class Stroke:
    """A layer of a drawing: its tone, the number of its outline, and how it is painted.

    ``shift``: moved by so many units; ``clip``: only inside of that outline, or -1; ``grown``: the outline of weights
    by which it is pushed out, or -1; ``line``: a stroke of that width, a fill where it is 0.
    """

    tone: str
    outline: int
    curved: bool
    closed: bool
    shift: tuple[int, int] = (0, 0)
    clip: int = -1
    grown: int = -1
    line: int = 0


@dataclass
class Drawing:
    """A figure as it is drawn.

    ``sets``: for each outline one list of steps (x, y, x, y, ...) for every moment, or one for all of them; weights are
    in hundredths. ``orders``: the layers from far to near, for every moment or once. ``opaque``: of layers that are not
    always there, how opaque they are, likewise. ``breath``: what is added to an outline of a body that is full of air.
    ``stops``, ``held``, ``turns``: as in `Picture`. ``size``: the side of the square in centimetres.
    """

    units: int
    gap: float
    sets: list[list[list[int]]]
    layers: list[Stroke]
    orders: list[list[int]]
    opaque: dict[int, list[float]]
    moments: int
    stops: list[int]
    held: int
    turns: bool
    letter: tuple[int, int] | None
    breath: dict[int, list[int]] = field(default_factory=dict)
    size: float = 0.0

    @classmethod
    def read(cls, plain: dict[str, Any]) -> Drawing:
        """A drawing from what `plain` wrote."""
        layers = [Stroke(t, o, bool(k & 1), bool(k & 2), (x, y), c, g, w) for t, o, k, x, y, c, g, w in plain["layers"]]
        numbered = {name: {int(k): v for k, v in plain[name].items()} for name in ("opaque", "breath")}
        letter = tuple(plain["letter"]) if plain["letter"] else None
        return cls(**plain | {"layers": layers, "letter": letter} | numbered)

    def plain(self) -> dict[str, Any]:
        """Everything as lists and numbers."""
        layers = [
            [one.tone, one.outline, one.curved + 2 * one.closed, *one.shift, one.clip, one.grown, one.line]
            for one in self.layers
        ]
        return {**asdict(self), "layers": layers}

    @property
    def still(self) -> int:
        """The moment that a still picture shows."""
        return self.stops[self.held]

    @cached_property
    def points(self) -> list[Whole]:
        """The outlines of a still picture, (n, 2) in whole units; of weights (n,)."""
        weights = {one.grown for one in self.layers}
        return [
            np.array(some[0])
            if n in weights
            else np.cumsum(np.array(some[min(self.still, len(some) - 1)]).reshape(-1, 2), axis=0)
            for n, some in enumerate(self.sets)
        ]

    @property
    def painted(self) -> list[tuple[Stroke, float]]:
        """The layers of a still picture from far to near, with how opaque they are."""
        order = self.orders[min(self.still, len(self.orders) - 1)]
        shown = [(n, self.opaque.get(n, [1.0])) for n in order]
        return [(self.layers[n], one[min(self.still, len(one) - 1)]) for n, one in shown]


def whole(points: Points, square: Square, units: int) -> Whole:
    """Points in whole units of the picture."""
    left, top, size = square
    return np.asarray(np.rint((points - np.array((left, top))) * (units / size)), dtype=np.int64)


def drawing_of(picture: Picture, *, small: bool = False) -> Drawing:
    """A picture as data."""
    square, units = picture.square, SMALL_UNITS if small else UNITS
    scale = units / square[2]
    layers, opaque, places = _layers(picture)
    numbers: dict[str, int] = {}
    sets: list[list[list[int]]] = []
    for layer in layers:
        for name in (layer.outline, layer.clip, layer.grown):
            if name and name not in numbers:
                numbers[name] = len(sets)
                sets.append(_set([moment.outlines[name] for moment in picture.moments], square, units))
    orders = [[n for part in moment.order for n in places.get(part, ())] for moment in picture.moments]
    letter = whole(np.array([picture.letter]), square, units)[0].tolist() if picture.letter else None
    breath = {
        numbers[name]: np.rint(points * scale).astype(int).ravel().tolist()
        for name, points in picture.breath.items()
        if name in numbers
    }
    return Drawing(
        units,
        round((SMALL_GAP if small else GAP) * units, 1),
        sets,
        [_stroke(layer, numbers, scale) for layer in layers],
        orders if any(one != orders[0] for one in orders) else orders[:1],
        opaque,
        len(picture.moments),
        list(picture.stops),
        picture.held,
        picture.turns,
        (letter[0], letter[1]) if letter else None,
        breath,
        round(square[2], 1),
    )


def _layers(picture: Picture) -> tuple[list[Layer], dict[int, list[float]], dict[str, list[int]]]:
    """The layers that are ever seen, how opaque those are that are not always there, and which ones a part has."""
    moments = picture.moments
    layers: list[Layer] = []
    opaque: dict[int, list[float]] = {}
    places: dict[str, list[int]] = {}
    for part in picture.parts:
        places[part] = []
        for n, (layer, _) in enumerate(moments[0].layers.get(part, ())):
            shown = [round(moment.layers[part][n][1], 2) for moment in moments]
            if max(shown) <= 0.02 or _outside(moments, layer.outline, picture.square):
                continue
            places[part].append(len(layers))
            if min(shown) < 1:
                opaque[len(layers)] = shown if len(set(shown)) > 1 else shown[:1]
            layers.append(layer)
    return layers, opaque, places


def _stroke(layer: Layer, numbers: dict[str, int], scale: float) -> Stroke:
    return Stroke(
        *(layer.tone, numbers[layer.outline], layer.curved, layer.closed),
        (round(layer.shift[0] * scale), round(layer.shift[1] * scale)),
        *(numbers.get(layer.clip, -1), numbers.get(layer.grown, -1), round(layer.line * scale)),
    )


def _outside(moments: tuple[Moment, ...], name: str, square: Square) -> bool:
    """Whether nothing of an outline is ever in the picture."""
    left, top, size = square
    for moment in moments:
        (low_x, low_y), (high_x, high_y) = moment.outlines[name].min(axis=0), moment.outlines[name].max(axis=0)
        if low_x < left + size and high_x > left and low_y < top + size and high_y > top:
            return False
    return True


def _set(moments: list[Points], square: Square, units: int) -> list[list[int]]:
    if moments[0].shape[1] == 1:  # weights of a gap: those of the first moment serve for all
        return [np.rint(moments[0].ravel() * 100).astype(int).tolist()]
    made = [whole(points, square, units) for points in moments]
    if all(np.array_equal(one, made[0]) for one in made):
        made = made[:1]
    return [np.diff(one, axis=0, prepend=np.zeros((1, 2), dtype=int)).ravel().tolist() for one in made]
