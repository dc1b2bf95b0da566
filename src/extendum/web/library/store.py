"""An instructor's library: the shipped moves, own versions in their places, and own moves."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone
from django.utils.text import slugify

from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.formats.codec import from_plain, to_plain
from extendum.formats.library import form_of, shipped_form, shipped_moves
from extendum.web.library.models import OwnMove


@dataclass(frozen=True, slots=True)
class Library:
    """All moves that an instructor can choose from, by key, in the order in which they are shown."""

    moves: dict[str, LibraryMove]
    own: frozenset[str] = frozenset()

    def __iter__(self) -> Iterator[LibraryMove]:
        return iter(self.moves.values())

    def get(self, key: str) -> LibraryMove:
        """The move with this key; RefusedError when there is none."""
        if key not in self.moves:
            raise RefusedError("move", "a move of your library", key)
        return self.moves[key]

    def form(self, key: str) -> str:
        """Which form of a move this is; empty when the library has none of this key."""
        if key in self.own:
            return form_of(self.moves[key])
        return shipped_form(key)


SHIPPED_ONLY = Library({entry.move.key: entry for entry in shipped_moves()})


@lru_cache(maxsize=512)
def _entry(text: str) -> LibraryMove:
    entry: LibraryMove = from_plain(LibraryMove, json.loads(text))
    return entry


def library_of(owner: User) -> Library:
    """What an instructor can choose from."""
    rows = OwnMove.objects.filter(owner=owner, removed_at__isnull=True).order_by("name")
    own = {row.key: _entry(row.entry) for row in rows}
    if not own:
        return SHIPPED_ONLY
    new = {key: entry for key, entry in own.items() if key not in SHIPPED_ONLY.moves}
    shipped = {key: own.get(key, entry) for key, entry in SHIPPED_ONLY.moves.items()}
    return Library({**new, **shipped}, frozenset(own))


@transaction.atomic
def keep(owner: User, entry: LibraryMove) -> LibraryMove:
    """Keep a move: under its key an own version, without one a new own move with a key made from its name."""
    key = entry.move.key or _fresh_key(owner, entry.move.name)
    entry = replace(entry, move=replace(entry.move, key=key))
    text = json.dumps(to_plain(entry), ensure_ascii=False)
    values = {"name": entry.move.name, "entry": text, "changed_at": timezone.now(), "removed_at": None}
    OwnMove.objects.update_or_create(owner=owner, key=key, defaults=values)
    return entry


def _fresh_key(owner: User, name: str) -> str:
    stem = f"own-{slugify(name)[:60] or 'move'}"
    used = set(OwnMove.objects.filter(owner=owner, key__startswith=stem).values_list("key", flat=True))
    key, n = stem, 2
    while key in used:
        key, n = f"{stem}-{n}", n + 1
    return key


def remove(own: OwnMove) -> None:
    """Take an own move out of the library; classes keep their copies, and it can be put back."""
    own.removed_at = timezone.now()
    own.save(update_fields=["removed_at"])


def put_back(own: OwnMove) -> None:
    """Put a removed own move back."""
    own.removed_at = None
    own.save(update_fields=["removed_at"])
