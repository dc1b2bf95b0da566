"""Prompts: which of them a pass says, in which of their wordings, and where in its work."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from itertools import pairwise
from typing import NamedTuple

from extendum.core.model.body import Side
from extendum.core.model.placeholders import fill
from extendum.core.model.prompts import FIRST_PASS_ONLY, Prompt, PromptKind, Scope
from extendum.core.model.timeline import CueKind, Unsaid
from extendum.core.timing.cues import Placed
from extendum.core.timing.durations import Facts
from extendum.core.timing.room import Room
from extendum.core.timing.sequence import Arrival, Pass

PROMPT_GAP_MS = 1500
# The part of the work in which a prompt may start, in percent.
_WINDOW = {
    PromptKind.CAUTION: (0, 33),
    PromptKind.EASIER: (0, 33),
    PromptKind.FEEL: (0, 60),
    PromptKind.FORM: (0, 100),
    PromptKind.BREATH: (0, 100),
    PromptKind.DEEPER: (40, 100),
    PromptKind.ENCOURAGEMENT: (50, 100),
    PromptKind.ADJUST: (25, 100),
}
_KINDS = list(PromptKind)


class Due(NamedTuple):
    """A prompt that a pass says: its place among those of its stage, and the wording whose turn it is."""

    nth: int
    prompt: Prompt
    text: str


def is_due(prompt: Prompt, this: Pass) -> bool:
    """Whether a pass says a prompt in its work.

    Of a side, a round and later rounds, the first pass on each side says it, whatever sets and directions follow.
    """
    match prompt.scope(this.group.rounds):
        case Scope.EVERY:
            return True
        case Scope.FIRST:
            return this.arrival is Arrival.FIRST
        case Scope.EACH_SIDE:
            return this.opens_side and this.round == 1
        case Scope.SECOND_SIDE:
            return this.opens_side and this.side not in (this.lead, Side.BOTH)
        case Scope.ROUND:
            return this.opens_side and this.round == prompt.in_round
        case Scope.LATER:
            return this.opens_side and this.round > 1
    return False  # before the first pass: once everybody is there


class Turns:
    """Which wording comes next, pass after pass: a side begins with another one than the side before it."""

    def __init__(self) -> None:
        self.said: Counter[tuple[str, int, int, Side]] = Counter()

    def due(self, this: Pass, stage: int) -> list[Due]:
        """The prompts of a pass in one of its stages; to be asked once for each, in the order of the class."""
        found = []
        for index, prompt in enumerate(this.item.prompts_at(stage)):
            if not is_due(prompt, this):
                continue
            text = prompt.text
            if prompt.others:
                key = (this.item.id, stage, index, this.side)
                turn = self.said[key] + (this.side not in (this.lead, Side.BOTH))
                self.said[key] += 1
                text = prompt.wordings[turn % len(prompt.wordings)]
            found.append(Due(index, prompt, text))
        return found


def prompt_cues(room: Room, due: Iterable[Due], facts: Facts, quiet_percent: int) -> Iterator[Placed]:
    """Caution and the easier option first, then the others by priority, as far as enough quiet is left."""
    asked = sorted(due, key=lambda one: (min(_KINDS.index(one.prompt.kind), 2), one.prompt.priority, one.nth))
    for one in asked:
        kind, text = CueKind(one.prompt.kind.value), fill(one.text, facts)
        lasting = room.lasting(text)
        if (room.spoken_ms() + lasting) * 100 > (room.end - room.start) * (100 - quiet_percent):
            yield Unsaid(room.of(kind, one.nth), text, "talk-cap")
            continue
        start = _best_start(room, one.prompt.kind, lasting)
        if start is None:
            yield Unsaid(room.of(kind, one.nth), text, "no-room")
        else:
            yield room.take(kind, one.nth, start, start + lasting, text)


def _best_start(room: Room, kind: PromptKind, lasting: int) -> int | None:
    """Caution and the easier option as soon as may be; others in the middle of the widest gap."""
    first, last = (room.start + (room.end - room.start) * p // 100 for p in _WINDOW[kind])
    best: tuple[int, int] | None = None
    edges = [(room.start, room.start), *room.busy, (room.end, room.end)]
    for (_, free_from), (free_to, _) in pairwise(edges):
        low = max(free_from + PROMPT_GAP_MS, first)
        high = min(free_to - PROMPT_GAP_MS - lasting, last)
        if low > high:
            continue
        if kind in FIRST_PASS_ONLY:
            return low
        start = min(max((free_from + free_to - lasting) // 2, low), high)
        room_around = min(start - free_from, free_to - start - lasting)
        if best is None or room_around > best[0]:
            best = (room_around, start)
    return best[1] if best else None
