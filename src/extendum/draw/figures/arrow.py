"""The way of a movement: an arrow along the path of what moves farthest."""

from __future__ import annotations

import numpy as np

from extendum.core.figure.figure import Figure, body_in
from extendum.core.figure.motion import poses_of
from extendum.core.figure.rings import Points
from extendum.draw.figures.eye import Eye
from extendum.draw.figures.scene import Layer, Moment

#: What may carry the arrow, the ends of limbs before the middle of the body.
_MOVING = (
    *("chin", "hand_l", "hand_r", "toes_l", "toes_r", "crown", "face", "knee_l", "knee_r", "elbow_l", "elbow_r"),
    *("shoulder_l", "shoulder_r", "neck", "waist", "pelvis", "heel_l", "heel_r"),
)
#: A path shorter than this share of the picture has no arrow.
#: An arrow is so far off the path, as a share of the picture, and has so many points.
SHORT, OFF, COUNT = 0.035, 0.03, 16


def path_of(figure: Figure, eye: Eye) -> tuple[str, Points]:
    """The joint that moves farthest in the picture, and its path (n, 2)."""
    bodies = [body_in(pose) for pose in poses_of(figure)]
    best, longest, path = "", -1.0, np.zeros((2, 2))
    for name in (figure.path,) if figure.path else _MOVING:
        line = eye(np.array([body.joints[name] for body in bodies]))
        far = float(np.linalg.norm(np.diff(line, axis=0), axis=1).sum())
        if far > longest * (1.6 if best == "chin" and name in ("crown", "face") else 1.25):
            best, longest, path = name, far, line
    return best, path


def line_of(figure: Figure, eye: Eye, size: float) -> Points:
    """The line of the arrow in a picture of so many centimetres (n, 2), empty where nothing goes far enough."""
    _, path = path_of(figure, eye)
    step = np.linalg.norm(np.diff(path, axis=0), axis=1)
    along = np.concatenate(([0.0], np.cumsum(step)))
    if along[-1] < size * SHORT:
        return np.zeros((0, 2))
    cut = min(along[-1] * 0.16, size * 0.05)
    want = np.linspace(cut, along[-1] - cut, COUNT)
    line = np.stack([np.interp(want, along, path[:, k]) for k in (0, 1)], axis=1)
    return line + _aside(line, eye(np.array([body_in(figure.pose).joints["waist"]]))[0]) * size * OFF


def arrow(moment: Moment, line: Points, size: float, *, both: bool) -> None:
    """The arrow along a line, with a head where the way ends or at both ends."""
    if not len(line):
        return
    for tone, wide in (("arrow-rim", 0.017), ("arrow", 0.0085)):
        moment.add("arrow", Layer(tone, "arrow", line=size * wide, closed=False), line)
    ends = [(line[-1], line[-1] - line[-3])]
    if both:
        ends.append((line[0], line[0] - line[2]))
    for n, (tip, way) in enumerate(ends):
        ahead = way / max(float(np.linalg.norm(way)), 1e-9)
        side = np.array((-ahead[1], ahead[0]))
        for tone, grown in (("arrow-rim-fill", 1.5), ("arrow-fill", 1.0)):
            r = size * 0.022 * grown
            back = tip - ahead * r * 0.55
            head = np.array((tip + ahead * r, back + side * r * 0.8, back - side * r * 0.8))
            moment.add("arrow", Layer(tone, f"arrow {n} {tone}", curved=False), head)


def _aside(line: Points, body: Points) -> Points:
    """The directions in which an arrow is moved off what it tells of: away from the body."""
    way = np.gradient(line, axis=0)
    side = np.stack((-way[:, 1], way[:, 0]), axis=1)
    side = side / np.maximum(np.linalg.norm(side, axis=1, keepdims=True), 1e-9)
    away = float(np.sum((line.mean(axis=0) - body) * side.mean(axis=0))) >= 0
    return np.asarray(side if away else -side)
