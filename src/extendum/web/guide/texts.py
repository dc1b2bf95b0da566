"""The texts of the help: what each screen is for, its keys, the words of the trade, and the steps of the tour."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Key:
    """What is pressed, key by key, and what it does."""

    pressed: tuple[str, ...]
    does: str


@dataclass(frozen=True, slots=True)
class Screen:
    """The help of one screen."""

    title: str
    about: str
    keys: tuple[Key, ...]
    notes: tuple[str, ...]
    terms: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class Guide:
    """Everything that the help says; `path` is how a first class comes about, `tour` the steps over a demo class."""

    screens: dict[str, Screen]
    terms: dict[str, str]
    path: tuple[tuple[str, str], ...]
    tour: tuple[dict[str, str], ...]


@cache
def guide() -> Guide:
    """The help as help.toml has it; KeyError where a screen names a word that is not explained."""
    read = tomllib.loads((Path(__file__).parent / "help.toml").read_text("utf-8"))
    screens = {
        name: Screen(
            one["title"],
            one["about"],
            tuple(Key(tuple(pressed.split()), does) for pressed, does in one["keys"]),
            tuple(one.get("notes", ())),
            tuple((term, read["terms"][term]) for term in one["terms"]),
        )
        for name, one in read["screens"].items()
    }
    path = tuple((one["what"], one["where"]) for one in read["path"])
    return Guide(screens, dict(sorted(read["terms"].items())), path, tuple(read["tour"]))
