"""Moves kept ready for what a class did not plan: a few for each of its postures, each timed by itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from extendum.core.edit.script_edits import add_section, insert_item
from extendum.core.edit.take_up import take_up
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move
from extendum.core.model.script import Script
from extendum.core.model.section import Role
from extendum.core.model.timeline import Timeline
from extendum.core.moves.objections import objections
from extendum.core.timing.compile import compile_script

#: How many there are for each posture of a class.
SPARES = 4


@dataclass(frozen=True, slots=True)
class Spare:
    """A move that is not in the class and fits somewhere in it, compiled by itself."""

    item: MoveItem
    script: Script
    timeline: Timeline


def spares(script: Script, library: Iterable[LibraryMove]) -> list[Spare]:
    """A few moves for each posture of the class that keep to its brief and need nothing that it does not use.

    The easiest first, each of another area.
    """
    used = {item.move.key for item in script.moves()}
    props = {prop.name for item in script.moves() for prop in item.move.props}
    entries, found = list(library), list[Spare]()
    for posture in dict.fromkeys(item.move.posture for item in script.moves()):
        fit = [e for e in entries if e.move.posture is posture and e.move.key not in used and _needs(e.move) <= props]
        ranked = sorted((one for one in fit if not objections(one.move, script.brief)), key=lambda e: e.move.effort)
        nearest = {entry.move.main_regions[:1]: entry for entry in reversed(ranked)}
        for entry in sorted(nearest.values(), key=lambda e: e.move.effort)[:SPARES]:
            item = take_up(entry, f"tray-{entry.move.key}"[:40], script.style)
            alone = Script(entry.move.name, style=script.style, start_posture=posture)
            alone = insert_item(add_section(alone, "", Role.MAIN), item)
            found.append(Spare(item, alone, compile_script(alone)))
    return found


def _needs(move: Move) -> set[str]:
    return {prop.name for prop in move.props if prop.required}
