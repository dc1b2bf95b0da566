"""Figures: every pose is one that a body can take, touches what it should, and has its mirror image."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.figure.contact import faults_of, weight_off
from extendum.core.figure.described import told
from extendum.core.figure.figure import Figure, Thing, body_in, read_figures
from extendum.core.figure.limits import faults
from extendum.core.figure.marks import marks_of
from extendum.core.figure.motion import STEP, farthest_turn, poses_of, stops_of
from extendum.core.figure.pose import Limb, Pose, between, mirrored, pose_from
from extendum.core.figure.skeleton import FOREARM, GRIP, SHIN, THIGH, UPPER_ARM, body_of
from extendum.core.figure.vector import length, sub
from extendum.core.model.body import Base, Posture, Side
from extendum.core.model.errors import RefusedError
from extendum.draw.lying import lies
from extendum.formats.figures import Shown, figure_of, picture_svg, seen_figure, shipped_figures
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
    ("wrist", "grip", GRIP),
)


def bodies(move):
    return [body_of(pose) for pose in FIGURES[move.key].poses]


def test_every_move_of_the_library_has_a_figure_and_no_figure_is_without_a_move():
    assert set(FIGURES) == {move.key for move in MOVES}


@each_move
def test_every_pose_is_within_the_limits_of_a_body_goes_through_nothing_and_has_its_weight_over_its_support(move):
    figure = FIGURES[move.key]
    for pose in figure.poses:
        assert list(faults(body_of(pose))) == []
        assert list(faults_of(figure, pose)) == []
        if Base.of(move.posture) is not Base.LYING:
            assert weight_off(figure, pose) < 6


@each_move
def test_on_the_way_no_bone_changes_its_length_or_turns_too_far_and_nothing_is_gone_through(move):
    figure = FIGURES[move.key]
    poses = poses_of(figure)
    assert stops_of(figure)[0] == 0
    assert stops_of(figure)[-1] == len(poses) - 1
    for a, b in pairwise(poses):
        one, other = body_in(a), body_in(b)
        assert farthest_turn(one, other) <= STEP + 1e-6
        # What a screen draws half-way between two moments lies half-way between their points.
        middle = {name: np.add(one.joints[name], other.joints[name]) / 2 for name in one.joints}
        for end in "lr":
            for joint, end_joint, size in BONES:
                drawn = float(np.linalg.norm(middle[f"{joint}_{end}"] - middle[f"{end_joint}_{end}"]))
                assert drawn == pytest.approx(size, rel=0.02)
    for pose in poses[1:-1:3]:
        deep = [fault for fault in faults_of(figure, pose) if " in the wall" in fault or "in the floor" in fault]
        assert [fault for fault in deep if int(fault.split(" is ")[1].split()[0]) > 4] == []


@each_move
def test_somebody_stands_sits_or_lies_on_what_the_move_says(move):
    base = Base.of(move.posture)
    joints = bodies(move)[0].joints
    feet = min(joints[name][1] for name in SOLES)
    hips = (joints["hip_l"][1] + joints["hip_r"][1]) / 2
    step = max((thing.size[1] for thing in FIGURES[move.key].things if thing.name == "step"), default=0)
    if base is Base.STANDING:
        assert feet < 6 + step
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
    told_apart = {
        "strap": {"strap", "towel", "mat"},
        "chair": {"chair"},
        "cushion": {"cushion"},
        "towel": {"towel", "mat"},
    }
    for name in needs - {"mat", "wall"}:
        assert shown & told_apart.get(name, {name}) or move.key in ("side-lunge-stay",), name


@each_move
def test_what_is_held_is_held_by_joints_and_with_a_closed_hand(move):
    figure = FIGURES[move.key]
    for body in bodies(move):
        for thing in figure.things:
            assert set(thing.along) <= set(body.joints)
    for thing in figure.things:
        for number, end in enumerate("lr"):
            if f"grip_{end}" in thing.along:
                assert {pose.shapes[number] for pose in figure.poses} <= {"grip", "hook"}


@each_move
def test_the_side_is_on_the_figure_where_the_move_has_sides_that_a_limb_can_carry(move):
    figure = FIGURES[move.key]
    assert bool(figure.tag) <= move.sided
    assert not figure.tag.endswith("_r")
    marked = {mark.side for mark in marks_of(move)}
    if marked == {Side.RIGHT}:  # what is stretched is on the other side: the letter stands at neither
        assert not figure.tag.endswith("_l")
    left, right = (picture_svg(Shown(move.key), side, small=True) for side in (Side.LEFT, Side.RIGHT))
    assert (">L<" in left) == (">R<" in right) == bool(figure.tag)
    assert ">R<" not in left
    assert left != right


@each_move
def test_its_words_come_from_the_same_data(move):
    words = told(move, FIGURES[move.key], marks_of(move), Side.LEFT if move.sided else Side.BOTH)
    assert words.startswith(f"{move.name}: ")
    assert ("left side" in words) == move.sided
    assert ("two ends" in words) == bool(FIGURES[move.key].then)
    for thing in FIGURES[move.key].things:
        assert thing.name in words or thing.name in ("mat", "sight")


def test_twins_differ():
    for one, other in (("one-knee-to-chest", "lying-hip-front"), ("forearm-stretch", "back-of-forearm")):
        assert farthest_turn(body_in(FIGURES[one].pose), body_in(FIGURES[other].pose)) > 30


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


@given(poses)
def test_bones_keep_their_length(pose):
    j = body_of(pose).joints
    for end in "lr":
        for a, b, size in BONES:
            assert length(sub(j[f"{a}_{end}"], j[f"{b}_{end}"])) == pytest.approx(size, abs=0.2)


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


WALL, CHAIR = Thing("wall", (40.0, 0.0, 0.0)), Thing("chair", (30.0, 0.0, 0.0))


@pytest.mark.parametrize(
    ("things", "asked", "said"),
    [
        ((WALL,), {"arm_l": [0, 90, 0, 90]}, "hand_l is"),  # an arm ahead goes 36 cm through
        ((CHAIR,), {"leg_l": [0, 50, 0, 20]}, "in the seat"),
        ((), {"arm_l": {"to": [30, 60, 17]}}, "hand_l hovers"),
        (
            (),
            {"trunk": [70, 0, 0], "at": [0, 44, 0], "arm_r": {"to": [40, 3, -17]}, "hand": [0, 90]},
            "arm_r carries",
        ),
    ],
)
def test_what_goes_through_hovers_or_carries_bent_is_told(things, asked, said):
    pose = pose_from(asked, Pose())
    assert any(said in fault for fault in faults_of(Figure(pose, things=things), pose)), said


def test_a_hand_on_the_wall_is_on_it_and_a_body_that_leans_far_tips():
    touching = pose_from({"arm_l": {"to": [48, 130, 17]}, "hand_l": [0, 178]}, Pose())
    wall = Thing("wall", (50.5, 0.0, 0.0))
    assert not any("hand_l" in fault for fault in faults_of(Figure(touching, things=(wall,)), touching))
    assert weight_off(Figure(Pose()), Pose()) == 0
    leaning = pose_from({"trunk": [88, 0, 0], "arm": [0, 90, 0, 90]}, Pose())
    assert weight_off(Figure(leaning), leaning) > 6


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
    assert figure_of(own) == figure_of(calf) == Shown("calf-lean")
    assert figure_of(replace(own, figure_flipped=True)).flipped
    assert seen_figure(figure_of(replace(own, figure_view=90))).view == 90


@pytest.mark.parametrize("key", ["calf-lean", "knee-across", "standing-side-reach", "side-neck", "clamshell"])
def test_what_lies_on_one_side_of_the_picture_lies_on_the_other_seen_from_opposite(key):
    level = replace(FIGURES[key], above=0.0)
    sides = {lies(level), lies(replace(level, view=level.view + 180))}
    assert sides == {Side.LEFT, Side.RIGHT}


def test_the_left_leg_lies_left_where_it_stands_left_of_the_other_one():
    assert lies(FIGURES["calf-lean"]) is Side.RIGHT  # behind the right one, as the figure looks to the left
    assert lies(FIGURES["seated-calf-strap"]) is Side.LEFT  # stretched out to the left
