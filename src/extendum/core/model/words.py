"""What is said around a move, with placeholders instead of sides and numbers."""

from __future__ import annotations

from dataclasses import dataclass, fields

from extendum.core.model.fields import Checked, Extra, extra, text
from extendum.core.model.marks import refuse_waits
from extendum.core.model.placeholders import check_placeholders
from extendum.core.model.prompts import Prompt, Scope


@dataclass(frozen=True, slots=True)
class Words(Checked):
    """Set-up while moving and once there, its short form, switch, change of direction, release, prompts."""

    moving: str = text(1000, "")
    there: str = text(1000, "")
    short: str = text(1000, "", "instead of both in later passes and rounds of the same item")
    switch: str = text(1000, "")
    turn: str = text(1000, "", "at a change of direction")
    again: str = text(1000, "Once more.", "before each further set")
    each: str = text(200, "", "as each side comes in reps or breaths that alternate, where it fits into one")
    release: str = text(1000, "")
    demonstration: str = text(2000, "")
    prompts: tuple[Prompt, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        for field in fields(self):
            value = getattr(self, field.name)
            if isinstance(value, str):
                check_placeholders(field.name, value)
                refuse_waits(field.name, value)

    @property
    def ahead(self) -> tuple[tuple[int, Prompt], ...]:
        """The prompts that are said once everybody is there, before the first pass, with their places among all."""
        return tuple((n, one) for n, one in enumerate(self.prompts) if one.when is Scope.BEFORE)

    def timed(self) -> tuple[str, ...]:
        """The words whose speaking time is part of the class's length."""
        own = (self.moving, self.there, self.short, self.switch, self.turn, self.again, self.release)
        return (*own, *(one.text for _, one in self.ahead)) if self.prompts else own
