"""The shipped figures, and which one a move has."""

from __future__ import annotations

import json
from dataclasses import replace
from functools import cache
from importlib.resources import files

from extendum.core.figure.figure import Figure, for_side, read_figures
from extendum.core.model.body import Side
from extendum.core.model.move import Move


@cache
def shipped_figures() -> dict[str, Figure]:
    """Every figure by the key of its move."""
    text = files("extendum").joinpath("data", "figures.json").read_text("utf-8")
    return read_figures(json.loads(text))


def figure_of(move: Move) -> Figure | None:
    """The figure of a move: its own, or that of the move it names, turned as it says; None where there is none."""
    figure = shipped_figures().get(move.figure or move.key)
    if figure is None:
        return None
    if move.figure_flipped:
        figure = for_side(figure, Side.RIGHT)
    return figure if move.figure_view is None else replace(figure, view=float(move.figure_view))
