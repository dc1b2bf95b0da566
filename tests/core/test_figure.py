"""Figures: every pose is one that a body can take, stands where it should, and has its mirror image."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.figure.described import told
from extendum.core.figure.figure import for_side, read_figures
from extendum.core.figure.limits import faults
from extendum.core.figure.marks import marks_of
from extendum.core.figure.pose import Limb, Pose, between, mirrored, pose_from
from extendum.core.figure.skeleton import FOREARM, GRIP, SHIN, THIGH, UPPER_ARM, body_of
from extendum.core.figure.vector import length, sub
from extendum.core.model.body import Base, Posture, Side
from extendum.core.model.errors import RefusedError
from extendum.draw.figure import draw_figure, figure_file
from extendum.formats.figures import figure_of, shipped_figures
from extendum.formats.library import shipped_move, shipped_moves

MOVES = [entry.move for entry in shipped_moves()]
FIGURES = shipped_figures()
each_move = pytest.mark.parametrize("move", MOVES, ids=lambda move: move.key)
SOLES = ("heel_l", "toes_l", "heel_r", "toes_r")


BONES = (
    ("hip", "knee", THIGH),
    ("knee", "ankle", SHIN),
    ("shoulder", "elbow", UPPER_ARM),
    ("elbow", "wrist", FOREARM),
)


def bodies(move):
    return [body_of(pose) for pose in FIGURES[move.key].poses]


def test_every_move_of_the_library_has_a_figure_and_no_figure_is_without_a_move():
    assert set(FIGURES) == {move.key for move in MOVES}


@each_move
def test_every_pose_is_within_the_limits_of_a_body_reaches_what_it_should_and_is_not_in_the_floor(move):
    for body in bodies(move):
        assert list(faults(body)) == []


@each_move
def test_somebody_stands_sits_or_lies_on_what_the_move_says(move):
    base = Base.of(move.posture)
    joints = bodies(move)[0].joints
    feet = min(joints[name][1] for name in SOLES)
    hips = (joints["hip_l"][1] + joints["hip_r"][1]) / 2
    if base is Base.STANDING:
        assert feet < 6
        assert hips > (25 if move.posture is Posture.DEEP_SQUAT else 50)
    elif base is Base.CHAIR:
        assert 40 < hips < 62
        assert any(thing.name == "chair" for thing in FIGURES[move.key].things)
    elif base is Base.LYING:
        assert hips < 30
        assert abs(joints["neck"][1] - hips) < 30
    else:
        assert feet < 12 or min(joints["knee_l"][1], joints["knee_r"][1]) < 12


@each_move
def test_what_a_move_needs_is_in_its_figure(move):
    shown = {thing.name for thing in FIGURES[move.key].things}
    needs = {prop.name for prop in move.props if prop.required}
    # A folded towel is drawn as what it is held as; a chair for balance may stand beside the picture.
    told_apart = {"strap": {"strap", "towel", "mat"}, "chair": {"chair"}, "cushion": {"cushion"}}
    for name in needs - {"mat", "wall"}:
        assert shown & told_apart.get(name, {name}) or move.key in ("side-lunge-stay",), name


@each_move
def test_hands_that_hold_a_thing_meet_it_and_bones_keep_their_length(move):
    for body in bodies(move):
        j = body.joints
        for end in ("l", "r"):
            bones = (
                ("hip", "knee", THIGH),
                ("knee", "ankle", SHIN),
                ("shoulder", "elbow", UPPER_ARM),
                ("elbow", "wrist", FOREARM),
            )
            for a, b, size in bones:
                assert length(sub(j[f"{a}_{end}"], j[f"{b}_{end}"])) == pytest.approx(size, abs=0.2)
            assert length(sub(j[f"wrist_{end}"], j[f"grip_{end}"])) == pytest.approx(GRIP, abs=0.2)
        for thing in FIGURES[move.key].things:
            assert set(thing.along) <= set(j)


@each_move
def test_the_side_is_on_the_figure_where_the_move_has_sides_that_a_limb_can_carry(move):
    figure = FIGURES[move.key]
    assert bool(figure.tag) <= move.sided
    left, right = draw_figure(figure, marks_of(move), Side.LEFT), draw_figure(figure, marks_of(move), Side.RIGHT)
    assert (">L<" in left) == (">R<" in right) == bool(figure.tag)
    assert ">R<" not in left
    assert left != right or not move.sided


@each_move
def test_its_words_come_from_the_same_data(move):
    words = told(move, FIGURES[move.key], marks_of(move), Side.LEFT if move.sided else Side.BOTH)
    assert words.startswith(f"{move.name}: ")
    assert ("left side" in words) == move.sided
    assert ("two ends" in words) == (FIGURES[move.key].then is not None)
    for thing in FIGURES[move.key].things:
        assert thing.name in words or thing.name == "mat"


angles = st.integers(-170, 170)
triples = st.tuples(st.integers(-80, 80), st.integers(-40, 40), st.integers(-60, 60))
free = st.builds(Limb, st.tuples(angles, st.integers(0, 170)), st.tuples(angles, st.integers(0, 170)))
reaching = st.builds(lambda x, y, z: Limb(to=(x, y, z)), *(st.integers(-60, 60),) * 3)
poses = st.builds(Pose, triples, triples, triples, triples, free | reaching, free, free, free | reaching)


@given(poses)
def test_a_mirrored_pose_is_the_mirror_image_joint_by_joint_and_twice_is_the_same(pose):
    one, other = body_of(pose), body_of(mirrored(pose))
    for name, (x, y, z) in one.joints.items():
        swapped = {"l": name[:-1] + "r", "r": name[:-1] + "l"}.get(name[-1:], name) if name[-2:-1] == "_" else name
        assert other.joints[swapped] == pytest.approx((x, y, -z), abs=1e-6)
    assert mirrored(mirrored(pose)) == pose


@given(poses, poses, st.floats(0, 1))
def test_between_two_poses_the_ends_are_the_poses_and_the_way_is_a_pose(a, b, share):
    assert between(a, a, share) == a
    assert between(a, b, 0) == a
    body_of(between(a, b, share))


@given(st.builds(Pose, triples, triples, triples, triples, free, free, free, free))
def test_a_body_that_is_let_down_touches_the_floor(pose):
    assert body_of(replace(pose, at=None, seat=0)).lowest == pytest.approx(0, abs=1e-6)


@pytest.mark.parametrize(
    ("plain", "said"),
    [
        ({"poses": {"a": {"knees": 3}}, "figures": {}}, "poses.a.knees: must be a part of a pose"),
        ({"poses": {}, "figures": {"f": {"from": "b"}}}, "figures.f.from: must be a pose given before"),
        ({"poses": {"a": {}}, "figures": {"f": {"from": "a", "zoom": 2}}}, "figures.f: must be from, pose"),
        ({"poses": {"a": {}}, "figures": {"f": {"from": "a", "things": [{"name": "sofa"}]}}}, "things[0].name"),
        ({"poses": {"a": {}}, "figures": {"f": {"from": "a", "close": "ear"}}}, "figures.f.close: must be one of"),
    ],
)
def test_figures_that_are_wrong_say_where(plain, said):
    with pytest.raises(RefusedError) as refused:
        read_figures(plain)
    assert said in str(refused.value)


def test_a_fault_is_found_when_a_pose_has_it():
    bent = pose_from({"arm_l": [0, 10, 0, 178]}, Pose())
    back = pose_from({"leg_l": [0, 60, 0, 150]}, Pose())
    sunk = replace(Pose(), at=(0.0, 60.0, 0.0))
    far = pose_from({"arm_l": {"to": [300, 0, 0]}}, Pose())
    for pose, fault in ((bent, "elbow_l bent"), (back, "knee_l"), (sunk, "in the floor"), (far, "does not get")):
        assert any(fault in one for one in faults(body_of(pose))), fault


@pytest.mark.parametrize(
    ("asked", "fault"),
    [
        ({"arm_l": [0, 10, 0, 164]}, []),  # the elbow is carried ten degrees open
        ({"arm_l": [0, 10, 0, 166]}, ["elbow_l bent by 156"]),
        ({"leg_l": [90, 0, 0, -160]}, []),
        ({"leg_l": [90, 0, 0, -162]}, ["knee_l bent by 162"]),
    ],
)
def test_elbows_and_knees_bend_so_far_and_no_further(asked, fault):
    assert list(faults(body_of(pose_from(asked, Pose())))) == fault


def test_a_move_of_ones_own_takes_the_figure_of_another_turned_over_and_seen_from_elsewhere():
    calf = shipped_move("calf-lean").move
    assert figure_of(replace(calf, key="", figure="")) is None
    own = replace(calf, key="mine", figure="calf-lean")
    assert figure_of(own) == figure_of(calf)
    assert figure_of(replace(own, figure_flipped=True)) == for_side(figure_of(calf), Side.RIGHT)
    assert figure_of(replace(own, figure_view=90)).view == 90


def test_the_drawing_holds_everything_inside_its_square_and_stands_by_itself():
    for move in MOVES:
        figure = FIGURES[move.key]
        if figure.close or figure.things:
            continue
        svg = draw_figure(figure, marks_of(move), Side.BOTH)
        left, top, size, _ = map(float, svg.split('viewBox="')[1].split('"')[0].split())
        for x, y in points(svg):
            assert left - 2 <= x <= left + size + 2
            assert top - 2 <= y <= top + size + 2
    assert "<style>" in figure_file(draw_figure(FIGURES["calf-lean"]))


def points(svg):
    import re

    for path in re.findall(r' d="(M[^"]*)" class="fig-(?:limb|far|trunk)"', svg):
        for x, y in re.findall(r"[ML](-?[\d.]+) (-?[\d.]+)", path):
            yield float(x), float(y)


def test_a_movement_is_drawn_in_steps_of_which_the_first_is_shown():
    march = shipped_move("easy-march").move
    svg = draw_figure(FIGURES["easy-march"], marks_of(march), Side.BOTH, "", 7)
    assert svg.count('class="frame"') == 6
    assert svg.count('class="frame on"') == 1
    assert draw_figure(FIGURES["calf-lean"], (), Side.BOTH, "", 7).count("frame") == 0


def gaps(thing, body):
    """How far each grip is from the top of a chair's back, or from a wall's face."""
    for end in ("l", "r"):
        x, y, z = (a - b for a, b in zip(body.joints[f"grip_{end}"], thing.at, strict=True))
        if thing.name == "wall":
            yield abs(x) if not thing.turn else abs(z)
        elif not thing.turn:
            yield length((x + 22.0, y - 88.0, max(0.0, abs(z) - 20.0)))


HELD = {
    *("standing-leg-lifts", "heel-raises", "shin-stretch", "standing-thigh-stretch", "standing-hip-opener"),
    *("one-leg-stand", "leg-swings", "standing-knee-hug", "standing-figure-four", "flat-back-chair"),
    *("calf-lean", "bent-knee-calf-lean", "calf-reps-then-stay", "wall-push", "standing-wall-palms"),
}


@pytest.mark.parametrize("key", sorted(HELD))
def test_a_hand_that_holds_the_chair_or_leans_on_the_wall_meets_it(key):
    figure = FIGURES[key]
    thing = next(one for one in figure.things if one.name in ("chair", "wall"))
    for pose in figure.poses:
        assert min(gaps(thing, body_of(pose))) < 11
