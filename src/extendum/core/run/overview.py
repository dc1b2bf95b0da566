"""What was taught over weeks: minutes by effect and by area, and which classes usually end off their plan."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from extendum.core.model.body import Region, Side
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Effect
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.outputs.coverage import coverage
from extendum.core.run.report import off_words


@dataclass(frozen=True, slots=True)
class Once:
    """One class as it was taught: the day, which class, its document, what was, and seconds over its plan."""

    day: date
    of: str
    script: Script
    taught: Timeline
    off_s: int
    broken_off: bool = False


@dataclass(frozen=True, slots=True)
class Habit:
    """How far a class usually ends off its plan: the middle, the least and the most, in seconds."""

    of: str
    times: int
    middle_s: int
    least_s: int
    most_s: int

    @property
    def told(self) -> tuple[str, str, str]:
        """The middle, the least and the most, as they are said."""
        return off_words(self.middle_s), off_words(self.least_s), off_words(self.most_s)


def week_of(day: date) -> date:
    """The Monday of a day's week."""
    return day - timedelta(days=day.weekday())


def weeks_until(last: date, count: int) -> list[date]:
    """So many Mondays, the last that of this day."""
    return [week_of(last) - timedelta(weeks=n) for n in reversed(range(count))]


def minutes_by_week(some: Iterable[Once], weeks: Sequence[date]) -> dict[Effect, list[float]]:
    """Minutes of work in each week by the effect that each move is for first; effects that nothing had are left out."""
    at = {week: n for n, week in enumerate(weeks)}
    found = {effect: [0.0] * len(weeks) for effect in Effect}
    for one in some:
        column = at.get(week_of(one.day))
        if column is None:
            continue
        firsts = {item.id: effect for item in one.script.moves() if (effect := _first_effect(item))}
        for segment in one.taught.segments:
            if segment.kind.works and segment.item in firsts:
                found[firsts[segment.item]][column] += segment.seconds / 60
    return {effect: values for effect, values in found.items() if any(values)}


def _first_effect(item: MoveItem) -> Effect | None:
    return next((target.effect for target in item.move.targets if target.main), None)


def minutes_by_area(some: Iterable[Once]) -> dict[Region, dict[Effect, float]]:
    """Minutes of main work on each area by effect, the middle of both sides; the most worked first."""
    found: dict[Region, dict[Effect, float]] = {}
    for one in some:
        for (region, effect), worked in coverage(one.script, one.taught).items():
            minutes = (worked.seconds(Side.LEFT) + worked.seconds(Side.RIGHT)) / 120
            if minutes:
                by = found.setdefault(region, {})
                by[effect] = by.get(effect, 0.0) + minutes
    return dict(sorted(found.items(), key=lambda row: -sum(row[1].values())))


def habits(some: Iterable[Once]) -> list[Habit]:
    """How far each class usually ends off its plan, the furthest first; what was broken off is not counted."""
    offs: dict[str, list[int]] = {}
    for one in some:
        if one.broken_off:
            continue
        offs.setdefault(one.of, []).append(one.off_s)
    found = [Habit(of, len(all_), round(median(all_)), min(all_), max(all_)) for of, all_ in offs.items()]
    return sorted(found, key=lambda habit: -abs(habit.middle_s))
