"""How well a recording is heard: what was found against what is in the timed texts of tests/data/spoken."""

import json
from pathlib import Path

from extendum.core.heard.guess import What
from extendum.core.heard.hear import hear
from extendum.formats.library import shipped_moves
from extendum.formats.timed_text import read_timed

FOLDER = Path(__file__).parent / "data" / "spoken"
HELD_OUT = ("heldout-brisk", "heldout-coarse", "heldout-slips")
TUNED = ("breath", "calm", "chatty", "counted", "runon")
#: A guess is right when it is so near in time; where stamps are coarse the time inside a line is only guessed.
NEAR_S, COARSE_S = 5.0, 14.0


def heard(name):
    """What is heard of one text, and what is in it."""
    (path,) = [one for one in FOLDER.glob(f"{name}.*") if one.suffix != ".json"]
    found = hear(read_timed(path.read_bytes()), [entry.move.name for entry in shipped_moves()])
    return found, json.loads((FOLDER / f"{name}.json").read_text())


def matched(found, wanted, near):
    """How many of what was wanted was found, each find used once."""
    free, hits = list(found), 0
    for one in wanted:
        best = min(free, key=lambda other: abs(other - one), default=None)
        if best is not None and abs(best - one) <= near:
            free.remove(best)
            hits += 1
    return hits


def counts(name):
    """By kind: (right, found, wanted); and the errors of seconds per side."""
    found, truth = heard(name)
    near = COARSE_S if "coarse" in truth["style"] else NEAR_S
    calls = {
        kind: [at for at, *_ in ((c[1], c) for c in truth["calls"] if c[0] == kind)] for kind in ("halfway", "left")
    }
    pairs = {
        "switches": ([g.at for g in found.of(What.SWITCH)], truth["switches"]),
        "halfway": ([g.at for g in found.of(What.HALFWAY)], calls["halfway"]),
        "time left": ([g.at for g in found.of(What.LEFT)], calls["left"]),
        "countdowns": ([g.at for g in found.of(What.COUNTDOWN)], [at for at, _ in truth["counts"]]),
        "reps": ([g.at for g in found.of(What.REPS)], [at for at, _ in truth["reps"]]),
    }
    told = {kind: (matched(got, want, near), len(got), len(want)) for kind, (got, want) in pairs.items()}
    errors = []
    for _, _, start, end in truth["sides"]:
        overlap = [(min(end, s.end) - max(start, s.start), s) for s in found.stretches]
        best = max(overlap, key=lambda one: one[0], default=(0, None))
        errors.append(abs(best[1].seconds - (end - start)) if best[0] > 0 else float(end - start))
    return told, errors


def summed(names):
    """Precision and recall by kind over several texts, and the middle and greatest error of seconds per side."""
    whole, errors = {}, []
    for name in names:
        told, missed = counts(name)
        errors += missed
        for kind, numbers in told.items():
            whole[kind] = tuple(a + b for a, b in zip(whole.get(kind, (0, 0, 0)), numbers, strict=True))
    rates = {
        kind: (right / found if found else 1.0, right / wanted if wanted else 1.0)
        for kind, (right, found, wanted) in whole.items()
    }
    errors.sort()
    return whole, rates, (errors[len(errors) // 2], errors[-1])
