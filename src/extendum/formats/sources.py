"""Where the library's doses and reasons come from: the sources that ship, by their key."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from extendum.core.model.fields import Checked, Extra, extra, text
from extendum.formats.codec import from_plain
from extendum.formats.json_text import read_json

#: The key of what is taught widely and not proven.
CUSTOM = "custom"


@dataclass(frozen=True, slots=True)
class Source(Checked):
    """A guideline, a study or a textbook: how it is cited, and what of it the library rests on."""

    key: str = text(40, shortest=1)
    told: str = text(300, shortest=1)
    says: str = text(400, "")
    extra: Extra = extra()


@cache
def shipped_sources() -> dict[str, Source]:
    """All sources that ship, by key."""
    plain = read_json(files("extendum.data").joinpath("sources.json").read_text("utf-8"))
    found: tuple[Source, ...] = from_plain(tuple[Source, ...], plain["sources"])
    return {one.key: one for one in found}


def source_told(key: str) -> str:
    """A source as it is cited; a teacher's own, given in words, as it is."""
    found = shipped_sources().get(key)
    return found.told if found else key


def short_source(key: str) -> str:
    """A source in a few words, for a printed page: ``Bandy, Irion and Briggler, 1997``."""
    told = source_told(key)
    parts = told.split(", ")
    year = next((n for n, one in enumerate(parts) if one.isdigit()), None)
    return ", ".join(parts[: year + 1]) if year is not None else parts[0]
