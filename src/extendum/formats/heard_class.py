"""What was heard of a recording as rows of a running order: the beginning of a class, or beside one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from extendum.core.heard.guess import Heard, What
from extendum.core.model.dose import Hold, Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Sidedness
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.formats.dose_text import Told
from extendum.formats.order_class import match_order
from extendum.formats.order_reader import Order, Row

LEAST_S, ROOM = 5, 10


@dataclass(frozen=True, slots=True)
class Beside:
    """One move: seconds of work in the script, and heard; None where it is in one of them only."""

    name: str
    planned_s: int | None
    heard_s: int | None


def rows_of(heard: Heard) -> Iterator[Row]:
    """Each move once, in the order in which it was heard: its usual time on a side, or its count."""
    named = list(dict.fromkeys(one.value for one in heard.of(What.MOVE)))
    begins = {name: next(one.at for one in heard.of(What.MOVE) if one.value == name) for name in named}
    for n, name in enumerate(named, 1):
        own = [one for one in heard.stretches if one.name == name]
        sides = Sidedness.EACH_SIDE if len({one.side for one in own}) > 1 else None
        after = min((at for at in begins.values() if at > begins[name]), default=heard.length)
        counted = [one.number for one in heard.of(What.REPS) if begins[name] <= one.at < after]
        if own:
            seconds = max(LEAST_S, round(sum(one.seconds for one in own) / len(own)))
            dose: Hold | Reps | None = Hold(Elastic(max(1, seconds - ROOM), seconds, seconds + ROOM))
        elif counted:
            count = max(2, max(counted))
            dose = Reps(Elastic(max(1, count - 4), count, count + 4))
        else:
            dose = None
        text = "" if dose is None else f"{dose.quantity.value} {'reps' if isinstance(dose, Reps) else 's'}"
        yield Row(n, "", f"{name[:1].upper()}{name[1:]}", Told(dose, 1, sides), text)


def beside(script: Script, timeline: Timeline, heard: Heard, library: Sequence[LibraryMove]) -> list[Beside]:
    """The moves of a class beside what was heard of them: seconds of work, both sides together.

    A move that was heard is taken for one of the class before one of the library.
    """
    planned: dict[str, int] = {}
    for segment in timeline.segments:
        if segment.kind.works:
            planned[segment.name] = planned.get(segment.name, 0) + segment.seconds
    keys = {item.move.key for item in script.moves()}
    here = [entry for entry in library if entry.move.key in keys]
    order = Order(tuple(rows_of(heard)), ())
    real: dict[str, float] = {}
    for own, wider in zip(match_order(order, here), match_order(order, library), strict=True):
        entry = own.entry or wider.entry
        called = entry.move.name if entry else own.row.name
        held = sum(one.seconds for one in heard.stretches if one.name.casefold() == own.row.name.casefold())
        real[called] = real.get(called, 0.0) + held
    return [Beside(name, planned.get(name), round(real.get(name, 0)) or None) for name in {**planned, **real}]
