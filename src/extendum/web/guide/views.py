"""The help as one page."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from extendum.web.guide.texts import guide
from extendum.web.shared.asked import Asked


@require_safe
def help_page(request: Asked) -> HttpResponse:
    """How a class comes about, every screen with its keys, and every word of the trade."""
    return render(request, "guide/help.html", {"guide": guide(), "screens": guide().screens.values()})
