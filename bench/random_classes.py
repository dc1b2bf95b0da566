"""Random classes with every feature that a fit must know, from a seed: the same seed gives the same class."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from extendum.core.model.brief import Brief, Priority
from extendum.core.model.dose import Dose, Hold, Manner, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import CountIs, DirectionOrder, Item, MoveItem, ReleaseAfter, SetOrder, Stage
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Sidedness
from extendum.core.model.script import Script
from extendum.core.model.section import Group, PassRef, Role, Section, SidePlan, sides_of, ways_of
from extendum.core.model.style import CueStyle, HoldConvention
from extendum.core.model.talk import Quiet, Talk, TalkKind
from extendum.formats.library import shipped_moves


def random_class(seed: int, items: int = 10) -> Script:
    """A class of about so many items in two to four groups, one of each side plan now and then."""
    rng = Random(seed)
    sections, number = [], 0
    left = items
    while left > 0:
        size = min(left, rng.randint(2, 6))
        plan = rng.choice((SidePlan.EACH_MOVE, SidePlan.EACH_MOVE, SidePlan.CHAIN, SidePlan.INTERLEAVED))
        made: list[Item] = []
        for _ in range(size):
            number += 1
            talk = plan is SidePlan.EACH_MOVE and rng.random() < 0.2
            made.append(_talk(rng, number) if talk else _move(rng, number, plan))
        section = len(sections) + 1
        sections.append(Section(f"s{section}", f"Part {section}", Role.MAIN, (_group(rng, section, plan, made),)))
        left -= size
    close = Group("gq", "", (Quiet("q"),))
    sections.append(Section("sq", "Close", Role.CLOSING, (close,)))
    brief = Brief(priority=rng.choice(list(Priority)))
    return Script(f"Random {seed}", brief, _style(rng), rng.choice(_STARTS), tuple(sections))


_STARTS = [entry.move.posture for entry in shipped_moves()[:5]]


def _style(rng: Random) -> CueStyle:
    return CueStyle(
        words_per_minute=rng.randint(120, 190),
        settle_s=rng.randint(0, 4),
        one_leg_most_s=rng.choice((0, 0, 20)),
        holds=rng.choice((HoldConvention.OWN, HoldConvention.OWN, HoldConvention.STEADY, HoldConvention.ONCE)),
        pace_percent=rng.choice((100, 130)),
        breath_out_ms=rng.choice((6000, 6909)),
    )


def _group(rng: Random, number: int, plan: SidePlan, items: list[Item]) -> Group:
    refs: list[PassRef] = []
    for item in items:
        ways = rng.choice((ways_of(item), ("",)))
        refs += [PassRef(item.id, side, way) for side in sides_of(item) for way in ways]
    rng.shuffle(refs)
    return Group(
        f"g{number}",
        "",
        tuple(items),
        plan,
        tuple(refs) if plan is SidePlan.INTERLEAVED else (),
        rounds=rng.choice((1, 1, 2, 3)),
        taper_percent=rng.choice((100, 70)),
        reset_s=rng.choice((0, 0, 6)),
        cadence_s=rng.choice((0, 0, 0, 12)),
    )


def _elastic(rng: Random, usual: Elastic) -> Elastic:
    wanted = max(1, usual.wanted + rng.randint(-2, 4))
    return Elastic(
        max(1, min(usual.least, wanted)), wanted, max(wanted, min(usual.most, wanted + 15)), None, rng.random() < 0.1
    )


def _dose(rng: Random, entry: LibraryMove) -> Dose:
    dose = entry.dose
    if isinstance(dose, Hold) and rng.random() < 0.2:
        return Hold(Elastic(8, 25, 45), snap=True)
    if isinstance(dose, Hold) and rng.random() < 0.15:
        stretch = {"stretches": rng.choice(("contract", "relax")), "stretch_s": Elastic(4, 6, 10)}
        return Pulses(Elastic(1, 3, 5), **(stretch if rng.random() < 0.5 else {}))
    if isinstance(dose, Hold) and rng.random() < 0.15:
        return Timed(Elastic(10, 20, 40), rng.choice(list(Manner)))
    return dose.having(_elastic(rng, dose.quantity))


def _keep(rng: Random) -> Keep:
    return rng.choice((Keep.ALWAYS, Keep.ALWAYS, Keep.OPTIONAL))


def _move(rng: Random, number: int, plan: SidePlan) -> MoveItem:
    entry = rng.choice(shipped_moves())
    words = entry.words
    if rng.random() < 0.15:  # words whose own length follows the dose
        words = replace(words, there="Stay for {seconds} seconds, or {count}.")
    move, dose = entry.move, _dose(rng, entry)
    if isinstance(dose, Reps) and rng.random() < 0.4:
        move = replace(move, sidedness=Sidedness.ALTERNATING)
    return MoveItem(
        f"i{number}",
        move,
        dose,
        words,
        (Stage(Hold(Elastic(5, 12, 20)), "stay", "And stay."),) if rng.random() < 0.15 else (),
        sets=rng.choice((1, 1, 1, 2)),
        rest_s=rng.choice((0, 8)),
        set_order=rng.choice(list(SetOrder)),
        direction_order=rng.choice(list(DirectionOrder)),
        release_after=rng.choice(list(ReleaseAfter)),
        count_is=rng.choice(list(CountIs)),
        demonstrate_s=rng.choice((0, 0, 6)),
        between=plan is SidePlan.CHAIN and rng.random() < 0.25,
        keep=_keep(rng),
        matters=rng.choice(list(Matters)),
    )


def _talk(rng: Random, number: int) -> Talk:
    wanted = rng.randint(5, 15)
    seconds = Elastic(wanted - rng.randint(0, 4), wanted, wanted + rng.randint(0, 10), None, rng.random() < 0.2)
    kind = rng.choice((TalkKind.TALK, TalkKind.REST, TalkKind.CHECK_IN))
    return Talk(
        f"i{number}", seconds, "Rest a little.", "Talk", kind, keep=_keep(rng), matters=rng.choice(list(Matters))
    )
