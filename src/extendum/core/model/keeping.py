"""Whether an item stays in a class, and how much it matters when something has to give."""

from __future__ import annotations

from enum import StrEnum


class Keep(StrEnum):
    """Whether an item is always in the class, may be left out by a fit, or is left out by hand."""

    ALWAYS = "always in"
    OPTIONAL = "may be left out"
    OUT = "left out"


class Matters(StrEnum):
    """How much an item matters to the teacher when something has to give."""

    LESS = "matters less"
    AS_OTHERS = "as the others"
    MOST = "matters most"

    @property
    def halves(self) -> int:
        """Its weight in a fit, in halves: a half, one, two."""
        return {Matters.LESS: 1, Matters.MOST: 4}.get(self, 2)


class Leavable:
    """An item that can be left out: by hand, or by a fit where it is optional."""

    __slots__ = ()
    keep: Keep
    dropped: bool

    @property
    def present(self) -> bool:
        """Whether it is in the class now."""
        return self.keep is Keep.ALWAYS or (self.keep is Keep.OPTIONAL and not self.dropped)
