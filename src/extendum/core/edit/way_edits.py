"""Edits of ways: the ready-made words to another support, and how a prop is put on."""

from __future__ import annotations

from dataclasses import replace

from extendum.core.edit.script_edits import replace_items
from extendum.core.model.body import Base, Posture
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.ways import WayWords, usual_words_from


def set_way_words(script: Script, before: Base, posture: Posture, words: str) -> Script:
    """The class's own words for the way from a support into a posture; dropped where they are those that ship."""
    if before is Base.of(posture):
        raise RefusedError("posture", "on another support than where the class comes from", posture)
    kept = tuple(one for one in script.style.way_words if (one.before, one.posture) != (before, posture))
    own = () if words == usual_words_from(before, posture) else (WayWords(before, posture, words),)
    return replace(script, style=replace(script.style, way_words=(*kept, *own)))


def set_rig(script: Script, item_id: str, prop_name: str, rig: str, rerig_s: int) -> Script:
    """How a prop of an item is held or put, and how long it takes to change that."""
    item = script.item(item_id)
    if not isinstance(item, MoveItem) or prop_name not in {prop.name for prop in item.move.props}:
        raise RefusedError("prop", f"a prop of {item.name}", prop_name)
    props = tuple(
        replace(prop, rig=rig, rerig_s=rerig_s) if prop.name == prop_name else prop for prop in item.move.props
    )
    return replace_items(script, {item.id: replace(item, move=replace(item.move, props=props))})
