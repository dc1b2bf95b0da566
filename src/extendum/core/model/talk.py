"""Time without a move: talk, check-ins, rests, water, props; and the quiet that gives."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import ClassVar

from extendum.core.model.elastic import Elastic
from extendum.core.model.fields import Checked, Extra, extra, identifier, text
from extendum.core.model.keeping import Keep, Leavable, Matters
from extendum.core.model.marks import check_waits
from extendum.core.model.move import Prop
from extendum.core.model.notes import Note
from extendum.core.model.placeholders import TALK_PLACEHOLDERS, check_placeholders


class TalkKind(StrEnum):
    """What time without a move is for."""

    TALK = "talk"
    CHECK_IN = "check-in"
    NOTICE = "notice"
    RECHECK = "recheck"
    REST = "rest"
    WATER = "water"
    PROPS = "props"
    STATION = "station"


class TalkPace(StrEnum):
    """How the sentences of a talk lie in its time."""

    USUAL = "as usual"
    IN_A_ROW = "in a row"
    SPREAD = "spread out"


#: Times in which the class is asked something: their sentences are spread out as usual.
_ASKING = (TalkKind.CHECK_IN, TalkKind.NOTICE, TalkKind.RECHECK)


@dataclass(frozen=True, slots=True)
class Talk(Leavable, Checked):
    """Time without a move: talk, check-in, notice pause, recheck, rest, water, props, change of station."""

    tag: ClassVar[str] = "talk"

    id: str = identifier()
    seconds: Elastic  # type: ignore[misc] # identifier() above sets bounds, not a default
    words: str = text(4000, "")
    name: str = text(200, "Talk", shortest=1)
    kind: TalkKind = TalkKind.TALK
    picks_up: tuple[Prop, ...] = ()
    puts_down: tuple[str, ...] = ()
    between: bool = False
    keep: Keep = Keep.ALWAYS
    dropped: bool = False
    matters: Matters = Matters.AS_OTHERS
    pace: TalkPace = TalkPace.USUAL
    notes: tuple[Note, ...] = ()
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_placeholders("words", self.words, TALK_PLACEHOLDERS)
        check_waits("words", self.words)

    @property
    def spreads(self) -> bool:
        """Whether silence that no wait has taken lies between its sentences, and not after them."""
        usual = self.pace is TalkPace.USUAL and self.kind in _ASKING
        return usual or self.pace is TalkPace.SPREAD

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Talk:
        """The same item with different seconds."""
        return replace(self, seconds=quantity)


@dataclass(frozen=True, slots=True)
class Quiet(Checked):
    """Silence that gives: every class closes with one, or half of its lengths are out of reach."""

    tag: ClassVar[str] = "quiet"

    id: str = identifier()
    seconds: Elastic = Elastic(0, 6, 20)
    name: str = text(200, "Closing quiet", shortest=1)
    extra: Extra = extra()

    @property
    def present(self) -> bool:
        """Quiet is always in: it can be nothing."""
        return True

    @property
    def matters(self) -> Matters:
        """Quiet matters as the others."""
        return Matters.AS_OTHERS

    @property
    def quantity(self) -> Elastic:
        """The elastic seconds."""
        return self.seconds

    def having(self, quantity: Elastic, stage: int = 1) -> Quiet:
        """The same item with different seconds."""
        return replace(self, seconds=quantity)
