"""The script as it is taught with what is at hand: stand-ins for props, and nothing optional that nobody has."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace

from extendum.core.model.body import FLOOR, Base
from extendum.core.model.brief import AtHand, Brief
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import IN_PLACE, Prop
from extendum.core.model.script import Script
from extendum.core.model.spoken import respoken, spoken_texts
from extendum.core.model.talk import Talk

#: What one thing is called in words, and what it is called instead.
Names = dict[str, str]


def thing_at_hand(prop: Prop, brief: Brief) -> AtHand | None:
    """What serves as a prop: the thing itself, what counts as it, or what the move takes as well; None for nothing.

    A chair and a mat are at hand where the brief's postures need them.
    """
    for name in (prop.name, *prop.or_else):
        called = name.casefold()
        for one in brief.props:
            if called in (one.name.casefold(), one.counts_as.casefold()):
                return one
        implied = {"chair": Base.CHAIR in map(Base.of, brief.postures), "mat": not FLOOR.isdisjoint(brief.postures)}
        if implied.get(called):
            return AtHand(name)
    return None


def as_taught(script: Script) -> Script:
    """The script with the props that the class really uses; itself where the brief says nothing of any."""
    if not script.brief.props:
        return script
    sections, same = [], True
    for section in script.sections:
        groups = []
        for group in section.groups:
            items = tuple(_taught(item, script.brief) for item in group.items)
            changed = any(a is not b for a, b in zip(items, group.items, strict=True))
            same = same and not changed
            groups.append(replace(group, items=items) if changed else group)
        sections.append(replace(section, groups=tuple(groups)))
    return script if same else replace(script, sections=tuple(sections))


def _taught(item: Item, brief: Brief) -> Item:
    if isinstance(item, MoveItem):
        return _move_taught(item, brief) if item.move.props else item
    if isinstance(item, Talk) and (item.picks_up or item.puts_down):
        called = {prop.name: _called(prop, brief) for prop in (*item.picks_up, *map(Prop, item.puts_down))}
        picks = tuple(replace(prop, name=called[prop.name]) for prop in item.picks_up)
        return replace(item, picks_up=picks, puts_down=tuple(called[name] for name in item.puts_down))
    return item


def _called(prop: Prop, brief: Brief) -> str:
    has = thing_at_hand(prop, brief)
    return prop.name if has is None else has.name


def _move_taught(item: MoveItem, brief: Brief) -> Item:
    """The move with what is at hand, its words too; what nobody has and nobody needs is left out."""
    names = Names()
    props = tuple(_props_taught(item, brief, names))
    if props == item.move.props:
        return item
    move = replace(item.move, props=props)
    if not names:
        return replace(item, move=move)
    taught: Item = replace(item, move=move)
    for place, words in spoken_texts(item):
        taught = respoken(taught, place, renamed(words, names))
    return taught


def _props_taught(item: MoveItem, brief: Brief, names: Names) -> Iterator[Prop]:
    for prop in item.move.props:
        has = thing_at_hand(prop, brief)
        if has is None:
            if prop.required:
                yield prop
        elif has.name.casefold() == prop.name.casefold():
            yield replace(prop, or_else=()) if prop.or_else else prop
        else:
            names[prop.name] = has.name
            made = replace(prop, name=has.name, or_else=())
            # What stands in for a wall stands there as well.
            yield replace(made, pick_up_s=0, put_down_s=0) if prop.name.casefold() in IN_PLACE else made


def renamed(words: str, names: Names) -> str:
    """The words with the name of a prop exchanged for that of what stands in for it, its article and plural too."""
    for name, thing in names.items():
        article = "an" if thing[:1].casefold() in "aeiou" else "a"

        def told(match: re.Match[str], thing: str = thing, article: str = article) -> str:
            before, word, plural = match.groups()
            ahead = "" if before is None else (article.capitalize() if before[0].isupper() else article) + " "
            said = thing.capitalize() if word[0].isupper() else thing
            return ahead + said + plural

        words = re.sub(rf"\b(?:(an?)\s+)?({re.escape(name)})(s?)\b", told, words, flags=re.IGNORECASE)
    return words
