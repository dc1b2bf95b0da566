"""Announcements: whether what is said to come next or later, and what a section is called, really comes."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.lexicon import content_words
from extendum.core.checks.mends import drop_sentences, listed, rewritten
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.announcing import Promised, Thing, next_named, promised
from extendum.core.listening.areas import areas
from extendum.core.listening.words import stems_of
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.talk import Quiet


@checked(
    Family.ORDER,
    "next-differs",
    Severity.FIX,
    "whether the words announce the move that really comes next",
    "After a change of order, words can still announce the old move. {next} always names the right one.",
)
def next_differs(subject: Subject) -> Iterator[Found]:
    """The words announce one move and another one follows."""
    coming: MoveItem | None = None
    found: list[Found] = []
    for here in reversed(subject.items):
        if isinstance(here, Quiet):
            continue
        wrong: list[tuple[Text, str]] = []
        for text in subject.texts[here.id]:
            for said in next_named(text.words, ending=text.field == "release"):
                words = content_words(said)
                alike = {item: len(words & content_words(item.name)) for item in subject.moves if item is not here}
                best = max(alike.values(), default=0)
                if best and (coming is None or alike.get(coming, best) < best):
                    wrong.append((text, said))
        if wrong:
            text, said = wrong[0]
            comes = coming.name if coming else "no other move"
            mend = Mend("Put {next} there", rewritten([t for t, _ in wrong], _announcing)) if coming else None
            found.append(Found(f"{here.name} announces “{said}”, but {comes} comes next.", (here.id,), mend=mend))
        coming = here if isinstance(here, MoveItem) else coming
    yield from reversed(found)


def _announcing(text: Text) -> str:
    words = text.words
    for said in next_named(words, ending=text.field == "release"):
        words = words.replace(said, "{next}", 1)
    return words


@checked(
    Family.ORDER,
    "section-elsewhere",
    Severity.CONSIDER,
    "whether a section works the areas in its name",
    "A section should do what its name announces, for the class and for your log.",
)
def section_elsewhere(subject: Subject) -> Iterator[Found]:
    """A section is named after an area that none of its moves targets."""
    for section, items in subject.sections:
        moves = [item for item in items if isinstance(item, MoveItem)]
        regions = {target.region for item in moves for target in item.move.targets}
        missing = [area.told for area in areas(section.name) if not area.regions & regions]
        if moves and missing:
            yield Found(
                f"The section {section.name} has no move for the {listed(missing).casefold()}.",
                tuple(item.id for item in moves),
                facts=(("section", section.id),),
            )


@checked(
    Family.ORDER,
    "unkept",
    Severity.CONSIDER,
    "whether what words promise for later comes",
    "People wait for what was announced: an area, a prop, a break, the same move again.",
)
def unkept(subject: Subject) -> Iterator[Found]:
    """The words promise something for later in the class that never comes."""
    for here in subject.items:
        if isinstance(here, Quiet):
            continue
        for text in subject.texts[here.id]:
            missing = {one for one in promised(text.words) if not _kept(one, here, text, subject)}
            if missing:
                yield Found(
                    f"{text.name} announces “{listed(sorted(one.told for one in missing))}”, and nothing of the kind "
                    "comes.",
                    (here.id,),
                    facts=(("text", text.words),),
                    mend=drop_sentences([text], partial(_promises, these=missing)),
                )
                break


def _promises(words: str, these: Collection[Promised]) -> bool:
    """Whether words promise one of these."""
    return any(one in these for one in promised(words))


def _kept(one: Promised, here: Item, text: Text, subject: Subject) -> bool:
    """Whether a promise is kept: by a move from here on, or by what is said there."""
    at = subject.place[here.id]
    later = [item for item in subject.moves if subject.place[item.id] >= at]
    if one.kind is Thing.AREA:
        regions = {target.region for item in later for target in item.move.targets}
        return any(area.told == one.told and area.regions & regions for area in areas(one.told))
    if one.kind is Thing.AGAIN:
        return not isinstance(here, MoveItem) or _again(here, subject)
    named = {stem for item in later for stem in _stems_of_move(item)}
    said = {
        stem
        for other in subject.all_texts
        if other is not text and subject.place[other.item.id] >= at
        for stems in stems_of(other.words)
        for stem in stems
    }
    return one.stem in named | said


def _again(here: MoveItem, subject: Subject) -> bool:
    """Whether a move comes back after another one: in a later round, or once more on the way."""
    keys = [item.move.key for item in subject.visits]
    last = max((n for n, item in enumerate(subject.visits) if item is here), default=0)
    first = keys.index(here.move.key) if here.move.key in keys else 0
    return here.move.key in keys[last + 1 :] or here.move.key in keys[first + 1 :]


def _stems_of_move(item: MoveItem) -> Iterator[str]:
    """The stems of a move's name and of what it needs."""
    told = " ".join([item.name, *(" ".join((prop.name, *prop.or_else)) for prop in item.move.props)])
    for stems in stems_of(told):
        yield from stems


CHECKS: tuple[Check, ...] = (next_differs, section_elsewhere, unkept)
