"""The Words screen: the whole script as a page to be read aloud, editable in place."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from django.http import HttpResponse
from django.shortcuts import render
from django.utils.safestring import SafeString
from django.views.decorators.http import require_POST, require_safe
from django.views.decorators.vary import vary_on_headers

from extendum.core.edit.script_edits import set_style
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.limits import LONGEST_S, whole_number
from extendum.core.model.placeholders import CLASS_PLACEHOLDERS, PLACEHOLDERS
from extendum.core.model.script import Script
from extendum.core.model.talk import Quiet
from extendum.core.model.timeline import CueKind, Timeline, clock
from extendum.core.outputs.wording import SAMPLE, Reading, calibrated, literal_sides, readings, repeated, talk_share
from extendum.core.timing.layout import WayTold, ways_told
from extendum.core.timing.speech import speaking_ms
from extendum.draw.strip import draw_strip
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.models import StretchClass
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import whole

_LABELS = {
    "demonstration": "while showing it",
    "moving": "while moving",
    "there": "once there",
    "short": "later on, in short",
    "switch": "at the switch",
    "turn": "change of direction",
    "again": "before a further set",
    "each": "as each side comes",
    "release": "release",
    "words": "said",
}
LONGEST_TEXT = 4000


@dataclass(frozen=True, slots=True)
class Line:
    """One text of the page with its strip and what is to be said of it."""

    reading: Reading
    label: str
    strip: SafeString
    seconds: str
    over: str


@dataclass(frozen=True, slots=True)
class PromptLine:
    """One prompt of a move: when it is said, or why not."""

    index: int
    kind: str
    text: str
    said_at: str
    unsaid: str


@dataclass(frozen=True, slots=True)
class Passage:
    """An item as the page shows it."""

    item: Item
    number: int
    starts: str
    lines: list[Line]
    prompts: list[PromptLine]
    talk: str
    unsaid: list[str]
    way: WayTold | None = None
    way_at: str = ""


def words_context(of: StretchClass) -> dict[str, Any]:
    """Everything that the Words screen shows of a class."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    texts, ways = readings(script), ways_told(script)
    passages: dict[str, Passage] = {}
    for number, item in enumerate(script.items(), 1):
        if not isinstance(item, Quiet):
            told = _passage(item, number, texts.get(item.id, []), timeline)
            said = [c for c in timeline.cues if c.of.item == item.id and c.kind is CueKind.WAY]
            at = ", ".join(clock(cue.start_ms // 1000) for cue in said)
            passages[item.id] = replace(told, way=ways.get(item.id) if item.present else None, way_at=at)
    sections = [(s, [passages[i.id] for i in s.items if i.id in passages]) for s in script.sections]
    return {
        "class": of,
        "script": script,
        "length": clock(timeline.length_s),
        "sections": sections,
        "repeated": repeated(timeline),
        "unsaid": len(timeline.unsaid),
        "rate": script.style.words_per_minute,
        "sample": SAMPLE,
        "placeholders": list(PLACEHOLDERS.items()),
        "class_placeholders": sorted(CLASS_PLACEHOLDERS),
        "talk": _class_talk(timeline),
        "can_undo": of.present.parent_id is not None,
        "can_redo": of.present.forward_id is not None,
    }


def _class_talk(timeline: Timeline) -> str:
    if not timeline.segments:
        return "nothing yet"
    whole_class = replace(timeline.segments[0], start_s=0, end_s=timeline.length_s)
    share = talk_share(timeline, whole_class)
    return f"{share.percent} % talk, longest quiet {share.longest_quiet_s} s"


def _passage(item: Item, number: int, texts: list[Reading], timeline: Timeline) -> Passage:
    segments = timeline.of_item(item.id)
    lines = [Line(r, _label(r), drawn(draw_strip(r.said_ms, r.room_ms)), *_told(r)) for r in texts]
    work = [s for s in segments if s.kind.works]
    shares = [talk_share(timeline, s) for s in work]
    talk = (
        f"{max(s.percent for s in shares)} % talk, quiet {max(s.longest_quiet_s for s in shares)} s" if shares else ""
    )
    prompts = _prompts(item, timeline) if isinstance(item, MoveItem) else []
    own = [u for u in timeline.unsaid if u.of.item == item.id]
    told = {prompt.text for prompt in prompts}
    unsaid = [f"“{u.text}” ({u.rule})" for u in own if u.text not in told]
    return Passage(item, number, clock(segments[0].start_s) if segments else "–", lines, prompts, talk, unsaid)


def _label(reading: Reading) -> str:
    return _LABELS.get(reading.field) or f"before part {reading.field.removeprefix('stage-')}"


def _told(reading: Reading) -> tuple[str, str]:
    seconds = f"{reading.said_ms / 1000:.1f} s"
    if reading.room_ms is not None:
        seconds += f" of {reading.room_ms / 1000:.1f}".removesuffix(".0") + " s"
    if not reading.over_s:
        return seconds, ""
    if reading.field == "words":
        return seconds, f"{reading.over_s} s too long: unsaid"
    return seconds, f"pushes the hold by {reading.over_s} s"


def _prompts(item: MoveItem, timeline: Timeline) -> list[PromptLine]:
    found = []
    for index, prompt in enumerate(item.words.prompts):
        own = (item.id, CueKind(prompt.kind.value), index)
        said = [c for c in timeline.cues if (c.of.item, c.of.kind, c.of.nth) == own]
        missed = [u for u in timeline.unsaid if (u.of.item, u.of.kind, u.of.nth) == own]
        at = ", ".join(clock(cue.start_ms // 1000) for cue in said)
        why = f"{len(missed)} × unsaid: {missed[0].rule}" if missed else ""
        found.append(PromptLine(index, prompt.kind.value, prompt.text, at, why))
    return found


@require_safe
@vary_on_headers("HX-Request")
def words(request: Asked, pk: int) -> HttpResponse:
    """The class's words, as a page or as its fragment."""
    return words_page(request, own_class(request, pk))


def words_page(request: Asked, of: StretchClass) -> HttpResponse:
    """The page, or its fragment for a request of htmx."""
    template = "classes/_words.html" if request.htmx else "classes/words.html"
    return render(request, template, words_context(of))


@require_POST
def speech(request: Asked, pk: int) -> HttpResponse:
    """The strip of a text while it is typed: nothing is stored."""
    of, form = own_class(request, pk), request.POST
    script: Script = store.script_of(of.present)
    text = form.get("text", "")[:LONGEST_TEXT]
    room = form.get("room", "")
    room_ms = whole_number(room, most=LONGEST_S * 1000)
    reading = Reading("", form.get("field", ""), text, (), speaking_ms(text, script.style.words_per_minute), room_ms)
    literal = literal_sides(text) if form.get("sided") == "1" else []
    seconds, over = _told(reading)
    line = Line(
        replace(reading, literal=tuple(literal)), "", drawn(draw_strip(reading.said_ms, room_ms)), seconds, over
    )
    return render(request, "classes/_strip.html", {"line": line})


@require_POST
def calibrate(request: Asked, pk: int) -> HttpResponse:
    """Set the speaking rate from a reading of the sample; a step like any other."""
    of = own_class(request, pk)
    try:
        rate = calibrated(whole(request.POST, "milliseconds"))

        def change(script: Script) -> Script:
            return set_style(script, replace(script.style, words_per_minute=rate))

        of = store.change(of, whole(request.POST, "stamp"), f"Speaking rate {rate} words a minute", change)
    except store.StaleEditError as stale:
        return render(request, "classes/_notice.html", {"class": of, "happened": stale.happened}, status=409)
    except RefusedError as error:
        return render(request, "classes/_notice.html", {"class": of, "message": str(error)}, status=422)
    return words_page(request, of)
