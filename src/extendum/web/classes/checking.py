"""The Checks screen: what was found, by severity, with its reasons; and the body picture."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from django.http import HttpResponse
from django.shortcuts import render
from django.utils.html import escape
from django.utils.safestring import SafeString
from django.views.decorators.http import require_safe
from django.views.decorators.vary import vary_on_headers

from extendum.core.checks.finding import Finding, Severity
from extendum.core.checks.outcome import mended
from extendum.core.checks.report import CHECKS, Report
from extendum.core.model.body import Region, Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.move import Effect
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline, clock
from extendum.core.moves.suggest import Suggestion, suggest
from extendum.core.outputs.coverage import MIDDLE, Coverage, Worked, coverage, of_region
from extendum.draw.body import Shown, draw_body
from extendum.draw.flags import draw_flag
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.findings import report_of
from extendum.web.classes.models import StretchClass
from extendum.web.classes.own import Own
from extendum.web.classes.page import compiled
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

_HEADINGS = {Severity.FIX: "To fix", Severity.CONSIDER: "To consider", Severity.NOTE: "To know"}
#: How many moves are offered for an area.
OFFERED = 4


@dataclass(frozen=True, slots=True)
class Place:
    """Where a finding is: an item, by its number and name, and when it comes."""

    item: str
    name: str
    at: str


@dataclass(frozen=True, slots=True)
class Entry:
    """A finding with its mark and places."""

    finding: Finding
    flag: SafeString
    places: list[Place]
    again: bool


@dataclass(frozen=True, slots=True)
class Line:
    """What one effect does for a region: seconds on each side, main and besides."""

    effect: Effect
    told: str
    besides: str


def checks_context(of: StretchClass, query: Mapping[str, str]) -> dict[str, Any]:
    """Everything that the Checks screen shows; the query chooses the effect and the area of the picture."""
    script, timeline = store.script_of(of.present), compiled(bytes(of.present.document))
    own = Own(of.owner)
    report = report_of(script, timeline, own)
    found = coverage(script, timeline)
    present = [effect for effect in Effect if any(one is effect for _, one in found)]
    effect = next((one for one in present if one == query.get("effect")), next(iter(present), Effect.STRETCH))
    area = next((region for region in Region if region == query.get("area")), None)
    return {
        "class": of,
        "script": script,
        "length": clock(timeline.length_s),
        "groups": _groups(script, timeline, report),
        "kept": [_entry(script, timeline, one) for one in report.kept],
        "open": len(report.open),
        "total": len(CHECKS),
        "effects": [(one, one is effect, "?" + _query(one, area)) for one in present],
        "effect": effect,
        "picture": drawn(draw_body(_shown(script, found, effect, area))),
        "table": _table(found),
        "columns": present,
        "area": _area(script, found, area, own) if area else None,
        "wanted": [(region, "; ".join(_gets(region, found))) for region in script.brief.areas],
        "moves": len(script.moves()),
        "can_undo": of.present.parent_id is not None,
        "can_redo": of.present.forward_id is not None,
    }


def _query(effect: Effect, area: Region | None) -> str:
    return urlencode({"effect": effect.value} | ({"area": area.value} if area else {}))


def _groups(script: Script, timeline: Timeline, report: Report) -> list[tuple[str, list[Entry]]]:
    by_severity = ((_HEADINGS[one], report.of(one)) for one in Severity)
    return [(name, _entries(script, timeline, found)) for name, found in by_severity if found]


def _entries(script: Script, timeline: Timeline, found: Sequence[Finding]) -> list[Entry]:
    """Findings in a row; the reason of a check stands at the first finding of it."""
    codes = [one.code for one in found]
    return [_entry(script, timeline, one, again=one.code in codes[:n]) for n, one in enumerate(found)]


def _entry(script: Script, timeline: Timeline, finding: Finding, *, again: bool = False) -> Entry:
    numbers = {item.id: (n, item.name) for n, item in enumerate(script.items(), 1)}
    places = []
    for item in finding.found.items:
        segments = timeline.of_item(item)
        at = next((s for s in segments if s.id == finding.found.segment), segments[0] if segments else None)
        places.append(Place(item, "{} {}".format(*numbers[item]), clock(at.start_s) if at else "–"))
    return Entry(finding, drawn(draw_flag(finding.severity)), places, again)


def _shown(script: Script, found: Coverage, effect: Effect, area: Region | None) -> Shown:
    seconds = {
        region: (worked.seconds(Side.LEFT), worked.seconds(Side.RIGHT))
        for (region, one), worked in found.items()
        if one is effect
    }
    missing = [region for region in script.brief.areas if not _gets(region, found)]
    return Shown(seconds, missing, area, lambda region: "?" + _query(effect, region))


def _gets(region: Region, found: Coverage) -> list[str]:
    """What a region mainly gets, by effect; nothing where no move is for it."""
    told = ((effect, sides_words(region, worked, main=True)) for effect, worked in of_region(found, region).items())
    return [f"{effect} {words}" for effect, words in told if words]


def sides_words(region: Region, worked: Worked, *, main: bool) -> str:
    """Seconds on each side in words; empty where there are none."""
    left, right = worked.seconds(Side.LEFT, main=main), worked.seconds(Side.RIGHT, main=main)
    if not left and not right:
        return ""
    if region in MIDDLE:
        return f"{left} s"
    return f"{left} s each side" if left == right else f"left {left} s, right {right} s"


def _table(found: Coverage) -> list[tuple[Region, list[tuple[str, str]]]]:
    """Seconds by area and effect: main on each side, and in brackets what reaches it besides."""
    effects = [effect for effect in Effect if any(one is effect for _, one in found)]
    rows = []
    for region in Region:
        own = of_region(found, region)
        if own:
            told = (own.get(effect, Worked()) for effect in effects)
            cells = [(sides_words(region, one, main=True), sides_words(region, one, main=False)) for one in told]
            rows.append((region, cells))
    return rows


def _area(script: Script, found: Coverage, area: Region, own: Own) -> dict[str, Any]:
    """What the class does for an area, by which moves, and what the library offers for it that keeps to the brief."""
    worked = of_region(found, area)
    lines = [
        Line(effect, sides_words(area, one, main=True), sides_words(area, one, main=False))
        for effect, one in worked.items()
    ]
    items: dict[str, bool] = {}
    for one in worked.values():
        for item, main in one.items.items():
            items[item] = items.get(item, False) or main
    offers: tuple[Suggestion, ...] = suggest(
        script, [entry for entry in own.library if area in entry.move.main_regions], most=OFFERED
    )
    return {
        "name": area,
        "wanted": area in script.brief.areas,
        "lines": lines,
        "items": [(item, items[item.id]) for item in script.items() if item.id in items],
        "offers": offers,
    }


@require_safe
def remedy(request: Asked, pk: int) -> HttpResponse:
    """What the remedy of ?finding= would change, in a few sentences; nothing is changed."""
    of, own = own_class(request, pk), Own(request.user)
    script = store.script_of(of.present)
    try:
        finding = report_of(script, compiled(bytes(of.present.document)), own).get(request.GET.get("finding", ""))
        told = mended(script, finding, tuple(own.library), own.library.form).told
    except RefusedError as error:
        return HttpResponse(escape(f"It cannot be done as it is: {error}"), status=200)
    return HttpResponse(escape(told))


@require_safe
@vary_on_headers("HX-Request")
def checks(request: Asked, pk: int) -> HttpResponse:
    """What was found in a class, and its body picture, as a page or as its fragment."""
    return checks_page(request, own_class(request, pk))


def checks_page(request: Asked, of: StretchClass) -> HttpResponse:
    """The page, or its fragment for a request of htmx; a post carries what the picture shows."""
    template = "classes/_checks.html" if request.htmx else "classes/checks.html"
    return render(request, template, checks_context(of, request.POST or request.GET))
