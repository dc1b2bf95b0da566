"""Importing a class: a document, or a running order from a spreadsheet, checked by the user before anything is made."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods

from extendum.core.edit.import_clashes import clashes, joined
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import dose_words
from extendum.core.model.library import LibraryMove
from extendum.core.model.limits import LARGEST_FILE
from extendum.core.model.talk import TalkKind
from extendum.core.model.timeline import parse_clock
from extendum.formats.document import loads, version_of
from extendum.formats.order_class import Match, class_of, match_order
from extendum.formats.order_reader import read_order
from extendum.formats.plain import decoded
from extendum.formats.timed_text import is_timed
from extendum.web.classes import store
from extendum.web.library.store import Library, library_of
from extendum.web.shared.asked import Asked

#: What a row may be taken for beside a move.
TALK, OWN = "talk", "own"


@require_http_methods(["GET", "HEAD", "POST"])
def read_in(request: Asked, timed: Callable[[Asked, str, str], HttpResponse]) -> HttpResponse:
    """Take a file or a text, show what it holds, and make a class of it on request; ``timed`` hears timed text."""
    if request.method != "POST":
        return render(request, "classes/read.html", {})
    form = request.POST
    title = form.get("title", "").strip()
    try:
        name, text = _given(request)
        if text.lstrip("\ufeff \t\r\n").startswith("{"):
            return _document(request, text)
        if is_timed(text):
            return timed(request, name, text)
        return _order(request, name, text)
    except RefusedError as error:
        told = {"error": str(error), "text": form.get("text", "")[:20_000], "title": title}
        return render(request, "classes/read.html", told, status=422)


def _given(request: Asked) -> tuple[str, str]:
    """The name and the text of what was given; a file before what was typed."""
    file = request.FILES.get("file")
    if file is None:
        text = request.POST.get("text", "")
        if not text.strip():
            raise RefusedError("file", "a file, or a list in the field", "neither")
        return "", text
    if file.size is not None and file.size > LARGEST_FILE:
        raise RefusedError("file", f"at most {LARGEST_FILE:,} bytes", f"{file.size:,}")
    return str(file.name), decoded(file.read(), LARGEST_FILE)


def _document(request: Asked, text: str) -> HttpResponse:
    """A class document: imported at once, or after a question where its moves clash with the user's own."""
    script, library = loads(text), library_of(request.user)
    own = {key: library.moves[key].move for key in library.own}
    found = clashes(script, own)
    if found and "settled" not in request.POST:
        rows = [(key, theirs, mine, theirs.name != mine.name) for key, (theirs, mine) in found.items()]
        return render(request, "classes/read_clash.html", {"script": script, "rows": rows, "text": text})
    mine = {key for key in found if request.POST.get(f"move-{key}") == "mine"}
    whole = joined(script, library.moves.keys(), own, mine)
    made = store.create(request.user, whole, "Read in", version_of(text))
    return redirect(reverse("desk", args=[made.pk]))


def _order(request: Asked, name: str, text: str) -> HttpResponse:
    """A running order, shown line by line with how each was read; imported on request."""
    order, library = read_order(text), library_of(request.user)
    form = request.POST
    matches = [_chosen(match, n, form, library) for n, match in enumerate(match_order(order, list(library)))]
    title = form.get("title", "").strip() or name.rsplit(".", 1)[0][:200] or "Imported class"
    length = form.get("length", "").strip()
    script = class_of(title, matches, parse_clock(length) if length else 0)
    if "make" in form:
        made = store.create(request.user, script, "Imported from a list")
        return redirect(reverse("desk", args=[made.pk]))
    return render(
        request,
        "classes/read_order.html",
        {**_shown(order.skipped, matches), "title": title, "text": text, "length": length},
    )


def _chosen(match: Match, n: int, form: Any, library: Library) -> Match:
    """A match as the form has it, where it was chosen otherwise."""
    chosen = form.get(f"row-{n}", "")
    before = match.entry
    others = tuple(one for one in (*((before,) if before else ()), *match.others))
    if chosen == TALK:
        return Match(match.row, None, match.talk or TalkKind.TALK, others)
    if chosen == OWN:
        return Match(match.row, None, None, others)
    if chosen in library.moves:
        return Match(match.row, library.moves[chosen], None, tuple(o for o in others if o.move.key != chosen))
    return match


def _shown(skipped: tuple[tuple[int, str], ...], matches: list[Match]) -> dict[str, Any]:
    rows = list[dict[str, Any]]()
    for n, match in enumerate(matches):
        entries: list[LibraryMove] = [*([match.entry] if match.entry else []), *match.others]
        rows.append(
            {
                "n": n,
                "row": match.row,
                "section": match.row.section if not rows or rows[-1]["row"].section != match.row.section else "",
                "entries": [(one.move.key, one.move.name, one is match.entry) for one in entries],
                "talk": match.talk is not None,
                "own": match.entry is None and match.talk is None,
                "unsure": match.entry is not None and not match.sure,
                "dose": _dose(match),
            }
        )
    return {"rows": rows, "skipped": skipped, "problems": sum(bool(match.row.problems) for match in matches)}


def _dose(match: Match) -> str:
    """The dose that the row would have."""
    script = class_of("one", [match], 600)
    item = next(iter(script.items()))
    return dose_words(item)
