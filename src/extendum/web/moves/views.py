"""The Moves: the library as a map of areas and postures, and a page for each move."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import TypeVar

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.utils.safestring import SafeString
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from extendum.core.edit.script_edits import insert_item, new_script, set_target
from extendum.core.edit.take_up import take_up
from extendum.core.model.audience import Condition
from extendum.core.model.body import Base, Posture, Region, Side
from extendum.core.model.item import dose_words
from extendum.core.model.library import LibraryMove
from extendum.core.model.limits import whole_number
from extendum.core.model.move import Effect, Kind, Move
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import CueKind, Mode, Timeline
from extendum.core.moves.find import Query, find
from extendum.core.moves.otherwise import offered
from extendum.core.timing.compile import compile_script
from extendum.draw.kinds import draw_kind
from extendum.draw.sheet import draw_sheet
from extendum.formats.sources import source_told
from extendum.web.classes.access import own_class
from extendum.web.classes.look import owners_look
from extendum.web.classes.models import MoveUse, StretchClass
from extendum.web.library import store
from extendum.web.library.figures import figure_address, live_figure
from extendum.web.library.look import areas, positions
from extendum.web.library.models import OwnMove
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

Choice = TypeVar("Choice", bound=StrEnum)


@dataclass(frozen=True, slots=True)
class Shown:
    """A move on the map, with the mark of its kind."""

    entry: LibraryMove
    mark: SafeString
    own: bool

    @property
    def figure(self) -> str:
        """Where its picture is; empty where it has none."""
        return figure_address(self.entry.move)


@dataclass(frozen=True, slots=True)
class Line:
    """A row of the map: an area, and the moves that are mainly for it, by column."""

    area: Region
    cells: list[list[Shown]]


_MARKS = {kind: drawn(draw_kind(kind)) for kind in Kind}


def map_of(found: Iterable[LibraryMove], own: frozenset[str] = frozenset()) -> list[Line]:
    """Moves by the first area that they are for, head to feet, and by posture."""
    lines = {region: Line(region, [[] for _ in Base]) for region in Region}
    for entry in found:
        move = entry.move
        shown = Shown(entry, _MARKS[move.kind], move.key in own)
        lines[move.main_regions[0]].cells[list(Base).index(Base.of(move.posture))].append(shown)
    return [line for line in lines.values() if any(line.cells)]


def _pick(kind: type[Choice], value: str) -> Choice | None:
    return next((one for one in kind if one.value == value), None)


def _query(request: Asked) -> Query:
    asked = request.GET
    keys = None
    if (used := whole_number(asked.get("used", ""))) is not None:
        of = own_class(request, used)
        keys = frozenset(MoveUse.objects.filter(of=of).values_list("key", flat=True))
    return Query(
        asked.get("q", "").strip()[:80],
        _pick(Region, asked.get("area", "")),
        _pick(Effect, asked.get("effect", "")),
        _pick(Posture, asked.get("posture", "")),
        _pick(Kind, asked.get("kind", "")),
        asked.get("prop", ""),
        _pick(Condition, asked.get("suits", "")),
        keys,
    )


@require_safe
@vary_on_headers("HX-Request")
def moves(request: Asked) -> HttpResponse:
    """All moves that match what is asked, as a map of areas and postures."""
    library, query = store.library_of(request.user), _query(request)
    found = find(library, query)
    props = sorted({prop.name for entry in library for prop in entry.move.props})
    asked = request.GET
    context = {
        "lines": map_of(found, library.own),
        "columns": list(Base),
        "found": len(found),
        "all": len(library.moves),
        "own": library.own,
        "asked": asked,
        "look_areas": areas(),
        "look_positions": positions(),
        "legend": [(kind.value, mark) for kind, mark in _MARKS.items()],
        "filters": [
            ("area", "Area", [(one.value, one.value == asked.get("area")) for one in Region]),
            ("effect", "Effect", [(one.value, one.value == asked.get("effect")) for one in Effect]),
            ("posture", "Posture", [(one.value, one.value == asked.get("posture")) for one in Posture]),
            ("kind", "Kind", [(one.value, one.value == asked.get("kind")) for one in Kind]),
            ("suits", "Not left out with", [(one.value, one.value == asked.get("suits")) for one in Condition]),
        ],
        "props": [(one, one == asked.get("prop")) for one in props],
        "no_prop": asked.get("prop") == "none",
        "classes": [(one, str(one.pk) == asked.get("used")) for one in _classes(request)],
        "removed": OwnMove.objects.filter(owner=request.user, removed_at__isnull=False).order_by("name"),
    }
    return render(request, "library/_map.html" if request.htmx else "library/moves.html", context)


def _classes(request: Asked) -> Iterable[StretchClass]:
    return StretchClass.objects.filter(owner=request.user, archived_at__isnull=True).order_by("title")


@require_safe
def move(request: Asked, key: str) -> HttpResponse:
    """One move: what it is for, how it runs and is said, who adapts it, and what else there is."""
    library = store.library_of(request.user)
    if key not in library.moves:
        return _gone(request, key)
    entry = library.get(key)
    uses = MoveUse.objects.filter(of__owner=request.user, key=key).select_related("of")
    item = take_up(entry, "move", CueStyle())
    script = new_script(entry.move.name, 60)
    script = insert_item(replace(script, sections=script.sections[:1], start_posture=entry.move.posture), item)
    timeline = compile_script(set_target(script, compile_script(script).length_s))
    context = {
        "entry": entry,
        "move": entry.move,
        "own": key in library.own,
        "shipped": key in store.SHIPPED_ONLY.moves,
        "figures": _figures(entry.move, owners_look(request.user)),
        "sheet": drawn(draw_sheet(timeline)),
        "said": _said(timeline),
        "kind": drawn(draw_kind(entry.move.kind)),
        "dose": dose_words(item),
        "holds": [(one.convention, one.seconds, one.sets) for one in entry.holds],
        "options": [(one, library.moves.get(one.move)) for one in entry.move.options],
        "cautions": [(one, list(offered(one, entry.move, library.moves))[:1]) for one in entry.move.cautions],
        "unconsidered": _unconsidered(entry),
        "why_from": source_told(entry.move.why_from) if entry.move.why_from else "",
        "sources": [source_told(one) for one in entry.sources],
        "uses": [use.of for use in uses],
        "classes": _classes(request),
    }
    return render(request, "library/move.html", context)


def _unconsidered(entry: LibraryMove) -> list[str]:
    """The conditions that nothing is stated about."""
    stated = {one.condition for one in entry.move.cautions} | set(entry.no_objection)
    return [one.value for one in Condition if one.value not in stated]


def _figures(move: Move, look: str) -> list[tuple[SafeString, str]]:
    """The pictures of a move, and of which side."""
    sides = (Side.LEFT, Side.RIGHT) if move.sided else (Side.BOTH,)
    found = ((live_figure(move, side, look), side) for side in sides)
    return [(live, side.value if move.sided else "") for live, side in found if live]


def _gone(request: Asked, key: str) -> HttpResponse:
    """An own move that was removed can be put back; any other key is not found."""
    own = get_object_or_404(OwnMove, owner=request.user, key=key, removed_at__isnull=False)
    return render(request, "library/removed.html", {"own": own}, status=404)


def _said(timeline: Timeline) -> list[tuple[str, str, str]]:
    """What is said, in order: the second, the side, the words; counts apart."""
    sides = {segment.id: segment.side for segment in timeline.segments}
    shown = []
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN and cue.kind is not CueKind.COUNT:
            side = sides.get(cue.segment)
            shown.append((f"{cue.start_ms / 1000:.0f}", side.value if side and side is not Side.BOTH else "", cue.text))
    return shown
