"""What a teacher notes for herself: it is shown to her alone, ahead of its time, and never spoken."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.style import Facing


class NoteWhen(StrEnum):
    """The moment that a note is for."""

    BEFORE = "before it"
    START = "as the work begins"
    LATER = "later in the work"
    SWITCH = "at the change of sides"
    END = "as the work ends"


@dataclass(frozen=True, slots=True)
class Note(Checked):
    """A private note: turn side-on, fetch the second strap, show it from behind, close-up.

    A ``facing`` turns the teacher from this moment on. A ``side`` keeps the note to the passes on that side; without
    one it is for the first pass of each visit.
    """

    text: str = text(200, "")
    when: NoteWhen = NoteWhen.BEFORE
    after_s: int = whole(0, 3600, 0, "after the work began, where it comes later in the work")
    side: Side | None = None
    facing: Facing | None = None
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if not self.told:
            raise RefusedError("text", "given where the note does not turn the teacher", "nothing")
        if self.side is Side.BOTH:
            raise RefusedError("side", "left, right or none", self.side.value)

    @property
    def told(self) -> str:
        """What the teacher reads: the text, or how to stand."""
        return self.text or (f"Stand {self.facing}." if self.facing else "")
