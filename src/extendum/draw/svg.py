"""A little help to write SVG: escaped, with numbers kept short. No style attributes: the CSP forbids them."""

from __future__ import annotations

import re
from functools import cache, lru_cache
from html import escape

#: The width of an average sign of the shipped text face, as a share of its size.
SIGN = 0.47
_TO_ESCAPE = re.compile(r"[&<>\"']")


@lru_cache(maxsize=32_768)  # a sheet that is drawn again has nearly all of its numbers again
def n(value: float) -> str:
    """A coordinate with at most one decimal."""
    return f"{value:.1f}".removesuffix(".0")


@cache
def _attribute(key: str) -> str:
    return key.rstrip("_").replace("_", "-")


def tag(name: str, inside: str = "", /, **attributes: object) -> str:
    """One element; an underscore in an attribute's name stands for a hyphen, a trailing one for nothing."""
    opening = name
    for key, value in attributes.items():
        if value is None:
            continue
        kind = type(value)
        if kind is float:
            shown = n(value)
        elif kind is int:
            shown = str(value)
        else:
            shown = str(value)
            if _TO_ESCAPE.search(shown):
                shown = escape(shown, quote=True)
        opening += f' {_attribute(key)}="{shown}"'
    return f"<{opening}>{inside}</{name}>" if inside else f"<{opening}/>"


def text(words: str, x: float, y: float, **attributes: object) -> str:
    """A text element; the words are escaped."""
    return tag("text", escape(words), x=n(x), y=n(y), **attributes)


def clip(words: str, width: float, font_px: float) -> str:
    """The words, shortened with an ellipsis to a width; empty when not even four signs fit."""
    fitting = int(width / (font_px * SIGN))
    if len(words) <= fitting:
        return words
    return words[: fitting - 1].rstrip() + "…" if fitting >= 4 else ""
