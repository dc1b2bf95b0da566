"""A class's copy against the library's present form: what differs is named, and only what is chosen is taken."""

from dataclasses import replace

from extendum.core.edit.take_up import take_up
from extendum.core.model.elastic import Elastic
from extendum.core.model.move import Caution
from extendum.core.model.style import CueStyle, HoldConvention
from extendum.core.moves.newer import differences, take_newer
from extendum.formats.library import shipped_move

ENTRY = shipped_move("calf-lean")
OWN = HoldConvention.OWN


def changed():
    move = replace(ENTRY.move, name="Wall lean", cautions=(*ENTRY.move.cautions, Caution("gout", "Sit.")))
    words = replace(ENTRY.words, release="Come in.", prompts=ENTRY.words.prompts[1:])
    dose = ENTRY.dose.having(Elastic(10, 20, 30))
    return replace(ENTRY, move=move, words=words, dose=dose)


def test_a_fresh_copy_differs_in_nothing_even_with_fewer_prompts():
    for style in (CueStyle(), CueStyle(holds=HoldConvention.REPEATED)):
        assert differences(take_up(ENTRY, "i1", style), ENTRY, style.holds) == ()


def test_every_part_that_differs_is_named_with_both_sides():
    item = take_up(ENTRY, "i1", CueStyle())
    found = {one.part: one for one in differences(item, changed(), OWN)}
    assert set(found) == {"name", "cautions", "dose", "release", "prompts"}
    assert (found["name"].ours, found["name"].theirs) == ("Wall calf stretch", "Wall lean")
    assert (found["dose"].ours, found["dose"].theirs) == ("30 s (15 to 45)", "20 s (10 to 30)")
    assert found["cautions"].theirs.endswith("gout: Sit.")


def test_only_the_parts_chosen_are_taken_over():
    item = take_up(ENTRY, "i1", CueStyle())
    after = take_newer(item, changed(), {"name", "release"}, OWN, "form")
    assert (after.move.name, after.words.release, after.taken) == ("Wall lean", "Come in.", "form")
    assert {one.part for one in differences(after, changed(), OWN)} == {"cautions", "dose", "prompts"}
    parts = {one.part for one in differences(item, changed(), OWN)}
    whole = take_newer(item, changed(), parts, OWN, "form")
    assert differences(whole, changed(), OWN) == ()
    assert whole == replace(take_up(changed(), "i1", CueStyle()), taken="form", words=changed().words)
