"""What a fit did, or why it could not, in plain sentences."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.fit import Fit, Limit
from extendum.core.timeline import clock

#: So many limits of one sort are named one by one.
MOST_NAMED = 4
_LIMITS = {"least": "at least", "most": "at most", "locked": "locked at", "granularity": "steps of"}


def limit_words(one: Limit) -> str:
    """A limit in a few words: ``Calf lean (at most 45 s)``."""
    return f"{one.name} ({_LIMITS[one.which]} {one.value} {one.unit})"


def refusal_lines(result: Fit) -> list[str]:
    """Why a target is out of reach: that it is, what is near, and what binds."""
    lines = [f"{clock(result.target_s)} cannot be reached; the class stays at {clock(result.seconds)}."]
    near = [clock(s) for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
    lines += [f"Nearest: {' and '.join(near)}."] if near else []
    lines += [f"What binds: {', '.join(_binding(result.limits))}."] if result.limits else []
    return lines


def _binding(limits: Sequence[Limit]) -> Iterator[str]:
    """Each limit by name where they are few; otherwise how many doses are at which end."""
    for which, told in (("least", "at their least"), ("most", "at their most")):
        same = [one for one in limits if one.which == which]
        if len(same) > MOST_NAMED:
            yield f"{len(same)} doses {told}"
        else:
            yield from map(limit_words, same)
    yield from (limit_words(one) for one in limits if one.which not in ("least", "most"))


def fit_sentence(result: Fit) -> str:
    """What a fit changed, in one sentence: ``10:00 to the second: 4 shorter, 2 longer.``"""
    shorter = sum(one.after < one.before for one in result.changes)
    longer = len(result.changes) - shorter
    told = [f"{n} {word}" for n, word in ((shorter, "shorter"), (longer, "longer")) if n]
    return f"{clock(result.seconds)} to the second: {', '.join(told) or 'nothing had to change'}."
