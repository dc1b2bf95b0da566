"""Bounds on fields, said once: the same bounds guard objects, documents and the schema."""

from __future__ import annotations

import re
from dataclasses import MISSING, field, fields
from functools import cache
from typing import Any

from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import well_formed

#: Fields of a newer version, kept as (name, JSON text) so that a round trip loses nothing.
Extra = tuple[tuple[str, str], ...]


def whole(least: int, most: int, default: Any = MISSING, note: str = "") -> Any:
    """A whole number from least to most, both included."""
    return field(default=default, metadata={"least": least, "most": most, "note": note})


def text(longest: int, default: Any = MISSING, note: str = "", *, shortest: int = 0) -> Any:
    """A text of shortest to longest characters."""
    return field(default=default, metadata={"longest": longest, "shortest": shortest, "note": note})


def identifier() -> Any:
    """A name that addresses and other documents can carry: 1 to 40 letters, digits, _ and -."""
    return field(metadata={"pattern": r"^[A-Za-z0-9_-]{1,40}$"})


def extra() -> Any:
    """The place for what a newer version wrote here."""
    return field(default=(), metadata={"extra": True})


@cache
def _bounds(cls: type) -> tuple[tuple[str, dict[str, Any]], ...]:
    return tuple((f.name, dict(f.metadata)) for f in fields(cls) if {"least", "longest", "pattern"} & f.metadata.keys())


def check_bounds(thing: Any) -> None:
    """Raise RefusedError for the first field of a dataclass that is outside its bounds."""
    cls: type = type(thing)
    for name, bounds in _bounds(cls):
        value = getattr(thing, name)
        if value is None:
            continue
        if "pattern" in bounds:
            if not isinstance(value, str) or not re.fullmatch(bounds["pattern"], value):
                raise RefusedError(name, "1 to 40 letters, digits, _ and -", value)
        elif "least" in bounds:
            least, most = bounds["least"], bounds["most"]
            if isinstance(value, bool) or not isinstance(value, int) or not least <= value <= most:
                raise RefusedError(name, f"a whole number from {least} to {most}", value)
        elif not isinstance(value, str) or not bounds["shortest"] <= len(value) <= bounds["longest"]:
            found = f"{len(value)} characters" if isinstance(value, str) else value
            raise RefusedError(name, f"{bounds['shortest']} to {bounds['longest']} characters", found)
        elif not well_formed(value):
            raise RefusedError(name, "whole letters", "half of a surrogate pair")


class Checked:
    """Mixin of frozen dataclasses: bounds are checked whenever one is built."""

    __slots__ = ()

    def __post_init__(self) -> None:
        check_bounds(self)
