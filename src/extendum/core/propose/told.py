"""A proposal in three sentences: what it does best, what it gives up, and how near to the best possible it is."""

from __future__ import annotations

from extendum.core.checks.mends import listed
from extendum.core.model.body import Side
from extendum.core.outputs.coverage import coverage, of_region
from extendum.core.propose.judge import Task
from extendum.core.propose.made import Proposal
from extendum.core.timing.compile import compile_script

#: Seconds a side from which on an area that was asked for has plenty.
PLENTY_S = 60


def told(task: Task, proposal: Proposal) -> tuple[str, str, str]:
    """What it does best, what it gives up, how near to the best."""
    return (_does_best(proposal), _gives_up(task, proposal), near_best(proposal))


def area_seconds(proposal: Proposal) -> dict[str, int]:
    """Seconds a side that each wanted area gets, with all main effects."""
    script = proposal.script
    found = coverage(script, compile_script(script))
    done = {region: of_region(found, region).values() for region in script.brief.areas}
    sides = (Side.LEFT, Side.RIGHT)
    return {str(region): min(sum(w.seconds(side) for w in each) for side in sides) for region, each in done.items()}


def _does_best(proposal: Proposal) -> str:
    seconds = area_seconds(proposal)
    moves = len(list(proposal.script.moves()))
    if not seconds:
        return f"{moves} moves for the whole body."
    told = listed((f"{region} {s} s" for region, s in sorted(seconds.items(), key=lambda one: -one[1])), most=5)
    return f"{moves} moves; on each side: {told}."


def _gives_up(task: Task, proposal: Proposal) -> str:
    ways = list(task.ways(proposal.plan))
    changes, floor, lost = sum(w.changes for w in ways), sum(w.floor for w in ways), sum(w.seconds for w in ways)
    parts = [f"{changes} change{'s' * (changes != 1)} of posture or props"]
    if floor:
        parts.append(f"{floor} way{'s' * (floor != 1)} to the floor or up")
    parts.append(f"{lost} s on the way")
    little = [region for region, s in area_seconds(proposal).items() if s < PLENTY_S]
    less = f" Under a minute on each side: {listed(little, most=5)}." if little else ""
    return f"It costs {', '.join(parts)}.{less}"


def near_best(proposal: Proposal) -> str:
    """How near a plan is to the best, and what the exact fit made of it."""
    if proposal.bound <= proposal.planned:
        proof = "No better plan exists on the grid of doses, by these weights"
    else:
        more = max(0.1, proposal.gap_percent)
        proof = f"At most {more:.1f} % better is possible on the grid of doses, by these weights"
    return f"{proof}: {proposal.planned} points planned, {proposal.score} after the exact fit."
