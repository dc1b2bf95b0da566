"""What differs between a class's copy of a move and the library's present form, and taking parts of it over.

A class never changes by itself: it keeps its copy until the teacher takes a part of the newer form.
"""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass, replace

from extendum.core.model.dose import COUNTED, Dose
from extendum.core.model.dose_kinds import describe
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove, dose_for
from extendum.core.model.move import Move
from extendum.core.model.style import HoldConvention
from extendum.core.model.words import Words


@dataclass(frozen=True, slots=True)
class Difference:
    """One part that differs: its name, what the class has and what the library has, in words."""

    part: str
    label: str
    ours: str
    theirs: str


def _posture(move: Move) -> str:
    return str(move.posture) if move.ends_in is move.posture else f"{move.posture}, ends {move.ends_in}"


def _sides(move: Move) -> str:
    turns = f", {' and '.join(move.directions)}" if move.sidedness.by_direction else ""
    return f"{move.sidedness}, named by {move.named}{turns}"


def _targets(move: Move) -> str:
    return ", ".join(f"{t.effect} {t.region}{'' if t.main else ' (also)'} on {t.side}" for t in move.targets)


def _props(move: Move) -> str:
    return "; ".join(f"{p.name}, {p.must_be}{'' if p.required else ' (if at hand)'}" for p in move.props)


def _cautions(move: Move) -> str:
    return "; ".join(f"{c.condition}: {c.advice}{' (leave out)' if c.leave_out else ''}" for c in move.cautions)


def _options(move: Move) -> str:
    return "; ".join(f"{o.kind}: {o.words or o.move}" for o in move.options)


def _prompts(words: Words) -> str:
    return " · ".join(f"{p.kind}: {p.text}" for p in words.prompts)


#: The parts of a move's facts: label, the fields that belong to it, and how it is told.
_FACTS: dict[str, tuple[str, tuple[str, ...], Callable[[Move], str]]] = {
    "name": ("Name", ("name",), lambda m: m.name),
    "posture": ("Posture", ("posture", "end_posture", "weight_on"), _posture),
    "sides": ("Sides", ("sidedness", "named", "directions", "directions_follow_side"), _sides),
    "kind": ("Kind and effort", ("kind", "effort"), lambda m: f"{m.kind}, effort {m.effort}"),
    "targets": ("Targets", ("targets",), _targets),
    "props": ("Props", ("props",), _props),
    "space": ("Space", ("space",), lambda m: m.space),
    "cautions": ("Cautions", ("cautions",), _cautions),
    "options": ("Options", ("options",), _options),
    "watch": ("Mistakes to watch for", ("watch",), lambda m: " · ".join(f"{w.seen} → {w.say}" for w in m.watch)),
    "why": ("Why", ("why", "why_from"), lambda m: m.why),
    "rise": ("Coming out", ("slow_rise_s",), lambda m: f"at least {m.slow_rise_s} s"),
}
_TEXTS = {
    "moving": "While moving",
    "there": "Once there",
    "short": "Short, later on",
    "switch": "At the switch",
    "turn": "Change of direction",
    "each": "As each side comes",
    "release": "Release",
}


def _doses(dose: Dose, sets: int) -> str:
    q = dose.quantity
    cycle = f", {dose.cycle_ms / 1000:g} s each" if isinstance(dose, COUNTED) else ""
    return f"{describe(dose)} ({q.least} to {q.most}){cycle}{f', {sets} sets' if sets > 1 else ''}"


def differences(item: MoveItem, entry: LibraryMove, holds: HoldConvention) -> tuple[Difference, ...]:
    """Every part in which a class's copy is not as the library has it now; prompts left out do not count."""
    found = []
    for part, (label, names, tell) in _FACTS.items():
        if any(getattr(item.move, name) != getattr(entry.move, name) for name in names):
            found.append(Difference(part, label, tell(item.move), tell(entry.move)))
    dose, sets = dose_for(entry, holds)
    ours, theirs = _doses(item.dose, item.sets), _doses(dose, sets)
    if ours != theirs:
        found.append(Difference("dose", "Dose", ours, theirs))
    for part, label in _TEXTS.items():
        if getattr(item.words, part) != getattr(entry.words, part):
            found.append(Difference(part, label, getattr(item.words, part), getattr(entry.words, part)))
    if not set(item.words.prompts) <= set(entry.words.prompts):
        found.append(Difference("prompts", "Prompts", _prompts(item.words), _prompts(entry.words)))
    return tuple(found)


def take_newer(
    item: MoveItem, entry: LibraryMove, parts: Collection[str], holds: HoldConvention, taken: str
) -> MoveItem:
    """The class's copy with some parts as the library has them, marked as made from its present form."""
    facts = {
        name: getattr(entry.move, name) for part, (_, names, _t) in _FACTS.items() if part in parts for name in names
    }
    texts = {part: getattr(entry.words, part) for part in _TEXTS if part in parts}
    words = replace(item.words, **texts)
    if "prompts" in parts:
        words = replace(words, prompts=entry.words.prompts)
    item = replace(item, move=replace(item.move, **facts), words=words, taken=taken)
    if "dose" in parts:
        dose, sets = dose_for(entry, holds)
        item = replace(item, dose=dose, sets=sets)
    return item
