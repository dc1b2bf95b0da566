"""Finding moves: by words typed, and by what they are for, need and ask of people.

Every word typed has to begin a word of the move: of its name, of what it is also called, of its areas, posture, kind
or props; in any order, in singular or plural, as a number or a word. A text that says what a move should do, to which
area and where (`wish_in`) finds what does that, too. Only where nothing is found that way, words that are nearly those
typed count too, so that a slip of a finger finds what was meant and adds nothing to what is found.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache

from rapidfuzz.distance import OSA

from extendum.core.model.audience import Condition
from extendum.core.model.body import FLOOR, Posture, Region, Stance, body_seconds
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Effect, Kind, Move
from extendum.core.moves.called import ALSO, POSTURE_ALSO, words_in
from extendum.core.moves.wish import wish_in


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


#: So many slips of a finger are forgiven in a word of at least so many letters.
_SLIPS = ((8, 2), (4, 1))


@cache
def searchable(move: Move) -> frozenset[str]:
    """Every word that a move itself is found by, as `words_in` gives them."""
    regions = " ".join(f"{target.region} {ALSO.get(target.region, '')} {target.effect}" for target in move.targets)
    floor = "floor mat" if move.posture in FLOOR else ""
    props = " ".join(prop.name for prop in move.props)
    weight = " ".join(f"weight {part}" for part in move.weight_on)
    about = f"{move.posture} {POSTURE_ALSO.get(move.posture, '')} {floor} {move.kind} {regions} {props} {weight}"
    return frozenset(words_in(f"{move.name} {about}"))


@dataclass(frozen=True, slots=True)
class Findable:
    """The words that an entry of the library is found by: of each of its names, its own first, and all of them."""

    names: tuple[tuple[str, ...], ...]
    every: frozenset[str]


@cache
def findable(entry: LibraryMove) -> Findable:
    """The words that an entry of the library is found by."""
    names = tuple(tuple(words_in(name)) for name in (entry.move.name, *entry.aliases))
    return Findable(names, searchable(entry.move).union(*names))


def _begun(words: Iterable[str], typed: str) -> bool:
    return any(word.startswith(typed) for word in words)


def _nearly(typed: str, vocabulary: Iterable[str]) -> frozenset[str]:
    """The words that somebody may have meant: the whole word or its beginning differs by a slip or two."""
    slips = next((most for letters, most in _SLIPS if len(typed) >= letters), 0)
    if not slips:
        return frozenset()
    near = {}
    for word in vocabulary:
        heads = {word, *(word[: len(typed) + more] for more in range(-slips, slips + 1))}
        near[word] = min(OSA.distance(typed, head, score_cutoff=slips) for head in heads if head)
    least = min(near.values(), default=slips + 1)
    return frozenset(word for word, apart in near.items() if apart == least <= slips)


def holds_words(move: Move, words: str) -> bool:
    """Whether every word asked for begins a word that a move is found by."""
    return all(_begun(searchable(move), typed) for typed in words_in(words))


def matches(entry: LibraryMove, query: Query) -> bool:
    """Whether a move is among what is looked for, apart from the words that were typed.

    An effect together with an area is the effect on that area.
    """
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
    )


def find(library: Iterable[LibraryMove], query: Query, near: Posture | None = None) -> list[LibraryMove]:
    """What is looked for: mainly for the area first, then by how its names hold the words, then what is near."""
    among = [entry for entry in library if matches(entry, query)]
    # Each word typed, as the words that it may stand for.
    typed = [frozenset({word}) for word in words_in(query.words)]
    props = frozenset(prop.name for entry in among for prop in entry.move.props)
    wish = wish_in(query.words, props) if query.words else None
    wished = {id(entry): met for entry in among if wish and (met := wish.met(entry.move))}
    held = _holding(among, typed)
    if wished:
        there = {id(entry) for entry in held}
        held += [entry for entry in among if id(entry) in wished and id(entry) not in there]
    if not held:
        vocabulary = {word for entry in among for word in findable(entry).every}
        known = [one if _begun(vocabulary, min(one)) else _nearly(min(one), vocabulary) for one in typed]
        typed, held = known, _holding(among, known)
    found: list[tuple[bool, tuple[int, int, bool], int, int, LibraryMove]] = []
    for entry in held:
        main = query.area is None or query.area in entry.move.main_regions
        far = body_seconds(Stance(near), Stance(entry.move.posture)) if near else 0
        named, other = _distance(findable(entry), typed)
        # What is named so comes first, then what is wished for; the words somewhere else come last.
        rank = (named, 0, other) if named < _IN_NAME or not wish else (_IN_NAME, -wished.get(id(entry), 0), other)
        found.append((not main, rank, far, len(found), entry))
    return [entry for *_, entry in sorted(found, key=lambda one: one[:4])]


def _holding(among: Iterable[LibraryMove], typed: Sequence[frozenset[str]]) -> list[LibraryMove]:
    return [entry for entry in among if all(_any_begun(findable(entry).every, one) for one in typed)]


def _any_begun(words: Iterable[str], meant: frozenset[str]) -> bool:
    return any(word.startswith(tuple(meant)) for word in words) if meant else False


def _distance(of: Findable, typed: Sequence[frozenset[str]]) -> tuple[int, bool]:
    """How far the nearest name is from what was typed, and whether it is not the move's own.

    A name begins with it, holds it, holds every word, begins with the first; or it is found by something else.
    """
    return min((_far(name, typed), n > 0) for n, name in enumerate(of.names))


#: From this distance on a name does not hold every word that was typed.
_IN_NAME = 3


def _far(name: Sequence[str], typed: Sequence[frozenset[str]]) -> int:
    places = range(len(name) - len(typed) + 1)
    runs = [at for at in places if all(_any_begun([name[at + n]], one) for n, one in enumerate(typed))]
    if runs:
        return 0 if runs[0] == 0 else 1
    if all(_any_begun(name, one) for one in typed):
        return 2
    return 3 if name and typed and _any_begun(name[:1], typed[0]) else 4
