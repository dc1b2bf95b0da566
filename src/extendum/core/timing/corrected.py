"""What a class of an older document lasts otherwise than it used to, and why: told once to whom it belongs.

Up to version 2 some seconds were counted wrongly. Only the rules of then that differ are written here once more.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from enum import StrEnum
from fractions import Fraction
from math import floor
from typing import NamedTuple

from extendum.core.model.body import Stance, body_seconds, switch_seconds
from extendum.core.model.dose import Reps
from extendum.core.model.dose_values import actual, allowed, nearest, stepped, within
from extendum.core.model.item import CountIs, MoveItem
from extendum.core.model.placeholders import fill
from extendum.core.model.script import Script
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import SegmentKind
from extendum.core.timing.durations import keeps_cadence, line_of_way, reset_s, seconds_at
from extendum.core.timing.layout import Laid, lay_out, start_situation
from extendum.core.timing.sequence import Arrival, Pass
from extendum.core.timing.speech import ceil_s, speaking_ms
from extendum.core.timing.way import TURN_S

#: The last version of the document whose lengths these rules are.
LAST_VERSION = 2


class Cause(StrEnum):
    """Why a class lasts otherwise now."""

    SECOND_SIDE = "the way to the second side is counted"
    SHORT_SIDE = "the second side of a chain is announced in fewer words"
    EACH_SIDE = "breaths and later parts that alternate are counted for each side"
    ANNOUNCED = "each further set is announced"
    SAID = "getting to the floor, to a chair or up again is announced"
    TURNS = "the class stays in the move while it changes direction"
    PROPS = "props that stay in place, or are not at hand, take no time"
    RIGGED = "changing how a prop is held is counted"
    TAPER = "the totals of later rounds are rounded once"
    RELEASE = "the release is said once, after the last direction"


class _Then(NamedTuple):
    """Where the class was, by the rules of then."""

    stance: Stance
    props: Mapping[str, int]


def corrections(script: Script) -> dict[Cause, int]:
    """The seconds that a class of version 2 or earlier lasts more than then, or less, by their cause."""
    written = {item.id: item for item in script.moves()}
    found: dict[Cause, int] = {}
    then = _Then(start_situation(script).stance, {})
    for one in lay_out(script):
        if isinstance(one.step, Pass):
            item = written[one.step.item.id]
            for cause, seconds in _differences(one, one.step, item, then, script.style):
                found[cause] = found.get(cause, 0) + seconds
            props = {prop.name: prop.put_down_s for prop in item.move.props}
            then = _Then(Stance(item.move.ends_in, one.step.side), props)
        elif isinstance(one.step.item, Talk):
            talk = one.step.item
            props = {name: s for name, s in then.props.items() if name not in talk.puts_down}
            props |= {prop.name: prop.put_down_s for prop in talk.picks_up if prop.name not in props}
            then = then._replace(props=props)
    return {cause: seconds for cause, seconds in found.items() if seconds}


def corrected_words(found: Mapping[Cause, int]) -> str:
    """It in one sentence: ``Now 12 s longer: the way to the second side is counted.``; empty for no difference."""
    total = sum(found.values())
    if not total:
        return ""
    single = len(found) == 1
    told = sorted(found.items(), key=lambda one: -abs(one[1]))
    causes = [f"{cause}" if single else f"{cause} ({seconds:+d} s)" for cause, seconds in told]
    return f"Now {abs(total)} s {'longer' if total > 0 else 'shorter'}: {'; '.join(causes)}.".replace("-", "\u2212")


def _differences(one: Laid, this: Pass, item: MoveItem, then: _Then, style: CueStyle) -> Iterator[tuple[Cause, int]]:
    """The seconds of a pass that differ, part by part."""
    by_kind: dict[SegmentKind | None, int] = {}
    for part in one.parts:
        kind = None if part.kind in _ARRIVING and part.stage is None else part.kind
        by_kind[kind] = by_kind.get(kind, 0) + part.seconds
    worked = sum(seconds for kind, seconds in by_kind.items() if kind is not None and kind.works)
    counted = _worked(this, item, style, twice=False)
    yield Cause.EACH_SIDE, worked - counted
    yield Cause.TAPER, counted - _worked(this, item, style, twice=True)
    if this.after_rest:
        yield Cause.ANNOUNCED, by_kind.get(SegmentKind.REST, 0) - item.rest_s
    said_ms = speaking_ms(fill(item.words.release, one.facts), style.speech)
    yield Cause.RELEASE, by_kind.get(SegmentKind.RELEASE, 0) - max(item.move.slow_rise_s, ceil_s(said_ms))
    if not keeps_cadence(this):
        more_s = by_kind.get(None, 0) - _arriving(this, item, then, style, one.facts)
        yield _cause(this, one, style, more_s), more_s


_ARRIVING = (SegmentKind.TRANSITION, SegmentKind.SWITCH, SegmentKind.TURN, SegmentKind.SETUP)


def _cause(this: Pass, one: Laid, style: CueStyle, more_s: int) -> Cause:
    match this.arrival:
        case Arrival.OTHER:
            return Cause.SECOND_SIDE if more_s > 0 else Cause.SHORT_SIDE
        case Arrival.SET:
            return Cause.ANNOUNCED
        case Arrival.TURN | Arrival.SWITCH:
            return Cause.TURNS
    if more_s < 0:
        return Cause.PROPS
    return Cause.SAID if line_of_way(this, one.before, style) else Cause.RIGGED


def _worked(this: Pass, item: MoveItem, style: CueStyle, *, twice: bool) -> int:
    """The seconds of the work: only the first reps of an alternating move were counted for each side.

    ``twice``: what does less in later rounds was rounded to a whole one, and then to a step.
    """
    total = 0
    for stage, dose in enumerate(item.doses, 1):
        doubled = stage == 1 and isinstance(dose, Reps) and item.counts_sides(1) and item.count_is is CountIs.PER_SIDE
        halves = 2 if getattr(dose, "manner", "") == "switching at half" else 1
        value = this.value(stage, style.breath_ms)
        if twice and this.round > 1 and stepped(dose, even=stage == 1 and item.even(1)):
            share = Fraction(this.group.taper_percent, 100) ** (this.round - 1)
            whole = floor(actual(dose, style.breath_ms) * share + Fraction(1, 2))
            steps = allowed(dose, style.breath_ms, even=item.even(stage))
            value = nearest(steps, within(whole, dose.quantity.least, dose.quantity.most)) if share < 1 else value
        total += seconds_at(value, dose.cycle_ms, dose.lacks_ms, 2 if doubled else 1, halves)
    return total


def _arriving(this: Pass, item: MoveItem, then: _Then, style: CueStyle, facts: Mapping[str, str]) -> int:
    """The seconds of the way and of the words once there."""
    words, speech = item.words, style.speech
    texts = {Arrival.SWITCH: (words.switch, ""), Arrival.TURN: (words.turn, ""), Arrival.SET: ("", "")}
    afresh = this.arrival not in texts
    moving, there = texts.get(this.arrival, (words.moving, words.there))
    if afresh and this.arrival is not Arrival.FIRST and words.short:
        moving, there = words.short, ""
    moving_ms = max(speaking_ms(fill(moving, facts), speech), reset_s(this) * 1000)
    way_ms = _way_ms(this, item, then) if afresh else _change_ms(this, item, then)
    own_s = {Arrival.FIRST: item.way_s, Arrival.SWITCH: item.switch_s}.get(this.arrival, 0)
    body, handled = way_ms
    whole = own_s * 1000 or body * style.pace_percent * 10 + handled * 1000
    return ceil_s(max(moving_ms, whole)) + ceil_s(speaking_ms(fill(there, facts), speech))


def _way_ms(this: Pass, item: MoveItem, then: _Then) -> tuple[int, int]:
    """Seconds of bodies, to be scaled by the pace, and of props, when others were before."""
    needed = {prop.name: prop.pick_up_s for prop in item.move.props}
    down = sum(seconds for name, seconds in then.props.items() if name not in needed)
    up = sum(seconds for name, seconds in needed.items() if name not in then.props)
    return body_seconds(then.stance, Stance(item.move.posture, this.side)), down + up


def _change_ms(this: Pass, item: MoveItem, then: _Then) -> tuple[int, int]:
    """The same straight from another pass of the item: back from its end posture each time."""
    posture = item.move.posture
    body = 0 if item.move.ends_in is posture else body_seconds(then.stance, Stance(posture))
    if this.arrival is Arrival.SWITCH:
        return max(body, switch_seconds(posture)), sum(prop.rerig_s for prop in item.move.props)
    return max(body, TURN_S if this.arrival is Arrival.TURN else 0), 0
