"""Words: whether what they say is true, promises nothing, and pushes nobody."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache, partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.lexicon import SpokenNumber, numbers, places
from extendum.core.checks.mends import drop_sentences, listed, rewritten
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.addressing import gives_home_dose
from extendum.core.listening.asking import pushes
from extendum.core.listening.promising import claims, says_safe
from extendum.core.model.body import Region
from extendum.core.model.dose import Breaths, Dose, Hold, Open, Pulses, Reps, Timed
from extendum.core.model.prompts import PromptKind
from extendum.core.model.talk import Talk
from extendum.core.timing.facts import whole_minutes
from extendum.core.timing.speech import sentences


def _by_item(texts: list[Text]) -> dict[str, list[Text]]:
    found: dict[str, list[Text]] = {}
    for text in texts:
        found.setdefault(text.item.id, []).append(text)
    return found


def sayings(subject: Subject, said: Callable[[str], tuple[str, ...]]) -> Iterator[tuple[str, list[Text], str]]:
    """Items whose words say something: the item's id, its texts that do, and the first thing said."""
    telling = _by_item([text for text in subject.all_texts if said(text.words)])
    for item, texts in telling.items():
        yield item, texts, said(texts[0].words)[0]


@checked(
    Family.WORDS,
    "claim",
    Severity.FIX,
    "whether words promise less soreness, no injury, healing, detox or energy",
    "Stretching and cooling down do little for next-day soreness (Herbert and others, 2011; Van Hooren and "
    "Peake, 2018), and the other promises are not known to be true either.",
)
def claim(subject: Subject) -> Iterator[Found]:
    """The words promise something that a stretch class cannot deliver."""
    for item, texts, first in sayings(subject, claims):
        name = texts[0].name
        yield Found(f"{name} promises: “{first}”.", (item,), mend=drop_sentences(texts, claims))


@checked(
    Family.SAFETY,
    "says-safe",
    Severity.FIX,
    "whether words tell people that a move is safe for them",
    "Nobody can know that for a group. Whether something is right for a person is for them and their professional.",
)
def said_safe(subject: Subject) -> Iterator[Found]:
    """The words say that something is safe, or that people need not ask."""
    for item, texts, first in sayings(subject, says_safe):
        yield Found(f"{texts[0].name} says “{first}”.", (item,), mend=drop_sentences(texts, says_safe))


@checked(
    Family.WORDS,
    "take-home",
    Severity.NOTE,
    "whether words set exercises for home",
    "A dose for home should be the one on the handout, and people should be able to read it again there.",
)
def take_home(subject: Subject) -> Iterator[Found]:
    """The words say how often to do something at home."""
    for item, texts, first in sayings(subject, gives_home_dose):
        yield Found(f"{texts[0].name} sets something for home: “{first}”.", (item,))


@checked(
    Family.WORDS,
    "pushing",
    Severity.FIX,
    "whether words push people through pain or to their limit",
    "A stretch should be mild, never sharp. Words that push say the opposite, above all to very flexible people.",
)
def pushing(subject: Subject) -> Iterator[Found]:
    """The words push people beyond mild tension."""
    for item, texts, first in sayings(subject, pushes):
        name = texts[0].name
        yield Found(f"{name} pushes: “{first}”.", (item,), mend=drop_sentences(texts, pushes))


@checked(
    Family.WORDS,
    "feel-elsewhere",
    Severity.CONSIDER,
    "whether the feeling cue names an area of the move",
    "If you name the wrong place, people go deeper there.",
)
def feel_elsewhere(subject: Subject) -> Iterator[Found]:
    """The words send the feeling to an area that the move does not target."""
    for item in subject.moves:
        regions = {target.region for target in item.move.targets}
        if not regions or Region.WHOLE_BODY in regions:
            continue
        for text in subject.texts[item.id]:
            named = places(text.words) if text.field == PromptKind.FEEL else _places_to_feel(text.words)
            wrong = next((place for place, meant in named if not meant & regions), "")
            if wrong:
                main = listed(item.move.main_regions) or listed(regions)
                yield Found(
                    f"{item.name} says to feel “{wrong}”, but it targets the {main}.",
                    (item.id,),
                    facts=(("text", text.words),),
                )
                break


@lru_cache(maxsize=8192)
def _places_to_feel(words: str) -> tuple[tuple[str, frozenset[Region]], ...]:
    """The places in the sentences that say what to feel."""
    return tuple(found for one in sentences(words) if "feel" in one.casefold() for found in places(one))


@checked(
    Family.WORDS,
    "number-false",
    Severity.FIX,
    "whether the numbers in the words are true",
    "Words can say ten minutes when it is twelve. A placeholder always says the real number.",
)
def number_false(subject: Subject) -> Iterator[Found]:
    """A spoken number differs from what the class does."""
    true: Callable[[Text], dict[str, set[int]]] = partial(_true_numbers, subject)
    for item_id, texts in subject.texts.items():
        spoken = [text for text in texts if any(not one.more for one in numbers(text.words))]
        wrong = [(text, one) for text in spoken for one in _false(text, true(text))]
        if wrong:
            text, one = wrong[0]
            is_so = _really(subject, text, one.unit) or sorted(true(text)[one.unit])
            told = f"; it is {listed(map(str, is_so), 3)}" if is_so else ""
            unit = _placeholder(text, one)
            mend = Mend(f"Use {{{unit}}}", rewritten([t for t, _ in wrong], partial(_told, true=true)))
            yield Found(
                f"{text.name} says “{one.phrase}”{told}.",
                (item_id,),
                facts=(("text", text.words),),
                mend=mend if unit else None,
            )


def _false(text: Text, true: dict[str, set[int]]) -> list[SpokenNumber]:
    return [n for n in numbers(text.words) if not n.more and n.unit in true and n.count not in true[n.unit]]


def _told(text: Text, true: Callable[[Text], dict[str, set[int]]]) -> str:
    words = text.words
    for one in reversed(_false(text, true(text))):
        unit = _placeholder(text, one)
        words = words[: one.start] + f"{{{unit}}}" + words[one.end :] if unit else words
    return words


def _placeholder(text: Text, one: SpokenNumber) -> str:
    """The placeholder that says it truly here; empty where there is none."""
    if isinstance(text.item, Talk):
        return one.unit if one.unit in ("minutes", "moves", "rounds") else ""
    lasting = isinstance(text.item.dose, Hold | Timed | Open)
    says = {"seconds": lasting, "count": not lasting, "minutes": False}
    return one.unit if says.get(one.unit, True) and not text.item.then else ""


def _true_numbers(subject: Subject, text: Text) -> dict[str, set[int]]:
    """What numbers of each unit are true in a text; a unit that is not among them can be anything."""
    moves = len(subject.moves)
    rounds = {g.rounds for section in subject.script.sections for g in section.groups if g.rounds > 1}
    if text.under:
        return {}
    if isinstance(text.item, Talk):
        true = {"moves": {moves}, "rounds": rounds}
        opens = subject.items and text.item.id == subject.items[0].id
        return true | ({"minutes": {whole_minutes(subject.timeline.length_s)}} if opens else {})
    item, seconds, counts = text.item, set[int](), {text.item.sets}
    for segment in subject.work[item.id]:
        seconds.add(segment.seconds)
        counts.add(round(segment.seconds * 1000 / subject.style.breath_ms))
    for dose in item.doses:
        phases, more = _inside(dose)
        seconds |= phases
        counts |= more
    seconds |= {item.rest_s, item.demonstrate_s, sum(s.seconds for s in subject.work[item.id])}
    for group in (g for section in subject.script.sections for g in section.groups if item in g.items):
        if group.rounds > 1 and group.taper_percent < 100:
            return {"rounds": rounds}
    return {"seconds": seconds, "count": counts, "rounds": rounds}


def _really(subject: Subject, text: Text, unit: str) -> list[int]:
    """What a number of a move should have said: its seconds in each pass, or its count."""
    if isinstance(text.item, Talk) or unit not in ("seconds", "count"):
        return []
    if unit == "seconds":
        return sorted({segment.seconds for segment in subject.work[text.item.id]})
    return [] if isinstance(text.item.dose, Hold | Timed | Open) else [text.item.dose.quantity.value]


def _inside(dose: Dose) -> tuple[set[int], set[int]]:
    """Seconds of a dose's phases, and what may be counted of it."""
    if not isinstance(dose, Pulses | Reps | Breaths):
        return set(), set()
    phases = {ms // 1000 for _, ms in dose.named_phases if ms % 1000 == 0}
    value = dose.many(dose.quantity.value)
    return phases | {dose.cycle_ms // 1000}, {value, 2 * value}


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
        return tuple(one.phrase for one in numbers(words) if one.more and one.unit == "seconds")

    for item in subject.moves:
        texts = [text for text in subject.texts[item.id] if guesses(text.words)]
        if texts:
            yield Found(
                f"{item.name} says “{guesses(texts[0].words)[0]}” whatever the clock says.",
                (item.id,),
                mend=drop_sentences(texts, guesses),
            )


CHECKS: tuple[Check, ...] = (claim, said_safe, take_home, pushing, feel_elsewhere, number_false, seconds_guessed)
