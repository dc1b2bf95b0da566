"""The Stage: plays the compiled timeline in front of the class."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_GET, require_POST

from extendum.core.body import Side
from extendum.core.item import MoveItem
from extendum.core.move import Prop
from extendum.core.style import teacher_side
from extendum.core.timeline import clock
from extendum.draw.small import draw_ribbon
from extendum.formats.timeline_json import timeline_plain
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.drawn import drawn
from extendum.web.classes.page import compiled
from extendum.web.library.figures import stage_figure


@require_GET
def stage(request: HttpRequest, pk: int) -> HttpResponse:
    """The teacher's screen; the timeline travels with the page, so that it plays without the server."""
    of = own_class(request, pk)
    script, timeline = store.script_of(of.head), compiled(bytes(of.head.document))
    names = {item.id: item.name for item in script.items()}
    props: dict[str, Prop] = {p.name: p for item in script.moves() for p in item.move.props}
    score = {
        **timeline_plain(timeline),
        "names": names,
        "props": {i.id: [p.name for p in i.move.props] for i in script.items() if isinstance(i, MoveItem)},
        "mirrored": [
            item.id
            for item in script.moves()
            if teacher_side(Side.LEFT, script.style.teaching, item.facing) is Side.RIGHT
        ],
    }
    sides = {(segment.item, segment.side or Side.BOTH) for segment in timeline.segments}
    moves = {item.id: item.move for item in script.moves()}
    shown = ((item, side, stage_figure(moves[item], side)) for item, side in sorted(sides) if item in moves)
    context = {
        "class": of,
        "figures": [(item, side.value, svg) for item, side, svg in shown if svg],
        "score": score,
        "length": clock(timeline.length_s),
        "ribbon": drawn(draw_ribbon(timeline)),
        "props": list(props.values()),
        "empty": not timeline.segments,
        "teaching": script.style.teaching.value,
        "lead": script.style.lead_side.value,
    }
    return render(request, "teach/stage.html", context)


@require_POST
def taught(request: HttpRequest, pk: int) -> HttpResponse:
    """The class was taught to its end: remember when."""
    of = own_class(request, pk)
    of.taught_at = timezone.now()
    of.save(update_fields=["taught_at"])
    return HttpResponse(status=204)
