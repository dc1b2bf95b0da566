"""What an instructor may choose from, read when asked for: cue styles, audience profiles, the library of moves."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

from django.contrib.auth.models import User

from extendum.core.model.audience import Audience
from extendum.core.model.script import Script
from extendum.core.model.style import CueStyle
from extendum.web.classes import store
from extendum.web.classes.models import Revision
from extendum.web.library.store import Library, library_of


class Own:
    """The choices of one instructor, during one request."""

    def __init__(self, owner: User) -> None:
        """Nothing is read yet."""
        self._owner = owner

    @cached_property
    def styles(self) -> Sequence[CueStyle]:
        """Cue styles: those that ship, then their own."""
        return store.styles_of(self._owner)

    @cached_property
    def audiences(self) -> Sequence[Audience]:
        """Audience profiles: those that ship, then their own."""
        return store.audiences_of(self._owner)

    def script_at(self, of: int | None, revision: int | None) -> Script | None:
        """A class of theirs as it was at one of its steps; None where there is no such thing."""
        found = Revision.objects.filter(pk=revision or 0, of__pk=of or 0, of__owner=self._owner).first()
        return store.script_of(found) if found else None

    @cached_property
    def library(self) -> Library:
        """The moves: shipped ones, own versions in their places, and own ones."""
        return library_of(self._owner)
