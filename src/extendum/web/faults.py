"""What is said when a request failed: a busy database and a full disk by name, the rest as what it is."""

from __future__ import annotations

import sys
from errno import ENOSPC
from http import HTTPStatus

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

_BUSY = (
    "Something else is writing, a backup or another window, and was not ready in time.",
    "Nothing was changed. Try again in a moment.",
)
_FULL = (
    "The disk is full: nothing more can be written.",
    "Nothing was changed, and what is there is whole. Make room on the machine that runs Extendum, and try again.",
)
_FAILED = ("Something went wrong here.", "Nothing was changed. The log of the server has the details.")
_OLD = (
    "That was not allowed: the page was open too long, or it was sent from elsewhere.",
    "Nothing was changed. What you typed is still where you typed it: open the page in another tab, and make it there.",
)


def server_error(request: HttpRequest) -> HttpResponse:
    """The answer to a request that failed; for a part of a page it is a notice, and what was typed stays."""
    error = sys.exc_info()[1]
    words = str(error).lower() if isinstance(error, OperationalError) else ""
    full = "full" in words or "no space" in words or (isinstance(error, OSError) and error.errno == ENOSPC)
    busy = "locked" in words or "lock timeout" in words
    status = HTTPStatus.INSUFFICIENT_STORAGE if full else HTTPStatus.SERVICE_UNAVAILABLE if busy else 500
    return _told(request, status, *(_FULL if full else _BUSY if busy else _FAILED))


def not_allowed(request: HttpRequest, reason: str = "") -> HttpResponse:
    """The answer to a form without its token: the page was open too long, or it came from elsewhere."""
    return _told(request, HTTPStatus.FORBIDDEN, *_OLD)


def _told(request: HttpRequest, status: int, happened: str, then: str) -> HttpResponse:
    if getattr(request, "htmx", False):
        return render(request, "classes/_notice.html", {"message": f"{happened} {then}"}, status=status)
    return render(request, "fault.html", {"title": happened, "then": then}, status=status)
