"""How long each part of a step lasts, with the reason.

A pass, in order: demonstration, rest between sets, transition or switch, set-up, settle, the work of
each stage, release. Compiling and fitting both ask here, so that a fit's lengths are the timeline's
by construction.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from extendum.core.model.body import Side, Stance, body_seconds, switch_seconds
from extendum.core.model.dose import Breaths, Dose, Hold, Manner, Open, Pulses, Reps, Timed, pass_seconds
from extendum.core.model.item import Quiet, Talk, TalkKind, rep_total
from extendum.core.model.move import Prop
from extendum.core.model.style import CueStyle, spoken_side
from extendum.core.model.timeline import CueKind, SegmentKind
from extendum.core.model.words import fill
from extendum.core.timing.reasons import dose_reason, in_seconds, speech_reason
from extendum.core.timing.sequence import Arrival, Pass, Step, Still
from extendum.core.timing.speech import sentences, speaking_ms

#: What words may speak of the class, beside what they may of the pass.
Facts = Mapping[str, str]
#: Changing the direction of a move, without changing sides.
TURN_S = 1


@dataclass(frozen=True, slots=True)
class Said:
    """Words that begin with a part: which kind of cue, and the text."""

    kind: CueKind
    text: str
    unsaid_rule: str = ""


@dataclass(frozen=True, slots=True)
class Part:
    """A piece of a step: what it is, its whole seconds, why, its stage and side, and what is said in it."""

    kind: SegmentKind
    seconds: int
    reason: str
    said: tuple[Said, ...] = ()
    stage: int | None = None
    side: Side | None = None
    value: int = 0
    reset_s: int = 0
    way_s: int = 0


@dataclass(frozen=True, slots=True)
class Situation:
    """Where the class is between steps: bodies, and what they have in hand."""

    stance: Stance
    props: tuple[Prop, ...] = ()


def pass_facts(this: Pass, style: CueStyle, facts: Facts) -> dict[str, str]:
    """The class's facts together with those of this pass."""
    value = this.value(1, style.breath_ms)
    return {**side_facts(this, style, facts), "count": str(value), "seconds": str(work_seconds(this, 1, value))}


def side_facts(this: Pass, style: CueStyle, facts: Facts) -> dict[str, str]:
    """The class's facts together with those of this pass that do not follow its dose."""
    sided = this.side is not Side.BOTH
    return {
        **facts,
        "side": spoken_side(this.side, this.lead, style.side_names),
        "other": spoken_side(this.side.other, this.lead, style.side_names) if sided else "other",
        "direction": this.direction or "",
    }


def work_seconds(this: Pass, stage: int, value: int) -> int:
    """Whole seconds of the work of one stage at a value.

    Alternating reps counted per side are twice as many; time that switches at half has equal halves.
    """
    dose = this.item.dose_at(stage)
    seconds = pass_seconds(dose, rep_total(this.item, stage, value))
    halved = isinstance(dose, Timed) and dose.manner is Manner.HALVES
    return seconds - seconds % 2 if halved else seconds


def ceil_s(ms: int) -> int:
    """Whole seconds that hold these milliseconds."""
    return -(-ms // 1000)


def still_parts(still: Still, before: Situation) -> tuple[list[Part], Situation]:
    """The part of an item without a move; picking up and putting down take at least their time."""
    item = still.item
    if isinstance(item, Quiet):
        seconds = item.quantity.value
        return ([Part(SegmentKind.QUIET, seconds, _given(item, seconds))] if seconds else []), before
    handling = handling_s(item, before)
    seconds = max(item.quantity.value, handling)
    kind = _STILL.get(item.kind, SegmentKind.TALK)
    why = f"{seconds} s: handling takes {handling} s" if handling >= item.quantity.value > 0 else _given(item, seconds)
    return ([Part(kind, seconds, why)] if seconds else []), situation_after(still, before)


def handling_s(item: Talk, before: Situation) -> int:
    """Whole seconds of picking up and putting down props in a talk."""
    up_s = sum(prop.pick_up_s for prop in item.picks_up)
    return up_s + sum(prop.put_down_s for prop in before.props if prop.name in item.puts_down)


def situation_after(step: Step, before: Situation) -> Situation:
    """Bodies and hands after a step: time without a move keeps the posture."""
    if isinstance(step, Pass):
        return Situation(Stance(step.item.move.ends_in, step.side), step.item.move.props)
    if isinstance(step.item, Quiet):
        return before
    props = tuple(p for p in before.props if p.name not in step.item.puts_down)
    props += tuple(p for p in step.item.picks_up if p.name not in {q.name for q in props})
    return Situation(before.stance, props)


_STILL = {
    TalkKind.CHECK_IN: SegmentKind.CHECK_IN,
    TalkKind.NOTICE: SegmentKind.NOTICE,
    TalkKind.RECHECK: SegmentKind.RECHECK,
    TalkKind.REST: SegmentKind.REST,
    TalkKind.WATER: SegmentKind.REST,
    TalkKind.PROPS: SegmentKind.PROPS,
    TalkKind.STATION: SegmentKind.STATION,
}


def _given(item: Talk | Quiet, seconds: int) -> str:
    q = item.quantity
    if q.locked:
        return f"{seconds} s, locked"
    origin = "as wanted" if q.value == q.wanted else f"fitted; wanted {q.wanted}"
    return f"{seconds} s, {origin}; may be {q.least} to {q.most}"


def pass_parts(this: Pass, before: Situation, style: CueStyle, facts: Facts) -> tuple[list[Part], Situation]:
    """The parts of a pass that last longer than nothing, and the situation after it."""
    move, words = this.item.move, this.item.words
    filled = pass_facts(this, style, facts)
    found = list(_before(this, style, filled))
    if this.group.cadence_s and this.arrival is not Arrival.SET:
        found += _cadence(this, before, style, filled)
    else:
        found += _arriving(this, before, style, filled)
        found.append(_settling(_settle_s(this, style)))
    for stage, dose in enumerate(this.item.doses, 1):
        if stage > 1:
            told = fill(this.item.then[stage - 2].words, filled)
            found.append(_spoken(SegmentKind.SETUP, CueKind.STAGE, told, style, stage))
        found += _work(this, stage, dose, style)
    found.append(_release(move.slow_rise_s, fill(words.release, filled), style))
    return [part for part in found if part.seconds], situation_after(this, before)


def _before(this: Pass, style: CueStyle, filled: Facts) -> Iterator[Part]:
    item = this.item
    if this.arrival is Arrival.FIRST and item.demonstrate_s:
        words = fill(item.words.demonstration, filled)
        needed = ceil_s(speaking_ms(words, style.words_per_minute))
        seconds = max(item.demonstrate_s, needed)
        why = f"{seconds} s to show it first" + (f"; the words need {needed} s" if needed else "")
        said = (Said(CueKind.DEMONSTRATION, words),) if words else ()
        yield Part(SegmentKind.DEMONSTRATION, seconds, why, said)
    if this.after_rest:
        yield Part(SegmentKind.REST, item.rest_s, f"{item.rest_s} s of rest before set {this.set_number}")


def _opening_words(this: Pass, filled: Facts) -> tuple[CueKind, str, str]:
    """The words on the way and those once there: full the first time, short later, a switch or a turn."""
    words = this.item.words
    if this.arrival is Arrival.SWITCH:
        return CueKind.SWITCH, fill(words.switch, filled), ""
    if this.arrival is Arrival.TURN:
        return CueKind.TURN, fill(words.turn, filled), ""
    if this.arrival is Arrival.SET:
        return CueKind.MOVING, "", ""
    if this.arrival is Arrival.AGAIN and words.short:
        return CueKind.SHORT, fill(words.short, filled), ""
    return CueKind.MOVING, fill(words.moving, filled), fill(words.there, filled)


def _arriving(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> Iterator[Part]:
    kind, moving, there = _opening_words(this, filled)
    needed_ms, why = _needed(this, before, style)
    said_ms = speaking_ms(moving, style.words_per_minute)
    reset_s = this.group.reset_s if this.arrival in (Arrival.FIRST, Arrival.AGAIN) else 0
    seconds = ceil_s(max(needed_ms, said_ms, reset_s * 1000))
    if moving:
        why.append(f"{'words' if said_ms <= needed_ms else 'the words are longer:'} {in_seconds(said_ms)}")
    if reset_s:
        why.append(f"a reset of {reset_s} s under it")
    said = (Said(kind, moving),) if moving else ()
    reason = f"{seconds} s: " + ", ".join(why)
    yield Part(_LEADING[this.arrival], seconds, reason, said, reset_s=reset_s, way_s=ceil_s(needed_ms))
    yield _spoken(SegmentKind.SETUP, CueKind.THERE, there, style)


_LEADING = {
    Arrival.FIRST: SegmentKind.TRANSITION,
    Arrival.AGAIN: SegmentKind.TRANSITION,
    Arrival.SWITCH: SegmentKind.SWITCH,
    Arrival.TURN: SegmentKind.TURN,
    Arrival.SET: SegmentKind.TRANSITION,
}


def _needed(this: Pass, before: Situation, style: CueStyle) -> tuple[int, list[str]]:
    """Milliseconds that bodies and props need to get into the pass, and why."""
    move = this.item.move
    own_s = own_way_s(this)
    if own_s:
        return own_s * 1000, [f"{own_s} s, as it really takes"]
    handling: list[tuple[str, int]] = []
    if this.arrival in (Arrival.FIRST, Arrival.AGAIN):
        body_s = body_seconds(before.stance, Stance(move.posture, this.side))
        body = f"{before.stance.posture} to {move.posture}"
        handling = list(_prop_changes(before.props, move.props))
    else:
        back_s = 0 if move.ends_in is move.posture else body_seconds(before.stance, Stance(move.posture))
        body, body_s = "getting back", back_s
        if this.arrival is Arrival.SWITCH:
            body, body_s = "changing sides", max(back_s, switch_seconds(move.posture))
            handling = [(f"re-rig the {p.name}", p.rerig_s) for p in move.props if p.rerig_s]
        elif this.arrival is Arrival.TURN:
            body, body_s = "changing direction", max(back_s, TURN_S)
    body_ms = body_s * style.pace_percent * 10
    why = [f"{body} {in_seconds(body_ms)}"] if body_ms else []
    why += [f"{what} {s} s" for what, s in handling if s]
    return body_ms + 1000 * sum(s for _, s in handling), why


def own_way_s(this: Pass) -> int:
    """The item's own seconds of this way; 0 where they follow from postures and props."""
    own = {Arrival.FIRST: this.item.way_s, Arrival.SWITCH: this.item.switch_s}
    return own.get(this.arrival, 0)


def way_ms(this: Pass, before: Situation, style: CueStyle) -> int:
    """Milliseconds that bodies and props need on the way into a pass: room for words that costs nothing."""
    return _needed(this, before, style)[0]


def _prop_changes(held: tuple[Prop, ...], needed: tuple[Prop, ...]) -> Iterator[tuple[str, int]]:
    needed_names = {p.name for p in needed}
    held_names = {p.name for p in held}
    for prop in held:
        if prop.name not in needed_names:
            yield f"put down the {prop.name}", prop.put_down_s
    for prop in needed:
        if prop.name not in held_names:
            yield f"pick up the {prop.name}", prop.pick_up_s


def _settle_s(this: Pass, style: CueStyle) -> int:
    return style.settle_s if this.item.dose.settles else 0


def _cadence(this: Pass, before: Situation, style: CueStyle, filled: Facts) -> Iterator[Part]:
    """The whole of transition, set-up and settle lasts the cadence; what does not fit stays unsaid."""
    cadence_s = this.group.cadence_s
    settle_s = min(_settle_s(this, style), cadence_s)
    room_ms = (cadence_s - settle_s) * 1000
    needed_ms, _ = _needed(this, before, style)
    kind, moving, there = _opening_words(this, filled)
    short = fill(this.item.words.short, filled)
    texts = [(kind, moving), (CueKind.THERE, there)]
    wpm = style.words_per_minute
    if short and sum(speaking_ms(text, wpm) for _, text in texts) > room_ms:
        texts = [(CueKind.SHORT, short)]
    said, at = [], 0
    for one_kind, text in texts:
        for sentence in sentences(text):
            lasting = speaking_ms(sentence, wpm)
            fits = at + lasting <= room_ms
            said.append(Said(one_kind, sentence, "" if fits else "cadence-short"))
            at = at + lasting if fits else room_ms + 1
    why = f"{cadence_s} s from pass to pass, as the group's cadence says"
    if needed_ms > room_ms:
        why += f"; too short: getting there needs {in_seconds(needed_ms)}"
    yield Part(_LEADING[this.arrival], cadence_s - settle_s, why, tuple(said), way_s=ceil_s(needed_ms))
    yield _settling(settle_s)


def _settling(seconds: int) -> Part:
    return Part(SegmentKind.SETTLE, seconds, f"{seconds} s until everybody is there")


def _work(this: Pass, stage: int, dose: Dose, style: CueStyle) -> Iterator[Part]:
    value = this.value(stage, style.breath_ms)
    seconds = work_seconds(this, stage, value)
    why = dose_reason(dose, value, seconds, this)
    kind = _WORK[type(dose)]
    if isinstance(dose, Timed) and dose.manner is Manner.HALVES:
        for side in (this.lead, this.lead.other):
            yield Part(kind, seconds // 2, f"half of {why}", (), stage, side, value)
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


def _spoken(kind: SegmentKind, cue: CueKind, words: str, style: CueStyle, stage: int | None = None) -> Part:
    seconds = ceil_s(speaking_ms(words, style.words_per_minute))
    said = (Said(cue, words),) if words else ()
    return Part(kind, seconds, f"{seconds} s: {speech_reason(words, style)}", said, stage)


def _release(slow_rise_s: int, words: str, style: CueStyle) -> Part:
    said = _spoken(SegmentKind.RELEASE, CueKind.RELEASE, words, style)
    if slow_rise_s <= said.seconds:
        return said
    told = f", words {in_seconds(speaking_ms(words, style.words_per_minute))}" if words else ""
    return Part(SegmentKind.RELEASE, slow_rise_s, f"{slow_rise_s} s: the move's slow rise{told}", said.said)
