"""A dose in a few words, and as another kind of dose that lasts about as long."""

from __future__ import annotations

from extendum.core.model.dose import COUNTED, KINDS, Breaths, Dose, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError

#: Seconds of one rep, breath or pulse, by which a dose of another kind lasts about as long.
_ABOUT_S = {Reps: 4, Breaths: 10, Pulses: 10}


def describe(dose: Dose) -> str:
    """The dose in a few words: ``30 s``, ``8 reps``, ``1 breath``, ``5 to 8 reps in 40 s``."""
    value = dose.quantity.value
    if isinstance(dose, Timed) and dose.own_pace:
        return f"{dose.reps_told} reps in {value} s"
    if isinstance(dose, COUNTED) and dose.stretch_s is not None:
        return f"{_several(dose.count.value, dose.unit)}, {dose.stretches} {value} s"
    return _several(value, dose.unit)


def _several(many: int, unit: str) -> str:
    return f"{many} {unit[:-1] if many == 1 and unit != 's' else unit}"


def as_kind(dose: Dose, kind: str) -> Dose:
    """Another kind of dose that lasts about as long, with limits of a half and the double; RefusedError for none."""
    made = next((one for one in KINDS if one.tag == kind), None)
    if made is None:
        raise RefusedError("kind", "one of " + ", ".join(one.tag for one in KINDS), kind)
    seconds = dose.pass_ms(dose.quantity.value) / 1000
    many = seconds / _ABOUT_S[made] if made in _ABOUT_S else max(5, round(seconds / 5) * 5)
    count = max(1, round(many))
    return made(Elastic(max(1, count // 2), count, count * 2))
