"""Sides: which leads, whether both get the same, and whether each is said."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from typing import Any

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import dosed, each, listed, rewritten
from extendum.core.checks.subject import Subject, Text
from extendum.core.edit.script_edits import set_group
from extendum.core.listening.named_sides import crossed
from extendum.core.listening.turning import says_other_side, says_other_way
from extendum.core.model.body import Side
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.placeholders import mentions
from extendum.core.model.script import Script
from extendum.core.model.section import SidePlan
from extendum.core.model.style import SideNames, spoken_side
from extendum.core.model.timeline import CueKind, Segment
from extendum.core.outputs.wording import literal_sides, placed_sides, without_sides

_ARRIVING = frozenset(
    {CueKind.DEMONSTRATION, CueKind.MOVING, CueKind.THERE, CueKind.SHORT, CueKind.SWITCH, CueKind.TURN}
)


def _first_side(segments: list[Segment]) -> Side | None:
    return next((s.side for s in segments if s.kind.works and s.side in (Side.LEFT, Side.RIGHT)), None)


@checked(
    Family.SIDES,
    "lead-wanders",
    Severity.CONSIDER,
    "whether the same side leads in every move",
    "When the first side changes without a reason, people lose track, and so do you.",
)
def lead_wanders(subject: Subject) -> Iterator[Found]:
    """Some moves start on the other side from the rest."""
    lead = {item.id: side for item in subject.moves if (side := _first_side(subject.work[item.id]))}
    counts = Counter(lead.values())
    if len(counts) < 2:
        return
    most = max(counts, key=lambda side: (counts[side], side is subject.style.lead_side))
    others = [item for item in subject.moves if lead.get(item.id) is most.other]
    yield Found(
        f"The {most} side leads in {counts[most]} moves, the {most.other} in {listed(i.name for i in others)}.",
        tuple(item.id for item in others),
        facts=((f"{most} leads", counts[most]), (f"{most.other} leads", len(others))),
        mend=Mend(f"Let the {most} side lead everywhere", lambda script: _led_by(script, most)),
    )


def _led_by(script: Script, lead: Side) -> Script:
    """Every move led by one side: marks of items and groups go, and interleaved passes change sides."""
    script = replace(script, style=replace(script.style, lead_side=lead))
    ids = [item.id for item in script.items() if isinstance(item, MoveItem) and item.lead_side]
    script = each(ids, lambda item: replace(item, lead_side=None) if isinstance(item, MoveItem) else item)(script)
    for group in [group for section in script.sections for group in section.groups]:
        first: dict[str, Side] = {}
        for ref in group.passes:
            first.setdefault(ref.item, ref.side)
        passes = tuple(replace(r, side=r.side.other) if first[r.item] is lead.other else r for r in group.passes)
        if group.lead_side or (group.side_plan is SidePlan.INTERLEAVED and passes != group.passes):
            script = set_group(script, group.id, lead_side=None, passes=passes)
    return script


@checked(
    Family.SIDES,
    "sides-unequal",
    Severity.FIX,
    "whether both sides get the same dose, unless people work at their own pace",
    "An odd number of alternating reps gives one side more than the other.",
)
def sides_unequal(subject: Subject) -> Iterator[Found]:
    """One side gets more work than the other."""
    for item in subject.moves:
        if item.self_led:
            continue
        odd = [n for n, dose in enumerate(item.doses, 1) if item.even(n) and dose.quantity.value % 2]
        if odd:
            dose, count = item.dose_at(odd[0]), item.dose_at(odd[0]).quantity.value
            yield Found(
                f"{item.name} has {count} alternating {dose.unit}, so one side gets one more.",
                (item.id,),
                facts=(("count", count),),
                mend=dosed(item, odd[0], count + 1, f"Make it {count + 1}"),
            )


@checked(
    Family.SIDES,
    "side-unsaid",
    Severity.FIX,
    "whether the words name each side as it begins",
    "If the words do not name the side, half the class does the same one twice.",
)
def side_unsaid(subject: Subject) -> Iterator[Found]:
    """The class changes sides and the words do not name the new one."""
    for item in subject.moves:
        if not item.move.sided or item.cued(subject.style).side_names is SideNames.UNSPOKEN:
            continue
        lead = _first_side(subject.work[item.id])
        if lead is None:
            continue
        quiet = [side for side in (lead, lead.other) if not _named(subject, item, side, lead)]
        if quiet:
            yield Found(
                f"The words do not name {' or '.join(f'the {side} side' for side in quiet)} in {item.name}.",
                (item.id,),
                mend=Mend("Say the side", each([item.id], _saying_sides)),
            )


def _named(subject: Subject, item: MoveItem, side: Side, lead: Side) -> bool:
    name = spoken_side(side, lead, item.cued(subject.style).side_names)
    for segment in subject.segments[item.id]:
        if segment.side is side:
            for cue in subject.cues.get(segment.id, ()):
                if cue.kind in _ARRIVING and name in cue.text.casefold():
                    return True
                if side is not lead and cue.kind is CueKind.SWITCH and says_other_side(cue.text):
                    return True
    return False


def _saying_sides(item: Item) -> Item:
    if not isinstance(item, MoveItem):
        return item
    words, changes = item.words, dict[str, Any]()
    if "{side}" not in f"{words.moving} {words.there}":
        changes["there"] = f"{words.there} The {{side}} side first.".strip()
    if "{side}" not in words.switch and not says_other_side(words.switch):
        changes["switch"] = f"{words.switch} And the {{side}} side.".strip()
    if "{side}" not in words.short:
        changes["short"] = f"{words.short or words.moving} The {{side}} side.".strip()
    return replace(item, words=replace(words, **changes))


@checked(
    Family.SIDES,
    "direction-unsaid",
    Severity.FIX,
    "whether the words name each direction as it begins",
    "If you do not call the change, half the class circles one way and half the other.",
)
def direction_unsaid(subject: Subject) -> Iterator[Found]:
    """The class changes direction and the words do not say so."""
    for item in subject.moves:
        if not item.move.sidedness.by_direction:
            continue
        quiet = []
        ways = dict.fromkeys(s.direction for s in subject.work[item.id] if s.direction)
        for number, way in enumerate(ways):
            own = [s for s in subject.segments[item.id] if s.direction == way]
            said = [cue.text.casefold() for s in own for cue in subject.cues.get(s.id, ()) if cue.kind in _ARRIVING]
            if not any(way.casefold() in text or (number and says_other_way(text)) for text in said):
                quiet.append(way)
        if quiet:
            yield Found(
                f"The words do not say “{'” or “'.join(quiet)}” in {item.name}.",
                (item.id,),
                mend=Mend("Say the direction", each([item.id], _saying_directions)),
            )


def _saying_directions(item: Item) -> Item:
    if not isinstance(item, MoveItem):
        return item
    words = item.words
    there = words.there if "{direction}" in words.moving + words.there else f"{words.there} First {{direction}}."
    turn = words.turn if "{direction}" in words.turn else f"{words.turn} And {{direction}}."
    return replace(item, words=replace(words, there=there.strip(), turn=turn.strip()))


@checked(
    Family.SIDES,
    "literal-side",
    Severity.FIX,
    "whether words name left or right instead of {side}",
    "A typed “left” is spoken on both sides. {side} and {other} always name the right one.",
)
def literal_side(subject: Subject) -> Iterator[Found]:
    """The words of a move with sides say left or right instead of using a placeholder."""
    for item in subject.moves:
        if not (item.move.sided or item.alternates):
            continue
        literal = [text for text in subject.texts[item.id] if literal_sides(text.words)]
        if literal:
            lead = _first_side(subject.work[item.id]) or subject.style.lead_side
            own = [text for text in literal if not text.under or text.under.side]
            yield Found(
                f"{item.name} says “{literal_sides(literal[0].words)[0]}” on both sides.",
                (item.id,),
                facts=(("text", literal[0].words),),
                mend=Mend("Use {side} and {other}", rewritten(own, partial(_placed, lead=lead))) if own else None,
            )


def _placed(text: Text, lead: Side) -> str:
    return placed_sides(text.words, lead.other if text.field == "switch" else lead)


@checked(
    Family.SIDES,
    "side-of-none",
    Severity.FIX,
    "whether words name a side where there is none",
    "In a move for both sides together, {side} is spoken as “both”, and a lone left or right would work one side only.",
)
def side_of_none(subject: Subject) -> Iterator[Found]:
    """A move without sides uses {side} or {other}, or names left or right."""
    yield from _talks_of_none(subject)
    for item in subject.moves:
        if item.move.sided or item.alternates:
            continue
        goes_by_direction = item.move.sidedness.by_direction
        own = [text for text in subject.texts[item.id] if _speaks_of_one(text.words, literal=not goes_by_direction)]
        if own:
            words = own[0].words
            sides = "{side}" if mentions(words, {"side", "other"}) else ""
            over = crossed(words) if not sides else ""
            told = sides or over or literal_sides(words)[0]
            yield Found(
                f"{item.name} has no sides, but its words say “{told}”.",
                (item.id,),
                facts=(("text", words),),
                mend=Mend("Leave the side out", rewritten(own, lambda text: without_sides(text.words)))
                if not over
                else None,
            )


def _talks_of_none(subject: Subject) -> Iterator[Found]:
    """Talks that speak of a side outside of a chain, where there is none."""
    groups = (group for section in subject.script.sections for group in section.groups)
    chained = {item.id for group in groups if group.side_plan is SidePlan.CHAIN for item in group.items}
    for talk in subject.talks:
        own = [text for text in subject.texts[talk.id] if mentions(text.words, {"side", "other"})]
        if own and talk.id not in chained:
            yield Found(
                f"{talk.name} names a side, but a talk has sides only in a chain.",
                (talk.id,),
                facts=(("text", own[0].words),),
                mend=Mend("Leave the side out", rewritten(own, lambda text: without_sides(text.words))),
            )


def _speaks_of_one(words: str, *, literal: bool) -> bool:
    """Whether words speak of a side, or name one of the two: who names both tells where to go in turn."""
    if mentions(words, {"side", "other"}):
        return True
    if crossed(words):
        return True
    return literal and len({one.casefold() for one in literal_sides(words)}) == 1


CHECKS: tuple[Check, ...] = (lead_wanders, sides_unequal, side_unsaid, direction_unsaid, literal_side, side_of_none)
