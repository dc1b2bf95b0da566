"""What a recording teaches: how long it was, what each side got, whether calls came true, what was said too often."""

from __future__ import annotations

import re
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from extendum.core.heard.guess import Guess, Heard, Line, Stretch, What
from extendum.core.heard.hear import RATE
from extendum.core.listening.asking import forces_breath, pushes
from extendum.core.listening.caring import says_easier, says_rest, says_tension
from extendum.core.listening.promising import claims
from extendum.core.listening.spelled import number_words
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock

#: A call is held against what comes within so long.
WITHIN_S = 90.0
#: A call that was off by so many seconds is told.
CALL_OFF_S = 2
#: A half that is off by so much of its stretch is told.
HALF_SHARE = 0.1
#: A sentence of so many words is a reminder when it is said so often.
REMINDER_WORDS, REMINDERS = 2, 3
#: An announcement is looked for in so many seconds.
ANNOUNCED_WITHIN_S = 60.0
EASIER, CAUTION = "easier option", "caution"
_ENDS = frozenset({What.RELEASE, What.SWITCH, What.MOVE})
_WORDS = {number_words(n): n for n in (*range(2, 21), 25, 30, 35, 40, 45, 60)}
_MINUTES = re.compile(rf"\b(\d{{1,2}}|{'|'.join(sorted(_WORDS, key=len, reverse=True))})[ -]minutes?\b")


@dataclass(frozen=True, slots=True)
class Call:
    """Time that was called, and what it really lasted; None where nothing ended it."""

    at: float
    said_s: int
    real_s: int | None


@dataclass(frozen=True, slots=True)
class Half:
    """A call of the half: how far into its stretch it really was, in percent."""

    at: float
    name: str
    percent: int


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


@dataclass(frozen=True, slots=True)
class HeardReport:
    """A recording as it was."""

    length_s: int
    announced_min: int | None
    opening_s: int
    closing_s: int
    sides: tuple[SidesHeard, ...]
    calls: tuple[Call, ...]
    halves: tuple[Half, ...]
    counts: tuple[Guess, ...]
    repeated: tuple[tuple[str, int], ...]
    said: tuple[tuple[float, str, str], ...]
    minutes: tuple[Minute, ...]
    breaths: int

    @property
    def slips(self) -> list[tuple[float, str]]:
        """Where a count went wrong."""
        return [(count.at, slip) for count in self.counts for slip in count.slips]

    def facts(self) -> list[str]:
        """The report in sentences, the weightiest first."""
        told = [self._length()]
        for one in self.sides:
            got = ", ".join(f"{side} {seconds} s" for side, seconds in one.sides)
            apart = f": {one.apart_s} s apart" if one.apart_s else ""
            told.append(f"{one.name[:1].upper()}{one.name[1:]}: {got}{apart}.")
        for call in self.calls:
            if call.real_s is not None and abs(call.real_s - call.said_s) >= CALL_OFF_S:
                told.append(f"At {_at(call.at)} {call.said_s} seconds were called and {call.real_s} came.")
        off = (half for half in self.halves if abs(half.percent - 50) >= 100 * HALF_SHARE)
        told += [f"At {_at(half.at)} half was called at {half.percent} % of it." for half in off]
        told += [f"At {_at(at)} the count went wrong: {slip}." for at, slip in self.slips]
        told += [f"“{text}” was said {times} times." for text, times in self.repeated]
        told += [f"At {_at(at)} {what}: “{words}”." for at, what, words in self.said if what not in (EASIER, CAUTION)]
        return [*told, *self._offered()]

    def _offered(self) -> Iterator[str]:
        """How often what protects people was said, and when first."""
        for what, told in ((CAUTION, "A caution was said"), (EASIER, "An easier way was offered")):
            when = [at for at, kind, _ in self.said if kind == what]
            yield (
                f"{told} {_times(len(when))}, first at {_at(when[0])}."
                if when
                else f"{told.replace('was', 'was not')}."
            )
        yield f"Breath was prompted {_times(self.breaths)}."

    def _length(self) -> str:
        told = f"{clock(self.length_s)} long"
        if self.announced_min:
            off = self.length_s - 60 * self.announced_min
            told += f", {self.announced_min} minutes were announced: {clock(abs(off))} {'over' if off > 0 else 'under'}"
        return f"{told}; {self.opening_s} s before the first move, {self.closing_s} s after the last."


def _at(seconds: float) -> str:
    return clock(int(seconds))


def _times(n: int) -> str:
    return {0: "never", 1: "once", 2: "twice"}.get(n, f"{n} times")


def heard_report(lines: Sequence[Line], heard: Heard) -> HeardReport:
    """What the guesses and the words of a recording add up to."""
    length = round(max(heard.length, *(line.start for line in lines), 0.0))
    first = next((one.at for one in heard.of(What.MOVE)), float(length))
    last = max((one.end for one in heard.stretches), default=float(length))
    ends = [one.at for one in heard.guesses if one.what in _ENDS]
    return HeardReport(
        length,
        _announced(lines),
        round(first),
        max(0, round(length - last)),
        tuple(_sides(heard.stretches)),
        tuple(_call(one, ends) for one in heard.of(What.LEFT)),
        tuple(half for one in heard.of(What.HALFWAY) if (half := _half(one, heard.stretches))),
        tuple(one for one in heard.guesses if one.what in (What.COUNTDOWN, What.REPS)),
        tuple(_repeated(lines)),
        tuple(_said(lines)),
        tuple(_minutes(lines, length)),
        len(heard.of(What.BREATH)),
    )


def _announced(lines: Sequence[Line]) -> int | None:
    for line in lines:
        if line.start <= ANNOUNCED_WITHIN_S and (found := _MINUTES.search(line.text.casefold())):
            return _WORDS.get(found.group(1), whole_number(found.group(1)))
    return None


def _sides(stretches: Sequence[Stretch]) -> list[SidesHeard]:
    """Moves done on two sides: the time of each side, added up over its returns."""
    by_name: dict[str, dict[str, float]] = {}
    for one in stretches:
        sides = by_name.setdefault(one.name, {})
        sides[one.side] = sides.get(one.side, 0.0) + one.seconds
    return [
        SidesHeard(name, tuple((side, round(seconds)) for side, seconds in sides.items()))
        for name, sides in by_name.items()
        if len(sides) > 1
    ]


def _call(call: Guess, ends: Sequence[float]) -> Call:
    """What comes first after a call and ends something; ``ends`` are in order."""
    after = bisect_right(ends, call.at)
    near = after < len(ends) and ends[after] <= call.at + WITHIN_S
    return Call(call.at, call.number, round(ends[after] - call.at) if near else None)


def _half(half: Guess, stretches: Sequence[Stretch]) -> Half | None:
    before = bisect_left(stretches, half.at, key=lambda one: one.start) - 1
    here = stretches[before] if before >= 0 else None
    if here is None or half.at >= here.end:
        return None
    return Half(half.at, here.name, round(100 * (half.at - here.start) / here.seconds))


def _sentences(lines: Sequence[Line]) -> list[tuple[float, str]]:
    return [
        (line.start, part.strip()) for line in lines for part in re.split(r"(?<=[.!?])\s+", line.text) if part.strip()
    ]


def _repeated(lines: Sequence[Line]) -> list[tuple[str, int]]:
    said = [(re.sub(r"\W+", " ", text.casefold()).strip(), text) for _, text in _sentences(lines)]
    counts = Counter(key for key, _ in said if len(key.split()) >= REMINDER_WORDS)
    first = dict(reversed(said))
    return [(first[key], n) for key, n in counts.most_common() if n >= REMINDERS]


def _said(lines: Sequence[Line]) -> list[tuple[float, str, str]]:
    """Claims, words that push, forced breath, cautions and the easier option, with what each of them is."""
    found = []
    for at, text in _sentences(lines):
        for what, listen in (("claim", claims), ("pushes", pushes), ("forces the breath", forces_breath)):
            found += [(at, what, words) for words in listen(text)]
        if says_easier(text):
            found.append((at, EASIER, text))
        if says_tension(text) or says_rest(text):
            found.append((at, CAUTION, text))
    return found


def _minutes(lines: Sequence[Line], length: int) -> list[Minute]:
    words = [0] * (length // 60 + 1)
    for line in lines:
        words[min(len(words) - 1, int(line.start // 60))] += len(line.text.split())
    lasts = [min(60, length - 60 * n) or 1 for n in range(len(words))]
    return [Minute(n, min(100, round(100 * n / RATE / s))) for n, s in zip(words, lasts, strict=True)]
