"""Safety: moves against the group, cautions that nobody says, coming up, balance, eyes.

What is found here is what usually needs care. Nothing found does not mean that a class is safe for anybody.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from typing import NamedTuple

from extendum.core.checks.easier_options import unsaid_of
from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import (
    at_most,
    drop_sentences,
    each,
    listed,
    say_at_start,
    swapped,
    with_move,
    with_prompt,
)
from extendum.core.checks.subject import Subject, Text
from extendum.core.listening.asking import closes_eyes
from extendum.core.listening.caring import says_professional, says_rest, says_slowly, says_support, says_tension
from extendum.core.model.audience import Condition
from extendum.core.model.body import FLOOR, Base, Posture
from extendum.core.model.dose import Hold
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.move import Caution, Kind
from extendum.core.model.prompts import PromptKind
from extendum.core.model.timeline import CueKind, SegmentKind
from extendum.core.moves.cautions import (
    SLOW_RISE,
    SUPPORT,
    UP_FROM_FLOOR,
    is_spoken,
    lacking,
    rises,
    spoken,
    start_line,
)
from extendum.core.moves.objections import Against, concerns

#: On one leg no hold beyond this where somebody's balance is poor, if the class sets no limit of its own.
ONE_LEG_MOST_S = 20
_PRESSING = Caution(Condition.BLOOD_THINNERS.value, "Leave it out; and never on the spine or a bone.")


def against(subject: Subject, kind: Against, sentence: str) -> Iterator[Found]:
    """Moves that something of one kind in the brief speaks against, with what could stand in."""
    for item in subject.moves if subject.objections else ():
        told = [one.told for one in subject.objections.get(item.id, ()) if one.against is kind]
        if told:
            said = sentence.format(name=item.name, told="; ".join(told).rstrip("."))
            yield Found(said, (item.id,), facts=tuple(("why", one) for one in told), mend=swapped(subject, item))


@checked(
    Family.SAFETY,
    "against-condition",
    Severity.FIX,
    "whether anybody in the group should leave out a move",
    "These are the usual cautions of the field. What people may do is for them and their professional to decide.",
)
def against_condition(subject: Subject) -> Iterator[Found]:
    """Somebody in the group should leave out a move."""
    for item in subject.moves if subject.objections else ():
        with_ = [one for one in subject.objections.get(item.id, ()) if one.against is Against.CONDITION]
        if with_:
            yield Found(
                f"{item.name} is usually left out with {listed(one.what for one in with_)}. {with_[0].advice}",
                (item.id,),
                facts=tuple(("why", one.told) for one in with_),
                mend=swapped(subject, item),
            )


@checked(
    Family.SAFETY,
    "posture-out",
    Severity.FIX,
    "whether every posture suits the group",
    "The posture decides who can take part: sitting on a chair is not sitting on the floor.",
)
def posture_out(subject: Subject) -> Iterator[Found]:
    """A move's posture is not in the brief's postures."""
    yield from against(subject, Against.POSTURE, "{name}: {told}.")


@checked(
    Family.SAFETY,
    "to-avoid",
    Severity.FIX,
    "whether the class has a move that the brief says to avoid",
    "The brief's own words say what to leave out.",
)
def to_avoid(subject: Subject) -> Iterator[Found]:
    """A move is one that the brief wants to avoid."""
    yield from against(subject, Against.AVOIDED, "{name}: {told}.")


@checked(
    Family.SAFETY,
    "caution-unspoken",
    Severity.CONSIDER,
    "whether people who need to adapt a move hear how",
    "A caution helps only if the class hears it.",
)
def caution_unspoken(subject: Subject) -> Iterator[Found]:
    """Somebody in the group needs to adapt a move, and the words do not say how."""
    start = " ".join(talk.words for talk in subject.talks)
    missed: dict[str, list[Caution]] = {}
    for item in subject.moves:
        wanted = [*concerns(item.move, subject.brief), *([_PRESSING] if item.move.kind is Kind.PRESSING else [])]
        if wanted:
            said = [start, *subject.heard_at(item)]
            if lost := [caution for caution in wanted if not any(is_spoken(caution, words) for words in said)]:
                missed[item.id] = lost
    if missed:
        names = listed(item.name for item in subject.moves if item.id in missed)
        whom = listed(dict.fromkeys(one.condition for lost in missed.values() for one in lost))
        yield Found(
            f"The words do not say how to adapt for {whom}: {names}.",
            tuple(missed),
            facts=tuple((one.condition, one.advice) for lost in missed.values() for one in lost),
            mend=Mend("Say it at each move", each(missed, partial(_with_cautions, missed=missed))),
        )


def _with_cautions(item: Item, missed: dict[str, list[Caution]]) -> Item:
    return with_prompt(item, PromptKind.CAUTION, " ".join(spoken(caution) for caution in missed[item.id]))


@checked(
    Family.SAFETY,
    "caution-unsaid",
    Severity.FIX,
    "whether the cautions that are written are spoken",
    "A caution belongs in the set-up or the first third, and a short hold may have no room for it.",
)
def caution_unsaid(subject: Subject) -> Iterator[Found]:
    """A caution is written but does not fit in."""
    yield from unsaid_of(subject, CueKind.CAUTION, "The caution")


@checked(
    Family.SAFETY,
    "caution-lacking",
    Severity.NOTE,
    "whether moves carry the usual cautions for what they ask of the body",
    "Weight on wrists or knees, lying on the back for long, a low head, one leg, pressing: each has its usual caution.",
)
def caution_lacking(subject: Subject) -> Iterator[Found]:
    """A move lacks a caution that is usual for it."""
    lack = {item.id: found for item in subject.moves if (found := lacking(item.move))}
    if lack:
        named = {one.condition for found in lack.values() for one in found}
        ours = bool(named & subject.conditions)
        names = listed(item.name for item in subject.moves if item.id in lack)
        yield Found(
            f"No caution for {listed(sorted(named))} in {names}.",
            tuple(lack),
            mend=Mend("Add the usual caution", each(lack, partial(_cautioned, lack=lack))),
            severity=Severity.CONSIDER if ours else None,
        )


def _cautioned(item: Item, lack: dict[str, tuple[Caution, ...]]) -> Item:
    return with_move(item, cautions=(*item.move.cautions, *lack[item.id])) if isinstance(item, MoveItem) else item


@checked(
    Family.SAFETY,
    "no-usual-cautions",
    Severity.CONSIDER,
    "whether the class hears the usual cautions",
    "Mild tension, never sharp pain, numbness or tingling. Keep breathing. Stop and rest whenever something feels "
    "wrong. With injury, recent surgery, pregnancy, osteoporosis, uncontrolled blood pressure, glaucoma, dizziness or "
    "a joint replacement, people should ask a licensed health professional.",
)
def no_usual_cautions(subject: Subject) -> Iterator[Found]:
    """The class does not hear the usual cautions, or the advice to ask a professional."""
    words = " ".join(talk.words for talk in subject.talks)
    if not (says_tension(words) and says_rest(words)):
        line = start_line(subject.conditions)
        yield Found("The class does not hear the usual cautions.", mend=say_at_start(subject, line))
    elif len(subject.conditions) > 2 and not says_professional(words):
        line = start_line(subject.conditions).removeprefix(start_line(())).strip()
        yield Found(
            "Several people have a condition, and the words do not suggest asking a health professional.",
            mend=say_at_start(subject, line),
            severity=Severity.NOTE,
        )


class Rising(NamedTuple):
    """What gets people up slowly, and whether it is said on the way to a move instead of at its release."""

    line: str
    on_the_way: bool


@checked(
    Family.SAFETY,
    "no-slow-rise",
    Severity.CONSIDER,
    "whether the words say to come up slowly from a fold and from the floor",
    "Coming up fast can make people dizzy. Come up slowly, head last, with something to hold on to.",
)
def no_slow_rise(subject: Subject) -> Iterator[Found]:
    """People come up from a fold or from the floor, and the words do not say “slowly”."""
    fast: list[str] = []
    says: dict[str, list[Rising]] = {}  # a release that is said between sides too is no place to get people up
    order = subject.moves
    for n, item in enumerate(order):
        after = order[n + 1] if n + 1 < len(order) else None
        move, said = item.move, item.words.release
        up = rises(move.posture, move.ends_in)
        if not up and after:
            up = rises(move.ends_in, after.move.posture)
            said = f"{said} {_between(subject, item, after)} {after.words.moving} {after.words.there}"
        if after is None and move.ends_in in FLOOR:
            up, said = True, f"{said} {_after(subject, item)}"
        if up and not says_slowly(said):
            line = UP_FROM_FLOOR if move.posture in FLOOR else SLOW_RISE
            later = after and not rises(move.posture, move.ends_in) and (move.sided or item.sets > 1)
            fast.append(item.id)
            says.setdefault(after.id if after and later else item.id, []).append(Rising(line, bool(later)))
    if fast:
        yield Found(
            f"The words do not say to come up slowly after {listed(i.name for i in order if i.id in fast)}.",
            tuple(fast),
            mend=Mend("Say it as people come up", each(says, partial(_rising, says=says))),
        )


def _between(subject: Subject, item: MoveItem, after: MoveItem) -> str:
    at, to = subject.place[item.id], subject.place[after.id]
    return " ".join(text.words for one in subject.items[at + 1 : to] for text in subject.texts.get(one.id, ()))


def _after(subject: Subject, item: MoveItem) -> str:
    """What is said when the last move is over."""
    later = subject.items[subject.place[item.id] + 1 :]
    return " ".join(text.words for one in later for text in subject.texts.get(one.id, ()))


def _rising(item: Item, says: dict[str, list[Rising]]) -> Item:
    """The move with the line at its release, or on the way to it where the move before is done on two sides."""
    if not isinstance(item, MoveItem):
        return item
    words = item.words
    for line, on_the_way in says[item.id]:
        if on_the_way:
            words = replace(words, moving=f"{line} {words.moving}".strip())
        else:
            words = replace(words, release=f"{words.release} {line}".strip())
    return replace(item, words=words)


@checked(
    Family.SAFETY,
    "one-leg-unsupported",
    Severity.FIX,
    "whether people with poor balance have a support on one leg",
    "On one leg, older adults need a support within reach, or a seat.",
)
def one_leg_unsupported(subject: Subject) -> Iterator[Found]:
    """People with poor balance stand on one leg without a support."""
    if not subject.has(Condition.BALANCE):
        return
    for item in subject.moves:
        if item.move.posture is Posture.ONE_LEG:
            props = any(p.required and p.name in ("chair", "wall") for p in item.move.props)
            said = (cue.text for segment in subject.segments[item.id] for cue in subject.cues.get(segment.id, ()))
            if not props and not any(map(says_support, said)):
                yield Found(
                    f"{item.name} is on one leg, and the words do not say what to hold on to.",
                    (item.id,),
                    mend=Mend(
                        "Say it as a caution",
                        each([item.id], partial(with_prompt, kind=PromptKind.CAUTION, text=SUPPORT)),
                    ),
                )


@checked(
    Family.SAFETY,
    "one-leg-long",
    Severity.FIX,
    "how long people with poor balance stand on one leg",
    "For older adults, a stand on one leg should last no longer than 20 to 30 s. Otherwise they sit.",
)
def one_leg_long(subject: Subject) -> Iterator[Found]:
    """A hold on one leg is longer than the class allows, or than suits people with poor balance."""
    most = subject.style.one_leg_most_s or (ONE_LEG_MOST_S if subject.has(Condition.BALANCE) else 0)
    if not most:
        return
    for item in subject.moves:
        holds = [s.seconds for s in subject.work[item.id] if s.kind in (SegmentKind.HOLD, SegmentKind.OPEN)]
        if item.move.posture is Posture.ONE_LEG and holds and max(holds) > most:
            yield Found(
                f"{item.name} stays on one leg for {max(holds)} s, and this class allows {most} s.",
                (item.id,),
                facts=(("seconds", max(holds)), ("most", most)),
                mend=Mend(f"Hold it for {most} s", each([item.id], partial(at_most, most=most)))
                if isinstance(item.dose, Hold)
                else swapped(subject, item),
            )


@checked(
    Family.SAFETY,
    "eyes-closed",
    Severity.CONSIDER,
    "whether people close their eyes while standing",
    "Balance is harder with closed eyes. People should sit, lie or hold on before they close them.",
)
def eyes_closed(subject: Subject) -> Iterator[Found]:
    """The words ask people to close their eyes while they stand."""
    severity = Severity.FIX if subject.has(Condition.BALANCE, Condition.DIZZINESS) else None
    by_item: dict[str, list[Text]] = {}
    for text in subject.all_texts:
        if closes_eyes(text.words) and Base.of(subject.posture_in[text.item.id]) is Base.STANDING:
            by_item.setdefault(text.item.id, []).append(text)
    for item, texts in by_item.items():
        first = closes_eyes(texts[0].words)[0]
        yield Found(
            f"{texts[0].name} says “{first}” while people stand.",
            (item,),
            mend=drop_sentences(texts, closes_eyes),
            severity=severity,
        )


CHECKS: tuple[Check, ...] = (
    *(against_condition, posture_out, to_avoid, caution_unspoken, caution_unsaid, caution_lacking),
    *(no_usual_cautions, no_slow_rise, one_leg_unsupported, one_leg_long, eyes_closed),
)
