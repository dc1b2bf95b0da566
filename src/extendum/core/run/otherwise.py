"""What was done otherwise than planned in a run: options of a move, and other moves in its place."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from extendum.core.model.item import Item, MoveItem
from extendum.core.run.state import Run


class Otherwise(NamedTuple):
    """Names of moves that were done in an easier way, in a deeper one, and of those done instead of others."""

    easier: tuple[str, ...] = ()
    deeper: tuple[str, ...] = ()
    instead: tuple[str, ...] = ()


def otherwise(run: Run, items: Mapping[str, Item]) -> Otherwise:
    """How the items of a class were done in the end."""
    easier = tuple(items[item].name for item in sorted(run.easier) if item in items)
    deeper = tuple(items[item].name for item in sorted(run.deeper) if item in items)
    instead = []
    for name, nth in sorted(run.instead):
        item = items.get(name)
        if isinstance(item, MoveItem) and nth <= len(item.instead):
            instead.append(f"{item.instead[nth - 1].name} for {item.name}")
    return Otherwise(easier, deeper, tuple(instead))
