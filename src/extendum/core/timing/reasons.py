"""Why a part of a class lasts as long as it does, in words: where the number comes from."""

from __future__ import annotations

from extendum.core.model.dose import Breaths, Dose, Hold, Pulses, Reps, pass_seconds
from extendum.core.model.style import CueStyle
from extendum.core.timing.sequence import Pass
from extendum.core.timing.speech import sentences, word_count


def speech_reason(words: str, style: CueStyle) -> str:
    """Where a speaking time comes from: '7 words at 165 a minute, 1 sentence'."""
    count, ends = word_count(words), len(sentences(words))
    return (
        f"{count} {'word' if count == 1 else 'words'} at {style.words_per_minute} a minute, "
        f"{ends} {'sentence' if ends == 1 else 'sentences'}"
    )


def dose_reason(dose: Dose, value: int, seconds: int, this: Pass) -> str:
    """Where the length of the work comes from."""
    quantity = dose.quantity
    if isinstance(dose, Pulses | Reps | Breaths):
        per_side = " on each side" if seconds > pass_seconds(dose, value) else ""
        head = f"{seconds} s: {value} {dose.unit} of {in_seconds(dose.cycle_ms)}{per_side}"
    else:
        head = f"{seconds} s"
    if isinstance(dose, Hold) and dose.snap:
        head += ", whole breaths"
    if this.round > 1 and this.group.taper_percent < 100:
        head += f", round {this.round} at {this.group.taper_percent} % of the one before"
    if quantity.locked:
        return f"{head}, locked"
    limits = f"may be {quantity.least} to {quantity.most}"
    if quantity.value != quantity.wanted:
        return f"{head}, fitted; wanted {quantity.wanted}, {limits}"
    return f"{head}, as wanted; {limits}"


def in_seconds(ms: int) -> str:
    """Milliseconds as seconds with at most one decimal."""
    return f"{ms / 1000:.1f}".removesuffix(".0") + " s"
