"""Settings: what new classes begin with, styles and profiles kept by name, and the account."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from typing import Any

from django.contrib import messages
from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.forms import PasswordChangeForm
from django.http import HttpResponse, HttpResponseRedirect
from django.shortcuts import get_object_or_404, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods

from extendum.core.figure.builds import Build
from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.style import Countdown, CueStyle, RepCount, Teaching
from extendum.core.model.timeline import clock, parse_clock
from extendum.core.model.ways import WAYS, origin_of, own_way_words, usual_words_from
from extendum.draw.figures.tones import Skin
from extendum.formats.library import shipped_move
from extendum.formats.paper import Paper
from extendum.web.classes import store
from extendum.web.classes.class_settings import effects_of
from extendum.web.classes.models import Defaults, OwnAudience, OwnStyle
from extendum.web.library.figures import figure_address, look_of
from extendum.web.shared.asked import Asked
from extendum.web.shared.forms import choice, named, whole

#: The move whose figure shows how figures would look.
SAMPLE = "standing-side-reach"
#: The field of each way to another support.
_WAYS = {way: f"way_{n}" for n, way in enumerate(WAYS)}
_KEPT: dict[str, type[OwnStyle] | type[OwnAudience]] = {"style": OwnStyle, "profile": OwnAudience}


@require_http_methods(["GET", "HEAD", "POST"])
def settings_page(request: Asked) -> HttpResponse:
    """The page; a POST sets the part that it names. What was typed stays when it is refused."""
    if request.method != "POST":
        return _page(request)
    part = _PARTS.get(request.POST.get("part", ""))
    if part is None:
        return _page(request, 422, wrong="This form is older than the page. Nothing was changed.")
    try:
        messages.success(request, part(request))
    except RefusedError as error:
        return _page(request, 422, typed=request.POST, wrong=str(error))
    except _PasswordError as error:
        return _page(request, 422, password=error.form)
    return HttpResponseRedirect(reverse("settings"))


def _page(request: Asked, status: int = 200, **facts: Any) -> HttpResponse:
    defaults = store.defaults_of(request.user)
    style = store.first_style(defaults)
    typed = facts.setdefault("typed", {})

    def on(name: str, kept: str, values: Iterable[str]) -> list[tuple[str, bool]]:
        """What may be chosen, and which was: as it was typed where that was refused, otherwise as it is kept."""
        return [(value, value == typed.get(name, kept)) for value in values]

    context = {
        "defaults": defaults,
        "style": style,
        "length": clock(defaults.length_s),
        "styles": on("style", style.name, (one.name for one in _styles(request, defaults))),
        "countdowns": on("countdown", style.countdown, (one.value for one in Countdown)),
        "teachings": on("teaching", style.teaching, (one.value for one in Teaching)),
        "sides": on("lead_side", style.lead_side, (Side.LEFT.value, Side.RIGHT.value)),
        "ways": _ways_shown(style, typed),
        "papers": on("paper", defaults.paper, (one.value for one in Paper)),
        "looks": [(value, on, look_of(value, defaults.skin)) for value, on in on("build", defaults.build, Build)],
        "skins": [(value, on, look_of(defaults.build, value)) for value, on in on("skin", defaults.skin, Skin)],
        "sample": figure_address(shipped_move(SAMPLE).move, small=False),
        "kept": [(kind, one) for kind, model in _KEPT.items() for one in _own(request, model)],
        "forgotten": request.session.get("forgotten"),
        "password": PasswordChangeForm(request.user),
        "told": _told(style, _styles(request, defaults)),
        **facts,
    }
    return render(request, "accounts/settings.html", context, status=status)


def _told(style: CueStyle, styles: Iterable[CueStyle]) -> dict[str, Any]:
    """What each choice does, by an example, in the order of the choices."""
    return {
        "styles": [_style_told(one) for one in styles],
        "rate": effects_of(style)["words_per_minute"],
        "sides": [effects_of(replace(style, lead_side=side))["lead"] for side in (Side.LEFT, Side.RIGHT)],
        "teachings": [effects_of(replace(style, teaching=one))["teaching"] for one in Teaching],
        "countdowns": [effects_of(replace(style, countdown=one))["countdown"] for one in Countdown],
        "papers": [f"Cue sheets and handouts are {one.value} pages." for one in Paper],
    }


def _style_told(style: CueStyle) -> str:
    asks = [f"{style.words_per_minute} words a minute", f"holds begin after {style.settle_s} s in position"]
    asks += [f"a reminder to breathe every {style.breath_every_s} s"] if style.breath_every_s else []
    asks += ["reps counted aloud"] if style.count_reps is not RepCount.NONE else []
    halfway = effects_of(style)["talk_style"]
    return f"{', '.join(asks).capitalize()}. Calls: {halfway}"


def _own(request: Asked, model: type[OwnStyle] | type[OwnAudience]) -> Any:
    return model.objects.filter(owner=request.user).order_by("name")


def _styles(request: Asked, defaults: Defaults) -> list[CueStyle]:
    """Those to choose from; the one that is set is among them, though it is no longer kept."""
    styles, first = store.styles_of(request.user), store.first_style(defaults)
    return styles if first.name in {one.name for one in styles} else [*styles, first]


def _begin(request: Asked) -> str:
    """What new classes begin with: a cue style, and what differs from it."""
    form, defaults = request.POST, store.defaults_of(request.user)
    try:
        length_s = parse_clock(form.get("length", ""))
    except RefusedError as error:
        raise error.within("length") from None
    style = replace(
        named(_styles(request, defaults), form.get("style", ""), "cue style"),
        words_per_minute=whole(form, "words_per_minute"),
        lead_side=choice(Side, form, "lead_side", Side.LEFT),
        teaching=choice(Teaching, form, "teaching", Teaching.MIRROR),
        countdown=choice(Countdown, form, "countdown", Countdown.FROM_3),
        way_words=store.first_style(defaults).way_words,
    )
    store.keep_defaults(defaults, length_s, style, choice(Paper, form, "paper", Paper.A4).value, form.get("line"))
    return "Saved. New classes start with these settings. Classes on the shelf stay as they are."


def _ways(request: Asked) -> str:
    """The words for the way to another support that new classes begin with; an empty field is what ships."""
    form, defaults = request.POST, store.defaults_of(request.user)
    told = {way: form[name].strip() for way, name in _WAYS.items() if form.get(name, "").strip()}
    style = replace(store.first_style(defaults), way_words=own_way_words(told))
    store.keep_defaults(defaults, defaults.length_s, style, defaults.paper)
    return "Saved. New classes use these words. Classes on the shelf stay as they are."


def _ways_shown(style: CueStyle, typed: Mapping[str, str]) -> list[tuple[str, list[tuple[str, str, str, str]]]]:
    """From where, and for each posture there: the field, its name, what is said, and what ships."""
    own = {(one.before, one.posture): one.words for one in style.way_words}
    shown: dict[str, list[tuple[str, str, str, str]]] = {}
    for (before, posture), name in _WAYS.items():
        words = typed.get(name, own.get((before, posture), ""))
        shown.setdefault(origin_of(before), []).append((name, posture, words, usual_words_from(before, posture)))
    return list(shown.items())


def _look(request: Asked) -> str:
    """How figures look, in every class."""
    form, defaults = request.POST, store.defaults_of(request.user)
    store.keep_look(defaults, choice(Build, form, "build", Build.SLIGHT), choice(Skin, form, "skin", Skin.MIDDLE))
    return "Saved. All figures now look like this, on your screens, on the class’s and in print."


def _name(request: Asked) -> str:
    name = request.POST.get("name", "").strip()
    if len(name) > 150:
        raise RefusedError("name", "at most 150 characters", name)
    request.user.first_name = name
    request.user.save(update_fields=["first_name"])
    return "Your name was saved."


class _PasswordError(Exception):
    """The form of a password that was refused."""

    def __init__(self, form: PasswordChangeForm) -> None:
        self.form = form
        super().__init__(form)


def _password(request: Asked) -> str:
    form = PasswordChangeForm(request.user, request.POST)
    if not form.is_valid():
        raise _PasswordError(form)
    update_session_auth_hash(request, form.save())
    return "Your password was changed. Other browsers are signed out."


def _forget(request: Asked) -> str:
    """Remove what is kept under a name; it can be put back until something else is removed."""
    kind = request.POST.get("kind", "")
    one = get_object_or_404(_own(request, _KEPT.get(kind, OwnStyle)), pk=whole(request.POST, "kept"))
    request.session["forgotten"] = {"kind": kind, "name": one.name, "settings": one.settings}
    one.delete()
    return f"“{one.name}” was removed. Classes that use it stay as they are."


def _put_back(request: Asked) -> str:
    one = request.session.pop("forgotten", None)
    if one is None:
        raise RefusedError("", "something that was removed just now", "nothing")
    _KEPT[one["kind"]].objects.update_or_create(
        owner=request.user, name=one["name"], defaults={"settings": one["settings"]}
    )
    return f"“{one['name']}” is back."


_PARTS: dict[str, Callable[[Asked], str]] = {
    "begin": _begin,
    "ways": _ways,
    "look": _look,
    "name": _name,
    "password": _password,
    "forget": _forget,
    "put-back": _put_back,
}
