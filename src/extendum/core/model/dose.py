"""How long a pass lasts: six kinds of dose, each elastic in its own unit.

Inside a pass, time is integer milliseconds; a pass lasts whole seconds, rounded up, and its last
phase absorbs the rest. That is why 5.5 breaths a minute works.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, ClassVar, Self

from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.phases import PhaseWords, check_says

MOST_COUNT = 500
LONGEST_PHASE_S = 120
SAY_FIRST = "in so many of the first, and again in the last, the words of the phases are said"


@dataclass(frozen=True, slots=True)
class Beat:
    """A phase inside a pass: milliseconds from its start, its name, and the count from 1."""

    start_ms: int
    end_ms: int
    phase: str
    count: int


class _Cycles(Checked):
    """A dose as cycles of phases, of which the last may lack its end; a second that only passes is a cycle too."""

    __slots__ = ()

    @property
    def cycle_ms(self) -> int:
        """Milliseconds of one cycle."""
        return 1000

    @property
    def lacks_ms(self) -> int:
        """Milliseconds that the last cycle of a pass lacks."""
        return 0

    @property
    def measure(self) -> str:
        """What its quantity is measured in."""
        return "s"

    def many(self, value: int) -> int:
        """How many cycles a value of the quantity means."""
        return value

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        return self.many(value) * self.cycle_ms - self.lacks_ms


class _Lasting(_Cycles):
    """A dose whose quantity is seconds."""

    __slots__ = ()
    unit: ClassVar[str] = "s"
    seconds: Elastic

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: seconds."""
        return self.seconds

    def having(self, quantity: Elastic) -> Self:
        """The same dose with another quantity."""
        changed: Any = replace(self, seconds=quantity)  # type: ignore[type-var]
        return changed  # type: ignore[no-any-return]

    def beats(self, many: int) -> Iterator[Beat]:
        """Time that only passes has no beats."""
        return iter(())


class _Counted(_Cycles):
    """A dose whose quantity is a count of cycles of phases."""

    __slots__ = ()
    unit: ClassVar[str]
    breathes: ClassVar[bool] = False
    count: Elastic
    stretches: str
    stretch_s: Elastic | None
    says: tuple[PhaseWords, ...]
    say_first: int

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.count.least < 1:
            raise RefusedError("count.least", "at least 1", self.count.least)
        if self.count.most > MOST_COUNT:
            raise RefusedError("count.most", f"at most {MOST_COUNT}", self.count.most)
        self._check_stretch()
        if self.says:
            check_says(self.says, [name for name, _ in self.named_phases], breathes=self.breathes)

    def told_in(self, phase: str) -> PhaseWords | None:
        """What is said and breathed in one of its phases."""
        return next((one for one in self.says if one.phase == phase), None)

    def _check_stretch(self) -> None:
        if bool(self.stretches) is (self.stretch_s is None):
            raise RefusedError("stretch_s", "given with the phase that stretches, and only then", self.stretches)
        if self.stretch_s is not None and self.stretches not in (name for name, _ in self._written):
            raise RefusedError("stretches", "one of " + ", ".join(name for name, _ in self._written), self.stretches)
        if self.stretch_s is not None and not 1 <= self.stretch_s.least <= self.stretch_s.most <= LONGEST_PHASE_S:
            found = f"{self.stretch_s.least} to {self.stretch_s.most}"
            raise RefusedError("stretch_s", f"limits from 1 to {LONGEST_PHASE_S} s", found)

    @property
    def _written(self) -> tuple[tuple[str, int], ...]:
        """The phases of one cycle as they are written, in milliseconds."""
        raise NotImplementedError

    @property
    def named_phases(self) -> tuple[tuple[str, int], ...]:
        """The phases of one cycle as they are now, in milliseconds."""
        if self.stretch_s is None:
            return self._written
        now = self.stretch_s.value * 1000
        return tuple((name, now if name == self.stretches else ms) for name, ms in self._written)

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: how many, or the seconds of the phase that stretches."""
        return self.count if self.stretch_s is None else self.stretch_s

    @property
    def measure(self) -> str:
        """What its quantity is measured in."""
        return self.unit if self.stretch_s is None else "s"

    def many(self, value: int) -> int:
        """How many cycles a value of the quantity means: as many as it has where a phase stretches."""
        return value if self.stretch_s is None else self.count.value

    def at(self, value: int) -> Self:
        """The dose at a value of its quantity."""
        return self if self.quantity.value == value else self.having(self.quantity.at(value))

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        now = self.at(value) if self.stretch_s is not None else self
        return now.many(value) * now.cycle_ms - now.lacks_ms

    def having(self, quantity: Elastic) -> Self:
        """The same dose with another quantity."""
        field = "count" if self.stretch_s is None else "stretch_s"
        changed: Any = replace(self, **{field: quantity})  # type: ignore[type-var]
        return changed  # type: ignore[no-any-return]

    @property
    def cycle_ms(self) -> int:
        """Milliseconds of one cycle."""
        return sum(ms for _, ms in self.named_phases)

    def beats(self, many: int) -> Iterator[Beat]:
        """Each phase of so many cycles; the last one lasts to the end of the pass's last second."""
        total_ms = many * self.cycle_ms - self.lacks_ms
        end_ms = -(-total_ms // 1000) * 1000
        at = 0
        for n in range(1, many + 1):
            for name, ms in self.named_phases:
                if ms and at < total_ms:
                    last = at + ms >= total_ms
                    yield Beat(at, end_ms if last else at + ms, name, n)
                    at += ms


@dataclass(frozen=True, slots=True)
class Hold(_Lasting):
    """Stay for a number of seconds, or with ``snap`` for the nearest number of whole breaths."""

    tag: ClassVar[str] = "hold"
    settles: ClassVar[bool] = True

    seconds: Elastic
    snap: bool = False
    extra: Extra = extra()


class Manner(StrEnum):
    """How the time of a timed dose is spent."""

    STEADY = "steady"
    ALTERNATING = "alternating"
    HALVES = "switching at half"


@dataclass(frozen=True, slots=True)
class Timed(_Lasting):
    """Move for a number of seconds: steadily, from side to side, or one side for each half."""

    tag: ClassVar[str] = "timed"
    settles: ClassVar[bool] = False

    seconds: Elastic
    manner: Manner = Manner.STEADY
    reps_least: int = whole(0, MOST_COUNT, 0, "at each one's own pace, from so many reps; 0: not counted in reps")
    reps_most: int = whole(0, MOST_COUNT, 0, "at each one's own pace, to so many reps")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.reps_least > self.reps_most or bool(self.reps_least) is not bool(self.reps_most):
            raise RefusedError("reps_most", f"at least the {self.reps_least} of reps_least, or both 0", self.reps_most)

    @property
    def own_pace(self) -> bool:
        """Whether everybody does a number of reps at a pace of their own."""
        return self.reps_most > 0

    @property
    def reps_told(self) -> str:
        """From how many to how many: ``5 to 8``."""
        return f"{self.reps_least} to {self.reps_most}" if self.reps_least < self.reps_most else f"{self.reps_most}"


@dataclass(frozen=True, slots=True)
class Open(_Lasting):
    """Until the teacher moves on; the seconds are what is planned for it."""

    tag: ClassVar[str] = "open"
    settles: ClassVar[bool] = True

    seconds: Elastic
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Phase(Checked):
    """One phase of a pulsed hold, such as contract or relax."""

    name: str = text(40, shortest=1)
    ms: int = whole(500, 120_000)
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Pulses(_Counted):
    """Short holds repeated: n x (hold + release), without the last release."""

    tag: ClassVar[str] = "pulses"
    unit: ClassVar[str] = "pulses"
    settles: ClassVar[bool] = True

    count: Elastic
    phases: tuple[Phase, ...] = (Phase("contract", 6000), Phase("relax", 4000))
    says: tuple[PhaseWords, ...] = ()
    say_first: int = whole(0, 20, 2, SAY_FIRST)
    stretches: str = text(40, "", "the phase whose seconds give, instead of how many there are")
    stretch_s: Elastic | None = None
    extra: Extra = extra()

    def __post_init__(self) -> None:
        if not 1 <= len(self.phases) <= 4:
            raise RefusedError("phases", "one to four phases", f"{len(self.phases)}")
        _Counted.__post_init__(self)

    @property
    def _written(self) -> tuple[tuple[str, int], ...]:
        """The phases of one pulse."""
        return tuple((phase.name, phase.ms) for phase in self.phases)

    @property
    def lacks_ms(self) -> int:
        """Milliseconds of the last release: it belongs to coming out."""
        return self.named_phases[-1][1] if len(self.phases) > 1 else 0


@dataclass(frozen=True, slots=True)
class Reps(_Counted):
    """A counted movement with a tempo: out, pause, back, pause."""

    tag: ClassVar[str] = "reps"
    unit: ClassVar[str] = "reps"
    settles: ClassVar[bool] = False

    count: Elastic
    out_ms: int = whole(100, 60_000, 2000)
    stay_ms: int = whole(0, 60_000, 0)
    back_ms: int = whole(100, 60_000, 2000)
    rest_ms: int = whole(0, 60_000, 0)
    counts: int = whole(0, 16, 0, "counts inside a rep, spread evenly over it")
    says: tuple[PhaseWords, ...] = ()
    say_first: int = whole(0, 20, 2, SAY_FIRST)
    stretches: str = text(40, "", "the phase whose seconds give, instead of how many there are")
    stretch_s: Elastic | None = None
    extra: Extra = extra()

    @property
    def _written(self) -> tuple[tuple[str, int], ...]:
        """Out, stay, back and rest."""
        return (("out", self.out_ms), ("stay", self.stay_ms), ("back", self.back_ms), ("rest", self.rest_ms))


@dataclass(frozen=True, slots=True)
class Breaths(_Counted):
    """A number of breaths in a pattern: in, hold, out, hold."""

    tag: ClassVar[str] = "breaths"
    unit: ClassVar[str] = "breaths"
    breathes: ClassVar[bool] = True
    settles: ClassVar[bool] = False

    count: Elastic
    in_ms: int = whole(500, 30_000, 4000)
    full_ms: int = whole(0, 30_000, 0)
    out_ms: int = whole(500, 30_000, 6000)
    empty_ms: int = whole(0, 30_000, 0)
    says: tuple[PhaseWords, ...] = ()
    say_first: int = whole(0, 20, 2, SAY_FIRST)
    stretches: str = text(40, "", "the phase whose seconds give, instead of how many there are")
    stretch_s: Elastic | None = None
    extra: Extra = extra()

    @property
    def _written(self) -> tuple[tuple[str, int], ...]:
        """In, full, out and empty."""
        return (("in", self.in_ms), ("full", self.full_ms), ("out", self.out_ms), ("empty", self.empty_ms))


Dose = Hold | Pulses | Reps | Breaths | Timed | Open
COUNTED = (Pulses, Reps, Breaths)
#: Every kind, in the order in which they are offered.
KINDS: tuple[type[Dose], ...] = (Hold, Pulses, Reps, Breaths, Timed, Open)


def pass_seconds(dose: Dose, value: int | None = None) -> int:
    """Whole seconds of one pass, at its present value or another."""
    ms = dose.pass_ms(dose.quantity.value if value is None else value)
    return -(-ms // 1000)
