"""What of a class is to do at home."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from extendum.core.edit.script_edits import replace_items
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item
from extendum.core.model.script import Script


def set_home(script: Script, doses: Mapping[str, int], often: str) -> Script:
    """Set what is to do at home: for each item its dose there, in seconds or counts; the others are not for home.

    RefusedError where a dose is not between 1 and what the class does, or there is no such move.
    """
    unknown = sorted(doses.keys() - {item.id for item in script.moves()})
    if unknown:
        raise RefusedError("home", "moves of this class", ", ".join(unknown))
    new: dict[str, Item] = {}
    for item in script.moves():
        value = doses.get(item.id)
        if value is not None and not 1 <= value <= item.quantity.value:
            must = f"1 to {item.quantity.value}, what the class does"
            raise RefusedError(f"{item.name}: dose at home", must, str(value))
        if value != item.home:
            new[item.id] = replace(item, home=value)
    return replace_items(script, new, often=often.strip())
