"""Generated scripts: every feature of the language, in small classes."""

from dataclasses import replace

from hypothesis import strategies as st

from extendum.core.model.audience import Condition, Setting, WhatNext
from extendum.core.model.body import Base, Posture, Region, Side
from extendum.core.model.brief import AtHand, Brief, Priority
from extendum.core.model.dose import Breaths, Hold, Manner, Open, Phase, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import CountIs, DirectionOrder, MoveItem, ReleaseAfter, SetOrder, Stage
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.move import Move, Named, OnSide, Prop, Sidedness, Target
from extendum.core.model.notes import Note, NoteWhen
from extendum.core.model.phases import PhaseBreath, PhaseWords
from extendum.core.model.prompts import Prompt, PromptKind, Scope
from extendum.core.model.script import Kept, Meanwhile, Script
from extendum.core.model.section import Group, PassRef, Role, Section, SidePlan, sides_of, ways_of
from extendum.core.model.style import Countdown, CueStyle, Facing, HoldConvention, RepCount, SideNames
from extendum.core.model.talk import Quiet, Talk, TalkKind, TalkPace
from extendum.core.model.ways import WayWords
from extendum.core.model.words import Words

TEXTS = (
    "",
    "Sit tall.",
    "Step the {side} foot back and lean until you feel it.",
    "Take a strap, the {side} end first.",
    "Come up to standing, {side} foot in front.",
    "Now {other}, {direction}. Hold for {seconds} seconds, or {count}. Then {next}",
    "{minutes} minutes, {moves} moves, {moves_left} left, {rounds} rounds.",
    "Long words, and many of them, so that the talk lasts longer than any body needs to get there.",
)
#: What the checks listen for.
POOR = (
    "Step the left foot back, close your eyes and bounce as far as you can for twelve seconds.",
    "Next is the plank. Hold your breath through the pain, ten more seconds, and no sore legs tomorrow.",
)
TALKS = (
    "",
    "How are you? [until they answer] Good. [3 s] Then we *begin*.",
    *POOR,
    "Welcome to {minutes} minutes. {needs}",
    "First {next}. Then more, {moves} moves in all",
    TEXTS[-1],
)
AT_HAND = (
    AtHand("chair", "stable, with arms"),
    AtHand("chair", "stable, without wheels, without arms"),
    AtHand("wall"),
    AtHand("mat"),
    AtHand("strap", "a long towel"),
    AtHand("cushion", "firm"),
    AtHand("light stick", "heavy"),
    AtHand("towel", "long", "strap"),
    AtHand("umbrella", counts_as="block"),
)
texts = st.sampled_from((*TEXTS, *POOR))
sides = st.sampled_from((Side.LEFT, Side.RIGHT))


@st.composite
def elastics(draw, low=0, high=60):
    least = draw(st.integers(low, high))
    wanted = draw(st.integers(least, high))
    most = draw(st.integers(wanted, high))
    return Elastic(least, wanted, most, draw(st.integers(least, most)), draw(st.booleans()))


@st.composite
def doses(draw, high=60):
    kind = draw(st.sampled_from((Hold, Hold, Reps, Breaths, Pulses, Timed, Open)))
    if kind is Hold and draw(st.integers(0, 3)) == 0:
        return Hold(Elastic(draw(st.integers(1, 10)), 30, 60, None, draw(st.booleans())), snap=True)
    if kind in (Hold, Open):
        return kind(draw(elastics(1, high)))
    if kind is Timed:
        least = draw(st.sampled_from((0, 5, 5, 5)))
        return Timed(draw(elastics(2, high)), draw(st.sampled_from(Manner)), least, least and least + 3)
    return draw(counted(kind, high))


@st.composite
def counted(draw, kind, high=60):
    """A dose of a kind whose quantity is a count."""
    count = draw(elastics(1, max(1, high // 5)))
    if kind is Pulses:
        names = draw(st.sampled_from((("hold",), ("contract", "relax"), ("in", "press hard and stay", "out"))))
        phases = tuple(Phase(name, draw(st.integers(500, 4000))) for name in names)
        return Pulses(count, phases, **draw(in_phases(names, breathes=False)))
    first, third = draw(st.integers(500, 3000)), draw(st.integers(500, 3000))
    second, fourth = draw(st.sampled_from((0, 333))), draw(st.sampled_from((0, 750)))
    if kind is Reps:
        more = draw(in_phases(("out", "stay", "back", "rest"), breathes=False))
        return Reps(count, first, second, third, fourth, draw(st.sampled_from((0, 0, 3))), **more)
    more = draw(in_phases(("in", "full", "out", "empty"), breathes=True))
    return Breaths(count, first, second, third, fourth, **more)


@st.composite
def in_phases(draw, names, *, breathes):
    """What is said in the phases of a dose, and the phase whose seconds give."""
    told = {}
    if draw(st.booleans()):
        free = PhaseBreath.FREE
        breath = st.just(free) if breathes else st.sampled_from(PhaseBreath)
        words = st.sampled_from(("Up.", "Reach the {side} arm up as high as you like.", "Inhale, {other}."))
        chosen = draw(st.lists(st.sampled_from(names), min_size=1, max_size=3, unique=True))
        told["says"] = tuple(PhaseWords(name, draw(words), draw(breath)) for name in chosen)
        told["say_first"] = draw(st.sampled_from((0, 1, 2)))
    if draw(st.integers(0, 3)) == 0:
        told["stretches"] = draw(st.sampled_from(names))
        told["stretch_s"] = draw(elastics(1, 6))
    return told


prompts = st.builds(
    Prompt,
    st.sampled_from(PromptKind),
    texts.filter(bool),
    st.integers(1, 5),
    st.sampled_from((Scope.USUAL, *Scope)),
    st.sampled_from((1, 2)),
    st.sampled_from(((), (), ("Another *wording*.",), ("A second.", "A third."))),
)
notes = st.lists(
    st.builds(
        Note,
        st.sampled_from(("Turn round.", "Fetch the second strap.")),
        st.sampled_from(NoteWhen),
        st.sampled_from((0, 3, 40)),
        st.none() | sides,
        st.none() | st.sampled_from(Facing),
    ),
    max_size=2,
).map(tuple)
words = st.builds(
    Words,
    moving=texts,
    there=texts,
    short=texts,
    switch=texts,
    turn=texts,
    each=st.sampled_from(("Now {side}.", "{side}, away from {other}, and back as slowly as you like.")),
    release=texts,
    demonstration=texts,
    again=st.sampled_from(("Once more.", "")),
    prompts=st.lists(prompts, max_size=3).map(tuple),
)
props = st.lists(
    st.builds(
        Prop,
        st.sampled_from(("strap", "block", "wall")),
        rerig_s=st.sampled_from((0, 8)),
        rig=st.sampled_from(("", "round one foot")),
        required=st.booleans(),
        or_else=st.sampled_from(((), ("cushion", "belt"))),
    ),
    max_size=2,
    unique_by=lambda p: p.name,
).map(tuple)
moves = st.builds(
    Move,
    name=st.sampled_from(("Calf lean", "Side reach", "Bow & <bend>")),
    posture=st.sampled_from(Posture),
    end_posture=st.none() | st.sampled_from(Posture),
    sidedness=st.sampled_from(
        (
            *Sidedness,
            Sidedness.ALTERNATING,
            Sidedness.CROSSED_ALTERNATING,
            Sidedness.CROSSED_ALTERNATING,
            Sidedness.EACH_SIDE,
            Sidedness.EACH_SIDE,
            Sidedness.CROSSED,
            Sidedness.CROSSED,
            Sidedness.EACH_DIRECTION,
            Sidedness.EACH_DIRECTION,
            Sidedness.EACH_SIDE_AND_DIRECTION,
            Sidedness.EACH_SIDE_AND_DIRECTION,
            Sidedness.EACH_SIDE_AND_DIRECTION,
        )
    ),
    props=props,
    targets=st.lists(st.builds(Target, st.sampled_from(Region), side=st.sampled_from(OnSide)), max_size=2).map(tuple),
    named=st.sampled_from(Named),
    slow_rise_s=st.sampled_from((0, 4)),
    directions_follow_side=st.booleans(),
).map(
    lambda move: (
        replace(move, directions=("to the {side}", "to the {other}"))
        if move.sidedness is Sidedness.EACH_SIDE_AND_DIRECTION and move.name == "Side reach"
        else replace(move, directions=("left", "then right"))
        if move.name == "Calf lean"
        else move
    )
)
keeps = st.sampled_from((Keep.ALWAYS, Keep.OPTIONAL, Keep.OPTIONAL, Keep.OUT))
styles = st.builds(
    CueStyle,
    words_per_minute=st.integers(90, 220),
    countdown=st.sampled_from(Countdown),
    count_reps=st.sampled_from((RepCount.NONE, *RepCount)),
    last_calls=st.sampled_from((0, 0, 2)),
    halfway=st.booleans(),
    time_left=st.sampled_from(((), (), (10,), (5, 15))),
    next_call=st.booleans(),
    prompts=st.booleans(),
    say_breaths=st.sampled_from((0, 2)),
    breath_every_s=st.sampled_from((0, 0, 12)),
    settle_s=st.integers(0, 5),
    breath_out_ms=st.sampled_from((6000, 6909)),
    lead_side=sides,
    side_names=st.sampled_from(SideNames),
    pace_percent=st.sampled_from((100, 135)),
    way_words=st.sampled_from(((), (), (WayWords(Base.STANDING, Posture.ALL_FOURS, "Down we go."),))),
    holds=st.sampled_from(HoldConvention),
    one_leg_most_s=st.sampled_from((0, 0, 20)),
)
briefs = st.builds(
    Brief,
    target_s=st.integers(30, 900),
    priority=st.sampled_from(Priority),
    setting=st.sampled_from(Setting),
    postures=st.lists(st.sampled_from(Posture), max_size=12, unique=True).map(tuple),
    props=st.lists(st.sampled_from(AT_HAND), max_size=4, unique=True).map(tuple),
    areas=st.lists(st.sampled_from(Region), max_size=4, unique=True).map(tuple),
    before=st.sampled_from(WhatNext),
    conditions=st.lists(st.sampled_from(Condition), max_size=3, unique=True).map(tuple),
    avoid=st.lists(st.sampled_from(("kneeling", "neck circles", "plank")), max_size=2, unique=True).map(tuple),
)


@st.composite
def stages(draw, kinds):
    """A further dose, in the same place or in another."""
    return Stage(
        draw(kinds),
        "",
        draw(texts),
        draw(st.sampled_from(("", "Farther."))),
        draw(st.sampled_from((0, 0, 7))),
        targets=draw(st.sampled_from(((), (Target(Region.ANKLE),)))),
        facing=draw(st.none() | st.sampled_from(Facing)),
        prompts=tuple(draw(st.lists(prompts, max_size=1))),
    )


@st.composite
def move_items(draw, name, high=60):
    move = draw(moves)
    kinds = st.one_of(counted(Reps, high), counted(Breaths, high)) if move.sidedness.alternates else doses(high)
    return MoveItem(
        name,
        move,
        draw(kinds if draw(st.booleans()) else doses(high)),
        draw(words),
        tuple(draw(stages(kinds)) for _ in range(draw(st.sampled_from((0, 0, 1, 1, 2))))),
        draw(st.sampled_from((1, 1, 1, 2, 3))),
        draw(st.sampled_from((0, 9))),
        draw(st.sampled_from(SetOrder)),
        draw(st.sampled_from((*DirectionOrder, DirectionOrder.DIRECTION_BY_DIRECTION))),
        draw(st.sampled_from(ReleaseAfter)),
        draw(st.sampled_from(CountIs)),
        draw(st.none() | st.none() | sides),
        draw(st.sampled_from((0, 0, 7))),
        turn_s=draw(st.sampled_from((0, 0, 3))),
        countdown=draw(st.none() | st.none() | st.sampled_from(Countdown)),
        side_names=draw(st.none() | st.none() | st.sampled_from(SideNames)),
        count_reps=draw(st.none() | st.sampled_from(RepCount)),
        last_calls=draw(st.none() | st.sampled_from((0, 3))),
        notes=draw(notes),
        way_s=draw(st.sampled_from((0, 0, 0, 13))),
        switch_s=draw(st.sampled_from((0, 0, 0, 5))),
        say_way=draw(st.sampled_from((True, True, False))),
        between=draw(st.booleans()),
        self_led=draw(st.booleans()),
        keep=draw(keeps),
        dropped=draw(st.booleans()),
        matters=draw(st.sampled_from(Matters)),
    )


@st.composite
def talks(draw, name):
    kind = draw(
        st.sampled_from(
            (
                *TalkKind,
                TalkKind.WATER,
                TalkKind.WATER,
                TalkKind.WATER,
                TalkKind.STATION,
                TalkKind.NOTICE,
                TalkKind.NOTICE,
                TalkKind.STATION,
                TalkKind.RECHECK,
                TalkKind.CHECK_IN,
                TalkKind.REST,
                TalkKind.PROPS,
            )
        )
    )
    picks = (Prop("block"),) if kind is TalkKind.PROPS else ()
    words = draw(st.sampled_from((*TALKS, TALKS[1], TALKS[1])))
    keep, matters = draw(keeps), draw(st.sampled_from(Matters))
    between, dropped = draw(st.booleans()), draw(st.booleans())
    seconds, pace, own = draw(elastics(0, 40)), draw(st.sampled_from(TalkPace)), draw(notes)
    return Talk(name, seconds, words, "Talk", kind, picks, ("strap",), between, keep, dropped, matters, pace, own)


@st.composite
def groups(draw, name, items):
    plan = draw(
        st.sampled_from(
            (SidePlan.EACH_MOVE, SidePlan.CHAIN, SidePlan.CHAIN, SidePlan.INTERLEAVED, SidePlan.INTERLEAVED)
        )
    )
    group = Group(
        name,
        "",
        tuple(items),
        rounds=draw(st.sampled_from((1, 1, 2, 3))),
        taper_percent=draw(st.sampled_from((100, 70))),
        lead_side=draw(st.none() | st.none() | sides),
        reset_s=draw(st.sampled_from((0, 0, 6))),
        cadence_s=draw(st.sampled_from((0, 0, 0, 10))),
    )
    refs = []
    for item in items:
        ways = draw(st.sampled_from((ways_of(item), ways_of(item), ("",))))
        refs += [PassRef(item.id, side, way) for side in sides_of(item) for way in ways]
    return replace(group, side_plan=plan, passes=tuple(draw(st.permutations(refs))))


@st.composite
def scripts(draw, most_items=5, high=60):
    either = st.sampled_from(("move", "move", "move", "talk", "talk"))
    kinds = draw(st.lists(either, min_size=most_items // 2, max_size=most_items))
    kinds = kinds[1:] if draw(st.integers(0, 9)) == 0 else kinds
    made = [draw(move_items(f"i{n}", high) if kind == "move" else talks(f"i{n}")) for n, kind in enumerate(kinds)]
    cut = draw(st.sampled_from((0, len(made), len(made) // 2)))
    sections = (
        Section("s1", "First", Role.WARM_UP, (draw(groups("g1", made[:cut])),)),
        Section("s2", "Then", Role.MAIN, (draw(groups("g2", made[cut:])), Group("g3"))),
        Section("s3", "Close", Role.CLOSING, (Group("g4", "", (Quiet("q"),)),)),
    )
    unders = ()
    if made and draw(st.booleans()):
        first, last = sorted(draw(st.lists(st.integers(0, len(made) - 1), min_size=2, max_size=2)))
        told = draw(st.sampled_from((*TALKS, "Feet go on. [4 s] Heels, then toes. And once more.")))
        where = draw(
            st.sampled_from(
                (
                    {},
                    {"side": Side.LEFT},
                    {"side": Side.RIGHT},
                    {"in_pass": 1},
                    {"in_pass": 2},
                    {"in_pass": 1, "seconds": 15},
                )
            )
        )
        unders = (Meanwhile("m", made[first].id, made[last].id, "Feet", told, **where),)
    brief, posture = draw(briefs), draw(st.sampled_from(Posture))
    kept = (Kept("off-slot", "They know.", mark=draw(st.sampled_from(("", "0f")))),) if draw(st.booleans()) else ()
    return Script("Generated", brief, draw(styles), posture, sections, unders, kept)
