"""Sections of a class that a proposal takes as they stand: those with rounds, chains, a lead side, routes or pins.

Their moves belong together in their order, so that a plan goes around the section as around one long move.
"""

from __future__ import annotations

from dataclasses import replace

from extendum.core.model.item import MoveItem
from extendum.core.model.keeping import Keep
from extendum.core.model.move import Kind
from extendum.core.model.script import Meanwhile, Script
from extendum.core.model.section import Group, Section


def stays_whole(section: Section, script: Script) -> bool:
    """Whether the order of its moves means something that a plan of single moves would lose."""
    if not moves_of(section):
        return False
    return bool(section.pins or _under(section, script)) or any(map(_arranged, section.groups))


def _arranged(group: Group) -> bool:
    """Whether a group is more than its items one after the other."""
    plain = Group(group.id, group.name, group.items)
    return bool(group.items) and replace(group, extra=plain.extra) != plain


def moves_of(section: Section) -> list[MoveItem]:
    """The moves of a section that are in."""
    return [item for item in section.items if isinstance(item, MoveItem) and item.present]


def as_one_move(section: Section) -> MoveItem:
    """A whole section as a plan sees it: from where it begins to where it ends, for all that it is for."""
    moves = moves_of(section)
    first, last = moves[0], moves[-1]
    targets = {(one.region, one.effect, one.main): one for item in moves for one in item.move.targets}
    static = any(item.move.kind is Kind.STATIC for item in moves)
    kind = Kind.STATIC if static else first.move.kind
    move = replace(first.move, end_posture=last.move.ends_in, targets=tuple(targets.values()), kind=kind, options=())
    return replace(first, move=move, keep=Keep.ALWAYS, sets=1)


def loose(script: Script) -> Script:
    """The class without the sections that stay whole."""
    return replace(script, sections=tuple(o for o in script.sections if not stays_whole(o, script)), meanwhiles=())


def whole(script: Script) -> Script:
    """The class of those alone."""
    return replace(script, sections=tuple(o for o in script.sections if stays_whole(o, script)), meanwhiles=())


def _under(section: Section, script: Script) -> tuple[Meanwhile, ...]:
    """What runs under some of its items."""
    own = {item.id for item in section.items}
    return tuple(one for one in script.meanwhiles if {one.from_item, one.to_item} <= own)


def meanwhiles(script: Script) -> tuple[Meanwhile, ...]:
    """What goes on under the sections that stay whole."""
    return tuple(one for section in script.sections if stays_whole(section, script) for one in _under(section, script))
