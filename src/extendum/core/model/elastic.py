"""A quantity that may give, and what a fit made of it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, whole

LONGEST_HOLD_S = 7200


@dataclass(frozen=True, slots=True)
class Elastic(Checked):
    """A quantity that may give: least <= wanted <= most, what it is now, and whether it is locked.

    ``wanted`` is the teacher's intention; ``now`` is what a fit made of it. A later fit starts
    from ``wanted`` again, so fits never drift.
    """

    least: int = whole(0, LONGEST_HOLD_S)
    wanted: int = whole(0, LONGEST_HOLD_S)
    most: int = whole(0, LONGEST_HOLD_S)
    now: int | None = whole(0, LONGEST_HOLD_S, None, "what it is after a fit; the wanted one if left out")
    locked: bool = False
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.now is None:
            object.__setattr__(self, "now", self.wanted)
        if self.least > self.wanted:
            raise RefusedError("least", f"at most the wanted {self.wanted}", self.least)
        if self.most < self.wanted:
            raise RefusedError("most", f"at least the wanted {self.wanted}", self.most)
        if not self.least <= self.value <= self.most:
            raise RefusedError("now", f"from {self.least} to {self.most}", self.now)

    @property
    def value(self) -> int:
        """What it is now."""
        return self.wanted if self.now is None else self.now

    def at(self, value: int) -> Elastic:
        """As a fit sets it: the intention stays."""
        return Elastic(self.least, self.wanted, self.most, value, self.locked, self.extra)

    def wanting(self, value: int) -> Elastic:
        """As the teacher sets it: the intention moves, and limits move out of its way."""
        return replace(self, least=min(self.least, value), wanted=value, most=max(self.most, value), now=value)

    def typed(self, least: int, wanted: int, most: int) -> Elastic:
        """As all three were typed: a new wish alone moves the limits out of its way; new limits hold what is now."""
        if wanted != self.wanted and (least, most) == (self.least, self.most):
            return self.wanting(wanted)
        value = self.value if wanted == self.wanted else wanted
        return replace(self, least=least, wanted=wanted, most=most, now=min(max(value, least), most))
