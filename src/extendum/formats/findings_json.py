"""Checks and their findings as plain values, for the command line."""

from __future__ import annotations

from typing import Any

from extendum.core.checks.finding import Check, Finding


def finding_plain(finding: Finding) -> dict[str, Any]:
    """A finding: where it is, what was found and why it matters, and what would mend it (null where nothing would).

    ``item`` is the first of ``items``, null for the whole class; ``segment`` is null where it is about a whole item.
    """
    found = finding.found
    return {
        "code": finding.code,
        "severity": finding.severity.value,
        "item": finding.item or None,
        "items": list(found.items),
        "segment": found.segment or None,
        "message": found.message,
        "facts": [{"name": name, "value": value} for name, value in found.facts],
        "reason": finding.check.reason,
        "remedy": found.mend.words if found.mend else None,
    }


def check_plain(check: Check) -> dict[str, Any]:
    """A check: its code, what it looks at, and why."""
    return {
        "code": check.code,
        "family": check.family.value,
        "severity": check.severity.value,
        "looks_at": check.looks_at,
        "reason": check.reason,
    }
