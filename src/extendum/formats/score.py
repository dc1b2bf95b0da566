"""What the screens play: the timeline, the steps of a run, and what is shown of each item, as plain values."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from extendum.core.model.brief import Brief
from extendum.core.model.dose import COUNTED, Breaths, Dose, Pulses, Reps, Timed
from extendum.core.model.item import Instead, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.marks import without_marks
from extendum.core.model.move import OptionKind
from extendum.core.model.prompts import PromptKind
from extendum.core.model.script import Script
from extendum.core.model.timeline import CueKind, Mode, Timeline
from extendum.core.moves.otherwise import other_move
from extendum.core.moves.spares import Spare
from extendum.core.run.rehearse import rehearsal_steps, rehearsed
from extendum.core.run.steps import Step, closing_quiet, steps_of
from extendum.core.timing.at_hand import as_taught
from extendum.formats.timeline_json import timeline_plain

#: Moves by their keys.
Known = Mapping[str, LibraryMove]


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
        "down": step.down,
        "up": step.up,
        "instead": step.instead,
    }


def score_of(script: Script, timeline: Timeline, library: Known, tray: Sequence[Spare] = ()) -> dict[str, Any]:
    """Everything that is played and shown, in one object that travels with the page."""
    moves = (*as_taught(script).moves(), *(one.item for one in tray))
    return {
        **_tray(tray),
        **timeline_plain(timeline),
        **_shown(script, moves, library),
        "steps": [step_plain(step) for step in steps_of(script, timeline)],
        "names": {item.id: item.name for item in (*script.items(), *moves)},
        "closes": closes.id if (closes := closing_quiet(timeline)) else "",
    }


def _tray(tray: Sequence[Spare]) -> dict[str, Any]:
    """The moves of the tray, and what plays of each."""
    plain = [timeline_plain(one.timeline) for one in tray]
    return {
        "tray": [
            {
                "item": one.item.id,
                "name": one.item.name,
                "posture": str(one.item.move.posture),
                "seconds": one.timeline.length_s,
            }
            for one in tray
        ],
        "spare": {
            "steps": [step_plain(step) for one in tray for step in steps_of(one.script, one.timeline)],
            "segments": [segment for one in plain for segment in one["segments"]],
            "cues": [cue for one in plain for cue in one["cues"]],
        },
    }


def _shown(script: Script, moves: Sequence[MoveItem], library: Known) -> dict[str, Any]:
    """What is shown of each move while it plays."""
    return {
        "postures": {item.id: str(item.move.posture) for item in moves},
        "props": {item.id: [prop.name for prop in item.move.props] for item in moves},
        "teaching": script.style.teaching.value,
        "stands": {i.id: [str(i.facing_at(stage)) for stage in range(1, len(i.doses) + 1)] for i in moves},
        "turns": {i.id: [note.facing.value if note.facing else "" for note in i.notes] for i in moves if i.notes},
        "says": {item.id: says for item in moves if any(says := [_says(dose) for dose in item.doses])},
        "space": {item.id: item.move.space for item in moves},
        "doses": {item.id: [_dose(script, item, dose) for dose in item.doses] for item in moves},
        "easier": {item.id: easier for item in moves if (easier := _easier(item, library, script.brief))},
        "instead": {item.id: [_other(one) for one in item.instead] for item in moves if item.instead},
        "ladder": {item.id: _ladder(item) for item in moves},
        "where": {item.id: section.name for section in script.sections for item in section.items},
        "watch": {i.id: [[one.seen, one.say] for one in i.move.watch] for i in moves if i.move.watch},
    }


def public_score(script: Script, timeline: Timeline, library: Known, tray: Sequence[Spare] = ()) -> dict[str, Any]:
    """What the class's screen is told: what is done when, and nothing of what is said, noted or kept ready."""
    whole = score_of(script, timeline, library, tray)
    kept = ("length", "steps", "names", "doses")
    plain = {name: whole[name] for name in kept}
    others = {item: [{"name": one["name"], "words": ""} for one in some] for item, some in whole["instead"].items()}
    bare = [_bare(segment) for segment in whole["segments"]]
    spare = {**whole["spare"], "segments": [_bare(one) for one in whole["spare"]["segments"]], "cues": []}
    easier = {item: {"name": one["name"], "words": ""} for item, one in whole["easier"].items()}
    return {**plain, "segments": bare, "spare": spare, "cues": [], "easier": easier, "instead": others}


def spoken_plain(timeline: Timeline) -> list[dict[str, Any]]:
    """What is spoken, as captions show it: without counts, which a screen has anyway."""
    spoken = {cue.id for cue in timeline.cues if cue.mode is Mode.SPOKEN and cue.kind not in _COUNTS}
    return [cue for cue in timeline_plain(timeline)["cues"] if cue["id"] in spoken]


def played(script: Script, timeline: Timeline, library: Known) -> dict[str, Any]:
    """What a page plays that anybody may have: what is done and said when, and nothing of the teacher's own notes."""
    whole = score_of(script, timeline, library)
    public = public_score(script, timeline, library)
    spoken = {cue.id for cue in timeline.cues if cue.mode is not Mode.PRIVATE}
    cues = [cue for cue in whole["cues"] if cue["id"] in spoken]
    return public | {"cues": cues, "easier": whole["easier"], "props": whole["props"], "instead": {}}


_COUNTS = (CueKind.COUNT, CueKind.COUNTED)


def _bare(segment: dict[str, Any]) -> dict[str, Any]:
    return {name: segment[name] for name in ("id", "kind", "start", "end", "item", "stage", "side")}


def tapped(script: Script, timeline: Timeline) -> dict[str, Any]:
    """What is played instead in a rehearsal at the teacher's own pace."""
    short = rehearsed(timeline)
    return {"tap": {**timeline_plain(short), "steps": [step_plain(step) for step in rehearsal_steps(script, short)]}}


def _says(dose: Dose) -> dict[str, Any] | None:
    """The words of the phases of a dose, and in how many of the first they are said."""
    if not isinstance(dose, COUNTED) or not dose.says:
        return None
    return {"first": dose.say_first, "words": {one.phase: without_marks(one.said) for one in dose.says}}


def _dose(script: Script, item: MoveItem, dose: Dose) -> dict[str, Any] | None:
    """The phases of a counted dose with their breaths; how many reps at everybody's own pace; none for the others."""
    if isinstance(dose, Timed) and dose.own_pace:
        return {"kind": "own pace", "told": dose.reps_told, "phases": [], "alternates": False}
    if not isinstance(dose, Reps | Breaths | Pulses):
        return None
    groups = (group for section in script.sections for group in section.groups)
    of_group = next((group.lead_side for group in groups if any(one.id == item.id for one in group.items)), None)
    lead = item.lead_side or of_group or script.style.lead_side
    alternates = isinstance(dose, Reps | Breaths) and item.move.sidedness.alternates
    breaths = {one.phase: one.breath.value for one in dose.says}
    phases = [[name, ms, breaths.get(name, "free")] for name, ms in dose.named_phases if ms]
    return {"kind": dose.tag, "phases": phases, "alternates": alternates, "lead": lead.value}


def _other(one: Instead) -> dict[str, str]:
    """Another move to do instead: its name, and what is said to get into it."""
    words = one.words.short or f"{one.words.moving} {one.words.there}"
    return {"name": one.name, "words": without_marks(words).strip()}


def _ladder(item: MoveItem) -> dict[str, list[str]]:
    """The words of a move's easier options, each one further down, and of the deeper ones, each further up."""
    rungs = {"down": PromptKind.EASIER, "up": PromptKind.DEEPER}
    return {way: [without_marks(one) for one in item.ladder(kind)] for way, kind in rungs.items()}


def _easier(item: MoveItem, library: Known, brief: Brief) -> dict[str, str]:
    """The easier way of a move: in words, and by the name of another move that keeps to the brief."""
    words = next(iter(_ladder(item)["down"]), "")
    other = other_move(item.move, OptionKind.EASIER, library, brief)
    found = {"words": words, "name": other.move.name if other else ""}
    return found if any(found.values()) else {}
