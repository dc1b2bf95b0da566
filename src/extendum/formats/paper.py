"""What pages look like, said before any is made: the paper, the people in the figures, and the characters there are."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from importlib.resources import files

from extendum.core.figure.builds import Build
from extendum.draw.figures.tones import Skin


class Paper(StrEnum):
    """What is printed on."""

    A4 = "A4"
    LETTER = "Letter"


@dataclass(frozen=True, slots=True)
class Look:
    """How somebody wants the figures on a page."""

    build: Build = Build.SLIGHT
    skin: Skin = Skin.MIDDLE


USUAL_LOOK = Look()


def font_file(name: str) -> str:
    """Where a face is that ships for print."""
    return str(files("extendum.data").joinpath("fonts", f"{name}.ttf"))


@cache
def _printed() -> frozenset[int]:
    """The characters that can be printed."""
    from fontTools.ttLib import TTFont  # only where something is printed

    return frozenset().union(*(TTFont(font_file(one)).getBestCmap() for one in ("source-sans-3-regular", "signs")))


def unprinted(texts: Iterable[str]) -> list[str]:
    """The characters of some texts that no face here has, each once."""
    return [one for one in dict.fromkeys("".join(texts)) if ord(one) not in _printed() and not one.isspace()]
