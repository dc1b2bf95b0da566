"""Why a part of a class lasts as long as it does, in words: made when somebody asks.

Each function takes what a `Why` keeps about its part.
"""

from __future__ import annotations

from collections.abc import Sequence

from extendum.core.model.dose import Breaths, Hold, Pulses, Reps, pass_seconds
from extendum.core.model.talk import Quiet, Talk
from extendum.core.model.voice import Speech
from extendum.core.timing.sequence import Arrival, Pass
from extendum.core.timing.speech import ceil_s, sentences, speaking_ms, word_count
from extendum.core.timing.way import Way


def in_seconds(ms: int) -> str:
    """Milliseconds as seconds with at most one decimal."""
    return f"{ms / 1000:.1f}".removesuffix(".0") + " s"


def speech_reason(seconds: int, texts: Sequence[str], speech: Speech) -> str:
    """Where a speaking time comes from: '5 s: 7 words at 165 a minute, 1 sentence'."""
    if speech.voice and all(speech.read_ms(one) is not None for one in texts):
        return f"{seconds} s: read by {speech.voice.name} in {in_seconds(_said_ms(texts, speech))}"
    count, ends = sum(map(word_count, texts)), sum(len(sentences(one)) for one in texts)
    words = f"{count} {'word' if count == 1 else 'words'}"
    if speech.voice and speech.voice.word_ms:
        return f"{seconds} s: {words} as {speech.voice.name} speaks, {in_seconds(_said_ms(texts, speech))}"
    rate = f"at {speech.words_per_minute} a minute"
    return f"{seconds} s: {words} {rate}, {ends} {'sentence' if ends == 1 else 'sentences'}"


def _said_ms(texts: Sequence[str], speech: Speech) -> int:
    return sum(speaking_ms(one, speech) for one in texts)


def shown_reason(seconds: int, texts: Sequence[str], speech: Speech) -> str:
    """Where the length of a demonstration comes from."""
    needed_s = ceil_s(_said_ms(texts, speech))
    return f"{seconds} s to show it first" + (f"; the words need {needed_s} s" if needed_s else "")


def rest_reason(seconds: int, set_number: int) -> str:
    """Where a rest between sets comes from."""
    return f"{seconds} s of rest before set {set_number}"


def settle_reason(seconds: int) -> str:
    """Where settling comes from."""
    return f"{seconds} s until everybody is there"


def place_reason(seconds: int, texts: Sequence[str], speech: Speech) -> str:
    """Where the length of the way to another stage comes from, where it is longer than its words."""
    said_ms = _said_ms(texts, speech)
    return f"{seconds} s to get there, as you set it" + (f", words {in_seconds(said_ms)}" if said_ms else "")


def release_reason(seconds: int, slow_rise_s: int, texts: Sequence[str], speech: Speech) -> str:
    """Where the length of coming out comes from: its words, or the move's slow rise."""
    said_ms = _said_ms(texts, speech)
    if slow_rise_s <= ceil_s(said_ms):
        return speech_reason(seconds, texts, speech)
    return f"{seconds} s: the move's slow rise" + (f", words {in_seconds(said_ms)}" if texts else "")


def way_reason(this: Pass, way: Way, before: str, said_ms: int, seconds: int, reset_s: int) -> str:
    """Where the length of a way comes from: bodies and props, then words and the reset; ``before`` is the posture."""
    needed = _needed(this, way, before)
    if said_ms:
        needed.append(f"{'words' if said_ms <= way.ms else 'the words take longer:'} {in_seconds(said_ms)}")
    if reset_s:
        needed.append(f"including a reset of {reset_s} s")
    return f"{seconds} s: " + ", ".join(needed)


_BODY = {
    Arrival.SWITCH: "changing sides",
    Arrival.TURN: "changing direction",
    Arrival.OVER: "changing sides and direction",
    Arrival.SET: "getting back",
}


def _needed(this: Pass, way: Way, before: str) -> list[str]:
    if way.own_s:
        return [f"{way.own_s} s, as you set it"]
    posture = this.item.move.posture
    fresh = "to the other side" if this.arrival is Arrival.OTHER and before == posture else f"{before} to {posture}"
    body = _BODY.get(this.arrival, fresh)
    told = [f"{body} {in_seconds(way.body_ms)}"] if way.body_ms else []
    return told + [f"{one.what} the {one.prop} {one.seconds} s" for one in way.handled if one.seconds]


def cadence_reason(cadence_s: int, way_ms: int, room_ms: int) -> str:
    """Where the length of a way in a cadence comes from."""
    short = f"; too short, as people need {in_seconds(way_ms)}" if way_ms > room_ms else ""
    return f"{cadence_s} s from pass to pass, set by the group's cadence{short}"


def work_reason(this: Pass, stage: int, value: int, seconds: int, halved: bool) -> str:
    """Where the length of the work comes from; ``halved`` is one half of a time that switches."""
    dose = this.item.dose_at(stage)
    quantity = dose.quantity
    if isinstance(dose, Pulses | Reps | Breaths):
        per_side = " on each side" if seconds > pass_seconds(dose, value) else ""
        now = dose.at(value)
        head = f"{seconds} s: {now.many(value)} {dose.unit} of {in_seconds(now.cycle_ms)}{per_side}"
    else:
        head = f"{seconds} s"
    if isinstance(dose, Hold) and dose.snap:
        head += ", whole breaths"
    if this.round > 1 and this.group.taper_percent < 100:
        head += f", round {this.round} at {this.group.taper_percent} % of the one before"
    told = f"half of {head}" if halved else head
    limits = f"may be {quantity.least} to {quantity.most}"
    if quantity.locked:
        return f"{told}, locked"
    if quantity.value != quantity.wanted:
        return f"{told}, fitted; wanted {quantity.wanted}, {limits}"
    return f"{told}, as wanted; {limits}"


def still_reason(item: Talk | Quiet, seconds: int, handling_s: int) -> str:
    """Where the length of time without a move comes from."""
    q = item.quantity
    if handling_s >= q.value > 0:
        return f"{seconds} s: handling takes {handling_s} s"
    if q.locked:
        return f"{seconds} s, locked"
    origin = "as wanted" if q.value == q.wanted else f"fitted; wanted {q.wanted}"
    return f"{seconds} s, {origin}; may be {q.least} to {q.most}"


def reset_reason(seconds: int) -> str:
    """Where the length of a reset comes from."""
    return f"{seconds} s during the transition"


def meanwhile_reason(seconds: int, first: str, last: str) -> str:
    """Where the length of what runs under other things comes from."""
    return f"{seconds} s, during {first} to {last}"
