"""What a fit did, or why it could not, in plain sentences."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence

from extendum.core.fit.fit import Change, Fit, Limit
from extendum.core.model.timeline import clock

#: So many limits of one sort are named one by one.
MOST_NAMED = 4
_LIMITS = {"least": "at least", "most": "at most", "locked": "locked at", "granularity": "steps of"}


def amount(value: int, unit: str) -> str:
    """A value with its unit: ``30 s``, ``1 rep``."""
    return f"{value} {unit[:-1] if value == 1 and unit != 's' else unit}"


def limit_words(one: Limit) -> str:
    """A limit in a few words: ``Calf lean (at most 45 s)``."""
    return f"{one.name} ({limit_value(one)})"


def limit_value(one: Limit) -> str:
    """Which limit, and its value: ``at most 45 s``."""
    return f"{_LIMITS[one.which]} {amount(one.value, one.unit)}"


def refusal_lines(result: Fit) -> list[str]:
    """Why a target is out of reach: that it is, what is near, and what binds."""
    lines = [f"{clock(result.target_s)} cannot be reached; the class stays at {clock(result.seconds)}."]
    near = [clock(s) for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
    lines += [f"Nearest: {' and '.join(near)}."] if near else []
    if not result.script.moves() and result.nearest_above_s is None:
        lines.append("The class has no moves yet, and only moves give it length.")
    lines += [f"Limits in the way: {', '.join(_binding(result.limits))}."] if result.limits else []
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


_NUMBERS = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"]
_COUNTED = ("reps", "breaths", "pulses")
_THINGS = {"hold": "hold", "timed": "timed move", "open": "open dose", "talk": "talk"}


def number(count: int) -> str:
    """A small number as a word."""
    return _NUMBERS[count] if 0 <= count < len(_NUMBERS) else str(count)


def names(some: Sequence[str]) -> str:
    """Names as a list in a sentence: ``A``, ``A and B``, ``A, B and C``."""
    return " and ".join(filter(None, (", ".join(some[:-1]), some[-1]))) if some else ""


def changes_words(changes: Sequence[Change]) -> str:
    """What changes, in a few words: ``four holds shorter, two with fewer breaths, Calf lean out``."""
    counts: Counter[tuple[str, bool]] = Counter()
    for one in changes:
        if one.before is not None and one.after is not None:
            counts[one.kind, one.after > one.before] += 1
    told = []
    for (kind, more), count in counts.items():
        if kind in _COUNTED:
            told.append(f"{number(count)} with {'more' if more else 'fewer'} {kind}")
        else:
            much = "the quiet" if kind == "quiet" else f"{number(count)} {_THINGS[kind]}{'s' * (count > 1)}"
            told.append(f"{much} {'longer' if more else 'shorter'}")
    for ends, way in (([c.name for c in changes if c.after is None], "out"), (_back(changes), "back in")):
        if ends:
            told.append(f"{names(ends) if len(ends) <= MOST_NAMED else f'{number(len(ends))} items'} {way}")
    return ", ".join(told)


def _back(changes: Sequence[Change]) -> list[str]:
    return [one.name for one in changes if one.before is None]


def change_words(one: Change) -> str:
    """One change: ``30 to 25 s``, ``out``, ``in again, 30 s``."""
    if one.after is None:
        return "out"
    if one.before is None:
        return f"back in, {amount(one.after, one.unit)}"
    return f"{one.before} to {amount(one.after, one.unit)}"


def fit_sentence(result: Fit) -> str:
    """What a fit changes, in one sentence: ``10:00 to the second: four holds shorter, Calf lean out.``"""
    return f"{clock(result.seconds)} to the second: {changes_words(result.changes) or 'nothing needs to change'}."
