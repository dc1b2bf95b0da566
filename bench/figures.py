"""All figures on contact sheets, twelve to a picture: `make figures` writes var/figures/ after it has built them."""

from __future__ import annotations

import sys
from html import escape
from pathlib import Path

from playwright.sync_api import sync_playwright

from bench.chromium import chromium
from extendum.core.model.body import Side
from extendum.core.model.library import LibraryMove
from extendum.draw.figures.tones import style
from extendum.formats.figures import Shown, picture_svg
from extendum.formats.library import shipped_moves

OUT = Path("var/figures")
A_SHEET = 12
STYLE = """body { margin: 8px; background: #f7f1e5; font: 15px sans-serif; display: grid;
grid-template-columns: repeat(4, 1fr); gap: 6px } p { margin: 0; text-align: center }
svg { width: 100%; display: block }"""


def cell(number: int, entry: LibraryMove) -> str:
    """One move: its figure, on the left where it has sides, and its name."""
    move = entry.move
    side = Side.LEFT if move.sided else Side.BOTH
    svg = picture_svg(Shown(move.key), side, prefix=f"n{number}-")
    return f"<div>{svg}<p>{escape(move.name)}</p></div>"


def main(out: Path = OUT, most: int | None = None) -> None:
    """Write the sheets, of at most so many moves."""
    out.mkdir(parents=True, exist_ok=True)
    moves = shipped_moves()[:most]
    with sync_playwright() as playwright:
        browser = chromium(playwright)
        page = browser.new_page(viewport={"width": 1180, "height": 980})
        for n in range(0, len(moves), A_SHEET):
            cells = "".join(cell(k, one) for k, one in enumerate(moves[n : n + A_SHEET]))
            page.set_content(f"<style>{style()}{STYLE}</style>{cells}")
            page.screenshot(path=str(out / f"{n // A_SHEET + 1:02}.png"), full_page=True)
        browser.close()
    print(f"{-(-len(moves) // A_SHEET)} sheets in {out}")


if __name__ == "__main__":
    sys.exit(main())
