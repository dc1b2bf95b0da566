"""What is said around a move, with placeholders instead of sides and numbers."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass, fields
from enum import StrEnum

from extendum.core.errors import RefusedError
from extendum.core.fields import Checked, Extra, extra, text, whole

#: Every placeholder, and what it is filled with.
PLACEHOLDERS = {
    "side": "the side now worked",
    "other": "the opposite side",
    "count": "how many reps or breaths",
    "seconds": "seconds of one pass",
    "next": "the name of the next move",
    "minutes": "the whole minutes that the class lasts",
    "moves": "how many moves the class has",
    "moves_left": "how many moves are still to come",
}
#: Those that speak of the whole class: all that a talk may use.
CLASS_PLACEHOLDERS = frozenset({"next", "minutes", "moves", "moves_left"})
_BRACED = re.compile(r"\{([^{}]*)\}")


class PromptKind(StrEnum):
    """What a prompt is about: it decides where in a hold it may be said."""

    CAUTION = "caution"
    EASIER = "easier"
    FEEL = "feel"
    FORM = "form"
    BREATH = "breath"
    DEEPER = "deeper"
    ENCOURAGEMENT = "encouragement"


@dataclass(frozen=True, slots=True)
class Prompt(Checked):
    """One thing to say while the move is done; 1 is said before 5."""

    kind: PromptKind
    text: str = text(400, shortest=1)
    priority: int = whole(1, 5, 3)
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("text", self.text)


@dataclass(frozen=True, slots=True)
class Words(Checked):
    """Set-up while moving and once there, the switch of sides, the release, and prompts."""

    moving: str = text(1000, "")
    there: str = text(1000, "")
    switch: str = text(1000, "")
    release: str = text(1000, "")
    prompts: tuple[Prompt, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        for field in fields(self):
            value = getattr(self, field.name)
            if isinstance(value, str):
                check_placeholders(field.name, value)

    def timed(self) -> tuple[str, str, str, str]:
        """The words whose speaking time is part of the class's length."""
        return (self.moving, self.there, self.switch, self.release)

    def all(self) -> tuple[str, ...]:
        """Every text, prompts too."""
        return (*self.timed(), *(prompt.text for prompt in self.prompts))


def check_placeholders(where: str, words: str, allowed: Collection[str] = PLACEHOLDERS) -> None:
    """Refuse a brace that opens no placeholder allowed here, so that none is ever read aloud."""
    for name in _BRACED.findall(words):
        if name not in allowed:
            known = ", ".join("{" + known + "}" for known in PLACEHOLDERS if known in allowed)
            raise RefusedError(where, f"words whose placeholders are among {known}", "{" + name + "}")
    if re.search(r"[{}]", _BRACED.sub("", words)):
        raise RefusedError(where, "words with each { closed by a }", words)


def fill(words: str, facts: Mapping[str, str]) -> str:
    """The words with every placeholder replaced by its fact."""
    return _BRACED.sub(lambda match: facts[match.group(1)], words) if "{" in words else words


def mentions(words: str, names: set[str]) -> bool:
    """Whether the words hold one of these placeholders."""
    return "{" in words and bool(names.intersection(_BRACED.findall(words)))
