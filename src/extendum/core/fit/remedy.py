"""What would have to give for a length out of reach: edits of which each alone, applied, makes it fit."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum

from extendum.core.edit.dose_edits import set_stage_quantity
from extendum.core.edit.script_edits import mark, replace_items, set_group
from extendum.core.fit.dose_options import Choice
from extendum.core.fit.explain import MOST_NAMED, amount, names, number
from extendum.core.fit.fit import Fit, Fitter
from extendum.core.fit.solver import Taken
from extendum.core.model.dose import COUNTED, MOST_COUNT
from extendum.core.model.elastic import LONGEST_HOLD_S, Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.script import Script
from extendum.core.model.section import Group
from extendum.core.model.style import HoldConvention
from extendum.core.model.talk import Quiet
from extendum.core.timing.compile import compile_script

#: So many are tried, and so many of one kind are offered.
MOST_TRIED, MOST_OFFERED = 30, 2
#: A single limit is moved to this many times what it is at the most, or to this part of it.
WIDENED_TIMES = 3
#: Shares that all limits may be widened by, when no single edit is enough.
WIDER = (10, 20, 30, 50, 75, 100)


class Gives(StrEnum):
    """What a remedy changes."""

    DROP = "drop"
    TAKE_IN = "take-in"
    WIDEN = "widen"
    UNLOCK = "unlock"
    ROUNDS = "rounds"
    HOLDS = "holds"
    ALL = "all"
    ANY = "any"


@dataclass(frozen=True, slots=True)
class Remedy:
    """One edit: what it changes, of which item or group (and stage), to which value, and the sentence for it."""

    gives: Gives
    of: str = ""
    stage: int = 1
    value: int = 0
    words: str = ""
    cost: int = 0


def apply(script: Script, remedy: Remedy) -> Script:
    """The script with the remedy's edit; nothing is fitted yet."""
    match remedy.gives:
        case Gives.DROP | Gives.TAKE_IN:
            return mark(script, remedy.of, keep=Keep.OPTIONAL)
        case Gives.ROUNDS:
            return set_group(script, remedy.of, rounds=remedy.value)
        case Gives.HOLDS:
            return replace(script, style=replace(script.style, holds=HoldConvention.OWN))
        case Gives.ALL:
            return _all_wider(script, remedy.value)
        case Gives.ANY:
            return any_may_go(script)
    item = script.item(remedy.of)
    doses = item.doses if isinstance(item, MoveItem) else (item,)
    if not 1 <= remedy.stage <= len(doses):
        raise RefusedError("stage", f"from 1 to {len(doses)}", remedy.stage)
    q = doses[remedy.stage - 1].quantity
    if remedy.gives is Gives.UNLOCK:
        return set_stage_quantity(script, item.id, remedy.stage, replace(q, locked=False))
    wider = replace(q, least=min(q.least, remedy.value), most=max(q.most, remedy.value))
    return set_stage_quantity(script, item.id, remedy.stage, wider)


def remedies(result: Fit) -> list[Remedy]:
    """Edits that each make a refused target fit, those of least cost first; every one was tried."""
    script, target_s = result.script, result.target_s
    short = result.nearest_below_s is None  # the class cannot be as short as that
    long = result.nearest_above_s is None
    found: list[Remedy] = []
    tried = 0
    for remedy in _candidates(script, result, short=short, long=long):
        if sum(one.gives is remedy.gives for one in found) >= MOST_OFFERED or tried >= MOST_TRIED:
            continue
        tried += 1
        fitted = Fitter(apply(script, remedy)).fit(target_s)
        if fitted.reached:
            found.append(replace(remedy, cost=fitted.cost or 0))
    if not found:
        found = list(_more_than_one(script, target_s, short=short, long=long))
    return sorted((_told_apart(script, one) for one in found), key=lambda one: one.cost)


def _told_apart(script: Script, remedy: Remedy) -> Remedy:
    """The remedy with the number of its item, where others have the same name."""
    items = list(script.items())
    own = next((n for n, item in enumerate(items) if item.id == remedy.of), None)
    if own is None or sum(item.name == items[own].name for item in items) < 2:
        return remedy
    return replace(remedy, words=f"{remedy.words} (number {own + 1})")


def _more_than_one(script: Script, target_s: int, *, short: bool, long: bool) -> Iterator[Remedy]:
    """What is left when no single item is enough: any move may go, or every limit is moved by the same share."""
    if short:
        fitted = Fitter(any_may_go(script)).fit(target_s)
        if fitted.reached:
            gone = [one.name for one in fitted.changes if one.after is None]
            told = names(gone) if len(gone) <= MOST_NAMED else f"{number(len(gone))} of them"
            yield Remedy(Gives.ANY, words=f"Let any move be left out: {told} would go", cost=fitted.cost or 0)
    for percent in WIDER if short or long else ():
        remedy = Remedy(Gives.ALL, value=-percent if short else percent)
        fitted = Fitter(apply(script, remedy)).fit(target_s)
        if fitted.reached:
            words = f"Let every dose be up to {percent} % {'shorter' if short else 'longer'} than its limit"
            yield replace(remedy, words=words, cost=fitted.cost or 0)
            return


def any_may_go(script: Script) -> Script:
    """The script with every move that is always in marked as one that a fit may leave out."""
    moves = {i.id: replace(i, keep=Keep.OPTIONAL) for i in script.moves() if i.keep is Keep.ALWAYS}
    return replace_items(script, moves)


def _candidates(script: Script, result: Fit, *, short: bool, long: bool) -> Iterator[Remedy]:
    near = result.nearest_above_s if short else result.nearest_below_s
    if near is None:
        return
    gap = abs(result.target_s - near)
    fitter = Fitter(script)
    way = fitter.way(near) or []
    choices = [choice for taken in way for choice in taken.choices]
    yield from _rounds(script, short=short, long=long)
    if short:
        yield from _drops(fitter.fit(near).script, gap)
    if long:
        yield from _taken_in(script)
    yield from _widened(way, gap, short=short, long=long)
    for choice in sorted(choices, key=lambda one: -int(one.seconds[0])):
        if choice.quantity.locked and choice.quantity.least < choice.quantity.most:
            now = f"{choice.quantity.value} {choice.unit}"
            yield Remedy(Gives.UNLOCK, choice.item.id, choice.stage, words=f"Unlock {choice.name}, now {now}")
    if script.style.holds is not HoldConvention.OWN:
        yield Remedy(Gives.HOLDS, words=f"Let each move set its own holds instead of {script.style.holds}")


def _rounds(script: Script, *, short: bool, long: bool) -> Iterator[Remedy]:
    for group in _groups(script):
        if short and group.rounds > 1:
            yield _round_words(group, group.rounds - 1, "One round fewer")
        if long and sum(isinstance(item, MoveItem) for item in group.items) > 1:
            yield _round_words(group, group.rounds + 1, "One round more")


def _round_words(group: Group, rounds: int, told: str) -> Remedy:
    name = group.name or f"{group.items[0].name} to {group.items[-1].name}"
    return Remedy(Gives.ROUNDS, group.id, value=rounds, words=f"{told} of {name}: {rounds} instead of {group.rounds}")


def _groups(script: Script) -> list[Group]:
    return [group for section in script.sections for group in section.groups if group.items]


def _drops(shortest: Script, gap: int) -> Iterator[Remedy]:
    """Items that would give enough when left out, those that matter least and give least first."""
    seconds: dict[str, int] = {}
    for segment in compile_script(shortest).segments:
        seconds[segment.item] = seconds.get(segment.item, 0) + segment.seconds
    rank = {Matters.LESS: 0, Matters.AS_OTHERS: 1, Matters.MOST: 2}
    kept = [i for i in shortest.items() if not isinstance(i, Quiet) and i.keep is Keep.ALWAYS]
    enough = [item for item in kept if seconds.get(item.id, 0) >= gap]
    for item in sorted(enough, key=lambda one: (rank[one.matters], seconds[one.id])):
        yield Remedy(Gives.DROP, item.id, words=f"Leave out {item.name}")


def _taken_in(script: Script) -> Iterator[Remedy]:
    for item in script.items():
        if not isinstance(item, Quiet) and item.keep is Keep.OUT:
            yield Remedy(Gives.TAKE_IN, item.id, words=f"Take {item.name} in again")


def _widened(way: list[Taken], gap: int, *, short: bool, long: bool) -> Iterator[Remedy]:
    """Limits that would do when moved, those that move least first: by how much is worked out from the seconds."""
    found: list[tuple[float, Remedy]] = []
    for choice in (choice for taken in way for choice in taken.choices):
        q = choice.quantity
        if q.locked:
            continue
        least, most, per_unit = choice.values[0], choice.values[-1], _per_unit(choice)
        units = -(-gap // per_unit)
        floor, ceiling = _bounds(choice.item)
        if not long and (value := least - units) >= max(floor, least // WIDENED_TIMES):
            moved = (least - value) / max(least, 1)
            words = f"Let {choice.name} go down to {amount(value, choice.unit)}, now at least {least}"
            found.append((moved, Remedy(Gives.WIDEN, choice.item.id, choice.stage, value, words)))
        if not short and (value := most + units) <= min(ceiling, max(most, 10) * WIDENED_TIMES):
            moved = (value - most) / max(most, 1)
            words = f"Let {choice.name} go up to {amount(value, choice.unit)}, now at most {most}"
            found.append((moved, Remedy(Gives.WIDEN, choice.item.id, choice.stage, value, words)))
    yield from (remedy for _, remedy in sorted(found, key=lambda one: one[0])[:12])


def _per_unit(choice: Choice) -> int:
    """Seconds of the class that one more of the quantity takes."""
    item = choice.item
    if len(choice.values) > 1:
        spread = choice.values[-1] - choice.values[0]
        return max(1, round((int(choice.seconds[-1]) - int(choice.seconds[0])) / spread))
    if isinstance(item, MoveItem):
        return max(1, round(int(choice.seconds[0]) / max(1, choice.values[0])))
    return 1


def _bounds(item: Item) -> tuple[int, int]:
    if not isinstance(item, MoveItem):
        return 0, LONGEST_HOLD_S
    return (1, MOST_COUNT) if isinstance(item.dose, COUNTED) else (5, LONGEST_HOLD_S)


def _all_wider(script: Script, percent: int) -> Script:
    """Every limit that may move, moved by a share: below zero the least ones, above it the most."""
    changed = script
    for item in script.items():
        for stage, dose in enumerate(item.doses if isinstance(item, MoveItem) else (item,), 1):
            q: Elastic = dose.quantity
            if q.locked:
                continue
            least = max(min(q.least, _bounds(item)[0]), q.least * (100 + percent) // 100) if percent < 0 else q.least
            most = min(_bounds(item)[1], -(-q.most * (100 + percent) // 100)) if percent > 0 else q.most
            wider = replace(q, least=least, most=max(q.most, most))
            changed = set_stage_quantity(changed, item.id, stage, wider)
    return changed
