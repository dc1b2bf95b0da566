"""What is said and breathed in a phase of a rep, a breath or a pulse."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text
from extendum.core.model.placeholders import check_placeholders


class PhaseBreath(StrEnum):
    """How one breathes during a phase."""

    FREE = "free"
    IN = "in"
    OUT = "out"


#: What is said of a breath that has no words of its own.
BREATH_WORDS = {PhaseBreath.IN: "Breathe in.", PhaseBreath.OUT: "Breathe out."}


@dataclass(frozen=True, slots=True)
class PhaseWords(Checked):
    """The words of a phase, and the breath that goes with it: ``Inhale, arch up.``"""

    phase: str = text(40, shortest=1)
    words: str = text(200, "")
    breath: PhaseBreath = PhaseBreath.FREE
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words)
        if not self.said:
            raise RefusedError("words", "given where the phase has no breath of its own", "nothing")

    @property
    def said(self) -> str:
        """What is spoken in the phase: its words, or else its breath."""
        return self.words or BREATH_WORDS.get(self.breath, "")


def check_says(says: Sequence[PhaseWords], phases: Sequence[str], *, breathes: bool) -> None:
    """Refuse words for a phase that a dose does not have, two for one, and a breath within a breath."""
    for n, one in enumerate(says):
        if one.phase not in phases:
            raise RefusedError(f"says[{n}].phase", "one of " + ", ".join(phases), one.phase)
        if any(one.phase == before.phase for before in says[:n]):
            raise RefusedError(f"says[{n}].phase", "a phase that has no words yet", one.phase)
        if breathes and one.breath is not PhaseBreath.FREE:
            raise RefusedError(f"says[{n}].breath", "free, as the phases of a breath are breathing", one.breath.value)
