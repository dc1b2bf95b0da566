"""The command that reads a class in; apart from the others, since what listens to sound takes a while to load."""

from __future__ import annotations

import argparse
from pathlib import Path

from extendum.commands import OK, REFUSED, print_json, write_whole
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.outputs.readings import ToRead, spoken_with, to_read, voice_of
from extendum.core.sound.clean import Cleaned, cleaned
from extendum.core.sound.cut import cut
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import length_of
from extendum.core.timing.speech import speaking_ms
from extendum.formats.document import dumps
from extendum.formats.recordings import Readings, keep, kept, load


def readings_command(script: Script, chosen: argparse.Namespace) -> int:
    """What is to be read for a class, and what was; exit code 1 where a part of a recording is in doubt."""
    readings = kept(Path(chosen.folder), chosen.voice) if chosen.folder else None
    doubts: list[tuple[str, str]] = []
    if chosen.cut:
        if readings is None or not readings.voice:
            raise RefusedError("--in", "given, with --voice, for readings to be kept", "nothing")
        readings, doubts = _cut_in(script, readings, Path(chosen.cut))
    spoken = _in_voice(script, readings) if readings and readings.by_key else script
    texts = to_read(spoken, compile_script(spoken))
    if chosen.out:
        write_whole(chosen.out, dumps(spoken))
    if chosen.json:
        print_json(_plain(texts, spoken, doubts))
    else:
        print("\n".join(_lines(texts, spoken, doubts)))
    return REFUSED if doubts else OK


def _in_voice(script: Script, readings: Readings) -> Script:
    return spoken_with(script, voice_of(readings.voice, readings.lengths), compile_script(script))


def _missing(script: Script, readings: Readings) -> list[ToRead]:
    """The texts of a class that the voice has not read, in their order."""
    return [one for one in to_read(script, compile_script(script)) if one.key not in readings.by_key]


def _cut_in(script: Script, readings: Readings, path: Path) -> tuple[Readings, list[tuple[str, str]]]:
    """One recording of every missing text, in order, cut and kept; what is in doubt is listed instead of kept."""
    missing, recorded = _missing(script, readings), load(path)
    if not missing:
        raise RefusedError("recording", "of texts that are still to be read", "a class that is read already")
    pieces = cut(recorded, [speaking_ms(one.text, script.style.speech) for one in missing])
    around = RATE // 3
    new: list[tuple[str, Cleaned]] = []
    doubts = []
    for one, piece in zip(missing, pieces, strict=True):
        clean = cleaned(recorded[max(0, piece.at.start - around) : piece.at.end + around])
        why = "; ".join(filter(None, (piece.doubt, *clean.told)))
        doubts += [(one.text, why)] if why else []
        new += [] if why else [(one.text, clean)]
    return keep(readings, new), doubts


def _lines(texts: tuple[ToRead, ...], script: Script, doubts: list[tuple[str, str]]) -> list[str]:
    read = sum(one.read_ms is not None for one in texts)
    lines = [f"{len(texts)} texts, {read} read; {clock(length_of(script))}"]
    for one in texts:
        took = f"{one.read_ms / 1000:5.1f} s" if one.read_ms is not None else "      -"
        room = f"of {one.room_ms / 1000:4.1f} s" if one.room_ms is not None else "no room "
        lines.append(f"{took} {room} {'' if one.fits else 'TOO LONG '}{one.text}")
    return lines + [f"In doubt, not kept: {text} ({why})" for text, why in doubts]


def _plain(texts: tuple[ToRead, ...], script: Script, doubts: list[tuple[str, str]]) -> dict[str, object]:
    fields = ("text", "times", "room_ms", "read_ms", "fits")
    rows = [{name: getattr(one, name) for name in fields} for one in texts]
    return {"seconds": length_of(script), "texts": rows, "doubts": [{"text": text, "why": why} for text, why in doubts]}
