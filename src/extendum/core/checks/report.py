"""Checks of a class: small pure functions from a script and its timeline to findings.

Few and right. A check never says that a class is safe: it says what it looked at and what it found there.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace

from extendum.core.checks import (
    announcements,
    areas,
    breath,
    easier_options,
    holds,
    length,
    loads,
    never_said,
    order,
    prepared,
    props,
    range,
    recording,
    safety,
    set_ups,
    sides,
    spoken_numbers,
    spoken_truth,
    warmth,
    words,
)
from extendum.core.checks.finding import Check, Finding, Found, Severity
from extendum.core.checks.subject import Subject
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Kept, Script
from extendum.core.model.timeline import Timeline

#: Every check, in the order in which findings of the same severity appear.
CHECKS: tuple[Check, ...] = (
    *(
        safety.CHECKS
        + prepared.CHECKS
        + range.CHECKS
        + loads.CHECKS
        + props.CHECKS
        + spoken_truth.CHECKS
        + spoken_numbers.CHECKS
        + sides.CHECKS
        + length.CHECKS
    ),
    *(
        areas.CHECKS
        + announcements.CHECKS
        + order.CHECKS
        + holds.CHECKS
        + warmth.CHECKS
        + breath.CHECKS
        + words.CHECKS
        + never_said.CHECKS
        + easier_options.CHECKS
        + set_ups.CHECKS
        + recording.CHECKS
    ),
)
BY_CODE = {check.code: check for check in CHECKS}
_RANK = {severity: n for n, severity in enumerate(Severity)}


@dataclass(frozen=True, slots=True)
class Report:
    """What the checks found: what is open, and what the teacher keeps as it is; the weightiest first."""

    open: tuple[Finding, ...]
    kept: tuple[Finding, ...]

    def of(self, severity: Severity) -> tuple[Finding, ...]:
        """The open findings of one severity."""
        return tuple(one for one in self.open if one.severity is severity)

    def at(self, item: str) -> tuple[Finding, ...]:
        """The open findings that are about an item."""
        return tuple(one for one in self.open if item in one.found.items)

    def get(self, key: str) -> Finding:
        """A finding by its key, or the first of a code; RefusedError when nothing like it is found."""
        for one in (*self.open, *self.kept):
            if key in (one.key, one.code):
                return one
        raise RefusedError("finding", "one of " + (", ".join(f.key for f in self.open) or "none"), key)


def check(
    script: Script,
    timeline: Timeline,
    library: Sequence[LibraryMove] = (),
    taken: Callable[[str], str] = lambda key: "",
) -> Report:
    """Everything that the checks find in a class and its timeline; nothing in a class without moves.

    The library is where alternatives come from: without it there are fewer mends. ``taken`` marks the form of a
    library's move that a mend takes up.
    """
    subject = Subject(script, timeline, library, taken)
    if not subject.moves:
        return Report((), ())
    found = [Finding(one, _placed(here, subject)) for one in CHECKS for here in one.find(subject)]
    found.sort(key=lambda one: _RANK[one.severity])
    reasons = {(kept.code, kept.item): kept for kept in script.kept}
    told = [replace(one, because=_reason(script, one, reasons.get((one.code, one.item)))) for one in found]
    return Report(tuple(f for f in told if not f.because), tuple(f for f in told if f.because))


def _placed(found: Found, subject: Subject) -> Found:
    """What was found, with the first segment of its first item where the check names none."""
    if found.segment or not found.items or not subject.segments.get(found.items[0]):
        return found
    return replace(found, segment=subject.segments[found.items[0]][0].id)


def _reason(script: Script, finding: Finding, kept: Kept | None) -> str:
    return kept.because if kept and kept.mark == mark_of(script, finding.found) else ""


def mark_of(script: Script, found: Found) -> str:
    """What tells whether the place of a finding has changed since it was kept.

    For items: what is found without its numbers, and the items as the teacher wrote them, so that a fit does not bring
    it back and an edit does. For the whole class: the sentence.
    """
    if not found.items:
        told = found.message
    else:
        told = re.sub(r"\d+(:\d+)?", "", found.message) + repr([_as_written(script.item(one)) for one in found.items])
    return hashlib.sha256(told.encode()).hexdigest()[:16]


def _as_written(item: Item) -> Item:
    """An item without what a fit makes of it."""
    written = item.having(replace(item.quantity, now=item.quantity.wanted))
    if not isinstance(written, MoveItem):
        return written
    then = tuple(
        replace(stage, dose=stage.dose.having(replace(stage.dose.quantity, now=stage.dose.quantity.wanted)))
        for stage in written.then
    )
    return replace(written, then=then, dropped=False)


def keep(script: Script, finding: Finding, because: str) -> Script:
    """The script with a finding kept as it is, for a reason in the teacher's words."""
    because = " ".join(because.split())
    if not because:
        raise RefusedError("because", "a reason in a few words", "nothing")
    one = Kept(finding.code, because, finding.item, mark_of(script, finding.found))
    return replace(script, kept=(*_without(script.kept, finding), one))


def open_again(script: Script, finding: Finding) -> Script:
    """The script in which a finding that was kept is open again."""
    return replace(script, kept=_without(script.kept, finding))


def _without(kept: Iterable[Kept], finding: Finding) -> tuple[Kept, ...]:
    return tuple(one for one in kept if (one.code, one.item) != (finding.code, finding.item))
