"""What the commands do on a class document: compute, print, write; each gives the exit code."""

from __future__ import annotations

import argparse
import json
import sys
from collections import Counter
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import Any

from extendum.core.checks.outcome import mended
from extendum.core.checks.report import CHECKS, check
from extendum.core.fit.explain import change_words, changes_words, fit_sentence, limit_words, refusal_lines
from extendum.core.fit.fit import Fit, Fitter
from extendum.core.fit.remedy import remedies
from extendum.core.fit.versions import Version, fitter_of, versions
from extendum.core.heard.drafting import draft
from extendum.core.heard.hear import hear
from extendum.core.heard.report import facts
from extendum.core.model.audience import Condition
from extendum.core.model.body import Base, Region
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Kind
from extendum.core.model.script import Script
from extendum.core.model.style import TalkStyle
from extendum.core.model.timeline import CueKind, clock
from extendum.core.moves.cautions import SCOPE
from extendum.core.moves.find import Query, find
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.formats.document import dumps
from extendum.formats.findings_json import check_plain, finding_plain
from extendum.formats.heard_json import heard_plain
from extendum.formats.hearing import hearing
from extendum.formats.library import entry_plain, shipped_form, shipped_moves
from extendum.formats.timed_text import read_timed
from extendum.formats.timeline_json import timeline_plain

#: Exit codes: done; out of reach, or nothing found; bad input.
OK, REFUSED, BAD_INPUT = 0, 1, 2


def hear_command(chosen: argparse.Namespace) -> int:
    """What was taught in a recording: sentences, or everything with its times; and the class that it makes."""
    library = shipped_moves()
    heard = hear(read_timed(Path(chosen.file).read_bytes()), hearing(tuple(library)))
    if chosen.out:
        write_whole(chosen.out, dumps(draft(heard, Path(chosen.file).stem, library)))
    if chosen.json:
        print_json(heard_plain(heard))
        return OK
    print("\n".join(facts(heard)))
    rows = [
        [clock(int(one.start)), f"{one.seconds:.0f} s", one.side, move.name, "?" if move.doubtful else ""]
        for move in heard.moves
        for one in move.passes
    ]
    _print_table(rows, ("from", "held", "side", "move", ""))
    return OK


@contextmanager
def named_place(given: str) -> Iterator[None]:
    """Report what cannot be written under the name that was given, not under that of the file beside it."""
    try:
        yield
    except OSError as error:
        error.given = given  # type: ignore[attr-defined]
        raise


def write_whole(given: str, text: str) -> None:
    """Whole or not at all: what stood there before stays until the new text is complete."""
    path = Path(given)
    beside = path.with_name(f".{path.name}.new")
    with named_place(given):
        beside.write_text(text, "utf-8")
        beside.replace(path)


def print_json(plain: dict[str, Any]) -> None:
    """One JSON object on one line."""
    print(json.dumps(plain, ensure_ascii=False, allow_nan=False))


def _print_table(rows: Sequence[Sequence[str]], heads: Sequence[str]) -> None:
    table = [heads, *rows]
    widths = [max(len(row[c]) for row in table) for c in range(len(heads))]
    for row in table:
        print("  ".join(cell.ljust(width) for cell, width in zip(row, widths, strict=True)).rstrip())


def length_command(script: Script, chosen: argparse.Namespace) -> int:
    """How long the class is, and how short and long it could be."""
    fitter = Fitter(script)
    seconds = length_of(script)
    if chosen.json:
        plain = {"seconds": seconds, "least_seconds": fitter.least_s, "most_seconds": fitter.most_s}
        print_json(plain)
    else:
        print(f"{script.title}: {clock(seconds)} (from {clock(fitter.least_s)} to {clock(fitter.most_s)})")
    return OK


def fit_command(script: Script, chosen: argparse.Namespace) -> int:
    """Fit the class to a length; where it cannot be, what would have to give."""
    result = Fitter(script).fit(chosen.to)
    if result.reached and chosen.out:
        if chosen.out == "-":
            sys.stdout.write(dumps(result.script))
            return OK
        write_whole(chosen.out, dumps(result.script))
    if chosen.json:
        print_json(_fit_plain(result))
    elif result.reached:
        _print_fit(result)
    else:
        print("\n".join(refusal_lines(result)))
        offered = remedies(result)
        if offered:
            print("Each of these alone makes it possible:" if offered[1:] else "This makes it possible:")
            print("\n".join(f"- {one.words}" for one in offered))
    return OK if result.reached else REFUSED


def _fit_plain(result: Fit) -> dict[str, Any]:
    return {
        "seconds": result.seconds,
        "reached": result.reached,
        "nearest_below": result.nearest_below_s,
        "nearest_above": result.nearest_above_s,
        "limits": [
            {"item": one.item, "name": one.name, "limit": one.which, "value": one.value, "unit": one.unit}
            for one in result.limits
        ],
        "changes": [
            {"item": one.item, "name": one.name, "unit": one.unit, "from": one.before, "to": one.after}
            for one in result.changes
        ],
    }


def _print_fit(result: Fit) -> None:
    print(fit_sentence(result))
    if result.changes:
        _print_table([(one.name, change_words(one)) for one in result.changes], ("item", "change"))
    if result.limits:
        print("at a limit: " + ", ".join(limit_words(one) for one in result.limits))


def moves_command(chosen: argparse.Namespace) -> int:
    """The moves of the library that hold these words, as a table, by area, or with all fields."""
    found = find(shipped_moves(), Query(" ".join(chosen.words)))
    if chosen.json:
        print_json({"moves": [entry_plain(entry) for entry in found]})
        return OK if found else REFUSED
    if not found:
        print(f"No move is called, or is for, {' '.join(chosen.words)!r}.", file=sys.stderr)
        return REFUSED
    if chosen.areas:
        _print_table(area_rows(found), ("area", *Base))
        return OK
    if chosen.conditions:
        _print_table(condition_rows(found), ("move", *_SHORT.values()))
        return OK
    rows = [
        (one.move.key, one.move.name, one.move.posture.value, one.move.kind.value, ", ".join(one.move.main_regions))
        for one in found
    ]
    _print_table(rows, ("key", "name", "posture", "kind", "for"))
    return OK


def area_rows(library: Sequence[LibraryMove]) -> list[tuple[str, ...]]:
    """How many moves of each kind are mainly for an area, by where they are done: a row for each area."""
    rows = []
    for region in Region:
        own = [one.move for one in library if region in one.move.main_regions]
        cells = []
        for base in Base:
            counts = Counter(move.kind.value for move in own if Base.of(move.posture) is base)
            cells.append(", ".join(f"{counts[kind]} {kind}" for kind in Kind if counts[kind]) or "-")
        rows.append((region.value, *cells))
    return rows


#: What the columns of conditions are called, so that all of them fit on a page.
_SHORT = {
    Condition.BALANCE: "balance",
    Condition.BLOOD_PRESSURE: "pressure",
    Condition.BLOOD_THINNERS: "fragile",
    Condition.BREATH: "breath",
    Condition.DIZZINESS: "dizzy",
    Condition.GLAUCOMA: "glaucoma",
    Condition.HIP_REPLACEMENT: "new hip",
    Condition.HYPERMOBILITY: "hypermob.",
    Condition.JAW: "jaw",
    Condition.DISLOCATION: "dislocated",
    Condition.KNEES: "knees",
    Condition.LOW_BACK: "low back",
    Condition.NECK: "neck",
    Condition.NERVES: "nerves",
    Condition.OSTEOPOROSIS: "osteop.",
    Condition.PREGNANCY: "pregnant",
    Condition.SHOULDERS: "shoulders",
    Condition.WRISTS: "wrists",
}


def condition_rows(library: Sequence[LibraryMove]) -> list[tuple[str, ...]]:
    """Each move with each condition: left out, adapted, or ``-`` for no usual objection; ``?``: not considered."""
    rows = []
    for entry in library:
        advice = {one.condition: "out" if one.leave_out else "adapt" for one in entry.move.cautions}
        advice |= dict.fromkeys(entry.no_objection, "-")
        rows.append((entry.move.key, *(advice.get(one.value, "?") for one in _SHORT)))
    return rows


#: What is said of the class itself, and so in its talk style.
_CALLS = (CueKind.NEXT, CueKind.HALFWAY, CueKind.TIME_LEFT, CueKind.KEEP_BREATHING, CueKind.LAST)


def style_rows(script: Script) -> list[tuple[str, ...]]:
    """Each call of the class with its time and its words in every talk style; ``-`` where it does not fit."""
    said: dict[str, dict[TalkStyle, tuple[int, str]]] = {}
    for style in TalkStyle:
        timeline = compile_script(replace(script, style=replace(script.style, talk_style=style)))
        for cue in timeline.cues:
            if cue.kind in _CALLS:
                said.setdefault(cue.id, {})[style] = (cue.start_ms, cue.text)
    rows = sorted(((min(ms for ms, _ in one.values()), one) for one in said.values()), key=lambda row: row[0])
    return [(clock(ms // 1000), *(one[s][1] if s in one else "-" for s in TalkStyle)) for ms, one in rows]


def versions_command(script: Script, chosen: argparse.Namespace) -> int:
    """The class at other lengths."""
    found = versions(fitter_of(script, any_move=chosen.any))
    if chosen.json:
        print_json({"versions": [_fit_plain(one.fit) | {"cost": one.fit.cost} for one in found]})
        return OK
    _print_table(version_rows(found), ("length", "cost", "what changes"))
    return OK


def version_rows(found: Sequence[Version]) -> list[tuple[str, str, str]]:
    """Versions as rows: length, cost in whole units, and what changes or what is nearest."""
    rows = []
    for one in found:
        result = one.fit
        if result.cost is None:
            rows.append((clock(result.target_s), "", " ".join(refusal_lines(result)[1:2])))
        else:
            cost = f"{result.cost / 10**6:.2f}"
            rows.append((clock(result.target_s), cost, changes_words(result.changes) or "nothing"))
    return rows


def check_command(script: Script, chosen: argparse.Namespace) -> int:
    """What the checks find, or the class with one of it mended."""
    report = check(script, compile_script(script), shipped_moves(), shipped_form)
    if chosen.apply:
        outcome = mended(script, report.get(chosen.apply), shipped_moves(), shipped_form)
        print(outcome.told, file=sys.stderr)
        if chosen.out and chosen.out != "-":
            write_whole(chosen.out, dumps(outcome.script))
        else:
            sys.stdout.write(dumps(outcome.script))
        return OK
    if chosen.json:
        print_json({"findings": [finding_plain(one) for one in report.open]})
        return OK
    for one in report.open:
        offered = f" [{one.found.mend.words}: --apply {one.key}]" if one.found.mend else ""
        print(f"{one.severity}: {one.found.message} ({one.code}){offered}")
    kept = f", {len(report.kept)} kept as they are" if report.kept else ""
    print(f"{script.title}: {len(report.open)} found by {len(CHECKS)} checks{kept}. {SCOPE}")
    return OK


def checks_command(chosen: argparse.Namespace) -> int:
    """All checks."""
    if chosen.json:
        print_json({"checks": [check_plain(one) for one in CHECKS]})
        return OK
    rows = [(one.code, one.family.value, one.severity.value, one.looks_at) for one in CHECKS]
    _print_table(rows, ("code", "family", "severity", "looks at"))
    return OK


def timeline_command(script: Script, chosen: argparse.Namespace) -> int:
    """Everything that happens, in order, with what stays unsaid; or the calls in every talk style, side by side."""
    if chosen.styles:
        _print_table(style_rows(script), ("at", *TalkStyle))
        return OK
    timeline = compile_script(script)
    if chosen.json:
        print_json(timeline_plain(timeline))
        return OK
    print(f"{script.title}: {clock(timeline.length_s)}")
    rows = [
        (clock(s.start_s), clock(s.end_s), s.kind.value, s.name, str(s.side or ""), s.direction or "", s.reason)
        for s in timeline.segments
    ]
    _print_table(rows, ("from", "to", "kind", "item", "side", "direction", "why"))
    for one in timeline.unsaid:
        print(f"unsaid: {one.text} ({one.rule}, {one.id})")
    return OK
