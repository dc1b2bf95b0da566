"""Music under the guide of a class: what is chosen for it and for its sections, and pieces of one's own."""

from __future__ import annotations

from pathlib import Path
from uuid import uuid4

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.uploadedfile import UploadedFile
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from extendum.core.edit.script_edits import set_music
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.script import Script
from extendum.core.outputs import bedding
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import whole
from extendum.web.voices.models import Music

#: So many pieces one instructor has at the most.
MOST_PIECES = 30


def _path(music: Music) -> Path:
    return Path(settings.DATA) / "music" / str(music.owner_id) / music.file


def beds_of(owner: User, names: set[str]) -> dict[str, bedding.Music]:
    """What is at hand of some names: what ships, and the owner's own."""
    from extendum.formats.music import music_from  # takes a second to load: only where it is wanted

    found = dict(bedding.SHIPPED)
    for one in Music.objects.filter(owner=owner, name__in=names):
        found[one.name] = music_from(_path(one), _path(one), one.rights)
    return found


@require_safe
def music(request: Asked, pk: int) -> HttpResponse:
    """What is played under a class."""
    return _page(request, own_class(request, pk))


def _page(request: Asked, of: StretchClass, status: int = 200, **facts: object) -> HttpResponse:
    script = store.script_of(of.present)
    pieces = Music.objects.filter(owner=request.user)
    names = [*bedding.SHIPPED, *(one.name for one in pieces)]
    gone = sorted(bedding.music_of(script) - set(names))
    context = {"class": of, "script": script, "names": names, "pieces": pieces, "gone": gone, **facts}
    return render(request, "voices/music.html", context, status=status)


@require_POST
def choose_music(request: Asked, pk: int) -> HttpResponse:
    """Set what is played under the class and under each of its sections: one step."""
    of, form = own_class(request, pk), request.POST

    def change(script: Script) -> Script:
        changed = set_music(script, form.get("music", script.music))
        for section in script.sections:
            changed = set_music(changed, form.get(f"music-{section.id}", section.music), section.id)
        return changed

    try:
        store.change(of, whole(form, "stamp"), "Music under the guide", change)
    except store.StaleEditError:
        told = "The class was changed in another window. Here is how it is now."
        return _page(request, own_class(request, pk), 409, refused=told)
    except ExtendumError as error:
        return _page(request, of, 422, refused=str(error))
    return HttpResponseRedirect(reverse("give", args=[pk]))


@require_POST
def add_music(request: Asked, pk: int) -> HttpResponse:
    """A piece of one's own, kept as it is needed; one of the same name is replaced."""
    of, form, file = own_class(request, pk), request.POST, request.FILES.get("file")
    try:
        piece = _added(request.user, form.get("name", ""), form.get("rights", ""), file)
    except ExtendumError as error:
        return _page(request, of, 422, refused=str(error), typed=form)
    return _page(request, of, told=f"{piece.name} can be played under this class and every other.")


def _added(owner: User, name: str, rights: str, file: UploadedFile[bytes] | None) -> Music:
    from extendum.formats.music import music_from  # takes a second to load: only where it is wanted

    name, rights = name.strip(), rights.strip()
    if not name or len(name) > 80 or name in {*bedding.SHIPPED, bedding.SILENCE}:
        raise RefusedError("name", "a name of its own, of up to 80 characters", name or "nothing")
    if not rights or len(rights) > 300:
        raise RefusedError("rights", "whose it is and why you may use it, in up to 300 characters", rights or "nothing")
    if file is None:
        raise RefusedError("file", "a piece of music", "none")
    before = Music.objects.filter(owner=owner, name=name).first()
    if before is None and Music.objects.filter(owner=owner).count() >= MOST_PIECES:
        raise RefusedError("music", f"at most {MOST_PIECES} pieces", "one more")
    made = Music(owner=owner, name=name, rights=rights, file=f"{uuid4().hex}.wav")
    path = _path(made)
    path.parent.mkdir(parents=True, exist_ok=True)
    sent = path.with_suffix(".sent")
    try:
        with sent.open("wb") as out:
            for part in file.chunks():
                out.write(part)
        music_from(sent, path)
    finally:
        sent.unlink(missing_ok=True)
    Music.objects.update_or_create(owner=owner, name=name, defaults={"rights": rights, "file": made.file})
    if before:
        _path(before).unlink(missing_ok=True)
    return made


@require_POST
def remove_music(request: Asked, pk: int, piece: int) -> HttpResponse:
    """Take a piece away; where it was played there is silence."""
    of, one = own_class(request, pk), get_object_or_404(Music, pk=piece, owner=request.user)
    _path(one).unlink(missing_ok=True)
    one.delete()
    return _page(request, of, told=f"{one.name} is removed.")
