"""The panel of what is chosen on the Desk: an item, a group, or the class itself."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from extendum.core.edit.dose_edits import usual_step
from extendum.core.model.body import Side
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
    Facing,
    RepCount,
    SideNames,
)
from extendum.core.model.talk import Talk, TalkKind, TalkPace
from extendum.core.model.timeline import Timeline, Unsaid, clock
from extendum.core.moves.further import further_lines
from extendum.core.moves.objections import concerns, objections
from extendum.core.moves.suggest import stand_ins
from extendum.core.outputs.wording import literal_sides
from extendum.core.timing.cues import RULES
from extendum.core.timing.facts import pass_facts
from extendum.core.timing.layout import ways_told
from extendum.core.timing.sequence import Arrival, Pass, passes_of, sequence
from extendum.core.timing.speech import speaking_ms
from extendum.draw.pass_strip import Strip, draw_amount
from extendum.web.classes.group_panel import group_panel, place_in_group
from extendum.web.classes.own import Own
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
        return group_panel(script, timeline, chosen, width)
    found = _item_panel(script, timeline, chosen)
    if isinstance(chosen, MoveItem):
        for stage, drawing in zip(found["stages"], strips_of(chosen, timeline, strip), strict=True):
            stage["strip"] = _shown(drawing)
        found["group_strip"] = place_in_group(script, timeline, chosen, strip)
    return found | _library_panel(script, chosen, own.library) if isinstance(chosen, MoveItem) else found


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
        needs = speaking_ms(item.words, script.style.speech) / 1000
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
            ms = speaking_ms(spoken, script.style.speech)
            literal = literal_sides(words) if item.move.sided or item.alternates else []
            seconds = f"{ms / 1000:.1f} s"
            shown.append({"name": name, "label": label, "words": words, "seconds": seconds, "literal": literal})
    return shown


_ARRIVES = {"short": Arrival.AGAIN, "switch": Arrival.SWITCH, "turn": Arrival.TURN}
