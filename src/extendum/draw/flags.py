"""A mark for each severity of a finding: shape alone tells them apart."""

from __future__ import annotations

from extendum.core.checks.finding import Severity
from extendum.draw.svg import tag

_SHAPES = {
    Severity.FIX: tag("path", d="M.5 1H10.5L5.5 10.5Z", class_="full"),
    Severity.CONSIDER: tag("path", d="M1.3 1.5H9.7L5.5 9.5Z", class_="line"),
    Severity.NOTE: tag("circle", cx="5.5", cy="5.5", r="2.2", class_="full"),
}
FLAG_PX = 11


def flag_shape(severity: Severity) -> str:
    """The shape of a severity, eleven by eleven, to be put into a drawing."""
    return _SHAPES[severity]


def draw_flag(severity: Severity) -> str:
    """The mark of a severity as a picture of its own; it is named beside it or in its title."""
    inside = tag("title", f"to {severity}" if severity is not Severity.NOTE else "note") + _SHAPES[severity]
    return tag("svg", inside, class_=f"flag f-{severity}", viewBox="0 0 11 11", width="11", height="11", role="img")
