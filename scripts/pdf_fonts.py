"""Makes the fonts of the printed pages from the shipped web font; run by hand, with fonttools and brotli installed."""

from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1] / "src" / "extendum"

for name, weight in (("regular", 400), ("bold", 700)):
    font = TTFont(ROOT / "web" / "static" / "fonts" / "source-sans-3-latin.woff2")
    font = instantiateVariableFont(font, {"wght": weight})
    font.flavor = None
    font.save(ROOT / "data" / "fonts" / f"source-sans-3-{name}.ttf")
