"""A body painted: the layers of everything that is seen of it, part by part."""

from __future__ import annotations

import numpy as np

from extendum.core.figure.rings import Points
from extendum.draw.figures import face
from extendum.draw.figures.outline import ring_of, simple
from extendum.draw.figures.scene import Layer, Moment, Scene, Seen, outline_of, rim_weights, whole_limbs

#: Where the light comes from in the picture: a lit shape is moved to it by so many centimetres.
LIGHT = (-0.95, -1.5)
#: Parts so far behind the other side's are on the far side, in centimetres.
FAR = 9.0
#: How broad the line round a finger is, as a share of the gap round a part.
EDGE = 0.55
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
        moment.outlines |= {name: outline, rim: rim_weights(seen, scene.eye, outline)}
        if seen.part.tone in BODY:
            moment.add(name, Layer("rim", name, grown=rim, curved=False))
        moment.add(name, Layer(seen.part.tone + ("-far" if name in far else ""), name, curved=False))
        if name == "head":
            moment.add(
                "head", Layer("hair", "hair", curved=False), simple(face.hair(scene.surface.head, scene.eye), near)
            )


def paint(scene: Scene, moment: Moment, far: set[str], *, detail: bool) -> None:
    """The layers of a body and its things; ``detail``: hands and feet finger by finger and toe by toe."""
    share = 1.0 if detail else 0.8
    limbs = whole_limbs(scene, share)
    for limb, points in limbs.items():
        moment.outlines[f"limb {limb}"] = points
    for name, seen in scene.seen.items():
        outline = outline_of(seen, share)
        moment.outlines[name] = outline
        if name == "collar":
            moment.add("neck", Layer("collar", name))
            continue
        rim = f"rim {name}"
        moment.outlines[rim] = rim_weights(seen, scene.eye, outline)
        apart = detail and seen.part.digit > 0
        moment.add(under(name) if apart else name, Layer("rim", name, grown=rim))
        if name == "head":
            _head(scene, moment)
            continue
        lit = f"limb {seen.part.limb}" if seen.part.limb in limbs else name
        if not apart:
            _solid(scene, moment, name, seen, far, lit)
            continue
        moment.layers[name] = []  # for what lies over its fingers
        for digit, one in scene.taken_apart[name].items():
            part = f"{name} {digit}"
            moment.outlines[part] = outline_of(one, share)
            if one.part.joints:
                edge = f"edge {part}"
                moment.outlines[edge] = rim_weights(one, scene.eye, moment.outlines[part]) * EDGE
                moment.add(part, Layer("skin-edge" + ("-far" if name in far else ""), part, grown=edge))
            _solid(scene, moment, part, one, far, name)
    moment.layers["neck"].sort(key=lambda one: one[0].tone != "collar")


def under(name: str) -> str:
    """What is painted first of a hand or a foot that is taken apart."""
    return f"under {name}"


def _solid(scene: Scene, moment: Moment, name: str, seen: Seen, far: set[str], lit: str) -> None:
    """A part in its tone, lit by the outline of what it belongs to."""
    away = "-far" if name.split()[0] in far else ""
    tone = seen.part.tone + away
    moment.add(name, Layer(f"{tone}-shade", name))
    size = min(1.0, (seen.shape.area / max(seen.shape.length, 1e-6)) / 2.2)
    light = (LIGHT[0] * (0.4 + 0.6 * size), LIGHT[1] * (0.4 + 0.6 * size))
    moment.add(name, Layer(tone, lit, light, name))
    if name.startswith("hand"):
        palm = float(scene.surface.palms[name.split()[0][-1]] @ scene.eye.towards)
        opacity = min(1.0, max(0.0, (palm - 0.1) / 0.35))
        moment.add(name, Layer(f"palm{away}", lit, light, name), opacity=opacity)


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
#: What of a face is filled, inside of the white of its eye; and what lies under the rest.
_FILLED = {"white": "eye-white", "iris": "eye"}
_LAID = {"white": 0, "iris": 1}


def _features(scene: Scene, moment: Moment) -> None:
    head, eye = scene.surface.head, scene.eye
    for name, points in sorted(head.lines.items(), key=lambda one: _LAID.get(one[0].split("_")[0], 2)):
        looks = face.facing(head, points, eye)
        opacity = min(1.0, max(0.0, (looks - 0.12) / 0.2))
        flat, kind = eye(points), name.split("_")[0]
        if kind in _FILLED:
            inside = f"white{name[-2:]}" if kind == "iris" else "head"
            moment.add("head", Layer(_FILLED[kind], name, clip=inside), flat, opacity)
        elif kind in _STROKES:
            tone, width = _STROKES[kind]
            layer = Layer(tone, name, clip="head", line=width, closed=False)
            moment.add("head", layer, flat, opacity * (0.8 if kind == "nose" else 1.0))
        else:
            moment.add("head", Layer("lips", name, clip="head"), flat, opacity)
