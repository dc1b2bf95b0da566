"""Words: whether what they say is true, promises nothing, and pushes nobody."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from extendum.core.checks.finding import Check, Family, Found, Severity, checked
from extendum.core.checks.mends import drop_sentences, listed
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.addressing import gives_home_dose
from extendum.core.listening.asking import pushes
from extendum.core.listening.assuring import says_safe
from extendum.core.listening.places import Place, places, places_felt, touches
from extendum.core.listening.promising import claims
from extendum.core.model.body import Region
from extendum.core.model.move import OnSide, Target
from extendum.core.model.prompts import PromptKind


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
    """The words send the feeling to an area, or to a side of it, that the move does not target."""
    for item in subject.moves:
        targets = [target for n in range(1, len(item.doses) + 1) for target in item.targets_at(n)]
        regions = {target.region for target in targets}
        if not regions or Region.WHOLE_BODY in regions:
            continue
        for text in subject.texts[item.id]:
            if touches(text.words):
                continue
            named = places(text.words) if text.field == PromptKind.FEEL else places_felt(text.words)
            wrong = next((place for place in named if not _meets(place, targets)), None)
            if wrong:
                main = listed(item.move.main_regions) or listed(regions)
                side = f" on the {wrong.side} side" if wrong.side and wrong.regions & regions else ""
                yield Found(
                    f"{item.name} says to feel “{wrong.told}”{side}, but it targets the {main}.",
                    (item.id,),
                    facts=(("text", text.words),),
                )
                break


def _meets(place: Place, targets: list[Target]) -> bool:
    """Whether a place is one of the targets, on a side on which it is one."""
    meant = [target for target in targets if target.region in place.regions]
    if not place.side:
        return bool(meant)
    elsewhere = OnSide.OTHER if place.side == "side" else OnSide.NAMED
    return any(target.side is not elsewhere for target in meant)


CHECKS: tuple[Check, ...] = (claim, said_safe, take_home, pushing, feel_elsewhere)
