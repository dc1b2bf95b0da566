"""The parts of every step in order: what each is, how long, why, on which side, and what begins with it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from extendum.core.model.body import Side
from extendum.core.model.dose import Breaths, Dose, Hold, Manner, Open, Pulses, Reps, Timed
from extendum.core.model.placeholders import fill
from extendum.core.model.style import CueStyle
from extendum.core.model.talk import Quiet, Talk, TalkKind
from extendum.core.model.timeline import NO_REASON, CueKind, SegmentKind, Why
from extendum.core.model.voice import Speech
from extendum.core.timing import reasons
from extendum.core.timing.durations import (
    Facts,
    Piece,
    keeps_cadence,
    line_of_way,
    opening_of,
    piece_of_arrival,
    piece_of_release,
    piece_of_stage,
    pieces_ahead,
    reset_s,
    settle_s,
    still_s,
    work_seconds,
)
from extendum.core.timing.sequence import Arrival, Pass, Still
from extendum.core.timing.speech import ceil_s, sentences, speaking_ms
from extendum.core.timing.talking import talk_ms
from extendum.core.timing.way import Situation, handling_s, way_into


class Said(NamedTuple):
    """Words that begin with a part: which kind of cue, and the text; with a rule where they stay unsaid.

    ``nth`` is which of its kind; counted within the part if it is None.
    """

    kind: CueKind
    text: str
    unsaid_rule: str = ""
    nth: int | None = None


class Part(NamedTuple):
    """A piece of a step: what it is, its whole seconds, why, its stage and side, and what is said in it."""

    kind: SegmentKind
    seconds: int
    why: Why = NO_REASON
    said: tuple[Said, ...] = ()
    stage: int | None = None
    side: Side | None = None
    value: int = 0
    reset_s: int = 0
    way_s: int = 0
    words_ms: int = 0


def still_parts(still: Still, before: Situation, style: CueStyle, facts: Facts) -> list[Part]:
    """The part of an item without a move; none where it has no time."""
    item, seconds = still.item, still_s(still, before)
    words_ms = talk_ms(item, facts, style) if isinstance(item, Talk) else 0
    kind = SegmentKind.QUIET if isinstance(item, Quiet) else _STILL.get(item.kind, SegmentKind.TALK)
    why = Why(reasons.still_reason, (item, seconds, handling_s(item, before)))
    return [Part(kind, seconds, why, words_ms=words_ms)] if seconds else []


_STILL = {
    TalkKind.CHECK_IN: SegmentKind.CHECK_IN,
    TalkKind.NOTICE: SegmentKind.NOTICE,
    TalkKind.RECHECK: SegmentKind.RECHECK,
    TalkKind.REST: SegmentKind.REST,
    TalkKind.WATER: SegmentKind.REST,
    TalkKind.PROPS: SegmentKind.PROPS,
    TalkKind.STATION: SegmentKind.STATION,
}


def pass_parts(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> list[Part]:
    """The parts of a pass that last longer than nothing; ``filled`` are the facts of the pass."""
    found = list(_parts(this, style, *pieces_ahead(this, style, filled)))
    arriving = _cadence if keeps_cadence(this) else _arriving
    found += arriving(this, before, style, filled)
    for stage, dose in enumerate(this.item.doses, 1):
        if stage > 1:
            found += _parts(this, style, piece_of_stage(this, stage, style, filled), stage=stage)
        found += _work(this, stage, dose, style)
    found += _parts(this, style, piece_of_release(this, style, filled))
    return [part for part in found if part.seconds]


def _parts(this: Pass, style: CueStyle, *pieces: Piece, stage: int | None = None) -> Iterator[Part]:
    """The parts that pieces make; none of what takes no time."""
    for piece in pieces:
        if piece.seconds:
            said: tuple[Said, ...] = (Said(piece.cue, piece.words),) if piece.cue else ()
            said += tuple(Said(kind, text, nth=nth) for kind, nth, text in piece.more)
            why = _why(this, piece, style.speech)
            yield Part(piece.kind, piece.seconds, why, said, stage, words_ms=piece.words_ms)


def _why(this: Pass, piece: Piece, speech: Speech) -> Why:
    spoken = (tuple(filter(None, (piece.words, *(text for _, _, text in piece.more)))), speech)
    match piece.kind:
        case SegmentKind.DEMONSTRATION:
            return Why(reasons.shown_reason, (piece.seconds, *spoken))
        case SegmentKind.REST:
            return Why(reasons.rest_reason, (piece.seconds, this.set_number))
        case SegmentKind.SETTLE:
            return Why(reasons.settle_reason, (piece.seconds,))
        case SegmentKind.RELEASE:
            return Why(reasons.release_reason, (piece.seconds, this.item.move.slow_rise_s, *spoken))
        case SegmentKind.SETUP if ceil_s(piece.words_ms) < piece.seconds:
            return Why(reasons.place_reason, (piece.seconds, *spoken))
        case _:
            return Why(reasons.speech_reason, (piece.seconds, *spoken))


_LEADING = {
    Arrival.FIRST: SegmentKind.TRANSITION,
    Arrival.AGAIN: SegmentKind.TRANSITION,
    Arrival.OTHER: SegmentKind.TRANSITION,
    Arrival.SWITCH: SegmentKind.SWITCH,
    Arrival.TURN: SegmentKind.TURN,
    Arrival.OVER: SegmentKind.TURN,
    Arrival.SET: SegmentKind.TRANSITION,
}


def _arriving(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> Iterator[Part]:
    """The way, as long as bodies, words and the reset take; the set-up once there; settling."""
    opening, way, reset = opening_of(this), way_into(this, before, style), reset_s(this)
    texts = ((CueKind.WAY, line_of_way(this, before, style)), (opening.kind, fill(opening.moving, filled)))
    said = tuple(Said(kind, words) for kind, words in texts if words)
    said_ms = sum(speaking_ms(one.text, style.speech) for one in said)
    way_ms = way.ms
    seconds = ceil_s(max(way_ms, said_ms, reset * 1000))
    why = Why(reasons.way_reason, (this, way, str(before.stance.posture), said_ms, seconds, reset))
    yield Part(_LEADING[this.arrival], seconds, why, said, reset_s=reset, way_s=ceil_s(way_ms), words_ms=said_ms)
    settling = Piece(SegmentKind.SETTLE, settle_s(this, style))
    yield from _parts(this, style, piece_of_arrival(opening, style, filled), settling)


def _cadence(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> Iterator[Part]:
    """The whole of transition, set-up and settle lasts the cadence; what does not fit stays unsaid."""
    cadence_s, settling_s = this.group.cadence_s, settle_s(this, style)
    room_ms = (cadence_s - settling_s) * 1000
    way, opening = way_into(this, before, style), opening_of(this)
    line = (CueKind.WAY, line_of_way(this, before, style))
    texts = [line, (opening.kind, fill(opening.moving, filled)), (CueKind.THERE, fill(opening.there, filled))]
    short, speech = fill(this.item.words.short, filled), style.speech
    if short and sum(speaking_ms(text, speech) for _, text in texts) > room_ms:
        texts = [line, (CueKind.SHORT, short)]
    wanted = [Said(kind, sentence) for kind, text in texts for sentence in sentences(text)]
    if style.prompts:
        wanted += [Said(CueKind(one.kind.value), fill(one.text, filled), nth=n) for n, one in opening.ahead]
    said, at, words_ms = [], 0, 0
    for one in wanted:
        lasting = speaking_ms(one.text, speech)
        words_ms += lasting
        fits = at + lasting <= room_ms
        said.append(one if fits else one._replace(unsaid_rule="cadence-short"))
        at = at + lasting if fits else room_ms + 1
    why, seconds = Why(reasons.cadence_reason, (cadence_s, way.ms, room_ms)), cadence_s - settling_s
    yield Part(_LEADING[this.arrival], seconds, why, tuple(said), way_s=ceil_s(way.ms), words_ms=words_ms)
    yield from _parts(this, style, Piece(SegmentKind.SETTLE, settling_s))


def _work(this: Pass, stage: int, dose: Dose, style: CueStyle) -> Iterator[Part]:
    value = this.value(stage, style.breath_ms)
    seconds, kind = work_seconds(this.item, stage, value), _WORK[type(dose)]
    halved = isinstance(dose, Timed) and dose.manner is Manner.HALVES
    why = Why(reasons.work_reason, (this, stage, value, seconds, halved))
    if halved:
        for side in (this.lead, this.lead.other):
            yield Part(kind, seconds // 2, why, (), stage, side, value)
    else:
        yield Part(kind, seconds, why, (), stage, None, value)


_WORK: dict[type[Dose], SegmentKind] = {
    Hold: SegmentKind.HOLD,
    Pulses: SegmentKind.PULSES,
    Reps: SegmentKind.REPS,
    Breaths: SegmentKind.BREATHS,
    Timed: SegmentKind.TIMED,
    Open: SegmentKind.OPEN,
}
