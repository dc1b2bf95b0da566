"""The band of a film: drawn out towards the spoken side while a hold lasts; it lets go at its end."""

from __future__ import annotations

import aggdraw
from PIL import Image

from extendum.core.model.body import Side
from extendum.core.model.timeline import SegmentKind
from extendum.core.run.seen import Seen
from extendum.draw.film.paint import Palette

#: In a picture of 1200 by 120: its middle, how far it reaches, and how thick the band is at rest and drawn out.
MIDDLE, REACH = 600.0, 560.0
_THICK, _THINNER = 34.0, 22.0
_BEAD = 24.0


def band(seen: Seen, wide: int, tall: int, palette: Palette) -> Image.Image:
    """The band on its floor, as the screens draw it (drawing.js)."""
    image = Image.new("RGB", (wide, tall), palette.floor)
    draw = aggdraw.Draw(image)
    across, down = wide / 1200, tall / 120
    both = seen.side not in (Side.LEFT, Side.RIGHT)
    towards = -1 if seen.side is Side.LEFT else 1
    begin = MIDDLE if both else MIDDLE - towards * REACH
    full = REACH if both else 2 * REACH - 20
    far = seen.out * full
    thick = _THICK - _THINNER * seen.out

    def pull(tip: float) -> None:
        corners = ((begin, 20), (tip, 60 - thick), (tip, 60 + thick), (begin, 100))
        draw.polygon([n for x, y in corners for n in (x * across, y * down)], aggdraw.Brush(palette.stay))

    for share in _marks(seen):
        x, long = (begin + towards * share * full) * across, 30 if share == 0.5 else 20
        draw.line((x, 4 * down, x, long * down), aggdraw.Pen(palette.edge, max(1.0, 3 * across)))
    if far:
        pull(begin + towards * far)
        if both:
            pull(begin - far)
    draw.rectangle(((begin - 5) * across, 5 * down, (begin + 5) * across, 115 * down), aggdraw.Brush(palette.ink))
    x, r = (begin + towards * far) * across, _BEAD * down
    draw.ellipse((x - r, 60 * down - r, x + r, 60 * down + r), aggdraw.Brush(palette.clay))
    if both and far:
        x = (begin - far) * across
        draw.ellipse((x - r, 60 * down - r, x + r, 60 * down + r), aggdraw.Brush(palette.clay))
    draw.flush()
    return image


def _marks(seen: Seen) -> list[float]:
    """The half and the last three seconds of a hold; the end of other work."""
    if seen.segment.kind is SegmentKind.HOLD:
        ends = [1 - second / seen.segment.seconds for second in (3, 2, 1)]
        return [share for share in (0.5, *ends) if share > 0.02]
    return [1.0] if seen.works else []
