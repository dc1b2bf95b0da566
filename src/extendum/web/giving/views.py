"""Giving a class away: each kind of file, and all of them in one pack, with progress."""

from __future__ import annotations

import re
import tempfile
from datetime import datetime, timedelta
from pathlib import Path

from django.http import FileResponse, Http404, HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.timeline import Mode, clock
from extendum.core.outputs.bedding import music_of
from extendum.draw.small import draw_small_sheet
from extendum.formats.exports import FILES, SOUNDS, Export, about_print, write
from extendum.formats.paper import Paper
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.giving.making import PARTS, SLOW, Making, begin, export_of, last_of, planned
from extendum.web.giving.pages import home_of, pages_of, shows_of
from extendum.web.jobs.models import Job
from extendum.web.library.figures import figure_address
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

MOST_RECORDINGS = 10
#: Sizes of films, and what they are for.
SIZES = {"720": "1280 × 720, for most", "1080": "1920 × 1080, for a television", "upright": "1080 × 1920, for phones"}
#: So many moves and captions are looked at before a file is saved.
MOST_MOVES, MOST_CAPTIONS = 8, 3
_TYPES = {
    ".vtt": "text/vtt",
    ".srt": "application/x-subrip",
    ".txt": "text/plain",
    ".md": "text/markdown",
    ".csv": "text/csv",
    ".ics": "text/calendar",
    ".pdf": "application/pdf",
    ".json": "application/json",
    ".png": "image/png",
}


def _paper(asked: str) -> Paper:
    return next((one for one in Paper if one == asked), Paper.A4)


def _named(of: StretchClass, file: str) -> str:
    """A file's name with the class's before it."""
    return f"{re.sub(r'[^0-9A-Za-z]+', '-', of.title).strip('-').lower()[:60] or 'class'}-{file}"


@require_safe
def give(request: Asked, pk: int) -> HttpResponse:
    """What a class can be given away as."""
    return page(request, own_class(request, pk))


def page(request: Asked, of: StretchClass, status: int = 200, **facts: object) -> HttpResponse:
    """Everything that a class can be given away as, with what was refused."""
    slow = [(kind, FILES[kind][1].removeprefix("the audio guide, ")) for kind in SOUNDS]
    makings = {f"{part}_making": last_of(of, part) for part in ("pack", "page", "film")}
    recordings = of.runs.filter(take=True).order_by("-began_at")[:MOST_RECORDINGS]
    context = {
        "recordings": recordings,
        "class": of,
        "groups": _groups(),
        **_looks(of),
        "slow": slow,
        "voice": store.script_of(of.present).style.voice,
        "music": sorted(music_of(store.script_of(of.present))),
        "papers": [one.value for one in Paper],
        "head": of.head_id,
        "planned": planned(of)[0],
        "line": store.defaults_of(request.user).line,
        "on_this_machine": request.get_host().partition(":")[0] in ("127.0.0.1", "localhost"),
        "sizes": SIZES,
        "pages": pages_of(of, request),
        **home_of(of),
        "soon": timezone.localtime() + timedelta(hours=1),
        **facts,
    }
    return render(request, "giving/give.html", {**_shown(None, request), **makings, **context}, status=status)


#: Whom each kind is for; sound is made with progress, and offered beside the pack.
_FOR = {
    "For participants": ("handout", "ics"),
    "For video": ("vtt", "srt", "chapters", "chapters-list", "text", "png"),
    "For you": ("pdf", "md", "txt", "csv", "json"),
}


def _groups() -> list[tuple[str, str, list[tuple[str, str, str]]]]:
    """The single files by whom they are for, and by which look at them each group begins."""
    looks = dict(zip(_FOR, ("page", "captions", "sheet"), strict=True))
    return [(name, looks[name], [(kind, *FILES[kind]) for kind in kinds]) for name, kinds in _FOR.items()]


def _looks(of: StretchClass) -> dict[str, object]:
    """A little of what is in the files: moves of the handout, the first captions, the sheet."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    moves = [item for item in script.moves() if item.present]
    said = [cue for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.text][:MOST_CAPTIONS]
    return {
        "moves": [(item.name, figure_address(item.move)) for item in moves[:MOST_MOVES]],
        "more": max(0, len(moves) - MOST_MOVES),
        "captions": [(clock(cue.start_ms // 1000), clock(-(-cue.end_ms // 1000)), cue.text) for cue in said],
        "sheet": drawn(draw_small_sheet(timeline, timeline.length_s, 240)),
        "unprinted": about_print(Export(script)),
        "items": len(list(script.items())),
        "length": clock(timeline.length_s),
    }


def _time(typed: str) -> datetime | None:
    """A day and a time as a browser sends them, in the zone of this installation; None for anything else."""
    try:
        found = datetime.fromisoformat(typed)
    except ValueError:
        return None
    return timezone.make_aware(found) if timezone.is_naive(found) else found


def _shown(making: Making | None, request: Asked) -> dict[str, object]:
    """A making as its part of the page shows it."""
    usual = store.defaults_of(request.user).paper
    paper = _paper(request.GET.get("paper", making.paper if making else usual)).value
    return {
        "making": making,
        "paper": paper,
        "part": making.part if making else "",
        "head": making.job.of.head_id if making else 0,
    }


@require_safe
def give_file(request: Asked, pk: int, kind: str) -> HttpResponse:
    """One file that is made at once."""
    of = own_class(request, pk)
    if kind not in FILES or kind in SLOW:
        raise Http404("no such file")
    starts, _ = planned(of)
    if kind == "ics" and "at" in request.GET:
        starts = _time(request.GET["at"])
    if kind == "ics" and starts is None:
        return page(request, of, 422, wrong_time=request.GET.get("at", ""))
    one = export_of(of, of.present, _paper(request.GET.get("paper", "")), request.build_absolute_uri("/")[:-1])
    one.starts = starts
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / FILES[kind][0]
        write(one, kind, path)
        answer = HttpResponse(path.read_bytes(), content_type=_TYPES[path.suffix])
    answer["Content-Disposition"] = f'attachment; filename="{_named(of, FILES[kind][0])}"'
    return answer


#: What is asked of a page and of a film.
_ASKED = {
    "page": ("line", "note", "link", "part", "speaks", "address", "code"),
    "film": ("size", "tone", "drawn", "sound"),
}


def _asked(kind: str, form: dict[str, str]) -> dict[str, str]:
    """What a form asks of a page or a film; RefusedError at once for what cannot be."""
    if kind == "page":
        shows_of(form)
    elif form.get("size", "720") not in SIZES:
        raise RefusedError("size", f"one of {', '.join(SIZES)}", form["size"])
    return {name: form[name].strip() for name in _ASKED[PARTS[kind]] if form.get(name)}


@require_POST
def make(request: Asked, pk: int) -> HttpResponse:
    """Begin with a file that takes a while."""
    of, kind = own_class(request, pk), request.POST.get("kind", "")
    if kind not in SLOW:
        raise Http404("no such file")
    form = request.POST.dict()
    more: dict[str, object] = {"base": request.build_absolute_uri("/")[:-1]}
    try:
        if kind == "pack" and of.runs.filter(take=True, key=form.get("recording", "")).exists():
            more["recording"] = form["recording"]
        if kind in PARTS:
            more["shows"] = _asked(kind, form)
        making = begin(of, kind, _paper(form.get("paper", "")), **more)
    except ExtendumError as error:
        if request.htmx:
            told = {"part": PARTS.get(kind, "pack"), "making_refused": str(error)}
            return render(request, "giving/_making.html", {"class": of, **told})
        refused = {"page_refused": str(error), "typed": form} if kind == "page" else {"refused": str(error)}
        return page(request, of, 422, **refused)
    if request.htmx:
        return render(request, "giving/_making.html", {"class": of, **_shown(making, request)})
    return HttpResponseRedirect(reverse("give", args=[pk]))


@require_safe
def making(request: Asked, pk: int, making: int) -> HttpResponse:
    """How far a file is."""
    of = own_class(request, pk)
    one = Making(get_object_or_404(Job, of=of, pk=making, kind__in=SLOW))
    return render(request, "giving/_making.html", {"class": of, **_shown(one, request)})


@require_POST
def cancel(request: Asked, pk: int, making: int) -> HttpResponse:
    """A file that is not wanted any more: what makes it ends, and leaves nothing half-made."""
    of = own_class(request, pk)
    of.jobs.filter(pk=making, kind__in=SLOW, state=Job.State.WORKING).update(enough=True)
    one = Making(get_object_or_404(Job, of=of, pk=making, kind__in=SLOW))
    if request.htmx:
        return render(request, "giving/_making.html", {"class": of, **_shown(one, request)})
    return HttpResponseRedirect(f"{reverse('give', args=[pk])}#{one.part}")


@require_safe
def made(request: Asked, pk: int, making: int) -> FileResponse:
    """The file that was made."""
    of = own_class(request, pk)
    one = Making(get_object_or_404(Job, of=of, pk=making, kind__in=SLOW, state=Job.State.DONE))
    if not one.path.is_file():
        raise Http404("it was kept for a day; make it again")
    name = "pack.zip" if one.kind == "pack" else FILES[one.kind][0]
    return FileResponse(one.path.open("rb"), as_attachment=True, filename=_named(of, name))
