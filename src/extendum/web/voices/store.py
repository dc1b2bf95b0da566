"""Keeping what was read: rows in the database, sound in the data folder."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import TYPE_CHECKING
from uuid import uuid4

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from extendum.core.model import voice as core
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.model.voice import Length, spoken_key
from extendum.core.outputs.readings import spoken_with, voice_of
from extendum.core.outputs.sound import Speaker
from extendum.core.sound.speech import Samples
from extendum.core.timing.compile import compile_script
from extendum.formats import recordings
from extendum.web.classes.models import StretchClass
from extendum.web.voices.models import Reading, Voice

if TYPE_CHECKING:
    from extendum.core.sound.clean import Cleaned

#: So many voices one instructor has at the most.
MOST_VOICES = 20


def folder_of(voice: Voice) -> Path:
    """Where the sound of a voice is."""
    return Path(settings.DATA) / "voices" / str(voice.pk)


def known_by(text: str) -> str:
    """What a text is found by."""
    return hashlib.sha256(spoken_key(text).encode()).hexdigest()


def named(owner: User, name: str) -> Voice:
    """A voice by its name, new where there is none yet; RefusedError for a name that none may have."""
    name = name.strip()
    core.Voice(name)  # what holds for a voice of a class holds here
    found = Voice.objects.filter(owner=owner, name=name).first()
    if found is None and Voice.objects.filter(owner=owner).count() >= MOST_VOICES:
        raise RefusedError("voices", f"at most {MOST_VOICES}", "one more")
    return found or Voice.objects.create(owner=owner, name=name)


def voice_for(script: Script, owner: User) -> Voice | None:
    """The voice that a class is spoken in, where its owner has one of that name."""
    voice = script.style.voice
    return Voice.objects.filter(owner=owner, name=voice.name).first() if voice else None


def lengths_of(voice: Voice) -> core.Voice:
    """The voice as a class knows it: everything that it has read, and its rate."""
    rows = voice.readings.order_by("pk").values_list("text", "ms")
    return voice_of(voice.name, [Length(text, ms) for text, ms in rows])


def spoken(script: Script, voice: Voice | None) -> Script:
    """The class in a voice as it has read up to now; None: in none."""
    return spoken_with(script, lengths_of(voice) if voice else None, compile_script(script))


def keep(voice: Voice, text: str, recorded: Samples, clean: Cleaned, of: StretchClass | None) -> Reading:
    """Keep a reading with its untouched original; one of the same text is replaced."""
    folder, name = folder_of(voice), uuid4().hex
    folder.mkdir(parents=True, exist_ok=True)
    recordings.write_flac(folder / f"{name}.flac", clean.samples)
    recordings.write_flac(folder / f"{name}.original.flac", recorded)
    facts = {"text": text, "ms": clean.ms, "loudness": clean.loudness, "file": name, "read_for": of}
    with transaction.atomic():
        before = Reading.objects.select_for_update().filter(voice=voice, known_by=known_by(text)).first()
        made, _ = Reading.objects.update_or_create(
            voice=voice, known_by=known_by(text), defaults={**facts, "read_at": timezone.now()}
        )
    if before:
        _remove(folder, before.file)
    return made


def forget(reading: Reading) -> None:
    """Take a reading away, with its sound."""
    folder = folder_of(reading.voice)
    reading.delete()
    _remove(folder, reading.file)


def _remove(folder: Path, file: str) -> None:
    for name in (f"{file}.flac", f"{file}.original.flac"):
        (folder / name).unlink(missing_ok=True)


def readings_of(voice: Voice) -> recordings.Readings:
    """Everything that a voice has read, for a guide."""
    rows = voice.readings.all()
    by_key = {spoken_key(r.text): recordings.Reading(r.text, r.ms, f"{r.file}.flac", r.loudness) for r in rows}
    return recordings.Readings(voice.name, folder_of(voice), by_key)


def speaker(script: Script, owner: User, otherwise: Speaker | None) -> Speaker | None:
    """Who speaks in the guide of a class: its voice where it has one, otherwise the stand-in."""
    voice = voice_for(script, owner)
    return recordings.spoken_by(readings_of(voice), otherwise) if voice else otherwise


def spoken_readings(script: Script, timeline: Timeline, owner: User) -> dict[str, object]:
    """What a Stage needs to speak with the voice of a class: its name, and the address of each reading by its key."""
    voice = voice_for(script, owner)
    if voice is None:
        return {"name": "", "readings": {}}
    rows = {spoken_key(one.text): one for one in voice.readings.all()}
    said = dict.fromkeys(spoken_key(cue.text) for cue in timeline.cues)
    return {"name": voice.name, "readings": {key: address_of(rows[key]) for key in said if key in rows}}


def address_of(reading: Reading) -> str:
    """Where a reading is heard; it changes with what was read."""
    return f"{reverse('reading-sound', args=[reading.voice_id, reading.pk])}?{reading.file[:8]}"
