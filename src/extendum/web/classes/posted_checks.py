"""What a form posts about findings: mending one, keeping one as it is, opening it again."""

from __future__ import annotations

from functools import partial

from extendum.core.checks.finding import Finding
from extendum.core.checks.mends import each, said_at_start, with_prompt
from extendum.core.checks.outcome import mended
from extendum.core.checks.report import keep, open_again
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.prompts import PromptKind
from extendum.core.model.script import Script
from extendum.core.moves.cautions import spoken
from extendum.core.timing.compile import compile_script
from extendum.web.classes.findings import report_of
from extendum.web.classes.own import Own
from extendum.web.shared.forms import Edit, Form


def _finding(form: Form, script: Script, own: Own) -> Finding:
    return report_of(script, compile_script(script), own).get(form.get("finding", ""))


def _mend(form: Form, script: Script, own: Own) -> Edit:
    """Apply the edit that a finding offers."""
    finding = _finding(form, script, own)
    offered = finding.found.mend
    if offered is None:
        raise RefusedError("finding", "one that an edit can mend", finding.key)
    remedied = partial(mended, finding=finding, library=tuple(own.library), taken=own.library.form)
    return Edit(lambda s: remedied(s).script, f"{offered.words} ({finding.code})"[:300])


def _keep(form: Form, script: Script, own: Own) -> Edit:
    """Keep a finding as it is, because of what the teacher wrote."""
    finding, because = _finding(form, script, own), form.get("because", "")
    return Edit(lambda s: keep(s, finding, because), f"Finding kept: {finding.code}")


def _open_again(form: Form, script: Script, own: Own) -> Edit:
    """Show a finding again that was kept."""
    finding = _finding(form, script, own)
    return Edit(lambda s: open_again(s, finding), f"Open again: {finding.code}")


def _caution(form: Form, script: Script, own: Own) -> Edit:
    """Put a caution of a move into the words: at the move, or once at the start."""
    item = script.item(form["item"])
    cautions = item.move.cautions if isinstance(item, MoveItem) else ()
    found = next((one for one in cautions if one.condition == form.get("condition")), None)
    if found is None:
        must = "one of " + (", ".join(one.condition for one in cautions) or "none")
        raise RefusedError("condition", must, form.get("condition", ""))
    line = spoken(found)
    if form.get("where") == "start":
        return Edit(partial(said_at_start, text=line), f"Said at the start: {line}"[:300])
    told = f"{item.name}: says “{line}”"
    return Edit(each([item.id], partial(with_prompt, kind=PromptKind.CAUTION, text=line)), told[:300])


CHECK_EDITS = {"mend": _mend, "keep": _keep, "open-again": _open_again, "caution": _caution}
