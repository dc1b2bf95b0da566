"""What a recording teaches: how long it was, what each side got, whether calls came true, what was said too often.

It says of what was not heard that it was not heard, never that it was not said.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise
from statistics import median

from extendum.core.heard.recording import Heard
from extendum.core.heard.said import Word
from extendum.core.heard.slipping import slips_of
from extendum.core.listening.words import stem
from extendum.core.model.timeline import clock

#: A call that was off by so many seconds is worth a line.
CALL_OFF_S = 3
#: The report has a half that is off by so much of its pass, in percent.
HALF_OFF = 15
#: Where the times of a text stand so far apart, those between them are guesses.
FAR_S = 60.0
_PAIRS = (frozenset({"left", "right"}), frozenset({"first", "second"}))
_BREATH = frozenset(stem(word) for word in ("breathe", "breath", "breathing", "exhale", "inhale"))


@dataclass(frozen=True, slots=True)
class SidesHeard:
    """What the sides of one move got, in seconds, in the order in which they came."""

    name: str
    sides: tuple[tuple[str, int], ...]

    @property
    def apart_s(self) -> int:
        """How far the sides are apart."""
        return max(s for _, s in self.sides) - min(s for _, s in self.sides) if len(self.sides) > 1 else 0


@dataclass(frozen=True, slots=True)
class Minute:
    """One minute: words spoken in it, and the share of it that was spoken, in percent."""

    words: int
    talk_percent: int


def facts(heard: Heard) -> list[str]:
    """The report in sentences, the weightiest first."""
    sides = []
    for one in sides_of(heard):
        got = ", ".join(f"{side} {seconds} s" for side, seconds in one.sides)
        apart = f": {one.apart_s} s apart" if one.apart_s else ""
        sides.append(f"{one.name[:1].upper()}{one.name[1:]}: {got}{apart}.")
    return [_length(heard), *_stamped(heard), *_promised(heard), *sides, *called_off(heard), *_said(heard)]


def besides(heard: Heard) -> list[str]:
    """The report without what is to be mended in the class: how long it was, and what was said in it."""
    return [_length(heard), *_stamped(heard), *_said(heard)]


def called_off(heard: Heard) -> Iterator[str]:
    """Calls that did not come true, and counts that went wrong."""
    for call in heard.calls:
        if call.real_s is not None and abs(call.real_s - call.said_s) >= CALL_OFF_S:
            yield f"At {_at(call.at)}, {call.said_s} seconds were called and about {call.real_s:.0f} came."
    for half in heard.halves:
        if half.percent is not None and abs(half.percent - 50) >= HALF_OFF:
            yield f"At {_at(half.at)} half was called at about {half.percent} % of it."
    counted = {one.at for one in heard.counts}
    for slip in slips_of(heard):
        went = f"the count went wrong: {slip.what}" if slip.at in counted else slip.what
        yield f"At {_at(slip.at)} {went}."


def _said(heard: Heard) -> Iterator[str]:
    """What was said again and again, what had better not be said, and what protects people."""
    for text, at in heard.reminders:
        yield f"“{text}” was said {len(at)} times, in these words or others."
    for what, name in (("claim", "claim"), ("push", "pushes"), ("forces the breath", "forces the breath")):
        for one in heard.of(what):
            yield f"At {_at(one.at)} {name}: “{one.said}”."
    yield from _offered(heard)


def sides_of(heard: Heard) -> list[SidesHeard]:
    """Moves done on two sides: the time of each side, added up over its returns."""
    by_name: dict[str, dict[str, float]] = {}
    for move in heard.moves:
        for one in move.passes:
            sides = by_name.setdefault(move.name, {})
            sides[one.side] = sides.get(one.side, 0.0) + one.seconds
    return [
        SidesHeard(name, tuple((side, round(seconds)) for side, seconds in sides.items() if side in pair))
        for name, sides in by_name.items()
        for pair in _PAIRS
        if pair <= sides.keys()
    ]


def minutes_of(words: Sequence[Word], length: float) -> list[Minute]:
    """Words spoken in each minute, and the share of it that was spoken."""
    n = max(1, -(-int(length) // 60))
    counted, spoken = [0] * n, [0.0] * n
    for word in words:
        minute = min(n - 1, int(word.at // 60))
        counted[minute] += 1
        spoken[minute] += word.until - word.at
    lasts = [min(60, int(length) - 60 * k) or 1 for k in range(n)]
    return [
        Minute(words, min(100, round(100 * s / whole))) for words, s, whole in zip(counted, spoken, lasts, strict=True)
    ]


def _length(heard: Heard) -> str:
    told = f"{clock(round(heard.length))} long"
    if not heard.moves:
        return f"{told}. No move was heard in it: perhaps it is no class, or its words are too few."
    first, last = heard.moves[0], heard.moves[-1]
    after = max(0, round(heard.length - last.end))
    return f"{told}; {len(heard.moves)} moves heard, the first after {round(first.start)} s, {after} s after the last."


def _stamped(heard: Heard) -> Iterator[str]:
    begins = [next(words).at for _, words in groupby(heard.words, lambda word: word.line)]
    apart = median(b - a for a, b in pairwise([*begins, heard.length])) if begins else 0.0
    if apart > FAR_S:
        yield f"Its times stand about {apart:.0f} s apart, so the seconds here are guesses."


def _promised(heard: Heard) -> Iterator[str]:
    for one in heard.promises:
        if one.what == "minutes":
            off = round(heard.length) - 60 * one.number
            yield f"{one.number} minutes were announced: {clock(abs(off))} {'over' if off > 0 else 'under'}."
        else:
            unlike = len({move.key or move.name for move in heard.moves})
            yield f"{one.number} moves were announced, and about {unlike} were heard."


def _offered(heard: Heard) -> Iterator[str]:
    """How often what protects people was heard, and when first; what was not heard may have been said all the same."""
    breaths = [word.at for word in heard.words if word.stem in _BREATH]
    for told, when, missed in (
        ("A caution", [one.at for one in heard.of("caution")], "almost half of them are missed"),
        ("An easier way", [one.at for one in heard.of("easier way")], "one in other words may have been said"),
        ("A mention of the breath", breaths, "one in other words may have been said"),
    ):
        yield (
            f"{told} was heard {_times(len(when))}, first at {_at(when[0])}."
            if when
            else f"{told} was not heard; {missed}."
        )


def _at(seconds: float) -> str:
    return clock(int(seconds))


def _times(n: int) -> str:
    return {1: "once", 2: "twice"}.get(n, f"{n} times")
