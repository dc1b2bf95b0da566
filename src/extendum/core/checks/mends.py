"""Edits that mend findings, put together from the edits that a teacher makes."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from functools import partial

from extendum.core.checks.finding import Mend
from extendum.core.checks.subject import Subject, Text
from extendum.core.edit.dose_edits import set_stage_quantity
from extendum.core.edit.script_edits import add_section, fresh_id, insert_item, replace_items, swap_move
from extendum.core.fit.explain import names
from extendum.core.listening.caring import says_professional, says_rest, says_tension
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.marks import Wait
from extendum.core.model.move import Move
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.script import Script
from extendum.core.model.section import Role
from extendum.core.model.spoken import respoken
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.moves.suggest import stand_ins
from extendum.core.order.section_order import proposals
from extendum.core.timing.layout import talk_needs_s
from extendum.core.timing.talking import pieces_of

#: Seconds of quiet after the words that close a class.
SETTLING_S = 4


def each(items: Iterable[str], change: Callable[[Item], Item]) -> Callable[[Script], Script]:
    """The same change of several items, as one edit."""
    ids = tuple(items)
    return lambda script: replace_items(script, {one: change(script.item(one)) for one in ids})


def rewritten(texts: Iterable[Text], rewrite: Callable[[Text], str]) -> Callable[[Script], Script]:
    """Texts rewritten, each in its place; the last of an item first, so that no place moves."""
    own, beneath = dict[str, list[Text]](), list[Text]()
    for text in texts:
        if text.under:
            beneath.append(text)
        else:
            own.setdefault(text.item.id, []).append(text)

    def change(item: Item) -> Item:
        for text in sorted(own[item.id], key=lambda one: one.place[1:], reverse=True):
            item = respoken(item, text.place, rewrite(text))
        return item

    def changed(script: Script) -> Script:
        unders = {text.under.id: rewrite(text).strip() for text in beneath if text.under}
        told = tuple(replace(one, words=unders.get(one.id, one.words)) for one in script.meanwhiles)
        script = replace(script, meanwhiles=told) if unders else script
        return each(own, change)(script)

    return changed


def without_sentences(words: str, said: Callable[[str], object]) -> str:
    """The words without the sentences that say something; a sentence that cautions stays, and the waits do."""
    kept = (
        f"[{one.text}]" if isinstance(one, Wait) else "" if said(one) and not cautions(one) else one
        for one in pieces_of(words)
    )
    return " ".join(filter(None, kept))


def cautions(sentence: str) -> bool:
    """Whether a sentence tells people to take care: how far to go, that they may stop, or whom to ask."""
    return says_tension(sentence) or says_rest(sentence) or says_professional(sentence)


def drop_sentences(texts: Iterable[Text], said: Callable[[str], object]) -> Mend | None:
    """Take out every sentence of these texts that says something; None where it would take a caution with it."""
    kept = list(texts)
    parts = (one for text in kept for one in pieces_of(text.words) if not isinstance(one, Wait))
    if any(said(one) and cautions(one) for one in parts):
        return None
    return Mend("Take the sentence out", rewritten(kept, lambda text: without_sentences(text.words, said)))


def with_prompt(item: Item, kind: PromptKind, text: str) -> Item:
    """A move that also says something while it is done."""
    if not isinstance(item, MoveItem):
        raise RefusedError("item", "a move", item.name)
    prompt = Prompt(kind, text[:400], 1)
    return replace(item, words=replace(item.words, prompts=(prompt, *item.words.prompts)))


def with_time_to_say(script: Script, talk_id: str, spare_s: int = 0) -> Script:
    """The class in which a talk never has less than the time of its words, and so much more."""
    talk, needs_s = script.item(talk_id), talk_needs_s(script, talk_id)
    return replace_items(script, {talk_id: talk.having(_at_least(talk.quantity, needs_s, spare_s))})


def _at_least(seconds: Elastic, least: int, spare: int) -> Elastic:
    least = max(seconds.least, least)
    value, wanted = max(seconds.value, least + spare), max(seconds.wanted, least + spare)
    return replace(seconds, least=least, wanted=wanted, most=max(seconds.most, value, wanted), now=value)


def say_at_start(subject: Subject, text: str) -> Mend:
    """Say something at the start of the class."""
    first = _first_talk(subject.script)
    return Mend(f"Say it in {first.name}" if first else "Say it at the start", partial(said_at_start, text=text))


def said_at_start(script: Script, text: str) -> Script:
    """The class with something said in its first talk; where none opens it, in a new one before everything else."""
    first = _first_talk(script)
    if first is None:
        return _with_talk_first(script, text)
    more = replace(first, words=f"{first.words} {text}".strip())
    return with_time_to_say(replace_items(script, {first.id: more}), first.id)


def _first_talk(script: Script) -> Talk | None:
    first = next((item for item in script.items() if item.present), None)
    return first if isinstance(first, Talk) and first.kind is TalkKind.TALK else None


def _with_talk_first(script: Script, text: str) -> Script:
    talk = Talk(fresh_id(script), Elastic(1, 1, 30), text, "Welcome")
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
    return with_time_to_say(replace(script, sections=tuple(sections)), talk.id)


def say_at_close(kind: TalkKind, name: str, text: str) -> Callable[[Script], Script]:
    """A talk put first in the closing section; a class without one gets it."""

    def change(script: Script) -> Script:
        closing = next((s for s in script.sections if s.role is Role.CLOSING and s.groups), None)
        if closing is None:
            script = add_section(script, "Close", Role.CLOSING)
            closing = script.sections[-1]
        talk = Talk(fresh_id(script), Elastic(1, 1, 30), text, name, kind)
        group = closing.groups[0]
        moves = [item.id for item in group.items if isinstance(item, MoveItem)]
        if moves:
            return with_time_to_say(insert_item(script, talk, moves[-1]), talk.id, SETTLING_S)
        items = (talk, *group.items)
        sections = tuple(
            replace(s, groups=tuple(replace(g, items=items) if g.id == group.id else g for g in s.groups))
            for s in script.sections
        )
        return with_time_to_say(replace(script, sections=sections), talk.id, SETTLING_S)

    return change


def swapped(subject: Subject, item: MoveItem) -> Mend | None:
    """Replace a move with one that suits the brief; None where the library has none."""
    found = stand_ins(item.move, subject.script, subject.library, most=1)
    if not found:
        return None
    entry = found[0]
    taken = subject.taken(entry.move.key)
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


def at_most(item: Item, most: int) -> Item:
    """An item with no more than so many seconds, reps or breaths."""
    return item.having(limited(item.quantity, 1, most))


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
