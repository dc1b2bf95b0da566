"""Other lengths of one class, a warm-up chosen from it, and keeping either as a class of its own."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.edit.script_edits import remove_item, set_group
from extendum.core.fit.counted import Wanted, main_regions
from extendum.core.fit.dose_options import UNIT
from extendum.core.fit.explain import changes_words, names
from extendum.core.fit.fit import Fit, Fitter
from extendum.core.fit.remedy import any_may_go
from extendum.core.model.body import Region
from extendum.core.model.brief import LONGEST_CLASS_S
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem, may_go
from extendum.core.model.move import Kind
from extendum.core.model.script import Script
from extendum.core.model.section import Role, SidePlan
from extendum.core.model.talk import Quiet
from extendum.core.model.timeline import clock
from extendum.core.timing.layout import length_of

#: A class is shown at multiples of one of these, in seconds: of the first that has at most so many inside its reach.
STEPS_S = (10, 30, 60, 120, 300, 600, 900, 1800, 3600)
MOST_LENGTHS = 6
#: A warm-up is chosen of so many moves.
WARM_UP = (4, 6)
#: Lengths so far beyond the one asked for are looked at, for the nearest that can be.
MARGIN_S = 300
#: How well a kind of move warms: moving through range before long holds.
_WARMS = {Kind.PULSE_RAISER: 3, Kind.DYNAMIC: 3, Kind.MOBILITY: 3, Kind.BREATH: 1, Kind.STRENGTH: 1}
#: Of a whole unit of cost, what each degree of it weighs: as a move of a minute shrunk to nothing.
_DEGREE = 60 * UNIT


@dataclass(frozen=True, slots=True)
class Version:
    """A class at another length: the fit, and the names of what it leaves out."""

    fit: Fit
    left_out: tuple[str, ...]


def fitter_of(script: Script, *, any_move: bool = False) -> Fitter:
    """What fits a class to other lengths; with ``any_move`` every move may be left out."""
    return Fitter(any_may_go(script) if any_move else script)


def versions(fitter: Fitter) -> list[Version]:
    """The class at round lengths inside its reach, ascending; none where it cannot be at all."""
    if not fitter.most_s:
        return []
    round_ones = next(some for step in STEPS_S if len(some := _multiples(step, fitter)) <= MOST_LENGTHS)
    found = (version_at(fitter, seconds) for seconds in round_ones)
    return [one for one in found if one.fit.reached]


def _multiples(step: int, fitter: Fitter) -> range:
    return range(-(-fitter.least_s // step) * step, min(fitter.most_s, LONGEST_CLASS_S) + 1, step)


def version_at(fitter: Fitter, seconds: int) -> Version:
    """One version."""
    result = fitter.fit(seconds)
    gone = tuple(item.name for item in result.script.items() if not item.present)
    return Version(result, gone if result.reached else ())


def regions_of(script: Script) -> list[Region]:
    """The regions that the class's moves are for, in the order of the body."""
    found = set[Region]().union(*(main_regions(item) for item in script.moves()))
    return [region for region in Region if region in found]


def warm_up(script: Script, seconds: int, regions: frozenset[Region]) -> Version:
    """The best four to six moves of a class for a warm-up of a length, which reach these regions as main targets.

    Best: moves that go through range rather than long holds, with doses nearest the wanted ones; the order
    stays that of the class. RefusedError when the class has too few moves, or none for a region.
    """
    moves = script.moves()
    least, most = WARM_UP
    if len(moves) < least:
        raise RefusedError("warm-up", f"chosen from at least {least} moves that are in the class", str(len(moves)))
    missing = [region.value for region in regions if region not in regions_of(script)]
    if missing:
        raise RefusedError("areas", "areas that moves of this class are for", names(sorted(missing)))
    only = _only_moves(script)
    costs = {item.id: max(0, _WARMS.get(item.move.kind, 0) - max(0, item.move.effort - 3)) * _DEGREE for item in moves}
    fitter = Fitter(only, None, may_go, Wanted(least, most, regions), costs, up_to_s=seconds + MARGIN_S)
    if fitter.graph.extremes is None:
        told = names(sorted(region.value for region in regions))
        raise RefusedError("areas", f"few enough for {most} moves to reach", told)
    result = fitter.fit(seconds)
    return Version(result, tuple(item.name for item in moves if not result.script.item(item.id).present))


def _only_moves(script: Script) -> Script:
    """The moves of a class, each of which may go, in one plain round of each group; and its quiet."""
    for item in list(script.items()):
        if not isinstance(item, Quiet) and not (isinstance(item, MoveItem) and item.present):
            script = remove_item(script, item.id)
    for group in (group for section in script.sections for group in section.groups):
        script = set_group(script, group.id, rounds=1, side_plan=SidePlan.EACH_MOVE)
    return any_may_go(script)


def as_own_class(script: Script, version: Version, what: str = "") -> Script:
    """A version as a separate class: what it leaves out is removed, and its notes say so."""
    result = version.fit
    made = result.script
    for item in script.items():
        if not any(one.id == item.id and one.present for one in made.items()):
            made = remove_item(made, item.id) if any(one.id == item.id for one in made.items()) else made
    sections = tuple(
        replace(section, groups=tuple(group for group in section.groups if group.items or len(section.groups) == 1))
        for section in made.sections
        if section.items or section.role is Role.CLOSING
    )
    told = [f"Made from “{script.title}” ({clock(length_of(script))})."]
    told += [f"Left out: {names(version.left_out)}."] if version.left_out else []
    doses = changes_words([one for one in result.changes if one.before is not None and one.after is not None])
    told += [f"{doses[0].upper()}{doses[1:]}."] if doses else []
    notes = "\n".join(filter(None, (script.brief.notes, " ".join(told))))[-4000:]
    title = f"{script.title[:170]}, {what or _length_words(result.target_s)}"
    return replace(made, title=title, sections=sections, brief=replace(made.brief, notes=notes))


def _length_words(seconds: int) -> str:
    minutes, rest = divmod(seconds, 60)
    return clock(seconds) if rest else f"{minutes} minute{'s' * (minutes != 1)}"
