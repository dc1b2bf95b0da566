"""The help as one page."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from extendum.web.guide.texts import guide


@require_safe
def help_page(request: HttpRequest) -> HttpResponse:
    """How a class comes about, every screen with its keys, and every word of the trade."""
    return render(request, "guide/help.html", {"guide": guide(), "screens": guide().screens.values()})
