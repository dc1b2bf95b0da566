"""What is said around a move, with placeholders instead of sides and numbers."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass, fields
from enum import StrEnum
from functools import lru_cache

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole

#: Every placeholder, and what it is filled with.
PLACEHOLDERS = {
    "side": "the side now worked",
    "other": "the opposite side",
    "direction": "the direction now worked",
    "count": "how many reps or breaths",
    "seconds": "seconds of one pass",
    "next": "the name of the next move",
    "minutes": "the whole minutes that the class lasts",
    "moves": "how many moves the class has",
    "moves_left": "how many moves are still to come",
    "rounds": "how many rounds the group has",
    "needs": "the props that the class uses, and what they must be",
}
#: Those that speak of the whole class.
CLASS_PLACEHOLDERS = frozenset({"next", "minutes", "moves", "moves_left", "rounds", "needs"})
#: All that a talk may use: in a chain it has a side.
TALK_PLACEHOLDERS = CLASS_PLACEHOLDERS | {"side", "other"}
_BRACED = re.compile(r"\{([^{}]*)\}")
#: What is counted, where there is one of it.
_ONE = re.compile(r"(?<![\d.,:])\b1 (?:more )?(?:minutes|moves|rounds|seconds|reps|breaths|times)\b")


class PromptKind(StrEnum):
    """What a prompt is about: it decides where in a hold it may be said."""

    CAUTION = "caution"
    EASIER = "easier"
    FEEL = "feel"
    FORM = "form"
    BREATH = "breath"
    DEEPER = "deeper"
    ENCOURAGEMENT = "encouragement"


#: Said when a move is met for the first time, and never left out when a class takes it up.
FIRST_PASS_ONLY = (PromptKind.CAUTION, PromptKind.EASIER)


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

    def timed(self) -> tuple[str, ...]:
        """The words whose speaking time is part of the class's length."""
        return (self.moving, self.there, self.short, self.switch, self.turn, self.again, self.release)

    def all(self) -> tuple[str, ...]:
        """Every text, prompts too."""
        return (*self.timed(), self.each, self.demonstration, *(prompt.text for prompt in self.prompts))


def check_placeholders(where: str, words: str, allowed: Collection[str] = PLACEHOLDERS) -> None:
    """Refuse a brace that opens no placeholder allowed here, so that none is ever read aloud."""
    for name in _BRACED.findall(words):
        if name not in allowed:
            known = ", ".join("{" + known + "}" for known in PLACEHOLDERS if known in allowed)
            raise RefusedError(where, f"words whose placeholders are among {known}", "{" + name + "}")
    if re.search(r"[{}]", _BRACED.sub("", words)):
        raise RefusedError(where, "words with each { closed by a }", words)


def fill(words: str, facts: Mapping[str, str]) -> str:
    """The words with every placeholder replaced by its fact; one that begins a sentence begins with a capital."""
    if "{" not in words:
        return words

    def told(match: re.Match[str]) -> str:
        fact, before = facts[match.group(1)], words[: match.start()].rstrip()
        return capital(fact) if not before or before[-1] in ".!?" else fact

    words = _ONE.sub(lambda m: m.group().removesuffix("s"), _BRACED.sub(told, words))
    # A side that is not spoken leaves no space behind.
    return re.sub(r" +(?=[ .,;:!?])", "", words).strip()


def capital(words: str) -> str:
    """The words with a capital at their beginning."""
    return words[:1].upper() + words[1:]


@lru_cache(maxsize=8192)
def placeholders(*words: str) -> frozenset[str]:
    """The placeholders that these texts hold."""
    return frozenset(name for text in words for name in _BRACED.findall(text))


def mentions(words: str, names: set[str]) -> bool:
    """Whether the words hold one of these placeholders."""
    return not names.isdisjoint(placeholders(words))
