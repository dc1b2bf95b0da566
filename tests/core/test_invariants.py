"""What must hold for every script, tried on generated ones."""

from collections import Counter
from dataclasses import replace
from itertools import pairwise

from hypothesis import Phase, given, seed, settings

from extendum.core.listening.spelled import number_words
from extendum.core.model.body import Side, Stance, body_seconds
from extendum.core.model.dose import Breaths, Hold, Manner, Open, Pulses, Reps, Timed
from extendum.core.model.dose_values import stepped
from extendum.core.model.extent import Extent, extent_of, listed_in
from extendum.core.model.item import CountIs, DirectionOrder, ReleaseAfter
from extendum.core.model.move import Sidedness
from extendum.core.model.prompts import PromptKind, Scope
from extendum.core.model.section import SidePlan
from extendum.core.model.style import Countdown, SideNames
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.model.timeline import CueKind, Mode, SegmentKind
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.compile import compile_script
from extendum.core.timing.cues import RULES
from extendum.core.timing.layout import length_of
from extendum.core.timing.sequence import Arrival, Pass, sequence
from extendum.core.timing.speech import sentences
from extendum.core.timing.work_cues import HALFWAY_LEAST_S
from tests.derived import asked_for, visits
from tests.strategies import scripts

INVARIANTS = []


def holds_for_every_script(invariant):
    INVARIANTS.append(invariant)
    return invariant


@holds_for_every_script
def segments_tile_the_class_and_compiling_is_deterministic(script, timeline):
    at = 0
    for segment in timeline.segments:
        assert segment.start_s == at
        at = segment.end_s
    assert at == timeline.length_s == length_of(script)
    assert compile_script(script) == timeline
    assert len({s.id for s in timeline.segments}) == len(timeline.segments)


@holds_for_every_script
def every_side_direction_and_set_is_done_for_equal_time(script, timeline):
    """Invariant 3: in every round, each pass of an item lasts as long as on its other side."""
    expected = visits(script)
    for item in script.moves():
        wanted = Counter((v[2], v[4], v[5]) for v in expected if v[0] is item)
        halves = [isinstance(d, Timed) and d.manner is Manner.HALVES for d in item.doses]
        for stage, halved in enumerate(halves, 1):
            work = [s for s in timeline.of_item(item.id) if s.kind.works and s.stage == stage]
            per_side = Counter()
            for segment in work:
                per_side[segment.round, segment.side] += segment.seconds
            assert all(per_side[r, s.other] == n for (r, s), n in per_side.items() if s is not Side.BOTH)
            if not halved:
                assert Counter((s.round, s.side, s.direction) for s in work) == wanted


@holds_for_every_script
def alternating_reps_are_as_many_on_either_side(script, timeline):
    """Unless an odd total was typed by hand."""
    for item in script.moves():
        if not item.move.sidedness.alternates or not isinstance(item.dose, Reps):
            continue
        for segment in timeline.of_item(item.id):
            if segment.kind is SegmentKind.REPS and segment.stage == 1:
                reps = [
                    c.text.split() for c in timeline.cues if c.segment == segment.id and c.kind is CueKind.REP_PHASE
                ]
                sides = Counter(side for phase, _, side in reps if phase == "out")
                odd = item.count_is is CountIs.TOTAL and sum(sides.values()) % 2
                assert abs(sides["left"] - sides["right"]) == (1 if odd else 0)


@holds_for_every_script
def what_a_class_unfolds_to_is_counted_before(script, timeline):
    """Passes and reps exactly, segments at the most, seconds at the least that the work takes in its first round."""
    found = Extent()
    for section in script.sections:
        for group in section.groups:
            listed = listed_in(group)
            for item in group.items:
                found = found.and_(extent_of(item, group, listed) if item.present else Extent())
    assert found.passes == sum(isinstance(step, Pass) for step in sequence(script))
    assert found.segments >= len(timeline.segments)
    untapered = all(group.taper_percent == 100 for section in script.sections for group in section.groups)
    plain = all(not stepped(dose) for item in script.moves() for dose in item.doses)
    if untapered and plain:
        assert found.seconds <= timeline.length_s


@holds_for_every_script
def spoken_cues_never_overlap_and_lie_in_their_segment(script, timeline):
    spoken = [c for c in timeline.cues if c.mode is Mode.SPOKEN]
    assert all(a.end_ms <= b.start_ms for a, b in pairwise(spoken))
    at = {s.id: s for s in timeline.segments}
    for cue in timeline.cues:
        assert at[cue.segment].start_s * 1000 <= cue.start_ms < cue.end_ms <= at[cue.segment].end_s * 1000


@holds_for_every_script
def a_countdown_ends_exactly_with_its_segment(script, timeline):
    ends = {s.id: s.end_s * 1000 for s in timeline.segments}
    for cue in timeline.cues:
        if cue.kind is CueKind.COUNT:
            n = int(cue.text)
            assert (cue.start_ms, cue.end_ms) == (
                ends[cue.segment] - n * 1000,
                ends[cue.segment] - (n - 1) * 1000,
            )


@holds_for_every_script
def every_cue_asked_for_is_placed_or_listed_as_unsaid(script, timeline):
    work = {}
    for s in timeline.segments:
        if s.kind.works:
            key = (s.item, s.stage, s.round)
            work.setdefault(key, {}).setdefault(s.pass_number, 0)
            work[key][s.pass_number] += s.seconds

    def seconds_of(item, stage, round_):
        return next(iter(work.get((item.id, stage, round_), {0: 0}).values()))

    def values(item, stage, round_):
        one = next(p for p in sequence(script) if p.item is item and p.round == round_)
        return one.value(stage, script.style.breath_ms)

    answered = [c.id for c in timeline.cues if c.kind is not CueKind.MEANWHILE]
    answered += [u.id for u in timeline.unsaid if u.kind is not CueKind.MEANWHILE]
    assert len(set(answered)) == len(answered)
    asked = asked_for(script, values, seconds_of)
    plain = {one for one in asked if isinstance(one, str)}
    rest = set(answered) - plain
    assert plain <= set(answered)
    for _, prefixes, words, short in (one for one in asked if not isinstance(one, str)):
        prefix = prefixes[0].rsplit(".", 2)[0]
        own = {one for one in rest if one.startswith(f"{prefix}.") and one.split(".")[4] in OPENING}
        full = sum(len(sentences(text)) for text in words)
        assert len(own) in ({full, len(sentences(short))} if short else {full})
        rest -= own
    assert rest == set()
    for unsaid in timeline.unsaid:
        assert unsaid.rule in RULES
        assert unsaid.text


OPENING = {"moving", "there", "short", "switch", "turn"}


@holds_for_every_script
def nothing_spoken_holds_a_brace_an_empty_name_or_both_for_a_side_that_is_one(script, timeline):
    sided = {item.id for item in script.moves() if item.move.sided or item.alternates}
    for cue in timeline.cues:
        assert not set(cue.text) & set("{}*[]")
        assert cue.text.strip(" .")
        assert "Next, ." not in cue.text
        if cue.of.item in sided:
            assert "the both foot" not in cue.text
            assert not cue.text.startswith(("Now other", "Now both", "both, away"))


@holds_for_every_script
def a_wait_is_silence_in_its_talk(script, timeline):
    for segment in timeline.segments:
        own = [c for c in timeline.cues if c.segment == segment.id]
        waits = [(c.start_ms, c.end_ms) for c in own if c.kind is CueKind.WAIT]
        talk = [(c.start_ms, c.end_ms) for c in own if c.kind is CueKind.TALK]
        for start, end in waits:
            assert segment.start_s * 1000 <= start < end <= segment.end_s * 1000
            assert all(b <= start or end <= a for a, b in talk)


@holds_for_every_script
def words_of_a_phase_and_counts_are_said_in_their_time(script, timeline):
    beats = {}
    for cue in timeline.cues:
        if cue.kind in (CueKind.REP_PHASE, CueKind.BREATH_PHASE):
            beats.setdefault(cue.segment, []).append(cue)
    at = {s.id: s for s in timeline.segments}
    for cue in timeline.cues:
        if cue.kind is CueKind.PHASE_WORDS and cue.segment in beats:
            assert any(b.start_ms <= cue.start_ms and cue.end_ms <= b.end_ms for b in beats[cue.segment])
        if cue.kind is CueKind.COUNTED:
            assert at[cue.segment].start_s * 1000 <= cue.start_ms < cue.end_ms <= at[cue.segment].end_s * 1000
            assert cue.text.lower() in NUMBERS


NUMBERS = {*map(number_words, range(1, 200)), "in", "out", "hold"}


@holds_for_every_script
def a_second_side_begins_with_another_wording_where_there_are_several(script, timeline):
    """Of each prompt the first wording that either side asks for in the class, placed or unsaid."""
    sides = {pass_of(s): s.side for s in timeline.segments}
    moves, first = {item.id: item for item in script.moves()}, {}
    for cue in sorted((*timeline.cues, *timeline.unsaid), key=lambda one: (one.of.round, one.of.pass_number)):
        item = moves.get(cue.of.item)
        if item is None or not item.move.sided or cue.kind not in PROMPTS:
            continue
        prompt = item.prompts_at(cue.of.stage)[cue.of.nth]
        plain = not set("{*") & set("".join(prompt.wordings))
        if plain and prompt.others and prompt.when is not Scope.BEFORE:
            side = sides[cue.of.item, cue.of.pass_number, cue.of.round]
            first.setdefault((cue.of.item, cue.of.stage, cue.of.nth), {}).setdefault(side, cue.text)
    for told in first.values():
        assert len(set(told.values())) == len(told)


PROMPTS = {CueKind(kind.value) for kind in PromptKind}


def pass_of(segment):
    return segment.item, segment.pass_number, segment.round


@holds_for_every_script
def what_a_teacher_notes_for_herself_is_private(script, timeline):
    told = {note.told for item in script.items() for note in getattr(item, "notes", ())}
    for cue in timeline.cues:
        assert (cue.kind is CueKind.NOTE) is (cue.mode is Mode.PRIVATE)
        assert cue.mode is not Mode.SPOKEN or cue.text not in told


@holds_for_every_script
def underlays_lie_wholly_inside_the_class_and_cost_no_time(script, timeline):
    for under in timeline.underlays:
        assert 0 <= under.start_s < under.end_s <= timeline.length_s
    resets = [u for u in timeline.underlays if u.kind is SegmentKind.RESET]
    for reset in resets:
        host = next(s for s in timeline.segments if s.start_s <= reset.start_s < s.end_s)
        assert host.kind is SegmentKind.TRANSITION and reset.end_s <= host.end_s
    without = compile_script(replace(script, meanwhiles=()))
    assert without.segments == timeline.segments


@holds_for_every_script
def halfway_is_at_the_half_or_says_why_not(script, timeline):
    at = {s.id: s for s in timeline.segments}
    for cue in timeline.cues:
        if cue.kind is CueKind.HALFWAY:
            hold = at[cue.segment]
            assert hold.seconds >= HALFWAY_LEAST_S
            assert cue.start_ms == (hold.start_s + hold.end_s) * 500


@holds_for_every_script
def beats_fill_their_segment_without_a_gap(script, timeline):
    for segment in timeline.segments:
        if segment.kind in (SegmentKind.REPS, SegmentKind.BREATHS):
            kinds = (CueKind.REP_PHASE, CueKind.BREATH_PHASE)
            beats = [c for c in timeline.cues if c.segment == segment.id and c.kind in kinds]
            assert beats[0].start_ms == segment.start_s * 1000
            assert beats[-1].end_ms == segment.end_s * 1000
            assert all(a.end_ms == b.start_ms for a, b in pairwise(beats))


@holds_for_every_script
def no_posture_is_entered_without_the_seconds_to_get_there(script, timeline):
    """A transition is at least what the table asks for between two postures, or what the item says it really takes."""
    firsts = {}
    for segment in timeline.segments:
        firsts.setdefault((segment.item, segment.round, segment.pass_number), []).append(segment)
    stance = Stance(script.start_posture)
    for item, group, round_, number, side, _, _, straight, _, other, *_ in visits(script):
        if side is None:
            continue
        if not straight and not group.cadence_s:
            needed = body_seconds(stance, Stance(item.move.posture, side))
            own = firsts[item.id, round_, number]
            got = sum(s.seconds for s in own if s.kind is SegmentKind.TRANSITION)
            own_s = item.way_s if (round_, number) == (1, 1) or other else 0
            assert got >= (own_s or needed * script.style.pace_percent / 100)
        stance = Stance(item.move.ends_in, side)


FEATURES = {
    "pulses": lambda s: has_dose(s, Pulses),
    "timed": lambda s: has_dose(s, Timed),
    "open": lambda s: has_dose(s, Open),
    "breaths": lambda s: has_dose(s, Breaths),
    "snapped hold": lambda s: any(isinstance(d, Hold) and d.snap for i in s.moves() for d in i.doses),
    "words for each side in turn": lambda s: any(
        i.words.each and any(i.counts_sides(stage) for stage in range(1, len(i.doses) + 1)) for i in s.moves()
    ),
    "breaths that alternate": lambda s: counting_sides(s, Breaths),
    "further stages that alternate": lambda s: any(i.then and counts_later(i) for i in s.moves()),
    "direction by direction": lambda s: any(
        i.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION
        and i.move.sidedness is Sidedness.EACH_SIDE_AND_DIRECTION
        for i in s.moves()
    ),
    "release after": lambda s: any(i.release_after is not ReleaseAfter.USUAL and i.move.sided for i in s.moves()),
    "a countdown of its own": lambda s: any(i.countdown for i in s.moves()),
    "side names of its own": lambda s: any(i.side_names for i in s.moves()),
    "a posture at the end": lambda s: any(i.move.ends_in is not i.move.posture for i in s.moves()),
    "a prop put on otherwise": lambda s: any(p.rig for i in s.moves() for p in i.move.props),
    "the way in silence": lambda s: any(not i.say_way for i in s.moves()),
    "a side come back to": lambda s: any(
        isinstance(step, Pass) and step.arrival is Arrival.OTHER for step in sequence(s)
    ),
    "a talk between the sides": lambda s: any(
        isinstance(i, Talk) and i.between and g.side_plan is SidePlan.CHAIN
        for x in s.sections
        for g in x.groups
        for i in g.items
    ),
    "a stand-in for a prop": lambda s: as_taught(s) is not s,
    "interleaved by direction": lambda s: any(
        ref.direction for x in s.sections for g in x.groups if g.side_plan is SidePlan.INTERLEAVED for ref in g.passes
    ),
    "directions that follow the side": lambda s: any(
        i.move.directions_follow_side and i.move.sidedness is Sidedness.EACH_SIDE_AND_DIRECTION for i in s.moves()
    ),
    "scopes of prompts": lambda s: any(p.when is not Scope.USUAL for i in s.moves() for p in i.words.prompts),
    "wordings that take turns": lambda s: any(p.others for i in s.moves() for p in i.words.prompts),
    "talk spread out": lambda s: any(isinstance(i, Talk) and i.present and i.spreads for i in s.items()),
    "notes": lambda s: any(getattr(i, "notes", ()) for i in s.items()),
    "a stage with targets of its own": lambda s: any(stage.targets for i in s.moves() for stage in i.then),
    "a way to a stage": lambda s: any(stage.way_s for i in s.moves() for stage in i.then),
    "at their own pace": lambda s: any(isinstance(d, Timed) and d.own_pace for i in s.moves() for d in i.doses),
    "a phase that stretches": lambda s: any(getattr(d, "stretches", "") for i in s.moves() for d in i.doses),
    "meanwhile on a side": lambda s: any(one.side for one in s.meanwhiles),
    "meanwhile in a pass": lambda s: any(one.in_pass for one in s.meanwhiles),
    "stages": lambda s: any(i.then for i in s.moves()),
    "sets": lambda s: any(i.sets > 1 for i in s.moves()),
    "chain": lambda s: plan(s, SidePlan.CHAIN),
    "interleaved": lambda s: plan(s, SidePlan.INTERLEAVED),
    "rounds": lambda s: any(g.rounds > 1 and g.items for x in s.sections for g in x.groups),
    "taper": lambda s: any(g.rounds > 1 and g.taper_percent < 100 and g.items for x in s.sections for g in x.groups),
    "cadence": lambda s: any(g.cadence_s and g.items for x in s.sections for g in x.groups),
    "reset": lambda s: any(g.reset_s and g.items for x in s.sections for g in x.groups),
    "meanwhile": lambda s: bool(s.meanwhiles),
    "demonstration": lambda s: any(i.demonstrate_s for i in s.moves()),
    "lead side of its own": lambda s: any(i.lead_side for i in s.moves()),
    "side names": lambda s: s.style.side_names is not SideNames.LEFT_RIGHT,
    "time-left calls": lambda s: bool(s.style.time_left),
    **{f"sides: {kind}": lambda s, kind=kind: any(i.move.sidedness is kind for i in s.moves()) for kind in Sidedness},
    **{f"countdown: {kind}": lambda s, kind=kind: s.style.countdown is kind for kind in Countdown},
    **{
        f"time for {kind}": lambda s, kind=kind: any(getattr(i, "kind", "") is kind for i in s.items())
        for kind in TalkKind
    },
}


SAID = {
    "words for the way": CueKind.WAY,
    "a further set announced": CueKind.AGAIN,
    "each side": CueKind.EACH,
    "words of phases": CueKind.PHASE_WORDS,
    "reps counted aloud": CueKind.COUNTED,
    "waits": CueKind.WAIT,
    "notes told": CueKind.NOTE,
}


def has_dose(script, kind):
    return any(isinstance(dose, kind) for item in script.moves() for dose in item.doses)


def counting_sides(script, kind):
    return any(isinstance(d, kind) and i.counts_sides(n) for i in script.moves() for n, d in enumerate(i.doses, 1))


def counts_later(item):
    return any(item.counts_sides(stage) for stage in range(2, len(item.doses) + 1))


def plan(script, wanted):
    return any(g.side_plan is wanted and g.items for section in script.sections for g in section.groups)


def test_every_invariant_holds_and_each_feature_occurs_in_at_least_a_twentieth_of_the_scripts():
    """On scripts of several seeds: a single one favours what it met first."""
    found = []
    for number in range(4):

        @seed(number)
        @settings(max_examples=85, database=None, derandomize=False, phases=[Phase.generate, Phase.shrink])
        @given(scripts())
        def hold(script):
            timeline = compile_script(script)
            for invariant in INVARIANTS:
                invariant(script, timeline)
            kinds = {cue.kind for cue in timeline.cues}
            said = {name for name, kind in SAID.items() if kind in kinds}
            found.append(said | {name for name, holds in FEATURES.items() if holds(script)})

        hold()
    shares = {name: sum(name in one for one in found) / len(found) for name in (*FEATURES, *SAID)}
    assert {name: share for name, share in shares.items() if share < 0.05} == {}
