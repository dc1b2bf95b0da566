"""What would have to give: every remedy, applied, makes the refused length fit."""

from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit.script_edits import add_move, new_script, set_group
from extendum.core.fit.explain import changes_words, fit_sentence, refusal_lines
from extendum.core.fit.fit import Change, Fit, Fitter
from extendum.core.fit.remedy import Gives, apply, remedies
from extendum.core.model.dose import Hold
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.keeping import Keep
from extendum.core.model.move import Move
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.timing.layout import length_of
from extendum.formats.library import shipped_move
from tests.core.test_fit import slow
from tests.strategies import scripts


def two_moves():
    script = new_script("Two", 300)
    for key in ("calf-lean", "shoulder-circles"):
        script, _ = add_move(script, shipped_move(key))
    return script


@given(scripts(), st.sampled_from((20, 75, 200, 400, 1500)))
@slow
def test_every_remedy_makes_the_refused_length_fit(script, target):
    refused = Fitter(script).fit(target)
    for remedy in () if refused.reached else remedies(refused):
        fitted = Fitter(apply(script, remedy)).fit(target)
        assert fitted.reached
        assert length_of(fitted.script) == target
        assert remedy.words


def test_too_short_offers_what_to_leave_out_and_whose_limit_to_move_by_how_much():
    found = remedies(Fitter(two_moves()).fit(84))
    assert [(one.gives, one.words) for one in found] == [
        (Gives.DROP, "Leave out Shoulder rolls"),
        (Gives.WIDEN, "Let Shoulder rolls go down to 2 reps, now at least 4"),
        (Gives.WIDEN, "Let Wall calf stretch go down to 11 s, now at least 15"),
        (Gives.DROP, "Leave out Wall calf stretch"),
    ]


def test_too_long_offers_a_round_more_and_too_short_a_round_fewer():
    script = two_moves()
    assert (
        remedies(Fitter(script).fit(263))[0].words
        == "One round more of Wall calf stretch to Shoulder rolls: 2 instead of 1"
    )
    thrice = set_group(script, "g1", rounds=3)
    fewer = [one for one in remedies(Fitter(thrice).fit(200)) if one.gives is Gives.ROUNDS]
    assert [one.value for one in fewer] == [2]


def test_where_no_single_edit_is_enough_any_move_may_go():
    script = two_moves()
    for key in ("side-neck", "chest-opener", "calf-lean"):
        script, _ = add_move(script, shipped_move(key))
    found = {one.gives: one for one in remedies(Fitter(script).fit(75))}
    assert set(found) <= {Gives.ANY, Gives.ALL}
    fitted = Fitter(apply(script, found[Gives.ANY])).fit(75)
    gone = [item.name for item in fitted.script.items() if not item.present]
    assert len(gone) > 1
    assert all(item.keep is Keep.OPTIONAL for item in fitted.script.moves())


def test_items_of_one_name_are_told_apart_by_their_number():
    script, _ = add_move(two_moves(), shipped_move("calf-lean"))
    least = Fitter(script).least_s
    words = [one.words for one in remedies(Fitter(script).fit(least - 5))]
    assert len(set(words)) == len(words)
    assert any(one.endswith("(number 3)") for one in words)


def test_an_empty_class_says_that_it_has_no_move_yet():
    assert "The class has no moves yet, and only moves give it length." in refusal_lines(
        Fitter(new_script("A", 60)).fit(300)
    )


def test_what_changes_is_told_in_one_sentence():
    changes = (
        Change("a", "Wall calf stretch", "s", 30, 20, "hold"),
        Change("b", "Side reach", "s", 30, 25, "hold"),
        Change("c", "Turns", "reps", 8, 6, "reps"),
        Change("d", "Quiet", "s", 6, 9, "quiet"),
        Change("e", "Bridge", "reps", 8, None, "reps"),
        Change("f", "Welcome", "s", None, 12, "talk"),
    )
    told = "two holds shorter, one with fewer reps, the quiet longer, Bridge out, Welcome back in"
    assert changes_words(changes) == told
    fit = Fit(600, True, two_moves(), 1, 600, 600, (), changes)
    assert fit_sentence(fit) == f"10:00 to the second: {told}."


def test_where_no_single_limit_is_enough_all_are_moved_by_the_smallest_share_that_is():
    items = tuple(MoveItem(f"i{n}", Move(f"Hold {n}"), Hold(Elastic(18, 19, 20))) for n in range(24))
    script = Script("Many", sections=(Section("s", "", Role.MAIN, (Group("g", "", items),)),))
    most_s = Fitter(script).most_s
    for more_s, share in ((45, 10), (49, 20)):  # one hold alone gives 40 s, a tenth of all 48
        shares = [one.value for one in remedies(Fitter(script).fit(most_s + more_s)) if one.gives is Gives.ALL]
        assert shares == [share]


def test_many_items_are_counted_and_few_are_named():
    out = [Change(f"i{n}", f"Move {n}", "s", 30, None, "hold") for n in range(5)]
    assert changes_words(out[:4]) == "Move 0, Move 1, Move 2 and Move 3 out"
    assert changes_words(out) == "five items out"
