"""What forms post about a dose, read into the dose, and a dose as forms show it."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

from extendum.core.model.dose import COUNTED, Breaths, Dose, Hold, Manner, Phase, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.phases import PhaseBreath, PhaseWords
from extendum.web.shared.forms import Form, choice, options, tenths_ms, whole


def elastic_from(form: Form, before: Elastic) -> Elastic:
    """The quantity that a form asks for; as it is where the form says nothing of it."""
    if "wanted" not in form:
        return before
    return before.typed(whole(form, "least"), whole(form, "wanted"), whole(form, "most"))


def detailed(dose: Dose, form: Form) -> Dose:
    """The dose with the details that its kind has: tempo, phases, snapping, manner."""
    if isinstance(dose, Hold):
        return replace(dose, snap="snap" in form)
    if isinstance(dose, Timed):
        least, most = (whole(form, n) if n in form else getattr(dose, n) for n in ("reps_least", "reps_most"))
        least = 1 if most > 0 and least == 0 else least  # up to so many
        return replace(
            dose, manner=choice(Manner, form, "manner", dose.manner), reps_least=least, reps_most=max(least, most)
        )
    if isinstance(dose, COUNTED):
        return _counted(dose, form)
    return dose


def _counted(dose: Reps | Breaths | Pulses, form: Form) -> Dose:
    """Counted work with its tempo or phases, what is said in them, and what gives: the count, or one of the phases."""
    changes: dict[str, Any] = {n: tenths_ms(form, n) for n, _, _ in tempo_fields(dose) if n in form}
    names = [name for name, _ in dose.named_phases]
    if isinstance(dose, Pulses):
        changes["phases"] = _phases(form.get("phases", phases_typed(dose)))
        names = [phase.name for phase in changes["phases"]]
    if isinstance(dose, Reps) and "counts" in form:
        changes["counts"] = whole(form, "counts")
    if "say_first" in form:
        changes |= {"say_first": whole(form, "say_first"), "says": _says(dose, names, form)}
    else:
        changes["says"] = tuple(one for one in dose.says if one.phase in names)
    if dose.stretches and "count" in form:
        changes["count"] = dose.count.wanting(whole(form, "count"))
    gives = form.get("gives", dose.stretches)
    if gives not in names:
        changes |= {"stretches": "", "stretch_s": None}
    elif gives != dose.stretches:
        seconds = max(1, round(dict(dose.named_phases).get(gives, 1000) / 1000))
        changes |= {"stretches": gives, "stretch_s": Elastic(max(1, seconds // 2), seconds, min(120, seconds * 2))}
    return replace(dose, **changes)


def _says(dose: Reps | Breaths | Pulses, names: list[str], form: Form) -> tuple[PhaseWords, ...]:
    """What is said and breathed in each phase, by its place among them."""
    found = []
    for place, name in enumerate(names):
        words, old = form.get(f"says_{place}", "").strip(), dose.told_in(name)
        breath = choice(PhaseBreath, form, f"breath_{place}", PhaseBreath.FREE)
        if words or breath is not PhaseBreath.FREE:
            found.append(PhaseWords(name, words, breath, old.extra if old else ()))
    return tuple(found)


def phases_said(dose: Dose) -> list[tuple[int, str, str, list[tuple[str, bool]]]]:
    """The phases of counted work that last: place, name, words, and breaths to choose from (none in a breath)."""
    if not isinstance(dose, COUNTED):
        return []
    found = []
    for place, (name, ms) in enumerate(dose.named_phases):
        told = dose.told_in(name)
        if ms or told:
            breath = told.breath if told else PhaseBreath.FREE
            breaths = [] if isinstance(dose, Breaths) else options(PhaseBreath, breath)
            found.append((place, name, told.words if told else "", breaths))
    return found


def what_gives(dose: Dose) -> list[tuple[str, str, bool]]:
    """What of counted work may give in a fit: value, words, and whether it does."""
    if not isinstance(dose, COUNTED):
        return []
    phases = [(name, f"seconds of {name}", dose.stretches == name) for name, ms in dose.named_phases if ms]
    return [("how many", f"how many {dose.unit}", not dose.stretches), *phases]


_PHASE = re.compile(r"^\s*(.+?)\s+([0-9]{1,4}(?:[.,][0-9])?)\s*(?:s)?\s*$")


def _phases(typed: str) -> tuple[Phase, ...]:
    """Phases as they are typed: ``contract 6, relax 4``."""
    found = []
    for part in filter(None, (one.strip() for one in typed.split(", "))):
        match = _PHASE.match(part)
        if not match:
            raise RefusedError("phases", "names with seconds, such as contract 6, relax 4", typed)
        found.append(Phase(match.group(1), round(float(match.group(2).replace(",", ".")) * 1000)))
    return tuple(found)


def phases_typed(dose: Dose) -> str:
    """The phases of pulses as they are typed."""
    if not isinstance(dose, Pulses):
        return ""
    return ", ".join(f"{phase.name} {phase.ms / 1000:g}" for phase in dose.phases)


def tempo_fields(dose: Dose) -> list[tuple[str, str, str]]:
    """The phases of a rep or a breath: field, word, and seconds as shown."""
    if isinstance(dose, Reps):
        words = {"out_ms": "out", "stay_ms": "stay", "back_ms": "back", "rest_ms": "rest"}
    elif isinstance(dose, Breaths):
        words = {"in_ms": "in", "full_ms": "hold", "out_ms": "out", "empty_ms": "hold"}
    else:
        return []
    return [(name, word, f"{getattr(dose, name) / 1000:.1f}".removesuffix(".0")) for name, word in words.items()]
