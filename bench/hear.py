"""Hears the recordings in tests/data/heard and holds what was heard against what is in them: `make bench-hear`.

A thing is found when it is within 10 s. A move is right when its name shares a telling word with one of those that it
goes by, or is the same move of the library. A pass is right when its side is, and what both share is at least 60 % of
the longer one. The texts ``dev`` and ``lesson`` were used to set the numbers of the model, ``check`` and ``fresh`` were
not; ``lesson`` and ``fresh`` were written by those who wrote the model.
"""

from __future__ import annotations

import json
import re
import time
from bisect import bisect_left, bisect_right
from collections import Counter
from collections.abc import Callable, Sequence
from pathlib import Path
from statistics import median
from typing import Any

from extendum.core.heard.corrected import WAY
from extendum.core.heard.hear import hear, naming
from extendum.core.heard.recording import Heard, HeardMove
from extendum.formats.heard_json import heard_plain
from extendum.formats.hearing import hearing
from extendum.formats.library import shipped_moves
from extendum.formats.spoken import Spoken
from extendum.formats.timed_text import read_timed

FOLDER = Path(__file__).parents[1] / "tests" / "data" / "heard"
NEAR_S, REAL_S, SHARE = 10.0, 3.0, 0.6
Thing = dict[str, Any]
#: right, found, wanted
Row = tuple[int, int, int]
_DULL = {
    *("a", "an", "and", "at", "back", "down", "easy", "for", "forward", "in", "it", "of", "on", "one", "or", "over"),
    *("slow", "soft", "seated", "standing", "lying", "stretch", "stretches", "the", "then", "to", "up", "with", "your"),
    *("other", "side"),
}


def names(kind: str) -> list[str]:
    """The texts of a kind: dev, lesson, check or fresh."""
    return sorted(path.stem for path in FOLDER.glob(f"{kind}-*.txt"))


def lines_of(name: str, *, vtt: bool = False) -> list[Spoken]:
    """The timed lines of a text."""
    return read_timed((FOLDER / f"{name}.{'vtt' if vtt else 'txt'}").read_bytes())


def heard_in(name: str, *, vtt: bool = False) -> Heard:
    """What is heard of a text."""
    return hear(lines_of(name, vtt=vtt), hearing(tuple(shipped_moves())))


def truth_of(name: str) -> Thing:
    """What is in a text."""
    truth: Thing = json.loads((FOLDER / f"{name}.truth.json").read_text())
    return truth


def stems(text: str) -> set[str]:
    """The words of a name that tell it from others, without their endings."""
    words = re.findall(r"[a-z]+", text.lower().replace("'s", ""))
    return {re.sub(r"(?<=[a-z]{3})(?:ing|es|s|e)$", "", word) for word in words if word not in _DULL}


def is_named(name: str, key: str | None, move: Thing) -> bool:
    """Whether a name, or the key of a move of the library, is that of a move."""
    known = " ".join([move["name"], move.get("library_key") or "", *move.get("also", [])])
    return bool(stems(name) & stems(known)) or bool(key and key == move.get("library_key"))


def is_near(at: float, move: Thing) -> bool:
    """Whether a move that was heard at a time can be this one."""
    first = move["passes"][0]["from_s"]
    near = move["start_s"] - NEAR_S <= at <= max(move["start_s"], first) + NEAR_S
    return bool(near or abs(at - move.get("named_at_s", -99)) <= NEAR_S)


def moves(found: list[Thing], wanted: list[Thing]) -> tuple[Row, int]:
    """Moves named right; and how many have the right name among the three that are offered."""
    taken: set[int] = set()
    offered: set[int] = set()
    right = wrong = 0
    for one in found:
        near = [n for n, move in enumerate(wanted) if is_near(one["at_s"], move)]
        hit = next((n for n in near if n not in taken and is_named(one["name"], one["library_key"], wanted[n])), None)
        among = (n for n in near if n not in offered and any(is_named(name, None, wanted[n]) for name in one["names"]))
        offered |= {n for n in [hit, next(among, None)] if n is not None}
        if hit is not None:
            taken.add(hit)
            right += 1
        elif not any(
            is_named(one["name"], one["library_key"], wanted[n])
            and wanted[n]["start_s"] - NEAR_S <= one["at_s"] <= wanted[n]["end_s"] + NEAR_S
            for n in taken
        ):
            wrong += 1
    return (right, right + wrong, len(wanted)), len(offered)


def passes(found: list[Thing], wanted_moves: list[Thing]) -> tuple[Row, list[float]]:
    """Passes on the right side for about as long; and by how many seconds those of one side are off."""
    wanted = [one for move in wanted_moves for one in move["passes"]]
    free, right, errors = list(found), 0, []
    for want in wanted:
        length = want["to_s"] - want["from_s"]
        shared = [
            (min(want["to_s"], one["to_s"]) - max(want["from_s"], one["from_s"]), n) for n, one in enumerate(found)
        ]
        most, n = max(shared, default=(0.0, -1))
        best = found[n] if n >= 0 and most > 0 else None
        got = best["to_s"] - best["from_s"] if best else 0.0
        if want["side"] != "both":
            errors.append(abs(got - length))
        if best in free and best and most / max(length, got) >= SHARE:
            fits = ("both", "first") if want["side"] == "both" else (want["side"],)
            if best["side"] in fits:
                free.remove(best)
                right += 1
    return (right, len(found), len(wanted)), errors


def pairs(found: list[Thing], wanted: list[Thing], near: Callable[[Thing, Thing], bool]) -> list[tuple[Thing, Thing]]:
    """Each wanted thing with the nearest find that is left, where one is near enough."""
    free, told = list(found), []
    for want in wanted:
        if fit := [one for one in free if near(one, want)]:
            best = min(fit, key=lambda one: abs(one["at_s"] - want["at_s"]))
            free.remove(best)
            told.append((best, want))
    return told


def scored_as(name: str, heard: Heard, *, vtt: bool = False) -> tuple[dict[str, Row], list[float]]:
    """Each row of the table for what was heard of one text, and the errors of its seconds a side."""
    return scored(truth_of(name), [line.start for line in lines_of(name, vtt=vtt)], heard)


def scored(truth: Thing, stamps: Sequence[float], heard: Heard) -> tuple[dict[str, Row], list[float]]:
    """The same for what is in a text with stamps at some seconds."""
    found = heard_plain(heard)
    rows: dict[str, Row] = {}
    rows["moves"], offered = moves(found["moves"], truth["moves"])
    rows["right among the three offered"] = (offered, len(found["moves"]), len(truth["moves"]))
    rows["passes"], errors = passes(found["passes"], truth["moves"])

    def by_time(one: Thing, want: Thing) -> bool:
        return bool(abs(one["at_s"] - want["at_s"]) <= NEAR_S)

    def by_paragraph(one: Thing, want: Thing) -> bool:
        here = bisect_right(stamps, want["at_s"] + 0.05) - 1
        return by_time(one, want) or (here >= 0 and abs(one["at_s"] - stamps[here]) < 1)

    def row(kind: str, got: list[Thing], want: list[Thing], near: Callable[[Thing, Thing], bool] = by_time) -> None:
        rows[kind] = (len(pairs(got, want, near)), len(got), len(want))

    row("switches", found["switches"], truth["switches"])
    timed = [one for one in truth["calls"] if one["said_s"] is not None and one["kind"] != "countdown"]
    hits = pairs(found["calls"], timed, lambda a, b: by_time(a, b) and a["said_s"] == b["said_s"])
    rows["calls of time"] = (len(hits), len(found["calls"]), len(timed))
    close = sum(a["really_s"] is not None and abs(a["really_s"] - b["really_s"]) <= REAL_S for a, b in hits)
    rows["their real seconds"] = (close, len(hits), len(timed))
    row("calls of reps", found["last"], [one for one in truth["calls"] if "unit" in one])
    row("halfway", found["halfways"], [one for one in truth["calls"] if one["kind"] == "halfway"])
    down = [one for one in truth["counts"] if one["to"] < one["from"]]
    reps = [one for one, _ in pairs(found["countdowns"], down, by_time)]
    row(
        "countdowns",
        [one for one in found["countdowns"] if one not in reps],
        [one for one in truth["calls"] if one["kind"] == "countdown"],
    )
    counted = sorted([*found["counts"], *reps], key=lambda one: one["at_s"])
    row("counts", counted, truth["counts"])
    row("slips", found["slips"], truth["slips"], by_paragraph)
    said = [(one["kind"], one["said"]) for one in found["promises"]]
    rows["promises"] = (
        sum((p["kind"], p["said"]) in said for p in truth["promises"]),
        len(said),
        len(truth["promises"]),
    )
    row("claims", found["claims"], truth["claims"], by_paragraph)
    row("pushes", found["pushes"], [one for one in truth["pushes"] if not one["limited"]], by_paragraph)
    limited = [one for one in truth["pushes"] if one["limited"]]
    rows["limited pushes reported"] = (len(pairs(found["pushes"], limited, by_paragraph)), 0, len(limited))
    row("cautions", found["cautions"], truth["cautions"], by_paragraph)
    gists, told = (
        [stems(one["text_gist"]) for one in truth["reminders"]],
        [stems(one["text_gist"]) for one in found["reminders"]],
    )
    right = sum(any(len(gist & one) >= len(gist) / 2 for one in told) for gist in gists)
    rows["reminders"] = (right, len(told), len(gists))
    return rows, errors


def summed(some: list[str], *, vtt: bool = False) -> tuple[dict[str, Row], float]:
    """The rows of several texts added up, and the middle error of seconds a side."""
    return summed_up([scored_as(name, heard_in(name, vtt=vtt), vtt=vtt) for name in some])


def summed_up(some: list[tuple[dict[str, Row], list[float]]]) -> tuple[dict[str, Row], float]:
    """Several rows added up, and the middle of all errors."""
    rows: dict[str, Row] = {}
    errors: list[float] = []
    for own, off in some:
        errors += off
        for kind, (right, found, wanted) in own.items():
            a, b, c = rows.get(kind, (0, 0, 0))
            rows[kind] = (a + right, b + found, c + wanted)
    return rows, median(errors)


def printed(title: str, rows: dict[str, Row], off: float) -> None:
    """Print a table."""
    print(f"\n{title:40} {'right':>6} {'found':>6} {'wanted':>6} {'recall':>7} {'precision':>9}")
    for name, (right, found, wanted) in rows.items():
        recall, precision = (f"{round(100 * right / n)} %" if n else "-" for n in (wanted, found))
        print(f"{name:40} {right:6} {found:6} {wanted:6} {recall:>7} {precision:>9}")
    print(f"{'seconds a side, middle error':40} {off:6.1f} s")


def corrections(heard: Heard, truth: Thing) -> Counter[str]:
    """How many corrections by hand make what was heard what it is: renamed, split, joined, moved, sided, marked.

    Heard and real moves are laid beside each other in order, as far as they overlap. A border counts as right within
    60 % of a pass; one side that is changed changes the other.
    """
    found: Counter[str] = Counter()
    wanted, hears = truth["moves"], hearing(tuple(shipped_moves()))
    begins = [word.at for word in heard.words]
    pairs_ = _laid(heard.moves, wanted)
    found["marked as talk or joined"] = len(heard.moves) - len(pairs_)
    for n, want in enumerate(wanted):
        move = pairs_.get(n)
        if move is None:
            found["split off"] += 1
            first, last = (bisect_left(begins, want[end]) for end in ("start_s", "end_s"))
            place = (first, first + round(WAY * (last - first)), last)
            name, key, _ = naming(heard, hears).named(*place, len(want["passes"]) > 1)
            found["renamed"] += not is_named(name, key or None, want)
            continue
        found["renamed"] += not is_named(move.name, move.key or None, want)
        real = [(one["from_s"], one["to_s"]) for one in want["passes"]]
        got = [(one.start, one.end) for one in move.passes]
        found["second side split off or joined"] += abs(len(real) - len(got))
        found["border moved"] += sum(not _same(a, b) for a, b in zip(got, real, strict=False))
        sides = [(one.side, "both" if len(real) == 1 == len(got) and w["side"] in ("first", "both") else w["side"])
                 for one, w in zip(move.passes, want["passes"], strict=False)]  # fmt: skip
        found["side changed"] += any(a != b and b != "both" for a, b in sides)
    return found


def _same(one: tuple[float, float], other: tuple[float, float]) -> bool:
    shared = min(one[1], other[1]) - max(one[0], other[0])
    return shared >= SHARE * max(one[1] - one[0], other[1] - other[0])


def _laid(moves_: Sequence[HeardMove], wanted: Sequence[Thing]) -> dict[int, HeardMove]:
    """Each real move with the heard one beside it: in order, so that they overlap as long as can be."""
    best: dict[tuple[int, int], tuple[float, dict[int, HeardMove]]] = {}
    for a in range(len(moves_), -1, -1):
        for b in range(len(wanted), -1, -1):
            if a == len(moves_) or b == len(wanted):
                best[a, b] = (0.0, {})
                continue
            one, want = moves_[a], wanted[b]
            shared = min(one.end, want["end_s"]) - max(one.start, want["start_s"])
            ways = [best[a + 1, b], best[a, b + 1]]
            if shared > 0:
                whole, laid = best[a + 1, b + 1]
                ways.append((whole + shared, {b: one, **laid}))
            best[a, b] = max(ways, key=lambda way: way[0])
    return best[0, 0][1]


def main() -> None:
    """Print the tables, and how long sixteen minutes take."""
    for kind in ("dev", "lesson", "check", "fresh"):
        printed(kind, *summed(names(kind)))
        needed = [corrections(heard_in(name), truth_of(name)) for name in names(kind)]
        every = sum(needed, Counter())
        wanted = sum(len(truth_of(name)["moves"]) for name in names(kind))
        print(f"corrections a draft {sum(every.values()):20} for {wanted} moves: {dict(every)}")
    long = [Spoken(one.start + 502 * n, one.text) for n in range(2) for one in lines_of("dev-01")]
    began = time.perf_counter()
    hear(long, hearing(tuple(shipped_moves())))
    print(f"\n{long[-1].start / 60:.0f} minutes of text heard in {time.perf_counter() - began:.2f} s")


if __name__ == "__main__":
    main()
