"""A past recording read in: what was heard, put right move by move, laid beside a class, or made a class."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from extendum.core.heard.assembled import Names
from extendum.core.heard.beside import Beside, beside, to_mend
from extendum.core.heard.corrected import SIDES, replayed
from extendum.core.heard.drafting import draft
from extendum.core.heard.hear import hear, naming
from extendum.core.heard.recording import Heard, HeardMove
from extendum.core.heard.report import besides, minutes_of
from extendum.core.heard.said import written
from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock, parse_clock
from extendum.draw.heard import WIDTHS, draw_heard
from extendum.formats.hearing import hearing
from extendum.formats.timed_text import read_timed
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.library.store import Library, library_of
from extendum.web.records.models import NextTime, PastRecording
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import whole

#: So many words of a move are shown in its row.
SHOWN_WORDS = 26


def heard_page(request: Asked, name: str, text: str) -> HttpResponse:
    """What was heard, with the corrections made so far; kept with a class, or as the beginning of a new one."""
    form, library = request.POST, library_of(request.user)
    kept = _kept(request)
    title = (form.get("title", "").strip() or name.rsplit(".", 1)[0] or "A recording")[:200]
    steps = [line for line in form.get("steps", "").splitlines() if line.strip()]
    heard, steps, refused = _put_right(text, steps, form, library)
    if kept:
        kept.steps, kept.name = "\n".join(steps), title
        kept.save(update_fields=["steps", "name"])
    if not refused and ("begin" in form or "keep" in form):
        if "begin" in form:
            of = store.create(request.user, draft(heard, title, list(library)), "Begun from a recording")
        else:
            of = own_class(request, whole(form, "against"))
        one = PastRecording.objects.create(of=of, name=title, text=text, steps="\n".join(steps))
        if "mend" in form:
            NextTime.objects.bulk_create(NextTime(of=of, text=told[:300]) for told in to_mend(heard))
        where = reverse("desk", args=[of.pk]) if "begin" in form else reverse("recordings", args=[of.pk])
        return redirect(where if "begin" in form else f"{where}?one={one.pk}")
    return shown(request, Shown(title, text, steps, heard, refused, kept), library)


@dataclass(frozen=True)
class Shown:
    """What the page of one recording shows."""

    title: str
    text: str
    steps: list[str]
    heard: Heard
    refused: str = ""
    kept: PastRecording | None = None


def shown(request: Asked, one: Shown, library: Library) -> HttpResponse:
    """The page on which what was heard is looked at and put right."""
    against = request.POST.get("against", "")
    pk = one.kept.of_id if one.kept else whole_number(against)
    context = {
        "one": one,
        "steps": "\n".join(one.steps),
        "corrected": len(one.steps),
        "sheet": sheets_of(one.heard, edges=True),
        "rows": [_row(n, move, one.heard) for n, move in enumerate(one.heard.moves)],
        "open": sum(move.doubtful for move in one.heard.moves),
        "sides": SIDES,
        "names": sorted(entry.move.name for entry in library),
        "facts": besides(one.heard),
        "mends": to_mend(one.heard),
        "minutes": minutes_of(one.heard.words, one.heard.length),
        "classes": request.user.classes.filter(archived_at=None).order_by("title"),
        "against": against,
        "compared": beside_class(own_class(request, pk), [one.heard]) if pk is not None else None,
    }
    return render(request, "records/heard.html", context, status=422 if one.refused else 200)


def sheets_of(heard: Heard, *, edges: bool = False) -> list[tuple[str, str]]:
    """The sheet of a recording for each kind of screen, of which one is shown."""
    return [(screen, drawn(draw_heard(heard, width, edges=edges))) for screen, width in WIDTHS.items()]


def heard_of(text: str, steps: Sequence[str], library: Library) -> Heard:
    """What a text tells, with its corrections."""
    names = {entry.move.key: entry.move.name for entry in library}
    heard, named = _heard(text, tuple(library))
    return replayed(heard, steps, names, named.named)


def heard_kept(row: PastRecording, library: Library) -> Shown:
    """A kept recording with its corrections; where they fit no more, since a move is gone, without them, and why."""
    steps = row.steps.splitlines()
    try:
        return Shown(row.name, row.text, steps, heard_of(row.text, steps, library), kept=row)
    except RefusedError as error:
        return Shown(row.name, row.text, [], heard_of(row.text, [], library), f"{row.name}: {error}", row)


def _put_right(text: str, steps: list[str], form: Mapping[str, str], library: Library) -> tuple[Heard, list[str], str]:
    """What is heard with all corrections, those that the form makes now too; or without them, and why."""
    names = {entry.move.key: entry.move.name for entry in library}
    try:
        heard = heard_of(text, steps, library)
    except RefusedError as error:
        return heard_of(text, [], library), [], str(error)
    try:
        more = _stepped(steps, form.get("do", ""), form, heard, names)
        return heard_of(text, more, library), more, ""
    except RefusedError as error:
        return heard, steps, str(error)


def _kept(request: Asked) -> PastRecording | None:
    """The kept recording that is put right."""
    pk = whole_number(request.POST.get("kept", ""))
    if pk is None:
        return None
    return get_object_or_404(PastRecording, pk=pk, of__owner=request.user)


@lru_cache(maxsize=16)
def _heard(text: str, library: tuple[Any, ...]) -> tuple[Heard, Names]:
    """What a text tells, and what names its moves; it is asked for again with every correction."""
    heard = hear(read_timed(text), hearing(library))
    return heard, naming(heard, hearing(library))


def _stepped(steps: list[str], do: str, form: Mapping[str, str], heard: Heard, names: Mapping[str, str]) -> list[str]:
    """The corrections with those that the form makes now: what was typed into rows, and then what was pressed."""
    if do == "undo":
        return steps[:-1]
    keys = {name.casefold(): key for key, name in names.items()}
    more = []
    for n, move in enumerate(heard.moves):
        typed = form.get(f"name-{n}", move.name).strip()
        if typed and typed != move.name and not do.startswith(f"name {n} "):
            key = keys.get(typed.casefold())
            more.append(f"name {n} {key}" if key else f"call {n} {typed[:80]}")
        for k, one in enumerate(move.passes):
            side = form.get(f"side-{n}-{k}", one.side)
            if side != one.side and side in SIDES:
                more.append(f"side {n} {k} {side}")
            start, end = form.get(f"from-{n}-{k}", ""), form.get(f"to-{n}-{k}", "")
            if start and end and (start, end) != (clock(round(one.start)), clock(round(one.end))):
                more.append(f"pass {n} {k} {parse_clock(start)} {parse_clock(end)}")
    if do.startswith(("split ", "turn ")):
        what, row = do.split(" ")[:2]
        do = f"{what} {row} {parse_clock(form.get(f'at-{row}', ''))}"
    return [*steps, *more, *([do] if do else [])]


def _row(n: int, move: HeardMove, heard: Heard) -> dict[str, Any]:
    words = written(heard.words[move.first : move.first + SHOWN_WORDS])
    return {
        "n": n,
        "number": n + 1,
        "move": move,
        "at": clock(round(move.start)),
        "passes": [
            {
                "k": k,
                "one": one,
                "from": clock(round(one.start)),
                "to": clock(round(one.end)),
                "seconds": round(one.seconds),
            }
            for k, one in enumerate(move.passes)
        ],
        "offers": [one for one in move.offers if one.name != move.name][:2],
        "words": words,
        "middle": clock(round((move.start + move.end) / 2)),
        "last": n + 1 == len(heard.moves),
    }


def beside_class(of: StretchClass, recordings: Sequence[Heard]) -> list[Beside]:
    """A class beside recordings of it."""
    return beside(store.script_of(of.present), compiled(bytes(of.present.document)), recordings)
