"""The camera of a recording: its sound is attached, the clap found in it, and what is kept of it decided."""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
import soundfile
from django.conf import settings
from django.http import FileResponse, Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.sound.speech import RATE
from extendum.web.classes.access import own_class
from extendum.web.shared.asked import Asked
from extendum.web.teach.models import LiveRun

#: The clap is looked for in so much of a recording; a camera is on for so long at the most.
LOOKED_S, LONGEST_S = 300, 3 * 3600
#: The waveform around the clap: so much of it, with a height for each so many milliseconds.
AROUND_MS, PEAK_MS = 3000, 5
LONGEST_NOTE = 200


def run_of(request: Asked, pk: int, key: str) -> LiveRun:
    """The user's own recording; 404 for any other."""
    return get_object_or_404(LiveRun, of=own_class(request, pk), key=key, take=True)


def sound_of(run: LiveRun) -> Path:
    """Where the sound of its camera is."""
    return Path(settings.DATA) / "takes" / f"{run.pk}.flac"


def offset_of(run: LiveRun) -> int:
    """Milliseconds of the camera's file before the clap."""
    return int(run.cut.get("offset", 0))


def _back(run: LiveRun) -> HttpResponseRedirect:
    return HttpResponseRedirect(reverse("takes", args=[run.of_id, run.key]))


@require_POST
def attach(request: Asked, pk: int, key: str) -> HttpResponse:
    """The camera's file, or its sound: kept as sound, with the clap looked for."""
    from extendum.web.teach.takes import takes_view  # that page shows what is wrong with the file

    run, file = run_of(request, pk, key), request.FILES.get("camera")
    try:
        if file is None:
            raise RefusedError("camera", "a film, or the sound of one", "no file")
        with tempfile.NamedTemporaryFile() as sent:
            for part in file.chunks():
                sent.write(part)
            sent.flush()
            found = _kept(Path(sent.name), sound_of(run))
    except ExtendumError as error:
        return takes_view(request, run, 422, refused=str(error))
    run.cut = {**run.cut, "camera": (file.name or "")[:120], "clap": found is not None, "offset": found or 0}
    run.save(update_fields=["cut"])
    return _back(run)


def _kept(sent: Path, to: Path) -> int | None:
    """Keep the sound of a file, whole or not at all; where its clap is."""
    from extendum.core.sound.clap import clap_ms
    from extendum.formats.music import decoded  # both take a second to load: only where they are wanted

    to.parent.mkdir(parents=True, exist_ok=True)
    beside, first, heard = to.with_suffix(".new"), [], 0
    try:
        with soundfile.SoundFile(beside, "w", RATE, 1, "PCM_16", format="FLAC") as out:
            for block in decoded(sent, "mono"):
                out.write(block)
                if heard < LOOKED_S * RATE:
                    first.append(block[:, 0])
                heard += len(block)
                if heard > LONGEST_S * RATE:
                    raise RefusedError("camera", f"at most {LONGEST_S // 3600} hours long", "more")
        if not heard:
            raise RefusedError("camera", "a file with sound in it", "none")
        beside.replace(to)
    finally:
        beside.unlink(missing_ok=True)
    return clap_ms(np.concatenate(first)[: LOOKED_S * RATE])


def waveform(run: LiveRun) -> dict[str, object] | None:
    """The sound around the clap, to be looked at; None where no camera is attached."""
    path = sound_of(run)
    if not path.is_file():
        return None
    from_ms = max(0, offset_of(run) - AROUND_MS)
    frame = RATE * PEAK_MS // 1000
    with soundfile.SoundFile(path) as file:
        file.seek(min(file.frames, from_ms * RATE // 1000))
        samples = file.read(2 * AROUND_MS * RATE // 1000, dtype="float32")
        whole_ms = file.frames * 1000 // RATE
    frames = len(samples) // frame
    peaks = np.abs(samples[: frames * frame]).reshape(frames, frame).max(axis=1)
    loudest = float(peaks.max(initial=0.0)) or 1.0
    heights = np.round(100 * peaks / loudest).astype(int).tolist()
    return {"from": from_ms, "peak_ms": PEAK_MS, "peaks": heights, "ms": whole_ms, "clap": offset_of(run)}


@require_safe
def camera_sound(request: Asked, pk: int, key: str) -> FileResponse:
    """The sound of the camera."""
    path = sound_of(run_of(request, pk, key))
    if not path.is_file():
        raise Http404("no camera is attached")
    return FileResponse(path.open("rb"), content_type="audio/flac")


@require_POST
def decide(request: Asked, pk: int, key: str) -> HttpResponse:
    """What is kept of a recording: a take, where the clap is, takes deleted or brought back, a note to a shot."""
    run, form = run_of(request, pk, key), request.POST
    cut = dict(run.cut)
    group, _, number = (form.get("keep") or form.get("delete") or "").rpartition("|")
    nth = whole_number(number)
    gone = [list(one) for one in cut.get("gone", [])]
    if "keep" in form and nth is not None:
        cut["chosen"] = {**cut.get("chosen", {}), group: nth}
    elif "delete" in form and nth is not None and [group, nth] not in gone:
        cut["gone"] = [*gone, [group, nth]]
    elif "back" in form:
        cut["gone"] = []
    elif form.get("deed") == "clap" and (at := whole_number(form.get("at", ""))) is not None:
        cut |= {"offset": at, "clap": True}
    elif form.get("deed") == "note" and (shot := whole_number(form.get("shot", ""))) is not None:
        cut["notes"] = {**cut.get("notes", {}), str(shot): form.get("note", "").strip()[:LONGEST_NOTE]}
    run.cut = cut
    run.save(update_fields=["cut"])
    return _back(run)
