"""Which values a dose may take: steps, snapping to whole breaths, even totals, and the taper of rounds."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from extendum.core.model.body import Posture
from extendum.core.model.dose import Dose, Hold, Manner, Timed
from extendum.core.model.elastic import LONGEST_HOLD_S
from extendum.core.model.errors import RefusedError
from extendum.core.model.style import CueStyle

Ints = NDArray[np.int64]
#: One value of a dose, or many at once: the same rule holds for both.
Count = TypeVar("Count", int, Ints)
#: Later rounds are too far for whole numbers of 64 bits on the way to a tapered value.
_ROUNDS_IN_64_BITS = 7


def at_least(value: Count, least: int) -> Count:
    """The value, or what it is below."""
    return max(value, least) if isinstance(value, int) else np.maximum(value, least)


def within(value: Count, least: int, most: int) -> Count:
    """The value, or the limit that it lies beyond."""
    if isinstance(value, int):
        return min(max(value, least), most)
    return np.minimum(np.maximum(value, least), most)


def allowed(dose: Dose, breath_ms: int, *, even: bool = False) -> tuple[int, ...]:
    """The values inside the limits that the dose can have, ascending.

    A snapped hold takes ceil(k x breath); an alternating total (``even``) and a time that switches at
    half go in steps of two, so that both sides get the same. RefusedError when the limits hold none.
    """
    q = dose.quantity
    if isinstance(dose, Hold) and dose.snap:
        first = max(1, (q.least * 1000 - 999 + breath_ms - 1) // breath_ms)
        found = []
        k = max(1, first - 1)
        while -(-k * breath_ms // 1000) <= q.most:
            seconds = -(-k * breath_ms // 1000)
            if seconds >= q.least:
                found.append(seconds)
            k += 1
        if not found:
            must = f"limits that hold a whole number of breaths of {breath_ms / 1000:g} s"
            raise RefusedError("dose.seconds", must, f"{q.least} to {q.most} s")
        return tuple(found)
    if even or (isinstance(dose, Timed) and dose.manner is Manner.HALVES):
        evens = tuple(range(q.least + q.least % 2, q.most + 1, 2))
        return evens or (q.value,)
    return tuple(range(q.least, q.most + 1))


def conventional(values: tuple[int, ...], dose: Dose, style: CueStyle, posture: Posture) -> tuple[int, ...]:
    """The values of a hold that a fit may take under the class's convention, and on one leg.

    What the teacher wants is always among them: a wish beyond the convention moves its limit, no further.
    Limits that leave nothing are those of the dose alone.
    """
    least, most = style.holds.limits or (0, LONGEST_HOLD_S)
    if style.one_leg_most_s and posture is Posture.ONE_LEG:
        most = min(most, style.one_leg_most_s)
    if not isinstance(dose, Hold) or (least, most) == (0, LONGEST_HOLD_S):
        return values
    wanted = nearest(values, dose.quantity.wanted)
    inside = tuple(v for v in values if min(least, wanted) <= v <= max(most, wanted))
    return inside or values


def nearest(values: Sequence[int], wanted: Count) -> Count:
    """Of ascending values the nearest to a wanted one; of two, the smaller."""
    if isinstance(wanted, int):
        at = bisect_left(values, wanted)
        lower, upper = values[max(at - 1, 0)], values[min(at, len(values) - 1)]
        return lower if wanted - lower <= abs(upper - wanted) else upper
    steps: Ints = np.array(values, dtype=np.int64)
    above = np.searchsorted(steps, wanted)
    below, beyond = steps[np.maximum(above - 1, 0)], steps[np.minimum(above, len(steps) - 1)]
    found: Ints = np.where(wanted - below <= np.abs(beyond - wanted), below, beyond)
    return found


def actual(dose: Dose, breath_ms: int, value: int | None = None) -> int:
    """The value that the class really gets: snapped where the dose says so."""
    value = dose.quantity.value if value is None else value
    return nearest(allowed(dose, breath_ms), value) if stepped(dose) else value


def stepped(dose: Dose, *, even: bool = False) -> bool:
    """Whether a dose cannot have every value inside its limits."""
    if even or (isinstance(dose, Hold) and dose.snap):
        return True
    return isinstance(dose, Timed) and dose.manner is Manner.HALVES


def tapered(dose: Dose, value: Count, round_: int, taper_percent: int, breath_ms: int, *, even: bool = False) -> Count:
    """The value in a later round: value x taper^(round - 1), rounded, inside the limits, on the dose's steps."""
    if round_ == 1 or taper_percent == 100:
        return value
    if not isinstance(value, int) and round_ > _ROUNDS_IN_64_BITS:
        each = [tapered(dose, one, round_, taper_percent, breath_ms, even=even) for one in value.tolist()]
        return np.array(each, dtype=np.int64)
    top: int = taper_percent ** (round_ - 1)
    bottom: int = 100 ** (round_ - 1)
    least, most = dose.quantity.least, dose.quantity.most
    if not stepped(dose, even=even):
        return within((2 * value * top + bottom) // (2 * bottom), least, most)
    steps = tuple(step * bottom for step in allowed(dose, breath_ms, even=even))  # rounded once, to a step
    return nearest(steps, within(value * top, least * bottom, most * bottom)) // bottom
