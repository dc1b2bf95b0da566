"""What people take home: the moves that are marked for it, and the page that plays, as a file or at an address."""

from __future__ import annotations

from pathlib import Path

import segno
from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.utils import timezone
from django.utils.safestring import SafeString
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST, require_safe

from extendum.core.edit.home import set_home
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.outputs.at_home import is_marked
from extendum.formats.playing_page import Shows, policy_of
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.giving.models import PlayingPage
from extendum.web.library.figures import figure_address
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import whole

#: So many addresses of one class work at a time.
MOST_PAGES = 10


# ---- what to do at home ------------------------------------------------------------------------------------------


def home_of(of: StretchClass) -> dict[str, object]:
    """The moves of a class, to be marked for home."""
    script = store.script_of(of.present)
    moves = {item.id: item for item in script.moves()}
    rows = [
        {"item": item, "address": figure_address(item.move), "value": min(item.home or most, most), "most": most}
        for item in moves.values()
        for most in [item.quantity.value]
    ]
    return {"home_rows": rows, "often": script.often, "is_marked": is_marked(script)}


@require_POST
def mark_home(request: Asked, pk: int) -> HttpResponse:
    """Set which moves are for home, with which dose and how often: one step."""
    of, form = own_class(request, pk), request.POST
    try:
        doses = {item: whole(form, f"dose-{item}") for item in form.getlist("home")}
        store.change(
            of, whole(form, "stamp"), "For home", lambda script: set_home(script, doses, form.get("often", ""))
        )
    except store.StaleEditError:
        return _refused(request, of, "The class was changed in another window. Here is how it is now.", 409)
    except ExtendumError as error:
        return _refused(request, of, str(error), 422, typed_home=form)
    return HttpResponseRedirect(f"{reverse('give', args=[pk])}#home")


def _refused(request: Asked, of: StretchClass, told: str, status: int, **facts: object) -> HttpResponse:
    from extendum.web.giving.views import page

    return page(request, of, status, home_refused=told, **facts)


# ---- the page at its address -------------------------------------------------------------------------------------


def shows_of(form: dict[str, str]) -> Shows:
    """What a form asks for; RefusedError for a note or a link that cannot be."""
    line, note, link = (form.get(name, "").strip() for name in ("line", "note", "link"))
    return Shows(line[:120], note, link, form.get("part", "home") == "home")


def file_of(page: PlayingPage) -> Path:
    """Where a page is kept."""
    return Path(settings.DATA) / "pages" / f"{page.code}.html"


def pages_of(of: StretchClass, request: Asked) -> list[dict[str, object]]:
    """The addresses of a class that work."""
    found = of.pages.filter(revoked_at=None).order_by("made_at")
    addresses = [(one, request.build_absolute_uri(reverse("play", args=[one.code]))) for one in found]
    return [
        {"page": one, "address": at, "square": square(at), "changed": one.revision_id != of.head_id}
        for one, at in addresses
    ]


def square(address: str) -> SafeString:
    """An address for a phone's camera."""
    return drawn(segno.make(address, micro=False).svg_inline(scale=3, dark="#23262b"))


def address_for(of: StretchClass, base: str) -> str:
    """Where a class plays, for its handout; empty where nowhere."""
    page = of.pages.filter(revoked_at=None).order_by("-made_at").first()
    return f"{base}{reverse('play', args=[page.code])}" if page and base else ""


def publish(of: StretchClass, revision: Revision, made: Path, shows: dict[str, str], code: str) -> PlayingPage:
    """Give a page that was made an address, or make the one at an address anew; RefusedError for one too many."""
    page = of.pages.filter(code=code, revoked_at=None).first() if code else None
    if page is None and of.pages.filter(revoked_at=None).count() >= MOST_PAGES:
        raise RefusedError("pages", f"at most {MOST_PAGES} addresses of one class", "one more")
    page = page or PlayingPage(owner=of.owner, of=of)
    page.shows, page.revision, page.made_at = shows, revision, timezone.now()
    path = file_of(page)
    path.parent.mkdir(parents=True, exist_ok=True)
    beside = path.with_suffix(".new")
    beside.write_bytes(made.read_bytes())
    beside.replace(path)
    page.save()
    return page


@require_POST
def revoke_page(request: Asked, pk: int, page: int) -> HttpResponse:
    """From now on the address is nothing."""
    of = own_class(request, pk)
    one = get_object_or_404(PlayingPage, of=of, pk=page, revoked_at=None)
    one.revoked_at = timezone.now()
    one.save(update_fields=["revoked_at"])
    file_of(one).unlink(missing_ok=True)
    return HttpResponseRedirect(f"{reverse('give', args=[pk])}#page")


@require_safe
@never_cache
@login_not_required
def play(request: HttpRequest, code: str) -> HttpResponse:
    """The page, for whoever has its address."""
    page = PlayingPage.objects.filter(code=code, revoked_at=None).first()
    if page is None:
        return render(request, "teach/gone.html", {"what": "page"}, status=404)
    try:
        text = file_of(page).read_text("utf-8")
    except FileNotFoundError:
        raise Http404("the page is not kept any more") from None
    policy = f"{policy_of(text)}; frame-ancestors 'none'"
    answer = HttpResponse(text, headers={"Content-Security-Policy": policy, "X-Robots-Tag": "noindex"})
    answer._csp_exempt = True  # type: ignore[attr-defined]  # it has a stricter one of its own
    return answer
