"""Lines of a move that its words do not have yet: its ladder, what to change, what to correct and what it is for."""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.model.item import MoveItem
from extendum.core.model.move import OptionKind
from extendum.core.model.prompts import Prompt, PromptKind

_KINDS = {
    OptionKind.EASIER: PromptKind.EASIER,
    OptionKind.DEEPER: PromptKind.DEEPER,
    OptionKind.ADJUST: PromptKind.ADJUST,
}


def further_lines(item: MoveItem) -> tuple[Prompt, ...]:
    """What else the move offers to be said, each once, as a prompt of its kind; none of it is among its prompts."""
    said = {one for n in range(1, len(item.doses) + 1) for prompt in item.prompts_at(n) for one in prompt.wordings}
    found = {text: kind for kind, text in _offered(item) if text and text not in said}
    return tuple(Prompt(kind, text) for text, kind in found.items())


def _offered(item: MoveItem) -> Iterator[tuple[PromptKind, str]]:
    for option in item.move.options:
        if option.kind in _KINDS:
            yield _KINDS[option.kind], option.words
    yield from ((PromptKind.FORM, one.say) for one in item.move.watch)
    yield PromptKind.ENCOURAGEMENT, item.move.why
