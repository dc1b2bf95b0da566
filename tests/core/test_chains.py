"""A class that takes a chain of moves to one side and then to the other, heard from its words."""

from hypothesis import given
from hypothesis import strategies as st

from extendum.core.heard.drafting import draft
from extendum.core.heard.hear import hear
from extendum.core.heard.repeats import blocks_of
from extendum.core.heard.sides import OTHER
from extendum.core.model.section import SidePlan
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken

HEARING = hearing(tuple(shipped_moves()))
CHAINS = HEARING.chains
#: Sides are named once, and the second time nothing is.
HIPS = [
    Spoken(float(at), text)
    for at, text in (
        (0, "Hello everyone, we take three things down one side, and then the lot of them down the other."),
        (9, "Kneel, step your left foot forward, the other knee under the hip, and sink into the front of that hip."),
        (17, "Stay, and breathe."),
        (38, "From there shift your hips back until the front leg is straight, toes up, and fold over it."),
        (46, "Long back. Stay with it."),
        (66, "Bend the knee again, and slide that shin across in front of you, the back leg out long behind."),
        (75, "Rest on your elbows."),
        (98, "Come back up onto your hands. Now the whole string on the other side."),
        (104, "Other foot forward, and sink into the front of the hip."),
        (111, "Breathe."),
        (131, "Shift your hips back, front leg straight, fold over it."),
        (137, "Soft neck."),
        (157, "Bend it, and slide the shin across, the back leg long."),
        (164, "And rest there."),
        (187, "Roll onto your back, and pull both knees in to your chest."),
        (195, "Rock a little."),
        (212, "And let them go. That was it, thank you."),
    )
]


def test_a_chain_that_is_taken_to_each_side_has_its_sides_its_names_and_its_change():
    heard = hear(HIPS, HEARING)
    *chain, last = heard.moves
    assert [[one.side for one in move.passes] for move in chain] == [["left"]] * 3 + [["right"]] * 3
    assert [one.side for one in last.passes] == ["both"]
    assert [move.key for move in chain[:3]] == [move.key for move in chain[3:]]
    (turn,) = heard.switches
    assert 95 <= turn <= 106
    assert [block.moves for block in blocks_of(heard.moves) if block.chain] == [((0, 3), (1, 4), (2, 5))]
    sections = draft(heard, "Hips", shipped_moves()).sections
    plans = {group.side_plan: len(group.items) for one in sections for group in one.groups}
    assert plans[SidePlan.CHAIN] == 3


@given(
    first=st.sampled_from(["left", "right"]),
    lengths=st.tuples(st.integers(1, 6), st.integers(1, 6)),
    arms=st.booleans(),
    silent=st.sets(st.integers(1, 11)),
)
def test_sides_that_are_named_stay_and_those_that_are_not_follow_from_them(first, lengths, arms, silent):
    sides = [first] * lengths[0] + [OTHER[first]] * lengths[1]
    ends = {0, lengths[0] - 1, lengths[0]}
    named = [(side, arms) if n in ends or n not in silent else None for n, side in enumerate(sides)]
    turned = [n == lengths[0] for n in range(len(sides))]
    assert CHAINS.along(named, turned, [""] * len(sides)) == (sides, lengths[0])


@given(st.lists(st.none() | st.tuples(st.sampled_from(["left", "right"]), st.booleans()), min_size=1, max_size=9))
def test_whatever_is_named_people_change_once_at_the_most(named):
    sides, turn = CHAINS.along(named, [False] * len(named), [""] * len(named))
    assert sides == [sides[0]] * turn + [OTHER[sides[0]]] * (len(named) - turn)
