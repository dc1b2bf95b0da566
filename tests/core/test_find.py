"""Finding a move as people type it: also by what else it is called, in any order, with a slip of a finger."""

import pytest

from extendum.core.model.body import Region
from extendum.core.moves.called import words_in
from extendum.core.moves.find import Query, _nearly, find
from extendum.core.moves.wish import wish_in
from extendum.formats.library import shipped_moves

MOVES = shipped_moves()
NAMED = [(name, entry.move.key) for entry in MOVES for name in (entry.move.name, *entry.aliases)]


def found(words):
    return [entry.move.key for entry in find(MOVES, Query(words))]


@pytest.mark.parametrize(
    ("typed", "first"),
    [
        ("neck tilt", "side-neck"),
        ("ear to shoulder", "side-neck"),
        ("arm circles", "arm-circles"),
        ("pigeon", "pigeon"),
        ("butterfly", "soles-together"),
        ("childs pose", "childs-pose"),
        ("child’s pose", "childs-pose"),
        ("figure 4", "seated-figure-four"),
        ("hamstrng", "heel-forward"),
        ("lean calf", "calf-lean"),
        ("calves leans", "calf-lean"),
        ("sholder rol", "shoulder-circles"),
        ("stretch for the hamstrings", "heel-forward"),
    ],
)
def test_what_people_type_comes_first(typed, first):
    assert found(typed)[0] == first


def test_every_name_finds_its_move_also_with_its_words_turned_round():
    for name, key in NAMED:
        if len(words_in(name)) > 1:
            assert key in found(name)[:4], name
        assert key in found(" ".join(reversed(name.split()))), name


def test_a_letter_left_out_or_doubled_still_finds_it():
    for name, key in NAMED[::7]:
        longest = max(words_in(name), key=len)
        if len(longest) < 5:
            continue
        for slip in (
            longest[:2] + longest[3:],
            longest[:3] + longest[2:],
            longest[:2] + longest[3] + longest[2] + longest[4:],
        ):
            assert key in found(name.casefold().replace(longest, slip)), (name, slip)


def test_what_is_near_nothing_finds_nothing_and_slips_add_nothing_to_what_is_there():
    assert found("zzzz") == [] and found("xylophone") == []
    assert set(found("calf")) == {e.move.key for e in MOVES if any(w.startswith("calf") for w in words_of(e))}


def words_of(entry):
    targets = " ".join(target.region for target in entry.move.targets)
    return words_in(" ".join((entry.move.name, *entry.aliases, targets)))


@pytest.mark.parametrize(
    ("typed", "word", "meant"),
    [
        ("shuoldre", "shoulder", True),  # two slips in eight letters
        ("tsrecth", "stretch", False),  # two in seven
        ("sretch", "stretch", True),
        ("cafl", "calf", True),
        ("hpi", "hip", False),
    ],
)
def test_longer_words_may_have_more_slips(typed, word, meant):
    assert _nearly(typed, {word}) == (frozenset({word}) if meant else frozenset())


@pytest.mark.parametrize(
    ("words", "first"),
    [
        ("opens the chest", "chest-opener"),  # by its name
        ("back of thigh, on a chair", "seated-hamstring"),
        ("loosen the neck", "side-neck"),
        ("calms", "slow-breaths-seated"),
        ("hip flexor chair", "seated-hip-front"),
        ("outer hip", "crossed-leg-lean"),
        ("knee to chest", "knees-to-chest"),  # what it is called comes before what its words could mean
    ],
)
def test_what_a_move_is_wanted_for_finds_it(words, first):
    assert find(shipped_moves(), Query(words))[0].move.key == first


def test_everything_found_for_a_wish_does_what_is_wished():
    found = find(shipped_moves(), Query("stretches the calf standing"))
    hits = [entry for entry in found if any(t.region is Region.CALF for t in entry.move.targets)]
    assert len(hits) == len(found) > 3
    assert wish_in("calf twist", frozenset()) is None  # a word that is part of no wish
    assert wish_in("calf", frozenset()) is None  # a name as often as a wish
