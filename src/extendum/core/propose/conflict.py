"""Why no class meets a brief: the wishes that cannot be had together, as few as a search in turn finds."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

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


def conflict(task: Task, rules: Rules, library: Sequence[LibraryMove]) -> tuple[str, ...]:
    """The wishes that stand in each other's way, each in a few words."""
    alone = tuple(_unreached(region, task, library) for region in rules.areas if not _reached(region, task))
    if alone:
        return alone
    if not task.candidates:
        return ("no move of the library keeps to the postures, props, conditions and things to avoid",)
    wishes = _wishes(task, rules)
    kept = list(wishes)
    for one in wishes:
        without = [other for other in kept if other != one]
        if _impossible(task, rules, without):
            kept = without
    return tuple(kept)


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


def _wishes(task: Task, rules: Rules) -> list[str]:
    found = [f"a class of {clock(task.script.brief.target_s)}"]
    found += [f"the moves that it has ({len(rules.must)})"] if rules.must else []
    found += ["moving before holds"] if rules.warms else []
    found += ["holds of 30 s at the most before strength or speed"] if rules.held_most is not None else []
    found += [f"at most {rules.crossings} ways to the floor or up"]
    found += ["a calm end"] if rules.settles else []
    return found + [str(region) for region in rules.areas]


def _impossible(task: Task, rules: Rules, wishes: list[str]) -> bool:
    """Whether these wishes cannot be had together."""
    told = " ".join(wishes)
    timed = "a class of" in told
    shares = rules.shares if timed else dict.fromkeys(rules.shares, (0, _ENDLESS))
    asked = replace(
        rules,
        least=rules.least if timed else 0,
        most=rules.most if timed else _ENDLESS,
        must=rules.must if "the moves that" in told else frozenset(),
        warms=rules.warms and "moving before" in told,
        held_most=rules.held_most if "holds of 30 s" in told else None,
        crossings=rules.crossings if "the floor or up" in told else _ENDLESS,
        settles=rules.settles and "a calm end" in told,
        shares=shares,
        areas=tuple(region for region in rules.areas if str(region) in wishes),
    )
    return Search(task, asked).best(ASKED_S, ASKED_S).impossible
