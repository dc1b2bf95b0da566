"""Measures the budgets: `make bench` prints one row per budget with median and 95th percentile."""

from __future__ import annotations

import platform
import statistics
import sys
import time
from collections.abc import Callable
from dataclasses import replace

from extendum.core.compile import compile_script
from extendum.core.edit import add_move, new_script
from extendum.core.fit import Fitter
from extendum.core.script import Script
from extendum.draw.sheet import draw_sheet
from extendum.formats.document import dumps, loads
from extendum.formats.library import shipped_moves


def class_of(items: int) -> Script:
    """A class of so many items, taken from the library in turn; about a minute an item."""
    script = new_script("Measured", 3600)
    moves = shipped_moves()
    for n in range(items):
        script, _ = add_move(script, moves[n % len(moves)])
    return script


def measure(what: Callable[[], object], runs: int = 30) -> tuple[float, float]:
    """Median and 95th percentile in milliseconds, after three runs that are not counted."""
    for _ in range(3):
        what()
    found = []
    for _ in range(runs):
        start = time.perf_counter()
        what()
        found.append((time.perf_counter() - start) * 1000)
    found.sort()
    return statistics.median(found), found[int(len(found) * 0.95)]


def main() -> None:
    """Print the table."""
    script = class_of(60)
    half, double = class_of(30), class_of(120)
    text = dumps(script)
    timeline = compile_script(script)
    print(f"Python {platform.python_version()}, {platform.machine()}, {len(text)} bytes, {timeline.length_s} s")
    print(f"{'what':48} {'median ms':>10} {'95 % ms':>10}")
    rows: list[tuple[str, Callable[[], object]]] = [
        ("compile 60 items", lambda: compile_script(script)),
        ("compile 30 items", lambda: compile_script(half)),
        ("compile 120 items", lambda: compile_script(double)),
        ("fit 60 items, tables and one target", lambda: Fitter(script).fit(timeline.length_s + 61)),
        ("read a document of 60 items", lambda: loads(text)),
        ("write a document of 60 items", lambda: dumps(script)),
        ("draw the sheet of 60 items", lambda: draw_sheet(timeline)),
        ("a changed copy of 60 items", lambda: replace(script, title="B")),
    ]
    for name, what in rows:
        median, high = measure(what)
        print(f"{name:48} {median:10.2f} {high:10.2f}")


if __name__ == "__main__":
    sys.exit(main())
