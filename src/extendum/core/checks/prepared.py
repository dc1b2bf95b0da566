"""What a teacher prepared: moves of their own, and moves that are kept ready, held against the group."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import listed
from extendum.core.checks.subject import Subject
from extendum.core.edit.choice_edits import remove_instead
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Move
from extendum.core.moves.cautions import lacking
from extendum.core.moves.objections import Against, Objection, objections_to


@checked(
    Family.SAFETY,
    "caution-unconsidered",
    Severity.NOTE,
    "whether somebody has thought about cautions for moves of your own",
    "The library's moves come with their cautions. Only you know whom a move of your own does not suit: write it "
    "there, or keep this finding if it suits everybody.",
)
def caution_unconsidered(subject: Subject) -> Iterator[Found]:
    """A move of one's own has no caution at all."""
    bare = [item for item in subject.moves if not item.move.key and not item.move.cautions and not lacking(item.move)]
    if bare:
        yield Found(
            f"No caution has been considered for {listed(item.name for item in bare)}.",
            tuple(item.id for item in bare),
        )


@checked(
    Family.SAFETY,
    "instead-against",
    Severity.CONSIDER,
    "whether moves that are kept ready suit the group",
    "What is kept ready is done at once when it is chosen, with no time to look it up.",
)
def instead_against(subject: Subject) -> Iterator[Found]:
    """A move that is kept ready, or one of another route, is one that somebody in the group leaves out."""
    for item in subject.moves:
        for nth, ready in enumerate(item.instead):
            if told := _why_not(subject, ready.move):
                yield Found(
                    f"{ready.name}, kept ready for {item.name}: {told}",
                    (item.id,),
                    mend=Mend("No longer keep it ready", partial(remove_instead, item_id=item.id, nth=nth)),
                )
                break
    for group in (group for section in subject.script.sections for group in section.groups if group.items):
        for route in group.routes:
            moves = [one.move for one in route.items if isinstance(one, MoveItem) and _why_not(subject, one.move)]
            if moves:
                first = _why_not(subject, moves[0])
                yield Found(
                    f"{listed(one.name for one in moves)}, in the route {route.name}: {first}", (group.items[0].id,)
                )


def _why_not(subject: Subject, move: Move) -> str:
    """Why a move does not suit the group, in a sentence; empty where nothing in the brief speaks against it."""
    told = [one for one in objections_to(move, subject.brief) if one.against in (Against.CONDITION, Against.AVOIDED)]
    return _sentence(told[0]) if told else ""


def _sentence(one: Objection) -> str:
    if one.against is Against.AVOIDED:
        return f"{one.what}."
    return f"it is usually left out with {one.what}. {one.advice}"


CHECKS: tuple[Check, ...] = (caution_unconsidered, instead_against)
