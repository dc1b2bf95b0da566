"""The help as one page."""

from __future__ import annotations

import re

from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_safe

from extendum.web.guide.texts import guide
from extendum.web.shared.asked import Asked


@require_safe
def help_page(request: Asked) -> HttpResponse:
    """How a class comes about, every screen with its keys, and every word of the trade."""
    return render(request, "guide/help.html", {"guide": guide(), "screens": guide().screens.values()})


#: Screens that stand on their own, and those of the class that is open.
SCREENS = {
    "Shelf: all classes": "shelf",
    "Moves: the library": "moves",
    "A move of my own": "new-move",
    "Logbook": "logbook",
    "Thirteen weeks": "overview",
    "Import": "read-in",
    "Screens and clickers": "links",
    "Settings": "settings",
    "Help": "help",
}
OF_CLASS = {
    "Desk": "desk",
    "Brief": "brief",
    "Words": "words",
    "Checks": "checks",
    "Versions": "versions",
    "Files": "give",
    "Teach": "stage",
    "Rehearse": "rehearse",
    "Record": "take",
}


@require_safe
def finder(request: Asked) -> JsonResponse:
    """What the finder finds besides the actions of a screen: screens, those of the class at ?here=, and every class."""
    screens = [(words, reverse(name)) for words, name in SCREENS.items()]
    classes = request.user.classes.filter(archived_at=None).order_by("-changed_at")
    inside = re.match(r"/classes/(\d{1,12})/", request.GET.get("here", ""))
    here = classes.filter(pk=int(inside[1])).first() if inside else None
    if here:
        screens = [
            (f"{words} of {here.title}", reverse(name, args=[here.pk])) for words, name in OF_CLASS.items()
        ] + screens
    told = [(one.title, reverse("desk", args=[one.pk]), "class") for one in classes]
    return JsonResponse({"screens": screens, "classes": told})
