"""Why no class meets a brief: the wishes that cannot be had together, as few as a search in turn finds."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from typing import NamedTuple

from extendum.core.fit.explain import names
from extendum.core.model.body import Region
from extendum.core.model.library import LibraryMove
from extendum.core.model.timeline import clock
from extendum.core.moves.objections import objections
from extendum.core.propose.judge import Task
from extendum.core.propose.rules import Rules
from extendum.core.propose.search import Search

#: Seconds that each question may take; one that is not answered by then counts as possible.
ASKED_S = 4.0
_ENDLESS = 10**6
#: So many moves that a class must have are named.
NAMED_MOST = 3


class Wish(NamedTuple):
    """A wish in a few words, the rules without it, and whether the nearest class may go without it."""

    words: str
    give_up: Callable[[Rules], Rules]
    may_go: bool = False


class Conflict(NamedTuple):
    """The wishes that stand in each other's way, each in a few words; and what the nearest class holds, without what.

    ``nearest``: None where nothing may be given up: what keeps people from harm, what is in the class, its length.
    """

    wishes: tuple[str, ...]
    nearest: Rules | None = None
    without: str = ""


def conflict(task: Task, rules: Rules, library: Sequence[LibraryMove]) -> Conflict:
    """The wishes that stand in each other's way, and which of them the nearest class gives up."""
    gone = [region for region in rules.areas if not _reached(region, task)]
    if gone:
        alone = tuple(_unreached(region, task, library) for region in gone)
        left = replace(rules, areas=tuple(one for one in rules.areas if one not in gone))
        return Conflict(alone, left if task.candidates else None, names([str(region) for region in gone]))
    if not task.candidates:
        return Conflict(("no move of the library keeps to the postures, props, conditions and things to avoid",))
    wishes = _wishes(task, rules)
    kept = list(wishes)
    for one in wishes:
        without = [other for other in kept if other is not one]
        if _impossible(task, rules, [other for other in wishes if other not in without]):
            kept = without
    words = tuple(one.words for one in kept)
    gives = next((one for one in reversed(kept) if one.may_go), None)
    return Conflict(words, gives.give_up(rules), gives.words) if gives else Conflict(words)


def _reached(region: Region, task: Task) -> bool:
    return any(does.region is region for one in task.candidates for does in one.does)


def _unreached(region: Region, task: Task, library: Sequence[LibraryMove]) -> str:
    """Why no move reaches an area: what speaks against the one that comes nearest."""
    against = [
        (objections(entry.move, task.script.brief), entry.move.name)
        for entry in library
        if region in entry.move.main_regions
    ]
    if not against:
        return f"{region}: no move of the library is for it"
    why, name = min(against, key=lambda one: (len(one[0]), one[1]))
    return f"{region}: no move reaches it ({name}: {'; '.join(why)})" if why else f"{region}: no move reaches it"


def _wishes(task: Task, rules: Rules) -> list[Wish]:
    """Everything that is wished for; the areas last, so that they stay only where nothing else can be blamed."""
    endless = dict.fromkeys(rules.shares, (0, _ENDLESS))
    length = f"a class of {clock(task.script.brief.target_s)}"
    found = [Wish(length, lambda asked: replace(asked, least=0, most=_ENDLESS, shares=endless))]
    if rules.must:
        own = [one.item.name for one in task.candidates if one.key in rules.must]
        has = f"the {len(own)} moves that it has" if len(own) > NAMED_MOST else names([f"“{one}”" for one in own])
        found.append(Wish(has, lambda asked: replace(asked, must=frozenset())))
    if rules.warms:
        found.append(Wish("moving before holds", lambda asked: replace(asked, warms=False)))
    if rules.held_most is not None:
        short = f"holds of {rules.held_most // 2} s at the most before strength or speed"
        found.append(Wish(short, lambda asked: replace(asked, held_most=None)))
    trips = f"at most {rules.crossings} trips to the floor or up"
    found.append(Wish(trips, lambda asked: replace(asked, crossings=_ENDLESS)))
    if rules.settles:
        found.append(Wish("a calm end", lambda asked: replace(asked, settles=False), may_go=True))
    if rules.areas:
        least = f"{rules.area_least // 2} s for each area"
        found.append(Wish(least, lambda asked: replace(asked, area_least=0), may_go=True))
    return found + [Wish(str(region), partial(_without, region=region), may_go=True) for region in rules.areas]


def _without(asked: Rules, region: Region) -> Rules:
    return replace(asked, areas=tuple(one for one in asked.areas if one is not region))


def _impossible(task: Task, rules: Rules, given_up: Sequence[Wish]) -> bool:
    """Whether nothing meets what is left when these wishes are given up."""
    for one in given_up:
        rules = one.give_up(rules)
    return Search(task, rules).best(ASKED_S, ASKED_S).impossible
