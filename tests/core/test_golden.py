"""The class worked out by hand: same segments, same cues, same fits."""

from itertools import product
from pathlib import Path

import pytest

from extendum.core.fit.fit import Fitter
from extendum.core.model.timeline import CueKind
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads

GOLDEN = loads((Path(__file__).parents[1] / "data" / "golden.json").read_text())

SEGMENTS = """
a talk 0 10 -
b setup 10 13 both       | b breaths 13 43 both
c transition 43 46 left  | c setup 46 49 left    | c settle 49 52 left  | c hold 52 82 left  | c release 82 84 left
c switch 84 88 right     | c settle 88 91 right  | c hold 91 121 right  | c release 121 123 right
d transition 123 137 both| d setup 137 140 both  | d settle 140 143 both| d hold 143 168 both| d release 168 171 both
e quiet 171 177 -
"""


def test_segments_are_those_worked_out_by_hand():
    expected = [part.split() for part in SEGMENTS.replace("|", "\n").strip().splitlines()]
    found = [
        [s.item, s.kind.value, str(s.start_s), str(s.end_s), s.side.value if s.side else "-"]
        for s in compile_script(GOLDEN).segments
    ]
    assert found == expected


def test_cues_are_those_worked_out_by_hand():
    cues = compile_script(GOLDEN).cues

    def spans(kind):
        return [(c.start_ms, c.end_ms) for c in cues if c.kind is kind]

    assert spans(CueKind.HALFWAY) == [(67_000, 67_664), (106_000, 106_664), (155_500, 156_164)]
    starts = [79, 80, 81, 118, 119, 120, 165, 166, 167]
    assert spans(CueKind.COUNT) == [(s * 1000, s * 1000 + 1000) for s in starts]
    assert spans(CueKind.RELEASE)[0] == (82_000, 83_027)
    assert spans(CueKind.SWITCH) == [(84_000, 86_118)]
    assert [c.text for c in cues if c.kind is CueKind.SWITCH] == ["Now the right foot back."]
    breath = [(c.text, c.start_ms // 1000) for c in cues if c.kind is CueKind.BREATH_PHASE]
    assert breath == [("in", 13), ("out", 17), ("in", 23), ("out", 27), ("in", 33), ("out", 37)]


FITS = [
    (126, 2, 15, 20, 0, 21_493_333),
    (150, 2, 25, 20, 4, 6_240_000),
    (165, 3, 25, 25, 4, 1_906_667),
    (177, 3, 30, 25, 6, 0),
    (180, 3, 30, 25, 9, 540_000),
    (210, 4, 37, 30, 10, 9_060_000),
    (240, 4, 45, 40, 14, 31_173_333),
    (256, 5, 45, 40, 20, 49_093_333),
]


@pytest.mark.parametrize(("target", "breaths", "calf", "reach", "quiet", "cost"), FITS)
def test_fits_are_those_worked_out_by_hand(target, breaths, calf, reach, quiet, cost):
    result = Fitter(GOLDEN).fit(target)
    assert [item.quantity.value for item in result.script.items()] == [10, breaths, calf, reach, quiet]
    assert result.cost == cost
    assert compile_script(result.script).length_s == target


@pytest.mark.parametrize(("target", "below", "above", "end"), [(300, 256, None, "most"), (120, None, 126, "least")])
def test_out_of_reach_names_the_nearest_and_all_four_limits(target, below, above, end):
    result = Fitter(GOLDEN).fit(target)
    assert not result.reached
    assert result.script == GOLDEN
    assert (result.nearest_below_s, result.nearest_above_s) == (below, above)
    assert [(limit.item, limit.which) for limit in result.limits] == [(i, end) for i in "bcde"]


def test_every_combination_tried_finds_nothing_cheaper():
    """The seconds and costs of the page itself, put together in every way, against the fit's tables."""
    breaths = [(10 * n, 30 * ((10 * n - 30) / 30) ** 2) for n in range(2, 6)]
    calf = [(2 * h, 60 * ((h - 30) / 30) ** 2 + 0.5 * (h % 5 > 0)) for h in range(15, 46)]
    reach = [(d, 25 * ((d - 25) / 25) ** 2 + 0.5 * (d % 5 > 0)) for d in range(20, 41)]
    quiet = [(q, 6 * ((q - 6) / 10) ** 2) for q in range(21)]
    every = list(product(breaths, calf, reach, quiet))
    assert len(every) == 54_684
    best = {}
    for combination in every:
        seconds = 126 - 20 - 30 - 20 + sum(s for s, _ in combination)
        cost = sum(int(10**6 * c + 0.5) for _, c in combination)
        best[seconds] = min(cost, best.get(seconds, cost))
    fitter = Fitter(GOLDEN)
    assert {target: fitter.cost_of(target) for target in map(int, fitter.reachable)} == best
