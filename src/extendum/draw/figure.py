"""Figures drawn: a calm, solid body with its things, the stretched place as a band, and the letter of the side.

Every part is the hull of two or more round joints, painted from far to near with a rim, so that limbs before the
trunk stay readable; what lies on the far side is lighter.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from functools import cache, lru_cache
from importlib.resources import files
from math import acos, atan2, cos, hypot, pi, radians, sin

from extendum.core.figure.figure import Figure, Thing, body_in, for_side
from extendum.core.figure.marks import Mark
from extendum.core.figure.pose import Pose, between
from extendum.core.figure.skeleton import Body
from extendum.core.figure.vector import Vec, add, sub
from extendum.core.model.body import Side
from extendum.draw.svg import tag

Point = tuple[float, float]
Round = tuple[Vec, float]
#: The least size of what is shown, in centimetres: a neck is not drawn as large as a class room.
LEAST = {"": 158.0, "upper": 96.0, "head": 64.0, "hands": 84.0, "feet": 74.0}
RIM = 7.0
#: The side of the picture, in its own units.
SQUARE = 200.0
_CIRCLE = tuple((cos(2 * pi * k / 14), sin(2 * pi * k / 14)) for k in range(14))


class Eye:
    """A way to look: turned round the body, and from above; it gives points of the picture and their depth."""

    def __init__(self, view: float, above: float, scale: float = 1.0) -> None:
        """``view`` and ``above`` in degrees; ``scale``: units of the picture for a centimetre."""
        self._c, self._s = cos(radians(view)), sin(radians(view))
        self._up, self._over = cos(radians(above)), sin(radians(above))
        self.scale = scale

    def __call__(self, p: Vec) -> Point:
        """Where a point is in the picture; the picture's y goes down."""
        level = p[0] * self._s - p[2] * self._c
        return self.scale * (p[0] * self._c + p[2] * self._s), -self.scale * (p[1] * self._up - level * self._over)

    def depth(self, p: Vec) -> float:
        """How near a point is."""
        return (p[0] * self._s - p[2] * self._c) * self._up + p[1] * self._over


def _hull(points: Sequence[Point]) -> list[Point]:
    """The convex hull, by monotone chains."""
    ordered = sorted(set(points))

    def chain(some: Iterable[Point]) -> list[Point]:
        made: list[Point] = []
        for p in some:
            while len(made) > 1 and (
                (made[-1][0] - made[-2][0]) * (p[1] - made[-2][1]) <= (made[-1][1] - made[-2][1]) * (p[0] - made[-2][0])
            ):
                made.pop()
            made.append(p)
        return made[:-1]

    return chain(ordered) + chain(reversed(ordered))


def _path(points: Sequence[Point], *, closed: bool = True) -> str:
    told = "L".join(f"{x:.1f} {y:.1f}" for x, y in points)
    return f"M{told}{'Z' if closed else ''}"


def _capsule(a: Point, ra: float, b: Point, rb: float) -> str:
    """The outline of two circles and what lies between them."""
    far = hypot(b[0] - a[0], b[1] - a[1])
    if far <= abs(ra - rb) + 0.1:
        (x, y), r = (a, ra) if ra >= rb else (b, rb)
        return f"M{x - r:.1f} {y:.1f}a{r:.1f} {r:.1f} 0 1 0 {2 * r:.1f} 0a{r:.1f} {r:.1f} 0 1 0 {-2 * r:.1f} 0Z"
    along, off = atan2(b[1] - a[1], b[0] - a[0]), acos((ra - rb) / far)
    c, s, e, f = cos(along + off), sin(along + off), cos(along - off), sin(along - off)
    large = 1 if off > pi / 2 else 0
    return (
        f"M{a[0] + ra * c:.1f} {a[1] + ra * s:.1f}L{b[0] + rb * c:.1f} {b[1] + rb * s:.1f}"
        f"A{rb:.1f} {rb:.1f} 0 {large} 0 {b[0] + rb * e:.1f} {b[1] + rb * f:.1f}"
        f"L{a[0] + ra * e:.1f} {a[1] + ra * f:.1f}"
        f"A{ra:.1f} {ra:.1f} 0 {1 - large} 0 {a[0] + ra * c:.1f} {a[1] + ra * s:.1f}Z"
    )


def _blob(eye: Eye, rounds: Sequence[Round]) -> str:
    """The hull of round joints as a path."""
    if len(rounds) == 2:
        (a, ra), (b, rb) = rounds
        return _capsule(eye(a), ra * eye.scale, eye(b), rb * eye.scale)
    points = []
    for centre, r in rounds:
        x, y = eye(centre)
        points += [(x + r * eye.scale * c, y + r * eye.scale * s) for c, s in _CIRCLE]
    return _path(_hull(points))


_LIMBS: tuple[tuple[str, tuple[tuple[str, float], ...]], ...] = (
    ("leg", (("hip", 9.0), ("knee", 6.2))),
    ("leg", (("knee", 6.2), ("ankle", 4.0))),
    ("leg", (("heel", 3.2), ("ankle", 3.8), ("toes", 2.4))),
    ("arm", (("shoulder", 6.2), ("elbow", 4.4))),
    ("arm", (("elbow", 4.4), ("wrist", 3.2))),
    ("arm", (("wrist", 3.4), ("hand", 2.4))),
)


def _parts(eye: Eye, body: Body) -> Iterator[tuple[float, str]]:
    """Every part of the body with its depth, as an element."""
    j = body.joints
    middle = eye.depth(j["waist"])
    heart = add(add(j["waist"], body.chest[1], 15), body.chest[0], 1)
    girth = [(add(j["waist"], body.chest[2], side), 8.2) for side in (-5.5, 5.5)]
    low = [(j["hip_l"], 9.6), (j["hip_r"], 9.6), *girth]
    high = [*girth, (heart, 11.2), (j["shoulder_l"], 6.4), (j["shoulder_r"], 6.4)]
    yield middle, tag("path", d=_blob(eye, low), class_="fig-trunk")
    yield eye.depth(heart), tag("path", d=_blob(eye, high), class_="fig-trunk")
    nose = add(add(j["head"], body.head[0], 10.2), body.head[1], -1.5)
    neck = tag("path", d=_blob(eye, ((j["neck"], 5.2), (j["head"], 5.0))), class_="fig-limb")
    skull = _blob(eye, ((add(j["head"], body.head[1], 2.6), 9.6), (add(j["head"], body.head[1], -3), 8.2)))
    front = tag("path", d=_blob(eye, ((nose, 1.5), (add(nose, body.head[0], -4), 3.4))), class_="fig-limb")
    yield eye.depth(heart) - 0.5, neck
    yield eye.depth(j["head"]), front + tag("path", d=skull, class_="fig-limb")
    if _faces(eye, body):
        yield eye.depth(j["head"]) + 1, _face(eye, body)
    for end in ("l", "r"):
        for kind, rounds in _LIMBS:
            named = [(j[f"{name}_{end}"], r) for name, r in rounds]
            depth = sum(eye.depth(p) for p, _ in named) / len(named)
            far = eye.depth(j[f"{'hip' if kind == 'leg' else 'shoulder'}_{end}"]) < middle - 4
            yield depth, tag("path", d=_blob(eye, named), class_=f"fig-{'far' if far else 'limb'}")


def _faces(eye: Eye, body: Body) -> bool:
    ahead = add(body.joints["head"], body.head[0], 1)
    return eye.depth(ahead) - eye.depth(body.joints["head"]) > 0.45


def _face(eye: Eye, body: Body) -> str:
    """Two eyes, where the face is seen: which way somebody looks."""
    centre = add(add(body.joints["head"], body.head[0], 9), body.head[1], 1)
    dots = ""
    for side in (-3.6, 3.6):
        x, y = eye(add(centre, body.head[2], side + body.gaze))
        dots += f"M{x - 0.9 * eye.scale:.1f} {y:.1f}h{1.8 * eye.scale:.1f}"
    return tag("path", d=dots, class_="fig-eyes")


def _box(eye: Eye, centre: Vec, size: Vec, turn: float) -> str:
    """A box as the outline of its corners; ``centre`` is the middle of its foot."""
    c, s = cos(radians(turn)), sin(radians(turn))
    corners = []
    for x in (-size[0] / 2, size[0] / 2):
        for z in (-size[2] / 2, size[2] / 2):
            for y in (0.0, size[1]):
                corners.append(eye(add(centre, (x * c - z * s, y, x * s + z * c))))
    return _path(_hull(corners))


def _thing(eye: Eye, thing: Thing, body: Body) -> list[tuple[float, str]]:
    """A prop as elements with their depth."""
    if thing.name == "chair":
        return _chair(eye, thing)
    if thing.name == "wall":
        return [(-999.0, _wall(eye, thing))]
    if thing.name == "mat":
        return [
            (
                -998.0,
                tag("path", d=_box(eye, thing.at, (*thing.size[:1], 0.6, thing.size[2]), thing.turn), class_="fig-mat"),
            )
        ]
    if thing.along:
        points = [body.joints[name] for name in thing.along]
        if thing.name == "stick":  # it goes on beyond the hands
            points = [add(points[0], sub(points[0], points[1]), 0.3), add(points[1], sub(points[1], points[0]), 0.3)]
        depth = max(eye.depth(p) for p in points) + 4
        return [(depth, tag("path", d=_path([eye(p) for p in points], closed=False), class_=f"fig-{thing.name}"))]
    if thing.name == "ball":
        x, y = eye(add(thing.at, (0, thing.size[0], 0)))
        return [
            (
                eye.depth(thing.at),
                tag("circle", cx=f"{x:.1f}", cy=f"{y:.1f}", r=f"{thing.size[0] * eye.scale:.1f}", class_="fig-thing"),
            )
        ]
    return [(eye.depth(thing.at) - 3, tag("path", d=_box(eye, thing.at, thing.size, thing.turn), class_="fig-thing"))]


SEAT = 45.0


def _chair(eye: Eye, thing: Thing) -> list[tuple[float, str]]:
    """Four legs, a seat and a back; ``at`` is the middle of the seat on the floor, its front looks ahead."""
    c, s = cos(radians(thing.turn)), sin(radians(thing.turn))

    def place(x: float, y: float, z: float) -> Vec:
        return add(thing.at, (x * c - z * s, y, x * s + z * c))

    found = []
    for x in (-19.0, 19.0):
        for z in (-19.0, 19.0):
            top = 88.0 if x < 0 else SEAT
            line = _path([eye(place(x, 0, z)), eye(place(x - (3 if x < 0 else 0), top, z))], closed=False)
            found.append((eye.depth(place(x, 20, z)), tag("path", d=line, class_="fig-frame")))
    seat = _box(eye, place(0, SEAT - 3, 0), (42, 3, 42), thing.turn)
    found.append((eye.depth(place(0, SEAT, 0)) - 14, tag("path", d=seat, class_="fig-thing")))
    back = _box(eye, place(-21.5, 66, 0), (3, 20, 40), thing.turn)
    found.append((eye.depth(place(-22, 70, 0)), tag("path", d=back, class_="fig-thing")))
    return found


def _wall(eye: Eye, thing: Thing) -> str:
    """A wall across what is ahead (``turn`` 0) or beside (90): its edge, and strokes behind it."""
    c, s = cos(radians(thing.turn)), sin(radians(thing.turn))

    def place(y: float, z: float) -> Vec:
        return add(thing.at, (-z * s, y, z * c))

    corners = [eye(place(y, z)) for y in (0.0, 190.0) for z in (-45.0, 45.0)]
    return tag("path", d=_path(_hull(corners)), class_="fig-wall")


def _band(eye: Eye, mark: Mark, body: Body) -> str:
    """The stretched place: a band drawn out between two posts; other effects are a dotted line."""
    points = [eye(p) for p in mark.points(body)]
    (x0, y0), (x1, y1) = points[0], points[-1]
    if hypot(x1 - x0, y1 - y0) < 7:  # seen along its length: a ring
        return tag("circle", cx=f"{x0:.1f}", cy=f"{y0:.1f}", r="5", class_="fig-band")
    line = tag("path", d=_path(points, closed=False), class_="fig-band" if mark.stretches else "fig-dots")
    if not mark.stretches:
        return line
    posts = ""
    for (ax, ay), (bx, by) in ((points[0], points[1]), (points[-1], points[-2])):
        size = hypot(bx - ax, by - ay) or 1.0
        nx, ny = -(by - ay) / size * 4.6, (bx - ax) / size * 4.6
        posts += f"M{ax - nx:.1f} {ay - ny:.1f}L{ax + nx:.1f} {ay + ny:.1f}"
    return line + tag("path", d=posts, class_="fig-post")


def _letter(eye: Eye, figure: Figure, body: Body, side: Side) -> str:
    x, y = eye(body.joints[figure.tag])
    return tag("circle", cx=f"{x:.1f}", cy=f"{y:.1f}", r="8.6", class_="fig-tag") + tag(
        "text", side.value[0].upper(), x=f"{x:.1f}", y=f"{y + 4.3:.1f}", class_="fig-letter", text_anchor="middle"
    )


def _drawn(eye: Eye, figure: Figure, pose: Pose, marks: Sequence[Mark], side: Side) -> str:
    body = body_in(pose)
    parts = list(_parts(eye, body))
    for thing in figure.things:
        parts += _thing(eye, thing, body)
    parts.sort(key=lambda part: part[0])
    drawn = "".join(element for _, element in parts)
    drawn += "".join(_band(eye, mark, body) for mark in marks)
    if figure.tag and side is not Side.BOTH:
        drawn += _letter(eye, figure, body, side)
    return drawn


def _window(eye: Eye, figure: Figure) -> tuple[float, float, float]:
    """Left, top and size of the square that holds every pose and thing of a figure."""
    xs, ys = [], []
    for pose in figure.poses:
        body = body_in(pose)
        for name in _CLOSE.get(figure.close, tuple(body.joints)):
            x, y = eye(body.joints[name])
            xs += [x - 10, x + 10]
            ys += [y - 10, y + 10]
        for thing in figure.things if not figure.close else ():
            if thing.name == "chair":
                for dx, dy in ((-24, 0), (22, 0), (-24, 88)):
                    x, y = eye(add(thing.at, (dx * cos(radians(thing.turn)), dy, dx * sin(radians(thing.turn)))))
                    xs, ys = [*xs, x - 4, x + 4], [*ys, y - 2, y + 2]
    size = max(max(xs) - min(xs), max(ys) - min(ys)) + 2 * RIM
    size = max(size, LEAST[figure.close])
    left = (min(xs) + max(xs) - size) / 2
    bottom = max(ys) + RIM if not figure.close else (min(ys) + max(ys) + size) / 2
    return left, bottom - size, size


_CLOSE: dict[str, tuple[str, ...]] = {
    "upper": ("head", "shoulder_l", "shoulder_r", "elbow_l", "elbow_r", "hand_l", "hand_r", "waist"),
    "head": ("head", "crown", "neck", "shoulder_l", "shoulder_r"),
    "hands": ("hand_l", "hand_r", "wrist_l", "wrist_r", "elbow_l", "elbow_r", "neck", "crown"),
    "feet": ("knee_l", "knee_r", "toes_l", "toes_r", "heel_l", "heel_r"),
}


@lru_cache(maxsize=1024)
def draw_figure(
    figure: Figure, marks: tuple[Mark, ...] = (), side: Side = Side.BOTH, about: str = "", frames: int = 1
) -> str:
    """A figure as SVG, for a side; with ``frames`` above 1 a movement is drawn in so many steps, the first shown.

    ``about`` is its text alternative; without it the picture is decoration beside its name.
    """
    seen = for_side(figure, side)
    left, top, size = _window(Eye(seen.view, seen.above), seen)
    scale = SQUARE / size
    eye, left, top = Eye(seen.view, seen.above, scale), left * scale, top * scale
    held = tuple(mark.of_side(side) for mark in marks)
    if frames > 1 and seen.then is not None:
        steps = [between(seen.pose, seen.then, n / (frames - 1)) for n in range(frames)]
        drawn = "".join(
            tag("g", _drawn(eye, seen, pose, held, side), class_="frame" if n else "frame on", data_frame=n)
            for n, pose in enumerate(steps)
        )
    else:
        ghost = ""
        if seen.then is not None:
            ghost = tag("g", _drawn(eye, seen, seen.then, (), Side.BOTH), class_="fig-ghost")
        drawn = ghost + _drawn(eye, seen, seen.pose, held, side)
    named: dict[str, object] = {"role": "img", "aria_label": about} if about else {"aria_hidden": "true"}
    box = f"{left:.0f} {top:.0f} {SQUARE:g} {SQUARE:g}"
    return tag("svg", drawn, class_="figure", viewBox=box, xmlns="http://www.w3.org/2000/svg", **named)


@cache
def figure_style() -> str:
    """The style of figures, for a picture on its own."""
    return files("extendum.draw").joinpath("figure.css").read_text("utf-8")


def figure_file(svg: str) -> str:
    """A drawn figure as a file of its own, with its style inside."""
    head, _, rest = svg.partition(">")
    return f"{head}><style>{figure_style()}</style>{rest}"
