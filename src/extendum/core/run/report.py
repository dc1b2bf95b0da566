"""What really happened in a run, against what was planned: where the time went, the sides, what was left out or put in.

Every millisecond of the run belongs to exactly one cause, so that the causes always add up to the difference.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from types import MappingProxyType

from extendum.core.fit.explain import names
from extendum.core.model.body import Side
from extendum.core.model.item import Item
from extendum.core.model.script import Script
from extendum.core.model.timeline import Segment, SegmentKind, Timeline, clock
from extendum.core.run.log import Spent, spent
from extendum.core.run.otherwise import Otherwise, otherwise
from extendum.core.run.state import Event, Run, Span
from extendum.core.run.steps import Step, steps_of

_NOTHING: Mapping[str, str] = MappingProxyType({})
#: Sides that differ by less are told as the same; so is a class that ends so near its plan.
SAME_S = 3
#: So many are named one by one.
MOST_NAMED = 4


class Cause(StrEnum):
    """Where a difference to the plan comes from."""

    WAYS = "getting there and set-up"
    TALK = "talk"
    WORK = "holds and counts"
    CAUGHT_UP = "catching up"
    AGAIN = "done again"
    PUT_IN = "added"
    SKIPPED = "skipped"
    NOT_REACHED = "not reached"
    PAUSED = "paused"


@dataclass(frozen=True, slots=True)
class Line:
    """One step as planned and as it was, in milliseconds; None was not planned."""

    step: Step
    name: str
    kind: SegmentKind
    planned_ms: int | None
    spent: Spent
    cause: Cause

    @property
    def off_ms(self) -> int:
        """What it took more than planned, pauses apart."""
        return self.spent.on - (self.planned_ms or 0)


@dataclass(frozen=True, slots=True)
class Sides:
    """What the sides of a move really got, in milliseconds."""

    item: str
    name: str
    left_ms: int
    right_ms: int

    @property
    def apart_s(self) -> int:
        """How far the sides are apart."""
        return round(abs(self.left_ms - self.right_ms) / 1000)


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A move of which so many of its parts (sides, directions, sets, rounds) were not done."""

    item: str
    name: str
    parts: int
    of: int

    @property
    def how_much(self) -> str:
        """How much of it: "3 of 4 parts"; empty for all of it."""
        return f"{self.parts} of {self.of} parts" if self.parts < self.of else ""

    def __str__(self) -> str:
        return f"{self.name} ({self.how_much})" if self.how_much else self.name


def off_words(seconds: int) -> str:
    """How far from a plan, as it is said: "25 s over", "2:05 under", "as planned"."""
    if abs(seconds) < SAME_S:
        return "as planned"
    far = f"{abs(seconds)} s" if abs(seconds) < 100 else clock(abs(seconds))
    return f"{far} {'over' if seconds > 0 else 'under'}"


@dataclass(frozen=True, slots=True)
class Report:
    """A run against its plan."""

    planned_ms: int
    real_ms: int
    lines: tuple[Line, ...]
    causes: Mapping[Cause, int]
    sides: tuple[Sides, ...]
    skipped: tuple[LeftOut, ...]
    not_reached: tuple[LeftOut, ...]
    longer: tuple[tuple[str, int], ...]
    cut_short: tuple[tuple[str, int], ...]
    put_in: tuple[str, ...]
    otherwise: Otherwise

    @property
    def off_s(self) -> int:
        """Seconds over the plan, or under it."""
        return round(self.real_ms / 1000) - self.planned_ms // 1000

    @property
    def broken_off(self) -> bool:
        """Whether it ended before half of its plan: it tells nothing about how long the class usually takes."""
        return self.real_ms < self.planned_ms / 2

    @property
    def uneven(self) -> tuple[Sides, ...]:
        """The moves whose sides did not get the same."""
        return tuple(one for one in self.sides if one.apart_s >= SAME_S)

    def facts(self) -> tuple[str, str, str]:
        """Three sentences: how long and why, the sides, and what was done otherwise."""
        return self._length(), self._both_sides(), self._otherwise()

    def _length(self) -> str:
        real = clock(round(self.real_ms / 1000))
        if abs(self.off_s) < SAME_S:
            return f"{real}, as planned."
        over = self.off_s > 0
        most = max(self.causes, key=lambda one: self.causes[one] * (1 if over else -1))
        told = f"{real} instead of {clock(self.planned_ms // 1000)}: {off_words(self.off_s)}"
        return f"{told}, most of it {most} ({round(abs(self.causes[most]) / 1000)} s)."

    def _both_sides(self) -> str:
        if not self.sides:
            return "No move was done one side at a time."
        if not self.uneven:
            return "Both sides got the same in every move."
        worst = max(self.uneven, key=lambda one: one.apart_s)
        more = f"; {len(self.uneven) - 1} more" if len(self.uneven) > 1 else ""
        return f"{worst.name}: left {_s(worst.left_ms)}, right {_s(worst.right_ms)}{more}."

    def _otherwise(self) -> str:
        told = [f"skipped: {names(_first(self.skipped))}"] if self.skipped else []
        told += [f"not reached: {names(_first(self.not_reached))}"] if self.not_reached else []
        told += [f"longer: {names(_seconds_of(self.longer))}"] if self.longer else []
        told += [f"cut short: {names(_seconds_of(self.cut_short))}"] if self.cut_short else []
        told += [f"added: {names(self.put_in)}"] if self.put_in else []
        easier, deeper, instead = self.otherwise
        told += [f"easier: {names(easier)}"] if easier else []
        told += [f"deeper: {names(deeper)}"] if deeper else []
        told += [f"instead: {names(instead)}"] if instead else []
        whole = "; ".join(told)
        return f"{whole[0].upper()}{whole[1:]}." if told else "Every move went as planned."


def _seconds_of(some: Sequence[tuple[str, int]]) -> Sequence[str]:
    return [f"{name} by {seconds} s" for name, seconds in some]


def _first(some: Sequence[LeftOut]) -> Sequence[str]:
    """The first of them, and how many more there are."""
    more, told = len(some) - MOST_NAMED, [str(one) for one in some]
    return (*told[:MOST_NAMED], f"{more} more") if more > 1 else told


_TALKS = frozenset(
    {
        SegmentKind.TALK,
        SegmentKind.CHECK_IN,
        SegmentKind.NOTICE,
        SegmentKind.RECHECK,
        SegmentKind.PROPS,
        SegmentKind.STATION,
        SegmentKind.QUIET,
        SegmentKind.REST,
        SegmentKind.DEMONSTRATION,
    }
)


def report(
    script: Script, timeline: Timeline, run: Run, events: Iterable[Event], brought: Mapping[str, str] = _NOTHING
) -> Report:
    """What became of a class; ``run`` is the fold of the events over the steps of the timeline, at its end.

    ``brought``: the names of moves that came from the tray, by item.
    """
    planned = {segment.id: segment for segment in timeline.segments}
    happened = spent(run)
    fitted = {event.step for event in events if event.kind == "fit"}
    again = _come_again(run.log)
    items = {item.id: item for item in script.items()}
    called = {**brought, **{item.id: item.name for item in script.items()}}
    coming = _coming(run)
    lines = tuple(
        _line(step, planned, happened, fitted, again, called, coming)
        for step in _steps(run, steps_of(script, timeline))
    )
    work = _work(lines)
    more = {item: round(sum(line.off_ms for line in some if line.spent.on) / 1000) for item, some in work.items()}
    put_in = dict.fromkeys(line.name for line in lines if line.planned_ms is None and line.spent.on)
    return Report(
        timeline.length_s * 1000,
        sum(span.end - span.start for span in run.log),
        lines,
        _causes(lines),
        tuple(_sides(script, work)),
        _parts_without(Cause.SKIPPED, work),
        _parts_without(Cause.NOT_REACHED, work),
        tuple((items[item].name, seconds) for item, seconds in more.items() if seconds >= SAME_S),
        _cut_short(items, work),
        tuple(put_in),
        otherwise(run, items),
    )


def _causes(lines: Iterable[Line]) -> Mapping[Cause, int]:
    """How many milliseconds more than planned each cause took."""
    found = dict.fromkeys(Cause, 0)
    for line in lines:
        found[line.cause] += line.off_ms
        found[Cause.PAUSED] += line.spent.paused
    return found


def _work(lines: Iterable[Line]) -> dict[str, list[Line]]:
    """The planned work of each item."""
    found: dict[str, list[Line]] = {}
    for line in lines:
        if line.step.works and line.planned_ms is not None:
            found.setdefault(line.step.item, []).append(line)
    return found


def _cut_short(items: Mapping[str, Item], work: Mapping[str, Sequence[Line]]) -> tuple[tuple[str, int], ...]:
    """The items that were begun and left early, with the seconds; what catching up took is not among them."""
    found = []
    for item, some in work.items():
        begun = [line for line in some if line.spent.on and line.cause is Cause.WORK and not line.step.waits]
        seconds = round(-sum(line.off_ms for line in begun) / 1000)
        if seconds >= SAME_S:
            found.append((items[item].name, seconds))
    return tuple(found)


def _parts_without(cause: Cause, work: Mapping[str, Sequence[Line]]) -> tuple[LeftOut, ...]:
    """The moves of which parts were skipped, or not reached."""
    found = []
    for item, some in work.items():
        parts = {line.step.group for line in some}
        without = {line.step.group for line in some if line.cause is cause}
        without -= {line.step.group for line in some if line.spent.on}
        if without:
            found.append(LeftOut(item, some[0].name, len(without), len(parts)))
    return tuple(found)


def _coming(run: Run) -> frozenset[str]:
    """The steps that were not reached: those after the one that is on, or in which the class was ended by hand."""
    if run.ended and not run.stopped:
        return frozenset()
    last = run.stopped or run.step.id
    at = next((n for n, step in enumerate(run.steps) if step.id == last), -1)
    return frozenset(step.id for step in run.steps[at + 1 :])


def _steps(run: Run, planned: Sequence[Step]) -> Sequence[Step]:
    """All steps of the run and those taken out of it; what is not planned only where it was really on."""
    known, on = {step.id for step in planned}, {span.step for span in run.log}
    taken_out = known - {step.id for step in run.steps}
    return [
        *(step for step in run.steps if step.id in known or step.id in on),
        *(step for step in planned if step.id in taken_out),
    ]


def _line(
    step: Step,
    planned: Mapping[str, Segment],
    happened: Mapping[str, Spent],
    fitted: set[str],
    again: set[str],
    called: Mapping[str, str],
    coming: frozenset[str],
) -> Line:
    segment, was = planned.get(step.id), happened.get(step.id, Spent())
    if segment is None:
        name = called.get(step.item, "A rest" if "~" not in step.id else "A move from the tray")
        kind = SegmentKind.REST if not step.works else SegmentKind.HOLD
        return Line(step, name, kind, None, was, Cause.PUT_IN)
    if not was.on:
        cause = Cause.NOT_REACHED if step.id in coming else Cause.SKIPPED
    elif step.id in again:
        cause = Cause.AGAIN
    elif step.works:
        cause = Cause.CAUGHT_UP if step.id in fitted else Cause.WORK
    else:
        cause = Cause.TALK if segment.kind in _TALKS else Cause.WAYS
    return Line(step, segment.name, segment.kind, segment.seconds * 1000, was, cause)


def _come_again(log: Iterable[Span]) -> set[str]:
    """The steps that were on, left, and on again later."""
    found, before, seen = set[str](), "", set[str]()
    for span in log:
        if span.step != before and span.step in seen:
            found.add(span.step)
        before = span.step
        seen.add(span.step)
    return found


def _sides(script: Script, work: Mapping[str, Iterable[Line]]) -> Iterable[Sides]:
    """By move what each side got; time that is deliberately personal is not judged."""
    for item in script.moves():
        if item.self_led:
            continue
        got = dict.fromkeys((Side.LEFT.value, Side.RIGHT.value), 0)
        for line in work.get(item.id, ()):
            if line.step.side in got:
                got[line.step.side] += line.spent.on
        if any(got.values()):
            yield Sides(item.id, item.name, got[Side.LEFT.value], got[Side.RIGHT.value])


def _s(ms: int) -> str:
    return f"{round(ms / 1000)} s"
