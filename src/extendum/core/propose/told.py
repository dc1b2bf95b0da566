"""A proposal in three sentences: what it does, what it costs, and how near to the best possible it is."""

from __future__ import annotations

from extendum.core.checks.mends import listed
from extendum.core.fit.explain import names
from extendum.core.outputs.coverage import coverage, on_each_side
from extendum.core.propose.judge import Task
from extendum.core.propose.made import Proposal
from extendum.core.timing.compile import compile_script

#: Seconds a side from which on an area that was asked for has plenty.
PLENTY_S = 60
#: So many areas are named.
NAMED_MOST = 5


def told(task: Task, proposal: Proposal) -> tuple[str, str, str]:
    """What it does, what it costs, how near to the best it is."""
    done = on_each_side(coverage(proposal.script, compile_script(proposal.script)))
    wanted = {str(region): done.get(region, 0) for region in proposal.script.brief.areas}
    return (_does(proposal, wanted), _costs(task, proposal, wanted), near_best(proposal))


def _does(proposal: Proposal, wanted: dict[str, int]) -> str:
    moves = _many(len(list(proposal.script.moves())), "move")
    if not wanted:
        return f"{moves} for the whole body."
    most = [f"{region} {seconds}\u00a0s" for region, seconds in sorted(wanted.items(), key=lambda one: -one[1])]
    return f"{moves}. On each side: {listed(most, most=NAMED_MOST)}."


def _costs(task: Task, proposal: Proposal, wanted: dict[str, int]) -> str:
    ways = list(task.ways(proposal.plan))
    changes, floor, lost = sum(w.changes for w in ways), sum(w.floor for w in ways), sum(w.seconds for w in ways)
    parts = [f"change posture or props {_times(changes)}"] if changes else ["stay where they are"]
    parts += [f"go to the floor or get up {_times(floor)}"] if floor else []
    parts += [f"lose {lost}\u00a0s on the way"] if lost else []
    little = [region for region, seconds in wanted.items() if seconds < PLENTY_S]
    less = f" Less than a minute a side: {listed(little, most=NAMED_MOST)}." if little else ""
    return f"People {names(parts)}.{less}"


def _times(number: int) -> str:
    return {1: "once", 2: "twice"}.get(number, f"{number} times")


def _many(number: int, what: str) -> str:
    return f"{number} {what}{'s' * (number != 1)}"


def near_best(proposal: Proposal) -> str:
    """How near a plan is to the best, and what the exact fit made of it."""
    points = f"{proposal.planned} points planned, {proposal.score} after the exact fit"
    if proposal.bound <= proposal.planned:
        return f"By these weights no plan on the grid of doses is better: {points}."
    more = max(0.1, proposal.gap_percent)
    return f"By these weights a plan on the grid of doses could be {more:.1f} % better at most: {points}."
