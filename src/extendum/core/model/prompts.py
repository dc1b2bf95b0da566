"""What is said while a move is done: prompts, what each is about, and in which passes it is said."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.marks import refuse_waits
from extendum.core.model.placeholders import check_placeholders

#: How many other wordings a prompt may have beside its text.
MOST_OTHERS = 2


class PromptKind(StrEnum):
    """What a prompt is about: it decides where in a hold it may be said."""

    CAUTION = "caution"
    EASIER = "easier"
    FEEL = "feel"
    FORM = "form"
    BREATH = "breath"
    DEEPER = "deeper"
    ENCOURAGEMENT = "encouragement"
    ADJUST = "adjust"


class Scope(StrEnum):
    """In which passes of its item a prompt is said."""

    USUAL = "as usual"
    BEFORE = "before the first pass"
    FIRST = "first pass"
    EACH_SIDE = "once a side"
    SECOND_SIDE = "second side"
    ROUND = "one round"
    LATER = "later rounds"
    EVERY = "every pass"


#: Said when a move is met for the first time, and never left out when a class takes it up.
FIRST_PASS_ONLY = (PromptKind.CAUTION, PromptKind.EASIER)
_ONCE_A_SIDE = (PromptKind.FEEL, PromptKind.FORM, PromptKind.ADJUST)


@dataclass(frozen=True, slots=True)
class Prompt(Checked):
    """One thing to say while the move is done; 1 is said before 5. Its wordings take turns from side to side."""

    kind: PromptKind
    text: str = text(400, shortest=1)
    priority: int = whole(1, 5, 3)
    when: Scope = Scope.USUAL
    in_round: int = whole(1, 20, 1, "where it is said in one round")
    others: tuple[str, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if len(self.others) > MOST_OTHERS:
            raise RefusedError("others", f"at most {MOST_OTHERS} other wordings", len(self.others))
        for one in self.others:
            if not 1 <= len(one) <= 400:
                raise RefusedError("others", "wordings of 1 to 400 characters", f"{len(one)} characters")
        for one in self.wordings:
            where = "text" if one is self.text else "others"
            check_placeholders(where, one)
            refuse_waits(where, one)

    @property
    def wordings(self) -> tuple[str, ...]:
        """Its text, then its other wordings."""
        return (self.text, *self.others)

    def scope(self, rounds: int) -> Scope:
        """Where it is said in a group of so many rounds: as it was chosen, or as is usual for its kind.

        Cautions and the easier option come before anybody has done it; what to feel and to mind once on each side; a
        deeper one where people know the move: where there are rounds, from the second on.
        """
        if self.when is not Scope.USUAL:
            return self.when
        if self.kind in FIRST_PASS_ONLY:
            return Scope.FIRST
        if self.kind in _ONCE_A_SIDE:
            return Scope.EACH_SIDE
        return Scope.LATER if self.kind is PromptKind.DEEPER and rounds > 1 else Scope.EVERY
