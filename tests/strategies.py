"""Generated scripts: every feature of the language, in small classes."""

from hypothesis import strategies as st

from extendum.core.body import Posture, Side
from extendum.core.dose import Breaths, Elastic, Hold, Reps
from extendum.core.move import Move, Prop, Sidedness
from extendum.core.script import (
    Brief,
    Countdown,
    CueStyle,
    Group,
    MoveItem,
    Quiet,
    Role,
    Script,
    Section,
    Talk,
)
from extendum.core.words import Prompt, PromptKind, Words

TEXTS = (
    "",
    "Sit tall.",
    "Step the {side} foot back and lean until you feel it.",
    "Now {other}. Hold for {seconds} seconds, or {count}. Then {next}",
    "{minutes} minutes, {moves} moves, {moves_left} left.",
    "Long words, and many of them, so that the talk lasts longer than any body needs to get there.",
)
texts = st.sampled_from(TEXTS)
TALKS = ("", "Welcome to {minutes} minutes.", "First {next}. Then more, {moves} moves in all", TEXTS[-1])


@st.composite
def elastics(draw, low=0, high=60):
    least = draw(st.integers(low, high))
    wanted = draw(st.integers(least, high))
    most = draw(st.integers(wanted, high))
    return Elastic(least, wanted, most, draw(st.integers(least, most)), draw(st.booleans()))


@st.composite
def doses(draw, high=60):
    kind = draw(st.sampled_from((Hold, Reps, Breaths)))
    if kind is Hold:
        return Hold(draw(elastics(1, high)))
    first, third = draw(st.integers(500, 3000)), draw(st.integers(500, 3000))
    second, fourth = draw(st.sampled_from((0, 333))), draw(st.sampled_from((0, 750)))
    return kind(draw(elastics(1, max(1, high // 5))), first, second, third, fourth)


prompts = st.builds(Prompt, st.sampled_from(PromptKind), texts.filter(bool), st.integers(1, 5))
words = st.builds(Words, texts, texts, texts, texts, st.lists(prompts, max_size=3).map(tuple))
props = st.lists(
    st.builds(Prop, st.sampled_from(("strap", "block", "wall")), rerig_s=st.sampled_from((0, 8))),
    max_size=2,
    unique_by=lambda p: p.name,
).map(tuple)
moves = st.builds(
    Move,
    name=st.sampled_from(("Calf lean", "Side reach", "Bow & <bend>")),
    posture=st.sampled_from(Posture),
    end_posture=st.none() | st.sampled_from(Posture),
    sidedness=st.sampled_from(Sidedness),
    props=props,
    slow_rise_s=st.sampled_from((0, 4)),
)
styles = st.builds(
    CueStyle,
    words_per_minute=st.integers(90, 220),
    countdown=st.sampled_from(Countdown),
    halfway=st.booleans(),
    next_call=st.booleans(),
    prompts=st.booleans(),
    settle_s=st.integers(0, 5),
    lead_side=st.sampled_from((Side.LEFT, Side.RIGHT)),
    pace_percent=st.sampled_from((100, 135)),
)


@st.composite
def scripts(draw, most_items=6, high=60):
    made = []
    for n in range(draw(st.integers(0, most_items))):
        kind = draw(st.sampled_from(("move", "move", "talk")))
        if kind == "move":
            made.append(MoveItem(f"i{n}", draw(moves), draw(doses(high)), draw(words)))
        else:
            made.append(Talk(f"i{n}", draw(elastics(0, 20)), draw(st.sampled_from(TALKS))))
    cut = draw(st.integers(0, len(made)))
    sections = (
        Section("s1", "First", Role.WARM_UP, (Group("g1", "", tuple(made[:cut])),)),
        Section("s2", "Then", Role.MAIN, (Group("g2", "A", tuple(made[cut:])), Group("g3"))),
        Section("s3", "Close", Role.CLOSING, (Group("g4", "", (Quiet("q"),)),)),
    )
    return Script(
        "Generated",
        Brief(target_s=draw(st.integers(30, 900))),
        draw(styles),
        draw(st.sampled_from(Posture)),
        sections,
    )
