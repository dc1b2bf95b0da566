"""A past recording read in: what was heard, put right move by move, laid beside a class, or made a class."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse

from extendum.core.heard.corrected import SIDES, replayed
from extendum.core.heard.hear import hear
from extendum.core.heard.recording import Heard, HeardMove
from extendum.core.heard.report import facts, minutes_of
from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.model.timeline import clock, parse_clock
from extendum.draw.heard import draw_heard
from extendum.formats.heard_class import Beside, beside, draft
from extendum.formats.hearing import hearing
from extendum.formats.timed_text import read_timed
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.page import compiled
from extendum.web.library.store import Library, library_of
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

#: So many words of a move are shown in its row.
SHOWN_WORDS = 26


def heard_page(request: Asked, name: str, text: str) -> HttpResponse:
    """What was heard, with the corrections made so far; beside a class, or as the beginning of a new one."""
    form, library = request.POST, library_of(request.user)
    names = {entry.move.key: entry.move.name for entry in library}
    steps = [line for line in form.get("steps", "").splitlines() if line.strip()]
    redo = form.get("do", "")
    refused = ""
    try:
        every = _heard(text, tuple(library))
        heard = replayed(every, steps, names)
        steps = _stepped(steps, redo, form, heard, names)
        heard = replayed(every, steps, names)
    except RefusedError as error:
        refused, steps = str(error), steps[:-1] if redo else []
        heard = replayed(every, steps, names)
    title = form.get("title", "").strip() or name.rsplit(".", 1)[0][:200] or "A recording"
    if "begin" in form and not refused:
        made = store.create(request.user, draft(heard, title, list(library)), "Begun from a recording")
        return redirect(reverse("desk", args=[made.pk]))
    against = form.get("against", "")
    other = whole_number(against)
    context = {
        "title": title,
        "text": text,
        "steps": "\n".join(steps),
        "corrected": len(steps),
        "refused": refused,
        "sheet": drawn(draw_heard(heard)),
        "rows": [_row(n, one, heard) for n, one in enumerate(heard.moves)],
        "open": sum(one.doubtful for one in heard.moves),
        "sides": SIDES,
        "names": sorted(names.values()),
        "facts": facts(heard),
        "minutes": minutes_of(heard.words, heard.length),
        "classes": request.user.classes.filter(archived_at=None).order_by("title"),
        "against": against,
        "compared": _compared(request, other, heard, library) if other is not None else None,
    }
    return render(request, "classes/heard.html", context, status=422 if refused else 200)


@lru_cache(maxsize=16)
def _heard(text: str, library: tuple[Any, ...]) -> Heard:
    """What a text tells; it is asked for again with every correction."""
    return hear(read_timed(text), hearing(library))


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
    if do.startswith("split "):
        row = do.split(" ")[1]
        do = f"split {row} {parse_clock(form.get(f'at-{row}', ''))}"
    return [*steps, *more, *([do] if do else [])]


def _row(n: int, move: HeardMove, heard: Heard) -> dict[str, Any]:
    words = [one.shown for one in heard.words[move.first : move.first + SHOWN_WORDS]]
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
        "words": " ".join(words),
        "middle": clock(round((move.start + move.end) / 2)),
        "last": n + 1 == len(heard.moves),
    }


def _compared(request: Asked, pk: int, heard: Heard, library: Library) -> list[Beside]:
    """One of the asker's classes beside what was heard."""
    of = own_class(request, pk)
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    return beside(script, timeline, heard, list(library))
