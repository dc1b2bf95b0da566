"""The seconds of a step, without the reasons: what a fit asks for many times over.

The same rules as `passes`, which tells the parts and why they last so long; a test holds both together.
"""

from __future__ import annotations

from typing import NamedTuple

from extendum.core.model.body import Stance, body_seconds, switch_seconds
from extendum.core.model.item import Talk
from extendum.core.model.style import CueStyle
from extendum.core.model.words import fill
from extendum.core.timing.parts import (
    TURN_S,
    Facts,
    Situation,
    ceil_s,
    handling_s,
    own_way_s,
    pass_facts,
    side_facts,
    work_seconds,
)
from extendum.core.timing.sequence import Arrival, Pass, Step, Still
from extendum.core.timing.speech import speaking_ms


class Beside(NamedTuple):
    """The seconds of a pass beside its work, wherever it begins.

    ``moving_ms`` is how long the way into it lasts at least; None where the group's cadence has it.
    """

    moving_ms: int | None
    other_s: int


def beside(this: Pass, style: CueStyle, filled: Facts) -> Beside:
    """Everything in a pass but the work of its doses and its way; ``filled`` are the facts of the pass."""
    item, words, rate = this.item, this.item.words, style.words_per_minute

    def said_s(text: str) -> int:
        return ceil_s(speaking_ms(fill(text, filled), rate)) if text else 0

    other_s = max(item.move.slow_rise_s, said_s(words.release))
    other_s += sum(said_s(stage.words) for stage in item.then)
    if this.after_rest:
        other_s += item.rest_s
    if this.arrival is Arrival.FIRST and item.demonstrate_s:
        other_s += max(item.demonstrate_s, said_s(words.demonstration))
    if this.group.cadence_s and this.arrival is not Arrival.SET:
        return Beside(None, other_s + this.group.cadence_s)
    moving, there = _opening(this)
    said_ms = speaking_ms(fill(moving, filled), rate) if moving else 0
    reset_s = this.group.reset_s if this.arrival in (Arrival.FIRST, Arrival.AGAIN) else 0
    settle_s = style.settle_s if item.dose.settles else 0
    return Beside(max(said_ms, reset_s * 1000), other_s + said_s(there) + settle_s)


def beside_s(this: Pass, before: Situation, style: CueStyle, told: Beside) -> int:
    """Whole seconds of everything in a pass but the work of its doses, where it stands."""
    if told.moving_ms is None:
        return told.other_s
    return told.other_s + ceil_s(max(told.moving_ms, _way_ms(this, before, style)))


def step_s(step: Step, before: Situation, style: CueStyle, facts: Facts) -> int:
    """Whole seconds of a step."""
    if isinstance(step, Still):
        handling = handling_s(step.item, before) if isinstance(step.item, Talk) else 0
        return max(step.item.quantity.value, handling)
    said = step.item.said()
    told = side_facts if said.isdisjoint({"count", "seconds"}) else pass_facts
    filled = told(step, style, facts) if said else {}
    stages = range(1, len(step.item.doses) + 1)
    work = sum(work_seconds(step, stage, step.value(stage, style.breath_ms)) for stage in stages)
    return work + beside_s(step, before, style, beside(step, style, filled))


def _opening(this: Pass) -> tuple[str, str]:
    """The words on the way, and those once there."""
    words = this.item.words
    if this.arrival is Arrival.SWITCH:
        return words.switch, ""
    if this.arrival is Arrival.TURN:
        return words.turn, ""
    if this.arrival is Arrival.SET:
        return "", ""
    if this.arrival is Arrival.AGAIN and words.short:
        return words.short, ""
    return words.moving, words.there


def _way_ms(this: Pass, before: Situation, style: CueStyle) -> int:
    """Milliseconds that bodies and props need on the way."""
    move = this.item.move
    own_s = own_way_s(this)
    if own_s:
        return own_s * 1000
    if this.arrival in (Arrival.FIRST, Arrival.AGAIN):
        body_s = body_seconds(before.stance, Stance(move.posture, this.side))
        needed = {prop.name for prop in move.props}
        held = {prop.name for prop in before.props}
        handling_s = sum(prop.put_down_s for prop in before.props if prop.name not in needed)
        handling_s += sum(prop.pick_up_s for prop in move.props if prop.name not in held)
        return body_s * style.pace_percent * 10 + 1000 * handling_s
    body_s = 0 if move.ends_in is move.posture else body_seconds(before.stance, Stance(move.posture))
    handling_s = 0
    if this.arrival is Arrival.SWITCH:
        body_s = max(body_s, switch_seconds(move.posture))
        handling_s = sum(prop.rerig_s for prop in move.props)
    elif this.arrival is Arrival.TURN:
        body_s = max(body_s, TURN_S)
    return body_s * style.pace_percent * 10 + 1000 * handling_s
