"""A class as one page that plays by itself: everything inside, nothing fetched, for any phone and without a network.

The playing code is that of the Stage, bundled from the same modules (`make css`). Scripts and styles are named by their
digests in the page's own policy, so that nothing else can run in it.
"""

from __future__ import annotations

import base64
import gzip
import hashlib
import html
import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from io import BytesIO
from string import Template
from typing import Any
from urllib.parse import urlsplit

from extendum.core.figure.described import told as told_figure
from extendum.core.figure.marks import marks_of
from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move
from extendum.core.model.script import Script
from extendum.core.model.timeline import Mode, Timeline, clock
from extendum.core.model.voice import spoken_key
from extendum.core.moves.cautions import ASK_FIRST, USUAL
from extendum.core.outputs.at_home import AtHome, at_home, home_class, is_marked
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.outputs.sound import Speaker
from extendum.core.timing.at_hand import as_taught
from extendum.core.timing.compile import compile_script
from extendum.draw.figures.tones import style, tones
from extendum.draw.small import draw_ribbon
from extendum.formats.figures import Shown, as_spoken, figure_of, moving_json, picture_svg, seen_figure
from extendum.formats.paper import USUAL_LOOK, Look, font_file
from extendum.formats.score import played

#: Letters of a note, and of a link.
NOTE_MOST, LINK_MOST = 600, 300
_PAGE = files("extendum.data").joinpath("page")
_FACES = (("Text", 400, "source-sans-3-regular"), ("Text", 700, "source-sans-3-bold"), ("Name", 700, "literata-bold"))


@dataclass(frozen=True, slots=True)
class Shows:
    """What a page shows beside the class: the teacher's line, a note, a link; and whether it is the part for home."""

    line: str = ""
    note: str = ""
    link: str = ""
    home: bool = True

    def __post_init__(self) -> None:
        if len(self.note) > NOTE_MOST:
            raise RefusedError("note", f"at most {NOTE_MOST} letters", f"{len(self.note)}")
        web = urlsplit(self.link)
        if self.link and (web.scheme not in ("http", "https") or not web.netloc or len(self.link) > LINK_MOST):
            must = f"an address that begins with https:// or http://, of at most {LINK_MOST} letters"
            raise RefusedError("link", must, self.link)


def playing_page(
    script: Script,
    library: Mapping[str, LibraryMove],
    shows: Shows = Shows(),
    look: Look = USUAL_LOOK,
    voice: Speaker | None = None,
    voice_name: str = "",
) -> str:
    """The page as HTML; ``voice``: who speaks in it, called so; without one it says nothing of its own.

    Marked for home, only that is played, unless the whole class is asked for.
    """
    home = shows.home and is_marked(script)
    taught = home_class(script) if home else script
    timeline = compile_script(taught)
    moves = at_home(script, cue_sheet(script, compile_script(script)), every=not home)
    guide = _guide(timeline, script.style.words_per_minute, voice) if voice else {}
    parts = _words(script, taught, timeline, moves, shows, home=home)
    parts |= _drawn(taught, timeline, moves, library, look)
    parts |= _played(played(taught, timeline, library), voice_name if guide else "", guide, parts.pop("keys").split())
    css, js = _styles(look, "".join(parts.values())), _file("player.js")
    policy = (
        f"default-src 'none'; script-src {_named(js)}; style-src {_named(css)}; img-src data:; font-src data:; "
        "connect-src data:; media-src data: blob:; base-uri 'none'; form-action 'none'"
    )
    return Template(_file("page.html")).substitute(parts, policy=policy, css=css, js=js)


def _words(
    script: Script, taught: Script, timeline: Timeline, moves: list[AtHome], shows: Shows, *, home: bool
) -> dict[str, str]:
    """What stands in the page."""
    told = {
        "title": script.title,
        "about": _about(script, timeline, len(moves), home=home),
        "needs": _needs(taught),
        "usual": USUAL,
        "ask": ASK_FIRST,
        "often": _often(script, home=home),
    }
    return {name: html.escape(text) for name, text in told.items()} | {"beside": _beside(shows)}


def _drawn(
    taught: Script, timeline: Timeline, moves: list[AtHome], library: Mapping[str, LibraryMove], look: Look
) -> dict[str, str]:
    """Its ribbon, figures and handout; ``keys``: what the figures are known by."""
    pictures = list(_pictures(taught, timeline, library, look))
    drawings = {_address(shown): json.loads(moving_json(shown)) for _, _, shown in pictures}
    packed = {"drawings": drawings, "light": tones(look.skin), "dark": tones(look.skin, dark=True)}
    small = gzip.compress(json.dumps(packed, separators=(",", ":")).encode(), 9, mtime=0)
    return {
        "ribbon": draw_ribbon(timeline),
        "templates": "".join(_template(*one) for one in pictures),
        "home": "".join(_home_row(one, look) for one in moves),
        "figures": base64.b64encode(small).decode(),
        "keys": " ".join(sorted(drawings)),
    }


def _played(score: dict[str, Any], voice: str, guide: dict[str, str], keys: list[str]) -> dict[str, str]:
    """What the player needs; what a browser remembers of a page is of exactly this class."""
    inside = _inside(score)
    facts = {"code": hashlib.sha256(inside.encode()).hexdigest()[:12], "guide": voice, "figures": keys}
    return {"facts": _inside(facts), "score": inside, "voice": _inside({"name": voice, "readings": guide})}


def policy_of(page: str) -> str:
    """What a page of ours lets run in it, as it says itself; a server says the same."""
    return html.unescape(page.partition('http-equiv="Content-Security-Policy" content="')[2].partition('"')[0])


@cache
def _file(name: str) -> str:
    return _PAGE.joinpath(name).read_text("utf-8")


def _named(text: str) -> str:
    """A script or a style by its digest, as a policy names it."""
    return f"'sha256-{base64.b64encode(hashlib.sha256(text.encode()).digest()).decode()}'"


def _inside(plain: object) -> str:
    """Values inside of a script element: nothing in them ends it."""
    return json.dumps(plain, ensure_ascii=False, separators=(",", ":")).replace("<", "\\u003c")


# ---- words -------------------------------------------------------------------------------------------------------


def _about(script: Script, timeline: Timeline, many: int, *, home: bool) -> str:
    moves = f"{many} {'move' if many == 1 else 'moves'}"
    return " · ".join(filter(None, (clock(timeline.length_s), moves, "for home" if home else script.brief.group)))


def _needs(script: Script) -> str:
    props = dict.fromkeys(prop.name for item in as_taught(script).moves() for prop in item.move.props)
    return f"You need: {', '.join(props)}." if props else "You need nothing but some space."


def _often(script: Script, *, home: bool) -> str:
    if home:
        return f"To do at home{', ' if script.often else ''}{script.often}."
    return f"To do at home, as in class{', ' if script.often else ''}{script.often}."


def _beside(shows: Shows) -> str:
    """What the teacher wants beside the class."""
    found = [f'<p class="line">{html.escape(shows.line)}</p>'] if shows.line else []
    found += [f"<p>{html.escape(one)}</p>" for one in shows.note.splitlines() if one.strip()]
    if shows.link:
        address = html.escape(shows.link)
        found.append(f'<p><a href="{address}" rel="noreferrer">{address}</a></p>')
    return "".join(found)


# ---- figures -----------------------------------------------------------------------------------------------------


def _pictures(
    script: Script, timeline: Timeline, library: Mapping[str, LibraryMove], look: Look
) -> Iterable[tuple[str, Side, Shown]]:
    """Each move on its sides, and the parts of it that are other places."""
    items = {item.id: item for item in as_taught(script).moves()}
    sides = dict.fromkeys((one.item, one.side or Side.BOTH) for one in timeline.segments if one.item in items)
    for item, side in sides:
        if shown := _shown(items[item].move, look):
            yield item, side, as_spoken(shown, side)
        for number, stage in enumerate(items[item].then, 2):
            if stage.figure in library and (shown := _shown(library[stage.figure].move, look)):
                yield f"{item}@{number}", side, as_spoken(shown, side)


def _shown(move: Move, look: Look) -> Shown | None:
    shown = figure_of(move)
    return shown and Shown(shown.key, shown.flipped, shown.view, look.build, look.skin)


def _address(shown: Shown) -> str:
    """What a drawing is known by in the page."""
    return shown.key if shown.view is None else f"{shown.key}-{shown.view}"


def _template(item: str, side: Side, shown: Shown) -> str:
    flip = "yes" if (side is Side.RIGHT) != shown.flipped else "no"
    sign = side.value[0].upper() if side is not Side.BOTH else ""
    holder = f'<span class="live" data-figure="{_address(shown)}" data-sign="{sign}" data-flip="{flip}"></span>'
    return f'<template id="figure-{item}-{side}">{holder}</template>'


def _home_row(one: AtHome, look: Look) -> str:
    """A move of the handout: its picture, its dose, how and why."""
    shown = _shown(one.item.move, look)
    picture = ""
    if shown:
        move = one.item.move
        about = told_figure(move, seen_figure(shown), marks_of(move), one.side)
        svg = picture_svg(shown, one.side, about, small=True, prefix=f"h{one.item.id}")
        picture = f'<div class="still" data-still="{_address(shown)}">{svg}</div>'
    words = "".join(f"<p>{html.escape(text)}</p>" for text in (one.how, one.item.move.why) if text)
    name = f"<h3>{html.escape(one.item.name)}</h3>"
    return f'<li>{picture}<div>{name}<p class="dose">{html.escape(one.dose)}</p>{words}</div></li>'


# ---- faces -------------------------------------------------------------------------------------------------------


def _styles(look: Look, text: str) -> str:
    faces = "".join(
        f"@font-face{{font-family:{family};font-weight:{weight};src:url(data:font/woff;base64,{_face(name, text)})}}"
        for family, weight, name in _FACES
    )
    return faces + style(look.skin) + _file("page.css")


def _face(name: str, text: str) -> str:
    """A face with no more than the letters of a text."""
    from fontTools import subset  # it takes 9 MB: only where a page is made
    from fontTools.ttLib import TTFont

    font, out = TTFont(font_file(name)), BytesIO()
    some = subset.Subsetter(subset.Options(layout_features=["kern", "tnum", "lnum", "mark", "mkmk"], hinting=False))
    some.populate(text="".join({*text, *map(chr, range(32, 127)), "’", "…", "–"}))
    some.subset(font)
    font.flavor = "woff"
    font.save(out)
    return base64.b64encode(out.getvalue()).decode()


# ---- the guide ---------------------------------------------------------------------------------------------------


def _guide(timeline: Timeline, rate: int, voice: Speaker) -> dict[str, str]:
    """Every text that is spoken, once, as Opus in an address of its own."""
    from extendum.formats.audio import opus  # takes a second to load: only where it is wanted

    texts = dict.fromkeys(cue.text for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.text.strip())
    found: dict[str, str] = {}
    for text in texts:
        if spoken_key(text) not in found:
            made = base64.b64encode(opus(voice(text, rate))).decode()
            found[spoken_key(text)] = f"data:audio/ogg;base64,{made}"
    return found
