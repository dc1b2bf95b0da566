"""The strips of the panel: each part of a move as it runs, from the timeline of its class."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby, pairwise

from extendum.core.model.item import MoveItem
from extendum.core.model.timeline import Segment, Timeline
from extendum.draw.pass_strip import Strip, draw_pass


def strips_of(item: MoveItem, timeline: Timeline, width: float) -> list[Strip]:
    """A strip for each part of a move: its first pass, and the first on another side or in another direction."""
    own = timeline.of_item(item.id)
    passes = [list(some) for _, some in groupby(own, key=lambda s: (s.round, s.pass_number))]
    shown = passes[:1]
    shown += [one for one in passes[1:] if _way(one) != _way(passes[0])][:1]
    ids = {segment.id for some in shown for segment in some}
    cues = [cue for cue in timeline.cues if cue.segment in ids]
    by_stage = [_stages(some) for some in shown]
    return [
        draw_pass(dose, [stages[n] for stages in by_stage if n < len(stages)], cues, width)
        for n, dose in enumerate(item.doses)
    ]


def _way(some: Sequence[Segment]) -> tuple[object, object]:
    work = next((s for s in some if s.kind.works), some[-1])
    return work.side, work.direction


def _stages(some: Sequence[Segment]) -> list[list[Segment]]:
    """A pass cut after the work of each part; what comes after the last one belongs to it."""
    works = [n for n, segment in enumerate(some) if segment.kind.works]
    cuts = [0, *(n + 1 for n in works[:-1]), len(some)]
    return [list(some[a:b]) for a, b in pairwise(cuts)]
