"""Numbers as they are spoken: how many, or from how many to how many, of what, and whether of what is left."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from extendum.core.listening.spelled import number_words
from extendum.core.listening.words import BREAKS, Sentence, sentences_of, stem, stems_of

_ONES = {number_words(n): n for n in range(1, 21)}
_TENS = {number_words(n): n for n in range(20, 100, 10)}
#: What is done once in each rep, as it is called.
_DONE = (
    "rolls circles lifts bends digs stamps steps swings hinges squats nods pulses presses raises curls taps kicks "
    "marches cycles passes waves bridges sways slides pumps shrugs squeezes dips cats sweeps rocks reaches tilts"
)
_UNITS = {
    **dict.fromkeys(map(stem, ("seconds", "second", "sec", "secs")), "seconds"),
    **dict.fromkeys(map(stem, ("minutes", "minute", "min", "mins")), "minutes"),
    **dict.fromkeys(map(stem, ("hour", "hours")), "hours"),
    **dict.fromkeys(map(stem, ("rep", "reps", "repetition", "repeat", "times", "time")), "count"),
    **dict.fromkeys(map(stem, ("breath", "breaths")), "breaths"),
    **dict.fromkeys(map(stem, ("round", "rounds")), "rounds"),
    **dict.fromkeys(map(stem, ("set", "sets")), "sets"),
    **dict.fromkeys(map(stem, _DONE.split()), "reps"),
    **dict.fromkeys(map(stem, ("move", "moves", "stretch", "stretches", "exercise", "exercises", "pose")), "moves"),
}
#: What may stand between a number and what it counts.
_BETWEEN = frozenset(
    map(
        stem,
        ("more", "other", "easy", "slow", "full", "deep", "long", "whole", "last", "gentle", "good", "big", "little"),
    )
)
_MORE = frozenset(map(stem, ("more", "other", "last", "another")))
_LEFT = frozenset(map(stem, ("more", "left", "remaining", "longer")))
_SIDES = frozenset(map(stem, ("side", "leg", "arm", "foot", "hand", "way", "direction", "calf", "knee")))
_EACH = frozenset(map(stem, ("each", "every", "per", "a")))
_OF_THESE = (("of", "these"), ("of", "them"), ("of", "this"))
_IN_ALL = (("in", "all"), ("altogeth",), ("in", "total"), ("all", "in", "all"), ("total",))


@dataclass(frozen=True, slots=True)
class SpokenNumber:
    """A number that a text says: where, from how many to how many, of what, and how it says so.

    ``unit``: seconds, seconds each, seconds in all, minutes, count, breaths, rounds, sets, reps, moves; ``each`` of
    what is done on a side or in a direction, ``total`` over both, ``over`` of how often all of it is done; or the stem
    of what is counted.
    """

    start: int
    end: int
    count: int
    most: int
    unit: str
    phrase: str
    more: bool

    def allows(self, true: set[int]) -> bool:
        """Whether one of the numbers that are true is what is said."""
        return any(self.count <= one <= self.most for one in true)


@lru_cache(maxsize=8192)
def numbers(text: str) -> tuple[SpokenNumber, ...]:
    """Every number above one that a text says of something that can be counted in a class, in their order."""
    found = [one for sentence in sentences_of(text) for one in _of_sentence(sentence, text) if one.most > 1]
    return tuple(sorted((*found, *_parts(text)), key=lambda one: one.start))


@lru_cache(maxsize=8192)
def counted_down(text: str) -> tuple[str, ...]:
    """Where a text counts down by itself: ``three, two, one``."""
    words = tuple(word for sentence in sentences_of(text) for word in sentence)
    said = [(n, _value(words, n)) for n in range(len(words))]
    run = [(n, value[0]) for n, value in said if value and value[1] == n + 1]
    return tuple(
        text[words[a].start : words[c].end]
        for (a, x), (b, y), (c, z) in zip(run, run[1:], run[2:], strict=False)
        if (x - y, y - z) == (1, 1) and c - a <= 6 and b > a
    )


def _of_sentence(sentence: Sentence, text: str) -> Iterator[SpokenNumber]:
    at = 0
    while at < len(sentence):
        value = _value(sentence, at)
        if value is None:
            at += 1
            continue
        first, (least, end) = at, value
        most = least
        joined = sentence[end].stem if end < len(sentence) else ""
        if joined in ("to", "or", "–") or (joined == "and" and first and sentence[first - 1].stem == "between"):
            upper = _value(sentence, end + 1)
            if upper is not None and upper[0] > least:
                most, end = upper
        found = _counted(sentence, first, end)
        if found is not None:
            unit, last, factor, more = found
            ahead = first and sentence[first - 1].stem in _MORE
            where = sentence[first].start, sentence[end - 1].end
            phrase = text[sentence[first].start : sentence[last - 1].end]
            yield SpokenNumber(*where, least * factor, most * factor, unit, phrase, more or bool(ahead))
            at = last
        else:
            at = end


def _value(sentence: Sentence, at: int) -> tuple[int, int] | None:
    """A number at a word, and where it ends; None where there is none."""
    if at >= len(sentence):
        return None
    word = sentence[at].text
    if word.isdigit():
        return (int(word), at + 1) if len(word) < 4 else None
    if word in _TENS:
        unit = sentence[at + 1].text if at + 1 < len(sentence) else ""
        if _ONES.get(unit, 10) < 10 and unit != "second":
            return _TENS[word] + _ONES[unit], at + 2
        return _TENS[word], at + 1
    if word in _ONES and word != "one":
        return _ONES[word], at + 1
    if word == "dozen":
        half = at > 0 and "half" in (sentence[at - 1].text, sentence[max(0, at - 2)].text)
        return (6 if half else 12), at + 1
    if word == "one":
        return 1, at + 1
    return None


def _counted(sentence: Sentence, first: int, end: int) -> tuple[str, int, int, bool] | None:
    """What a number counts: the unit, where it ends, what one of it is worth, and whether of what is left."""
    stems = [word.stem for word in sentence]
    at, more = end, False
    while at < len(stems) and at - end < 2 and stems[at] in _BETWEEN:
        more = more or stems[at] in _MORE
        at += 1
    here = stems[at] if at < len(stems) else ""
    if any(tuple(stems[end : end + len(one)]) == one for one in _OF_THESE):
        return "count", end + 2, 1, more
    if any(tuple(stems[end : end + len(one)]) == one for one in _IN_ALL):
        return "total", end + 1, 1, more
    if stems[end : end + 1] in (["each"], ["on"], ["per"], ["the"], ["a"]) and _SIDES & set(stems[end + 1 : end + 4]):
        return "each", end + 2, 1, more
    if stems[end : end + 2] == ["the", "other"]:
        return "each", end + 2, 1, more
    if here in _UNITS:
        unit, last = _UNITS[here], at + 1
        more = more or bool(_LEFT & set(stems[last : last + 1])) or stems[last : last + 2] == ["to", "go"]
        if unit in ("count", "breaths", "reps") and _for_each(stems[last : last + 6]):
            return "each", last, 1, more
        if unit == "count" and stems[last : last + 1] in (["over"], ["through"], ["round"], ["around"]):
            return "over", last + 1, 1, more
        if unit == "hours":
            return "minutes", last, 60, more
        if stems[end - 1 : end] == ["1"] or (first > 0 and _value(sentence, first) == (1, end)):
            return None if unit != "minutes" else ("minutes", last, 1, more)
        if unit == "seconds" and _in_all(stems[last : last + 4]):
            return "seconds in all", last, 1, more
        if unit == "seconds" and _for_each(stems[last : last + 6]):
            return "seconds each", last, 1, more
        return unit, last, 1, more
    if here == "" or here in BREAKS:
        before = stems[max(0, first - 3) : first]
        if {"do", "make", "take", "set"} & set(before) or stems[max(0, first - 2) : first] == ["set", "of"]:
            return "count", end, 1, more
        return None
    if _for_each(stems[at + 1 : at + 4]):
        return "each", at + 1, 1, more
    return (here, at + 1, 1, more) if here.isalpha() and here != "count" else None


def _for_each(after: list[str]) -> bool:
    """Whether words after a time say that it is that of each side: ``on each leg``, ``a side``."""
    at = next((n for n, stem in enumerate(after) if stem in _EACH), None)
    return at is not None and bool(_SIDES & set(after[at + 1 : at + 3]))


def _in_all(after: list[str]) -> bool:
    """Whether words after a time say that it is that of all passes together: ``in all``, ``for both sides``."""
    told = " ".join(after)
    return any(" ".join(one) in told for one in _IN_ALL) or "both" in after or "together" in told


def _parts(text: str) -> Iterator[SpokenNumber]:
    """``Half a minute``, ``a quarter of an hour``, ``a whole minute``: seconds or minutes without a number."""
    for sentence, said in zip(sentences_of(text), stems_of(text), strict=True):
        if _HOURS.isdisjoint(said):
            continue
        stems, at = [word.stem for word in sentence], 0
        while at < len(stems):
            part = next((one for one in _HOUR if tuple(stems[at : at + len(one[0])]) == one[0]), None)
            if part is None:
                at += 1
                continue
            pattern, value, unit = part
            often = at and stems[at - 1] in _OFTEN
            start, at = sentence[at].start, at + len(pattern)
            if often:
                continue
            end, more = sentence[at - 1].end, bool(_LEFT & set(stems[at : at + 1]))
            after = stems[at : at + 6]
            if unit == "seconds" and (_for_each(after) or _in_all(after[:4])):
                unit = "seconds in all" if _in_all(after[:4]) else "seconds each"
            yield SpokenNumber(start, end, value, value, unit, text[start:end], more or after[:2] == ["to", "go"])


_OFTEN = frozenset(map(stem, ("once", "twice", "time", "times", "every", "each", "per", "breaths", "rep", "reps")))
_HOURS = frozenset(map(stem, ("minute", "hour")))
_HOUR = tuple(
    (tuple(map(stem, words.split())), value, unit)
    for words, value, unit in (
        ("half a minute", 30, "seconds"),
        ("half minute", 30, "seconds"),
        ("quarter of a minute", 15, "seconds"),
        ("three quarters of an hour", 45, "minutes"),
        ("three quarters of a minute", 45, "seconds"),
        ("quarter of an hour", 15, "minutes"),
        ("half an hour", 30, "minutes"),
        ("half hour", 30, "minutes"),
        ("a whole minute", 60, "seconds"),
        ("a full minute", 60, "seconds"),
        ("a minute", 60, "seconds"),
        ("one minute", 60, "seconds"),
        ("an hour", 60, "minutes"),
    )
)
