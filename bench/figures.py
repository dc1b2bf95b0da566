"""All figures on contact sheets, twelve to a picture: `make figures` writes var/figures/."""

from __future__ import annotations

import sys
from html import escape
from pathlib import Path

from playwright.sync_api import sync_playwright

from bench.demo import chromium
from extendum.core.figure.marks import marks_of
from extendum.core.model.body import Side
from extendum.core.model.library import LibraryMove
from extendum.draw.figure import draw_figure, figure_style
from extendum.formats.figures import shipped_figures
from extendum.formats.library import shipped_moves

OUT = Path("var/figures")
A_SHEET = 12
STYLE = """body { margin: 8px; background: #f7f1e5; font: 15px sans-serif; display: grid;
grid-template-columns: repeat(4, 1fr); gap: 6px } p { margin: 0; text-align: center }
svg { width: 100%; height: 235px }"""


def cell(entry: LibraryMove) -> str:
    """One move: its figure, on the left where it has sides, and its name."""
    move = entry.move
    side = Side.LEFT if move.sided else Side.BOTH
    return f"<div>{draw_figure(shipped_figures()[move.key], marks_of(move), side)}<p>{escape(move.name)}</p></div>"


def main(out: Path = OUT, most: int | None = None) -> None:
    """Write the sheets, of at most so many moves."""
    out.mkdir(parents=True, exist_ok=True)
    moves = shipped_moves()[:most]
    with sync_playwright() as playwright:
        browser = chromium(playwright)
        page = browser.new_page(viewport={"width": 1180, "height": 800})
        for n in range(0, len(moves), A_SHEET):
            cells = "".join(map(cell, moves[n : n + A_SHEET]))
            page.set_content(f"<style>{figure_style()}{STYLE}</style>{cells}")
            page.screenshot(path=str(out / f"{n // A_SHEET + 1:02}.png"))
        browser.close()
    print(f"{-(-len(moves) // A_SHEET)} sheets in {out}")


if __name__ == "__main__":
    sys.exit(main())
