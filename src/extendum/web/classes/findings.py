"""What the checks found, as the screens show it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.utils.safestring import SafeString

from extendum.core.checks.finding import Finding, Severity
from extendum.core.checks.report import CHECKS, Report, check
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.draw.flags import draw_flag
from extendum.draw.sheet import Flag
from extendum.web.classes.own import Own
from extendum.web.shared.drawn import drawn

_COUNTED = {Severity.FIX: "to fix", Severity.CONSIDER: "to consider", Severity.NOTE: "to know"}


def report_of(script: Script, timeline: Timeline, own: Own) -> Report:
    """What the checks find in a class of an instructor, with alternatives from their library."""
    return check(script, timeline, tuple(own.library), own.library.form)


@dataclass(frozen=True, slots=True)
class Told:
    """A finding with its mark."""

    finding: Finding

    @property
    def flag(self) -> SafeString:
        """The mark of its severity."""
        return drawn(draw_flag(self.finding.severity))


def flags_of(report: Report) -> dict[str, Flag]:
    """The marks of the sheet and the running order: the weightiest finding of each item, and all of them in words."""
    found: dict[str, Flag] = {}
    for one in report.open:
        for item in one.found.items:
            before = found.get(item)
            words = f"{before.words} {one.found.message}" if before else one.found.message
            found[item] = Flag(before.severity if before else one.severity, words)
    return found


def told_counts(report: Report) -> dict[str, Any]:
    """How much was found of each severity, and the first thing in words."""
    counts = [(one, len(report.of(one))) for one in Severity]
    return {
        "counts": [(drawn(draw_flag(one)), number, _COUNTED[one]) for one, number in counts if number],
        "first": report.open[0].found.message if report.open else "",
        "kept": len(report.kept),
        "total": len(CHECKS),
    }
