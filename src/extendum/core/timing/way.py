"""Where bodies and props are between steps, and how long the way from there takes."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from extendum.core.listening.support import sends_to
from extendum.core.model.body import Base, Side, Stance, body_seconds, switch_seconds
from extendum.core.model.item import Item
from extendum.core.model.move import RERIG_S, Prop
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Quiet, Talk
from extendum.core.timing.sequence import Arrival, Pass, Step

#: Changing the direction of a move, without changing sides.
TURN_S = 1
#: Passes that others came before.
AFRESH = (Arrival.FIRST, Arrival.AGAIN, Arrival.OTHER)
_SIDES_CHANGE = (Arrival.OTHER, Arrival.SWITCH, Arrival.OVER)


class Held(NamedTuple):
    """A prop at hand: the side that it was last used on, None where it was only picked up."""

    prop: Prop
    side: Side | None = None


class Situation(NamedTuple):
    """Where the class is between steps: bodies, what they have in hand, and where words have just sent them."""

    stance: Stance
    props: tuple[Held, ...] = ()
    sent: frozenset[Base] = frozenset()


def situation_after(step: Step, before: Situation) -> Situation:
    """Bodies and hands after a step: time without a move keeps the posture."""
    if isinstance(step, Pass):
        move = step.item.move
        props = tuple([Held(prop, step.side) for prop in move.props])
        sent = sends_to(step.item.words.release) if step.released else frozenset[Base]()
        return Situation(Stance(move.ends_in if step.ends else move.posture, step.side), props, sent)
    if isinstance(step.item, Quiet):
        return before
    props = tuple(held for held in before.props if held.prop.name not in step.item.puts_down)
    names = {held.prop.name for held in props}
    props += tuple(Held(prop) for prop in step.item.picks_up if prop.name not in names)
    return Situation(before.stance, props, before.sent | sends_to(step.item.words))


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
    item, arrival, pace = this.item, this.arrival, style.pace_percent * 10
    own_s = own_way_s(this)
    if own_s:
        return Way(0, (), own_s)
    posture = item.move.posture
    if arrival in AFRESH or before.stance.posture is not posture:
        side = this.side if arrival in AFRESH else None
        body_ms = body_seconds(before.stance, Stance(posture, side)) * pace
    else:
        body_ms = 0
    if arrival in (Arrival.TURN, Arrival.OVER):
        body_ms = max(body_ms, item.turn_s * 1000 or TURN_S * pace)
    if arrival not in _SIDES_CHANGE:
        return Way(body_ms, tuple(_handled(this, before)))
    if item.switch_s:
        return Way(max(body_ms, item.switch_s * 1000), tuple(h for h in _handled(this, before) if h.what != _RERIG))
    return Way(max(body_ms, switch_seconds(posture) * pace), tuple(_handled(this, before)))


def own_way_s(this: Pass) -> int:
    """The seconds the item itself gives for this way; 0 where postures and props decide."""
    item = this.item
    match this.arrival:
        case Arrival.FIRST:
            return item.way_s
        case Arrival.OTHER:  # back from other moves, and on the other side
            return max(item.way_s, item.switch_s) if item.way_s else 0
        case Arrival.SWITCH:
            return item.switch_s
        case Arrival.TURN:
            return item.turn_s
        case _:
            return 0


_RERIG = "re-rig"


def _handled(this: Pass, before: Situation) -> Iterator[Handled]:
    """What is put down, picked up and put on otherwise; what stays in its place is not handled."""
    move = this.item.move
    needed, held = {prop.name for prop in move.props}, {one.prop.name: one for one in before.props}
    for name, one in held.items():
        if name not in needed and not one.prop.stands_in(before.stance.posture):
            yield Handled("put down", name, one.prop.put_down_s)
    for prop in move.props:
        had = held.get(prop.name)
        if had is None:
            if not prop.stands_in(move.posture):
                yield Handled("pick up", prop.name, prop.pick_up_s)
        elif had.side is not None and had.prop.rig != prop.rig:
            yield Handled(_RERIG, prop.name, prop.rerig_s or RERIG_S)
        elif prop.rerig_s and had.side is not None and (had.side is not this.side or this.arrival is Arrival.OTHER):
            yield Handled(_RERIG, prop.name, prop.rerig_s)


def handling_s(item: Item, before: Situation) -> int:
    """Whole seconds of picking up and putting down props in a talk; anything else handles none."""
    if not isinstance(item, Talk):
        return 0
    posture = before.stance.posture
    up_s = sum(prop.pick_up_s for prop in item.picks_up if not prop.stands_in(posture))
    down = [held.prop for held in before.props if held.prop.name in item.puts_down]
    return up_s + sum(prop.put_down_s for prop in down if not prop.stands_in(posture))
