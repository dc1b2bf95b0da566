"""Figures of moves as pictures: for lists as an address, for the Stage drawn into the page."""

from __future__ import annotations

from dataclasses import replace
from urllib.parse import urlencode

from django.http import Http404, HttpRequest, HttpResponse
from django.urls import reverse
from django.utils.cache import patch_cache_control
from django.utils.safestring import SafeString
from django.views.decorators.http import require_safe

from extendum.core.figure.described import told
from extendum.core.figure.marks import marks_of
from extendum.core.model.body import Side
from extendum.core.model.limits import whole_number
from extendum.core.model.move import Move
from extendum.draw.figure import draw_figure, figure_file
from extendum.formats.figures import figure_of, shipped_figures
from extendum.formats.library import shipped_move
from extendum.web.shared.drawn import drawn

#: A movement on the Stage is drawn in so many steps.
FRAMES = 7


def figure_address(move: Move, side: Side = Side.BOTH) -> str:
    """Where the picture of a move is; empty where it has none."""
    key = move.figure or move.key
    if key not in shipped_figures():
        return ""
    side = Side.LEFT if side is Side.BOTH and move.sided else side
    asked = {"side": side.value} if side is not Side.BOTH else {}
    asked |= {"flipped": "1"} if move.figure_flipped else {}
    asked |= {"view": str(move.figure_view)} if move.figure_view is not None else {}
    return reverse("figure", args=[key]) + (f"?{urlencode(asked)}" if asked else "")


def figure_words(move: Move, side: Side = Side.BOTH) -> str:
    """The picture of a move in words; empty where it has none."""
    figure = figure_of(move)
    return told(move, figure, marks_of(move), side) if figure else ""


def stage_figure(move: Move, side: Side) -> SafeString:
    """A move's figure on a side, drawn with its movement; empty where it has none."""
    figure = figure_of(move)
    if figure is None:
        return SafeString()
    marks = marks_of(move)
    return drawn(draw_figure(figure, marks, side, told(move, figure, marks, side), FRAMES))


@require_safe
def figure(request: HttpRequest, key: str) -> HttpResponse:
    """The picture of a shipped figure; ?side= turns it over, ?view= and ?flipped= look at it from elsewhere."""
    if key not in shipped_figures():
        raise Http404
    asked = request.GET
    view = asked.get("view", "")
    move = shipped_move(key).move
    side = next((one for one in Side if one == asked.get("side")), Side.BOTH)
    degrees = whole_number(view, most=359)
    turned = replace(move, figure_flipped=asked.get("flipped") == "1", figure_view=degrees)
    found = figure_of(turned)
    if found is None:
        raise Http404
    svg = draw_figure(found, marks_of(turned), side, told(turned, found, marks_of(turned), side))
    answer = HttpResponse(figure_file(svg), content_type="image/svg+xml")
    patch_cache_control(answer, private=True, max_age=3600)
    return answer
