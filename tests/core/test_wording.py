"""Words as they are read aloud: room, overruns, literal sides, reminders, calibration."""

from pathlib import Path

import pytest
from hypothesis import given, settings

from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.outputs.wording import SAMPLE, Repeated, calibrated, literal_sides, readings, repeated, talk_share
from extendum.core.timing.compile import compile_script
from extendum.core.timing.speech import speaking_ms
from extendum.formats.document import loads
from tests.strategies import scripts

GOLDEN = loads((Path(__file__).parents[1] / "data" / "golden.json").read_text())


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("Step the left foot back.", ["left"]),
        ("Turn right, then to the LEFT.", ["right", "LEFT"]),
        ("Your right hand on the wall", ["right"]),
        ("Lean right.", ["right"]),
        ("Right foot first.", ["Right"]),
        ("Right now, let go.", []),
        ("All right, change.", []),
        ("That's right.", []),
        ("Right, and let go.", []),
        ("Feel what is left of it.", []),
        ("Two left, then rest. {moves_left} left.", []),
        ("Ten seconds left.", []),
        ("Come right up to the wall.", []),
        ("Leave nothing left over.", []),
        ("Bright and upright, cleft.", []),
        ("Cross right over left; the left stays below.", ["right", "left", "left"]),
        ("Tip your outer right ear over to your left.", ["right", "left"]),
        ("The right idea: sit right by the wall, right?", []),
        ("Let the breath that's left go, and roll right back up.", []),
        ("Look left, look right: is there room?", []),
        ("Your left-over energy. Right leg or left leg, as you like.", []),
        ("Step the {side} foot back.", []),
    ],
)
def test_a_literal_side_is_told_from_other_uses(words, found):
    assert literal_sides(words) == found


def test_both_sides_are_read_out_and_only_what_is_longer_than_the_way_runs_over():
    calf = {one.field: one for one in readings(GOLDEN)["c"]}
    assert calf["moving"].said == (("left", "Step the left foot back."),)
    assert (calf["moving"].said_ms, calf["moving"].room_ms, calf["moving"].over_s) == (2118, 3000, 0)
    assert calf["switch"].said == (("right", "Now the right foot back."),)
    assert calf["release"].said == (("left", "Ease off."), ("right", "Ease off."))
    reach = {one.field: one for one in readings(GOLDEN)["d"]}
    assert (reach["moving"].room_ms, reach["release"].room_ms) == (14_000, 3000)
    assert readings(GOLDEN)["a"][0].over_s == 0


@settings(max_examples=40)
@given(scripts())
def test_every_text_is_timed_at_the_class_s_rate_and_what_does_not_fit_its_time_runs_over(script):
    cut = {one.of.item for one in compile_script(script).unsaid if one.rule == "talk-overrun"}
    for item, some in readings(script).items():
        for one in some:
            rates = [speaking_ms(text, script.style.speech) for _, text in one.said]
            if isinstance(script.item(item), MoveItem):
                assert one.said_ms == max(rates, default=0)
            assert "{" not in "".join(text for _, text in one.said)
            assert one.over_s or item not in cut


def test_talk_share_and_longest_quiet_of_a_hold():
    timeline = compile_script(GOLDEN)
    hold = next(s for s in timeline.segments if s.kind.value == "hold")
    share = talk_share(timeline, hold)  # half 67.000 to 67.664, counts 79 to 82, in 52 to 82
    assert (share.percent, share.longest_quiet_s) == (12, 15)


def test_a_reminder_said_too_often_is_named_once_however_it_is_written():
    plain = (Path(__file__).parents[2] / "src/extendum/data/demo" / "after-digging.json").read_text()
    assert repeated(compile_script(loads(plain))) == []
    others = {
        "Keep breathing easily.": "Keep breathing.",
        "Keep breathing as you hold.": "keep breathing",
        "Breathe into your open side.": "keep breathing",
        "Breathe in as they rise, out as they sink.": "Keep breathing.",
    }
    for other, same in others.items():
        assert other in plain
        plain = plain.replace(other, same)
    timeline = compile_script(loads(plain))
    said = [cue.text for cue in timeline.cues if cue.text.casefold().strip(".") == "keep breathing"]
    assert len(set(said)) == 2
    assert repeated(timeline) == [Repeated(said[0], len(said), alike=True)]


def test_calibration_takes_the_pauses_out():
    words, ends = len(SAMPLE.replace(",", "").split()), SAMPLE.count(".")
    assert calibrated(round(words * 60_000 / 150) + 300 * ends) == 150
    for ms in (0, 4000, 600_000):
        with pytest.raises(RefusedError, match="whole sample"):
            calibrated(ms)
