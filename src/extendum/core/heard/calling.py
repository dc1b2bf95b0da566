"""What is said about time and number: seconds and reps left, the half, counts up and down and where they go wrong."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from extendum.core.heard.said import Word, running
from extendum.core.model.limits import whole_number

_UP_TO_TWENTY = (
    "zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen "
    "eighteen nineteen twenty"
)
NUMBERS = {word: n for n, word in enumerate(_UP_TO_TWENTY.split())} | {
    "thirty": 30,
    "forty": 40,
    "fifty": 50,
    "sixty": 60,
}
#: A number is a call by itself where no other one stands within so many words.
ALONE_WORDS = 6
#: Nobody counts, or tells seconds left, beyond it.
MOST_COUNTED = 1000
#: Without the word seconds, so few are breaths or reps.
FEW = 5
#: A count that is interrupted goes on within so long, and so many words.
COUNT_GAP_S, COUNT_GAP_WORDS = 14.0, 9
_N = "|".join(
    (
        r"(?:twenty|thirty|forty|fifty)[ -]five",
        *sorted((word for word in NUMBERS if word != "zero"), key=len, reverse=True),
        r"\d{1,2}",
    )
)
_MINUTES = {"half a minute": 30, "half minute": 30, "a minute": 60, "one minute": 60, "quarter of a minute": 15}
_TIME = "|".join(_MINUTES)
_LAST_MINUTE = {"one more minute": 60, "one last minute": 60, "another minute": 60, "another half minute": 30}
_SECONDS = r"(?:seconds?|secs?|ticks)"
_UNIT = r"(?: (?P<unit>reps?|times|breaths?|rounds|of (?:those|these|them)|like that|circles?|lifts?))?"
#: *Another three* are reps or breaths; *Five!*, a sentence of its own, are seconds.
_ANOTHER = re.compile(rf"\b(?:another|a further) (?:about )?(?P<n>{_N})(?P<s> {_SECONDS})?\b(?! minutes?){_UNIT}")
_ALONE = re.compile(r"(?:^|(?<=\. ))(?P<n>five|ten|fifteen|twenty|thirty|5|10|15|20|30)(?P<s>) \.")
_LEFT = (
    re.compile(rf"\b(?P<n>{'|'.join(_LAST_MINUTE)})(?P<s>)\b"),
    re.compile(rf"\b(?:last|final) (?P<n>{_N})(?P<s> (?:few )?{_SECONDS})?\b{_UNIT}"),
    re.compile(
        rf"\b(?:another|about|just|only)? ?(?P<n>{_N}) "
        rf"(?:more|left|(?:still |yet )?(?:to|too|two|2) (?:go|come)|remaining)(?P<s> {_SECONDS})?\b{_UNIT}"
    ),
    _ANOTHER,
    re.compile(rf"\b(?P<n>{_N}) (?:more |further )?(?P<s>{_SECONDS})(?: (?:left|to go|more|now|still|remaining))?\b"),
    re.compile(rf"\b(?:few|couple of)(?P<s> {_SECONDS}) (?:\. )?(?:about |maybe )?(?P<n>{_N})\b"),
    re.compile(rf"\b(?:(?:another|last|final) )?(?P<n>{_TIME})(?P<s>) (?:more|left|to go|remaining)\b"),
    re.compile(rf"\b(?:another|last|final) (?P<n>{_TIME})(?P<s>)\b"),
    re.compile(rf"\b(?:another|last|final|one more) (?P<n>couple)(?: of)?(?P<s> {_SECONDS})?\b{_UNIT}"),
    _ALONE,
)
#: A dose, which is no call: *hold for thirty seconds*.
_DOSE = re.compile(
    rf"\b(?:for|of|it's|it is|hold|about for|take|each|every|in) (?:about )?(?:{_N}) {_SECONDS}\b"
    r"(?! (?:left|more|to go))"
)
_HALF = re.compile(
    r"\bhalf ?way\b|\bmid ?way\b|\b(?:that(?:'s| is| was)|we(?:'re| are) (?:at|in)) (?:about )?(?:the )?half\b"
    r"(?! of (?!it\b|that\b|this\b))|\bthe middle of (?:this|it)\b|\bhalf (?:done|gone|there|time)\b|"
    r"\bat (?:the )?half\b|(?:^|(?<=\. ))(?:and |about )?half(?: of (?:it|that|this))? \."
)
_LAST = re.compile(r"\b(?:last one|one more|once more|one last(?: one| time)?|last (?:time|breath|rep))\b")
_NO_HALF = re.compile(r"\b(?:go|come|only|bend|lower|lift|open|turn|it) half ?way\b")


@dataclass(frozen=True, slots=True)
class Call:
    """Time or number that was called: from which word, the seconds or the number, of what."""

    word: int
    at: float
    number: int
    unit: str
    said: str


@dataclass(frozen=True, slots=True)
class Count:
    """Numbers said in a row: from which word to which, the numbers, and what went wrong in them."""

    first: int
    last: int
    at: float
    until: float
    numbers: tuple[int, ...]

    @property
    def down(self) -> bool:
        """Whether it goes down."""
        return self.numbers[-1] < self.numbers[0]

    @property
    def slips(self) -> tuple[str, ...]:
        """Numbers that were left out or said twice; counting in twos is none."""
        steps = [b - a for a, b in pairwise(self.numbers)]
        even = len(set(steps)) == 1 and abs(steps[0]) == 2
        return () if even else tuple(f"{b} after {a}" for a, b in pairwise(self.numbers) if abs(a - b) != 1)


def value(word: str) -> int | None:
    """The number that a word or digits tell; None for none that is ever counted."""
    return NUMBERS.get(word, whole_number(word, most=MOST_COUNTED))


def _value(told: str) -> int:
    """The number that several words tell: *thirty five*, *half a minute*."""
    return (_MINUTES | _LAST_MINUTE | {"couple": 2}).get(told) or sum(
        value(word) or 0 for word in re.split("[ -]", told)
    )


def counts(words: Sequence[Word]) -> list[Count]:
    """Numbers in a row, up or down; two of them where they end a count (*seven, and eight*)."""
    numbers = [(n, number) for n, word in enumerate(words) if (number := value(word.text)) is not None]
    found: list[Count] = []
    held: list[tuple[int, int]] = []
    for n, number in [*numbers, (len(words) + 100, -99)]:
        if held and _goes_on(words, held, n, number):
            held.append((n, number))
            continue
        found += _count(words, held)
        held = [(n, number)]
    return found


def _goes_on(words: Sequence[Word], held: Sequence[tuple[int, int]], n: int, number: int) -> bool:
    last, before = held[-1]
    if n >= len(words) or n - last > COUNT_GAP_WORDS or words[n].at - words[last].at > COUNT_GAP_S:
        return False
    step = number - before
    if not 0 < abs(step) <= 2:
        return False
    return len(held) == 1 or (step > 0) == (held[1][1] > held[0][1])


def _count(words: Sequence[Word], held: Sequence[tuple[int, int]]) -> Iterator[Count]:
    if len(held) < 2:
        return
    numbers = tuple(number for _, number in held)
    first, last = held[0][0], held[-1][0]
    near = all(b - a <= 3 for (a, _), (b, _) in pairwise(held))
    if len(held) < 3 and not (near and numbers[1] - numbers[0] == 1 and numbers[1] >= 4):
        return
    if numbers[-1] < numbers[0] and numbers[-1] > 2:
        return
    if numbers[-1] > numbers[0] and numbers[0] > 2 and len(held) > 2 and not near:
        return
    yield Count(first, last, words[first].at, words[last].until, numbers)


def calls(words: Sequence[Word], counted: Sequence[Count]) -> list[Call]:
    """Seconds, reps and breaths that are called as what is left."""
    told = running(words)
    inside = {n for one in counted for n in range(one.first, one.last + 1)}
    plain = _DOSE.sub(lambda match: " " * len(match.group()), told.text)
    found: dict[int, Call] = {}
    for pattern in _LEFT:
        for match in pattern.finditer(plain):
            n, parts = told.word(match.start("n")), match.groupdict()
            number = _value(match.group("n"))
            unit = parts.get("unit") or ""
            more = pattern is _ANOTHER and not unit and parts.get("s") is None and number < FEW
            beside = [*words[max(0, n - ALONE_WORDS) : n], *words[n + 1 : n + 1 + ALONE_WORDS]]
            counting = pattern is _ALONE and any((value(one.text) or 0) > 2 for one in beside)
            if more or counting or (n in inside and not parts.get("s")):
                continue
            timed = parts.get("s") is not None or (number >= FEW and not unit)
            if n not in found:
                at = words[told.word(match.start() + len(match.group()) - len(match.group().lstrip()))].at
                found[n] = Call(n, at, number, "seconds" if timed else unit or "reps", match.group().strip())
    for match in _LAST.finditer(told.text):
        n = told.word(match.start())
        if not any(abs(n - m) < 3 for m in found):
            found[n] = Call(n, words[n].at, 1, "breaths" if "breath" in match.group() else "reps", match.group())
    return [found[n] for n in sorted(found)]


def halves(words: Sequence[Word]) -> list[int]:
    """The words that call the half."""
    told = running(words)
    ways = [match.end() for match in _NO_HALF.finditer(told.text)]
    return [told.word(match.start()) for match in _HALF.finditer(told.text) if match.end() not in ways]
