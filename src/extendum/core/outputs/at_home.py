"""What to do at home after a class: the moves that are marked for it, or all of them, each with how and why."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem, dose_words
from extendum.core.model.marks import without_marks
from extendum.core.model.placeholders import fill
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.outputs.cue_sheet import Entry
from extendum.core.timing.layout import lay_out
from extendum.core.timing.sequence import Pass
from extendum.core.timing.speech import sentences


@dataclass(frozen=True, slots=True)
class AtHome:
    """A move to do at home: its dose in words, one sentence that says how, and the side that it begins on."""

    item: MoveItem
    dose: str
    how: str
    side: Side


def is_marked(script: Script) -> bool:
    """Whether somebody has said which moves are for home."""
    return any(item.home is not None for item in script.moves())


def at_home(script: Script, entries: Sequence[Entry], *, every: bool = False) -> list[AtHome]:
    """The moves for home, as in the class: those that are marked, in their dose there; all of them where none is.

    ``every``: all of them as the class does them, whatever is marked.
    """
    marked = is_marked(script) and not every
    rounds: dict[str, dict[int, MoveItem]] = {}
    for entry in entries:
        if isinstance(entry.item, MoveItem) and (not marked or entry.item.home is not None):
            rounds.setdefault(entry.item.id, {}).setdefault(entry.round, entry.item)
    said = _said(script)
    return [
        AtHome(one, home_dose(one) if marked else _in_rounds(list(each.values())), *said.get(key, ("", Side.BOTH)))
        for key, each in rounds.items()
        for one in [next(iter(each.values()))]
    ]


def home_class(script: Script) -> Script:
    """The class as it is done at home: what is marked, once, in its dose there; itself where nothing is."""
    if not is_marked(script):
        return script
    sections = (replace(one, groups=tuple(map(_home_group, one.groups)), pins=()) for one in script.sections)
    return replace(script, sections=tuple(one for one in sections if one.items), meanwhiles=(), kept=())


def _home_group(group: Group) -> Group:
    found = (one for one in group.items if isinstance(one, MoveItem) and one.present and one.home is not None)
    items = tuple(replace(_at(one), sets=1, home=None) for one in found)
    return replace(
        group, items=items, side_plan=SidePlan.EACH_MOVE, passes=(), rounds=1, cadence_s=0, routes=(), route=""
    )


def _at(item: MoveItem) -> MoveItem:
    """A move in its dose at home: never more than the class does."""
    return item.having(item.quantity.wanting(min(item.home or item.quantity.value, item.quantity.value)))


def home_dose(item: MoveItem) -> str:
    """The dose of a move at home in a few words, once."""
    return dose_words(replace(_at(item), sets=1))


def _in_rounds(each: Sequence[MoveItem]) -> str:
    """The doses of all rounds: ``3 rounds of 30 s each side``, ``40 s, 30 s, then 20 s each side``."""
    doses = [dose_words(one) for one in each]
    if len(set(doses)) == 1:
        return f"{len(doses)} rounds of {doses[0]}" if len(doses) > 1 else doses[0]
    last = doses[-1].split(" ")
    tail = 0
    while tail < len(last) - 2 and all(one.split(" ")[-tail - 1 :] == last[-tail - 1 :] for one in doses):
        tail += 1
    before = [" ".join(one.split(" ")[: len(one.split(" ")) - tail]) for one in doses[:-1]]
    return f"{', '.join(before)}, then {doses[-1]}"


def _said(script: Script) -> dict[str, tuple[str, Side]]:
    """The sentence of each move that says how, as it is said on its first side."""
    found: dict[str, tuple[str, Side]] = {}
    for one in lay_out(script):
        item = one.step.item
        if isinstance(item, MoveItem) and isinstance(one.step, Pass) and item.id not in found:
            words = item.words.short or item.words.there or item.words.moving
            told = sentences(without_marks(fill(words, one.facts)))
            found[item.id] = (told[0] if told else "", one.step.side)
    return found
