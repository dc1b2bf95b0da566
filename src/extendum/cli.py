"""The command line: the core on files, without a database."""

from __future__ import annotations

import argparse
import json
import sys
from collections import Counter
from collections.abc import Callable, Sequence
from datetime import datetime
from pathlib import Path
from typing import Any

from extendum.core.body import Base, Region
from extendum.core.cautions import SCOPE
from extendum.core.checks import CHECKS, check, mend
from extendum.core.compile import compile_script, length_of
from extendum.core.errors import RefusedError
from extendum.core.explain import change_words, changes_words, fit_sentence, limit_words, refusal_lines
from extendum.core.find import Query, find
from extendum.core.fit import Fit, Fitter
from extendum.core.heard.hear import hear
from extendum.core.heard.report import heard_report
from extendum.core.library import LibraryMove
from extendum.core.move import Kind
from extendum.core.remedy import remedies
from extendum.core.script import LONGEST_CLASS_S, Script
from extendum.core.timeline import clock, parse_clock
from extendum.core.versions import Version, versions
from extendum.formats.document import dumps, loads
from extendum.formats.exports import FILES, KINDS, Export, about_captions, about_voice, write
from extendum.formats.findings_json import check_plain, finding_plain
from extendum.formats.library import entry_plain, shipped_form, shipped_moves
from extendum.formats.pdf import Paper
from extendum.formats.timed_text import read_timed
from extendum.formats.timeline_json import timeline_plain
from extendum.voice import espeak

OK, REFUSED, BAD_INPUT = 0, 1, 2


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code: 0 done, 1 out of reach, 2 bad input."""
    chosen = _parser().parse_args(arguments)
    run: Callable[[argparse.Namespace], int] = chosen.run
    try:
        return run(chosen)
    except RefusedError as error:
        print(f"extendum: {getattr(chosen, 'file', chosen.command)}: {error}", file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        return OK
    except OSError as error:
        print(f"extendum: {error.filename or chosen.file}: {error.strerror}", file=sys.stderr)
        return BAD_INPUT


def _on_file(run: Callable[[Script, argparse.Namespace], int]) -> Callable[[argparse.Namespace], int]:
    """A command on a class document."""
    return lambda chosen: run(_read(chosen.file), chosen)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="extendum", description="Compute on class documents (docs/format.md).")
    commands = parser.add_subparsers(required=True, metavar="COMMAND", dest="command")
    for name, run, about in (
        ("length", _length, "how long the class is, and could be"),
        ("fit", _fit, "fit the class to a length, to the second"),
        ("timeline", _timeline, "everything that happens, in order"),
        ("versions", _versions, "the class at 5, 10, 15, 20, 30 and 45 minutes"),
        ("check", _check, "what the checks find in the class"),
    ):
        command = commands.add_parser(name, help=about, description=about.capitalize() + ".")
        command.add_argument("file", metavar="FILE", help="a class document, or - for standard input")
        command.add_argument("--json", action="store_true", help="print one JSON object")
        command.set_defaults(run=_on_file(run))
        if name == "fit":
            command.add_argument("--to", required=True, type=_length_argument, metavar="10:00", help="the length")
            command.add_argument("-o", "--out", metavar="OUT", help="where the fitted document goes")
        if name == "check":
            command.add_argument("--apply", metavar="CODE", help="apply what mends the first finding of this code")
            command.add_argument("-o", "--out", metavar="OUT", help="where the mended document goes; - without it")
        if name == "versions":
            command.add_argument("--any", action="store_true", help="any move may be left out, not only those marked")
    export = commands.add_parser("export", help="captions, script, PDF, sound ...", description="Give a class away.")
    export.add_argument("file", metavar="FILE", help="a class document, or - for standard input")
    export.add_argument("--as", dest="kind", required=True, choices=KINDS, help="what to make")
    export.add_argument("-o", "--out", required=True, metavar="OUT", help="the file to write")
    export.add_argument(
        "--paper", choices=[one.value for one in Paper], default=Paper.A4.value, help="of pdf and handout"
    )
    export.add_argument("--at", type=_time_argument, metavar="2026-03-02T18:30", help="when the class is, for ics")
    export.set_defaults(run=_on_file(_export))
    listen = commands.add_parser(
        "hear", help="what a past recording's timed text tells", description="Hear a recording."
    )
    listen.add_argument("file", metavar="FILE", help="WebVTT, SRT, or lines such as [1:05] and hold")
    listen.add_argument("--json", action="store_true", help="print one JSON object")
    listen.set_defaults(run=_hear)
    checks = commands.add_parser("checks", help="all checks", description="All checks, with their reasons.")
    checks.add_argument("--json", action="store_true", help="print one JSON object")
    checks.set_defaults(run=_checks)
    moves = commands.add_parser("moves", help="the library of moves", description="The shipped library of moves.")
    moves.add_argument("words", nargs="*", metavar="WORD", help="of a name, an area, a posture or a prop")
    moves.add_argument("--json", action="store_true", help="print one JSON object with all fields")
    moves.add_argument("--areas", action="store_true", help="count them by area, posture and kind")
    moves.set_defaults(run=_moves)
    return parser


def _time_argument(words: str) -> datetime:
    try:
        return datetime.fromisoformat(words).astimezone()
    except ValueError:
        raise argparse.ArgumentTypeError(f"must be a day and a time such as 2026-03-02T18:30; found {words}") from None


def _export(script: Script, chosen: argparse.Namespace) -> int:
    """Write one kind of file; what should be known of it goes to standard error."""
    one = Export(script, Paper(chosen.paper), chosen.at, voice=espeak() if chosen.kind in ("wav", "ogg") else None)
    show = sys.stderr.isatty() and chosen.kind in ("wav", "ogg")
    write(one, chosen.kind, Path(chosen.out), lambda share: show and print(f"\r{share:.0%}", end="", file=sys.stderr))
    print(f"{chosen.out}: {FILES[chosen.kind][1]}, {clock(one.timeline.length_s)}")
    about = {"vtt": about_captions, "srt": about_captions, "wav": about_voice, "ogg": about_voice}.get(chosen.kind)
    if about:
        print("\n".join(about(one)), file=sys.stderr)
    return OK


def _hear(chosen: argparse.Namespace) -> int:
    """What was taught in a recording: sentences, or every guess with its reason."""
    said = read_timed(Path(chosen.file).read_bytes())
    heard = hear(said, [entry.move.name for entry in shipped_moves()])
    report = heard_report(said, heard)
    if chosen.json:
        guesses = [
            {"at": round(g.at, 1), "what": g.what, "value": g.value, "why": g.why, "sure": g.sure}
            for g in heard.guesses
        ]
        held = [
            {"name": s.name, "side": s.side, "start": round(s.start, 1), "end": round(s.end, 1)}
            for s in heard.stretches
        ]
        _print_json({"length": report.length_s, "facts": report.facts(), "guesses": guesses, "stretches": held})
        return OK
    print("\n".join(report.facts()))
    rows = [[clock(int(s.start)), f"{s.seconds:.0f} s", s.side, s.name] for s in heard.stretches]
    _print_table(rows, ("from", "held", "side", "move"))
    return OK


def _length_argument(words: str) -> int:
    try:
        seconds = parse_clock(words)
    except RefusedError as error:
        raise argparse.ArgumentTypeError(str(error)) from None
    if not 1 <= seconds <= LONGEST_CLASS_S:
        raise argparse.ArgumentTypeError(f"must be from 0:01 to {clock(LONGEST_CLASS_S)}; found {words}")
    return seconds


def _read(name: str) -> Script:
    if name == "-":
        return loads(sys.stdin.buffer.read())
    return loads(Path(name).read_bytes())


def _write(path: Path, text: str) -> None:
    """Whole or not at all: what stood there before stays until the new text is complete."""
    beside = path.with_name(f".{path.name}.new")
    beside.write_text(text, "utf-8")
    beside.replace(path)


def _print_json(plain: dict[str, Any]) -> None:
    print(json.dumps(plain, ensure_ascii=False))


def _print_table(rows: Sequence[Sequence[str]], heads: Sequence[str]) -> None:
    table = [heads, *rows]
    widths = [max(len(row[c]) for row in table) for c in range(len(heads))]
    for row in table:
        print("  ".join(cell.ljust(width) for cell, width in zip(row, widths, strict=True)).rstrip())


def _length(script: Script, chosen: argparse.Namespace) -> int:
    fitter = Fitter(script)
    seconds = length_of(script)
    if chosen.json:
        plain = {"seconds": seconds, "least_seconds": fitter.least_s, "most_seconds": fitter.most_s}
        _print_json(plain)
    else:
        print(f"{script.title}: {clock(seconds)} (from {clock(fitter.least_s)} to {clock(fitter.most_s)})")
    return OK


def _fit(script: Script, chosen: argparse.Namespace) -> int:
    result = Fitter(script).fit(chosen.to)
    if result.reached and chosen.out:
        if chosen.out == "-":
            sys.stdout.write(dumps(result.script))
            return OK
        _write(Path(chosen.out), dumps(result.script))
    if chosen.json:
        _print_json(_fit_plain(result))
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


def _moves(chosen: argparse.Namespace) -> int:
    found = find(shipped_moves(), Query(" ".join(chosen.words)))
    if chosen.json:
        _print_json({"moves": [entry_plain(entry) for entry in found]})
        return OK
    if chosen.areas:
        _print_table(area_rows(found), ("area", *Base))
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


def _versions(script: Script, chosen: argparse.Namespace) -> int:
    found = versions(script, any_move=chosen.any)
    if chosen.json:
        _print_json({"versions": [_fit_plain(one.fit) | {"cost": one.fit.cost} for one in found]})
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


def _check(script: Script, chosen: argparse.Namespace) -> int:
    report = check(script, compile_script(script), shipped_moves(), shipped_form)
    if chosen.apply:
        mended = dumps(mend(script, report.get(chosen.apply)))
        if chosen.out and chosen.out != "-":
            _write(Path(chosen.out), mended)
        else:
            sys.stdout.write(mended)
        return OK
    if chosen.json:
        _print_json({"findings": [finding_plain(one) for one in report.open]})
        return OK
    for one in report.open:
        offered = f" [{one.found.mend.words}: --apply {one.key}]" if one.found.mend else ""
        print(f"{one.severity}: {one.found.message} ({one.code}){offered}")
    kept = f", {len(report.kept)} kept as they are" if report.kept else ""
    print(f"{script.title}: {len(report.open)} found by {len(CHECKS)} checks{kept}. {SCOPE}")
    return OK


def _checks(chosen: argparse.Namespace) -> int:
    if chosen.json:
        _print_json({"checks": [check_plain(one) for one in CHECKS]})
        return OK
    rows = [(one.code, one.family.value, one.severity.value, one.looks_at) for one in CHECKS]
    _print_table(rows, ("code", "family", "severity", "looks at"))
    return OK


def _timeline(script: Script, chosen: argparse.Namespace) -> int:
    timeline = compile_script(script)
    if chosen.json:
        _print_json(timeline_plain(timeline))
        return OK
    print(f"{script.title}: {clock(timeline.length_s)}")
    rows = [
        (clock(s.start_s), clock(s.end_s), s.kind.value, s.name, s.side.value if s.side else "", s.reason)
        for s in timeline.segments
    ]
    _print_table(rows, ("from", "to", "kind", "item", "side", "why"))
    for one in timeline.unsaid:
        print(f"unsaid: {one.text} ({one.rule}, {one.id})")
    return OK


if __name__ == "__main__":
    sys.exit(main())
