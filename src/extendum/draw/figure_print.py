"""Figures for print: looks as attributes instead of classes, since a printed page knows no style sheet."""

from __future__ import annotations

import re
from functools import cache

from extendum.draw.figure import SQUARE, figure_style

_RULE = re.compile(r"((?:\.[\w-]+(?:, )?)+) \{([^}]*)\}")
_CLASS = re.compile(r' class="([\w-]+)"')
_LETTER = re.compile(r'<text x="([-\d.]+)" y="([-\d.]+)"[^>]*>(\w)</text>')
_PLAIN = ("fill", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin", "stroke-dasharray", "opacity")


@cache
def _styles() -> dict[str, str]:
    """What each class of a figure looks like, as attributes; colours that a page may set have their own default."""
    found: dict[str, str] = {}
    for names, body in _RULE.findall(figure_style()):
        plain = re.sub(r"var\([^,]+, ([^)]+)\)", r"\1", body)
        pairs = (one.split(":", 1) for one in plain.split(";") if ":" in one)
        told = "".join(f' {key.strip()}="{value.strip()}"' for key, value in pairs if key.strip() in _PLAIN)
        for name in names.replace(",", " ").split():
            found[name[1:]] = found.get(name[1:], "") + told
    return found


def figure_print(svg: str) -> tuple[str, list[tuple[float, float, str]]]:
    """A drawn figure for print: looks as attributes, and its letters apart, in shares of its square."""
    box = re.search(r'viewBox="([-\d]+) ([-\d]+)', svg)
    left, top = (int(one) for one in box.groups()) if box else (0, 0)
    letters = [((float(x) - left) / SQUARE, (float(y) - top) / SQUARE, sign) for x, y, sign in _LETTER.findall(svg)]
    bare = _LETTER.sub("", svg)
    styles = _styles()
    return _CLASS.sub(lambda match: styles.get(match.group(1), ""), bare), letters
