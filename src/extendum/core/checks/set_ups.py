"""Words: whether every section and move is introduced in words, and briefly when it comes back."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import each, listed
from extendum.core.checks.subject import Subject
from extendum.core.edit.script_edits import remove_section
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.section import Role
from extendum.core.model.timeline import SegmentKind
from extendum.core.timing.layout import ways_told
from extendum.core.timing.speech import sentences, word_count

#: Words of a set-up that is said again in full, from which on it is worth a short form.
LONG_AGAIN = 14


@checked(
    Family.WORDS,
    "section-empty",
    Severity.CONSIDER,
    "whether each section has something in it",
    "The class would hear the name of an empty section and nothing more.",
)
def section_empty(subject: Subject) -> Iterator[Found]:
    """A warm-up or main section has no move, or another section has nothing at all."""
    for section, items in subject.sections:
        works = section.role in (Role.WARM_UP, Role.MAIN) and not _goes_on_under(subject, items)
        if (works and not any(isinstance(item, MoveItem) for item in items)) or not items:
            bare = not section.items
            yield Found(
                f"{section.name or 'A section'} ({section.role}) has no move in it.",
                tuple(item.id for item in items),
                facts=(("section", section.id),),
                mend=Mend("Remove the section", partial(remove_section, section_id=section.id)) if bare else None,
            )


def _goes_on_under(subject: Subject, items: Sequence[Item]) -> bool:
    """Whether something goes on meanwhile, such as feet that march under a talk."""
    places = {subject.place[item.id] for item in items}
    return any(
        subject.place.get(one.from_item, 0) <= place <= subject.place.get(one.to_item, -1)
        for one in subject.script.meanwhiles
        for place in places
    )


@checked(
    Family.WORDS,
    "no-set-up",
    Severity.CONSIDER,
    "whether each move has a spoken set-up the first time",
    "People on the floor or with their backs to you have only your words.",
)
def no_set_up(subject: Subject) -> Iterator[Found]:
    """A move begins for the first time without any words."""
    bare = [i for i in subject.moves if not (i.words.moving or i.words.there or i.words.demonstration)]
    if bare:
        known = [item for item in bare if item.move.key in subject.entries]
        yield Found(
            f"No words say how to get into {listed(item.name for item in bare)}.",
            tuple(item.id for item in bare),
            mend=Mend("Use the library's words", each([i.id for i in known], partial(_library_words, subject=subject)))
            if known
            else None,
        )


def _library_words(item: Item, subject: Subject) -> Item:
    if not isinstance(item, MoveItem):
        return item
    ours = subject.entries[item.move.key].words
    return replace(item, words=replace(item.words, moving=ours.moving, there=ours.there))


@checked(
    Family.WORDS,
    "again-long",
    Severity.NOTE,
    "whether a repeated set-up is short",
    "In a later round people know the move. Short words leave more time for it.",
)
def again_long(subject: Subject) -> Iterator[Found]:
    """A long set-up is repeated in full."""
    long = []
    for item in subject.moves:
        words = f"{item.words.moving} {item.words.there}"
        if not item.words.short and word_count(words) >= LONG_AGAIN and not item.between:
            starts = {(s.round, s.pass_number) for s in subject.segments[item.id] if s.kind is SegmentKind.TRANSITION}
            if len(starts) > 1:
                long.append(item)
    if long:
        verb = "repeat" if long[1:] else "repeats"
        yield Found(
            f"{listed(item.name for item in long)} {verb} the whole set-up.",
            tuple(item.id for item in long),
            mend=Mend("Add short words", each([i.id for i in long], partial(_shortened, subject=subject))),
        )


def _shortened(item: Item, subject: Subject) -> Item:
    if not isinstance(item, MoveItem):
        return item
    entry = subject.entries.get(item.move.key)
    short = entry.words.short if entry else ""
    if not short:
        side = " The {side} side." if item.move.sided else ""
        short = f"{sentences(item.words.moving or item.words.there)[0]}{side}"
    return replace(item, words=replace(item.words, short=short))


@checked(
    Family.WORDS,
    "posture-unsaid",
    Severity.NOTE,
    "whether your words say how to get to the floor, to a chair or up again",
    "Your own words know the room. Ready-made ones only know the posture.",
)
def posture_unsaid(subject: Subject) -> Iterator[Found]:
    """People change support, and the item's own words do not say how: ready-made ones do, or none."""
    said: dict[str, dict[bool, str]] = {}
    for cue in subject.spoken_ways:
        later = (cue.of.round, cue.of.pass_number) > (1, 1)
        said.setdefault(cue.of.item, {}).setdefault(later, cue.text)
    quiet = [item.id for item in subject.moves if not item.say_way]
    told = ways_told(subject.script) if quiet else {}
    silenced = {item: {told[item].later: told[item].words} for item in quiet if item in told}
    names = {item.id: item.name for item in subject.moves}
    if silenced:
        yield Found(
            f"No words say how to get into position for {listed(names[item] for item in silenced)}.",
            tuple(silenced),
            mend=Mend("Add it to their words", each(list(silenced), partial(_saying_way, lines=silenced))),
            severity=Severity.CONSIDER,
        )
    if said:
        first = next(iter(next(iter(said.values())).values()))
        yield Found(
            f"Ready-made words, such as “{first}”, bring people to {listed(names[item] for item in said)}.",
            tuple(said),
            mend=Mend("Put the ready-made words into yours", each(list(said), partial(_saying_way, lines=said))),
        )


def _saying_way(item: Item, lines: Mapping[str, Mapping[bool, str]]) -> Item:
    """The move with the words for the way before those of its own: the first time, or where it comes again."""
    if not isinstance(item, MoveItem):
        return item
    words = item.words
    for later, line in lines[item.id].items():
        if later and words.short:
            words = replace(words, short=f"{line} {words.short}")
        else:
            words = replace(words, moving=f"{line} {words.moving}".strip())
    return replace(item, words=words)


CHECKS: tuple[Check, ...] = (section_empty, no_set_up, again_long, posture_unsaid)
