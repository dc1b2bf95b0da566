"""Why a move is not in a proposal: what speaks against it, or what would have to give for it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from extendum.core.fit.explain import names
from extendum.core.model.errors import RefusedError
from extendum.core.moves.objections import objections
from extendum.core.propose.candidates import EFFORT_MOST
from extendum.core.propose.made import Proposal
from extendum.core.propose.propose import NothingMeetsError, NotInTimeError, Proposer


@dataclass(frozen=True, slots=True)
class Answer:
    """Why not: in sentences, and the best class with the move in it, where there is one."""

    told: tuple[str, ...]
    proposal: Proposal | None = None


def why_not(
    proposer: Proposer,
    key: str,
    than: Proposal,
    seconds: float,
    tell: Callable[[int, int], bool] = lambda score, bound: True,
) -> Answer:
    """What a class with a move is like beside one without it; RefusedError for a move that is not in the library."""
    move = next((one.move for one in proposer.library if one.move.key == key), None)
    if move is None:
        raise RefusedError("move", "a move of the library", key)
    if against := objections(move, proposer.task.script.brief):
        return Answer((f"The brief speaks against {move.name}: {'; '.join(against)}.",))
    if move.effort > EFFORT_MOST:
        return Answer(
            (
                f"{move.name} has an effort of {move.effort}. A proposal goes up to {EFFORT_MOST}, as harder moves "
                "want steps that lead up to them. Put it into the class yourself, and fill the rest around it.",
            )
        )
    before = {one.key for one in proposer.task.candidates}
    proposer.ask_for(key)
    if key not in {one.key for one in proposer.task.candidates}:
        why = (
            "its words would leave a finding for this group" if key in before else "its dose has no room in this class"
        )
        return Answer((f"{move.name} is left out because {why}. Put it in yourself to see what the checks say.",))
    try:
        made = proposer.best(seconds, tell=tell)
    except NothingMeetsError as error:
        return Answer((f"No class has {move.name} and all of this: {'; '.join(error.wishes)}.",))
    except NotInTimeError:
        return Answer((f"No class with {move.name} was found in this time. That does not mean that there is none.",))
    return Answer(_beside(move.name, than, made), made)


def _beside(name: str, than: Proposal, made: Proposal) -> tuple[str, ...]:
    """What changes with a move, in sentences."""
    has = {item.move.key: item.name for item in than.script.moves()}
    gets = {item.move.key: item.name for item in made.script.moves()}
    out = [has[key] for key in has if key not in gets]
    more = [gets[key] for key in gets if key not in has and gets[key] != name]
    told = [f"With {name} the best class that was found is worth {made.planned} points instead of {than.planned}."]
    if out:
        told.append(f"It goes without {names(out)}.")
    if more:
        told.append(f"{names(more)} {'comes' if len(more) == 1 else 'come'} in, too.")
    if not out and not more:
        told.append("The other moves stay; their doses give it its time.")
    return tuple(told)
