"""Other lengths of a class, and a warm-up chosen from it."""

from dataclasses import replace
from itertools import combinations
from pathlib import Path

import pytest

from extendum.core.edit.script_edits import remove_item, replace_items
from extendum.core.fit.counted import main_regions
from extendum.core.fit.dose_options import UNIT
from extendum.core.fit.fit import Fitter
from extendum.core.fit.versions import MOST_LENGTHS, as_own_class, fitter_of, regions_of, version_at, versions, warm_up
from extendum.core.model.body import Region
from extendum.core.model.errors import RefusedError
from extendum.core.model.keeping import Keep
from extendum.core.model.move import Kind
from extendum.core.model.talk import Talk
from extendum.core.timing.layout import length_of
from extendum.formats.document import dumps, loads

DEMOS = [
    loads(path.read_text()) for path in sorted((Path(__file__).parents[2] / "src/extendum/data/demo").glob("*.json"))
]


@pytest.mark.parametrize("script", DEMOS, ids=lambda script: script.title)
@pytest.mark.parametrize("any_move", [False, True])
def test_a_version_kept_is_a_class_of_that_length_with_a_note_of_what_it_leaves_out(script, any_move):
    for version in versions(fitter_of(script, any_move=any_move)):
        made = loads(dumps(as_own_class(script, version)))
        assert length_of(made) == version.fit.target_s
        assert all(item.present for item in made.items())
        for name in version.left_out:
            assert name in made.brief.notes


@pytest.mark.parametrize("script", DEMOS, ids=lambda script: script.title)
def test_lengths_are_round_and_inside_what_can_be_reached(script):
    for any_move in (False, True):
        fitter = fitter_of(script, any_move=any_move)
        found = [one.fit.target_s for one in versions(fitter)]
        assert 2 <= len(found) <= MOST_LENGTHS and found == sorted(set(found))
        assert all(seconds % 10 == 0 and seconds in fitter.reachable for seconds in found)


def test_a_version_leaves_out_only_what_is_marked():
    hall = DEMOS[1]
    marked = {item.name for item in hall.moves() if item.keep.value == "may be left out"}
    version = version_at(Fitter(hall), 15 * 60)
    assert version.fit.reached
    assert set(version.left_out) <= marked


def test_a_warm_up_is_the_best_of_every_choice_of_four_to_six():
    """Against fitting each choice of moves by itself: doses, and what each move left out would have warmed."""
    script = next(one for one in DEMOS if len(one.moves()) == 11)
    wanted = frozenset({Region.WRIST, Region.CHEST})
    warms = {Kind.MOBILITY: 3, Kind.DYNAMIC: 3, Kind.PULSE_RAISER: 3, Kind.BREATH: 1, Kind.STRENGTH: 1}
    for item in list(script.items()):
        script = remove_item(script, item.id) if isinstance(item, Talk) else script
    worth = {item.id: 60 * UNIT * warms.get(item.move.kind, 0) for item in script.moves()}
    best = None
    for size in (4, 5, 6):
        for kept in combinations(script.moves(), size):
            if not wanted <= frozenset().union(*map(main_regions, kept)):
                continue
            only = script
            for item in script.moves():
                only = only if item in kept else remove_item(only, item.id)
            fitted = Fitter(replace_items(only, {i.id: replace(i, keep=Keep.ALWAYS) for i in kept})).fit(240)
            if fitted.reached:
                cost = fitted.cost + sum(w for one, w in worth.items() if all(i.id != one for i in kept))
                best = cost if best is None else min(best, cost)
    version = warm_up(script, 240, wanted)
    assert version.fit.cost == best
    assert length_of(version.fit.script) == 240
    assert 4 <= len(version.fit.script.moves()) <= 6


def test_a_warm_up_that_cannot_be_says_what_is_missing():
    script = DEMOS[0]
    assert Region.JAW not in regions_of(script)
    with pytest.raises(RefusedError, match="areas: must be areas that moves of this class are for; found jaw"):
        warm_up(script, 300, frozenset({Region.JAW}))
    with pytest.raises(RefusedError, match="few enough for 6 moves to reach"):
        warm_up(script, 300, frozenset(regions_of(script)))
    few = as_own_class(script, warm_up(script, 300, frozenset()))
    for item in few.moves()[3:]:
        few = remove_item(few, item.id)
    with pytest.raises(RefusedError, match="at least 4 moves"):
        warm_up(few, 300, frozenset())


@pytest.mark.parametrize(("shorter_s", "named"), [(299, True), (301, False)])
def test_the_nearest_warm_up_is_looked_for_five_minutes_around(shorter_s, named):
    script = DEMOS[0]
    locked = {
        item.id: replace(item, dose=item.dose.having(replace(item.dose.quantity.wanting(90), locked=True)))
        for item in script.moves()
    }
    long = replace_items(script, locked)
    nearest = (warm_up(long, s, frozenset()).fit.nearest_above_s for s in range(300, 5000, 250))
    least_s = next(filter(None, nearest))
    fit = warm_up(long, least_s - shorter_s, frozenset()).fit
    assert (fit.nearest_above_s == least_s) is named
