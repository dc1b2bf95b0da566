"""Words: whether the numbers that they say are those of the class, and nobody guesses what the clock says."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import drop_sentences, listed, rewritten
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.numbers import SpokenNumber, counted_down, numbers
from extendum.core.listening.words import sentences_of
from extendum.core.model.dose import Breaths, Dose, Hold, Open, Pulses, Reps, Timed
from extendum.core.model.item import CountIs, MoveItem
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Segment
from extendum.core.timing.facts import whole_minutes

if TYPE_CHECKING:
    from collections.abc import Iterator

True_ = dict[str, set[int]]
#: On the way breaths are taken that belong to no dose: ``take three breaths to come up``.
_BETWEEN = frozenset({"release", "switch", "turn"})


@checked(
    Family.WORDS,
    "number-false",
    Severity.FIX,
    "whether the numbers in the words are true",
    "Words can say ten minutes when it is twelve. A placeholder always says the real number.",
)
def number_false(subject: Subject) -> Iterator[Found]:
    """A spoken number differs from what the class does."""
    true: Callable[[Text], True_] = partial(_true_numbers, subject)
    for item_id, texts in subject.texts.items():
        spoken = [text for text in texts if any(map(_unit, numbers(text.words)))]
        wrong = [(text, one) for text in spoken for one in _false(text, true(text))]
        if wrong:
            text, one = wrong[0]
            is_so = (
                _really(subject, text, one.unit.removesuffix(" each"))
                or sorted(true(text)[_unit(one)])[: 1 if one.more else None]
            )
            told = f"; it is {listed(map(str, is_so), 3)}" if is_so else ""
            unit = _placeholder(text, one)
            mend = Mend(f"Use {{{unit}}}", rewritten([t for t, _ in wrong], partial(_told, true=true)))
            yield Found(
                f"{text.name} says “{one.phrase}”{told}.",
                (item_id,),
                facts=(("text", text.words),),
                mend=mend if unit else None,
            )


def _false(text: Text, true: True_) -> list[SpokenNumber]:
    return [n for n in numbers(text.words) if (unit := _unit(n)) in true and not n.allows(true[unit])]


def _unit(one: SpokenNumber) -> str:
    """What has to be true of a number; of what is left only the moves are known whenever it is said."""
    if one.more:
        return "moves left" if one.unit == "moves" else ""
    return one.unit


def _told(text: Text, true: Callable[[Text], True_]) -> str:
    words = text.words
    for one in reversed(_false(text, true(text))):
        unit = _placeholder(text, one)
        words = words[: one.start] + f"{{{unit}}}" + words[one.end :] if unit else words
    return words


def _placeholder(text: Text, one: SpokenNumber) -> str:
    """The placeholder that says it truly here; empty where there is none."""
    if one.most != one.count or text.under:
        return ""
    if one.more:
        return "moves_left" if one.phrase[:1].isalnum() else ""
    if isinstance(text.item, Talk):
        return one.unit if one.unit in ("minutes", "moves", "rounds") and one.phrase[:1].isalnum() else ""
    lasting = isinstance(text.item.dose, Hold | Timed | Open)
    says = {"seconds": lasting, "count": not lasting, "breaths": isinstance(text.item.dose, Breaths)}
    plain = text.words[one.start : one.end].replace("-", " ").casefold() not in _WORDED
    told = "count" if one.unit == "breaths" else one.unit
    return told if says.get(one.unit) and plain and not text.item.then else ""


#: Said without a number: no placeholder takes their place.
_WORDED = frozenset(
    {"half a minute", "quarter of a minute", "a whole minute", "a full minute", "a minute", "one minute"}
)


def _true_numbers(subject: Subject, text: Text) -> True_:
    """What numbers of each unit are true in a text; a unit that is not among them can be anything."""
    if text.under:
        first, last = subject.place.get(text.under.from_item, 0), subject.place.get(text.under.to_item, 0)
        under = [one for one in subject.items[first : last + 1] if isinstance(one, MoveItem)]
        return {unit: {n for one in under for n in _of_move(subject, one)[unit]} for unit in ("count", "breaths")}
    rounds = {g.rounds for section in subject.script.sections for g in section.groups if g.rounds > 1}
    at = subject.place[text.item.id]
    left = {sum(subject.place[item.id] > at for item in subject.moves)}
    if isinstance(text.item, Talk):
        true = {"moves": {len(subject.moves)}, "moves left": left, "rounds": rounds}
        opens = subject.items and text.item.id == subject.items[0].id
        return true | ({"minutes": {whole_minutes(subject.timeline.length_s)}} if opens else {})
    true = _of_move(subject, text.item) | {"moves left": left | {one + 1 for one in left}}
    if text.field in _BETWEEN:
        del true["breaths"]
    return true


def _of_move(subject: Subject, item: MoveItem) -> True_:
    group = next(g for section in subject.script.sections for g in section.groups if item in g.items)
    work = subject.work[item.id]
    once = {one.seconds for one in work} | _sums(work, lambda one: (one.round, one.pass_number))
    by_round, by_side = _sums(work, lambda one: one.round), _sums(work, lambda one: (one.round, one.side))
    whole = by_round | by_side | {sum(by_round)}
    counts, each, total, inside = set[int](), set[int](), set[int](), {item.rest_s, item.demonstrate_s}
    breaths = {round(one.seconds * 1000 / subject.style.breath_ms) for one in work}
    for dose in item.doses:
        phases, value = _inside(dose)
        inside |= phases
        if value:
            one_side = value // 2 if item.count_is is CountIs.TOTAL else value
            both = 2 * one_side if _has_sides(item) else value
            each, total, counts = each | {one_side}, total | {both}, counts | {value, both}
            breaths |= {value, both} if isinstance(dose, Breaths) else set()
    again = {n for n in (item.sets, group.rounds) if n > 1}
    true = {"seconds": once | inside, "seconds each": once | inside, "seconds in all": once | whole}
    true |= {"rounds": {group.rounds}, "sets": {item.sets}, "over": again, "breaths": breaths}
    true |= {"minutes": {one // 60 for one in once | whole | inside if one % 60 == 0}, "count": counts | again}
    true["rounds"] |= counts if group.rounds == 1 else set()
    if each:
        true |= {"total": total, **({"each": each} if _has_sides(item) else {})}
        true |= dict.fromkeys(("reps", *_called(item)), each | total)
    return true


def _long(segment: Segment) -> int:
    return segment.seconds


def _sums(work: list[Segment], of: Callable[[Segment], object]) -> set[int]:
    """The seconds of the segments that have the same in common, added up."""
    sums = Counter[object]()
    for one in work:
        sums[of(one)] += one.seconds
    return set(sums.values())


def _has_sides(item: MoveItem) -> bool:
    return item.move.sided or item.alternates or item.move.sidedness.by_direction


def _called(item: MoveItem) -> set[str]:
    """What a move is called, word by word: who says “five hinges” counts hinges."""
    named = sentences_of(f"{item.name}. {item.move.name}")
    return {word.stem for sentence in named for word in sentence if len(word.text) > 3}


def _really(subject: Subject, text: Text, unit: str) -> list[int]:
    """What a number of a move should have said: its seconds in each pass, or its count."""
    if isinstance(text.item, Talk) or text.under or unit not in ("seconds", "count"):
        return []
    if unit == "seconds":
        return sorted({segment.seconds for segment in subject.work[text.item.id]})
    return [] if isinstance(text.item.dose, Hold | Timed | Open) else [text.item.dose.quantity.value]


def _inside(dose: Dose) -> tuple[set[int], int]:
    """Seconds of a dose's phases, and how many of it are done."""
    if not isinstance(dose, Pulses | Reps | Breaths):
        return set(), 0
    phases = {ms // 1000 for _, ms in dose.named_phases if ms % 1000 == 0}
    return phases | {dose.cycle_ms // 1000}, dose.many(dose.quantity.value)


@checked(
    Family.WORDS,
    "seconds-guessed",
    Severity.CONSIDER,
    "whether words guess how many seconds are left",
    "A spoken “ten more seconds” can be anything from five to sixteen. Calls of the time left follow the clock.",
)
def seconds_guessed(subject: Subject) -> Iterator[Found]:
    """The words guess how much time is left."""

    def guesses(words: str) -> tuple[str, ...]:
        left = (one.phrase for one in numbers(words) if one.more and one.unit == "seconds")
        return (*left, *counted_down(words))

    for item in subject.moves:
        texts = [text for text in subject.texts[item.id] if guesses(text.words)]
        if texts:
            yield Found(
                f"{item.name} says “{guesses(texts[0].words)[0]}” whatever the clock says.",
                (item.id,),
                mend=drop_sentences(texts, guesses),
            )


CHECKS: tuple[Check, ...] = (number_false, seconds_guessed)
