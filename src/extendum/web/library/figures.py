"""Figures of moves as pictures: small ones and large ones by address, and what the screens draw and move.

An address has the mark of the drawings that ship (``v``), so that what it gives may be kept for good; how people want
their figures to look (`look`) is put behind it by the template.
"""

from __future__ import annotations

import gzip
import hashlib
import json
from dataclasses import replace
from functools import cache, lru_cache
from typing import Any
from urllib.parse import urlencode

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase
from django.urls import reverse
from django.utils.cache import patch_cache_control
from django.utils.html import format_html
from django.utils.safestring import SafeString
from django.views.decorators.http import require_safe

from extendum.core.figure.builds import Build
from extendum.core.figure.described import told
from extendum.core.figure.marks import marks_of
from extendum.core.model.body import Side
from extendum.core.model.limits import whole_number
from extendum.core.model.move import Move
from extendum.draw.figures.tones import Skin, tones
from extendum.formats.figures import (
    Shown,
    as_spoken,
    digests,
    figure_of,
    moving_json,
    picture_file,
    seen_figure,
    shipped_figures,
)
from extendum.formats.library import shipped_move


@cache
def version() -> str:
    """A mark of all drawings that ship: another one when any of them changes."""
    return hashlib.sha256(json.dumps(digests(), sort_keys=True).encode()).hexdigest()[:8]


def look_of(build: str, skin: str) -> str:
    """What is put behind the address of a figure for how somebody wants it to look; nothing for the usual."""
    asked = {"build": build} if build != Build.SLIGHT else {}
    asked |= {"skin": skin} if skin != Skin.MIDDLE else {}
    return f"&{urlencode(asked)}" if asked else ""


def figure_address(move: Move, side: Side = Side.BOTH, *, small: bool = True) -> str:
    """Where the picture of a move is; empty where it has none."""
    shown = figure_of(move)
    if shown is None:
        return ""
    return _address(shown, Side.LEFT if side is Side.BOTH and move.sided else side, small=small)


def _address(shown: Shown, side: Side, *, small: bool) -> str:
    asked = {"v": version()} | ({"size": "small"} if small else {})
    asked |= {"side": side.value} if side is not Side.BOTH else {}
    return f"{reverse('figure', args=[shown.key])}?{urlencode(asked | _turned(shown))}"


def _turned(shown: Shown) -> dict[str, str]:
    asked = {"flipped": "1"} if shown.flipped else {}
    return asked | ({"view": str(shown.view)} if shown.view is not None else {})


def figure_words(move: Move, side: Side = Side.BOTH) -> str:
    """The picture of a move in words; empty where it has none."""
    shown = figure_of(move)
    return told(move, seen_figure(shown), marks_of(move), side) if shown else ""


def live_figure(move: Move, side: Side, look: str = "") -> SafeString:
    """What a screen draws a move's figure into, on a side: its picture until then. Empty where it has none."""
    shown = figure_of(move)
    if shown is None:
        return SafeString()
    shown = as_spoken(shown, side)
    asked = urlencode({"v": version()} | ({"view": str(shown.view)} if shown.view is not None else {}))
    letter = side.value[0].upper() if side is not Side.BOTH else ""
    return format_html(
        '<span class="live" role="img" aria-label="{}" data-figure="{}" data-sign="{}" data-flip="{}">'
        '<img src="{}" alt="" loading="lazy"></span>',
        figure_words(move, side),
        f"{reverse('figure-moves', args=[shown.key])}?{asked}{look}",
        letter,
        "yes" if (side is Side.RIGHT) != shown.flipped else "no",
        _address(shown, side, small=False) + look,
    )


def _asked(request: HttpRequest, key: str) -> Shown:
    if key not in shipped_figures():
        raise Http404
    asked = request.GET
    build = next((one for one in Build if one == asked.get("build")), Build.SLIGHT)
    skin = next((one for one in Skin if one == asked.get("skin")), Skin.MIDDLE)
    return Shown(key, asked.get("flipped") == "1", whole_number(asked.get("view", ""), most=359), build, skin)


def _kept(request: HttpRequest, answer: HttpResponse) -> HttpResponseBase:
    """What has the mark of today's drawings never changes."""
    if request.GET.get("v") == version():
        patch_cache_control(answer, private=True, max_age=31_536_000, immutable=True)
    else:
        patch_cache_control(answer, private=True, max_age=3600)
    return answer


@require_safe
def figure(request: HttpRequest, key: str) -> HttpResponseBase:
    """The picture of a shipped figure; ?side= turns it over, ?view= and ?flipped= look at it from elsewhere."""
    shown = _asked(request, key)
    side = next((one for one in Side if one == request.GET.get("side")), Side.BOTH)
    small = request.GET.get("size") == "small"
    about = "" if small else _words(replace(shown, build=Build.SLIGHT, skin=Skin.MIDDLE), side)
    return _kept(request, HttpResponse(_file(shown, side, about, small=small), content_type="image/svg+xml"))


@lru_cache(maxsize=1024)
def _words(shown: Shown, side: Side) -> str:
    move = shipped_move(shown.key).move
    turned: dict[str, Any] = {"figure_flipped": shown.flipped, "figure_view": shown.view}
    return told(replace(move, **turned), seen_figure(shown), marks_of(move), side)


@lru_cache(maxsize=2048)
def _file(shown: Shown, side: Side, about: str, *, small: bool) -> bytes:
    return picture_file(shown, side, about, small=small).encode()


@require_safe
def moves(request: HttpRequest, key: str) -> HttpResponseBase:
    """The drawing of a shipped figure with its movement, for the screens; in the tones of ?skin=."""
    packed = _packed(replace(_asked(request, key), flipped=False))
    answer = HttpResponse(packed, content_type="application/json", headers={"Content-Encoding": "gzip"})
    return _kept(request, answer)


@lru_cache(maxsize=256)
def _packed(shown: Shown) -> bytes:
    plain = moving_json(shown)
    painted = json.dumps(tones(shown.skin), separators=(",", ":")).encode()
    return gzip.compress(plain[:-1] + b',"tones":' + painted + b"}", 6, mtime=0)
