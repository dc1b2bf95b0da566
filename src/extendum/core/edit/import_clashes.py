"""A class from somebody else: it keeps its moves, and where they clash with your own, you are asked."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import replace

from extendum.core.edit.script_edits import replace_items
from extendum.core.model.item import Item
from extendum.core.model.move import Move
from extendum.core.model.script import Script


def clashes(script: Script, own: Mapping[str, Move]) -> dict[str, tuple[Move, Move]]:
    """The moves of a class that are called like own ones and are others: by key, theirs and mine."""
    found: dict[str, tuple[Move, Move]] = {}
    for item in script.moves():
        mine = own.get(item.move.key)
        if mine is not None and mine != item.move:
            found.setdefault(item.move.key, (item.move, mine))
    return found


def joined(script: Script, known: Collection[str], own: Mapping[str, Move], mine: Collection[str]) -> Script:
    """The class as it is imported: moves in ``mine`` become your own ones, other clashes and unknown keys stand alone.

    ``known``: every key of the library. A move that stands alone keeps everything but its key, so that no newer form
    of another move is ever offered for it.
    """
    other = clashes(script, own)
    new: dict[str, Item] = {}
    for item in script.moves():
        key = item.move.key
        if key in other:
            new[item.id] = replace(item, move=own[key] if key in mine else replace(item.move, key=""), taken="")
        elif key and key not in known:
            new[item.id] = replace(item, move=replace(item.move, key=""), taken="")
    return replace_items(script, new)
