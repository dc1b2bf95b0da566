"""Other moves to do instead of one: those that its options and cautions name, held against the group's brief."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from extendum.core.model.brief import Brief
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Caution, Move, OptionKind
from extendum.core.moves.objections import objections


def other_move(move: Move, kind: OptionKind, library: Mapping[str, LibraryMove], brief: Brief) -> LibraryMove | None:
    """The first move that the options of a kind name and that nothing in the brief speaks against."""
    named = (library.get(one.move) for one in move.options if one.kind is kind and one.move)
    return next((entry for entry in named if entry and not objections(entry.move, brief)), None)


def left_out_with(move: Move, condition: str) -> bool:
    """Whether people with a condition leave a move out."""
    return any(one.leave_out for one in move.cautions if one.condition.casefold() == condition.casefold())


def offered(caution: Caution, move: Move, library: Mapping[str, LibraryMove]) -> Iterator[LibraryMove]:
    """What somebody who leaves a move out can do: what the caution names, then the move's options.

    Never a move that is left out with the same condition.
    """
    keys = dict.fromkeys(key for key in (caution.instead, *(one.move for one in move.options)) if key)
    for key in keys:
        entry = library.get(key)
        if entry and not left_out_with(entry.move, caution.condition):
            yield entry
