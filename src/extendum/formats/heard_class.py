"""What was heard of a recording as rows of a running order: the beginning of a class."""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.dose import Elastic, Hold, Reps
from extendum.core.heard.guess import Heard, What
from extendum.core.move import Sidedness
from extendum.formats.dose_text import Told
from extendum.formats.order_reader import Row

LEAST_S, ROOM = 5, 10


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
