"""How an instructor's figures look, for every page: what is put behind the address of a figure."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.utils.functional import SimpleLazyObject

from extendum.core.figure.builds import Build
from extendum.draw.figures.tones import Skin
from extendum.formats.paper import Look
from extendum.web.classes import store
from extendum.web.library.figures import look_of


def owners_look(owner: User) -> str:
    """What is put behind the address of a figure for this owner."""
    defaults = store.defaults_of(owner)
    return look_of(defaults.build, defaults.skin)


def printed_look(owner: User) -> Look:
    """The figures of this owner's printed pages."""
    defaults = store.defaults_of(owner)
    return Look(Build(defaults.build), Skin(defaults.skin))


def look(request: HttpRequest) -> dict[str, object]:
    """For templates: looked up only where a page shows a figure."""

    def found() -> str:
        return owners_look(request.user) if isinstance(request.user, User) else ""

    return {"look": SimpleLazyObject(found)}
