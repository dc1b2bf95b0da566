"""A recording of many texts, cut into readings: looked at first, with every cut to be moved, and kept then."""

from __future__ import annotations

import json
import re
import time
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from uuid import uuid4

import numpy as np
from django.core.files.uploadedfile import UploadedFile
from django.http import FileResponse, Http404, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.outputs.readings import ToRead
from extendum.core.sound.speech import RATE, Samples
from extendum.core.timing.speech import speaking_ms
from extendum.formats.recordings import load, write_flac
from extendum.web.classes.access import own_class
from extendum.web.shared.asked import Asked
from extendum.web.voices import store
from extendum.web.voices.models import Voice
from extendum.web.voices.views import Page, own_voice, readings_page

#: A recording that was not kept is forgotten after so long.
KEPT_S = 7 * 86_400
#: The waveform has a height for each so many milliseconds.
PEAK_MS = 20
#: Between files that are read in together, and around a piece that is cleaned, up to the next one.
BETWEEN_MS, AROUND_MS = 1000, 120


@dataclass(frozen=True, slots=True)
class Recording:
    """A recording that waits to be looked at: its sound, and where each text is in it."""

    voice: Voice
    name: str

    @property
    def sound(self) -> Path:
        """Its file."""
        return store.folder_of(self.voice) / "cutting" / f"{self.name}.flac"

    @property
    def facts(self) -> dict[str, Any]:
        """What was found in it; 404 where there is no such recording any more."""
        beside = self.sound.with_suffix(".json")
        if not beside.is_file():
            raise Http404("no such recording")
        found: dict[str, Any] = json.loads(beside.read_text("utf-8"))
        return found

    def write(self, recorded: Samples, pieces: list[dict[str, object]]) -> None:
        """Keep it until it was looked at; old ones go."""
        self.sound.parent.mkdir(parents=True, exist_ok=True)
        for old in self.sound.parent.iterdir():
            if old.stat().st_mtime < time.time() - KEPT_S:
                old.unlink(missing_ok=True)
        write_flac(self.sound, recorded)
        frame = RATE * PEAK_MS // 1000
        frames = len(recorded) // frame
        peaks = np.abs(recorded[: frames * frame]).reshape(frames, frame).max(axis=1)
        loudest = float(peaks.max(initial=0.0)) or 1.0
        facts = {
            "ms": len(recorded) * 1000 // RATE,
            "peak_ms": PEAK_MS,
            "peaks": np.round(100 * peaks / loudest).astype(int).tolist(),
            "pieces": pieces,
        }
        self.sound.with_suffix(".json").write_text(json.dumps(facts, ensure_ascii=False), "utf-8")

    def forget(self) -> None:
        """Take it away."""
        self.sound.unlink(missing_ok=True)
        self.sound.with_suffix(".json").unlink(missing_ok=True)


@require_POST
def read_recording(request: Asked, pk: int, voice: int) -> HttpResponse:
    """Cut what was recorded: one file of all missing texts in order, or a file for each."""
    of, own = own_class(request, pk), own_voice(request, voice)
    files = request.FILES.getlist("recording")
    try:
        page = Page.of_class(of, own)
        missing = [text for text in page.texts if page.reading(text) is None]
        if request.POST.get("order") == "short":
            missing.sort(key=lambda text: len(text.text))
        if not missing:
            raise RefusedError("recording", "of texts that are still to be read", "a class that is read already")
        if not files:
            raise RefusedError("recording", "a file: WAV, FLAC, Ogg or MP3", "none")
        guesses = [speaking_ms(text.text, page.script.style.speech) for text in missing]
        recorded, pieces = _one(files[0], missing, guesses) if len(files) == 1 else _many(files, missing)
    except ExtendumError as error:
        return readings_page(request, of, own, 422, refused=str(error))
    made = Recording(own, uuid4().hex)
    made.write(recorded, pieces)
    return HttpResponseRedirect(reverse("cutting", args=[pk, voice, made.name]))


def _one(
    file: UploadedFile[Any], missing: Sequence[ToRead], guesses: list[int]
) -> tuple[Samples, list[dict[str, object]]]:
    from extendum.core.sound.cut import cut  # takes a second to load: only where it is wanted

    recorded = load(file)
    pieces = cut(recorded, guesses)
    return recorded, [
        _piece(missing[one.text], one.at.start * 1000 // RATE, -(-one.at.end * 1000 // RATE), one.doubt)
        for one in pieces
    ]


def _many(files: Sequence[UploadedFile[Any]], missing: Sequence[ToRead]) -> tuple[Samples, list[dict[str, object]]]:
    """Files by their names, one after the other, each for the next text; those that say which come to it."""
    if len(files) > len(missing):
        raise RefusedError("recording", f"at most {len(missing)} files, one for each missing text", str(len(files)))
    left = list(missing)
    parts: list[Samples] = []
    pieces: list[dict[str, object]] = []
    at = 0
    for file in sorted(
        files, key=lambda one: [int(n) if n.isdigit() else n for n in re.split(r"(\d+)", one.name or "")]
    ):
        name = _slug(Path(file.name or "").stem)
        says = [n for n, one in enumerate(left) if _slug(one.text) == name and not name.isdigit()]
        text = left.pop(says[0] if says else 0)
        sound = load(file)
        pieces.append(_piece(text, at, at + len(sound) * 1000 // RATE, ""))
        parts += [sound, np.zeros(RATE * BETWEEN_MS // 1000, np.float32)]
        at += (len(sound) + RATE * BETWEEN_MS // 1000) * 1000 // RATE
    return np.concatenate(parts), pieces


def _slug(words: str) -> str:
    return re.sub(r"[^a-z0-9]+", "", words.casefold())


def _piece(text: ToRead, start_ms: int, end_ms: int, doubt: str) -> dict[str, object]:
    return {"text": text.text, "room": text.room_ms, "from": start_ms, "to": end_ms, "doubt": doubt}


@require_safe
def cutting(request: Asked, pk: int, voice: int, name: str) -> HttpResponse:
    """The recording with its cuts, to be looked at."""
    of, own = own_class(request, pk), own_voice(request, voice)
    facts = Recording(own, name).facts
    doubts = sum(bool(one["doubt"]) for one in facts["pieces"])
    context = {"class": of, "voice": own, "name": name, "facts": facts, "doubts": doubts}
    return render(request, "voices/cutting.html", context)


@require_safe
def cutting_sound(request: Asked, voice: int, name: str) -> FileResponse:
    """The recording itself."""
    path = Recording(own_voice(request, voice), name).sound
    if not path.is_file():
        raise Http404("no such recording")
    return FileResponse(path.open("rb"), content_type="audio/flac")


@require_POST
def keep_cuts(request: Asked, pk: int, voice: int, name: str) -> JsonResponse:
    """Keep the pieces that were chosen, as they were cut in the end; the rest of the recording goes."""
    from extendum.core.sound.clean import cleaned  # takes a second to load: only where it is wanted

    of, own = own_class(request, pk), own_voice(request, voice)
    made = Recording(own, name)
    texts = {one["text"] for one in made.facts["pieces"]}
    recorded, kept = load(made.sound), 0
    refused: list[str] = []
    try:
        pieces = [
            (str(one["text"]), int(one["from"]), int(one["to"])) for one in json.loads(request.POST.get("pieces", ""))
        ]
    except (ValueError, KeyError, TypeError):
        return JsonResponse({"refused": ["The cuts did not come as this page sends them. Load it again."]}, status=422)
    for text, start_ms, end_ms in pieces:
        if text not in texts:
            continue
        before = max((end for _, _, end in pieces if end <= start_ms), default=0)
        after = min((start for _, start, _ in pieces if start >= end_ms), default=len(recorded))
        first, last = max(before, start_ms - AROUND_MS), min(after, end_ms + AROUND_MS)
        piece = recorded[first * RATE // 1000 : last * RATE // 1000]
        try:
            store.keep(own, text, piece, cleaned(piece), of)
            kept += 1
        except ExtendumError as error:
            refused.append(f"{text}: {error}")
    if not refused:
        made.forget()
    return JsonResponse({"kept": kept, "refused": refused, "to": f"{reverse('readings', args=[pk])}?voice={voice}"})


@require_POST
def forget_cuts(request: Asked, pk: int, voice: int, name: str) -> HttpResponse:
    """Nothing of this recording is kept."""
    own_class(request, pk)
    Recording(own_voice(request, voice), name).forget()
    return HttpResponseRedirect(f"{reverse('readings', args=[pk])}?voice={voice}")
