"""Every text of an item that is ever spoken: where it stands, and the item with another text in its place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

from extendum.core.model.dose import COUNTED
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.phases import PhaseBreath
from extendum.core.model.prompts import Prompt
from extendum.core.model.talk import Talk

#: The texts of `Words` beside its prompts, in the order in which they are said.
AROUND = ("demonstration", "moving", "there", "short", "switch", "turn", "again", "each", "release")


class Place(NamedTuple):
    """Where a text stands in its item: a field of its words, or what else it is, in which stage (counted from 1).

    Of prompts ``nth`` is the place among those of the stage, and ``wording`` 0 for the text, then its other wordings.
    Of words that are said in a phase ``nth`` is their place among those of the dose.
    """

    field: str
    stage: int = 1
    nth: int = -1
    wording: int = 0

    @property
    def is_prompt(self) -> bool:
        """Whether it is a wording of a prompt."""
        return self.nth >= 0 and self.field != "phase"


def spoken_texts(item: Item) -> Iterator[tuple[Place, str]]:
    """The texts of an item that are not empty, in the order in which they are said."""
    if isinstance(item, Talk):
        if item.words:
            yield Place("words"), item.words
    elif isinstance(item, MoveItem):
        for field in AROUND:
            words = getattr(item.words, field)
            if words and (field != "again" or item.sets > 1):
                yield Place(field), words
        for stage, dose in enumerate(item.doses, 1):
            if stage > 1:
                yield from _of_stage(item, stage)
            for nth, said in enumerate(dose.says if isinstance(dose, COUNTED) else ()):
                if said.words:
                    yield Place("phase", stage, nth), said.words
            for nth, prompt in enumerate(item.prompts_at(stage)):
                for wording, words in enumerate(prompt.wordings):
                    yield Place(str(prompt.kind), stage, nth, wording), words


def _of_stage(item: MoveItem, stage: int) -> Iterator[tuple[Place, str]]:
    own = item.then[stage - 2]
    if own.words:
        yield Place("stage", stage), own.words
    if own.short:
        yield Place("stage-short", stage), own.short


def respoken(item: Item, place: Place, words: str) -> Item:
    """The item with another text in a place; of a prompt, a wording that is empty is taken out."""
    words = words.strip()
    if isinstance(item, Talk):
        return replace(item, words=words)
    if not isinstance(item, MoveItem):
        return item
    if place.field == "phase":
        return _in_phase(item, place, words)
    if place.is_prompt:
        prompts = item.prompts_at(place.stage)
        changed = _worded(prompts[place.nth], place.wording, words)
        return _with_prompts(item, place.stage, (*prompts[: place.nth], *changed, *prompts[place.nth + 1 :]))
    if place.stage > 1:
        field = "short" if place.field == "stage-short" else "words"
        then = list(item.then)
        then[place.stage - 2] = replace(then[place.stage - 2], **{field: words})  # type: ignore[arg-type]
        return replace(item, then=tuple(then))
    return replace(item, words=replace(item.words, **{place.field: words}))  # type: ignore[arg-type]


def _worded(prompt: Prompt, wording: int, words: str) -> tuple[Prompt, ...]:
    wordings = list(prompt.wordings)
    wordings[wording : wording + 1] = [words] if words else []
    return (replace(prompt, text=wordings[0], others=tuple(wordings[1:])),) if wordings else ()


def _with_prompts(item: MoveItem, stage: int, prompts: tuple[Prompt, ...]) -> MoveItem:
    if stage == 1:
        return replace(item, words=replace(item.words, prompts=prompts))
    then = list(item.then)
    then[stage - 2] = replace(then[stage - 2], prompts=prompts)
    return replace(item, then=tuple(then))


def _in_phase(item: MoveItem, place: Place, words: str) -> MoveItem:
    """Words of a phase that are gone leave its breath; without one nothing is left of it."""
    dose = item.dose_at(place.stage)
    if not isinstance(dose, COUNTED):
        return item
    says = list(dose.says)
    old = says[place.nth]
    kept = words or old.breath is not PhaseBreath.FREE
    says[place.nth : place.nth + 1] = [replace(old, words=words)] if kept else []
    changed = replace(dose, says=tuple(says))
    if place.stage == 1:
        return replace(item, dose=changed)
    then = list(item.then)
    then[place.stage - 2] = replace(then[place.stage - 2], dose=changed)
    return replace(item, then=tuple(then))
