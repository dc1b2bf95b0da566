"""Keeping classes: revisions, undo and redo, and refusing an edit of what has changed meanwhile."""

from __future__ import annotations

import json
import zlib
from collections import OrderedDict
from collections.abc import Callable
from contextlib import suppress
from dataclasses import replace
from datetime import timedelta
from threading import Lock

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from extendum.core.edit.brief_edits import audience_of
from extendum.core.edit.script_edits import new_script, set_style
from extendum.core.figure.builds import Build
from extendum.core.model.audience import PROFILES, Audience
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.style import SHIPPED, CueStyle
from extendum.draw.figures.tones import Skin
from extendum.formats.codec import from_plain, to_plain
from extendum.formats.document import VERSION, dumps, loads
from extendum.web.classes.models import Defaults, MoveUse, OwnAudience, OwnStyle, Revision, StretchClass

#: Edits of one field this close together are one revision.
ONE_REVISION_WITHIN = timedelta(seconds=3)


class StaleEditError(Exception):
    """Somebody, or another window, changed the class since the page that the edit was made on."""

    def __init__(self, happened: list[str]) -> None:
        self.happened = happened
        super().__init__(happened)


class DamagedError(ExtendumError):
    """A stored document that cannot be read: its bytes are damaged, or no class may be like that."""


def pack(script: Script) -> bytes:
    """A script as it is stored."""
    document = zlib.compress(dumps(script, indent=None).encode(), 6)
    _read.keep(document, script)
    return document


class _Read:
    """The scripts of the documents last read or written, so that none is read twice."""

    def __init__(self, most: int) -> None:
        self._most, self._scripts, self._lock = most, OrderedDict[bytes, Script](), Lock()

    def of(self, document: bytes) -> Script:
        """The script of a document."""
        with self._lock:
            known = self._scripts.get(document)
        if known is None:
            try:
                known = loads(zlib.decompress(document))
            except (zlib.error, RefusedError) as error:
                raise DamagedError(f"This class cannot be read: {error}.") from error
            self.keep(document, known)
        return known

    def keep(self, document: bytes, script: Script) -> None:
        """Remember the script that a document was written from: reading it again gives an equal one."""
        with self._lock:
            self._scripts[document] = script
            self._scripts.move_to_end(document)
            while len(self._scripts) > self._most:
                self._scripts.popitem(last=False)


_read = _Read(64)


def unpack(document: bytes) -> Script:
    """The script of a stored document."""
    return _read.of(document)


def script_of(revision: Revision) -> Script:
    """The script of a revision."""
    return unpack(bytes(revision.document))


@transaction.atomic
def create(owner: User, script: Script, label: str, counted_by: int = VERSION) -> StretchClass:
    """A new class with its first revision; ``counted_by`` is the version of the document that it came in."""
    made = StretchClass.objects.create(
        owner=owner, title=script.title, last_action=label, stamp=1, counted_by=counted_by
    )
    made.head = Revision.objects.create(of=made, document=pack(script), label=label, stamp=1)
    made.save(update_fields=["head"])
    _note_uses(made, set(), _keys(script))
    return made


def _current(pk: int, stamp: int) -> StretchClass:
    """The class, held by this transaction; StaleEditError when the page is older than it."""
    # Held to the end of the transaction; SQLite holds all of the database instead.
    current = StretchClass.objects.select_for_update(of=("self",)).select_related("head").get(pk=pk)
    if current.stamp != stamp:
        since = Revision.objects.filter(of=current, stamp__gt=stamp).order_by("stamp")
        raise StaleEditError([r.label for r in since] or [current.last_action])
    return current


def _keys(script: Script) -> set[str]:
    """The keys of the library's moves that a script has, those left out too."""
    return {item.move.key for item in script.items() if isinstance(item, MoveItem) and item.move.key}


def _note_uses(of: StretchClass, before: set[str], after: set[str]) -> None:
    if gone := before - after:
        MoveUse.objects.filter(of=of, key__in=gone).delete()
    if new := after - before:
        MoveUse.objects.bulk_create([MoveUse(of=of, key=key) for key in sorted(new)], ignore_conflicts=True)


def _move_head(current: StretchClass, head: Revision, action: str, before: Script) -> StretchClass:
    script = script_of(head)
    _note_uses(current, _keys(before), _keys(script))
    current.head, current.title = head, script.title
    current.stamp += 1
    current.last_action = action
    current.changed_at = timezone.now()
    current.save(update_fields=["head", "title", "stamp", "last_action", "changed_at"])
    return current


@transaction.atomic
def change(of: StretchClass, stamp: int, label: str, edit: Callable[[Script], Script], field: str = "") -> StretchClass:
    """Apply an edit made on the class as it was at this stamp; an edit that changes nothing adds nothing."""
    current = _current(of.pk, stamp)
    current.owner = of.owner
    before = script_of(current.present)
    after = edit(before)
    if after == before:
        return current
    head, now = current.present, timezone.now()
    # Where the clock was set back, what came before is no quick repeat: no step is ever lost.
    quick = field and head.field == field and timedelta() <= now - head.at < ONE_REVISION_WITHIN
    if quick and head.parent_id and not head.children.exists():
        head.document, head.label, head.at, head.stamp = pack(after), label, now, stamp + 1
        head.save(update_fields=["document", "label", "at", "stamp"])
        return _move_head(current, head, label, before)
    made = Revision.objects.create(
        of=current, parent=head, document=pack(after), label=label, field=field, stamp=stamp + 1
    )
    Revision.objects.filter(pk=head.pk).update(forward=made)
    return _move_head(current, made, label, before)


def close(of: StretchClass) -> None:
    """The head is taught, rehearsed or sent away: from now on quick repeats make a revision of their own."""
    Revision.objects.filter(pk=of.present.pk).exclude(field="").update(field="")


@transaction.atomic
def undo(of: StretchClass, stamp: int) -> StretchClass:
    """One step back; at the first revision nothing happens."""
    current = _current(of.pk, stamp)
    parent = current.present.parent
    if not parent:
        return current
    return _move_head(current, parent, f"Undo: {current.present.label}", script_of(current.present))


@transaction.atomic
def redo(of: StretchClass, stamp: int) -> StretchClass:
    """One step forward again, along the branch last been on."""
    current = _current(of.pk, stamp)
    forward = current.present.forward
    if not forward:
        return current
    return _move_head(current, forward, f"Redo: {forward.label}", script_of(current.present))


@transaction.atomic
def go_to(of: StretchClass, stamp: int, revision_pk: int) -> StretchClass:
    """Any revision of the class, on whatever branch; undo and redo then follow that branch.

    RefusedError when the class has no such revision.
    """
    current = _current(of.pk, stamp)
    target = Revision.objects.filter(pk=revision_pk, of=current).first()
    if target is None:
        raise RefusedError("revision", "a step of this class", str(revision_pk))
    step = target
    while step.parent is not None:
        Revision.objects.filter(pk=step.parent.pk).update(forward=step)
        step = step.parent
    return _move_head(current, target, f"Back to: {target.label}", script_of(current.present))


def last_good(of: StretchClass) -> Revision | None:
    """The newest step of a class that can be read; None where there is none."""
    for pk in of.revisions.order_by("-stamp", "-pk").values_list("pk", flat=True):
        revision = of.revisions.get(pk=pk)
        with suppress(DamagedError):
            script_of(revision)
            return revision
    return None


@transaction.atomic
def back_to_good(of: StretchClass) -> StretchClass:
    """A class whose head cannot be read, at the newest step that can; the damaged one stays among its steps.

    RefusedError when no step can be read.
    """
    current = StretchClass.objects.select_for_update().get(pk=of.pk)
    good = last_good(current)
    if good is None:
        raise RefusedError("class", "one with a step that can be read", "none")
    return _move_head(current, good, f"Back to the last good step: {good.label}"[:300], new_script("Damaged", 60))


def styles_of(owner: User) -> list[CueStyle]:
    """The cue styles that an instructor may choose from: those that ship, then their own."""
    own = OwnStyle.objects.filter(owner=owner).order_by("name")
    return [*SHIPPED, *(from_plain(CueStyle, json.loads(one.settings)) for one in own)]


def defaults_of(owner: User) -> Defaults:
    """What the instructor's new classes begin with; not saved where nothing was set."""
    return Defaults.objects.filter(owner=owner).first() or Defaults(owner=owner)


def first_style(defaults: Defaults) -> CueStyle:
    """The cue style that new classes begin with."""
    return from_plain(CueStyle, json.loads(defaults.style)) if defaults.style else CueStyle()


def keep_defaults(defaults: Defaults, length_s: int, style: CueStyle, paper: str, line: str | None = None) -> None:
    """Set what new classes begin with; RefusedError when no class could be as long as that."""
    new_script("A class", length_s)  # what holds for a class holds here
    defaults.length_s, defaults.paper = length_s, paper
    defaults.line = defaults.line if line is None else line.strip()[:120]
    defaults.style = json.dumps(to_plain(style), ensure_ascii=False)
    defaults.save()


def keep_look(defaults: Defaults, build: Build, skin: Skin) -> None:
    """Set how the instructor's figures look."""
    defaults.build, defaults.skin = build.value, skin.value
    defaults.save()


@transaction.atomic
def keep_style(of: StretchClass, stamp: int, name: str) -> StretchClass:
    """Keep the class's cue style under a name; a style of that name is replaced, a shipped one never."""
    name = name.strip()
    if name in {one.name for one in SHIPPED}:
        raise RefusedError("name", "a name of your own, other than the styles that ship", name)
    style = replace(script_of(of.present).style, name=name)
    text = json.dumps(
        to_plain(replace(style, voice=None)), ensure_ascii=False
    )  # what was read is of this class's texts
    OwnStyle.objects.update_or_create(owner=of.owner, name=name, defaults={"settings": text})
    return change(of, stamp, f"Cue style saved as {name}", lambda script: set_style(script, style))


def audiences_of(owner: User) -> list[Audience]:
    """The audience profiles that an instructor may choose from: those that ship, then their own."""
    own = OwnAudience.objects.filter(owner=owner).order_by("name")
    return [*PROFILES, *(from_plain(Audience, json.loads(one.settings)) for one in own)]


def keep_audience(owner: User, script: Script, name: str) -> Audience:
    """Keep a class's brief as a profile under a name; one of that name is replaced, a shipped one never."""
    name = name.strip()
    if name in {one.name for one in PROFILES}:
        raise RefusedError("name", "a name of your own, other than the profiles that ship", name)
    audience = audience_of(script, name)
    text = json.dumps(to_plain(audience), ensure_ascii=False)
    OwnAudience.objects.update_or_create(owner=owner, name=name, defaults={"settings": text})
    return audience
