"""Finding a move by typing."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from extendum.core.find import Query, find
from extendum.formats.library import shipped_moves

MOST_SHOWN = 12


@require_GET
def search_moves(request: HttpRequest) -> HttpResponse:
    """Moves that match what was typed, as a list to choose from."""
    asked = request.GET.get("q", "").strip()[:80]
    found = find(shipped_moves(), Query(asked))
    context = {"found": found[:MOST_SHOWN], "more": max(0, len(found) - MOST_SHOWN), "asked": asked}
    return render(request, "library/_found.html", context)
