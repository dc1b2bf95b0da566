"""Which values a dose may take: steps, snapping to whole breaths, even totals, and the taper of rounds."""

from __future__ import annotations

from bisect import bisect_left

from extendum.core.model.body import Posture
from extendum.core.model.dose import LONGEST_HOLD_S, Dose, Hold, Manner, Timed
from extendum.core.model.errors import RefusedError
from extendum.core.model.style import CueStyle


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


def nearest(values: tuple[int, ...], wanted: int) -> int:
    """Of ascending values the nearest to a wanted one; of two, the smaller."""
    at = bisect_left(values, wanted)
    lower, upper = values[max(at - 1, 0)], values[min(at, len(values) - 1)]
    return lower if wanted - lower <= abs(upper - wanted) else upper


def actual(dose: Dose, breath_ms: int, value: int | None = None) -> int:
    """The value that the class really gets: snapped where the dose says so, otherwise as it stands."""
    value = dose.quantity.value if value is None else value
    return nearest(allowed(dose, breath_ms), value) if stepped(dose) else value


def stepped(dose: Dose, *, even: bool = False) -> bool:
    """Whether a dose cannot have every value inside its limits."""
    if even or (isinstance(dose, Hold) and dose.snap):
        return True
    return isinstance(dose, Timed) and dose.manner is Manner.HALVES


def tapered(dose: Dose, value: int, round_: int, taper_percent: int, breath_ms: int, *, even: bool = False) -> int:
    """The value in a later round: value x taper^(round - 1), rounded, inside the limits, on the dose's steps."""
    if round_ == 1 or taper_percent == 100:
        return value
    top, bottom = value * taper_percent ** (round_ - 1), 100 ** (round_ - 1)
    rounded = (2 * top + bottom) // (2 * bottom)
    q = dose.quantity
    inside = min(max(rounded, q.least), q.most)
    return nearest(allowed(dose, breath_ms, even=even), inside) if stepped(dose, even=even) else inside
