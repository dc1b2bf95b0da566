"""How long a pass lasts: six kinds of dose, each elastic in its own unit.

Inside a pass, time is integer milliseconds; a pass lasts whole seconds, rounded up, and its last
phase absorbs the rest. That is why 5.5 breaths a minute works.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, ClassVar, Self

from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole

LONGEST_HOLD_S = 7200
MOST_COUNT = 500


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

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        return value * self.cycle_ms - self.lacks_ms


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

    def beats(self, value: int) -> Iterator[Beat]:
        """Time that only passes has no beats."""
        return iter(())


class _Counted(_Cycles):
    """A dose whose quantity is a count of cycles of phases."""

    __slots__ = ()
    count: Elastic

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.count.least < 1:
            raise RefusedError("count.least", "at least 1", self.count.least)
        if self.count.most > MOST_COUNT:
            raise RefusedError("count.most", f"at most {MOST_COUNT}", self.count.most)

    @property
    def named_phases(self) -> tuple[tuple[str, int], ...]:
        """The phases of one cycle, in milliseconds."""
        raise NotImplementedError

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: how many."""
        return self.count

    def having(self, quantity: Elastic) -> Self:
        """The same dose with another quantity."""
        changed: Any = replace(self, count=quantity)  # type: ignore[type-var]
        return changed  # type: ignore[no-any-return]

    @property
    def cycle_ms(self) -> int:
        """Milliseconds of one cycle."""
        return sum(ms for _, ms in self.named_phases)

    def beats(self, value: int) -> Iterator[Beat]:
        """Each phase of each cycle; the last one lasts to the end of the pass's last second."""
        total_ms, end_ms = self.pass_ms(value), -(-self.pass_ms(value) // 1000) * 1000
        at = 0
        for n in range(1, value + 1):
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
    extra: Extra = extra()


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
    extra: Extra = extra()

    def __post_init__(self) -> None:
        _Counted.__post_init__(self)
        if not 1 <= len(self.phases) <= 4:
            raise RefusedError("phases", "one to four phases", f"{len(self.phases)}")

    @property
    def named_phases(self) -> tuple[tuple[str, int], ...]:
        """The phases of one pulse."""
        return tuple((phase.name, phase.ms) for phase in self.phases)

    @property
    def lacks_ms(self) -> int:
        """Milliseconds of the last release: it belongs to coming out."""
        return self.phases[-1].ms if len(self.phases) > 1 else 0


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
    extra: Extra = extra()

    @property
    def named_phases(self) -> tuple[tuple[str, int], ...]:
        """Out, stay, back and rest."""
        return (("out", self.out_ms), ("stay", self.stay_ms), ("back", self.back_ms), ("rest", self.rest_ms))


@dataclass(frozen=True, slots=True)
class Breaths(_Counted):
    """A number of breaths in a pattern: in, hold, out, hold."""

    tag: ClassVar[str] = "breaths"
    unit: ClassVar[str] = "breaths"
    settles: ClassVar[bool] = False

    count: Elastic
    in_ms: int = whole(500, 30_000, 4000)
    full_ms: int = whole(0, 30_000, 0)
    out_ms: int = whole(500, 30_000, 6000)
    empty_ms: int = whole(0, 30_000, 0)
    extra: Extra = extra()

    @property
    def named_phases(self) -> tuple[tuple[str, int], ...]:
        """In, full, out and empty."""
        return (("in", self.in_ms), ("full", self.full_ms), ("out", self.out_ms), ("empty", self.empty_ms))


Dose = Hold | Pulses | Reps | Breaths | Timed | Open
COUNTED = (Pulses, Reps, Breaths)
#: Every kind, in the order in which they are offered.
KINDS: tuple[type[Dose], ...] = (Hold, Pulses, Reps, Breaths, Timed, Open)
#: Seconds of one rep, breath or pulse, by which a dose of another kind lasts about as long.
_ABOUT_S = {Reps: 4, Breaths: 10, Pulses: 10}


def pass_seconds(dose: Dose, value: int | None = None) -> int:
    """Whole seconds of one pass, at its present value or another."""
    ms = dose.pass_ms(dose.quantity.value if value is None else value)
    return -(-ms // 1000)


def describe(dose: Dose) -> str:
    """The dose in a few words: ``30 s``, ``8 reps``, ``1 breath``."""
    value = dose.quantity.value
    unit = dose.unit[:-1] if value == 1 and dose.unit != "s" else dose.unit
    return f"{value} {unit}"


def as_kind(dose: Dose, kind: str) -> Dose:
    """Another kind of dose that lasts about as long, with limits of a half and the double; RefusedError for none."""
    made = next((one for one in KINDS if one.tag == kind), None)
    if made is None:
        raise RefusedError("kind", "one of " + ", ".join(one.tag for one in KINDS), kind)
    seconds = dose.pass_ms(dose.quantity.value) / 1000
    many = seconds / _ABOUT_S[made] if made in _ABOUT_S else max(5, round(seconds / 5) * 5)
    count = max(1, round(many))
    return made(Elastic(max(1, count // 2), count, count * 2))
