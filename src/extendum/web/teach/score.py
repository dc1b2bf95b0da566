"""What the Stage plays: the timeline, the steps of a run, and what it shows of each item, as plain values."""

from __future__ import annotations

from typing import Any

from extendum.core.body import Side
from extendum.core.dose import Breaths, Dose, Pulses, Reps
from extendum.core.item import MoveItem
from extendum.core.move import OptionKind
from extendum.core.run.steps import Step, steps_of
from extendum.core.script import Script
from extendum.core.style import teacher_side
from extendum.core.timeline import Timeline
from extendum.core.words import PromptKind
from extendum.formats.timeline_json import timeline_plain
from extendum.web.library.store import Library


def step_plain(step: Step) -> dict[str, Any]:
    """A step as the Stage's own fold has it."""
    return {
        "id": step.id,
        "item": step.item,
        "group": step.group,
        "ms": step.ms,
        "side": step.side,
        "works": step.works,
        "waits": step.waits,
        "unit": step.unit_ms,
        "partner": step.partner,
    }


def score_of(script: Script, timeline: Timeline, library: Library) -> dict[str, Any]:
    """Everything that is played and shown, in one object that travels with the page."""
    moves = script.moves()
    return {
        **timeline_plain(timeline),
        "steps": [step_plain(step) for step in steps_of(script, timeline)],
        "names": {item.id: item.name for item in script.items()},
        "props": {item.id: [prop.name for prop in item.move.props] for item in moves},
        "mirrored": [i.id for i in moves if teacher_side(Side.LEFT, script.style.teaching, i.facing) is Side.RIGHT],
        "facing": {item.id: str(item.facing) for item in moves},
        "space": {item.id: item.move.space for item in moves},
        "doses": {item.id: [_dose(script, item, dose) for dose in item.doses] for item in moves},
        "easier": {item.id: easier for item in moves if (easier := _easier(item, library))},
    }


def _dose(script: Script, item: MoveItem, dose: Dose) -> dict[str, Any] | None:
    """The phases of a counted dose; none for the others."""
    if not isinstance(dose, Reps | Breaths | Pulses):
        return None
    lead = item.lead_side or script.style.lead_side
    alternates = isinstance(dose, Reps) and item.move.sidedness.alternates
    phases = [[name, ms] for name, ms in dose.named_phases if ms]
    return {"kind": dose.tag, "phases": phases, "alternates": alternates, "lead": lead.value}


def _easier(item: MoveItem, library: Library) -> dict[str, str]:
    """The easier way of a move: in words, and by the name of another move where there is one."""
    option = item.move.option(OptionKind.EASIER)
    words = next((p.text for p in item.words.prompts if p.kind is PromptKind.EASIER), option.words if option else "")
    other = library.moves.get(option.move) if option and option.move else None
    found = {"words": words, "name": other.move.name if other else ""}
    return found if any(found.values()) else {}
