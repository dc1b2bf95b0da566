"""The library of moves that ships with the program."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

from extendum.core.errors import RefusedError
from extendum.core.move import LibraryMove
from extendum.formats.codec import from_plain
from extendum.formats.document import read_json


@cache
def shipped_moves() -> tuple[LibraryMove, ...]:
    """All moves of the shipped library, in its own order."""
    plain = read_json(files("extendum.data").joinpath("moves.json").read_text("utf-8"))
    moves: tuple[LibraryMove, ...] = from_plain(tuple[LibraryMove, ...], plain["moves"])
    return moves


def shipped_move(key: str) -> LibraryMove:
    """The shipped move with this key; RefusedError when there is none."""
    for entry in shipped_moves():
        if entry.move.key == key:
            return entry
    raise RefusedError("move", "a move of the library", key)


def search(words: str) -> list[LibraryMove]:
    """Moves whose name, posture or targets hold every word typed; names that begin with it first."""
    asked = words.casefold().split()
    found: list[tuple[bool, bool, int, LibraryMove]] = []
    for entry in shipped_moves():
        move = entry.move
        regions = " ".join(target.region for target in move.targets)
        text = f"{move.name} {move.posture} {move.kind} {regions}".casefold()
        if all(word in text for word in asked):
            name = move.name.casefold()
            starts = bool(asked) and name.startswith(asked[0])
            within = all(word in name for word in asked)
            found.append((not starts, not within, len(found), entry))
    return [entry for *_, entry in sorted(found, key=lambda one: one[:3])]
