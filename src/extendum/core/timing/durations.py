"""How long every part of the class lasts: the one place where seconds are computed.

A pass, in order: demonstration, rest between sets, transition or switch, set-up, settle, the work of each stage,
release. The compiler lays these seconds out and the fit adds them up, so the lengths of a fit are the timeline's.
`reasons` explains where they come from.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from extendum.core.model.body import Stance, body_seconds, switch_seconds
from extendum.core.model.dose import Manner, Timed
from extendum.core.model.dose_values import Count
from extendum.core.model.item import Item, MoveItem, Quiet, Talk, rep_total
from extendum.core.model.move import Prop
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import CueKind, SegmentKind
from extendum.core.model.words import fill
from extendum.core.timing.sequence import Arrival, Pass, Step, Still
from extendum.core.timing.speech import ceil_s, speaking_ms

#: What placeholders stand for, by their names.
Facts = Mapping[str, str]
#: Changing the direction of a move, without changing sides.
TURN_S = 1
_AFRESH = (Arrival.FIRST, Arrival.AGAIN)


# ---- the work ------------------------------------------------------------------------------------


class WorkRule(NamedTuple):
    """What the seconds of the work of a dose follow from: milliseconds of a cycle, and those that the last one lacks;
    how many cycles one of its values is; and of what the seconds are a multiple.
    """

    cycle_ms: int = 1000
    lacks_ms: int = 0
    factor: int = 1
    multiple: int = 1


def work_rule(item: Item, stage: int) -> WorkRule:
    """The rule of a stage, from 1; time without a move lasts as many seconds as it has."""
    if not isinstance(item, MoveItem):
        return WorkRule()
    dose = item.dose_at(stage)
    halved = isinstance(dose, Timed) and dose.manner is Manner.HALVES
    return WorkRule(dose.cycle_ms, dose.lacks_ms, rep_total(item, stage, 1), 2 if halved else 1)


def seconds_at(
    value: Count, cycle_ms: Count | int, lacks_ms: Count | int, factor: Count | int, multiple: Count | int
) -> Count:
    """Whole seconds of the work at a value by its rule; one, or many at once.

    Alternating reps counted per side are twice as many; time that switches at half has equal halves.
    """
    seconds = -((lacks_ms - factor * value * cycle_ms) // 1000)
    return seconds - seconds % multiple


def work_seconds(item: Item, stage: int, value: Count) -> Count:
    """Whole seconds of the work of a stage in one pass at a value, or at each of many."""
    return seconds_at(value, *work_rule(item, stage))


# ---- where bodies and props are, and the way from there -------------------------------------------


class Situation(NamedTuple):
    """Where the class is between steps: bodies, and what they have in hand."""

    stance: Stance
    props: tuple[Prop, ...] = ()


def situation_after(step: Step, before: Situation) -> Situation:
    """Bodies and hands after a step: time without a move keeps the posture."""
    if isinstance(step, Pass):
        return Situation(Stance(step.item.move.ends_in, step.side), step.item.move.props)
    if isinstance(step.item, Quiet):
        return before
    props = tuple(p for p in before.props if p.name not in step.item.puts_down)
    props += tuple(p for p in step.item.picks_up if p.name not in {q.name for q in props})
    return Situation(before.stance, props)


class Handled(NamedTuple):
    """A prop that is handled on the way: what is done with it, its name, and seconds."""

    what: str
    prop: str
    seconds: int


class Way(NamedTuple):
    """What bodies and props need on the way into a pass; ``own_s`` where the item says it itself."""

    body_ms: int
    handled: tuple[Handled, ...] = ()
    own_s: int = 0

    @property
    def ms(self) -> int:
        """Milliseconds of it all."""
        return self.body_ms + 1000 * (self.own_s + sum([one.seconds for one in self.handled]))


def way_into(this: Pass, before: Situation, style: CueStyle) -> Way:
    """The way into a pass: from where the class is, back to the beginning, to the other side or direction."""
    move, arrival = this.item.move, this.arrival
    own_s = own_way_s(this)
    if own_s:
        return Way(0, (), own_s)
    handled: tuple[Handled, ...] = ()
    if arrival in _AFRESH:
        body_s = body_seconds(before.stance, Stance(move.posture, this.side))
        handled = tuple(_changed(before.props, move.props))
    else:
        body_s = 0 if move.ends_in is move.posture else body_seconds(before.stance, Stance(move.posture))
        if arrival is Arrival.SWITCH:
            body_s = max(body_s, switch_seconds(move.posture))
            handled = tuple(Handled("re-rig", prop.name, prop.rerig_s) for prop in move.props)
        elif arrival is Arrival.TURN:
            body_s = max(body_s, TURN_S)
    return Way(body_s * style.pace_percent * 10, handled)


def own_way_s(this: Pass) -> int:
    """The seconds the item itself gives for this way; 0 where postures and props decide."""
    if this.arrival is Arrival.FIRST:
        return this.item.way_s
    return this.item.switch_s if this.arrival is Arrival.SWITCH else 0


def _changed(held: tuple[Prop, ...], needed: tuple[Prop, ...]) -> Iterator[Handled]:
    needed_names = {prop.name for prop in needed}
    held_names = {prop.name for prop in held}
    for prop in held:
        if prop.name not in needed_names:
            yield Handled("put down", prop.name, prop.put_down_s)
    for prop in needed:
        if prop.name not in held_names:
            yield Handled("pick up", prop.name, prop.pick_up_s)


def handling_s(item: Item, before: Situation) -> int:
    """Whole seconds of picking up and putting down props in a talk; anything else handles none."""
    if not isinstance(item, Talk):
        return 0
    up_s = sum(prop.pick_up_s for prop in item.picks_up)
    return up_s + sum(prop.put_down_s for prop in before.props if prop.name in item.puts_down)


# ---- what is said beside the work ------------------------------------------------------------------


class Piece(NamedTuple):
    """A part of a pass beside its way and its work: what it is, seconds, its words as they are said, and their time."""

    kind: SegmentKind
    seconds: int
    cue: CueKind | None = None
    words: str = ""
    words_ms: int = 0


class Opening(NamedTuple):
    """The words on the way into a pass, as they are written: their kind, those on the way, those once there."""

    kind: CueKind
    moving: str
    there: str = ""


def opening_of(this: Pass) -> Opening:
    """Full words the first time, short ones later, those of a switch or a turn, none between sets."""
    words = this.item.words
    if this.arrival is Arrival.SWITCH:
        return Opening(CueKind.SWITCH, words.switch)
    if this.arrival is Arrival.TURN:
        return Opening(CueKind.TURN, words.turn)
    if this.arrival is Arrival.SET:
        return Opening(CueKind.MOVING, "")
    if this.arrival is Arrival.AGAIN and words.short:
        return Opening(CueKind.SHORT, words.short)
    return Opening(CueKind.MOVING, words.moving, words.there)


def pieces_ahead(this: Pass, style: CueStyle, filled: Facts) -> list[Piece]:
    """What comes before the way: the demonstration, and the rest between sets."""
    item, found = this.item, list[Piece]()
    if this.arrival is Arrival.FIRST and item.demonstrate_s:
        words, least_s = item.words.demonstration, item.demonstrate_s
        found.append(_said(SegmentKind.DEMONSTRATION, CueKind.DEMONSTRATION, words, style, filled, least_s))
    if this.after_rest:
        found.append(Piece(SegmentKind.REST, item.rest_s))
    return found


def piece_of_arrival(opening: Opening, style: CueStyle, filled: Facts) -> Piece:
    """The set-up once there."""
    return _said(SegmentKind.SETUP, CueKind.THERE, opening.there, style, filled)


def settle_s(this: Pass, style: CueStyle) -> int:
    """Seconds for everyone to settle; in a cadence, no more than the cadence itself."""
    seconds = style.settle_s if this.item.dose.settles else 0
    return min(seconds, this.group.cadence_s) if keeps_cadence(this) else seconds


def keeps_cadence(this: Pass) -> bool:
    """Whether way, set-up and settling of a pass last what the group's cadence says."""
    return bool(this.group.cadence_s) and this.arrival is not Arrival.SET


def piece_of_stage(this: Pass, stage: int, style: CueStyle, filled: Facts) -> Piece:
    """The words before a later stage."""
    return _said(SegmentKind.SETUP, CueKind.STAGE, this.item.then[stage - 2].words, style, filled)


def piece_of_release(this: Pass, style: CueStyle, filled: Facts) -> Piece:
    """Coming out: the words, at least the move's slow rise."""
    item = this.item
    return _said(SegmentKind.RELEASE, CueKind.RELEASE, item.words.release, style, filled, item.move.slow_rise_s)


def _said(kind: SegmentKind, cue: CueKind, words: str, style: CueStyle, filled: Facts, least_s: int = 0) -> Piece:
    """A piece that lasts as long as its words take, and at least so many seconds."""
    if not words:
        return Piece(kind, least_s)
    told = fill(words, filled)
    ms = speaking_ms(told, style.words_per_minute)
    return Piece(kind, max(least_s, ceil_s(ms)), cue, told, ms)


def least_way_ms(this: Pass, said_ms: int) -> int:
    """Milliseconds that the way lasts at least, whatever bodies need: its words, and the reset under it."""
    return max(said_ms, reset_s(this) * 1000)


def reset_s(this: Pass) -> int:
    """Seconds of the reset that runs under the way; none when the pass follows straight on from the same item."""
    return this.group.reset_s if this.arrival in _AFRESH else 0


# ---- added up --------------------------------------------------------------------------------------


class Beside(NamedTuple):
    """The seconds of a pass beside its work, wherever it begins.

    ``moving_ms`` is how long the way into it lasts at least; None where the group's cadence has it.
    """

    moving_ms: int | None
    other_s: int


def beside(this: Pass, style: CueStyle, filled: Facts) -> Beside:
    """Everything in a pass except its way and the work of its doses; ``filled`` holds the facts of the pass."""
    item = this.item
    other_s = piece_of_release(this, style, filled).seconds
    if this.after_rest or item.demonstrate_s:
        other_s += sum([one.seconds for one in pieces_ahead(this, style, filled)])
    if item.then:
        other_s += sum([piece_of_stage(this, n, style, filled).seconds for n in range(2, len(item.then) + 2)])
    if keeps_cadence(this):
        return Beside(None, other_s + this.group.cadence_s)
    opening = opening_of(this)
    if opening.there:
        other_s += piece_of_arrival(opening, style, filled).seconds
    if item.dose.settles:
        other_s += settle_s(this, style)
    said_ms = speaking_ms(fill(opening.moving, filled), style.words_per_minute) if opening.moving else 0
    return Beside(least_way_ms(this, said_ms), other_s)


def beside_s(this: Pass, before: Situation, style: CueStyle, told: Beside) -> int:
    """Whole seconds of everything in a pass except the work of its doses, reached from a situation."""
    if told.moving_ms is None:
        return told.other_s
    return told.other_s + ceil_s(max(told.moving_ms, way_into(this, before, style).ms))


def still_s(still: Still, before: Situation) -> int:
    """Whole seconds of time without a move: picking up and putting down take at least their time."""
    return max(still.item.quantity.value, handling_s(still.item, before))


def pass_s(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> int:
    """Whole seconds of a pass."""
    stages = range(1, len(this.item.doses) + 1)
    work = sum([work_seconds(this.item, stage, this.value(stage, style.breath_ms)) for stage in stages])
    return work + beside_s(this, before, style, beside(this, style, filled))
