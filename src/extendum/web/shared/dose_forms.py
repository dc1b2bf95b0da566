"""What forms post about a dose, read into the dose, and a dose as forms show it."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

from extendum.core.model.dose import Breaths, Dose, Hold, Manner, Phase, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.web.shared.forms import Form, choice, tenths_ms, whole


def elastic_from(form: Form, before: Elastic) -> Elastic:
    """The quantity that a form asks for."""
    return before.typed(whole(form, "least"), whole(form, "wanted"), whole(form, "most"))


def detailed(dose: Dose, form: Form) -> Dose:
    """The dose with the details that its kind has: tempo, phases, snapping, manner."""
    if isinstance(dose, Hold):
        return replace(dose, snap="snap" in form)
    if isinstance(dose, Timed):
        return replace(dose, manner=choice(Manner, form, "manner", dose.manner))
    if isinstance(dose, Pulses):
        return replace(dose, phases=_phases(form.get("phases", "")))
    if isinstance(dose, Reps | Breaths):
        tempo: dict[str, Any] = {name: tenths_ms(form, name) for name, _, _ in tempo_fields(dose)}
        counted = replace(dose, counts=whole(form, "counts")) if isinstance(dose, Reps) else dose
        return replace(counted, **tempo)
    return dose


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
