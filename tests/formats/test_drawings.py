"""Drawings of the figures: what ships is up to date, fills its frame, is light, and moves without a jump."""

import json
import re
from itertools import pairwise

import numpy as np
import pytest
import shapely

from extendum.core.figure.builds import Build
from extendum.core.figure.figure import Figure, body_in
from extendum.core.figure.marks import marks_of
from extendum.core.figure.muscles import strips
from extendum.core.figure.pose import Pose, pose_from
from extendum.core.figure.surface import surface_of
from extendum.core.model.body import Region, Side
from extendum.draw.figures.drawing import Drawing, drawing_of
from extendum.draw.figures.flat import flat, sampled
from extendum.draw.figures.outline import aligned, ring_of
from extendum.draw.figures.picture import LETTER, picture_of
from extendum.draw.figures.svg import curve
from extendum.draw.figures.tones import LINES, Skin, tones
from extendum.formats.figures import SMALL_BYTES, Shown, build_all, drawing, picture_file, shipped_figures, stale
from extendum.formats.library import shipped_move, shipped_moves

MOVES = [entry.move for entry in shipped_moves()]
FIGURES = shipped_figures()
each_key = pytest.mark.parametrize("key", list(FIGURES))
#: What is body and not ground, thing or sign.
BODY = re.compile(r"(skin|palm|top|trousers|hair)(-far)?(-shade)?$")


def shapes(found, moment=None):
    """The closed fills of a drawing as polygons with their tones, at a moment or as it stands still: whole ones."""
    place = found.still if moment is None else moment
    for n in found.orders[min(place, len(found.orders) - 1)]:
        stroke = found.layers[n]
        shown = found.opaque.get(n, [1.0])
        if stroke.line or stroke.grown >= 0 or stroke.clip >= 0 or shown[min(place, len(shown) - 1)] < 0.5:
            continue
        line = points_of(found, stroke.outline, place) + np.array(stroke.shift)
        yield stroke.tone, shapely.Polygon(sampled(line, curved=stroke.curved, closed=True)).buffer(0)


def points_of(found, number, moment):
    some = found.sets[number]
    return np.cumsum(np.array(some[min(moment, len(some) - 1)]).reshape(-1, 2), axis=0)


def test_what_ships_is_what_the_poses_and_the_drawing_make_today():
    assert stale() == [], "the drawings are older than what they follow from: run make figures"


@pytest.mark.parametrize("key", ["calf-lean", "palm-press"])
def test_a_drawing_that_is_made_again_is_the_one_that_ships(key):
    marks = marks_of(shipped_move(key).move)
    for build in Build:
        made = drawing_of(picture_of(FIGURES[key], marks, build, moving=True))
        shipped = drawing(Shown(key, build=build))
        assert [one.tone for one in made.layers] == [one.tone for one in shipped.layers]
        for n in range(len(made.sets)):  # another machine may round the last unit otherwise
            assert np.abs(np.subtract(made.sets[n], shipped.sets[n])).max() <= 2


def test_only_what_is_stale_is_built_again(tmp_path, monkeypatch):
    path = tmp_path / "figures.zip"
    monkeypatch.setattr("extendum.formats.figures.shipped_figures", lambda: {"lying-rest": FIGURES["lying-rest"]})
    assert list(build_all(path)) == ["lying-rest"]
    before = path.read_bytes()
    assert list(build_all(path)) == []
    assert path.read_bytes() == before


@each_key
def test_the_body_fills_its_frame_and_lies_inside_it(key):
    found = drawing(Shown(key))
    body = shapely.union_all([shape for tone, shape in shapes(found) if BODY.match(tone)])
    left, top, right, low = body.bounds
    wide, tall = right - left, low - top
    if FIGURES[key].then:  # the frame holds the other end of a movement too
        ends = [shape for moment in found.stops for tone, shape in shapes(found, moment) if BODY.match(tone)]
        left, top, right, low = shapely.union_all(ends).bounds
    things = {one.name for one in FIGURES[key].things} - {"mat", "wall", "sight"}
    assert max(wide, tall) >= found.units * (0.7 if not FIGURES[key].then and not things else 0.5)
    if not FIGURES[key].close:
        assert min(left, top) >= 0
        assert max(right, low) <= found.units
        assert (top + low) / 2 < found.units * 0.68  # what lies is not left at the bottom


@pytest.mark.parametrize("move", [entry.move for entry in shipped_moves()], ids=lambda move: move.key)
def test_every_place_that_is_stretched_or_worked_is_seen(move):
    if all(mark.form == "dots" for mark in marks_of(move)):
        return
    tone, seen = tones(), shapely.Polygon()
    signs = {tone[name] for name in ("fibre", "tint-rim")}
    for one in flat(drawing(Shown(move.key)), Side.LEFT):
        if one.width or one.colour in signs:
            continue
        shape = shapely.Polygon(one.points).buffer(0)
        tinted = one.colour in (tone["tint"], tone["tint-under"])
        seen = seen.union(shape) if tinted else seen.difference(shape)
    assert seen.area > 0.0007  # of the picture: 27 of its thousand points square


@each_key
def test_the_letter_of_the_side_is_on_no_part_of_the_body(key):
    found = drawing(Shown(key))
    if not FIGURES[key].tag:
        assert found.letter is None
        return
    ring = shapely.Point(found.letter).buffer(found.units * LETTER)
    for moment in found.stops:
        body = shapely.union_all([shape for tone, shape in shapes(found, moment) if BODY.match(tone)])
        assert body.intersection(ring).area < ring.area * 0.02


@each_key
def test_a_small_picture_is_light_in_both_builds_and_on_both_sides(key):
    for build in Build:
        for side in (Side.LEFT, Side.RIGHT):
            assert len(picture_file(Shown(key, build=build), side, small=True).encode()) <= SMALL_BYTES


@each_key
def test_no_part_jumps_between_two_moments(key):
    found = drawing(Shown(key))
    for some in found.sets:
        points = [np.cumsum(np.array(one).reshape(-1, 2), axis=0) for one in some] if len(some) > 1 else []
        for a, b in pairwise(points):
            assert np.abs(a - b).max() < found.units * 0.16
    for before, after in pairwise(range(found.moments)):
        assert_order_is_steady(found, before, after)


def assert_order_is_steady(found, before, after):
    """No two parts that lie over each other at both moments change places."""
    if len(found.orders) == 1 or found.orders[before] == found.orders[after]:
        return
    place = {n: k for k, n in enumerate(found.orders[before])}
    rims = [n for n in found.orders[after] if found.layers[n].grown >= 0]
    for k, a in enumerate(rims):
        for b in rims[k + 1 :]:
            if place[a] > place[b]:
                assert not all(lie_over_each_other(found, a, b, moment) for moment in (before, after)), (a, b)


def lie_over_each_other(found, a, b, moment):
    one, other = (
        shapely.Polygon(points_of(found, found.layers[n].outline, moment)).buffer(0).buffer(-12) for n in (a, b)
    )
    return one.intersects(other)


def test_every_tone_of_every_drawing_is_known_for_every_skin():
    used = {stroke.tone for key in FIGURES for stroke in drawing(Shown(key)).layers}
    for skin in Skin:
        assert used | {"paper", "tag", "letter"} <= set(tones(skin))
    assert len({tones(skin)["skin"] for skin in Skin}) == 3


def light(colour):
    """How light a colour is in grey, from 0 to 255."""
    return sum(int(colour[k : k + 2], 16) * share for k, share in ((1, 0.299), (3, 0.587), (5, 0.114)))


@pytest.mark.parametrize("skin", list(Skin))
def test_skin_is_told_from_the_top_and_the_tint_from_cloth_in_grey_too(skin):
    found = tones(skin)
    assert abs(light(found["skin"]) - light(found["top"])) > 30
    assert light(found["tint-rim"]) - light(found["tint"]) > 100


def test_marks_have_a_form_of_their_own_for_what_is_done():
    forms = {mark.form for move in MOVES for mark in marks_of(move)}
    assert forms == {"fibres", "bars", "dots"}


@pytest.mark.parametrize("region", [one for one in Region if one.value not in ("whole body", "eyes", "breath")])
def test_a_region_lies_on_the_skin_of_the_part_that_it_is_on(region):
    surface = surface_of(Pose(), body_in(Pose()))
    for strip in strips(surface, region, "l"):
        skin = np.vstack([surface.parts[host].cloud for host in strip.hosts])
        middle = strip.points[4:13, 4]
        off = np.sqrt(((middle[:, None] - skin[None]) ** 2).sum(axis=2)).min(axis=1)
        assert off.max() < 5.5


def test_a_wrist_bent_back_draws_out_the_inside_of_the_forearm():
    bent = pose_from({"arm_l": [0, 90, 0, 90], "hand_l": [0, 178], "palm_l": [0, 90]}, Pose())
    strip = strips(surface_of(bent, body_in(bent)), Region.FOREARM, "l")[0]
    assert strip.out[8, 4] @ np.array((0, 1, 0)) < -0.9
    other = pose_from({"arm_l": [0, 90, 0, 90], "hand_l": [0, 2], "palm_l": [180, 90]}, Pose())
    assert strips(surface_of(other, body_in(other)), Region.FOREARM, "l")[0].out[8, 4] @ np.array((0, 1, 0)) > 0.9


def test_a_closed_curve_keeps_to_its_points_within_a_unit():
    points = np.array([(100, 100), (400, 90), (520, 300), (300, 420), (90, 310)])
    numbers = [int(one) for one in re.findall(r"-?\d+", curve(points))]
    _, _, cx, cy, mx, my, *steps = numbers
    controls = [(cx, cy)]
    for dx, dy in zip(steps[::2], steps[1::2], strict=True):
        cx, cy = 2 * mx - controls[-1][0], 2 * my - controls[-1][1]
        controls.append((cx, cy))
        mx, my = mx + dx, my + dy
    assert np.abs(np.array(controls) - points).max() <= 1


def test_outlines_have_so_many_points_and_begin_where_they_did():
    square = shapely.box(0, 0, 40, 20)
    line = ring_of(square, 32)
    assert line.shape == (32, 2)
    assert shapely.Polygon(line).symmetric_difference(square).area < 12
    assert np.abs(aligned(np.roll(line, 9, axis=0), line) - line).max() < 1e-9


def test_a_drawing_is_read_as_it_was_written_and_printed_without_anything_that_a_printer_lacks():
    found = drawing(Shown("calf-lean"))
    again = Drawing.read(json.loads(json.dumps(found.plain())))
    assert again.plain() == found.plain()
    left, right = (flat(found, side, Skin.DEEP) for side in (Side.LEFT, Side.RIGHT))
    assert [[(1 - x, y) for x, y in one.points] for one in left[1:]] == [
        [pytest.approx(point) for point in one.points] for one in right[1:]
    ]
    assert {one.colour for one in left} <= set(tones(Skin.DEEP).values())
    assert all(
        -1e-6 <= x <= 1 + 1e-6 and -1e-6 <= y <= 1 + 1e-6 for one in left if not one.width for x, y in one.points
    )
    assert sampled(np.zeros((4, 2)), curved=True, closed=True).shape == (8, 2)
    assert "fibre" in LINES


def test_a_bare_figure_can_be_drawn_from_anywhere():
    for view in (0, 57, 90, 200, 333):
        picture = picture_of(Figure(Pose(), view=view))
        assert picture.square[2] > 100
