"""Measures every budget and prints them as one table with the machine: `make bench` (MINUTES=2 of the Stage, or 30)."""

from __future__ import annotations

import os
import platform
import sys
from pathlib import Path
from typing import Any

from bench import attack, page, rooms, run, stage
from bench.demo import served


def machine() -> str:
    """What it was measured on."""
    lines = Path("/proc/cpuinfo").read_text().splitlines()
    model = next((line.split(":")[1].strip() for line in lines if line.startswith("model name")), platform.machine())
    return f"{model}, {os.cpu_count()} cores, Python {platform.python_version()}"


def on_the_stage(minutes: float) -> dict[str, Any]:
    """The larger of two runs: frames held up at random, and every frame of so many minutes."""
    found = []
    for name, held, lasts in (("frames held up to 0.4 s", True, min(2, minutes)), ("every frame", False, minutes)):
        with served() as base:
            one = stage.measure(base, int(lasts * 60), held=held)
        stage.report(name, one)
        found.append(one)
    script = sorted(found[1]["script"])
    return {
        "off": max(max(one["left"], one["work"]) for one in found),
        "script": script[int(len(script) * 0.95)],
        "over": sum(one > stage.BUDGET_MS for one in script) / len(script),
    }


def main(minutes: float = 2, runs: float = 30, classes: float = 500, rooms_: float = 300, seconds: float = 30) -> int:
    """Measure everything, then the table; smaller numbers for a look at whether all of it runs."""
    runs, classes, rooms_ = int(runs), int(classes), int(rooms_)
    print(machine(), flush=True)
    found = run.measured(runs)
    same, ratio = run.against_a_general_solver(classes, 1)
    _, many = run.against_a_general_solver(-(-classes // 20), 10)
    loaded, shown = page.measured(min(runs, page.RUNS)), on_the_stage(minutes)
    screens, attacked = rooms.measured(rooms_, seconds), attack.measured(-(-rooms_ * 2 // 3))
    edit, peg = (
        found["an edit on the Desk, 25 items, server side"],
        found["a preview of the peg, 60 items with everything"],
    )
    fit = max(one[0] for name, one in found.items() if name.startswith("fit 60"))
    checks = max(one[0] for name, one in found.items() if name.startswith("all checks"))
    rows: list[tuple[str, float, str, float]] = [
        ("compile a 60-item class", found["compile 60 items"][0], "ms", 30),
        ("  growing with items, slope", run.slope(runs), "", 1.1),
        ("exact fit of the same, every feature", fit, "ms", 50),
        ("  costs that differ from the oracle's, of 500 classes", float(not same), "", 0),
        ("  its time, in parts of the oracle's, one target a class", 1 / ratio, "", 1 / 20),
        ("  the same, ten targets a class", 1 / many, "", 1 / 20),
        ("all checks on the same", checks, "ms", 15),
        ("an edit on the Desk, median", edit[0], "ms", 80),
        ("  95 %", edit[1], "ms", 150),
        ("a preview of the peg, 95 %: ten a second", peg[1], "ms", 100),
        ("Desk, first load: transferred", loaded["octets"] / 1000, "kB", 300),
        ("  largest paint, median", loaded["paint"], "ms", 1000),
        ("  layout shift", loaded["shift"], "", 0.001),
        ("listening from an item: key to sound, median", loaded["listen"], "ms", 300),
        (f"Stage, off the timeline at most, in {minutes:g} min", shown["off"], "ms", 50),
        ("  script a frame, 95 %", shown["script"], "ms", stage.BUDGET_MS),
        ("  share of frames over it", shown["over"] * 100, "%", 0),
        ("300 screens: an answer, 95 %", screens["answer"], "ms", 100),
        ("  a change seen by all within", screens["seen"], "s", 1.5),
        ("attacks that did not hold", float(sum(not held for *_, held in attacked)), "", 0),
        ("memory of the server", loaded["memory"], "MB", 250),
    ]
    print(f"\n{'budget':58} {'measured':>10} {'most':>8}")
    for name, value, unit, most in rows:
        print(f"{name:58} {value:10.4g} {most:8.4g} {unit:3} {'' if value <= most else 'over'}")
    return 0


if __name__ == "__main__":
    sys.exit(main(*(float(one) for one in sys.argv[1:])))
