"""The Room: the class's screen, at an address that cannot be guessed and can be revoked; it gets no words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from extendum.core.model.body import Side
from extendum.core.model.move import OptionKind
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.moves.otherwise import other_move
from extendum.core.moves.spares import Spare, spares
from extendum.formats.score import public_score, spoken_plain
from extendum.web.classes import store
from extendum.web.classes.look import owners_look
from extendum.web.classes.page import compiled
from extendum.web.library.figures import live_figure
from extendum.web.library.store import Library, library_of
from extendum.web.teach.following import by_code, news, owner_of, running
from extendum.web.teach.models import Link
from extendum.web.teach.pictures import pictures


@require_safe
@never_cache
@login_not_required
def room(request: HttpRequest, code: str) -> HttpResponse:
    """The screen, with the class being taught now; it reloads by itself when another one begins."""
    link = by_code(code, Link.Kind.ROOM)
    if link is None:
        return render(request, "teach/gone.html", {"what": "screen"}, status=404)
    return render(request, "teach/room.html", {"link": link, **shown(link)})


@require_safe
@never_cache
@login_not_required
def now(request: HttpRequest, code: str) -> JsonResponse:
    """What happened since the screen last asked."""
    return told(owner_of(code, Link.Kind.ROOM), request.GET.get("seen", ""))


@require_safe
@never_cache
@login_not_required
def captions(request: HttpRequest, code: str) -> JsonResponse:
    """What is spoken in the class that is on, for a screen that was asked to show it; none of the teacher's notes."""
    link = by_code(code, Link.Kind.ROOM)
    if link is None:
        return JsonResponse({"message": "revoked"}, status=404)
    run = running(link.owner_id)
    if run is None or run.revision is None:
        return JsonResponse({"revision": None, "cues": [], "spare": []})
    script, timeline = store.script_of(run.revision), compiled(bytes(run.revision.document))
    tray = spares(script, library_of(link.owner))
    spare = [cue for one in tray for cue in spoken_plain(one.timeline)]
    return JsonResponse({"revision": run.revision_id, "cues": spoken_plain(timeline), "spare": spare})


def told(owner_id: int | None, seen: str) -> JsonResponse:
    """What is new for whoever follows by a link of this owner; 404 when it was revoked."""
    return JsonResponse(news(owner_id, seen)) if owner_id else JsonResponse({"message": "revoked"}, status=404)


def shown(link: Link, *, figures: bool = True) -> dict[str, Any]:
    """What a page that follows is made of: the class of the run that is on, without anything that is to be said."""
    run = running(link.owner_id)
    if run is None or run.revision is None:
        return {"run": None, "title": "", "score": None, "figures": []}
    library = library_of(link.owner)
    script, timeline = store.script_of(run.revision), compiled(bytes(run.revision.document))
    tray = spares(script, library)
    score = public_score(script, timeline, library.moves, tray)
    drawings = list(_figures(script, timeline, tray, library, owners_look(link.owner))) if figures else []
    return {"run": run, "title": script.title, "score": score, "figures": [one for one in drawings if one[2]]}


def _figures(
    script: Script, timeline: Timeline, tray: Sequence[Spare], library: Library, look: str
) -> Iterator[tuple[str, str, str]]:
    """Each move's figures, and on each side the figure of its easier option."""
    moves = {item.id: item.move for item in (*script.moves(), *(one.item for one in tray))}
    for item, side, drawing in pictures(script, timeline, tray, library, look):
        yield item, side, drawing
        move = moves.get(item)
        other = other_move(move, OptionKind.EASIER, library.moves, script.brief) if move else None
        if other:
            yield f"easy-{item}", side, live_figure(other.move, Side(side) if other.move.sided else Side.BOTH, look)
