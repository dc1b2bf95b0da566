"""The texts of the help: what each screen is for, its keys, the words of the trade, and the steps of the tour."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from functools import cache
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Key:
    """What is pressed, key by key, what it does, and the deed of the screen that each key sets going."""

    pressed: tuple[str, ...]
    does: str
    deeds: tuple[str, ...] = ()

    def each(self) -> list[tuple[str, str, str]]:
        """Each key with its own part of what they do, and its deed; with all of it where it has no parts."""
        parts = self.does.split(", ")
        told = parts if len(parts) == len(self.pressed) else [self.does] * len(self.pressed)
        return list(zip(self.pressed, told, self.deeds or [""] * len(self.pressed), strict=True))


@dataclass(frozen=True, slots=True)
class Screen:
    """The help of one screen."""

    title: str
    about: str
    keys: tuple[Key, ...]
    notes: tuple[str, ...]
    terms: tuple[tuple[str, str], ...]

    @property
    def map(self) -> list[tuple[str, str, str]]:
        """Its map of keys, as its scripts read it."""
        return [one for key in self.keys for one in key.each()]


@dataclass(frozen=True, slots=True)
class Guide:
    """Everything that the help says; `path` is how a first class comes about, `tour` the steps over a demo class."""

    screens: dict[str, Screen]
    terms: dict[str, str]
    path: tuple[tuple[str, str], ...]
    tour: tuple[dict[str, str], ...]


def _key(pressed: str, does: str, deeds: str = "") -> Key:
    return Key(tuple(pressed.split()), does, tuple(deeds.split()))


@cache
def guide() -> Guide:
    """The help as help.toml has it; KeyError where a screen names a word that is not explained."""
    read = tomllib.loads((Path(__file__).parent / "help.toml").read_text("utf-8"))
    screens = {
        name: Screen(
            one["title"],
            one["about"],
            tuple(_key(*told) for told in one["keys"]),
            tuple(one.get("notes", ())),
            tuple((term, read["terms"][term]) for term in one["terms"]),
        )
        for name, one in read["screens"].items()
    }
    path = tuple((one["what"], one["where"]) for one in read["path"])
    return Guide(screens, dict(sorted(read["terms"].items())), path, tuple(read["tour"]))
