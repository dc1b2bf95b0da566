"""Moves made ready for a group before anything is planned: what its conditions ask for is said, every word has room.

A move is looked at by itself, at its shortest dose and at its usual one; what the checks find there and can mend is
mended. A move with a finding that stays is left out, as it would bring that finding into every class.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from extendum.core.checks.finding import Family, Finding, Severity
from extendum.core.checks.report import check
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Section
from extendum.core.propose.candidates import Candidate, dosed, timed
from extendum.core.timing.compile import compile_script

#: Remedies in turn for one move; what needs more is not worth it.
MENDED_MOST = 4
_OWN = (Family.WORDS, Family.SAFETY, Family.BREATH)
#: What depends on the moves around it.
_TOGETHER = frozenset({"reminder-often", "instead-unready", "no-slow-rise"})


def made_ready(
    candidate: Candidate, script: Script, library: Sequence[LibraryMove], taken: Callable[[str], str]
) -> Candidate | None:
    """The candidate with its words mended; None where something would stay to fix or to consider."""
    if candidate.given:
        return candidate
    item = candidate.item
    for value in dict.fromkeys((candidate.values[0], candidate.values[candidate.usual])):
        made = _mended(dosed(item, value), script, library, taken)
        if made is None:
            return None
        item = replace(made, dose=item.dose)
    if item == candidate.item:
        return candidate
    return timed(item, script, candidate.parts, candidate.values, candidate.key)


def _mended(
    item: MoveItem, script: Script, library: Sequence[LibraryMove], taken: Callable[[str], str]
) -> MoveItem | None:
    for _ in range(MENDED_MOST):
        alone = _alone(item, script)
        found = list(_found(alone, item, library, taken))
        if not found:
            return item
        for finding in found:
            try:
                after = finding.found.mend.change(alone).item(item.id) if finding.found.mend else item
            except RefusedError:
                continue
            if isinstance(after, MoveItem) and after != item and after.move.key == item.move.key:
                item = after
                break
        else:
            return None
    return None


def _alone(item: MoveItem, script: Script) -> Script:
    """A class of this move alone, where people are ready for it."""
    sections = (Section("s", groups=(Group("g", items=(item,)),)),)
    return replace(script, start_posture=item.move.posture, sections=sections, meanwhiles=(), kept=())


def _found(
    alone: Script, item: MoveItem, library: Sequence[LibraryMove], taken: Callable[[str], str]
) -> Iterator[Finding]:
    """What the checks find in the words of the move itself."""
    for one in check(alone, compile_script(alone), library, taken).open:
        own = one.found.items == (item.id,) and one.check.family in _OWN and one.code not in _TOGETHER
        if own and one.severity is not Severity.NOTE:
            yield one
