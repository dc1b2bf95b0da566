"""Plots over many sessions, as SVG with the numbers beside: bars over weeks, and bars by area."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from extendum.core.model.move import Effect
from extendum.draw.svg import n, tag, text

LEFT, BOTTOM, TOP = 44.0, 22.0, 14.0
#: So wide are they beside something else, and on a phone.
WIDE, NARROW = 560.0, 340.0
#: What lies over the colour of each part, so that no colour stands alone: nothing, slants, lines, dots, a grid, steps.
_WEAVES = ("", "M0 8L8 0", "M0 4H8", "M3 3h2v2h-2z", "M0 4H8M4 0V8", "M0 0L8 8")


#: The colours of the sheet: what is stretched is held there, what is mobilised is counted, what settles is breathed.
_INKS = {
    Effect.STRETCH.value: 0,
    Effect.MOBILISE.value: 1,
    Effect.SETTLE.value: 2,
    Effect.STRENGTHEN.value: 3,
    Effect.PRESS.value: 4,
    Effect.PULSE.value: 5,
}


def _textures(parts: Iterable[str], prefix: str) -> str:
    made = []
    for part, name in enumerate(parts):
        weave = _WEAVES[_INKS[name]]
        inside = tag("rect", width="8", height="8", class_=f"ink{_INKS[name]}")
        inside += tag("path", d=weave, class_="weave") if weave else ""
        made.append(tag("pattern", inside, id=f"{prefix}{part}", width="8", height="8", patternUnits="userSpaceOnUse"))
    return tag("defs", "".join(made))


def draw_key(part: str) -> str:
    """The sign of an effect in the legend."""
    weave = _WEAVES[_INKS[part]]
    inside = tag("rect", width="16", height="12", class_=f"ink{_INKS[part]}")
    inside += tag("path", d=weave, class_="weave", transform="translate(4 2)") if weave else ""
    return tag("svg", inside, width="16", height="12", viewBox="0 0 16 12", aria_hidden="true")


def draw_weeks(weeks: Sequence[str], parts: Mapping[str, Sequence[float]], unit: str, width: float = WIDE) -> str:
    """Stacked bars, one a week; ``parts``: effect to one value a week. The sum stands over each bar."""
    height = 190.0
    most = max((sum(values) for values in zip(*parts.values(), strict=True)), default=0) or 1
    step = (width - LEFT) / max(1, len(weeks))
    scale = (height - BOTTOM - TOP) / most
    drawn = [
        _textures(parts, f"week{width:.0f}-"),
        tag("path", d=f"M{n(LEFT)} {n(height - BOTTOM)}H{n(width)}", class_="axis"),
    ]
    for column, week in enumerate(weeks):
        x, y = LEFT + column * step + 2, height - BOTTOM
        for row, values in enumerate(parts.values()):
            tall = values[column] * scale
            if tall > 0:
                shape = {"x": n(x), "y": n(y - tall), "width": n(step - 4), "height": n(tall)}
                drawn.append(tag("rect", **shape, fill=f"url(#week{width:.0f}-{row})"))
                y -= tall
        whole = sum(values[column] for values in parts.values())
        if whole:
            drawn.append(text(f"{whole:.0f}", x + step / 2 - 2, y - 3, class_="value", text_anchor="middle"))
        if column % 2 == 0:
            last = column == len(weeks) - 1
            at, anchor = (width, "end") if last else (x + step / 2 - 2, "middle")
            drawn.append(text(week, at, height - 6, class_="label", text_anchor=anchor))
    drawn.append(text(unit, 0, TOP - 3, class_="label"))
    about = f"{unit} a week: " + ", ".join(parts)
    return tag(
        "svg", "".join(drawn), class_="plot", viewBox=f"0 0 {n(width)} {n(height)}", role="img", aria_label=about
    )


def draw_areas(rows: Sequence[tuple[str, Mapping[str, float]]], parts: Sequence[str], width: float = WIDE) -> str:
    """Lying bars, one an area, in parts; the minutes stand at their end."""
    pitch, names = 21.0, 150.0
    most = max((sum(values.values()) for _, values in rows), default=0) or 1
    scale = (width - names - 40) / most
    drawn = [_textures(parts, f"area{width:.0f}-")]
    for row, (area, values) in enumerate(rows):
        x, y = names, row * pitch
        drawn.append(text(area, names - 8, y + 14, class_="label", text_anchor="end"))
        for column, part in enumerate(parts):
            wide = values.get(part, 0) * scale
            if wide > 0:
                shape = {"x": n(x), "y": n(y + 3), "width": n(wide), "height": n(pitch - 7)}
                drawn.append(tag("rect", **shape, fill=f"url(#area{width:.0f}-{column})"))
                x += wide
        drawn.append(text(f"{sum(values.values()):.0f}", x + 5, y + 14, class_="value"))
    height = max(1, len(rows)) * pitch
    about = "minutes by area"
    return tag(
        "svg", "".join(drawn), class_="plot", viewBox=f"0 0 {n(width)} {n(height)}", role="img", aria_label=about
    )
