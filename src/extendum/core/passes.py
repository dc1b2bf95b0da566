"""The passes of an item and how long each of their parts lasts, with the reason.

A pass, in order: transition or switch, set-up, settle, work, release. Compiling and fitting both
ask here, so that a fit's lengths are the timeline's by construction.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from extendum.core.body import Side, Stance, body_seconds, switch_seconds
from extendum.core.dose import Breaths, Dose, Hold, Reps, pass_seconds
from extendum.core.move import Prop
from extendum.core.script import CueStyle, MoveItem
from extendum.core.speech import sentences, speaking_ms, word_count
from extendum.core.timeline import SegmentKind
from extendum.core.words import fill

#: The class's facts that words may speak of, beside those of the pass: next, minutes, moves, moves_left.
Facts = Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Pass:
    """One doing of an item on one side."""

    item: MoveItem
    number: int
    side: Side
    last: bool
    round: int = 1


@dataclass(frozen=True, slots=True)
class Part:
    """A piece of a pass: what it is, its whole seconds, why, and the words that fill it."""

    kind: SegmentKind
    seconds: int
    reason: str
    words: str = ""


@dataclass(frozen=True, slots=True)
class Situation:
    """Where the class is between passes: bodies, and what they have in hand."""

    stance: Stance
    props: tuple[Prop, ...] = ()


def passes(item: MoveItem, style: CueStyle) -> tuple[Pass, ...]:
    """The passes of an item in order: one for both sides together, or the lead side and the other."""
    if not item.move.sided:
        return (Pass(item, 1, Side.BOTH, last=True),)
    lead = style.lead_side
    return (Pass(item, 1, lead, last=False), Pass(item, 2, lead.other, last=True))


def pass_facts(this: Pass, facts: Facts) -> dict[str, str]:
    """The class's facts together with those of this pass."""
    sided = this.side is not Side.BOTH
    dose = this.item.dose
    return {
        **facts,
        "side": this.side.value,
        "other": this.side.other.value if sided else "other",
        "count": str(dose.quantity.value),
        "seconds": str(pass_seconds(dose)),
    }


def ceil_s(ms: int) -> int:
    """Whole seconds that hold these milliseconds."""
    return -(-ms // 1000)


def parts(this: Pass, before: Situation, style: CueStyle, facts: Facts) -> tuple[list[Part], Situation]:
    """The parts of a pass that last longer than nothing, and the situation after it."""
    item, move, words = this.item, this.item.move, this.item.words
    filled = pass_facts(this, facts)
    found = [_getting_there(this, before, style, fill(words.moving if this.number == 1 else words.switch, filled))]
    if this.number == 1:
        found.append(_spoken(SegmentKind.SETUP, fill(words.there, filled), style))
    if item.dose.settles and style.settle_s:
        found.append(Part(SegmentKind.SETTLE, style.settle_s, f"{style.settle_s} s until everybody is there"))
    found.append(Part(_WORK[type(item.dose)], pass_seconds(item.dose), dose_reason(item.dose)))
    found.append(_release(move.slow_rise_s, fill(words.release, filled), style))
    after = Situation(Stance(move.ends_in, this.side), move.props)
    return [part for part in found if part.seconds], after


_WORK: dict[type[Dose], SegmentKind] = {
    Hold: SegmentKind.HOLD,
    Reps: SegmentKind.REPS,
    Breaths: SegmentKind.BREATHS,
}


def _getting_there(this: Pass, before: Situation, style: CueStyle, words: str) -> Part:
    move = this.item.move
    if this.number == 1:
        kind = SegmentKind.TRANSITION
        body_s = body_seconds(before.stance, Stance(move.posture, this.side))
        body = f"{before.stance.posture} to {move.posture}"
        handling = list(_prop_changes(before.props, move.props))
    else:
        kind = SegmentKind.SWITCH
        back_s = 0 if move.ends_in is move.posture else body_seconds(before.stance, Stance(move.posture))
        body_s = max(back_s, switch_seconds(move.posture))
        body = "changing sides"
        handling = [(f"re-rig the {p.name}", p.rerig_s) for p in move.props if p.rerig_s]
    body_ms = body_s * style.pace_percent * 10
    needed_ms = body_ms + 1000 * sum(s for _, s in handling)
    said_ms = speaking_ms(words, style.words_per_minute)
    seconds = ceil_s(max(needed_ms, said_ms))
    why = [f"{body} {_s(body_ms)}"] if body_ms else []
    why += [f"{what} {s} s" for what, s in handling if s]
    if words:
        why.append(f"{'words' if said_ms <= needed_ms else 'the words are longer:'} {_s(said_ms)}")
    return Part(kind, seconds, f"{seconds} s: " + ", ".join(why), words)


def _prop_changes(held: tuple[Prop, ...], needed: tuple[Prop, ...]) -> Iterator[tuple[str, int]]:
    needed_names = {p.name for p in needed}
    held_names = {p.name for p in held}
    for prop in held:
        if prop.name not in needed_names:
            yield f"put down the {prop.name}", prop.put_down_s
    for prop in needed:
        if prop.name not in held_names:
            yield f"pick up the {prop.name}", prop.pick_up_s


def _spoken(kind: SegmentKind, words: str, style: CueStyle) -> Part:
    seconds = ceil_s(speaking_ms(words, style.words_per_minute))
    return Part(kind, seconds, f"{seconds} s: {speech_reason(words, style)}", words)


def _release(slow_rise_s: int, words: str, style: CueStyle) -> Part:
    said = _spoken(SegmentKind.RELEASE, words, style)
    if slow_rise_s <= said.seconds:
        return said
    told = f", words {_s(speaking_ms(words, style.words_per_minute))}" if words else ""
    return Part(SegmentKind.RELEASE, slow_rise_s, f"{slow_rise_s} s: the move's slow rise{told}", words)


def speech_reason(words: str, style: CueStyle) -> str:
    """Where a speaking time comes from: '7 words at 165 a minute, 1 sentence'."""
    count, ends = word_count(words), len(sentences(words))
    return (
        f"{count} {'word' if count == 1 else 'words'} at {style.words_per_minute} a minute, "
        f"{ends} {'sentence' if ends == 1 else 'sentences'}"
    )


def dose_reason(dose: Dose) -> str:
    """Where the length of the work comes from."""
    quantity, seconds = dose.quantity, pass_seconds(dose)
    if isinstance(dose, Hold):
        head = f"{seconds} s"
    else:
        head = f"{seconds} s: {quantity.value} {dose.unit} of {_s(dose.cycle_ms)}"
    if quantity.locked:
        return f"{head}, locked"
    limits = f"may be {quantity.least} to {quantity.most}"
    if quantity.value != quantity.wanted:
        return f"{head}, fitted; wanted {quantity.wanted}, {limits}"
    return f"{head}, as wanted; {limits}"


def _s(ms: int) -> str:
    return f"{ms / 1000:.1f}".removesuffix(".0") + " s"
