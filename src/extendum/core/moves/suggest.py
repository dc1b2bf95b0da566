"""What could come next at a place in a class, ranked, with reasons in words.

A suggestion keeps to the brief; it is an aid to memory, not advice for anybody's body. The points are few and
stand in one table, so that each rank can be explained by its reasons.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.audience import WhatNext
from extendum.core.model.body import Posture, Region, Stance, body_seconds
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove, StartingSet
from extendum.core.model.move import Caution, Effect, Kind, Move
from extendum.core.model.script import Script
from extendum.core.model.section import Role, Section
from extendum.core.moves.objections import concerns, objections

#: Points for and against; seconds of getting there count POSTURE_S each.
AREA_MISSING, AREA_ALSO, AREA_ELSEWHERE, AREA_NEW, AREA_AGAIN = 100, 20, -30, 25, -20
SAME_POSTURE, POSTURE_S = 30, -3
PROP_IN_HAND, PROP_NEW = 8, -10
KIND_FITS, KIND_MISFITS = 35, -35
EFFORT_FITS, EFFORT_JUMPS = 8, -12
TO_ADAPT = -12
MOVING = (Kind.DYNAMIC, Kind.MOBILITY, Kind.PULSE_RAISER)
_FITTING = {
    Role.OPENING: ((Kind.BREATH,), (Kind.STATIC, Kind.STRENGTH, Kind.PULSE_RAISER, Kind.PRESSING)),
    Role.WARM_UP: (MOVING, (Kind.STATIC, Kind.BREATH, Kind.PRESSING)),
    Role.MAIN: ((Kind.STATIC,), (Kind.BREATH,)),
    Role.TEACHING: ((), ()),
    Role.CLOSING: ((Kind.BREATH,), (Kind.STRENGTH, Kind.PULSE_RAISER, Kind.DYNAMIC)),
}
_FITS_WORDS = {
    Role.OPENING: "quiet, to arrive",
    Role.WARM_UP: "moves before it holds",
    Role.MAIN: "",
    Role.TEACHING: "",
    Role.CLOSING: "settles at the end",
}


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A move that could come next: its points, why, and whom it has to be adapted for."""

    entry: LibraryMove
    points: int
    reasons: tuple[str, ...]
    cautions: tuple[Caution, ...] = ()


@dataclass(frozen=True, slots=True)
class Place:
    """Where the next move would stand; it begins a section that has no move yet."""

    role: Role
    stance: Stance
    before: Move | None
    done: frozenset[Region]
    missing: tuple[Region, ...]
    used: frozenset[str]
    warm: bool
    begins: bool


def place_after(script: Script, after: str | None = None) -> Place:
    """The place after an item (or the first item of a section, by its group's id); otherwise where a new move goes."""
    section, before = _where(script, after)
    moves = [item for item in before if isinstance(item, MoveItem) and item.present]
    last = moves[-1].move if moves else None
    stance = Stance(last.ends_in if last else script.start_posture)
    done = frozenset(region for item in script.moves() for region in item.move.main_regions)
    missing = tuple(region for region in script.brief.areas if region not in done)
    used = frozenset(item.move.key for item in script.moves())
    warm = any(item.move.kind in MOVING for item in moves)
    begins = section is None or not any(isinstance(item, MoveItem) for item in section.items)
    return Place(section.role if section else Role.MAIN, stance, last, done, missing, used, warm, begins)


def _where(script: Script, after: str | None) -> tuple[Section | None, list[object]]:
    before: list[object] = []
    for section in script.sections:
        for group in section.groups:
            if group.id == after and not group.items:
                return section, before
            for item in group.items:
                before.append(item)
                if item.id == after:
                    return section, before
            if group.id == after:
                return section, before
    open_sections = [section for section in script.sections if section.role is not Role.CLOSING]
    if not open_sections:
        return None, []
    inside = open_sections[-1]
    ids = {item.id for section in open_sections for item in section.items}
    return inside, [item for item in script.items() if item.id in ids]


def missing_areas(script: Script) -> tuple[Region, ...]:
    """The areas of the brief that no move of the class is for yet."""
    return place_after(script).missing


def suggest(
    script: Script, library: Iterable[LibraryMove], after: str | None = None, most: int = 5
) -> tuple[Suggestion, ...]:
    """Moves that could come next, the best first; none that the class has or that the brief speaks against."""
    place = place_after(script, after)
    found = [_judge(entry, place, script) for entry in library if entry.move.key not in place.used]
    ranked = sorted((one for one in found if one), key=lambda one: -one.points)
    chosen: list[Suggestion] = []
    # Five times the same area is one suggestion: what is chosen makes its like less welcome.
    while ranked and len(chosen) < most:
        best = max(ranked, key=lambda one: one.points - 20 * _alike(one, chosen))
        chosen.append(best)
        ranked.remove(best)
    return tuple(chosen)


def sets_to_begin(
    script: Script, library: Iterable[LibraryMove], sets: Iterable[StartingSet], after: str | None = None
) -> tuple[StartingSet, ...]:
    """Sets with which a section without moves can be begun; all of each set is new to the class and keeps to the brief.

    Those of the section's role come first (a class begins with a warm-up), then those that start in the posture
    people are in, then those that reach more of what is missing. Empty where the section has moves already.
    """
    place = place_after(script, after)
    if not place.begins:
        return ()
    role = Role.WARM_UP if place.before is None and place.role is Role.MAIN else place.role
    fit = {e.move.key: e.move for e in library if e.move.key not in place.used and not objections(e.move, script.brief)}

    def rank(one: StartingSet) -> tuple[bool, bool, int]:
        reaches = {region for key in one.moves for region in fit[key].main_regions}
        elsewhere = fit[one.moves[0]].posture is not place.stance.posture
        return one.role is not role, elsewhere, -len(reaches & set(place.missing))

    return tuple(sorted((one for one in sets if one.moves and fit.keys() >= set(one.moves)), key=rank))


def stand_ins(move: Move, script: Script, library: Iterable[LibraryMove], most: int = 2) -> tuple[LibraryMove, ...]:
    """What could replace a move and keeps to the brief: what its cautions and options name first, then its like."""
    has = {one.casefold() for one in script.brief.conditions}
    meant = {one.instead for one in move.cautions if one.leave_out and one.condition.casefold() in has}
    named = {option.move for option in move.options}
    used = {item.move.key for item in script.moves()}
    wanted = set(move.main_regions)
    fit = [
        entry
        for entry in library
        if entry.move.key not in used
        and (entry.move.key in meant or wanted & set(entry.move.main_regions))
        and not objections(entry.move, script.brief)
    ]

    def distance(entry: LibraryMove) -> tuple[bool, bool, bool, int, int]:
        other = entry.move
        shared = len(wanted & set(other.main_regions))
        return (
            other.key not in meant,
            other.key not in named,
            other.kind is not move.kind,
            -shared,
            abs(other.effort - move.effort),
        )

    return tuple(sorted(fit, key=distance)[:most])


def _alike(one: Suggestion, chosen: Sequence[Suggestion]) -> int:
    own = set(one.entry.move.main_regions)
    return sum(bool(own & set(other.entry.move.main_regions)) for other in chosen)


def _judge(entry: LibraryMove, place: Place, script: Script) -> Suggestion | None:
    move, brief = entry.move, script.brief
    if objections(move, brief):
        return None
    told: list[tuple[int, str]] = []
    told += _areas(move, place)
    told += _getting_there(move, place, script.style.pace_percent)
    told += _props(move, place)
    told += _kind(move, place, brief.before)
    told += _effort(move, place)
    cautions = concerns(move, brief)
    points = sum(value for value, _ in told) + TO_ADAPT * len(cautions)
    reasons = [words for value, words in sorted(told, key=lambda one: -abs(one[0])) if words]
    return Suggestion(entry, points, tuple(reasons[:4]), cautions)


def _areas(move: Move, place: Place) -> Iterable[tuple[int, str]]:
    missing = [region for region in move.main_regions if region in place.missing]
    also = [t.region for t in move.targets if not t.main and t.region in place.missing]
    if missing:
        yield AREA_MISSING, f"{' and '.join(missing)} still missing"
    elif also:
        yield AREA_ALSO, f"also reaches {also[0]}"
    elif place.missing:
        yield AREA_ELSEWHERE, ""
    elif not place.done & set(move.main_regions):
        yield AREA_NEW, f"{move.main_regions[0]} not worked yet" if move.main_regions else ""
    if place.before and set(move.main_regions) & set(place.before.main_regions):
        yield AREA_AGAIN, ""


_IN = {
    Posture.ONE_LEG: "on one leg",
    Posture.LUNGE: "in a lunge",
    Posture.DEEP_SQUAT: "in a deep squat",
    Posture.FORWARD_FOLD: "folded forward",
    Posture.PLANK: "in a plank",
    Posture.CHAIR_EDGE: "at the chair's edge",
    Posture.STRADDLE: "in a straddle",
    Posture.ALL_FOURS: "on all fours",
}


#: How people get into a posture, after "to get".
_INTO = {
    Posture.STANDING: "to standing",
    Posture.ONE_LEG: "onto one leg",
    Posture.LUNGE: "into a lunge",
    Posture.DEEP_SQUAT: "into a deep squat",
    Posture.FORWARD_FOLD: "into a forward fold",
    Posture.PLANK: "into a plank",
    Posture.CHAIR: "onto a chair",
    Posture.CHAIR_EDGE: "to the chair's edge",
    Posture.LONG_SITTING: "to sitting with long legs",
    Posture.STRADDLE: "into a straddle",
    Posture.CROSS_LEGGED: "to sitting cross-legged",
    Posture.HEELS: "to sitting on the heels",
    Posture.KNEELING: "to kneeling",
    Posture.HALF_KNEELING: "to half-kneeling",
    Posture.ALL_FOURS: "onto all fours",
    Posture.SUPINE: "onto the back",
    Posture.PRONE: "onto the front",
    Posture.SIDE_LYING: "onto one side",
}


def _in(posture: Posture) -> str:
    return _IN.get(posture, str(posture))


def _getting_there(move: Move, place: Place, pace_percent: int) -> Iterable[tuple[int, str]]:
    if move.posture is place.stance.posture:
        yield SAME_POSTURE, f"{'stays' if place.before else 'starts'} {_in(move.posture)}"
    else:
        seconds = -(-body_seconds(place.stance, replace(place.stance, posture=move.posture)) * pace_percent // 100)
        yield POSTURE_S * seconds, f"{seconds} s to get {_INTO[move.posture]}"


def _props(move: Move, place: Place) -> Iterable[tuple[int, str]]:
    in_hand = {prop.name for prop in place.before.props} if place.before else set()
    needs = [prop for prop in move.props if prop.required]
    if again := [prop.name for prop in needs if prop.name in in_hand and prop.pick_up_s]:
        yield PROP_IN_HAND, f"the {again[0]} is already in hand"
    for prop in needs:
        if prop.name not in in_hand and prop.pick_up_s:
            yield PROP_NEW, f"needs a {prop.name}"


def _kind(move: Move, place: Place, before: WhatNext) -> Iterable[tuple[int, str]]:
    fits, misfits = _FITTING[place.role]
    settles = any(target.effect is Effect.SETTLE for target in move.targets)
    if place.role is Role.MAIN and before is WhatNext.STRENGTH:
        fits, misfits = MOVING, (Kind.STATIC, Kind.BREATH)
    if move.kind in fits or (place.role is Role.CLOSING and settles):
        words = _FITS_WORDS[place.role]
        if place.role is Role.MAIN and before is WhatNext.STRENGTH:
            words = "movement, before strength or speed"
        yield KIND_FITS, words
    elif move.kind in misfits:
        yield KIND_MISFITS, ""
    if place.role is Role.MAIN and not place.warm and before is not WhatNext.STRENGTH and move.kind in MOVING:
        yield KIND_FITS + EFFORT_FITS, "warms people before holds"


def _effort(move: Move, place: Place) -> Iterable[tuple[int, str]]:
    was = place.before.effort if place.before else 1
    rise = move.effort - was
    if place.role is Role.CLOSING:
        yield (
            (EFFORT_FITS, "no harder than the last")
            if rise <= 0 and place.before
            else (EFFORT_JUMPS * max(rise, 0), "")
        )
    elif place.role is Role.WARM_UP and rise in (0, 1):
        yield EFFORT_FITS, "a little more effort than the last" if rise else ""
    elif abs(rise) > 1:
        yield EFFORT_JUMPS * (abs(rise) - 1), ""
