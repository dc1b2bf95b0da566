"""Adding while composing: what is found for what is typed, what could come next, and a changed move's newer form."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove, StartingSet
from extendum.core.model.script import Script
from extendum.core.moves.find import Query, find
from extendum.core.moves.newer import differences
from extendum.core.moves.objections import concerns, objections
from extendum.core.moves.suggest import place_after, sets_to_begin, suggest
from extendum.formats.library import starting_sets
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.library.figures import figure_address
from extendum.web.library.store import Library, library_of
from extendum.web.shared.asked import Asked

MOST_SHOWN, MOST_SUGGESTED, MOST_SETS = 12, 5, 3


@dataclass(frozen=True, slots=True)
class Found:
    """A move to choose: why, whom it has to be adapted for, and what in the brief speaks against it."""

    entry: LibraryMove
    reasons: tuple[str, ...] = ()
    adapt: tuple[str, ...] = ()
    against: tuple[str, ...] = ()

    @property
    def figure(self) -> str:
        """Where its picture is; empty where it has none."""
        return figure_address(self.entry.move)


@require_safe
def found(request: Asked, pk: int) -> HttpResponse:
    """Moves for what was typed in ?q=; for nothing typed what could come next after ?item=, and sets to begin with."""
    of = own_class(request, pk)
    script, library = store.script_of(of.present), library_of(request.user)
    asked, after = request.GET.get("q", "").strip()[:80], request.GET.get("item") or None
    place = place_after(script, after)
    if asked:
        every = [_judged(entry, script) for entry in find(library, Query(asked), place.stance.posture)]
        every.sort(key=lambda one: bool(one.against))
        shown, sets = every[:MOST_SHOWN], _sets_named(asked, library)
    else:
        every = [
            Found(one.entry, one.reasons, tuple(c.condition for c in one.cautions))
            for one in suggest(script, library, after, MOST_SUGGESTED)
        ]
        shown, sets = every, list(sets_to_begin(script, library, starting_sets(), after))
    context = {"found": shown, "sets": sets[:MOST_SETS], "more": len(every) - len(shown), "asked": asked}
    context |= {"class": of, "after": after or ""}
    return render(request, "library/_found.html", context)


def _judged(entry: LibraryMove, script: Script) -> Found:
    adapt = tuple(one.condition for one in concerns(entry.move, script.brief))
    return Found(entry, (), adapt, objections(entry.move, script.brief))


def _sets_named(asked: str, library: Library) -> list[StartingSet]:
    words = asked.casefold().split()
    return [
        one
        for one in starting_sets()
        if all(word in f"{one.name} {one.about} set".casefold() for word in words) and _whole(one, library)
    ]


def _whole(one: StartingSet, library: Library) -> bool:
    return all(key in library.moves for key in one.moves)


@require_safe
def newer(request: Asked, pk: int) -> HttpResponse:
    """What differs between a class's copy of a move and the library's form, each part to be chosen."""
    of = own_class(request, pk)
    script, library = store.script_of(of.present), library_of(request.user)
    item = next((one for one in script.items() if one.id == request.GET.get("item")), None)
    if not isinstance(item, MoveItem) or item.move.key not in library.moves:
        raise Http404
    entry = library.get(item.move.key)
    context = {"class": of, "item": item, "differences": differences(item, entry, script.style.holds)}
    return render(request, "classes/_newer.html", context)
