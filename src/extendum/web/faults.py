"""What is said when a request failed: a busy database and a full disk by name, the rest as what it is."""

from __future__ import annotations

import sys
from collections.abc import Callable
from errno import ENOSPC
from http import HTTPStatus

from django.conf import settings
from django.core.exceptions import RequestDataTooBig, TooManyFieldsSent
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

from extendum.web.classes.models import StretchClass
from extendum.web.classes.store import DamagedError, last_good

_BUSY = (
    "Something else was writing, such as a backup or another window, and took too long.",
    "Nothing was changed. Try again in a moment.",
)
_FULL = (
    "The disk is full.",
    "Nothing was changed or damaged. Free some space on the machine that runs Extendum and try again.",
)
_FAILED = ("Something went wrong here.", "Nothing was changed. The log of the server has the details.")
_OLD = (
    "That was refused: the page was open too long, or the request came from elsewhere.",
    "Nothing was changed. What you typed is still in its field. Open the page in another tab and do it there.",
)

_STRANGE = "That request was not understood."
_STAYS = "Nothing was changed. What you typed is still in its field."


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


class Sized:
    """What was too large is answered, before anything reads it: see whole.py."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        most = request.META.get("HTTP_X_EXTENDUM_TOO_LARGE")
        if most is None:
            return self.get_response(request)
        request.htmx = "HX-Request" in request.headers  # type: ignore[attr-defined] # the middleware that says so comes later
        return too_large(request, int(most))


def too_large(request: HttpRequest, most: int) -> HttpResponse:
    """The answer to a request that is larger than anything of ours."""
    happened = f"That was too much at once: at most {most:,} bytes are accepted."
    return _told(request, HTTPStatus.REQUEST_ENTITY_TOO_LARGE, happened, _STAYS)


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """The answer to a request that Django refuses: mostly one with too much in it."""
    if isinstance(exception, RequestDataTooBig):
        return too_large(request, settings.DATA_UPLOAD_MAX_MEMORY_SIZE)
    many = isinstance(exception, TooManyFieldsSent)
    happened = f"A form may have at most {settings.DATA_UPLOAD_MAX_NUMBER_FIELDS:,} fields." if many else _STRANGE
    return _told(request, HTTPStatus.BAD_REQUEST, happened, _STAYS)


class DamagedClasses:
    """Answers for a class whose document cannot be read, with the way back to its last good step; deletes nothing."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        """The page, or the notice, of a damaged class; any other fault goes its way."""
        if not isinstance(exception, DamagedError):
            return None
        match = request.resolver_match
        pk = match.kwargs.get("pk") if match and match.route.startswith("classes/") else None
        of = StretchClass.objects.filter(pk=pk, owner_id=request.user.pk).first() if pk else None
        status = HTTPStatus.UNPROCESSABLE_ENTITY
        if getattr(request, "htmx", False):
            told = f"{exception} Open it from the Shelf to go back to its last good step."
            return render(request, "classes/_notice.html", {"message": told}, status=status)
        facts = {"class": of, "told": str(exception), "good": last_good(of) if of else None}
        return render(request, "classes/damaged.html", facts, status=status)


def _told(request: HttpRequest, status: int, happened: str, then: str) -> HttpResponse:
    if getattr(request, "htmx", False):
        return render(request, "classes/_notice.html", {"message": f"{happened} {then}"}, status=status)
    return render(request, "fault.html", {"title": happened, "then": then}, status=status)
