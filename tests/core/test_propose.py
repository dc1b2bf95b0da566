"""Proposing a class: the search against complete enumeration, what must hold, and what it says when nothing can be."""

import re
from dataclasses import replace
from pathlib import Path

import pytest

from bench.briefs import brief_of
from bench.exhaustive import agrees, small_task
from extendum.core.checks.finding import Severity
from extendum.core.checks.report import check
from extendum.core.edit.script_edits import new_script, set_target
from extendum.core.model.audience import WhatNext
from extendum.core.model.body import Posture, Region, Side
from extendum.core.model.brief import AtHand
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Meanwhile
from extendum.core.model.section import PassRef, Pin, SidePlan
from extendum.core.moves.objections import objections
from extendum.core.propose.build import welcome
from extendum.core.propose.candidates import Part
from extendum.core.propose.conflict import Conflict
from extendum.core.propose.greedy import Greedy
from extendum.core.propose.propose import SHARED_WITH_ITS_LIKE, NothingMeetsError, NotInTimeError, Proposer
from extendum.core.propose.told import told
from extendum.core.propose.weights import Weights
from extendum.core.propose.whole import stays_whole
from extendum.core.propose.why_not import why_not
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.formats.document import loads
from extendum.formats.library import shipped_moves

DATA = Path(__file__).parents[1] / "data"
LIBRARY = shipped_moves()
FEW = LIBRARY[::2]  # a search over fewer ends sooner


# 110 to 118: a way that never begins; without a wanted area, front and back are to come out even
@pytest.mark.parametrize(("seed", "wanted"), [(0, 1), (1, 1), (2, 1), (110, 1), (114, 1), (118, 1), (4, 0), (6, 0)])
def test_the_search_finds_what_complete_enumeration_finds(seed, wanted):
    assert agrees(*small_task(seed, wanted=wanted))


def test_a_proposal_holds_what_the_brief_asks_for_and_is_the_same_again(seed=2):
    script = replace(brief_of(seed), brief=replace(brief_of(seed).brief, target_s=480))
    proposer = Proposer(script, FEW)
    made = proposer.best(20, work=4)
    again = Proposer(script, FEW).best(20, work=4)
    assert made.script == again.script
    timeline = compile_script(made.script)
    assert timeline.length_s == 480
    found = check(made.script, timeline, FEW)
    assert [one for one in found.open if one.severity is not Severity.NOTE] == []
    assert not any(objections(item.move, script.brief) for item in made.script.moves())
    assert set(script.brief.areas) <= {region for item in made.script.moves() for region in item.move.main_regions}
    assert made.planned <= made.bound
    start = Greedy(proposer.task, proposer.rules).grown()
    assert made.planned >= proposer.task.score(start) or proposer.rules.broken(proposer.task, start)
    assert len(told(proposer.task, made)) == 3


def test_what_a_class_has_stays_as_it_is():
    script = loads((DATA / "digging.json").read_text())
    kept = [item for item in script.moves() if item.id in ("i6", "i9")]
    sections = tuple(
        replace(s, groups=tuple(replace(g, items=tuple(i for i in g.items if i in kept)) for g in s.groups))
        for s in script.sections
    )
    made = Proposer(replace(script, sections=sections), LIBRARY[1::2]).best(20, work=0.2)
    for item in kept:
        now = made.script.item(item.id)
        assert (now.move, now.words.there, now.facing) == (item.move, item.words.there, item.facing)
    assert compile_script(made.script).length_s == script.brief.target_s


def test_sections_with_rounds_chains_or_pins_stay_whole():
    script = loads((DATA / "digging.json").read_text())
    legs = next(one for one in script.sections if one.name == "Legs")
    ids = [item.id for item in legs.items if isinstance(item, MoveItem)]
    chain = replace(legs.groups[0], side_plan=SidePlan.CHAIN, rounds=2)
    under = Meanwhile("m1", ids[0], ids[-1], "Slow breath")
    turn = tuple(PassRef(one.id, side) for side in (Side.LEFT, Side.RIGHT) for one in legs.groups[0].items)
    interleaved = replace(legs.groups[0], side_plan=SidePlan.INTERLEAVED, passes=turn)
    assert stays_whole(replace(legs, groups=(interleaved,)), script) and not stays_whole(legs, script)
    for whole in (replace(legs, groups=(chain,)), replace(legs, pins=(Pin(ids[1], ids[0]),))):
        kept = replace(script, sections=(whole,), meanwhiles=(under,))
        made = Proposer(set_target(kept, 1200), LIBRARY[::4]).best(10, work=0.2).script
        assert arranged(next(one for one in made.sections if one.id == legs.id)) == arranged(whole)
        assert made.meanwhiles == (under,) and compile_script(made).length_s == 1200
        assert not {item.move.key for item in made.moves() if item.id not in ids} & {i.move.key for i in whole.items}


def arranged(section):
    """How the moves of a section follow each other."""
    groups = [(g.side_plan, g.rounds, [(item.id, item.name) for item in g.items]) for g in section.groups]
    return section.name, section.role, section.pins, groups


def test_why_not_a_move_tells_what_it_would_cost():
    script = brief_of(1)
    best = Proposer(script, FEW).best(5, work=1)
    out = next(c.key for c in Proposer(script, FEW).task.candidates if c.key not in best.keys and Part.MAIN in c.parts)
    answer = why_not(Proposer(script, FEW), out, best, 5)
    assert out in answer.proposal.keys and answer.proposal.planned <= best.bound
    assert f"instead of {best.planned}" in answer.told[0]
    against = next(one.move for one in LIBRARY if objections(one.move, script.brief))
    assert "The brief speaks against" in why_not(Proposer(script, LIBRARY), against.key, best, 5).told[0]
    with pytest.raises(RefusedError):
        why_not(Proposer(script, FEW), "nothing", best, 5)


def test_another_like_it_has_two_fifths_other_moves():
    proposer = Proposer(brief_of(1), FEW)
    now = proposer.best(5, work=1).keys
    proposer.unlike(now, SHARED_WITH_ITS_LIKE)
    other = proposer.best(5, work=1).keys
    assert 5 * len(other & now) <= 3 * len(other)


def test_a_move_that_was_skipped_is_worth_less():
    task = Proposer(brief_of(1), FEW).task
    key = task.candidates[0].key
    assert replace(task, skipped={key: 2}).own_cost(task.candidates[0]) == task.own_cost(task.candidates[0]) + 160


def test_several_differ_in_a_third_of_their_moves():
    script = brief_of(1)
    keys = [{item.move.key for item in one.script.moves()} for one in Proposer(script, FEW).several(2, 2)]
    assert len(keys) == 2
    for n, one in enumerate(keys):
        assert all(3 * len(one & other) <= 2 * min(len(one), len(other)) for other in keys[:n])


def test_before_strength_nothing_is_held_long_and_the_class_ends_upright():
    script = new_script("Before the match", 600)
    areas = (Region.BACK_THIGH, Region.CALF)
    script = replace(script, brief=replace(script.brief, areas=areas, before=WhatNext.STRENGTH), sections=())
    made = Proposer(script, FEW).best(4, work=1)
    held = [one.seconds for one in compile_script(made.script).segments if one.kind.value == "hold"]
    assert max(held, default=0) <= 30
    assert list(made.script.moves())[-1].move.ends_in in (Posture.STANDING, Posture.ONE_LEG, Posture.LUNGE)


def test_a_brief_that_cannot_be_met_names_the_wishes():
    script = new_script("Nowhere", 480)
    brief = replace(script.brief, areas=(Region.INNER_THIGH,), postures=(Posture.PRONE,), props=(AtHand("wall"),))
    with pytest.raises(NothingMeetsError) as told_of:
        Proposer(replace(script, brief=brief, sections=()), FEW).best(5)
    assert "inner thigh: no move reaches it" in told_of.value.wishes[0]
    assert told_of.value.conflict.without == "inner thigh"
    short = replace(brief, areas=tuple(Region)[:8], postures=(), props=(), target_s=120)
    with pytest.raises(NothingMeetsError) as told_of:
        Proposer(replace(script, brief=short, sections=()), FEW).best(5)
    assert told_of.value.wishes[0] == "a class of 2:00" and 1 < len(told_of.value.wishes) <= 9


def test_the_nearest_class_gives_up_an_area_and_says_which():
    script = brief_of(5)
    script = replace(script, brief=replace(script.brief, areas=(*script.brief.areas, Region.INNER_THIGH)))
    few = [one for one in FEW[::2] if Region.INNER_THIGH not in one.move.main_regions]
    proposer = Proposer(script, few)
    with pytest.raises(NothingMeetsError) as told_of:
        proposer.best(5)
    near = proposer.nearest(told_of.value.conflict, 1)
    assert told_of.value.conflict.without == "inner thigh"
    assert near.script.brief.areas == script.brief.areas[:-1]
    assert length_of(near.script) == script.brief.target_s
    assert proposer.nearest(Conflict(("nothing",)), 5) is None


@pytest.mark.parametrize("region", Region)
def test_a_welcome_names_areas_as_one_would_say_them(region):
    script = new_script("For somebody", 600)
    said = welcome(replace(script, brief=replace(script.brief, areas=(region, Region.NECK))))
    assert not re.search(r"\b(your|the) (your|the)\b|your \w+ of ", said)
    assert re.search(r"(your| and) neck", said) and "{needs}" in said
    many = welcome(replace(script, brief=replace(script.brief, areas=tuple(Region)[:5])))
    assert "We have {minutes} minutes. Nothing should hurt" in many


def test_no_time_is_not_called_impossible(monkeypatch):
    at_once = Proposer(brief_of(5), LIBRARY).best(0.0, work=0.0001)
    assert at_once.planned < at_once.bound  # the plan that was there before the search
    monkeypatch.setattr(Greedy, "grown", lambda self: ())
    with pytest.raises(NotInTimeError):
        Proposer(brief_of(5), LIBRARY).best(0.0, work=0.0001)


def test_the_table_of_weights_is_the_one_that_counts():
    told = (Path(__file__).parents[2] / "docs" / "propose.md").read_text()
    weights = Weights()
    rows = (weights.wanted, weights.wanted_otherwise, weights.wanted_strength)
    for row in rows:
        assert f"| {' | '.join(map(str, row))} |" in told
    for what, one in (("near a wanted one", weights.near), ("any other", weights.unwanted)):
        assert f"| {what} | {one[0]} | {one[0] // 2} |" in told
        assert f"| {what}, in strength | {one[1]} | {one[1] // 2} |" in told
    taken = told.split("| taken off | points |")[1].split("\n\n")[0]
    points = [int(line.rsplit("|", 2)[1]) for line in taken.strip().splitlines()[1:]]
    names = (
        "way_s",
        "change",
        "support",
        "floor",
        "dose_step",
        "move",
        "crowd",
        "relative",
        "caution",
        "skipped",
        "uneven",
    )
    assert points == [getattr(weights, name) for name in names]
