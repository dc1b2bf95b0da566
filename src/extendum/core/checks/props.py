"""Props and space: what is at hand, what is picked up again and again, and whether people hear of it in time."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from functools import partial
from itertools import takewhile

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.lexicon import says_without
from extendum.core.checks.mends import drop_sentences, each, fewer_changes, listed, say_at_start, with_prompt
from extendum.core.checks.safety import against
from extendum.core.checks.spoken_truth import sayings
from extendum.core.checks.subject import Subject
from extendum.core.listening.addressing import accepts_rolling
from extendum.core.model.audience import Setting
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import OptionKind, Prop
from extendum.core.model.placeholders import mentions
from extendum.core.model.prompts import PromptKind
from extendum.core.model.talk import TalkKind
from extendum.core.moves.objections import Against
from extendum.core.timing.at_hand import as_taught, thing_at_hand

#: Picking the same thing up more often than this is once too often.
PICKED_MOST = 2
_SCARCE = re.compile(r"\b(some|few|not (?:everybody|everyone|all)|not for)\b", re.I)


@checked(
    Family.PROPS,
    "prop-missing",
    Severity.FIX,
    "whether every prop that a move needs is at hand",
    "The brief lists what the group has. Chairs and mats count as at hand where its postures need them.",
)
def prop_missing(subject: Subject) -> Iterator[Found]:
    """A move needs a prop that is not in the brief."""
    yield from against(subject, Against.PROP, "{name}: {told}.")


@checked(
    Family.PROPS,
    "prop-wrong",
    Severity.FIX,
    "whether the props at hand are of the right kind",
    "Chairs should be stable and without wheels, and the floor must not slip. The wrong prop is worse than none.",
)
def prop_wrong(subject: Subject) -> Iterator[Found]:
    """A prop at hand is the wrong kind for a move."""
    yield from against(subject, Against.PROP_KIND, "{name}: {told}.")


@checked(
    Family.PROPS,
    "prop-risky",
    Severity.FIX,
    "whether words accept a prop that rolls, folds or slips",
    "A chair on castors, a folding stool or a loose rug gives way just when somebody leans on it.",
)
def prop_risky(subject: Subject) -> Iterator[Found]:
    """The words accept a prop that rolls, folds or slips."""
    for item, texts, first in sayings(subject, accepts_rolling):
        yield Found(f"{texts[0].name} accepts “{first}”.", (item,), mend=drop_sentences(texts, accepts_rolling))


@checked(
    Family.PROPS,
    "prop-often",
    Severity.CONSIDER,
    "how often people pick up the same prop",
    "Every time people pick up a strap, it costs seconds and attention.",
)
def prop_often(subject: Subject) -> Iterator[Found]:
    """People pick up and put down the same prop again and again."""
    held: frozenset[str] = frozenset()
    picked: Counter[str] = Counter()
    at: dict[str, list[str]] = {}
    used = {item.id: item.move.props for item in as_taught(subject.script).moves()}
    for item in subject.visits:
        for prop in used[item.id]:
            if prop.pick_up_s and prop.name not in held and not prop.stands_in(item.move.posture):
                picked[prop.name] += 1
                at.setdefault(prop.name, []).append(item.id)
        held = frozenset(prop.name for prop in used[item.id])
    often = [name for name, count in picked.most_common() if count > PICKED_MOST]
    if often:
        told = listed(f"the {name} {picked[name]} times" for name in often)
        yield Found(
            f"People pick up {told}.",
            tuple(dict.fromkeys(at[often[0]])),
            facts=tuple((name, picked[name]) for name in often),
            mend=Mend("Put a section in an order with fewer changes", fewer_changes),
        )


@checked(
    Family.PROPS,
    "prop-idle",
    Severity.CONSIDER,
    "whether people without a prop hear what to do",
    "Somebody at home has no strap and would sit idle for a minute.",
)
def prop_idle(subject: Subject) -> Iterator[Found]:
    """A move needs a prop and leaves people without it idle."""
    recorded = subject.brief.setting is Setting.RECORDED
    idle = []
    for item in subject.moves:
        needs = [p for p in item.move.props if p.required and p.pick_up_s]
        unsure = recorded or any(_is_scarce(subject, p) for p in needs)
        if needs and unsure and not any(says_without(text.words) for text in subject.texts[item.id]):
            idle.append((item, needs[0].name))
    if idle:
        props, names = listed(name for _, name in idle), listed(i.name for i, _ in idle)
        yield Found(
            f"The class does not hear what to do without the {props}: {names}.",
            tuple(item.id for item, _ in idle),
            mend=Mend("Say it there", each([i.id for i, _ in idle], partial(_with_other_way, subject=subject))),
        )


def _is_scarce(subject: Subject, prop: Prop) -> bool:
    """Whether the brief says that not everybody has it."""
    has = thing_at_hand(prop, subject.brief)
    return has is not None and _SCARCE.search(has.like) is not None


def _with_other_way(item: Item, subject: Subject) -> Item:
    if not isinstance(item, MoveItem):
        return item
    option = item.move.option(OptionKind.WITHOUT_PROP)
    other = subject.entries.get(option.move) if option and option.move else None
    what = option.words if option and option.words else f"Do {other.move.name.lower()} instead." if other else ""
    prop = next(p.name for p in item.move.props if p.required)
    return with_prompt(item, PromptKind.EASIER, f"No {prop}? {what or 'Do it without, and make it smaller.'}")


@checked(
    Family.PROPS,
    "needs-unsaid",
    Severity.CONSIDER,
    "whether the opening lists the props",
    "Otherwise people fetch them in the middle of a hold. {needs} says what the class uses.",
)
def needs_unsaid(subject: Subject) -> Iterator[Found]:
    """The class uses a prop that people were not asked to fetch."""
    said = _said_ahead(subject)
    if mentions(said, {"needs"}):
        return
    unsaid = [name for name in _to_fetch(subject) if not re.search(rf"\b{re.escape(name)}", said, re.I)]
    if unsaid:
        users = [i for i in subject.moves if any(p.name in unsaid for p in i.move.props)]
        yield Found(
            f"The opening does not mention {listed(f'the {name}' for name in unsaid)}.",
            (users[0].id,),
            mend=say_at_start(subject, "{needs}"),
        )


def _said_ahead(subject: Subject) -> str:
    """The words of the talks before the first move."""
    ahead = list(takewhile(lambda item: not isinstance(item, MoveItem), subject.items))
    return " ".join(text.words for talk in ahead for text in subject.texts.get(talk.id, ()))


def _to_fetch(subject: Subject) -> list[str]:
    """The props that moves require, without those that are handed out or that the class begins on."""
    required = dict.fromkeys(p.name for item in subject.moves for p in item.move.props if p.required)
    handed = {prop.name for talk in subject.talks if talk.kind is TalkKind.PROPS for prop in talk.picks_up}
    begun = {name for name in ("chair", "mat") if _is_on(subject, name)}
    return [name for name in required if name not in handed | begun]


def _is_on(subject: Subject, name: str) -> bool:
    """Whether the class begins on the chair or the mat, so that it goes without saying."""
    first = next((item for item in subject.moves), None)
    return first is not None and any(p.name == name for p in first.move.props)


CHECKS: tuple[Check, ...] = (prop_missing, prop_wrong, prop_risky, prop_often, prop_idle, needs_unsaid)
