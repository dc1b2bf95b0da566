"""What the Desk shows of a group: in a few words, in its panel, and where an item has its place in it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.utils.safestring import SafeString

from extendum.core.model.body import Side
from extendum.core.model.dose_values import tapered
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.model.timeline import SegmentKind, Timeline
from extendum.draw.group_strip import draw_group
from extendum.web.classes.posted import passes_typed
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import options


def group_words(group: Group) -> str:
    """How a group is done, in a few words; empty for a plain one."""
    told = [] if group.side_plan is SidePlan.EACH_MOVE else [group.side_plan.value]
    if group.rounds > 1:
        taper = f" at {group.taper_percent} %" if group.taper_percent < 100 else ""
        told.append(f"{group.rounds} rounds{taper}")
    told += [f"cadence {group.cadence_s} s"] if group.cadence_s else []
    return ", ".join(told)


def group_panel(script: Script, timeline: Timeline, group: Group, width: float) -> dict[str, Any]:
    under = script.under(group)
    items = {item.id for item in group.items}
    own = [segment for segment in timeline.segments if segment.item in items]
    ways = sorted(s.seconds for s in own if s.kind in (SegmentKind.TRANSITION, SegmentKind.SWITCH))
    numbers = {item.id: number for number, item in enumerate(script.items(), 1)}
    lead = group.lead_side or script.style.lead_side
    return {
        "kind": "group",
        "plans": options(SidePlan, group.side_plan),
        "interleaved": group.side_plan is SidePlan.INTERLEAVED,
        "passes": passes_typed(group),
        "names": [(n, item.name) for n, item in enumerate(group.items, 1)],
        "under": under,
        "strip": drawn(draw_group(own, numbers, max(420.0, width))) if own else "",
        "shown": _group_effects(group, ways, lead, script.style.breath_ms),
    }


def _group_effects(group: Group, ways: Sequence[int], lead: Side, breath_ms: int) -> dict[str, str]:
    """What each setting of a group does, by an example from it."""
    a, b, moves = lead, lead.other, [item for item in group.items if isinstance(item, MoveItem)]
    sided = [item.name for item in moves if item.move.sided]
    one, two = sided[0] if sided else "one move", sided[1] if len(sided) > 1 else "the next move"
    plans = {
        SidePlan.EACH_MOVE: f"{one} {a}, {one} {b}; then {two}.",
        SidePlan.CHAIN: f"{one} {a}, {two} {a} … then all of it {b}.",
        SidePlan.INTERLEAVED: "In the order that you type below.",
    }
    rounds = "All of it once." if group.rounds == 1 else "Every round lasts as long."
    if group.rounds > 1 and group.taper_percent < 100 and moves:
        dose, value = moves[0].dose, moves[0].dose.quantity.value
        later = tapered(dose, value, 2, group.taper_percent, breath_ms, even=moves[0].even(1))
        rounds = f"{moves[0].name}: {value} {dose.measure}, and {later} {dose.measure} in the second round."
    said = f"Getting from one pass to the next takes {ways[0]} to {ways[-1]} s here." if ways else ""
    reset = f"People shake out for {group.reset_s} s before each way."
    return {
        "plan": plans[group.side_plan],
        "rounds": rounds,
        "reset": reset if group.reset_s else "With 3 s, people shake out before each way.",
        "cadence": f"{said} A fixed time is the same for all of them, ready or not.".strip(),
    }


def place_in_group(script: Script, timeline: Timeline, item: Item, width: float) -> SafeString:
    """A group that is more than one move after the other, with this item's passes framed; empty for a plain one."""
    group = next(g for s in script.sections for g in s.groups if item in g.items)
    own = {one.id for one in group.items}
    segments = [s for s in timeline.segments if s.item in own]
    if (group.side_plan is SidePlan.EACH_MOVE and group.rounds == 1) or len(own) < 2 or not segments:
        return SafeString()
    numbers = {one.id: number for number, one in enumerate(script.items(), 1)}
    return drawn(draw_group(segments, numbers, width, item.id))
