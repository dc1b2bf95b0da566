"""The command line: the core on files, without a database."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess
import sys
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from io import TextIOWrapper
from pathlib import Path

from extendum import __version__
from extendum.commands import (
    BAD_INPUT,
    OK,
    check_command,
    checks_command,
    fit_command,
    hear_command,
    length_command,
    moves_command,
    timeline_command,
    versions_command,
)
from extendum.core.model.brief import LONGEST_CLASS_S
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock, parse_clock
from extendum.formats.document import loads
from extendum.formats.exports import FILMS, KINDS
from extendum.formats.paper import Paper


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; gives the exit code: 0 done, 1 out of reach or nothing found, 2 bad input."""
    parser, commands = _parser()
    chosen, more = parser.parse_known_args(arguments)
    if more:
        commands[chosen.command].error(f"unrecognized arguments: {' '.join(more)}")
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, TextIOWrapper):  # a name of a file may hold what no encoding has
            stream.reconfigure(errors="backslashreplace")
    run: Callable[[argparse.Namespace], int] = chosen.run
    try:
        return run(chosen)
    except RefusedError as error:
        print(f"extendum: {getattr(chosen, 'file', chosen.command)}: {error}", file=sys.stderr)
        return BAD_INPUT
    except BrokenPipeError:
        return OK
    except OSError as error:
        place = getattr(error, "given", None) or error.filename or getattr(chosen, "file", chosen.command)
        print(f"extendum: {place}: {error.strerror or error}", file=sys.stderr)
        return BAD_INPUT


def _on_file(run: Callable[[Script, argparse.Namespace], int]) -> Callable[[argparse.Namespace], int]:
    """A command on a class document."""
    return lambda chosen: run(_read(chosen.file), chosen)


def _parser() -> tuple[argparse.ArgumentParser, Mapping[str, argparse.ArgumentParser]]:
    """The parser, and that of each command."""
    parser = argparse.ArgumentParser(prog="extendum", description="Compute on class documents (docs/format.md).")
    parser.add_argument("--version", action="version", version=f"extendum {__version__}")
    commands = parser.add_subparsers(required=True, metavar="COMMAND", dest="command")
    _add_on_file(commands)
    export = commands.add_parser("export", help="captions, script, PDF, sound ...", description="Give a class away.")
    export.add_argument("file", metavar="FILE", help="a class document, or - for standard input")
    export.add_argument(
        "--as", dest="kind", required=True, choices=[one for one in KINDS if one not in FILMS], help="what to make"
    )
    export.add_argument("-o", "--out", required=True, metavar="OUT", help="the file to write; - for standard output")
    export.add_argument(
        "--paper", choices=[one.value for one in Paper], default=Paper.A4.value, help="of pdf and handout"
    )
    export.add_argument("--at", type=_time_argument, metavar="2026-03-02T18:30", help="when the class is; ics needs it")
    export.add_argument("--readings", metavar="FOLDER", help="of a guide or a page: who has read the class in")
    export.add_argument("--music", metavar="FILE", help="of a guide: music under it, a file or drone, which ships")
    export.set_defaults(run=_on_file(_export))
    _add_film(commands.add_parser("film", help="the class as a film", description="Make a film of a class."))
    listen = commands.add_parser(
        "hear", help="what a past recording's timed text tells", description="Hear a recording."
    )
    listen.add_argument("file", metavar="FILE", help="WebVTT, SRT, or lines such as [1:05] and hold")
    listen.add_argument("--json", action="store_true", help="print one JSON object")
    listen.add_argument(
        "-o", "--out", metavar="OUT", help="where the class goes that it makes: a draft to be looked at"
    )
    listen.set_defaults(run=hear_command)
    checks = commands.add_parser("checks", help="all checks", description="All checks, with their reasons.")
    checks.add_argument("--json", action="store_true", help="print one JSON object")
    checks.set_defaults(run=checks_command)
    moves = commands.add_parser("moves", help="the library of moves", description="The shipped library of moves.")
    moves.add_argument("words", nargs="*", metavar="WORD", help="of a name, an area, a posture or a prop")
    moves.add_argument("--json", action="store_true", help="print one JSON object with all fields")
    moves.add_argument("--areas", action="store_true", help="count them by area, posture and kind")
    moves.add_argument("--conditions", action="store_true", help="what each condition asks of each move")
    moves.set_defaults(run=moves_command)
    _add_propose(commands.add_parser("propose", help="a class from its brief", description="Propose classes."))
    _add_readings(commands.add_parser("readings", help="what is to be read, and was", description="Read a class in."))
    _add_serve(commands.add_parser("serve", help="start the application", description="Start the application."))
    return parser, commands.choices


def _add_on_file(commands: argparse._SubParsersAction[argparse.ArgumentParser]) -> None:
    """The commands that compute on one class document."""
    for name, run, about in (
        ("length", length_command, "how long the class is, and could be"),
        ("fit", fit_command, "fit the class to a length, to the second"),
        ("timeline", timeline_command, "everything that happens, in order"),
        ("versions", versions_command, "the class at 5, 10, 15, 20, 30 and 45 minutes"),
        ("check", check_command, "what the checks find in the class"),
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
        if name == "timeline":
            command.add_argument("--styles", action="store_true", help="its calls in each talk style, side by side")
        if name == "versions":
            command.add_argument("--any", action="store_true", help="any move may be left out, not only those marked")


def _add_film(film: argparse.ArgumentParser) -> None:
    film.add_argument("file", metavar="FILE", help="a class document, or - for standard input")
    film.add_argument("-o", "--out", required=True, metavar="OUT", help="the film, .mp4 or .webm")
    film.add_argument(
        "--size", choices=("720", "1080", "upright"), default="720", help="1280x720, 1920x1080, 1080x1920"
    )
    film.add_argument("--rate", type=int, choices=(25, 30), default=25, help="frames a second")
    film.add_argument("--dark", action="store_true", help="for a dark room")
    film.add_argument(
        "--no-captions", action="store_true", help="captions are not drawn in; they are in a track anyway"
    )
    film.add_argument("--silent", action="store_true", help="without the guide")
    film.add_argument("--readings", metavar="FOLDER", help="who has read the class in")
    film.add_argument("--music", metavar="FILE", help="music under the guide, a file or drone, which ships")
    film.set_defaults(run=_on_file(_film))


def _film(script: Script, chosen: argparse.Namespace) -> int:
    """Load what makes films only where it is wanted."""
    from extendum.exporting import film_command

    return film_command(script, chosen)


def _add_readings(readings: argparse.ArgumentParser) -> None:
    readings.add_argument("file", metavar="FILE", help="a class document, or - for standard input")
    readings.add_argument("--in", dest="folder", metavar="FOLDER", help="where readings are kept, or are to be")
    readings.add_argument("--voice", default="", metavar="NAME", help="whose voice it is; needed for a new folder")
    readings.add_argument("--cut", metavar="RECORDING", help="one recording of every missing text, in order, to be cut")
    readings.add_argument("-o", "--out", metavar="OUT", help="where the class goes, with the lengths of the voice")
    readings.add_argument("--json", action="store_true", help="print one JSON object")
    readings.set_defaults(run=_on_file(_readings))


def _export(script: Script, chosen: argparse.Namespace) -> int:
    """Load what makes sound only where it is wanted, as below."""
    from extendum.exporting import export_command

    return export_command(script, chosen)


def _readings(script: Script, chosen: argparse.Namespace) -> int:
    """Load what listens to sound only where it is wanted."""
    from extendum.reading import readings_command

    return readings_command(script, chosen)


def _add_propose(propose: argparse.ArgumentParser) -> None:
    propose.add_argument("file", metavar="FILE", help="a class document with its brief; what is in it stays")
    propose.add_argument(
        "--to", type=_length_argument, metavar="20:00", help="the length; that of the brief without it"
    )
    propose.add_argument("-o", "--out", metavar="OUT", help="where the class goes; further ones beside it, numbered")
    propose.add_argument("-n", type=int, choices=range(1, 6), default=3, help="how many; 3 without it")
    propose.add_argument("--seconds", type=_seconds_argument, default=10.0, help="for each; 10 without it")
    propose.add_argument("--json", action="store_true", help="print one JSON object")
    propose.set_defaults(run=_on_file(_propose))


def _propose(script: Script, chosen: argparse.Namespace) -> int:
    """Load the solver only where it is wanted."""
    from extendum.proposing import propose_command

    return propose_command(script, chosen)


def _add_serve(serve: argparse.ArgumentParser) -> None:
    serve.add_argument("--demo", action="store_true", help="with demo data, for this machine only, in the browser")
    serve.add_argument("--host", default="", help="the address to answer on; this machine only without it")
    serve.add_argument("--port", default="", help="8000 without it")
    serve.add_argument("--cert", default="", help="a certificate, PEM; one is made where it is needed and not given")
    serve.add_argument("--key", default="", help="the key of the certificate, PEM")
    serve.add_argument("--data", default="", help="the folder for classes and accounts")
    serve.set_defaults(run=_serve)


def _serve(chosen: argparse.Namespace) -> int:
    """Start the application as a process of its own: the command line itself knows nothing of the web."""
    kept = Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share") / "extendum"
    folder = chosen.data or os.environ.get("EXTENDUM_DATA") or str(kept / "demo" if chosen.demo else kept)
    given = {"HOST": chosen.host, "PORT": chosen.port, "CERT": chosen.cert, "KEY": chosen.key}
    env = {**os.environ, **{name: value for name, value in given.items() if value}, "EXTENDUM_DATA": folder}
    print(f"Data is kept in {folder}", flush=True)
    command = [sys.executable, "-m", "extendum.web.serve", *(["--demo"] if chosen.demo else [])]
    with subprocess.Popen(command, env=env) as server:  # noqa: S603
        signal.signal(signal.SIGTERM, lambda *_: server.terminate())
        while True:
            try:
                return server.wait()
            except KeyboardInterrupt:  # the server hears it, too, and stops by itself
                continue


def _time_argument(words: str) -> datetime:
    try:
        return datetime.fromisoformat(words).astimezone()
    except ValueError:
        raise argparse.ArgumentTypeError(f"must be a day and a time such as 2026-03-02T18:30; found {words}") from None


def _seconds_argument(words: str) -> float:
    try:
        seconds = float(words)
    except ValueError:
        seconds = 0.0
    if not 0.5 <= seconds <= 600:
        raise argparse.ArgumentTypeError(f"must be from 0.5 to 600 seconds; found {words}")
    return seconds


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


if __name__ == "__main__":
    sys.exit(main())
