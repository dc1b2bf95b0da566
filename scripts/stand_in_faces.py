"""Prints the stand-in faces of `assets/app.css`; run by hand, with fonttools and brotli installed.

A stand-in is a common face, scaled to the widths and lines of the web font for what the demo classes say, so that
next to nothing moves when the font comes late. `python scripts/stand_in_faces.py FOLDER...` is told where the
Liberation and the DejaVu fonts are.
"""

import re
import sys
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1]
FONTS = ROOT / "src" / "extendum" / "web" / "static" / "fonts"
FACES = {"Source Sans": ("source-sans-3", "Sans"), "Literata": ("literata", "Serif")}
#: Faces of the same widths, by the names they go by.
SAME = {"Liberation Sans": ["Arial", "Helvetica"], "Liberation Serif": ["Times New Roman"]}
WEIGHTS = {400: ("200 500", "", "Regular"), 650: ("501 900", " Bold", "Bold")}

written = "".join(page.read_text() for page in sorted((ROOT / "demo").glob("*.json")))
SAID = " ".join(text for text in re.findall(r'"([^"]*)"', written) if " " in text)
SAID += "0123456789" * (len(SAID) // 60)


def facts(font: TTFont) -> tuple[float, float, float]:
    """Mean width of a letter, ascent and descent, in parts of the font's size."""
    letters, widths, lines, em = font.getBestCmap(), font["hmtx"], font["hhea"], font["head"].unitsPerEm
    found = [widths[letters[ord(c)]][0] for c in SAID if ord(c) < 256]
    return sum(found) / len(found) / em, lines.ascent / em, -lines.descent / em


for family, (file, kind) in FACES.items():
    for other in ("Liberation", "DejaVu"):
        for weight, (weights, full, name) in WEIGHTS.items():
            font = instantiateVariableFont(TTFont(FONTS / f"{file}-latin.woff2"), {"wght": weight})
            width, ascent, descent = facts(font)
            names = {
                f"{other}{kind}-{name}.ttf",
                f"{other}{kind}.ttf" if name == "Regular" else f"{other}{kind}-Bold.ttf",
            }
            path = next(p for folder in sys.argv[1:] for p in sorted(Path(folder).rglob("*.ttf")) if p.name in names)
            size = width / facts(TTFont(path))[0]
            local = ", ".join(f'local("{one}{full}")' for one in [*SAME.get(f"{other} {kind}", []), f"{other} {kind}"])
            print(
                f'@font-face {{ font-family: "{family} as {other}"; src: {local}; font-weight: {weights}; size-adjust: '
                f"{size:.1%}; ascent-override: {ascent / size:.1%}; descent-override: {descent / size:.1%}; "
                "line-gap-override: 0%; }"
            )
