"""Moves of an instructor's own: writing one, an own version of a shipped one, taking it out and putting it back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST

from extendum.core.edit.script_edits import add_move, fresh_id
from extendum.core.model.audience import Condition
from extendum.core.model.body import Posture, Region
from extendum.core.model.dose import KINDS, Hold, Manner, Reps, Timed
from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.core.model.limits import whole_number
from extendum.core.model.move import Bearing, Effect, Kind, Move, Named, OnSide, OptionKind, Sidedness
from extendum.core.model.placeholders import PLACEHOLDERS
from extendum.core.model.prompts import PromptKind
from extendum.core.model.style import Facing
from extendum.formats.library import shipped_moves
from extendum.formats.sources import source_told
from extendum.web.classes import store as classes
from extendum.web.classes.access import own_class
from extendum.web.classes.look import owners_look
from extendum.web.classes.models import MoveUse, StretchClass
from extendum.web.library import store
from extendum.web.library.figures import figure_address, version
from extendum.web.library.models import OwnMove
from extendum.web.moves.posted import BLANK, FREE_OTHERS, FREE_TARGETS, TEXTS, entry_from, views_of
from extendum.web.shared.asked import Asked
from extendum.web.shared.dose_forms import phases_typed, tempo_fields
from extendum.web.shared.forms import options, refusal

LABELS = (
    "While moving",
    "Once there",
    "Short, later on",
    "At the switch",
    "Change of direction",
    "As each side comes",
    "Release",
)


def _numbered(rows: Sequence[object], free: int) -> list[tuple[int, object]]:
    return list(enumerate((*rows, *([None] * free))))


def _form_context(request: Asked, entry: LibraryMove, key: str) -> dict[str, Any]:
    move, dose = entry.move, entry.dose
    return {
        "entry": entry,
        "move": move,
        "key": key,
        "shipped": key in store.SHIPPED_ONLY.moves,
        "postures": options(Posture, move.posture),
        "ends": options(Posture, move.end_posture),
        "sides": [(one.value, one.by_side, one is move.sidedness) for one in Sidedness],
        "names": options(Named, move.named),
        "kinds": options(Kind, move.kind),
        "facings": options(Facing, entry.facing),
        "bearings": [(one, one in move.weight_on) for one in Bearing],
        "regions": list(Region),
        "effects": list(Effect),
        "on_sides": list(OnSide),
        "targets": _numbered(move.targets, FREE_TARGETS),
        "props": _numbered(move.props, FREE_OTHERS),
        "cautions": _numbered(move.cautions, FREE_TARGETS),
        "conditions": list(Condition),
        "options": _numbered(move.options, FREE_OTHERS),
        "watch": _numbered(move.watch, FREE_OTHERS),
        "why_from": move.why_from and source_told(move.why_from),
        "option_kinds": list(OptionKind),
        "figures": [(one.key, one.name, one.key == (move.figure or move.key)) for one in _with_figures()],
        "views": [(name, degrees, degrees == move.figure_view) for name, degrees in views_of(move).items()],
        "picture": figure_address(move, small=False),
        "figure_asked": f"v={version()}{owners_look(request.user)}",
        "back_to": request.GET.get("for", "") if whole_number(request.GET.get("for", "")) else "",
        "others": [(one.move.key, one.move.name) for one in store.library_of(request.user) if one.move.key != key],
        "dose_kinds": [(one.tag, isinstance(dose, one)) for one in KINDS],
        "tempo": tempo_fields(dose),
        "counts": dose.counts if isinstance(dose, Reps) else None,
        "phases": phases_typed(dose),
        "snaps": isinstance(dose, Hold),
        "snap": isinstance(dose, Hold) and dose.snap,
        "manners": options(Manner, dose.manner) if isinstance(dose, Timed) else [],
        "texts": [(name, label, getattr(entry.words, name)) for name, label in zip(TEXTS, LABELS, strict=True)],
        "prompts": _numbered(entry.words.prompts, FREE_TARGETS),
        "prompt_kinds": list(PromptKind),
        "placeholders": list(PLACEHOLDERS),
    }


def _with_figures() -> list[Move]:
    """The shipped moves by name: each has a figure that an own move can take."""
    return sorted((entry.move for entry in shipped_moves()), key=lambda move: move.name)


@require_http_methods(["GET", "HEAD", "POST"])
def new_move(request: Asked) -> HttpResponse:
    """A new move of your own: blank, or with ?like= a copy of another."""
    library, like = store.library_of(request.user), request.GET.get("like", "")
    base = library.moves.get(like)
    name = request.GET.get("name", "").strip()[:200]
    figure = base.move.figure or base.move.key if base else ""
    start = replace(base, move=replace(base.move, key="", figure=figure)) if base else BLANK
    start = replace(start, move=replace(start.move, name=name)) if name else start
    if not base and request.GET.get("for"):
        start = replace(start, move=replace(start.move, posture=_posture_there(request)))
    return _edit_form(request, start, "")


def _posture_there(request: Asked) -> Posture:
    """How the class stands, sits or lies where the move is to come: after the move before it, or as its brief says."""
    script = classes.script_of(own_class(request, whole_number(request.GET["for"]) or 0).present)
    moves, after = script.moves(), request.GET.get("after")
    before = next((move for move in moves if move.id == after), moves[-1] if moves else None)
    if before:
        return before.move.end_posture or before.move.posture
    return next((posture for posture in Posture if posture in script.brief.postures), Posture.STANDING)


@require_http_methods(["GET", "HEAD", "POST"])
def edit_move(request: Asked, key: str) -> HttpResponse:
    """Change an own move; a shipped one becomes an own version in its place."""
    library = store.library_of(request.user)
    if key not in library.moves:
        raise Http404
    return _edit_form(request, library.get(key), key)


def _edit_form(request: Asked, base: LibraryMove, key: str) -> HttpResponse:
    if request.method != "POST":
        return render(request, "library/move_form.html", _form_context(request, base, key))
    of = own_class(request, whole_number(request.GET["for"]) or 0) if request.GET.get("for") else None
    try:
        kept = store.keep(request.user, entry_from(request.POST, base, store.library_of(request.user).moves))
    except (RefusedError, ValueError) as error:
        if request.htmx:
            return render(request, "classes/_notice.html", refusal(error), status=422)
        context = _form_context(request, base, key) | {"refused": str(error)}
        return render(request, "library/move_form.html", context, status=422)
    if of:
        return _back_to_class(request, of, kept)
    told = "Classes that use it keep their copy and offer you the newer version."
    messages.success(request, f"“{kept.move.name}” is in your library. {told}")
    if request.htmx:
        return HttpResponse(status=204, headers={"HX-Redirect": reverse("move", args=[kept.move.key])})
    return redirect("move", kept.move.key)


def _back_to_class(request: Asked, of: StretchClass, kept: LibraryMove) -> HttpResponse:
    """The move goes into the class for which it was written, after the item that was chosen there."""
    taken = store.library_of(request.user).form(kept.move.key)
    with transaction.atomic():  # nobody changes the class between the look at it and the change
        of = own_class(request, of.pk)
        script = classes.script_of(of.present)
        after = next((item.id for item in script.items() if item.id == request.GET.get("after")), None)
        told = f"Added {kept.move.name}"[:300]
        classes.change(of, of.stamp, told, lambda s: add_move(s, kept, after, taken=taken)[0])
    there = f"{reverse('desk', args=[of.pk])}?item={fresh_id(script)}"
    if request.htmx:
        return HttpResponse(status=204, headers={"HX-Redirect": there})
    return redirect(there)


@require_POST
def remove_move(request: Asked, key: str) -> HttpResponse:
    """Take an own move out of the library; of a shipped one this takes the own version away."""
    own = get_object_or_404(OwnMove, owner=request.user, key=key, removed_at__isnull=True)
    store.remove(own)
    used = list(MoveUse.objects.filter(of__owner=request.user, key=key).values_list("of__title", flat=True))
    told = f" Used in {', '.join(used)}: each class keeps its own copy." if used else ""
    messages.success(request, f"“{own.name}” was removed from your library.{told} You can restore it below the map.")
    return redirect("moves")


@require_POST
def put_back(request: Asked, key: str) -> HttpResponse:
    """Put a removed own move back into the library."""
    own = get_object_or_404(OwnMove, owner=request.user, key=key, removed_at__isnull=False)
    store.put_back(own)
    messages.success(request, f"“{own.name}” is back in your library.")
    return redirect("move", key)
