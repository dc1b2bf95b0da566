"""How long a pass lasts: holds, reps and breaths, each elastic in its own unit.

Inside a pass, time is integer milliseconds; a pass lasts whole seconds, rounded up, and its last
phase absorbs the rest. That is why 5.5 breaths a minute works.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

from extendum.core.errors import RefusedError
from extendum.core.fields import Checked, Extra, extra, whole

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

    def values(self) -> range:
        """What a fit may choose from."""
        return range(self.value, self.value + 1) if self.locked else range(self.least, self.most + 1)

    def at(self, value: int) -> Elastic:
        """As a fit sets it: the intention stays."""
        return replace(self, now=value)

    def wanting(self, value: int) -> Elastic:
        """As the teacher sets it: the intention moves, and limits move out of its way."""
        return replace(self, least=min(self.least, value), wanted=value, most=max(self.most, value), now=value)


@dataclass(frozen=True, slots=True)
class Beat:
    """A moment inside a pass: milliseconds from its start, what begins there, and the count from 1."""

    start_ms: int
    end_ms: int
    phase: str
    count: int


@dataclass(frozen=True, slots=True)
class Hold(Checked):
    """Stay for a number of seconds."""

    tag: ClassVar[str] = "hold"
    unit: ClassVar[str] = "s"
    settles: ClassVar[bool] = True

    seconds: Elastic
    extra: Extra = extra()

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: seconds."""
        return self.seconds

    def having(self, quantity: Elastic) -> Hold:
        """The same dose with another quantity."""
        return replace(self, seconds=quantity)

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        return value * 1000

    def beats(self, value: int) -> Iterator[Beat]:
        """A hold has no beats."""
        return iter(())


def _cycles(phases: tuple[tuple[str, int], ...], count: int, end_ms: int) -> Iterator[Beat]:
    at = 0
    lasting = [(name, ms) for name, ms in phases if ms]
    for n in range(1, count + 1):
        for index, (name, ms) in enumerate(lasting):
            last = n == count and index == len(lasting) - 1
            yield Beat(at, end_ms if last else at + ms, name, n)
            at += ms


@dataclass(frozen=True, slots=True)
class Reps(Checked):
    """A counted movement with a tempo: out, pause, back, pause."""

    tag: ClassVar[str] = "reps"
    unit: ClassVar[str] = "reps"
    settles: ClassVar[bool] = False

    count: Elastic
    out_ms: int = whole(100, 60_000, 2000)
    stay_ms: int = whole(0, 60_000, 0)
    back_ms: int = whole(100, 60_000, 2000)
    rest_ms: int = whole(0, 60_000, 0)
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_count(self.count)

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: how many."""
        return self.count

    def having(self, quantity: Elastic) -> Reps:
        """The same dose with another quantity."""
        return replace(self, count=quantity)

    @property
    def cycle_ms(self) -> int:
        """Milliseconds of one rep."""
        return self.out_ms + self.stay_ms + self.back_ms + self.rest_ms

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        return value * self.cycle_ms

    def beats(self, value: int) -> Iterator[Beat]:
        """Each phase of each rep; the last one lasts to the end of the pass's last second."""
        phases = (
            ("out", self.out_ms),
            ("stay", self.stay_ms),
            ("back", self.back_ms),
            ("rest", self.rest_ms),
        )
        return _cycles(phases, value, pass_seconds(self, value) * 1000)


@dataclass(frozen=True, slots=True)
class Breaths(Checked):
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

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_count(self.count)

    @property
    def quantity(self) -> Elastic:
        """The elastic quantity: how many."""
        return self.count

    def having(self, quantity: Elastic) -> Breaths:
        """The same dose with another quantity."""
        return replace(self, count=quantity)

    @property
    def cycle_ms(self) -> int:
        """Milliseconds of one breath."""
        return self.in_ms + self.full_ms + self.out_ms + self.empty_ms

    def pass_ms(self, value: int) -> int:
        """Milliseconds of one pass at this value of the quantity."""
        return value * self.cycle_ms

    def beats(self, value: int) -> Iterator[Beat]:
        """Each phase of each breath; the last one lasts to the end of the pass's last second."""
        phases = (
            ("in", self.in_ms),
            ("full", self.full_ms),
            ("out", self.out_ms),
            ("empty", self.empty_ms),
        )
        return _cycles(phases, value, pass_seconds(self, value) * 1000)


Dose = Hold | Reps | Breaths


def check_count(quantity: Elastic) -> None:
    """A counted dose has at least one and at most MOST_COUNT."""
    if quantity.least < 1:
        raise RefusedError("count.least", "at least 1", quantity.least)
    if quantity.most > MOST_COUNT:
        raise RefusedError("count.most", f"at most {MOST_COUNT}", quantity.most)


def pass_seconds(dose: Dose, value: int | None = None) -> int:
    """Whole seconds of one pass, at its present value or another."""
    ms = dose.pass_ms(dose.quantity.value if value is None else value)
    return -(-ms // 1000)


def describe(dose: Dose) -> str:
    """The dose in a few words: ``30 s``, ``8 reps``, ``1 breath``."""
    value = dose.quantity.value
    unit = dose.unit[:-1] if value == 1 and dose.unit != "s" else dose.unit
    return f"{value} {unit}"
