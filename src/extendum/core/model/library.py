"""Moves as a library keeps them, and how a class takes one up."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.model.audience import check_texts
from extendum.core.model.dose import Dose, Hold
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.item import Stage
from extendum.core.model.move import Move
from extendum.core.model.section import Role
from extendum.core.model.style import Facing, HoldConvention
from extendum.core.model.words import Words


@dataclass(frozen=True, slots=True)
class ConventionHold(Checked):
    """How long a hold of this move usually is under one convention, and how often it is repeated."""

    convention: HoldConvention
    seconds: Elastic
    sets: int = whole(1, 20, 1)
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class LibraryMove(Checked):
    """A move with its usual dose and words: what a class starts from when it takes the move up.

    ``aliases``: what people also call it, to find it by; a class does not take them up. ``sources``: where its dose
    comes from, by key or in words. ``no_objection``: conditions that were considered and that the field has no usual
    objection for; it clears nobody.
    """

    move: Move
    dose: Dose
    words: Words = Words()
    then: tuple[Stage, ...] = ()
    sets: int = whole(1, 20, 1)
    rest_s: int = whole(0, 600, 0, "between sets")
    facing: Facing = Facing.TOWARDS
    holds: tuple[ConventionHold, ...] = ()
    aliases: tuple[str, ...] = ()
    sources: tuple[str, ...] = ()
    no_objection: tuple[str, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if any(not 1 <= len(one) <= 80 for one in self.aliases):
            raise RefusedError("aliases", "names of 1 to 80 characters", max(self.aliases, key=len)[:100])
        check_texts("sources", self.sources)
        check_texts("no_objection", self.no_objection)
        if both := {one.condition for one in self.move.cautions} & set(self.no_objection):
            raise RefusedError("no_objection", "conditions that the move has no caution for", ", ".join(sorted(both)))
        named = [one.convention for one in self.holds]
        if len(set(named)) < len(named) or HoldConvention.OWN in named:
            raise RefusedError("holds", "one for each convention at most", ", ".join(named))


@dataclass(frozen=True, slots=True)
class StartingSet(Checked):
    """A few moves that go together, with which a section can be begun."""

    key: str = text(80, shortest=1)
    name: str = text(120, shortest=1)
    about: str = text(300, "")
    role: Role = Role.MAIN
    moves: tuple[str, ...] = ()
    extra: Extra = extra()


def dose_for(entry: LibraryMove, holds: HoldConvention) -> tuple[Dose, int]:
    """The usual dose of a move under a hold convention, and how many sets of it."""
    for one in entry.holds:
        if one.convention is holds and isinstance(entry.dose, Hold):
            return replace(entry.dose, seconds=one.seconds), one.sets
    return entry.dose, entry.sets
