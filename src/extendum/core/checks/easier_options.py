"""Words: whether the easier option is said, and in time."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import each, listed, with_prompt
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.caring import says_easier
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import OptionKind
from extendum.core.model.prompts import PromptKind
from extendum.core.model.timeline import CueKind

_LATE = (PromptKind.FORM, PromptKind.BREATH, PromptKind.DEEPER, PromptKind.ENCOURAGEMENT)


@checked(
    Family.WORDS,
    "easier-late",
    Severity.CONSIDER,
    "whether the easier option comes in the set-up or the first third",
    "By the time a late easier option comes, most people have strained already.",
)
def easier_late(subject: Subject) -> Iterator[Found]:
    """The easier option comes after the first third of the hold, or with the release."""
    for item in subject.moves:
        late = [text for text in subject.texts[item.id] if _is_late(text) and says_easier(text.words)]
        if late:
            turned = [text.place.nth for text in late if text.place.is_prompt and text.place.stage == 1]
            yield Found(
                f"The easier option of {item.name} comes late: “{late[0].words}”",
                (item.id,),
                mend=Mend("Say it in the first third", each([item.id], partial(_as_easier, prompts=tuple(turned))))
                if turned
                else None,
            )


def _is_late(text: Text) -> bool:
    return text.field in ("release", "stage", *_LATE)


def _as_easier(item: Item, prompts: tuple[int, ...]) -> Item:
    if not isinstance(item, MoveItem):
        return item
    changed = (
        replace(one, kind=PromptKind.EASIER) if n in prompts else one for n, one in enumerate(item.words.prompts)
    )
    return replace(item, words=replace(item.words, prompts=tuple(changed)))


@checked(
    Family.WORDS,
    "easier-never",
    Severity.CONSIDER,
    "whether demanding moves have a spoken easier option, or all moves where the group needs more time",
    "In every group, somebody needs it. Say it in the set-up or in the first third.",
)
def easier_never(subject: Subject) -> Iterator[Found]:
    """A move has no spoken easier option."""
    from_effort = 2 if subject.slow else 4
    quiet = [
        item
        for item in subject.moves
        if item.move.effort >= from_effort and not any(_offers_easier(text) for text in subject.texts[item.id])
    ]
    if quiet:
        yield Found(
            f"No easier option is spoken in {listed(item.name for item in quiet)}.",
            tuple(item.id for item in quiet),
            mend=Mend("Say one there", each([i.id for i in quiet], partial(_with_easier, subject=subject))),
        )


def _offers_easier(text: Text) -> bool:
    return text.field == PromptKind.EASIER or says_easier(text.words)


def _with_easier(item: Item, subject: Subject) -> Item:
    if not isinstance(item, MoveItem):
        return item
    entry, option = subject.entries.get(item.move.key), item.move.option(OptionKind.EASIER)
    shipped = next((p.text for p in entry.words.prompts if p.kind is PromptKind.EASIER), "") if entry else ""
    told = shipped or (option.words if option else "") or "To make it easier, make it smaller."
    return with_prompt(item, PromptKind.EASIER, told)


@checked(
    Family.WORDS,
    "easier-unsaid",
    Severity.CONSIDER,
    "whether the easier option fits in",
    "The first third of a short hold may have no room for it. Then it belongs in the set-up.",
)
def easier_unsaid(subject: Subject) -> Iterator[Found]:
    """The easier option is written but does not fit in."""
    yield from unsaid_of(subject, CueKind.EASIER, "The easier option")


def unsaid_of(subject: Subject, kind: CueKind, what: str) -> Iterator[Found]:
    """Prompts of a kind that are never said in any pass of their move, by move."""
    missed = {one.of.item for one in subject.timeline.unsaid if one.kind is kind}
    for item in subject.moves if missed else ():
        if item.id not in missed:
            continue
        cues = (cue for s in subject.work[item.id] for cue in subject.cues.get(s.id, ()))
        said = {cue.of.nth for cue in cues if cue.kind is kind}
        lost = [p for n, p in enumerate(item.words.prompts) if p.kind == kind.value and n not in said]
        if lost:
            texts = [prompt.text for prompt in lost]
            yield Found(
                f"{what} of {item.name} does not fit into the first third: “{texts[0]}”",
                (item.id,),
                mend=Mend("Say it once people are there", each([item.id], partial(_set_up, texts=texts))),
            )


def _set_up(item: Item, texts: list[str]) -> Item:
    if not isinstance(item, MoveItem):
        return item
    prompts = tuple(prompt for prompt in item.words.prompts if prompt.text not in texts)
    there = " ".join(filter(None, (item.words.there, *texts)))
    return replace(item, words=replace(item.words, there=there, prompts=prompts))


CHECKS: tuple[Check, ...] = (easier_late, easier_never, easier_unsaid)
