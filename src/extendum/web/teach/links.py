"""Screens and clickers: making, setting and revoking their addresses."""

from __future__ import annotations

import segno
from django.db.models import QuerySet
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.utils import timezone
from django.utils.safestring import SafeString
from django.views.decorators.http import require_http_methods, require_POST

from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.teach.models import Link


@require_http_methods(["GET", "HEAD", "POST"])
def links(request: Asked) -> HttpResponse:
    """All of somebody's links that work; a POST makes one."""
    if request.method == "POST":
        kind = Link.Kind(request.POST["kind"]) if request.POST.get("kind") in Link.Kind.values else Link.Kind.ROOM
        plain = "Hall screen" if kind is Link.Kind.ROOM else "Clicker"
        name = request.POST.get("name", "").strip()[:80] or plain
        Link.objects.create(owner=request.user, kind=kind, name=name)
        return HttpResponseRedirect(reverse("links"))
    found = [(one, _address(request, one)) for one in _own(request).order_by("kind", "made_at")]
    shown = [(one, address, _square(address)) for one, address in found]
    rooms = [one for one in shown if one[0].kind == Link.Kind.ROOM]
    clickers = [one for one in shown if one[0].kind == Link.Kind.CLICKER]
    return render(request, "teach/links.html", {"parts": (("room", rooms), ("clicker", clickers))})


@require_POST
def link(request: Asked, pk: int) -> HttpResponse:
    """Set one link, or revoke it: from then on its address is nothing."""
    one = get_object_or_404(_own(request), pk=pk)
    if "revoke" in request.POST:
        one.revoked_at = timezone.now()
        one.save(update_fields=["revoked_at"])
    else:
        one.mirrored, one.easier = "mirrored" in request.POST, "easier" in request.POST
        one.save(update_fields=["mirrored", "easier"])
    return HttpResponseRedirect(reverse("links"))


def _own(request: Asked) -> QuerySet[Link]:
    return Link.objects.filter(owner=request.user, revoked_at=None)


def _address(request: Asked, one: Link) -> str:
    return request.build_absolute_uri(reverse(str(one.kind), args=[one.code]))


def _square(address: str) -> SafeString:
    """The address for a phone's camera."""
    return drawn(segno.make(address, micro=False).svg_inline(scale=3, dark="#23262b"))
