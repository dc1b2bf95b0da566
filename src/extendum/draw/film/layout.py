"""Where everything of a film lies, for a screen that lies and for one that stands; in pixels, at even places."""

from __future__ import annotations

from dataclasses import dataclass

from extendum.draw.film.paint import even


@dataclass(frozen=True, slots=True)
class Place:
    """A box; ``size``: of the text in it."""

    x: int
    y: int
    wide: int
    tall: int
    size: int = 0

    @property
    def right(self) -> int:
        """Its right edge."""
        return self.x + self.wide


@dataclass(frozen=True, slots=True)
class Layout:
    """The places of a film: what is on, its side and count, the figure on its floor, the band, words, what is next."""

    wide: int
    tall: int
    upright: bool
    clock: Place
    name: Place
    side: Place
    count: Place
    phase: Place
    easier: Place
    figure: Place
    band: Place
    words: Place
    next: Place
    ribbon: Place

    @property
    def margin(self) -> int:
        """The empty edge."""
        return self.name.x


def layout(wide: int, tall: int) -> Layout:
    """The places for a film of this size."""
    return _upright(wide, tall) if tall > wide else _lying(wide, tall)


def _place(x: float, y: float, wide: float, tall: float, size: float = 0.0) -> Place:
    return Place(even(x), even(y), even(wide), even(tall), round(size))


def _lying(wide: int, tall: int) -> Layout:
    ribbon = even(0.026 * tall)
    strip, band = even(0.11 * tall), even(0.074 * tall)
    floor = tall - ribbon - strip
    top, margin = even(0.155 * tall), 0.055 * tall
    square = floor - band - top
    left = margin + square + 0.03 * wide
    room = wide - margin - left
    return Layout(
        *(wide, tall, False),
        clock=_place(wide * 0.72, 0.035 * tall, wide * 0.28 - margin, 0.056 * tall, 0.042 * tall),
        name=_place(margin, 0.014 * tall, wide * 0.66, 0.136 * tall, 0.098 * tall),
        side=_place(left, 0.15 * tall, room, 0.175 * tall, 0.14 * tall),
        count=_place(left, 0.33 * tall, room, 0.245 * tall, 0.31 * tall),
        phase=_place(left, 0.585 * tall, room, 0.085 * tall, 0.07 * tall),
        easier=_place(left, 0.675 * tall, room, 0.105 * tall, 0.04 * tall),
        figure=_place(margin, top, square, square),
        band=_place(0, floor - band, wide, band),
        words=_place(margin, floor, wide * 0.6, strip, 0.056 * tall),
        next=_place(wide * 0.64, floor, wide * 0.36 - margin, strip, 0.05 * tall),
        ribbon=_place(0, tall - ribbon, wide, ribbon),
    )


def _upright(wide: int, tall: int) -> Layout:
    margin = 0.055 * wide
    ribbon, strip, band = even(0.014 * tall), even(0.085 * tall), even(0.036 * tall)
    words = even(0.115 * tall)
    floor = tall - strip - words
    square = min(wide - 2 * margin, floor - band - 0.36 * tall)
    return Layout(
        *(wide, tall, True),
        clock=_place(margin, 0.026 * tall, wide - 2 * margin, 0.03 * tall, 0.022 * tall),
        name=_place(margin, 0.062 * tall, wide - 2 * margin, 0.062 * tall, 0.05 * tall),
        side=_place(margin, 0.135 * tall, wide * 0.5, 0.15 * tall, 0.095 * tall),
        count=_place(wide * 0.5, 0.14 * tall, wide * 0.5 - margin, 0.15 * tall, 0.175 * tall),
        phase=_place(margin, 0.295 * tall, wide - 2 * margin, 0.04 * tall, 0.034 * tall),
        easier=_place(margin, 0.336 * tall, wide - 2 * margin, 0.03 * tall, 0.022 * tall),
        figure=_place((wide - square) / 2, floor - band - square, square, square),
        band=_place(0, floor - band, wide, band),
        words=_place(margin, floor, wide - 2 * margin, words, 0.034 * tall),
        next=_place(margin, tall - strip, wide - 2 * margin, strip, 0.032 * tall),
        ribbon=_place(0, 0, wide, ribbon),
    )
