"""Choosing a move by what it looks like: an area on a small body, and a position."""

from __future__ import annotations

from functools import cache

from django.utils.safestring import SafeString

from extendum.core.model.body import Posture
from extendum.draw.body import draw_areas
from extendum.formats.library import shipped_move
from extendum.web.library.figures import figure_address
from extendum.web.shared.drawn import drawn

#: A move whose figure shows each position plainly.
_SHOWN = {
    Posture.STANDING: "slow-breaths-standing",
    Posture.ONE_LEG: "one-leg-stand",
    Posture.LUNGE: "calf-lean",
    Posture.FORWARD_FOLD: "soft-forward-hang",
    Posture.CHAIR: "seated-forward-rest",
    Posture.LONG_SITTING: "long-sitting-reach",
    Posture.CROSS_LEGGED: "cross-legged-breaths",
    Posture.HEELS: "childs-pose",
    Posture.HALF_KNEELING: "half-kneeling-hip",
    Posture.ALL_FOURS: "cat-and-cow",
    Posture.SUPINE: "lying-rest",
    Posture.PRONE: "prone-rest",
    Posture.SIDE_LYING: "side-lying-rest",
}


@cache
def areas() -> SafeString:
    """The small body."""
    return drawn(draw_areas())


def positions() -> list[tuple[str, str]]:
    """Each position to choose from, with the address of a figure in it."""
    return [(posture.value, figure_address(shipped_move(key).move)) for posture, key in _SHOWN.items()]
