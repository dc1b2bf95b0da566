"""The seconds of a pass beside its work, without the reasons: what a fit asks for many times over.

The same rules as `passes`, which tells the parts and why they last so long; a test holds both together.
"""

from __future__ import annotations

from extendum.core.body import Stance, body_seconds, switch_seconds
from extendum.core.passes import TURN_S, Facts, Situation, ceil_s, own_way_s, pass_facts
from extendum.core.sequence import Arrival, Pass
from extendum.core.speech import speaking_ms
from extendum.core.style import CueStyle
from extendum.core.words import fill


def beside_s(this: Pass, before: Situation, style: CueStyle, facts: Facts, filled: Facts | None = None) -> int:
    """Whole seconds of everything in a pass but the work of its doses; ``filled`` are its facts, when known."""
    item, words, rate = this.item, this.item.words, style.words_per_minute
    told: Facts = {} if filled is None else filled
    if filled is None and any("{" in text for text in item.timed_words()):
        told = pass_facts(this, style, facts)

    def said_s(text: str) -> int:
        return ceil_s(speaking_ms(fill(text, told), rate)) if text else 0

    total = item.rest_s if this.after_rest else 0
    if this.arrival is Arrival.FIRST and item.demonstrate_s:
        total += max(item.demonstrate_s, said_s(words.demonstration))
    if this.group.cadence_s and this.arrival is not Arrival.SET:
        total += this.group.cadence_s
    else:
        moving, there = _opening(this)
        said_ms = speaking_ms(fill(moving, told), rate) if moving else 0
        reset_s = this.group.reset_s if this.arrival in (Arrival.FIRST, Arrival.AGAIN) else 0
        total += ceil_s(max(_way_ms(this, before, style), said_ms, reset_s * 1000)) + said_s(there)
        total += style.settle_s if item.dose.settles else 0
    total += sum(said_s(stage.words) for stage in item.then)
    return total + max(item.move.slow_rise_s, said_s(words.release))


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
