"""The library of moves, the starting sets and the activities that ship with the program."""

from __future__ import annotations

import hashlib
import json
from dataclasses import fields, is_dataclass, replace
from functools import cache
from importlib.resources import files
from typing import Any

from extendum.core.model.audience import Activity
from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove, StartingSet
from extendum.formats.codec import from_plain, to_plain
from extendum.formats.json_text import read_json


@cache
def shipped_moves() -> tuple[LibraryMove, ...]:
    """All moves of the shipped library, from head to feet."""
    found: list[LibraryMove] = []
    for area in AREAS:
        plain = read_json(files("extendum.data").joinpath("moves", f"{area}.json").read_text("utf-8"))
        found += from_plain(tuple[LibraryMove, ...], plain["moves"])
    return tuple(found)


#: The files of the library, in the order in which it is shown.
AREAS = (
    "neck-and-face",
    "shoulders",
    "chest-and-upper-back",
    "spine",
    "side-body",
    "arms-and-hands",
    "hips",
    "thighs",
    "calves-and-feet",
    "pulse-and-whole-body",
    "breath-and-rest",
)


def shipped_move(key: str) -> LibraryMove:
    """The shipped move with this key; RefusedError when there is none."""
    found = _by_key().get(key)
    if found is None:
        raise RefusedError("move", "a move of the library", key)
    return found


@cache
def _by_key() -> dict[str, LibraryMove]:
    return {entry.move.key: entry for entry in shipped_moves()}


@cache
def starting_sets() -> tuple[StartingSet, ...]:
    """All shipped starting sets, in the order of a class."""
    plain = read_json(files("extendum.data").joinpath("sets.json").read_text("utf-8"))
    sets: tuple[StartingSet, ...] = from_plain(tuple[StartingSet, ...], plain["sets"])
    return sets


@cache
def activities() -> tuple[Activity, ...]:
    """What people do beside a class, as far as the program knows it."""
    plain = read_json(files("extendum.data").joinpath("activities.json").read_text("utf-8"))
    found: tuple[Activity, ...] = from_plain(tuple[Activity, ...], plain["activities"])
    return found


def form_of(entry: LibraryMove) -> str:
    """Which form of a move this is: sixteen characters that change with anything that a class takes up."""
    text = json.dumps(to_plain(replace(entry, aliases=())), sort_keys=True, ensure_ascii=False)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def shipped_form(key: str) -> str:
    """Which form the shipped move with this key has; empty when there is none."""
    return _forms().get(key, "")


@cache
def _forms() -> dict[str, str]:
    return {entry.move.key: form_of(entry) for entry in shipped_moves()}


def entry_plain(entry: LibraryMove) -> dict[str, Any]:
    """A move of the library with every field, also those that are empty or as usual."""
    plain: dict[str, Any] = _whole(entry)
    return plain


def _whole(thing: Any) -> Any:
    if isinstance(thing, tuple):
        return [_whole(one) for one in thing]
    if not is_dataclass(thing):
        return thing
    kind = {"type": thing.tag} if hasattr(thing, "tag") else {}
    return kind | {f.name: _whole(getattr(thing, f.name)) for f in fields(thing) if not f.metadata.get("extra")}
