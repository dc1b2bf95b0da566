"""Makes the fonts of the printed pages and of films from web fonts; run by hand, with fonttools and brotli.

Latin, Greek, Cyrillic and Vietnamese letters in one face for each weight; arrows and a few signs in one of their own.
"""

import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from fontTools import subset
from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1]
FONTS = ROOT / "src" / "extendum" / "data" / "fonts"
LETTERS = ("latin", "latin-ext", "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese")
SIGNS = [*range(0x2190, 0x219A), 0x21BA, 0x21BB, 0x21C4, 0x2260, 0x2264, 0x2265, 0x25CF, 0x2713]


def letters(face: str, name: str, weight: int, packages: Path) -> None:
    """One face of a weight from its parts."""
    parts = []
    with TemporaryDirectory() as folder:
        for part in LETTERS:
            path = packages / "@fontsource-variable" / face / "files" / f"{face}-{part}-wght-normal.woff2"
            if path.exists():
                font = instantiateVariableFont(TTFont(path), {"wght": weight})
                font.flavor = None
                parts.append(str(Path(folder) / f"{part}.ttf"))
                font.save(parts[-1])
        made = Merger().merge(parts)
        made.save(FONTS / f"{face}-{name}.ttf")


def signs(packages: Path) -> None:
    """Arrows, and what else no face for words has."""
    font = TTFont(packages / "@fontsource" / "noto-sans-math" / "files" / "noto-sans-math-latin-400-normal.woff2")
    some = subset.Subsetter(subset.Options(layout_features=[], notdef_outline=True, drop_tables=["MATH"]))
    some.populate(unicodes=SIGNS)
    some.subset(font)
    font.flavor = None
    font.save(FONTS / "signs.ttf")


if __name__ == "__main__":
    folder = Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "node_modules"
    letters("source-sans-3", "regular", 400, folder)
    letters("source-sans-3", "bold", 700, folder)
    letters("literata", "bold", 700, folder)
    signs(folder)
