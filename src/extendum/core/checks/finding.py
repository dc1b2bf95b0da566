"""What a check is, and what it finds: a place, a plain sentence, the reason, and an edit that would mend it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

from extendum.core.model.script import Script

if TYPE_CHECKING:
    from extendum.core.checks.subject import Subject


class Severity(StrEnum):
    """How much a finding matters."""

    FIX = "fix"
    CONSIDER = "consider"
    NOTE = "note"


class Family(StrEnum):
    """What a check looks at."""

    LENGTH = "length"
    SIDES = "sides"
    WORDS = "words"
    HOLDS = "holds"
    ORDER = "order"
    BREATH = "breath"
    COVERAGE = "coverage"
    SAFETY = "safety"
    PROPS = "props and space"
    RECORDING = "recording"


@dataclass(frozen=True, slots=True)
class Mend:
    """An edit that mends a finding: what it does in a few words, and the change itself.

    The change raises RefusedError where it cannot be made after all. ``instead`` are other ways to the same end, for
    where the first would bring up something else.
    """

    words: str
    change: Callable[[Script], Script]
    instead: tuple[Callable[[Script], Script], ...] = ()


@dataclass(frozen=True, slots=True)
class Found:
    """What a check found at one place: a sentence, the items it is about, the segment, facts and a mend.

    No items: it is about the whole class; no segment: about its first item as a whole. ``severity`` where it
    differs from the check's own.
    """

    message: str
    items: tuple[str, ...] = ()
    segment: str = ""
    facts: tuple[tuple[str, str | int], ...] = ()
    mend: Mend | None = None
    severity: Severity | None = None


@dataclass(frozen=True, slots=True)
class Check:
    """One check: its stable code, how much it matters, and its reason or source."""

    code: str
    family: Family
    severity: Severity
    looks_at: str
    reason: str
    find: Callable[[Subject], Iterator[Found]]


@dataclass(frozen=True, slots=True)
class Finding:
    """What a check found, and why a teacher keeps it as it is (empty while it is open)."""

    check: Check
    found: Found
    because: str = ""

    @property
    def code(self) -> str:
        """The check's code."""
        return self.check.code

    @property
    def severity(self) -> Severity:
        """How much it matters here."""
        return self.found.severity or self.check.severity

    @property
    def item(self) -> str:
        """The first item that it is about; empty for the whole class."""
        return self.found.items[0] if self.found.items else ""

    @property
    def key(self) -> str:
        """Its key on a page: one check finds one thing at one first item."""
        return f"{self.code}.{self.item}" if self.item else self.code


def checked(
    family: Family, code: str, severity: Severity, looks_at: str, reason: str
) -> Callable[[Callable[[Subject], Iterator[Found]]], Check]:
    """Declare a function as a check: what it looks at in a few words, and its reason or source in a sentence."""
    return lambda find: Check(code, family, severity, looks_at, reason, find)
