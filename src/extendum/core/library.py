"""Moves as a library keeps them, and how a class takes one up."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.compile import compile_script
from extendum.core.dose import Dose, Elastic, Hold
from extendum.core.errors import RefusedError
from extendum.core.fields import Checked, Extra, extra, text, whole
from extendum.core.item import MoveItem, Stage
from extendum.core.move import Move
from extendum.core.script import Group, Role, Script, Section
from extendum.core.style import CueStyle, Facing, HoldConvention
from extendum.core.words import Words
from extendum.core.working import FIRST_PASS_ONLY


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

    ``aliases``: what people also call it, to find it by; a class does not take them up.
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
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if any(not 1 <= len(one) <= 80 for one in self.aliases):
            raise RefusedError("aliases", "names of 1 to 80 characters", max(self.aliases, key=len)[:100])
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


def take_up(entry: LibraryMove, item_id: str, style: CueStyle, taken: str = "") -> MoveItem:
    """An item made of a move: the dose of the class's convention, and the prompts that such a dose has room for.

    Cautions and the easier option are always taken; of the others, those that its first pass can say at the
    class's rate. ``taken`` marks which form of the move this is.
    """
    dose, sets = dose_for(entry, style.holds)
    item = MoveItem(
        item_id,
        entry.move,
        dose,
        entry.words,
        then=entry.then,
        sets=sets,
        rest_s=entry.rest_s,
        facing=entry.facing,
        taken=taken,
    )
    alone = Script(entry.move.name, style=style, sections=(Section("s", groups=(Group("g", items=(item,)),)),))
    unsaid = {one.id for one in compile_script(alone).unsaid if one.id.startswith(f"{item_id}.1.1.1.")}
    prompts = tuple(
        prompt
        for index, prompt in enumerate(entry.words.prompts)
        if prompt.kind in FIRST_PASS_ONLY or f"{item_id}.1.1.1.{prompt.kind}.{index}" not in unsaid
    )
    return replace(item, words=replace(entry.words, prompts=prompts))
