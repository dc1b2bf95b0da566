"""Length: whether the class lasts as long as its slot."""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.subject import Subject
from extendum.core.fit.explain import refusal_lines
from extendum.core.fit.fit import Fitter
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock

#: Off by more than this, people notice.
MUCH_S = 30


def _fitted(script: Script) -> Script:
    result = Fitter(script).fit(script.brief.target_s)
    if not result.reached:
        raise RefusedError("length", "within the limits of the doses", " ".join(refusal_lines(result)))
    return result.script


@checked(
    Family.LENGTH,
    "off-slot",
    Severity.CONSIDER,
    "whether the class fills its slot to the second",
    "A class that runs over cuts into whatever comes next, and a short one sends people home early.",
)
def off_slot(subject: Subject) -> Iterator[Found]:
    """The class is shorter or longer than its slot."""
    length, target = subject.timeline.length_s, subject.brief.target_s
    if length != target:
        off = abs(length - target)
        how = f"{clock(off)} {'longer' if length > target else 'shorter'} than its slot of {clock(target)}"
        yield Found(
            f"The class lasts {clock(length)}, {how}.",
            facts=(("length", length), ("slot", target)),
            mend=Mend(f"Fit it to {clock(target)}", _fitted),
            severity=Severity.FIX if off > MUCH_S else None,
        )


CHECKS: tuple[Check, ...] = (off_slot,)
