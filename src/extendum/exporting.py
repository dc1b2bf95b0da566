"""The command that gives a class away as a file."""

from __future__ import annotations

import argparse
import sys
import tempfile
from pathlib import Path

from extendum.commands import OK, named_place
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.outputs.sound import Speaker
from extendum.formats.exports import FILES, Export, about_captions, about_voice, write
from extendum.formats.pdf import Paper
from extendum.voice import espeak


def export_command(script: Script, chosen: argparse.Namespace) -> int:
    """Write one kind of file; what should be known of it goes to standard error."""
    voice = _guide_voice(chosen.readings) if chosen.kind in ("wav", "ogg") else None
    one = Export(script, Paper(chosen.paper), chosen.at, voice=voice)
    if chosen.kind == "ics" and chosen.at is None:
        raise RefusedError("--at", "given for a calendar entry, such as --at 2026-03-02T18:30", "nothing")
    show = sys.stderr.isatty() and chosen.kind in ("wav", "ogg")

    def progress(share: float) -> None:
        if show:
            print(f"\r{share:.0%}", end="", file=sys.stderr)

    if chosen.out == "-":
        with tempfile.TemporaryDirectory() as folder:
            made = Path(folder) / FILES[chosen.kind][0]
            write(one, chosen.kind, made, progress)
            sys.stdout.buffer.write(made.read_bytes())
    else:
        with named_place(chosen.out):
            write(one, chosen.kind, Path(chosen.out), progress)
        print(f"{chosen.out}: {FILES[chosen.kind][1]}, {clock(one.timeline.length_s)}")
    about = {"vtt": about_captions, "srt": about_captions, "wav": about_voice, "ogg": about_voice}.get(chosen.kind)
    if about:
        print("\n".join(about(one)), file=sys.stderr)
    return OK


def _guide_voice(folder: str | None) -> Speaker | None:
    """Who speaks in a guide: whoever has read the class in, otherwise the stand-in, where there is one."""
    if not folder:
        return espeak()
    from extendum.formats.recordings import kept  # what listens to sound is loaded only where it is wanted
    from extendum.reading import reader

    return reader(kept(Path(folder)), espeak())
