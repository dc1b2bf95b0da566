"""Recordings as files: any sound is read as speech is, and readings are kept in a folder with a table beside them."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import IO, TYPE_CHECKING

import soundfile

from extendum.core.model.errors import RefusedError
from extendum.core.model.voice import Length, spoken_key
from extendum.core.outputs.sound import Speaker, tone
from extendum.core.sound.between import at_rate
from extendum.core.sound.speech import AROUND_MS, RATE, Samples
from extendum.formats.json_text import read_json

if TYPE_CHECKING:
    from extendum.core.sound.clean import Cleaned

#: A recording of a whole class and more.
LONGEST_S = 3 * 3600
TABLE = "readings.json"


@dataclass(frozen=True, slots=True)
class Reading:
    """A text that was read: its words, how long from its first sound to its last, and the file of its sound."""

    text: str
    ms: int
    file: str
    loudness: float = 0.0


@dataclass(frozen=True, slots=True)
class Readings:
    """What a voice has read, by what each text is known by, in a folder."""

    voice: str
    folder: Path
    by_key: Mapping[str, Reading]

    @property
    def lengths(self) -> tuple[Length, ...]:
        """The table that a class carries."""
        return tuple(Length(one.text, one.ms) for one in self.by_key.values())

    def samples(self, text: str) -> Samples | None:
        """The sound of a text from its first sound to its last; None where there is none."""
        one = self.by_key.get(spoken_key(text))
        if one is None or not (self.folder / one.file).is_file():
            return None
        around = RATE * AROUND_MS // 1000
        return load(self.folder / one.file)[around : around + RATE * one.ms // 1000]


def load(path: Path | IO[bytes]) -> Samples:
    """A recording (WAV, FLAC, Ogg, MP3) as one channel at 48 kHz; RefusedError where it is no sound or too long."""
    try:
        with soundfile.SoundFile(path) as file:
            if file.frames > LONGEST_S * file.samplerate:
                hours = f"{file.frames / file.samplerate / 3600:.1f}"
                raise RefusedError("recording", f"at most {LONGEST_S // 3600} hours long", hours)
            mono = file.read(dtype="float32", always_2d=True).mean(axis=1)
            rate = file.samplerate
    except soundfile.LibsndfileError as error:
        raise RefusedError("recording", "sound as WAV, FLAC, Ogg or MP3", str(error)) from None
    return at_rate(mono, rate)


def kept(folder: Path, voice: str = "") -> Readings:
    """What is kept in a folder; nothing yet where there is no table, in the voice that is named."""
    table = folder / TABLE
    if not table.exists():
        return Readings(voice, folder, {})
    plain = read_json(table.read_text("utf-8"))
    try:
        found = [Reading(**one) for one in plain["readings"]]
        readings = Readings(str(plain["voice"]), folder, {spoken_key(one.text): one for one in found})
    except (KeyError, TypeError) as error:
        raise RefusedError(str(table), "a table of readings, as it was written", str(error)) from None
    if voice and voice != readings.voice:
        raise RefusedError("voice", f"{readings.voice}, whose readings are in {folder}", voice)
    return readings


def write_flac(path: Path, samples: Samples) -> None:
    """Keep sound as it is, whole or not at all."""
    beside = path.with_name(f".{path.name}.new")
    try:
        soundfile.write(beside, samples, RATE, "PCM_16", format="FLAC")
        beside.replace(path)
    finally:
        beside.unlink(missing_ok=True)


def spoken_by(readings: Readings, otherwise: Speaker | None) -> Speaker:
    """Who speaks in a guide: what was read as it was read, everything else as another voice says it, or as a tone."""

    def say(text: str, rate: int) -> Samples:
        read = readings.samples(text)
        if read is not None:
            return read
        return otherwise(text, rate) if otherwise else tone("said")

    return say


def keep(readings: Readings, new: Iterable[tuple[str, Cleaned]]) -> Readings:
    """The same with more: each text as FLAC, then the table; a text that was read before is replaced."""
    readings.folder.mkdir(parents=True, exist_ok=True)
    by_key = dict(readings.by_key)
    for text, clean in new:
        key = spoken_key(text)
        file = by_key[key].file if key in by_key else _free(text, {one.file for one in by_key.values()})
        write_flac(readings.folder / file, clean.samples)
        by_key[key] = Reading(text, clean.ms, file, round(clean.loudness, 1))
    rows = [{"text": r.text, "ms": r.ms, "file": r.file, "loudness": r.loudness} for r in by_key.values()]
    plain = {"format": "extendum-readings", "version": 1, "voice": readings.voice, "readings": rows}
    beside = readings.folder / f".{TABLE}.new"
    beside.write_text(json.dumps(plain, ensure_ascii=False, indent=1), "utf-8")
    beside.replace(readings.folder / TABLE)
    return Readings(readings.voice, readings.folder, by_key)


def _free(text: str, used: set[str]) -> str:
    """A file name that says what is read in it."""
    words = re.sub(r"[^a-z0-9]+", "-", text.casefold()).strip("-")[:48].strip("-") or "text"
    names = (f"{words}.flac", *(f"{words}-{n}.flac" for n in range(2, len(used) + 3)))
    return next(one for one in names if one not in used)
