"""The command that gives a class away as a file."""

from __future__ import annotations

import argparse
import atexit
import shutil
import sys
import tempfile
from pathlib import Path

from extendum.commands import OK, named_place
from extendum.core.edit.script_edits import set_music
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.outputs.bedding import SHIPPED, Music
from extendum.core.outputs.sound import Speaker
from extendum.formats.exports import FILES, FILMS, SOUNDS, Export, about_captions, about_print, about_sound, write
from extendum.formats.music import music_from
from extendum.formats.paper import Paper
from extendum.formats.recordings import kept, spoken_by
from extendum.voice import stand_in


def export_command(script: Script, chosen: argparse.Namespace) -> int:
    """Write one kind of file; what should be known of it goes to standard error."""
    sounds = chosen.kind in (*SOUNDS, *FILMS)
    voice = _guide_voice(chosen.readings) if sounds else None
    one = Export(script, Paper(chosen.paper), chosen.at, voice=voice)
    if chosen.kind == "page" and chosen.readings:
        one.voice, one.speaks = _guide_voice(chosen.readings), Path(chosen.readings).name
    if chosen.kind in FILMS:
        one.film = {"size": chosen.size, "rate": chosen.rate, "dark": chosen.dark, "drawn": not chosen.no_captions}
        one.silent = chosen.silent
    if chosen.music is not None:
        one.script, one.beds = _under(script, chosen.music)
    if chosen.kind == "ics" and chosen.at is None:
        raise RefusedError("--at", "given for a calendar entry, such as --at 2026-03-02T18:30", "nothing")
    show = sys.stderr.isatty() and sounds

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
    about = (
        about_sound
        if sounds
        else {"vtt": about_captions, "srt": about_captions, "pdf": about_print, "handout": about_print}.get(chosen.kind)
    )
    if about and (told := about(one)):
        print("\n".join(told), file=sys.stderr)
    return OK


def film_command(script: Script, chosen: argparse.Namespace) -> int:
    """Write the film; what it is called says which kind it is."""
    kind = Path(chosen.out).suffix.removeprefix(".").lower()
    if kind not in FILMS:
        raise RefusedError("--out", "a file whose name ends with .mp4 or .webm", chosen.out)
    for name, value in {"kind": kind, "paper": Paper.A4.value, "at": None}.items():
        setattr(chosen, name, value)
    return export_command(script, chosen)


def _under(script: Script, named: str) -> tuple[Script, dict[str, Music]]:
    """The class with music under all of it: what ships, or a file."""
    if named in SHIPPED:
        return set_music(script, named), dict(SHIPPED)
    name = Path(named).stem[:80]
    kept = Path(tempfile.mkdtemp(prefix="extendum-")) / "music.wav"
    atexit.register(shutil.rmtree, kept.parent, ignore_errors=True)
    return set_music(script, name), {**SHIPPED, name: music_from(Path(named), kept)}


def _guide_voice(folder: str | None) -> Speaker | None:
    """Who speaks in a guide: whoever has read the class in, otherwise the stand-in, where there is one."""
    if not folder:
        return stand_in()
    return spoken_by(kept(Path(folder)), stand_in())
