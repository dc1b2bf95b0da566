"""What a fit would do before it is done, other lengths of a class, and other orders of a section."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils.safestring import SafeString
from django.views.decorators.http import require_POST, require_safe

from extendum.core.fit.explain import (
    change_words,
    changes_words,
    fit_sentence,
    limit_value,
    limit_words,
    names,
    refusal_lines,
)
from extendum.core.fit.fit import Fit
from extendum.core.fit.versions import Version, as_own_class, fitter_of, regions_of, version_at, versions, warm_up
from extendum.core.model.body import Region, Side
from extendum.core.model.brief import LONGEST_CLASS_S
from extendum.core.model.errors import ExtendumError, RefusedError
from extendum.core.model.item import Item, MoveItem, may_go
from extendum.core.model.script import Script
from extendum.core.model.section import Pin, Section
from extendum.core.model.timeline import SegmentKind, clock, parse_clock
from extendum.core.order.section_order import broken_pins, proposals, section_of
from extendum.core.order.told import cost_words
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import outline
from extendum.draw.order_lines import draw_order_lines
from extendum.draw.small import draw_small_sheet
from extendum.web.classes import store
from extendum.web.classes.access import own_class
from extendum.web.classes.own import Own
from extendum.web.classes.page import difference_words, fitter
from extendum.web.classes.posted import read_edit
from extendum.web.shared.asked import Asked
from extendum.web.shared.drawn import drawn

_ON_THE_WAY = (SegmentKind.TRANSITION, SegmentKind.SWITCH, SegmentKind.TURN, SegmentKind.SETUP)
_HALF = {Side.LEFT: 1, Side.RIGHT: 2}


@require_safe
def preview(request: Asked, pk: int) -> JsonResponse:
    """What fitting to ?target= (the class's own without) would change: a sentence, a list, and the outline."""
    of = own_class(request, pk)
    try:
        typed = request.GET.get("target")
        seconds = store.script_of(of.present).brief.target_s if typed is None else parse_clock(typed)
        if not 1 <= seconds <= LONGEST_CLASS_S:
            raise RefusedError("", f"from 0:01 to {clock(LONGEST_CLASS_S)}", clock(seconds))
    except RefusedError as error:
        return JsonResponse({"message": str(error.within("length"))}, status=422)
    result = fitter(bytes(of.present.document)).fit(seconds)
    return JsonResponse(preview_plain(result))


def preview_plain(result: Fit) -> dict[str, Any]:
    """A fit as the Desk draws it; stretches are start, end, half (0 both, 1 left, 2 right), kind and item."""
    near = [clock(s) for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
    plain: dict[str, Any] = {
        "target": result.target_s,
        "clock": clock(result.target_s),
        "reached": result.reached,
        "sentence": fit_sentence(result) if result.reached else " ".join(refusal_lines(result)),
        "changes": [{"item": c.item, "name": c.name, "what": change_words(c)} for c in result.changes],
        "limits": [limit_words(limit) for limit in result.limits] if result.reached else [],
        "binds": [] if result.reached else [{"name": one.name, "what": limit_value(one)} for one in result.limits],
        "near": near if not result.reached else [],
        "stretches": _stretches(result.script) if result.reached else [],
    }
    return plain


@require_POST
def what_if(request: Asked, pk: int) -> JsonResponse:
    """What an edit would make of the class, without doing it: its label, the length, and the outline to draw."""
    of = own_class(request, pk)
    script = store.script_of(of.present)
    try:
        asked = read_edit(request.POST, script, Own(of.owner))
        after = asked.change(script)
    except ExtendumError as error:
        return JsonResponse({"message": str(error)}, status=422)
    laid, target = outline(after), after.brief.target_s
    length = laid[-1].end_s if laid else 0
    told = {"label": asked.label, "clock": clock(length), "off": difference_words(length, target)}
    return JsonResponse(told | {"reached": True, "target": target, "stretches": _stretches(after), "changes": []})


def _stretches(script: Script) -> list[list[int | str]]:
    return [
        [one.start_s, one.end_s, _HALF.get(one.side or Side.BOTH, 0), one.kind.value, one.item]
        for one in outline(script)
        if one.kind not in _ON_THE_WAY
    ]


@dataclass(frozen=True, slots=True)
class Paper:
    """A version as it lies on the page: its small sheet, or why there is none."""

    target: str
    sheet: SafeString
    sentence: str
    left_out: str
    moves: int
    here: bool
    nearest: list[str]


def _paper(version: Version) -> Paper:
    result = version.fit
    near = [clock(s) for s in (result.nearest_below_s, result.nearest_above_s) if s is not None]
    if not result.reached:
        return Paper(clock(result.target_s), drawn(""), " ".join(refusal_lines(result)[1:]), "", 0, False, near)
    sheet = drawn(draw_small_sheet(compile_script(result.script), result.target_s, 190))
    told = changes_words([one for one in result.changes if one.after is not None]) or "as it is"
    here = not result.changes
    return Paper(clock(result.target_s), sheet, told, names(version.left_out), len(result.script.moves()), here, near)


@require_safe
def versions_page(request: Asked, pk: int) -> HttpResponse:
    """The class at lengths that it can reach, side by side.

    With ?any=1 any move may be left out; ?length= adds one of the instructor's own; ?warm= chooses a warm-up.
    """
    of = own_class(request, pk)
    script = store.script_of(of.present)
    any_move = request.GET.get("any") == "1"
    regions, asked, warm = regions_of(script), request.GET.getlist("region"), request.GET.get("warm", "")
    fitter = fitter_of(script, any_move=any_move)
    context: dict[str, Any] = {
        "class": of,
        "any_move": any_move,
        "optional": sum(may_go(item) for item in script.items()),
        "papers": [_paper(version) for version in versions(fitter)] if script.moves() else [],
        "least": clock(fitter.least_s),
        "most": clock(fitter.most_s),
        "regions": [(region.value, region.value in asked) for region in regions],
        "length": request.GET.get("length", ""),
        "warm": warm or "5:00",
    }
    try:
        context["own"] = context["length"] and _paper(version_at(fitter, _length(context["length"])))
    except RefusedError as error:
        context["length_refused"] = str(error)
    try:
        context["chosen"] = warm and _paper(_asked_warm_up(script, warm, asked))
    except RefusedError as error:
        context["refused"] = str(error)
    wrong = "refused" in context or "length_refused" in context
    return render(request, "classes/versions.html", context, status=422 if wrong else 200)


def _length(typed: str) -> int:
    """A length of a class, as typed, in seconds."""
    try:
        seconds = parse_clock(typed)
    except RefusedError as error:
        raise error.within("length") from None
    if not 60 <= seconds <= LONGEST_CLASS_S:
        raise RefusedError("length", f"from 1:00 to {clock(LONGEST_CLASS_S)}", typed)
    return seconds


def _asked_warm_up(script: Script, length: str, asked: list[str]) -> Version:
    seconds = _length(length)
    if seconds > 3600:
        raise RefusedError("length", "from 1:00 to 1:00:00", length)
    known = {region.value: region for region in Region}
    return warm_up(script, seconds, frozenset(known[one] for one in asked if one in known))


@require_POST
def keep_version(request: Asked, pk: int) -> HttpResponse:
    """Keep a version, or a warm-up, as a class of its own."""
    of, form = own_class(request, pk), request.POST
    script = store.script_of(of.present)
    try:
        if form.get("warm"):
            version, what = _asked_warm_up(script, form["warm"], form.getlist("region")), f"warm-up {form['warm']}"
        else:
            fitter = fitter_of(script, any_move=form.get("any") == "1")
            version, what = version_at(fitter, parse_clock(form.get("target", ""))), ""
        if not version.fit.reached:
            raise RefusedError("length", "one that can be reached", " ".join(refusal_lines(version.fit)))
    except RefusedError as error:
        messages.error(request, str(error))
        return redirect("versions", pk)
    made = store.create(request.user, as_own_class(script, version, what), f"Made from {script.title}")
    return redirect("desk", made.pk)


@require_safe
def order_dialog(request: Asked, pk: int) -> HttpResponse:
    """Other orders of ?section=, each with its cost, and the section's pins."""
    of = own_class(request, pk)
    script = store.script_of(of.present)
    try:
        section = section_of(script, request.GET.get("section") or script.sections[0].id)
    except (RefusedError, IndexError):
        raise Http404 from None
    numbers = {item.id: n for n, item in enumerate(script.items(), 1)}
    present, made = tuple(item.id for item in section.items), proposals(script, section.id)
    rows = [_order_row(section, item, numbers[item.id]) for item in section.items]
    context = {
        "class": of,
        "section": section,
        "rows": rows,
        "pinned": sum(bool(row["pin"]) for row in rows),
        "movable": sum(isinstance(item, MoveItem) for item in section.items),
        "proposals": [
            (
                one,
                cost_words(one),
                [(numbers[i], script.item(i).name) for i in one.order],
                drawn(draw_order_lines(beside, one.order)),
            )
            for beside, one in zip((present, *(one.order for one in made)), made, strict=False)
        ],
        "broken": [_pin_words(section, pin) for pin in broken_pins(section)],
    }
    return render(request, "classes/_order.html", context)


def _order_row(section: Section, item: Item, number: int) -> dict[str, Any]:
    """A row of the present order: its pin (an item, "first", or nothing), where it stands, what it may come after."""
    group = next(group for group in section.groups if any(one.id == item.id for one in group.items))
    moves = [one for one in group.items if isinstance(one, MoveItem)]
    place = next((n for n, one in enumerate(moves) if one.id == item.id), None)
    pin = next((pin for pin in section.pins if pin.item == item.id), None)
    return {
        "id": item.id,
        "number": number,
        "name": item.name,
        "movable": place is not None,
        "pin": "" if pin is None else pin.after or "first",
        "here": moves[place - 1].id if place else "first",
        "others": [(one.id, one.name) for one in moves if one.id != item.id],
    }


def _pin_words(section: Section, pin: Pin) -> str:
    named = {item.id: item.name for item in section.items}
    return f"{named[pin.item]} after {named[pin.after]}" if pin.after else f"{named[pin.item]} first"
