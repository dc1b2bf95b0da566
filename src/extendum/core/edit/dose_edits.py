"""Edits of doses: how long, how many, and what may give."""

from __future__ import annotations

from dataclasses import replace

from extendum.core.edit.script_edits import move_item, replace_items
from extendum.core.model.dose import COUNTED, Dose
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.talk import Quiet


def set_quantity(script: Script, item_id: str, quantity: Elastic) -> Script:
    """Give an item another elastic quantity."""
    return replace_items(script, {item_id: script.item(item_id).having(quantity)})


def usual_step(item: Item) -> int:
    """By how much of its own unit a dose changes at one press: 5 s, or one rep, breath or pulse."""
    return 1 if isinstance(item, MoveItem) and isinstance(item.dose, COUNTED) else 5


def nudge(script: Script, item_id: str, by: int) -> Script:
    """Make the dose longer or shorter by some of its own unit, as the teacher's wish."""
    quantity = script.item(item_id).quantity
    floor = 0 if isinstance(script.item(item_id), Quiet) else 1
    return set_quantity(script, item_id, quantity.wanting(max(floor, quantity.value + by)))


def set_locked(script: Script, item_id: str, locked: bool) -> Script:
    """Lock the dose at what it is now, or let it give again."""
    return set_quantity(script, item_id, replace(script.item(item_id).quantity, locked=locked))


def set_dose(script: Script, item_id: str, dose: Dose) -> Script:
    """Give a move another dose."""
    return replace_items(script, {item_id: replace(move_item(script, item_id), dose=dose)})


def set_stage_quantity(script: Script, item_id: str, stage: int, quantity: Elastic) -> Script:
    """Give one stage of an item another elastic quantity; stages count from 1."""
    return replace_items(script, {item_id: script.item(item_id).having(quantity, stage)})
