"""The takes of a recording: the list with offsets, and captions, chapters and sound that follow what was kept."""

from __future__ import annotations

import csv
import io
import tempfile
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from extendum.core.model.limits import whole_number
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline, clock
from extendum.core.outputs.captions import Caption, Chapter, captions, chapters, hasty
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.run.fold import fold
from extendum.core.run.steps import steps_of
from extendum.core.run.takes import Mark, Take, filmed, marks, takes
from extendum.formats.captions import chapters_list, chapters_vtt, srt, vtt
from extendum.formats.edit_list import RATES, edit_list
from extendum.formats.running_order import no_formula
from extendum.web.classes import store
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.teach.camera import offset_of, run_of, waveform
from extendum.web.teach.models import LiveRun

#: A camera was not on longer than this before the slate.
MOST_OFFSET_S = 3600
KINDS = {
    "vtt": "captions.vtt",
    "srt": "captions.srt",
    "chapters": "chapters.vtt",
    "chapters-list": "chapters.txt",
    "takes": "takes.csv",
    "edit-list": "takes.edl",
    "recorder": "recorder.wav",
}


@dataclass(frozen=True, slots=True)
class _Recording:
    """A recording that was told."""

    script: Script
    timeline: Timeline
    takes: list[Take]
    marks: list[Mark]
    raw: Timeline
    cut: Timeline


def _recording(request: Asked, pk: int, key: str) -> tuple[LiveRun, _Recording]:
    return _of(run_of(request, pk, key))


def _of(run: LiveRun) -> tuple[LiveRun, _Recording]:
    if run.revision is None:
        raise Http404("the revision of this recording is not known")
    script, timeline = store.script_of(run.revision), compiled(bytes(run.revision.document))
    events = run.told()
    folded = fold(steps_of(script, timeline), events)
    gone = {(str(group), int(number)) for group, number in run.cut.get("gone", [])}
    some = takes(folded, events, run.cut.get("chosen", {}), gone)
    films = (filmed(timeline, folded, some), filmed(timeline, folded, some, cut=True))
    return run, _Recording(script, timeline, some, marks(folded, events), *films)


def as_recorded(run: LiveRun) -> tuple[list[Caption], list[Chapter]]:
    """Captions and chapters of a recording as it is cut: those of the takes that are kept, one after the other."""
    _, found = _of(run)
    return captions(found.cut), chapters(cue_sheet(found.script, found.cut))


@require_safe
def takes_page(request: Asked, pk: int, key: str) -> HttpResponse:
    """The take list; ?part=1 as a part of the Stage."""
    return takes_view(request, run_of(request, pk, key))


def takes_view(request: Asked, run: LiveRun, status: int = 200, **facts: object) -> HttpResponse:
    """The take list of a recording, with what was refused."""
    _, found = _of(run)
    offset = _offset(request, run)
    names = {item.id: item.name for item in found.script.items()}
    rows = [
        (
            names.get(one.item, ""),
            one.side,
            one.number,
            _time(one.start_ms + offset),
            _time(one.end_ms + offset),
            one,
            one.start_ms + offset,
            f"{(one.end_ms - one.start_ms) / 1000:.1f}",
        )
        for one in found.takes
    ]
    again, notes = {one.item for one in found.takes if one.number > 1}, run.cut.get("notes", {})
    context = {
        "class": run.of,
        "run": run,
        "rows": rows,
        "marks": [
            (n, _time(one.at_ms + offset), one.words, names.get(one.item, ""), one.side, notes.get(str(n), ""))
            for n, one in enumerate(found.marks)
        ],
        "camera": run.cut.get("camera", ""),
        "clap": run.cut.get("clap", False),
        "wave": waveform(run),
        "gone": len(run.cut.get("gone", [])),
        "rates": RATES,
        "retaken": [names.get(item, "") for item in dict.fromkeys(t.item for t in found.takes) if item in again],
        "offset": f"{offset / 1000:g}",
        "lasts": clock(found.raw.length_s),
        "cut": clock(found.cut.length_s),
        "hasty": len(hasty(captions(found.cut))),
        "kinds": KINDS.items(),
    }
    part = request.GET.get("part") == "1"
    return render(request, "teach/_takes.html" if part else "teach/takes.html", {**context, **facts}, status=status)


def _offset(request: Asked, run: LiveRun) -> int:
    """Milliseconds of the file before the slate: as asked, or as it was found; 0 for what is no number of seconds."""
    if "offset" not in request.GET:
        return offset_of(run)
    try:
        seconds = float(request.GET["offset"].replace(",", "."))
    except ValueError:
        return 0
    return round(seconds * 1000) if 0 <= seconds <= MOST_OFFSET_S else 0


def _time(ms: int) -> str:
    return f"{ms // 60_000}:{ms // 1000 % 60:02d}.{ms % 1000 // 100}"


@require_safe
def take_file(request: Asked, pk: int, key: str, kind: str) -> HttpResponse:
    """Something that follows the takes that were kept: in the file as it is, or with ?cut=1 put together."""
    if kind not in KINDS:
        raise Http404("no such file")
    run, found = _recording(request, pk, key)
    cut = request.GET.get("cut") == "1"
    offset = 0 if cut else _offset(request, run)
    rate = whole_number(request.GET.get("rate", ""))
    film = found.cut if cut else found.raw
    late = offset // 1000
    entries = [replace(e, start_s=e.start_s + late, end_s=e.end_s + late) for e in cue_sheet(found.script, film)]
    said = [replace(c, start_ms=c.start_ms + offset, end_ms=c.end_ms + offset) for c in captions(film)]
    makes = {
        "vtt": lambda: vtt(said),
        "srt": lambda: srt(said),
        "chapters": lambda: chapters_vtt(chapters(entries)),
        "chapters-list": lambda: chapters_list(chapters(entries)),
        "takes": lambda: _csv(found, offset, run.cut.get("notes", {})),
        "edit-list": lambda: edit_list(
            found.script.title, found.takes, _names(found), _offset(request, run), rate if rate in RATES else RATES[1]
        ),
    }
    if kind == "recorder":
        body: bytes | str = _recorder(found)
        of_type = "audio/wav"
    else:
        body, of_type = makes[kind](), "text/csv" if kind == "takes" else "text/plain"
    answer = HttpResponse(body, content_type=of_type if kind == "recorder" else f"{of_type}; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{"cut-" if cut else ""}{KINDS[kind]}"'
    return answer


def _recorder(found: _Recording) -> bytes:
    """The stand-in for a camera: sound as long as the recording, with a tone wherever something was said or held."""
    from extendum.formats.audio import Kind, audio_guide  # takes a second to load: only where it is wanted

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / KINDS["recorder"]
        audio_guide(found.raw, path, Kind.WAV, found.script.style.words_per_minute)
        return path.read_bytes()


def _names(found: _Recording) -> dict[str, str]:
    return {item.id: item.name for item in found.script.items()}


def _csv(found: _Recording, offset: int, notes: Mapping[str, str]) -> str:
    names = _names(found)
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["item", "side", "take", "from_s", "to_s", "kept"])
    for one in found.takes:
        times = (f"{(one.start_ms + offset) / 1000:.3f}", f"{(one.end_ms + offset) / 1000:.3f}")
        row = [no_formula(names.get(one.item, "")), one.side, one.number, *times, "kept" if one.kept else ""]
        writer.writerow(row)
    for n, mark in enumerate(found.marks):
        at = f"{(mark.at_ms + offset) / 1000:.3f}"
        told = ": ".join(filter(None, (mark.words, notes.get(str(n), ""))))
        writer.writerow([no_formula(names.get(mark.item, "")), mark.side, "", at, at, no_formula(told)])
    return out.getvalue()
