"""What a class could be made of: every move that keeps to the brief, with its seconds and what they do."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import IntEnum

from extendum.core.checks import warmth
from extendum.core.edit.take_up import take_up
from extendum.core.model.audience import WhatNext
from extendum.core.model.body import Base, Posture, Region, Side
from extendum.core.model.dose import Hold, Timed
from extendum.core.model.dose_values import allowed, conventional
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Effect, Kind, Option, OptionKind, Prop
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.timeline import SegmentKind
from extendum.core.moves.objections import concerns, objections
from extendum.core.moves.suggest import MOVING
from extendum.core.outputs.coverage import coverage
from extendum.core.propose.whole import as_one_move, moves_of, stays_whole
from extendum.core.timing.compile import compile_script

#: Before strength or speed nothing is held for longer than so many seconds a side.
HELD_MOST_S = 30
#: Seconds by which a plan changes holds and times; counted work changes by one.
GRID_S = 5
#: Harder moves want steps up to them and down again: whoever wants one puts it in, and the plan goes around it.
EFFORT_MOST = 3


class Part(IntEnum):
    """The parts of a class in their order."""

    ARRIVE = 0
    WARM = 1
    MAIN = 2
    SETTLE = 3


@dataclass(frozen=True, slots=True)
class Does:
    """Half seconds on one side that a move is mainly for an area with an effect: at its least dose, and a step more."""

    region: Region
    effect: Effect
    least: int
    step: int

    def at(self, steps: int) -> int:
        """Half seconds at a dose."""
        return self.least + self.step * steps


@dataclass(frozen=True, slots=True)
class Candidate:
    """A move that a class could have: where it may stand, its half seconds by dose, and what they do.

    ``fixed``: everything but a way from somewhere else, at the least dose; ``step``: what a step of the dose adds;
    ``values``: the dose at each step. ``moving``: half seconds in which it warms, at the least dose; ``told_s``: how
    long the words on the way to it take; ``given``: the class has it already; ``section``: it is a whole one.
    """

    key: str
    item: MoveItem
    parts: frozenset[Part]
    fixed: int
    step: int
    values: tuple[int, ...]
    usual: int
    does: tuple[Does, ...]
    moving: int
    told_s: int
    cautions: int
    relatives: frozenset[str]
    given: bool
    variants: frozenset[str]
    section: Section | None = None

    @property
    def most(self) -> int:
        """The step of the longest dose."""
        return len(self.values) - 1

    def halves(self, steps: int) -> int:
        """Half seconds of the class at a dose."""
        return self.fixed + self.step * steps

    @property
    def props(self) -> tuple[Prop, ...]:
        """What has to be handled for it."""
        return tuple(prop for prop in self.item.move.props if not prop.stands_in(self.item.move.posture))

    @property
    def place(self) -> tuple[Posture, Posture, frozenset[str]]:
        """Where bodies and hands are: moves that share it follow each other without a way."""
        return (self.item.move.posture, self.item.move.ends_in, frozenset(prop.name for prop in self.props))


def candidates(script: Script, library: Iterable[LibraryMove]) -> tuple[Candidate, ...]:
    """The moves that a class has, then every other move that keeps to its brief, in the order of the library."""
    found: list[Candidate] = []
    have = set[str]()
    for section in script.sections:
        if stays_whole(section, script):
            found.append(_whole(section, script))
            have |= {item.move.key for item in moves_of(section)}
            continue
        for item in moves_of(section):
            key = item.id if item.move.key in have else item.move.key or item.id
            found.append(_kept(item, section.role, script, key))
            have.add(key)
    for entry in library:
        if not entry.move.key or entry.move.key in have or objections(entry.move, script.brief):
            continue
        parts = _parts(entry, script) if entry.move.effort <= EFFORT_MOST else frozenset[Part]()
        for sets in _sets(entry, script) if parts else ():
            made = _measured(without_options(entry), script, parts, sets)
            if made:
                found.append(made)
    return tuple(found)


#: The part of a class that a section is.
PART_OF = {
    Role.OPENING: Part.ARRIVE,
    Role.WARM_UP: Part.WARM,
    Role.MAIN: Part.MAIN,
    Role.TEACHING: Part.MAIN,
    Role.CLOSING: Part.SETTLE,
}


def _whole(section: Section, script: Script) -> Candidate:
    """A section as it stands, in the part that it stands in, with the doses that it has now."""
    item, part = as_one_move(section), frozenset({PART_OF[section.role]})
    halves, does, told_s = _lengths((section,), item, script)
    key = f"section {section.id}"
    done = tuple(Does(region, effect, n, 0) for (region, effect), n in does.items())
    moving = max(does.values(), default=0) if any(one.move.kind in MOVING for one in moves_of(section)) else 0
    return Candidate(
        key, item, part, halves, 0, (0,), 0, done, moving, told_s, 0, frozenset(), True, frozenset({key}), section
    )


def _kept(item: MoveItem, role: Role, script: Script, key: str) -> Candidate:
    """A move that the class has, with its own words and doses, in the part that it stands in."""
    values: tuple[int, ...] = (item.quantity.value,)
    if not item.quantity.locked:
        values = _grid(item, script) or values
    return timed(item, script, frozenset({PART_OF[role]}), values, key)


def _sets(entry: LibraryMove, script: Script) -> tuple[int, ...]:
    """How often a move may be done: as it usually is, and a static stretch of a wanted area once more."""
    wanted = set(entry.move.main_regions) & set(script.brief.areas)
    again = wanted and entry.move.kind is Kind.STATIC and script.brief.before is not WhatNext.STRENGTH
    return (0, 1) if again else (0,)


def without_options(entry: LibraryMove) -> LibraryMove:
    """The move without the props that it can do without: they cost seconds."""
    props = tuple(prop for prop in entry.move.props if prop.required)
    return replace(entry, move=replace(entry.move, props=props))


def _parts(entry: LibraryMove, script: Script) -> frozenset[Part]:
    """The parts of a class in which a move may stand: movement warms, holds come after it, breath begins and ends."""
    move, before = entry.move, script.brief.before
    active, upright = before is WhatNext.STRENGTH, Base.of(entry.move.ends_in) in (Base.STANDING, Base.CHAIR)
    settles = any(target.effect is Effect.SETTLE for target in move.targets)
    if move.kind is Kind.BREATH:
        asked = Region.BREATH in script.brief.areas
        if active:
            return frozenset({Part.MAIN} if asked else ())
        ends = {Part.SETTLE} if upright or before is WhatNext.NOTHING else set()
        return frozenset({Part.ARRIVE, *ends} | ({Part.MAIN} if asked else set()))
    found = {Part.MAIN}
    if move.kind in MOVING:
        found.add(Part.WARM)
    if settles and move.effort == 1 and before is WhatNext.NOTHING:
        found.add(Part.SETTLE)
    return frozenset(found)


def _measured(entry: LibraryMove, script: Script, parts: frozenset[Part], more: int) -> Candidate | None:
    """A move as the compiler times it, at its least and its most; None where its dose has no room."""
    item = take_up(entry, f"p-{entry.move.key}"[:40], script.style)
    item = replace(item, sets=item.sets + more)
    values = _grid(item, script)
    return timed(item, script, parts, values, entry.move.key) if values else None


def timed(item: MoveItem, script: Script, parts: frozenset[Part], values: tuple[int, ...], key: str) -> Candidate:
    """A move with these doses as the compiler times it, at the least and the most."""
    move = item.move
    ends = [_lengths(_alone(dosed(item, value)), item, script) for value in dict.fromkeys((values[0], values[-1]))]
    (fixed, least, told_s), (long, most, _) = ends[0], ends[-1]
    gaps = max(1, len(values) - 1)
    moving = max(least.values(), default=0) if move.kind in warmth.MOVING else 0
    return Candidate(
        key,
        item,
        parts,
        fixed,
        (long - fixed) // gaps,
        values,
        min(range(len(values)), key=lambda n: abs(values[n] - item.quantity.wanted)),
        tuple(Does(region, effect, n, (most[region, effect] - n) // gaps) for (region, effect), n in least.items()),
        moving,
        told_s,
        len(concerns(move, script.brief)),
        frozenset(one.move for one in move.options if one.move),
        any(item is one for one in script.moves()),
        frozenset({key, *(one.move for one in move.options if _other_posture(one))}),
    )


def _other_posture(option: Option) -> bool:
    return bool(option.move) and option.kind in (OptionKind.OTHER_POSTURE, OptionKind.WITHOUT_PROP)


def dosed(item: MoveItem, value: int) -> MoveItem:
    """The move with this dose wanted."""
    return item.having(replace(item.quantity, wanted=value, now=value))


def _grid(item: MoveItem, script: Script) -> tuple[int, ...]:
    """The doses that a plan chooses from."""
    dose, style = item.dose, script.style
    values = conventional(allowed(dose, style.breath_ms, even=item.even(1)), dose, style, item.move.posture)
    if item.move.kind is Kind.STATIC and script.brief.before is WhatNext.STRENGTH:
        values = tuple(one for one in values if one * item.sets <= HELD_MOST_S)
    if isinstance(dose, Hold | Timed) and not (isinstance(dose, Hold) and dose.snap) and len(values) > 1:
        every = GRID_S if values[1] - values[0] == 1 else GRID_S - 1  # what goes in twos stays even
        values = tuple(one for one in values if (one - values[0]) % every == 0)
    return values


def _alone(item: MoveItem) -> tuple[Section, ...]:
    return (Section("s", groups=(Group("g", items=(item,)),)),)


def _lengths(
    sections: tuple[Section, ...], first: MoveItem, script: Script
) -> tuple[int, Mapping[tuple[Region, Effect], int], int]:
    """Half seconds where people are ready for the first move, what is mainly done on a side, and seconds of the way."""
    alone = replace(script, start_posture=first.move.posture, sections=sections, meanwhiles=(), kept=())
    timeline = compile_script(alone)
    sides = (Side.LEFT, Side.RIGHT)
    found = coverage(alone, timeline)
    does = {key: min(worked.halves.get((True, side), 0) for side in sides) for key, worked in found.items()}
    way_s = next((one.seconds for one in timeline.segments if one.kind is SegmentKind.TRANSITION), 0)
    return 2 * timeline.length_s, {key: halves for key, halves in does.items() if halves}, way_s
