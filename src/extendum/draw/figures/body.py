"""A body painted: the layers of everything that is seen of it, part by part."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from extendum.core.figure.rings import Points
from extendum.draw.figures import face
from extendum.draw.figures.outline import hulls, largest, ring_of, rounded, simple
from extendum.draw.figures.scene import Layer, Moment, Scene, outline_of, rim_weights, whole_limbs

#: Where the light comes from in the picture: a lit shape is moved to it by so many centimetres.
LIGHT = (-0.95, -1.5)
#: Parts so far behind the other side's are on the far side, in centimetres.
FAR = 9.0
#: The tones of what is body, not a thing.
BODY = ("skin", "top", "trousers")


def far_parts(scene: Scene) -> set[str]:
    """The parts of limbs on the far side of the body."""
    j, found = scene.surface.body.joints, set()
    for name in scene.seen:
        if name.endswith(("_l", "_r")):
            root = "hip" if name.startswith(("thigh", "shin", "foot")) else "shoulder"
            left, right = scene.eye.depth(np.array((j[f"{root}_l"], j[f"{root}_r"])))
            if (left - right if name.endswith("_l") else right - left) < -FAR:
                found.add(name)
    return found


def paint_small(scene: Scene, moment: Moment, far: set[str], near: float) -> None:
    """The layers of a body and its things in a picture of 96 px: flat, of straight lines, ``near`` cm off at most."""
    for name, seen in scene.seen.items():
        outline = simple(seen.shape, near)
        if name == "collar":
            continue
        rim = f"rim {name}"
        moment.outlines |= {name: outline, rim: rim_weights(scene, name, outline)}
        if seen.part.tone in BODY:
            moment.add(name, Layer("rim", name, grown=rim, curved=False))
        moment.add(name, Layer(seen.part.tone + ("-far" if name in far else ""), name, curved=False))
        if name == "head":
            moment.add(
                "head", Layer("hair", "hair", curved=False), simple(face.hair(scene.surface.head, scene.eye), near)
            )


def paint(scene: Scene, moment: Moment, far: set[str], *, detail: bool) -> None:
    """The layers of a body and its things; ``detail``: with lines between fingers and toes."""
    share = 1.0 if detail else 0.8
    limbs = whole_limbs(scene, share)
    for limb, points in limbs.items():
        moment.outlines[f"limb {limb}"] = points
    for name, seen in scene.seen.items():
        outline = outline_of(scene, name, share)
        moment.outlines[name] = outline
        if name == "collar":
            moment.add("neck", Layer("collar", name))
            continue
        rim = f"rim {name}"
        moment.outlines[rim] = rim_weights(scene, name, outline)
        moment.add(name, Layer("rim", name, grown=rim))
        tone = seen.part.tone + ("-far" if name in far else "")
        if name == "head":
            _head(scene, moment)
            continue
        moment.add(name, Layer(f"{tone}-shade", name))
        size = min(1.0, (seen.shape.area / max(seen.shape.length, 1e-6)) / 2.2)
        light = (LIGHT[0] * (0.4 + 0.6 * size), LIGHT[1] * (0.4 + 0.6 * size))
        lit = f"limb {seen.part.limb}" if seen.part.limb in limbs else name
        moment.add(name, Layer(tone, lit, light, name))
        if name.startswith("hand"):
            palm = float(scene.surface.palms[name[-1]] @ scene.eye.towards)
            opacity = min(1.0, max(0.0, (palm - 0.1) / 0.35))
            moment.add(name, Layer("palm" + ("-far" if name in far else ""), lit, light, name), opacity=opacity)
            if detail:
                _fingers(scene, moment, name)
        if name.startswith("foot") and detail:
            _toes(scene, moment, name)
    moment.layers["neck"].sort(key=lambda one: one[0].tone != "collar")


def _fingers(scene: Scene, moment: Moment, name: str) -> None:
    """Lines round the fingers of a hand that is seen close."""
    rods = scene.seen[name].part.more[1:]
    fingers = [[np.vstack(rod) for rod in rods[n : n + 3]] for n in range(0, len(rods), 3)]
    for n, points in enumerate(fingers):
        shape = largest(rounded(hulls(scene.eye(one) for one in points), 0.3))
        line = f"{name} finger {n}"
        moment.add(name, Layer("skin-line", line, clip=name, line=0.22), ring_of(shape, 26))


def _toes(scene: Scene, moment: Moment, name: str) -> None:
    """Lines between the toes of a foot that is seen close."""
    middles = [
        [np.mean(rod, axis=0) for rod in (np.vstack(some[:3]), np.vstack(some[3:]))] for some in _digits(scene, name)
    ]
    for n, (one, other) in enumerate(pairwise(middles)):
        line = np.array([(a + b) / 2 for a, b in zip(one, other, strict=True)])
        line[1] += (line[1] - line[0]) * 0.25
        layer = Layer("skin-line", f"{name} toe {n}", clip=name, line=0.3, curved=False, closed=False)
        moment.add(name, layer, scene.eye(line))


def _digits(scene: Scene, name: str) -> list[list[Points]]:
    return scene.seen[name].part.more[-5:]


def _head(scene: Scene, moment: Moment) -> None:
    head, eye = scene.surface.head, scene.eye
    ears = [face.ear(head, n, eye) for n in (0, 1)]
    for n, (outline, looks) in enumerate(ears):
        moment.add("head", Layer("skin-shade", f"ear {n}"), outline, opacity=float(looks <= 0.02))
    moment.add("head", Layer("skin-shade", "head"))
    moment.add("head", Layer("skin", "head", LIGHT, "head"))
    _features(scene, moment)
    moment.add("head", Layer("hair-shade", "hair"), ring_of(face.hair(head, eye), face.HAIR_POINTS))
    moment.add("head", Layer("hair", "hair", (-0.7, -0.9), "hair"))
    for n, (outline, looks) in enumerate(ears):
        near = float(looks > 0.02)
        middle: Points = outline.mean(axis=0)
        moment.add("head", Layer("skin-shade", f"ear {n}"), opacity=near)
        moment.add("head", Layer("skin", f"ear {n} inner"), outline * 0.78 + middle * 0.22, opacity=near)


#: What each line of a face is painted as: its tone, and how broad it is in centimetres.
_STROKES = {"brow": ("brow", 0.62), "lid": ("lid", 0.5), "under": ("lid", 0.26), "nose": ("skin-line", 0.34)}


def _features(scene: Scene, moment: Moment) -> None:
    head, eye = scene.surface.head, scene.eye
    for name, points in head.lines.items():
        looks = face.facing(head, points, eye)
        opacity = min(1.0, max(0.0, (looks - 0.12) / 0.2))
        flat, kind = eye(points), name.split("_")[0]
        if kind == "iris":
            moment.add("head", Layer("eye", name, clip="head"), flat, opacity)
        elif kind in _STROKES:
            tone, width = _STROKES[kind]
            layer = Layer(tone, name, clip="head", line=width, closed=False)
            moment.add("head", layer, flat, opacity * (0.8 if kind == "nose" else 1.0))
        else:
            moment.add("head", Layer("lips", name, clip="head"), flat, opacity)
