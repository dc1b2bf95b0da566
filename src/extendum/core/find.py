"""Finding moves: by words typed, and by what they are for, need and ask of people."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cache

from extendum.core.audience import Condition
from extendum.core.body import FLOOR, Posture, Region, Stance, body_seconds
from extendum.core.library import LibraryMove
from extendum.core.move import Effect, Kind, Move

#: What people also call it.
ALSO = {
    Region.BACK_THIGH: "hamstring hamstrings",
    Region.FRONT_THIGH: "quads quadriceps thighs",
    Region.DEEP_HIP: "glutes seat buttock hips",
    Region.HIP_SIDE: "outer hip hips",
    Region.HIP_FRONT: "hip flexor flexors hips",
    Region.INNER_THIGH: "groin adductors thighs",
    Region.SPINE: "back",
    Region.SIDE_BODY: "waist ribs",
    Region.UPPER_ARM: "arms triceps biceps",
    Region.FOREARM: "arms",
    Region.HAND: "fingers thumb",
    Region.FOOT: "feet toes",
    Region.SHOULDERS: "shoulder",
    Region.CALF: "calves",
    Region.WRIST: "wrists",
}
_SEATED, _LYING = "seated sitting chair", "lying"
POSTURE_ALSO = {
    Posture.CHAIR: _SEATED,
    Posture.CHAIR_EDGE: _SEATED,
    Posture.SUPINE: f"{_LYING} back",
    Posture.PRONE: f"{_LYING} front",
    Posture.SIDE_LYING: _LYING,
    Posture.ALL_FOURS: "hands and knees kneeling",
    Posture.HEELS: "kneeling",
    Posture.HALF_KNEELING: "kneeling",
}


@dataclass(frozen=True, slots=True)
class Query:
    """What is looked for; what is empty does not matter.

    ``prop`` is a prop's name, or ``none`` for moves that need none; ``suits`` leaves out the moves that people
    with a condition leave out; ``keys`` are the only moves to look among (those used in a class).
    """

    words: str = ""
    area: Region | None = None
    effect: Effect | None = None
    posture: Posture | None = None
    kind: Kind | None = None
    prop: str = ""
    suits: Condition | None = None
    keys: frozenset[str] | None = None


@cache
def searchable(move: Move) -> str:
    """Every word that a move is found by, in small letters."""
    regions = " ".join(f"{target.region} {ALSO.get(target.region, '')} {target.effect}" for target in move.targets)
    floor = "floor mat" if move.posture in FLOOR else ""
    props = " ".join(prop.name for prop in move.props)
    posture = f"{move.posture} {POSTURE_ALSO.get(move.posture, '')} {floor}"
    weight = " ".join(f"weight on {part}" for part in move.weight_on)
    return f" {move.name} {posture} {move.kind} {regions} {props} {weight}".casefold()


def holds_words(text: str, words: str) -> bool:
    """Whether every word asked for begins a word of a text (both in small letters)."""
    return all(f" {word}" in text for word in words.casefold().split())


def matches(entry: LibraryMove, query: Query) -> bool:
    """Whether a move is among what is looked for; an effect together with an area is the effect on that area."""
    move = entry.move
    targets = [t for t in move.targets if query.area in (None, t.region) and query.effect in (None, t.effect)]
    needs = {prop.name for prop in move.props if prop.required}
    return (
        (query.keys is None or move.key in query.keys)
        and (bool(targets) or (query.area is None and query.effect is None))
        and query.posture in (None, move.posture)
        and query.kind in (None, move.kind)
        and (not query.prop or (not needs if query.prop == "none" else query.prop in {p.name for p in move.props}))
        and not any(one.leave_out and one.condition == query.suits for one in move.cautions)
        and holds_words(searchable(move), query.words)
    )


def find(library: Iterable[LibraryMove], query: Query, near: Posture | None = None) -> list[LibraryMove]:
    """What is looked for: mainly for the area first, then by how its name holds the words, then what is near."""
    found: list[tuple[bool, int, int, int, LibraryMove]] = []
    for entry in library:
        if matches(entry, query):
            main = query.area is None or query.area in entry.move.main_regions
            far = body_seconds(Stance(near), Stance(entry.move.posture)) if near else 0
            found.append((not main, _distance(entry.move.name, query.words), far, len(found), entry))
    return [entry for *_, entry in sorted(found, key=lambda one: one[:4])]


def _distance(name: str, words: str) -> int:
    """How far a name is from what was typed: it begins with it, holds it, holds every word, begins with the first."""
    name, phrase = f" {name.casefold()}", " ".join(words.casefold().split())
    if name.startswith(f" {phrase}"):
        return 0
    if f" {phrase}" in name:
        return 1
    if holds_words(name, words):
        return 2
    return 3 if name.startswith(f" {phrase.split()[0]}") else 4
