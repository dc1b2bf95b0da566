"""How long every part of the class lasts: the one place where seconds are computed.

A pass, in order: demonstration, rest between sets, transition or switch, set-up, settle, the work of each stage,
release. The compiler lays these seconds out and the fit adds them up, so the lengths of a fit are the timeline's.
`reasons` explains where they come from.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from extendum.core.listening.support import sends_to
from extendum.core.model.body import Base
from extendum.core.model.dose import COUNTED, Breaths, Manner, Pulses, Reps, Timed
from extendum.core.model.dose_values import Count
from extendum.core.model.item import Item, MoveItem, both_sides
from extendum.core.model.placeholders import fill, mentions
from extendum.core.model.prompts import Prompt
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import CueKind, SegmentKind
from extendum.core.model.ways import way_words
from extendum.core.timing.sequence import Arrival, Pass, Still
from extendum.core.timing.speech import ceil_s, speaking_ms
from extendum.core.timing.way import AFRESH, Situation, handling_s, way_into

#: What placeholders stand for, by their names.
Facts = Mapping[str, str]


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
    dose, factor = item.dose_at(stage), 2 if both_sides(item, stage) else 1
    if isinstance(dose, COUNTED) and dose.stretch_s is not None:
        return _stretching(dose, factor * dose.count.value)
    halved = isinstance(dose, Timed) and dose.manner is Manner.HALVES
    return WorkRule(dose.cycle_ms, dose.lacks_ms, factor, 2 if halved else 1)


def _stretching(dose: Pulses | Reps | Breaths, many: int) -> WorkRule:
    """The rule of so many cycles, of which one phase lasts as many seconds as the value says."""
    one, two = dose.at(dose.quantity.least), dose.quantity.least * 1000
    last = dose.lacks_ms > 0 and dose.named_phases[-1][0] == dose.stretches
    others_ms = one.cycle_ms - two
    # The last cycle lacks its last phase; where that is the one that stretches, it occurs once less.
    return WorkRule(1000, (0 if last else one.lacks_ms) - many * others_ms, many - 1 if last else many)


def seconds_at(
    value: Count, cycle_ms: Count | int, lacks_ms: Count | int, factor: Count | int, multiple: Count | int
) -> Count:
    """Whole seconds of the work at a value by its rule; one, or many at once.

    Alternating reps and breaths counted per side are twice as many; time that switches at half has equal halves.
    """
    seconds = -((lacks_ms - factor * value * cycle_ms) // 1000)
    return seconds - seconds % multiple


def work_seconds(item: Item, stage: int, value: Count) -> Count:
    """Whole seconds of the work of a stage in one pass at a value, or at each of many."""
    return seconds_at(value, *work_rule(item, stage))


# ---- what is said beside the work ------------------------------------------------------------------


class Piece(NamedTuple):
    """A part of a pass beside its way and its work: what it is, seconds, its words as they are said, and their time.

    ``more`` is said after its words: the kind of each cue, its index, and the text.
    """

    kind: SegmentKind
    seconds: int
    cue: CueKind | None = None
    words: str = ""
    words_ms: int = 0
    more: tuple[tuple[CueKind, int, str], ...] = ()


class Opening(NamedTuple):
    """The words on the way into a pass, as they are written: their kind, those on the way, those once there.

    ``ahead`` are the prompts that are said before the first pass, with their places among all.
    """

    kind: CueKind
    moving: str
    there: str = ""
    ahead: tuple[tuple[int, Prompt], ...] = ()


def opening_of(this: Pass) -> Opening:
    """Full words the first time, short ones later, those of a switch, a turn or a further set.

    Back on its other side after other moves, an item is announced by the words of its switch, or by its short ones.
    Those of a further set are said at the end of the rest where there is one.
    """
    words, arrival = this.item.words, this.arrival
    if arrival is Arrival.SWITCH or (arrival is Arrival.OTHER and words.switch):
        return Opening(CueKind.SWITCH, words.switch)
    if arrival is Arrival.TURN:
        return Opening(CueKind.TURN, words.turn)
    if arrival is Arrival.OVER:
        told = words.turn if mentions(words.turn, {"side"}) else f"{words.turn} {words.switch}"
        return Opening(CueKind.TURN, told.strip())
    if arrival is Arrival.SET:
        return Opening(CueKind.AGAIN, "" if this.after_rest else words.again)
    if arrival is not Arrival.FIRST and words.short:
        return Opening(CueKind.SHORT, words.short)
    ahead = words.ahead if words.prompts and arrival is Arrival.FIRST else ()
    return Opening(CueKind.MOVING, words.moving, words.there, ahead)


def line_of_way(this: Pass, before: Situation, style: CueStyle) -> str:
    """What is said of the way to another support: nothing where the item is silent on it, or its words say it."""
    return line_unsaid(this, before, style) if this.item.say_way else ""


def line_unsaid(this: Pass, before: Situation, style: CueStyle) -> str:
    """The words for the way to another support, where those of the item, or those just before, do not send there."""
    posture = this.item.move.posture
    if before.stance.posture is posture:
        return ""
    to = Base.of(posture)
    if Base.of(before.stance.posture) is to or to in before.sent:
        return ""
    opening = opening_of(this)
    if to in sends_to(opening.moving) or to in sends_to(opening.there):
        return ""
    return way_words(before.stance.posture, posture, style.way_words)


def pieces_ahead(this: Pass, style: CueStyle, filled: Facts) -> list[Piece]:
    """What comes before the way: the demonstration, and the rest between sets."""
    item, found = this.item, list[Piece]()
    if this.arrival is Arrival.FIRST and item.demonstrate_s:
        words, least_s = item.words.demonstration, item.demonstrate_s
        found.append(_said(SegmentKind.DEMONSTRATION, CueKind.DEMONSTRATION, words, style, filled, least_s))
    if this.after_rest:
        words = item.words.again if this.arrival is Arrival.SET else ""
        found.append(_said(SegmentKind.REST, CueKind.AGAIN, words, style, filled, item.rest_s))
    return found


def piece_of_arrival(opening: Opening, style: CueStyle, filled: Facts) -> Piece:
    """The set-up once there, and the prompts that come before the first pass."""
    piece = _said(SegmentKind.SETUP, CueKind.THERE, opening.there, style, filled)
    if not opening.ahead or not style.prompts:
        return piece
    more = tuple((CueKind(one.kind.value), n, fill(one.text, filled)) for n, one in opening.ahead)
    ms = piece.words_ms + sum(speaking_ms(text, style.speech) for _, _, text in more)
    return piece._replace(seconds=ceil_s(ms), words_ms=ms, more=more)


def settle_s(this: Pass, style: CueStyle) -> int:
    """Seconds for everyone to settle; in a cadence, no more than the cadence itself."""
    seconds = style.settle_s if this.item.dose.settles else 0
    return min(seconds, this.group.cadence_s) if keeps_cadence(this) else seconds


def keeps_cadence(this: Pass) -> bool:
    """Whether way, set-up and settling of a pass last what the group's cadence says."""
    return bool(this.group.cadence_s) and this.arrival is not Arrival.SET


def piece_of_stage(this: Pass, stage: int, style: CueStyle, filled: Facts) -> Piece:
    """The way to a later stage, and its words: the short ones once they have been heard."""
    here = this.item.then[stage - 2]
    words = here.short if here.short and this.arrival is not Arrival.FIRST else here.words
    return _said(SegmentKind.SETUP, CueKind.STAGE, words, style, filled, here.way_s)


def piece_of_release(this: Pass, style: CueStyle, filled: Facts) -> Piece:
    """Coming out: the words, at least the move's slow rise; nothing where the class stays in it.

    Where a change of sides stands for the words, coming out takes its time all the same.
    """
    item = this.item
    words = item.words.release if this.released else ""
    rise_s = item.move.slow_rise_s if this.ends else 0
    return _said(SegmentKind.RELEASE, CueKind.RELEASE, words, style, filled, rise_s)


def _said(kind: SegmentKind, cue: CueKind, words: str, style: CueStyle, filled: Facts, least_s: int = 0) -> Piece:
    """A piece that lasts as long as its words take, and at least so many seconds."""
    if not words:
        return Piece(kind, least_s)
    told = fill(words, filled)
    ms = speaking_ms(told, style.speech)
    return Piece(kind, max(least_s, ceil_s(ms)), cue, told, ms)


def reset_s(this: Pass) -> int:
    """Seconds of the reset that runs under the way; none when the pass follows straight on from the same item."""
    return this.group.reset_s if this.arrival in AFRESH else 0


# ---- added up --------------------------------------------------------------------------------------


class Beside(NamedTuple):
    """The seconds of a pass beside its work, wherever it begins.

    ``moving_ms`` is how long the words on the way into it last, beside those for the way to another support; None
    where the group's cadence has it.
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
    if opening.there or opening.ahead:
        other_s += piece_of_arrival(opening, style, filled).seconds
    if item.dose.settles:
        other_s += settle_s(this, style)
    said_ms = speaking_ms(fill(opening.moving, filled), style.speech) if opening.moving else 0
    return Beside(said_ms, other_s)


def beside_s(this: Pass, before: Situation, style: CueStyle, told: Beside) -> int:
    """Whole seconds of everything in a pass except the work of its doses, reached from a situation."""
    if told.moving_ms is None:
        return told.other_s
    said_ms = told.moving_ms
    if line := line_of_way(this, before, style):
        said_ms += speaking_ms(line, style.speech)
    return told.other_s + ceil_s(max(said_ms, reset_s(this) * 1000, way_into(this, before, style).ms))


def still_s(still: Still, before: Situation) -> int:
    """Whole seconds of time without a move: picking up and putting down take at least their time."""
    return max(still.item.quantity.value, handling_s(still.item, before))


def pass_s(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> int:
    """Whole seconds of a pass."""
    stages = range(1, len(this.item.doses) + 1)
    work = sum([work_seconds(this.item, stage, this.value(stage, style.breath_ms)) for stage in stages])
    return work + beside_s(this, before, style, beside(this, style, filled))
