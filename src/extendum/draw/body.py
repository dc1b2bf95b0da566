"""The body picture: front and back, with the seconds that a class works each region on each side.

An own drawing, built of one half and its mirror image. How much is told by the density of the hatching and by the
number, colour only goes with it; a region that is asked for and not worked has a broken outline.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from html import escape

from extendum.core.model.body import Region, Side
from extendum.draw.svg import n, tag, text

#: Seconds from which on a region is hatched closer, and filled.
CLOSER_S, FULL_S = 30, 60
WIDTH, HEIGHT, MIDDLE = 210.0, 432.0, 105.0

_HEAD = "M105 6C119 6 124 17 123.500 30C123 42 116 55 105 55C94 55 87 42 86.500 30C86 17 91 6 105 6Z"
#: The outline of the half on the viewer's right, from the neck down the outside and up the inside.
_HALF = (
    "M105 50L112 50C112 61 114 65 122 68C139 71 152 75 156 90C161 106 163 124 166 146C171 168 176 188 179 212"
    "C182 222 186 230 184 241C182 250 177 254 173 248C169 238 167 228 168 216C163 194 156 174 152 152"
    "C149 138 147 126 143 114C141 130 136 148 135 168C136 184 143 196 144 214C147 244 142 276 138 302"
    "C140 320 141 340 135 362C131 378 129 392 130 402C137 410 143 416 142 422C136 426 120 426 115 422"
    "C113 412 116 402 115 392C111 368 107 344 110 318C109 292 108 262 106 230L105 228"
)


@dataclass(frozen=True, slots=True)
class _Shape:
    """The outline of a region on the viewer's right, and where its number stands; ``middle``: drawn once.

    The number of a small region stands outside, with a line that leads to it from ``led_from``.
    """

    path: str
    x: float
    y: float
    middle: bool = False
    numbered: bool = True
    led_from: tuple[float, float] | None = None


_FRONT: dict[Region, _Shape] = {
    Region.EYES: _Shape("M92 22H118V31H92Z", 141, 20, middle=True, led_from=(118, 26)),
    Region.JAW: _Shape(
        "M92 37C94 49 100 54 105 54C110 54 116 49 118 37C113 41 97 41 92 37Z", 143, 36, middle=True, led_from=(117, 43)
    ),
    Region.NECK: _Shape("M106 57H112C112 63 115 67 121 69L106 73Z", 143, 54, led_from=(115, 62)),
    Region.SHOULDERS: _Shape("M127 71C142 73 153 79 156 94L157 101C148 100 139 92 132 84Z", 144, 88),
    Region.CHEST: _Shape("M106 75L125 73C134 86 140 98 142 107C132 119 118 121 106 118Z", 122, 100),
    Region.BREATH: _Shape(
        "M105 122C114 122 121 124 123 128C124 146 120 164 105 168C90 164 86 146 87 128C89 124 96 122 105 122Z",
        105,
        149,
        middle=True,
    ),
    Region.SIDE_BODY: _Shape("M141 113C138 132 134 148 134 168L125 170C126 152 128 136 130 121Z", 132, 146),
    Region.ABDOMINALS: _Shape("M93 172C101 175 109 175 117 172L118 190C110 196 100 196 92 190Z", 105, 185, middle=True),
    Region.UPPER_ARM: _Shape(
        "M158 104C161 118 163 132 165 144L153 148C150 134 147 120 145 108C149 107 154 106 158 104Z", 155, 128
    ),
    Region.FOREARM: _Shape("M166 150C170 168 173 182 175 196L165 199C161 182 156 166 154 153Z", 165, 176),
    Region.WRIST: _Shape("M176 200L178 211L168 213L166 203Z", 197, 205, led_from=(177, 206)),
    Region.HAND: _Shape(
        "M179 216C182 224 185 231 183 240C181 248 177 251 174 246C170 237 168 229 169 218Z",
        202,
        238,
        led_from=(183, 234),
    ),
    Region.HIP_FRONT: _Shape(
        "M109 204C117 193 128 189 139 192C142 198 143 206 143 214L128 216C120 218 113 224 108 229Z", 127, 208
    ),
    Region.INNER_THIGH: _Shape(
        "M108 233C113 226 117 222 121 221C118 250 117 276 116 300L111 302C110 280 109 256 108 233Z", 113, 258
    ),
    Region.FRONT_THIGH: _Shape("M124 220L143 219C145 248 141 276 137 300L119 302C119 276 121 248 124 220Z", 131, 262),
    Region.ANKLE: _Shape(
        "M128 380C127 390 128 396 129 402L117 402C117 394 117 388 116 380Z", 150, 392, led_from=(129, 391)
    ),
    Region.FOOT: _Shape(
        "M130 406C137 412 141 417 140 421C134 424 122 424 117 421C115 415 117 410 117 406Z",
        162,
        421,
        led_from=(139, 417),
    ),
}
_BACK: dict[Region, _Shape] = {
    Region.NECK: _Shape("M106 54H112C112 62 115 66 121 69L106 76Z", 111, 68, numbered=False),
    Region.SHOULDERS: _Shape("M127 71C142 73 153 79 156 94L157 101C148 101 142 95 136 88Z", 145, 89, numbered=False),
    Region.UPPER_BACK: _Shape("M110 80L124 73C134 86 140 98 142 108C138 120 124 127 110 127Z", 125, 104),
    Region.SPINE: _Shape("M102 72H108V196H102Z", 105, 148, middle=True),
    Region.SIDE_BODY: _Shape(
        "M141 113C138 132 134 148 134 168L127 170C128 152 129 136 131 126Z", 134, 146, numbered=False
    ),
    Region.LOWER_BACK: _Shape("M110 150L126 150C126 164 128 178 133 188C126 190 116 192 110 196Z", 122, 174),
    Region.UPPER_ARM: _Shape(
        "M158 104C161 118 163 132 165 144L153 148C150 134 147 120 145 108C149 107 154 106 158 104Z",
        155,
        128,
        numbered=False,
    ),
    Region.FOREARM: _Shape(
        "M166 150C170 168 173 182 175 196L165 199C161 182 156 166 154 153Z", 165, 176, numbered=False
    ),
    Region.HIP_SIDE: _Shape(
        "M136 186C143 196 146 212 145 232L136 234C138 216 136 202 130 192Z", 160, 212, led_from=(145, 214)
    ),
    Region.DEEP_HIP: _Shape(
        "M107 200C116 194 124 193 128 195C134 206 135 220 133 232C124 240 114 238 107 232Z", 120, 218
    ),
    Region.BACK_THIGH: _Shape(
        "M108 237C116 242 128 241 142 237C143 260 140 280 136 300L113 302C110 280 109 258 108 237Z", 125, 270
    ),
    Region.CALF: _Shape(
        "M113 314C122 308 132 308 137 314C140 334 136 352 131 370L117 370C112 350 110 332 113 314Z", 124, 344
    ),
    Region.ANKLE: _Shape("M128 380C127 390 128 396 129 402L117 402C117 394 117 388 116 380Z", 122, 394, numbered=False),
}
Reach = Callable[[Region], str]


@dataclass(frozen=True, slots=True)
class Shown:
    """What the picture shows: seconds by region and side, the areas asked for, the one that is chosen, and links."""

    seconds: Mapping[Region, tuple[int, int]]
    wanted: Collection[Region]
    chosen: Region | None
    address: Reach


def draw_body(shown: Shown) -> str:
    """Front and back as one SVG; each region is a link, says its name and seconds, and carries its number."""
    front = tag("g", _figure(_FRONT, shown, right=Side.LEFT) + _heading("front", "right", "left"))
    back = tag(
        "g", _figure(_BACK, shown, right=Side.RIGHT) + _heading("back", "left", "right"), transform="translate(215 0)"
    )
    whole = _whole(shown)
    return tag(
        "svg",
        _hatching() + front + back + whole,
        class_="body-picture",
        viewBox=f"0 -4 {WIDTH * 2 + 5:g} {HEIGHT + 26:g}",
        role="group",
        aria_label="Body, front and back, seconds by area",
    )


def draw_still_body(seconds: Mapping[Region, int]) -> str:
    """Front and back as one picture without links: how much each area gets, by its density."""

    def view(shapes: Mapping[Region, _Shape], across: float) -> str:
        drawn = ""
        for region, shape in shapes.items():
            if done := seconds.get(region, 0):
                drawn += tag("path", d=shape.path, class_=_density(done))
                if not shape.middle:
                    turned = f"matrix(-1 0 0 1 {2 * MIDDLE:g} 0)"
                    drawn += tag("path", d=shape.path, class_=_density(done), transform=turned)
        return tag("g", _skin() + drawn, transform=f"translate({across:g} 0)")

    told = ", ".join(seconds_words(region, done, done) for region, done in seconds.items() if done)
    size = f"0 -2 {WIDTH * 2:g} {HEIGHT:g}"
    drawn = _hatching() + view(_FRONT, 0) + view(_BACK, WIDTH)
    return tag("svg", drawn, class_="body-picture", viewBox=size, role="img", aria_label=escape(told))


def draw_areas() -> str:
    """Front and back to choose an area from: each is a button that says its name and carries it as words."""

    def view(shapes: Mapping[Region, _Shape], across: float) -> str:
        return tag("g", _skin() + "".join(map(_area, shapes, shapes.values())), transform=f"translate({across:g} 0)")

    drawn = view(_FRONT, 0) + view(_BACK, WIDTH)
    size = f"0 -2 {WIDTH * 2:g} {HEIGHT:g}"
    return tag("svg", drawn, class_="body-picture", viewBox=size, role="group", aria_label="Areas of the body")


def _area(region: Region, shape: _Shape) -> str:
    drawn = tag("path", d=shape.path, class_="none")
    if not shape.middle:
        drawn += tag("path", d=shape.path, class_="none", transform=f"matrix(-1 0 0 1 {2 * MIDDLE:g} 0)")
    about = {"aria_label": region.value, "aria_pressed": "false"}
    words = {"data_part": "area", "data_words": region.value}
    return tag("g", tag("title", region.value) + drawn, class_="region", role="button", tabindex=0, **about, **words)


def _skin() -> str:
    half = tag("path", d=_HALF, class_="skin")
    mirrored = tag("path", d=_HALF, class_="skin", transform=f"matrix(-1 0 0 1 {2 * MIDDLE:g} 0)")
    return half + mirrored + tag("path", d=_HEAD, class_="skin")


def _hatching() -> str:
    def lines(name: str, step: float) -> str:
        line = tag("path", d=f"M0 0V{step:g}", class_="hatch")
        return tag(
            "pattern",
            line,
            id=name,
            width=step,
            height=step,
            patternUnits="userSpaceOnUse",
            patternTransform="rotate(40)",
        )

    return tag("defs", lines("hatch-wide", 6.0) + lines("hatch-close", 3.2))


def _heading(name: str, on_left: str, on_right: str) -> str:
    """Which way the figure faces, and where its left and right are."""
    return (
        text(on_left, 44, 60, class_="side-name", text_anchor="middle")
        + text(on_right, 166, 60, class_="side-name", text_anchor="middle")
        + text(name, MIDDLE, HEIGHT + 12, class_="view-name", text_anchor="middle")
    )


def _figure(shapes: Mapping[Region, _Shape], shown: Shown, right: Side) -> str:
    return _skin() + "".join(_region(region, shape, shown, right) for region, shape in shapes.items())


def _region(region: Region, shape: _Shape, shown: Shown, right: Side) -> str:
    """A region on both sides of a figure, as one link; ``right`` is the side on the viewer's right."""
    left_s, right_s = shown.seconds.get(region, (0, 0))
    on_right, on_left = (left_s, right_s) if right is Side.LEFT else (right_s, left_s)
    drawn = tag("path", d=shape.path, class_=_density(on_right))
    numbers = _number(on_right, shape, turned=False) if shape.numbered else ""
    if not shape.middle:
        drawn += tag("path", d=shape.path, class_=_density(on_left), transform=f"matrix(-1 0 0 1 {2 * MIDDLE:g} 0)")
        numbers += _number(on_left, shape, turned=True) if shape.numbered else ""
    classes = ["region"]
    classes += ["missing"] if region in shown.wanted and not (left_s or right_s) else []
    classes += ["chosen"] if region is shown.chosen else []
    about = seconds_words(region, left_s, right_s, middle=shape.middle)
    return tag(
        "a",
        tag("title", escape(about)) + drawn + numbers,
        href=shown.address(region),
        class_=" ".join(classes),
        aria_label=about,
        data_area=region.value,
    )


def seconds_words(region: Region, left_s: int, right_s: int, *, middle: bool = False) -> str:
    """A region's seconds as they are read out."""
    if not left_s and not right_s:
        return f"{region}: nothing"
    if middle or left_s == right_s:
        return f"{region}: {left_s} s" + ("" if middle else " on each side")
    return f"{region}: left {left_s} s, right {right_s} s"


def _density(seconds: int) -> str:
    return "none" if not seconds else "some" if seconds < CLOSER_S else "more" if seconds < FULL_S else "full"


def _number(seconds: int, shape: _Shape, *, turned: bool) -> str:
    if not seconds:
        return ""

    def across(x: float) -> float:
        return 2 * MIDDLE - x if turned else x

    if shape.led_from is None:
        full = " on-full" if seconds >= FULL_S else ""
        return text(str(seconds), across(shape.x), shape.y, class_=f"seconds{full}", text_anchor="middle")
    x, y = shape.led_from
    lead = tag("path", d=f"M{n(across(x))} {n(y)}L{n(across(shape.x - 9))} {n(shape.y - 4)}", class_="lead")
    return lead + text(str(seconds), across(shape.x), shape.y, class_="seconds", text_anchor="middle")


def _whole(shown: Shown) -> str:
    """The whole body is no place in the picture: it stands beneath it."""
    left_s, right_s = shown.seconds.get(Region.WHOLE_BODY, (0, 0))
    if not max(left_s, right_s):
        return ""
    told = text(f"whole body {max(left_s, right_s)} s", WIDTH + 2.5, HEIGHT + 12, class_="whole", text_anchor="middle")
    return tag("a", told, href=shown.address(Region.WHOLE_BODY), class_="region", data_area=Region.WHOLE_BODY.value)
