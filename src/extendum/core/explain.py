"""What a fit did, or why it could not, in plain sentences."""

from __future__ import annotations

from extendum.core.fit import Fit, Limit
from extendum.core.timeline import clock

_LIMITS = {"least": "at least", "most": "at most", "locked": "locked at", "granularity": "steps of"}


def limit_words(one: Limit) -> str:
    """A limit in a few words: ``Calf lean (at most 45 s)``."""
    return f"{one.name} ({_LIMITS[one.which]} {one.value} {one.unit})"


def refusal_lines(result: Fit) -> list[str]:
    """Why a target is out of reach: that it is, what is near, and what binds."""
    lines = [f"{clock(result.target_s)} cannot be reached; the class stays at {clock(result.seconds)}."]
    near = [clock(s) for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
    lines += [f"Nearest: {' and '.join(near)}."] if near else []
    lines += [f"What binds: {', '.join(limit_words(one) for one in result.limits)}."] if result.limits else []
    return lines


def fit_sentence(result: Fit) -> str:
    """What a fit changed, in one sentence: ``10:00 to the second: 4 shorter, 2 longer.``"""
    shorter = sum(one.after < one.before for one in result.changes)
    longer = len(result.changes) - shorter
    told = [f"{n} {word}" for n, word in ((shorter, "shorter"), (longer, "longer")) if n]
    return f"{clock(result.seconds)} to the second: {', '.join(told) or 'nothing had to change'}."
