"""Edits that mend findings, put together from the edits that a teacher makes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Mend
from extendum.core.checks.looked import Looked, Text
from extendum.core.dose import Elastic
from extendum.core.edit import add_section, fresh_id, insert_item, replace_items, set_stage_quantity, swap_move
from extendum.core.errors import RefusedError
from extendum.core.explain import names
from extendum.core.item import Item, MoveItem, Talk, TalkKind
from extendum.core.move import Move
from extendum.core.order import proposals
from extendum.core.script import Role, Script
from extendum.core.speech import sentences, speaking_ms
from extendum.core.style import CueStyle
from extendum.core.suggest import stand_ins
from extendum.core.words import Prompt, PromptKind


def each(items: Iterable[str], change: Callable[[Item], Item]) -> Callable[[Script], Script]:
    """The same change of several items, as one edit."""
    ids = tuple(items)
    return lambda script: replace_items(script, {one: change(script.item(one)) for one in ids})


def with_text(item: MoveItem | Talk, text: Text, words: str) -> Item:
    """An item with one of its texts changed; an empty prompt is taken out."""
    words = words.strip()
    if isinstance(item, Talk):
        return replace(item, words=words)
    if text.prompt is not None:
        prompts = list(item.words.prompts)
        prompts[text.prompt : text.prompt + 1] = [replace(prompts[text.prompt], text=words)] if words else []
        return replace(item, words=replace(item.words, prompts=tuple(prompts)))
    if text.field.startswith("stage"):
        number = int(text.field.split()[1]) - 2
        then = (*item.then[:number], replace(item.then[number], words=words), *item.then[number + 1 :])
        return replace(item, then=then)
    changes: dict[str, str] = {text.field: words}
    return replace(item, words=replace(item.words, **changes))  # type: ignore[arg-type]


def rewritten(texts: Iterable[Text], rewrite: Callable[[Text], str]) -> Callable[[Script], Script]:
    """Texts rewritten, each in its place; of one item's prompts the last first, so that no index moves."""
    by_item: dict[str, list[Text]] = {}
    for text in texts:
        by_item.setdefault(text.item.id, []).append(text)

    def change(item: Item) -> Item:
        for text in sorted(by_item[item.id], key=lambda one: one.prompt or -1, reverse=True):
            if isinstance(item, MoveItem | Talk):
                item = with_text(item, text, rewrite(text))
        return item

    return each(by_item, change)


def without_sentences(words: str, said: Callable[[str], object]) -> str:
    """The words without the sentences that say something."""
    return " ".join(sentence for sentence in sentences(words) if not said(sentence))


def drop_sentences(texts: Iterable[Text], said: Callable[[str], object]) -> Mend:
    """Take out every sentence of these texts that says something."""
    kept = list(texts)
    return Mend("Take the sentence out", rewritten(kept, lambda text: without_sentences(text.words, said)))


def with_prompt(item: Item, kind: PromptKind, text: str) -> Item:
    """A move that also says something while it is done."""
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    prompt = Prompt(kind, text[:400], 1)
    return replace(item, words=replace(item.words, prompts=(prompt, *item.words.prompts)))


def _with_sentence(item: Item, text: str, style: CueStyle) -> Item:
    """A talk that also says something; its time grows with its words."""
    if not isinstance(item, Talk):
        raise RefusedError("item", "a talk", item.name)
    words = f"{item.words} {text}".strip()
    needs = -(-speaking_ms(words, style.words_per_minute) // 1000)
    return replace(item, words=words, seconds=_longer(item.seconds, needs))


def _longer(seconds: Elastic, least: int) -> Elastic:
    grown = seconds.wanting(max(seconds.wanted, least)) if seconds.value < least else seconds
    return replace(grown, least=max(grown.least, min(least, grown.value)))


def say_at_start(looked: Looked, text: str) -> Mend:
    """Say something at the start of the class."""
    first = _first_talk(looked.script)
    return Mend(f"Say it in {first.name}" if first else "Say it at the start", partial(said_at_start, text=text))


def said_at_start(script: Script, text: str) -> Script:
    """The class with something said in its first talk; where none opens it, in a new one before everything else."""
    first = _first_talk(script)
    if first:
        return each([first.id], lambda item: _with_sentence(item, text, script.style))(script)
    return _with_talk_first(script, text)


def _first_talk(script: Script) -> Talk | None:
    first = next((item for item in script.items() if item.present), None)
    return first if isinstance(first, Talk) and first.kind is TalkKind.TALK else None


def _with_talk_first(script: Script, text: str) -> Script:
    needs = -(-speaking_ms(text, script.style.words_per_minute) // 1000)
    talk = Talk(fresh_id(script), Elastic(needs, needs, max(needs + 15, 30)), text, "Welcome")
    opening = next((s for s in script.sections if s.role is Role.OPENING), None)
    if opening is None:
        script = add_section(script, "Arrive", Role.OPENING)
        opening = script.sections[0]
    group = opening.groups[0]
    script = insert_item(script, talk, group.id)
    sections = []
    for section in script.sections:
        groups = []
        for one in section.groups:
            ahead = one.id == group.id
            items = (talk, *(i for i in one.items if i.id != talk.id)) if ahead else one.items
            groups.append(replace(one, items=items))
        sections.append(replace(section, groups=tuple(groups)))
    return replace(script, sections=tuple(sections))


def say_at_close(looked: Looked, kind: TalkKind, name: str, text: str) -> Callable[[Script], Script]:
    """A talk put first in the closing section; a class without one gets it."""

    def change(script: Script) -> Script:
        closing = next((s for s in script.sections if s.role is Role.CLOSING and s.groups), None)
        if closing is None:
            script = add_section(script, "Close", Role.CLOSING)
            closing = script.sections[-1]
        needs = -(-speaking_ms(text, looked.style.words_per_minute) // 1000) + 4
        talk = Talk(fresh_id(script), Elastic(needs, needs + 4, needs + 20), text, name, kind)
        group = closing.groups[0]
        moves = [item.id for item in group.items if isinstance(item, MoveItem)]
        if moves:
            return insert_item(script, talk, moves[-1])
        items = (talk, *group.items)
        sections = tuple(
            replace(s, groups=tuple(replace(g, items=items) if g.id == group.id else g for g in s.groups))
            for s in script.sections
        )
        return replace(script, sections=sections)

    return change


def swapped(looked: Looked, item: MoveItem) -> Mend | None:
    """Put what keeps to the brief in the place of a move; None where the library has nothing."""
    found = stand_ins(item.move, looked.script, looked.library, most=1)
    if not found:
        return None
    entry = found[0]
    taken = looked.taken(entry.move.key)
    return Mend(f"Do {entry.move.name} instead", lambda script: swap_move(script, item.id, entry, taken=taken))


def dosed(item: MoveItem, stage: int, value: int, words: str) -> Mend:
    """Give a stage of a move another wanted quantity; limits move out of its way."""

    def change(script: Script) -> Script:
        now = script.item(item.id)
        if not isinstance(now, MoveItem):
            raise RefusedError("item", "a move", now.name)
        return set_stage_quantity(script, item.id, stage, now.dose_at(stage).quantity.wanting(value))

    return Mend(words, change)


def limited(quantity: Elastic, least: int, most: int) -> Elastic:
    """A quantity brought within limits, its own limits too."""
    value, wanted = (min(max(one, least), most) for one in (quantity.value, quantity.wanted))
    return replace(
        quantity,
        least=min(max(quantity.least, least), wanted, value),
        wanted=wanted,
        most=max(min(quantity.most, most), wanted, value),
        now=value,
    )


def with_move(item: Item, **changes: object) -> Item:
    """A move of a class with something else in its description."""
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    move: Move = replace(item.move, **changes)  # type: ignore[arg-type]
    return replace(item, move=move)


def fewer_changes(script: Script) -> Script:
    """A section in its order with fewest changes of posture and props; RefusedError where none is better."""
    best: tuple[int, Script] | None = None
    for section in script.sections:
        for one in proposals(script, section.id):
            saved = one.before.postures - one.after.postures + one.before.props - one.after.props
            if not one.same and saved > 0 and (best is None or saved > best[0]):
                best = (saved, one.script)
    if best is None:
        raise RefusedError("order", "an order of a section with fewer changes", "none: leave a move out, or swap it")
    return best[1]


def listed(some: Iterable[str], most: int = 4) -> str:
    """Names as a list in a sentence: the first few of them, and how many more there are."""
    found = list(dict.fromkeys(some))
    more = [f"{len(found) - most} more"] if len(found) > most else []
    return names([*found[:most], *more])
