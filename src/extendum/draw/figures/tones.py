"""The tones of a figure: base and shade of each kind of surface, faded on the far side, for three tones of skin."""

from __future__ import annotations

import re
from enum import StrEnum
from functools import cache


class Skin(StrEnum):
    """The tone of a figure's skin."""

    LIGHT = "light"
    MIDDLE = "middle"
    DEEP = "deep"


#: Skin and palm, and a top that stands out from them: darker than light skin, lighter than deep skin.
_SKINS: dict[Skin, dict[str, tuple[str, str]]] = {
    Skin.LIGHT: {
        "skin": ("#ecc3a0", "#d3a07a"),
        "palm": ("#f5d6ba", "#dcb08d"),
        "top": ("#4a8a83", "#386f6a"),
        "collar": ("#2f625d", "#2f625d"),
        "hair": ("#6b4a33", "#523725"),
        "lips": ("#b9705c", "#b9705c"),
        "skin-line": ("#b07c58", "#b07c58"),
        "skin-edge": ("#b07c58", "#b07c58"),
        "eye-white": ("#f8efe2", "#f8efe2"),
        "brow": ("#59402f", "#59402f"),
    },
    Skin.MIDDLE: {
        "skin": ("#cf986e", "#b07a52"),
        "palm": ("#deb08b", "#bf8e68"),
        "top": ("#46857e", "#356a65"),
        "collar": ("#2c5d58", "#2c5d58"),
        "hair": ("#332a26", "#211a18"),
        "lips": ("#9f5a48", "#9f5a48"),
        "skin-line": ("#8f5f3e", "#8f5f3e"),
        "skin-edge": ("#8f5f3e", "#8f5f3e"),
        "eye-white": ("#f3e6d4", "#f3e6d4"),
        "brow": ("#332a26", "#332a26"),
    },
    Skin.DEEP: {
        "skin": ("#83553a", "#663f29"),
        "palm": ("#b38462", "#946848"),
        "top": ("#a6cdc0", "#86b2a4"),
        "collar": ("#76a596", "#76a596"),
        "hair": ("#25201f", "#161212"),
        "lips": ("#633228", "#633228"),
        "skin-line": ("#4e2e1d", "#4e2e1d"),
        "skin-edge": ("#4e2e1d", "#4e2e1d"),
        "eye-white": ("#e6d3bd", "#e6d3bd"),
        "brow": ("#211a18", "#211a18"),
    },
}
_OTHERS: dict[str, tuple[str, str]] = {
    "trousers": ("#2c4a78", "#203860"),
    "wood": ("#dab979", "#c39d58"),
    "wood-dark": ("#c39d58", "#a98543"),
    "block": ("#93a3a8", "#77888e"),
    "cushion": ("#d9a68e", "#bf8970"),
    "ball": ("#d9a441", "#b7832a"),
    "strap": ("#e2b752", "#c39736"),
    "towel": ("#f3ecdc", "#d9cdb3"),
    "stick": ("#b98d4e", "#96703a"),
}
#: What has no shade: fills, and strokes.
_FILLS = {
    "paper": "#f7f0e4",
    "rim": "#fbf6ec",
    "floor": "#e7dac0",
    "shadow": "#cfbf9f",
    "wall": "#e0d2b4",
    "wall-cut": "#cbb98f",
    "mat": "#c0cad6",
    "mat-edge": "#9eabbc",
    "mat-shadow": "#a2aebd",
    "ghost": "#fbf6ec",
    "tint": "#c4451a",
    "tint-small": "#c4451a",
    "tint-under": "#e58352",
    "tint-rim": "#fdf4e4",
    "eye": "#33241d",
    "arrow-fill": "#22262b",
    "arrow-rim-fill": "#fbf6ec",
    "tag": "#fffcf5",
    "letter": "#22262b",
}
_STROKES = {
    "ghost-line": "#8d7b62",
    "tint-far": "#c4451a",
    "tint-far-rim": "#fdf4e4",
    "fibre": "#fde6cb",
    "sight": "#5b6470",
    "lid": "#33241d",
    "arrow": "#22262b",
    "arrow-rim": "#fbf6ec",
}
#: What is otherwise on a dark page: what lies round the body, and what of it would sink into the dark.
_DARK = {
    "paper": "#1d2126",
    "rim": "#1d2126",
    "floor": "#2d2b27",
    "shadow": "#171a1e",
    "wall": "#37332c",
    "wall-cut": "#4d4639",
    "mat": "#76849a",
    "mat-edge": "#5b677b",
    "mat-shadow": "#57627a",
    "ghost": "#2a3037",
    "tint": "#e2602a",
    "tint-small": "#e2602a",
    "tint-rim": "#1d2126",
    "arrow-fill": "#f3ead8",
    "arrow-rim-fill": "#1d2126",
    "ghost-line": "#a99b82",
    "tint-far": "#ff8a55",
    "tint-far-rim": "#1d2126",
    "sight": "#b9c2cc",
    "arrow": "#f3ead8",
    "arrow-rim": "#1d2126",
}
_DARK_PAIRS = {
    "trousers": ("#7397d4", "#587bb8"),
    "top": ("#93c9ba", "#74aa9b"),
    "collar": ("#5f9788", "#5f9788"),
    "hair": ("#5d4c42", "#493b33"),
}
#: How far the far side fades into the paper.
FADE = 0.3
_FADING = ("skin", "palm", "top", "trousers", "skin-edge")


def mixed(a: str, b: str, share: float) -> str:
    """A colour on the way from one to another."""
    pairs = ((int(a[k : k + 2], 16), int(b[k : k + 2], 16)) for k in (1, 3, 5))
    return "#" + "".join(f"{round(x * (1 - share) + y * share):02x}" for x, y in pairs)


@cache
def tones(skin: Skin = Skin.MIDDLE, *, dark: bool = False) -> dict[str, str]:
    """Every tone by name; of lines too. ``dark``: on a dark page."""
    found = _FILLS | _STROKES | (_DARK if dark else {})
    for name, (base, shade) in (_SKINS[skin] | _OTHERS | (_DARK_PAIRS if dark else {})).items():
        found |= {name: base, f"{name}-shade": shade}
        if name in _FADING:
            paper = found["paper"]
            found |= {f"{name}-far": mixed(base, paper, FADE), f"{name}-far-shade": mixed(shade, paper, FADE)}
    return found


#: Tones of which only the line is drawn.
LINES = frozenset((*_STROKES, "skin-line", "brow"))
#: Of dashed lines, how long a dash and a gap is, in units of a large picture.
DASHES = {"ghost-line": (26, 18), "sight": (4, 26), "tint-far": (22, 16)}
_LOOKS = {tone: f"stroke-dasharray:{dash} {gap}" for tone, (dash, gap) in DASHES.items()} | {
    "tint-small": "stroke:#fdf4e4;paint-order:stroke",
    "letter": "font-family:sans-serif;font-weight:700",
    "tag": "stroke:#22262b",
}


@cache
def _rules(skin: Skin) -> dict[str, str]:
    """How each tone is painted."""
    rules = {}
    for name, colour in tones(skin).items():
        painted = f"fill:none;stroke:{colour}" if name in LINES else f"fill:{colour}"
        rules[name] = f".f-{name}{{{painted}{';' if name in _LOOKS else ''}{_LOOKS.get(name, '')}}}"
    return rules


_USED = re.compile(r"\bf-([\w-]+)\"")
_JOINED = ".figure *{stroke-linejoin:round;stroke-linecap:round}"


def style_of(svg: str, skin: Skin = Skin.MIDDLE) -> str:
    """The style sheet of the tones that a picture has."""
    rules = _rules(skin)
    return _JOINED + "".join(rules[name] for name in dict.fromkeys(_USED.findall(svg)))


@cache
def style(skin: Skin = Skin.MIDDLE) -> str:
    """The style sheet of every tone."""
    return _JOINED + "".join(_rules(skin).values())
