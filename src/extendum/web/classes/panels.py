"""The panel of what is chosen on the Desk: an item, a group, or the class itself."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from django.utils.safestring import SafeString

from extendum.core.edit.dose_edits import usual_step
from extendum.core.model.body import Side
from extendum.core.model.brief import Priority
from extendum.core.model.dose import KINDS, Breaths, Dose, Hold, Manner, Reps, Timed
from extendum.core.model.item import CountIs, DirectionOrder, Item, MoveItem, ReleaseAfter, SetOrder
from extendum.core.model.keeping import Keep, Matters
from extendum.core.model.move import Sidedness
from extendum.core.model.notes import Note, NoteWhen
from extendum.core.model.placeholders import CLASS_PLACEHOLDERS, PLACEHOLDERS, TALK_PLACEHOLDERS, fill
from extendum.core.model.prompts import Prompt, PromptKind, Scope
from extendum.core.model.script import Script
from extendum.core.model.section import Group, SidePlan
from extendum.core.model.style import (
    Countdown,
    CueStyle,
    Facing,
    HoldConvention,
    RepCount,
    SideNames,
    TalkStyle,
    Teaching,
)
from extendum.core.model.talk import Talk, TalkKind, TalkPace
from extendum.core.model.timeline import CueKind, SegmentKind, Timeline, Unsaid, clock
from extendum.core.moves.further import further_lines
from extendum.core.moves.objections import concerns, objections
from extendum.core.moves.suggest import stand_ins
from extendum.core.outputs.wording import literal_sides
from extendum.core.timing.cues import RULES
from extendum.core.timing.facts import pass_facts
from extendum.core.timing.layout import ways_told
from extendum.core.timing.lines import Lines
from extendum.core.timing.sequence import Arrival, Pass, passes_of, sequence
from extendum.core.timing.speech import speaking_ms
from extendum.draw.group_strip import draw_group
from extendum.draw.pass_strip import Strip, draw_amount
from extendum.web.classes.own import Own
from extendum.web.classes.posted import passes_typed
from extendum.web.classes.posted_words import prompt_prefix, wordings_typed
from extendum.web.classes.strips import strips_of
from extendum.web.library.figures import figure_address, figure_words
from extendum.web.library.store import Library
from extendum.web.shared.dose_forms import phases_said, phases_typed, tempo_fields, what_gives
from extendum.web.shared.drawn import drawn
from extendum.web.shared.forms import options


def panel_of(
    script: Script, timeline: Timeline, chosen: Item | Group, own: Own, width: float, strip: float
) -> dict[str, Any]:
    """What the panel shows of an item or a group; ``width`` is that of the panel, ``strip`` that of a move's strips."""
    if isinstance(chosen, Group):
        return _group_panel(script, timeline, chosen, width)
    found = _item_panel(script, timeline, chosen)
    if isinstance(chosen, MoveItem):
        for stage, drawing in zip(found["stages"], strips_of(chosen, timeline, strip), strict=True):
            stage["strip"] = _shown(drawing)
        found["group_strip"] = _place_in_group(script, timeline, chosen, strip)
    return found | _library_panel(script, chosen, own.library) if isinstance(chosen, MoveItem) else found


def _place_in_group(script: Script, timeline: Timeline, item: Item, width: float) -> SafeString:
    """A group that is more than one move after the other, with this item's passes framed; empty for a plain one."""
    group = next(g for s in script.sections for g in s.groups if item in g.items)
    own = {one.id for one in group.items}
    segments = [s for s in timeline.segments if s.item in own]
    if (group.side_plan is SidePlan.EACH_MOVE and group.rounds == 1) or len(own) < 2 or not segments:
        return SafeString()
    numbers = {one.id: number for number, one in enumerate(script.items(), 1)}
    return drawn(draw_group(segments, numbers, width, item.id))


def _shown(strip: Strip) -> Strip:
    return replace(strip, drawing=drawn(strip.drawing))


def newer_than(item: Item, library: Library) -> bool:
    """Whether the library has changed a move since the class took it up."""
    if not isinstance(item, MoveItem) or not item.taken or item.move.key not in library.moves:
        return False
    return library.form(item.move.key) != item.taken


def _library_panel(script: Script, item: MoveItem, library: Library) -> dict[str, Any]:
    """How a move keeps to the brief, what it could be swapped for, and whether the library has a newer form."""
    against = objections(item.move, script.brief)
    named = {one.move: str(one.kind) for one in reversed(item.move.options) if one.move in library.moves}
    if against:
        swaps = [(named.get(one.move.key, ""), one.move) for one in stand_ins(item.move, script, library)]
    else:
        swaps = [(kind, library.moves[key].move) for key, kind in reversed(named.items())]
    has = {one.casefold() for one in script.brief.conditions}
    own = [one for one in item.move.cautions if one.condition.casefold() in has]
    other = [one for one in item.move.cautions if one not in own]
    return {
        "against": against,
        "ours": concerns(item.move, script.brief),
        "cautions": [("", own), ("Other conditions", other)],
        "further": further_lines(item),
        "swaps": swaps,
        "others": [move.name for _, move in swaps],
        "newer": newer_than(item, library),
        "figures": [(key, one.move.name) for key, one in library.moves.items()] if item.then else [],
    }


def group_words(group: Group) -> str:
    """How a group is done, in a few words; empty for a plain one."""
    told = [] if group.side_plan is SidePlan.EACH_MOVE else [group.side_plan.value]
    if group.rounds > 1:
        taper = f" at {group.taper_percent} %" if group.taper_percent < 100 else ""
        told.append(f"{group.rounds} rounds{taper}")
    told += [f"cadence {group.cadence_s} s"] if group.cadence_s else []
    return ", ".join(told)


def _group_panel(script: Script, timeline: Timeline, group: Group, width: float) -> dict[str, Any]:
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
        "shown": _group_effects(group, ways, lead),
    }


def _group_effects(group: Group, ways: Sequence[int], lead: Side) -> dict[str, str]:
    """What each setting of a group does, by an example from it."""
    a, b = lead, lead.other
    names = [item.name for item in group.items if isinstance(item, MoveItem)][:2]
    one, two = (*names, "one move", "the next")[:2]
    plans = {
        SidePlan.EACH_MOVE: f"{one} {a}, {one} {b}; then {two}.",
        SidePlan.CHAIN: f"{one} {a}, {two} {a} … then all of it {b}.",
        SidePlan.INTERLEAVED: "In the order that you type below.",
    }
    taper = group.taper_percent
    later = (
        f"30 s become {-(-30 * taper // 100)} s in the second round." if taper < 100 else "Every round lasts as long."
    )
    reset = group.reset_s or 3
    said = f"Getting from one pass to the next takes {ways[0]} to {ways[-1]} s here." if ways else ""
    return {
        "plan": plans[group.side_plan],
        "rounds": later if group.rounds > 1 else "All of it once.",
        "reset": f"{'Now' if group.reset_s else 'With 3 s,'} people shake out for {reset} s before each way.",
        "cadence": f"{said} A fixed time is the same for all of them, ready or not.".strip(),
    }


def _item_panel(script: Script, timeline: Timeline, item: Item) -> dict[str, Any]:
    segments = timeline.of_item(item.id)
    found: dict[str, Any] = {
        "kind": item.tag,
        "quantity": item.quantity,
        "own": _shown(draw_amount(item.quantity, 300)),
        "unsaid": unsaid_words(u for u in timeline.unsaid if u.of.item == item.id),
        "lasts": clock(sum(s.seconds for s in segments)),
        "unit": "s",
        "step": usual_step(item),
    }
    if isinstance(item, Talk):
        needs = speaking_ms(item.words, script.style.words_per_minute) / 1000
        found |= {"needs": f"{needs:.1f}", "overruns": needs > item.quantity.value}
        chained = any(g.side_plan is SidePlan.CHAIN for s in script.sections for g in s.groups if item in g.items)
        usable = TALK_PLACEHOLDERS if chained else CLASS_PLACEHOLDERS
        found |= {"placeholders": [p for p in PLACEHOLDERS if p in usable], "in_chain": chained}
        found |= {"paces": options(TalkPace, item.pace)}
        found |= {"talk_kinds": options(TalkKind, item.kind), "handles": item.kind is TalkKind.PROPS}
        found |= {"picks_up": ", ".join(p.name for p in item.picks_up), "puts_down": ", ".join(item.puts_down)}
    if isinstance(item, MoveItem):
        found |= _move_panel(script, item)
    if isinstance(item, MoveItem | Talk):
        found |= {"keeps": options(Keep, item.keep), "matters": options(Matters, item.matters)}
        found |= {"notes": note_rows(item.notes), "under": script.meanwhile(item.id, item.id)}
        found |= {"present": item.present, "by_fit": not item.present and item.keep is Keep.OPTIONAL}
    return found


def _stage(item: MoveItem, number: int, dose: Dose) -> dict[str, Any]:
    return {
        "number": number,
        "dose": dose,
        "quantity": dose.quantity,
        "kinds": [(kind.tag, isinstance(dose, kind)) for kind in KINDS],
        "tempo": tempo_fields(dose),
        "counts": dose.counts if isinstance(dose, Reps) else None,
        "phases": phases_typed(dose),
        "snaps": isinstance(dose, Hold),
        "snap": isinstance(dose, Hold) and dose.snap,
        "manners": options(Manner, dose.manner) if isinstance(dose, Timed) else [],
        "said": phases_said(dose),
        "gives": what_gives(dose),
        "prompts": _prompt_rows(item, number),
        "prefix": prompt_prefix(number),
        "place": _place(item, number),
    }


def _prompt_rows(item: MoveItem, stage: int) -> list[dict[str, Any]]:
    """The prompts of a stage as rows of a form, and an empty one for another."""
    found = []
    for n, prompt in enumerate((*item.prompts_at(stage), None)):
        one = prompt or Prompt(PromptKind.FEEL, "-")
        found.append(
            {
                "n": n,
                "typed": wordings_typed(prompt) if prompt else "",
                "kinds": options(PromptKind, one.kind),
                "scopes": options(Scope, one.when),
                "in_round": one.in_round if prompt and one.when is Scope.ROUND else None,
            }
        )
    return found


def _place(item: MoveItem, number: int) -> dict[str, Any] | None:
    """What a further stage has of its own; None of the first."""
    if number == 1:
        return None
    stage = item.then[number - 2]
    return {
        "stage": stage,
        "targets": ", ".join(str(target.region) for target in stage.targets),
        "facings": options(Facing, stage.facing),
    }


def unsaid_words(unsaid: Iterable[Unsaid]) -> list[tuple[str, str, int]]:
    """What stays unsaid, each text once: the text, why, and how often."""
    counts = Counter((one.text, RULES[one.rule]) for one in unsaid)
    return [(text, why, times) for (text, why), times in counts.items()]


def note_rows(notes: Sequence[Note]) -> list[dict[str, Any]]:
    """The teacher's own notes as rows of a form, and an empty one for another."""
    found = []
    for n, note in enumerate((*notes, None)):
        when = note.when if note else NoteWhen.BEFORE
        found.append(
            {
                "n": n,
                "note": note,
                "whens": options(NoteWhen, when),
                "later": when is NoteWhen.LATER,
                "facings": options(Facing, note.facing if note else None),
            }
        )
    return found


def pass_words(this: Pass) -> str:
    """A pass in a few words: ``left``, ``right, backward``, ``round 2``; nothing for one without a side to speak of."""
    side = f"{this.lead} and {this.lead.other} in turn" if this.item.alternates else _side_words(this.side)
    told = [side, this.direction or ""]
    told += [f"set {this.set_number}"] if this.item.sets > 1 else []
    told += [f"round {this.round}"] if this.group.rounds > 1 else []
    return ", ".join(filter(None, told))


def _side_words(side: Side) -> str:
    return "" if side is Side.BOTH else str(side)


def _move_panel(script: Script, item: MoveItem) -> dict[str, Any]:
    own = passes_of(item, sequence(script))
    return {
        "unit": item.dose.measure,
        "stages": [_stage(item, n, dose) for n, dose in enumerate(item.doses, 1)],
        "sides": options(Sidedness, item.move.sidedness),
        "alternates": item.move.sidedness.alternates,
        "count_is": options(CountIs, item.count_is),
        "set_orders": options(SetOrder, item.set_order),
        "facings": options(Facing, item.facing),
        "direction_orders": options(DirectionOrder, item.direction_order) if _both_ways(item) else [],
        "by_direction": item.move.sidedness.by_direction,
        "releases": options(ReleaseAfter, item.release_after) if len(own) > 1 or item.sets > 1 else [],
        "countdowns": options(Countdown, item.countdown),
        "side_names": options(SideNames, item.side_names) if item.move.sided or item.alternates else [],
        "lead": str(next((p.lead for p in own), script.style.lead_side)),
        "way": ways_told(script).get(item.id),
        "in_chain": any(p.group.side_plan is SidePlan.CHAIN for p in own),
        "order": [told for p in own if (told := pass_words(p))],
        "words": _word_fields(script, item, own),
        "counts_reps": any(isinstance(dose, Reps | Breaths) for dose in item.doses),
        "rep_counts": options(RepCount, item.count_reps),
        "placeholders": list(PLACEHOLDERS),
        "props": item.move.props,
        "figure": figure_address(item.move),
        "figure_words": figure_words(item.move, Side.LEFT if item.move.sided else Side.BOTH),
    }


def _both_ways(item: MoveItem) -> bool:
    return item.move.sided and item.move.sidedness.by_direction


_WORD_FIELDS = (
    ("moving", "While moving"),
    ("there", "Once there"),
    ("short", "Short, later on"),
    ("switch", "At the switch"),
    ("turn", "Change of direction"),
    ("again", "Before a further set"),
    ("each", "As each side comes"),
    ("release", "Release"),
    ("demonstration", "While showing it"),
)


def _word_fields(script: Script, item: MoveItem, own: list[Pass]) -> list[dict[str, Any]]:
    """The texts of a move that its passes use, or that already say something, with their speaking time."""
    used = {"moving", "there", "release"}
    used |= {"short"} if any(p.arrival in (Arrival.AGAIN, Arrival.OTHER) for p in own) else set()
    halved = any(isinstance(dose, Timed) and dose.manner is Manner.HALVES for dose in item.doses)
    used |= {"switch"} if item.move.sided or halved else set()
    used |= {"again"} if item.sets > 1 else set()
    used |= {"turn"} if item.move.sidedness.by_direction else set()
    used |= {"each"} if item.move.sidedness.alternates else set()
    used |= {"demonstration"} if item.demonstrate_s else set()
    facts = dict.fromkeys(CLASS_PLACEHOLDERS, "next")
    shown = []
    for name, label in _WORD_FIELDS:
        words = getattr(item.words, name)
        if name in used or (words and name != "again"):
            which = next((p for p in own if p.arrival is _ARRIVES.get(name)), own[0] if own else None)
            spoken = fill(words, pass_facts(which, script.style, facts)) if which else words
            ms = speaking_ms(spoken, script.style.words_per_minute)
            literal = literal_sides(words) if item.move.sided or item.alternates else []
            seconds = f"{ms / 1000:.1f} s"
            shown.append({"name": name, "label": label, "words": words, "seconds": seconds, "literal": literal})
    return shown


_ARRIVES = {"short": Arrival.AGAIN, "switch": Arrival.SWITCH, "turn": Arrival.TURN}


#: A line as it is said, to hear how fast it would be.
_LINE = "Hands to the wall, and step your left foot back."


def _effects(style: CueStyle, priority: Priority) -> dict[str, str]:
    """What each setting does, by an example."""
    first, own = style.lead_side, style.lead_side.other
    minute = 60_000 / max(1, style.breath_in_ms + style.breath_out_ms)
    counted = {
        Countdown.NONE: "They hear the release, and no count.",
        Countdown.TONE: "A short tone in each of the last seconds.",
    }
    gives = {
        Priority.MOVES: "Every move stays. Holds become shorter, down to their least.",
        Priority.HOLDS: "Holds stay as they are wanted. What may go is left out.",
    }
    mirror = f"You move your {own} side as they move their {first} one. The Stage tells you both."
    calls = Lines(style.talk_style)
    return {
        "lead": f"{first.value.capitalize()} first, then {own}, in every move that has sides.",
        "teaching": mirror if style.teaching is Teaching.MIRROR else f"You move your {first} side as they do.",
        "countdown": counted.get(style.countdown, f"You say {style.countdown.first} to 1 before a hold ends."),
        "words_per_minute": f"“{_LINE}” takes {speaking_ms(_LINE, style.words_per_minute) / 1000:.1f} s.",
        "settle_s": f"Everybody arrives for {style.settle_s} s. Then the seconds of the hold begin.",
        "pace_percent": f"A way of 8 s takes {-(-8 * style.pace_percent // 100)} s.",
        "priority": gives.get(priority, "Holds give a little first, then what may go is left out."),
        "holds": "A fit keeps every hold to this, inside the move’s own limits.",
        "talk_style": f"“{calls.say(CueKind.HALFWAY)}” “{calls.last(1)}”",
        "breath_out_ms": f"{minute:.1f} breaths a minute.",
    }


def settings_of(script: Script, styles: Sequence[CueStyle]) -> dict[str, Any]:
    """What the drawer of the class settings shows: each setting with what it does."""
    style, priority = script.style, script.brief.priority
    shown = _effects(style, priority)

    def number(name: str, key: str, label: str, value: object, mode: str = "numeric", hint: str = "") -> dict[str, Any]:
        told = {"name": name, "id": f"set-{key}", "label": label, "value": value, "mode": mode, "hint": hint}
        return told | {"effect": shown.get(name, "")}

    def choice(name: str, key: str, label: str, some: list[tuple[str, bool]]) -> dict[str, Any]:
        return {"name": name, "id": f"set-{key}", "label": label, "options": some, "effect": shown.get(name, "")}

    return {
        "kind": "class",
        "style": style,
        "shown": shown,
        "styles": [(one.name, one.name == style.name) for one in styles],
        "countdowns": options(Countdown, style.countdown),
        "teachings": options(Teaching, style.teaching),
        "numbers": [
            number("words_per_minute", "wpm", "Words a minute, while speaking", style.words_per_minute),
            number("settle_s", "settle", "Settle before a hold, s", style.settle_s),
            number("pace_percent", "pace", "Pace of the slowest, % of the moving time", style.pace_percent),
            number("breath_in_ms", "in", "Breath in, s", f"{style.breath_in_ms / 1000:g}", "decimal"),
            number("breath_out_ms", "out", "Breath out, s", f"{style.breath_out_ms / 1000:g}", "decimal"),
            number("quiet_percent", "quiet", "Quiet in every hold, at least %", style.quiet_percent),
            number("breath_every_s", "every", "Remind to breathe every, s; 0 never", style.breath_every_s),
            number("say_breaths", "say", "Say in and out for the first breaths", style.say_breaths),
            number("last_calls", "last", "Call the last reps or breaths", style.last_calls),
            number(
                "time_left",
                "time-left",
                "Time-left calls, s before the end",
                _listed(style.time_left),
                "text",
                "30, 10",
            ),
        ],
        "choices": [
            choice("priority", "priority", "If it has to be shorter", options(Priority, priority)),
            choice("holds", "holds", "Holds in a fit", options(HoldConvention, style.holds)),
            choice("talk_style", "talk-style", "Style of the calls", options(TalkStyle, style.talk_style)),
            choice("count_reps", "count-reps", "Count reps and breaths aloud", options(RepCount, style.count_reps)),
            choice("side_names", "names", "Sides are spoken as", options(SideNames, style.side_names)),
        ],
    }


def _listed(some: Sequence[int]) -> str:
    return ", ".join(map(str, some))
