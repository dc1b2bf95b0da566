"""What placeholders stand for where they are said: side, count, seconds, what comes next, what the class needs."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from extendum.core.model.body import Side
from extendum.core.model.dose import Timed
from extendum.core.model.item import MoveItem
from extendum.core.model.placeholders import fill, placeholders
from extendum.core.model.script import Script
from extendum.core.model.spoken import spoken_texts
from extendum.core.model.style import CueStyle, spoken_side
from extendum.core.model.talk import Talk
from extendum.core.timing.durations import Facts, work_seconds
from extendum.core.timing.needs import needs_of
from extendum.core.timing.sequence import Pass, Step
from extendum.core.timing.speech import ceil_s, in_sentences_ms, word_count

#: What is announced as next after the last move.
AFTER_THE_LAST = "the close"


def facts_along(steps: list[Step], shared: Facts, after: str = AFTER_THE_LAST, left_after: int = 0) -> list[Facts]:
    """What words may say of the class at each of these steps: next, moves_left, rounds, and what is shared.

    ``after`` is the name of the move that follows the steps, and so many moves are still to come then.
    """
    following: list[int | None] = [None] * len(steps)
    first: int | None = None  # the nearest pass after this step
    for index in reversed(range(len(steps))):
        goes_on = first is not None and _goes_on(steps[index], steps[first])
        following[index] = following[first] if goes_on and first is not None else first
        if isinstance(steps[index], Pass):
            first = index
    to_come = {step.item.id for step in steps if isinstance(step, Pass)}
    found: list[Facts] = []
    for step, coming in zip(steps, following, strict=True):
        to_come.discard(step.item.id)
        name = after if coming is None else steps[coming].item.name
        along = {"next": name, "moves_left": str(len(to_come) + left_after), "rounds": str(step.group.rounds)}
        found.append({**shared, **along})
    return found


def _goes_on(step: Step, after: Step) -> bool:
    """Whether a step is of the same item as the next pass, in the same round: what comes next is then another one."""
    return step.item.id == after.item.id and step.round == after.round


def talk_least_s(talk: Talk, moves: Sequence[MoveItem], minutes: int, style: CueStyle, rounds: int) -> int:
    """Whole seconds that all words of a talk need, whichever of the moves stay in the class.

    What follows from the moves, and the minutes, is taken at its longest: of a class of less than a hundred minutes,
    or of any.
    """
    if not talk.words:
        return 0
    said = placeholders(talk.words)
    numbers, side = _longest(range(len(moves) + 1)), "both"  # a side is one word, or none
    longest = {"moves": numbers, "moves_left": numbers, "needs": needs_of(moves).longest, "side": side, "other": side}
    longest |= {"minutes": _longest(range(1, 100 if minutes < 100 else 1000)), "rounds": str(rounds)}
    names = {item.name for item in moves} if "next" in said else set[str]()
    lasting = (
        in_sentences_ms(fill(talk.words, {**longest, "next": name}), style.speech) for name in {*names, AFTER_THE_LAST}
    )
    return ceil_s(max(lasting))


@lru_cache(maxsize=64)
def _longest(numbers: range) -> str:
    """Of some numbers the one that takes most words to say."""
    return max(map(str, numbers), key=word_count)


def shared_facts(script: Script, minutes: int) -> Facts:
    """What is true for every step of the class: minutes, moves, needs."""
    return {"minutes": str(minutes), "moves": str(len(script.moves())), "needs": needs_of(script.moves()).told}


def whole_minutes(length_s: int) -> int:
    """The minutes that a length is announced as: the nearest whole one, at least 1."""
    return max(1, (length_s + 30) // 60)


def says_minutes(script: Script) -> bool:
    """Whether any words of the class speak of its minutes."""
    for item in script.items():
        if any("{minutes}" in text for _, text in spoken_texts(item)):
            return True
    return any("{minutes}" in under.words for under in script.meanwhiles)


def side_facts(this: Pass, style: CueStyle, facts: Facts) -> dict[str, str]:
    """The class's facts together with those of a pass that do not follow its dose."""
    first = this.lead if this.item.alternates else this.side
    told = sides_told(first, this.lead, this.item.cued(style))
    return {**facts, **told, **_range(this.item), "direction": _direction(this, told)}


def _range(item: MoveItem) -> Facts:
    """What {least} and {most} say: of reps at everybody's own pace, otherwise the limits of the dose."""
    dose = item.dose
    if isinstance(dose, Timed) and dose.own_pace:
        return {"least": str(dose.reps_least), "most": str(dose.reps_most)}
    return {"least": str(dose.quantity.least), "most": str(dose.quantity.most)}


def _direction(this: Pass, told: Facts) -> str:
    """The direction of a pass as it is said: a side in it as the class hears it."""
    if this.direction is None:
        return ""
    move = this.item.move
    return fill(move.direction_on(move.directions[this.way], this.side), told)


def sides_told(side: Side, lead: Side, style: CueStyle) -> dict[str, str]:
    """What {side} and {other} say where a side is worked; in what alternates, that is the one that comes first."""
    other = spoken_side(side.other, lead, style.side_names) if side is not Side.BOTH else "other"
    return {"side": spoken_side(side, lead, style.side_names), "other": other}


def pass_facts(this: Pass, style: CueStyle, facts: Facts) -> dict[str, str]:
    """The class's facts together with all those of a pass."""
    value = this.value(1, style.breath_ms)
    count, seconds = this.item.dose.many(value), work_seconds(this.item, 1, value)
    return {**side_facts(this, style, facts), "count": str(count), "seconds": str(seconds)}
