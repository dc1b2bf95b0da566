"""What is heard of a recording: guesses, and the stretches of time that they make."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol


class Line(Protocol):
    """Something said from a time on."""

    @property
    def start(self) -> float:
        """Seconds from the start of the recording."""

    @property
    def text(self) -> str:
        """The words."""


@dataclass(frozen=True, slots=True)
class Word:
    """A word with its time, whether a sentence ends with it, and the line that it is in."""

    at: float
    text: str
    ends: bool
    line: int


class What(StrEnum):
    """What a guess is."""

    MOVE = "move"
    HOLD = "hold"
    RELEASE = "release"
    SIDE = "side"
    SWITCH = "switch"
    HALFWAY = "halfway"
    LEFT = "time left"
    COUNTDOWN = "countdown"
    REPS = "reps"
    BREATH = "breath"


@dataclass(frozen=True, slots=True)
class Guess:
    """Something that was heard: when, what, its value, from which words, how sure it is; of a count its numbers."""

    at: float
    what: What
    value: str
    said: str
    sure: float = 0.9
    number: int = 0
    end: float = 0.0
    slips: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        """What it is known by among the guesses of one text."""
        return f"{self.what}@{self.at:.1f}"

    @property
    def why(self) -> str:
        """Why it is guessed, in words."""
        return f"“{self.said}”" if self.said else f"numbers in a row, {self.value}"


@dataclass(frozen=True, slots=True)
class Stretch:
    """Time that was held or worked: which move, which side, from when to when, and how sure the side is."""

    name: str
    side: str
    start: float
    end: float
    sure: float

    @property
    def seconds(self) -> float:
        """How long it lasted."""
        return self.end - self.start


@dataclass(frozen=True, slots=True)
class Heard:
    """Everything that was heard of a recording."""

    length: float
    guesses: tuple[Guess, ...]
    stretches: tuple[Stretch, ...]

    def of(self, what: What) -> list[Guess]:
        """The guesses of one kind, in order."""
        return [one for one in self.guesses if one.what is what]
