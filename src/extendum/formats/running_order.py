"""The running order as CSV: one visit of an item a line, for spreadsheets."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence

from extendum.core.model.item import MoveItem
from extendum.core.model.timeline import clock
from extendum.core.outputs.cue_sheet import Entry

#: What begins a formula, whatever blank a spreadsheet drops before it; a lone tab or line break is one, too.
_FORMULA = re.compile(r"[\t\r\n]|[\s\ufeff\u200b]*[=+\-@＝＋－＠]")
COLUMNS = ("section", "number", "item", "round", "dose", "sides", "start", "seconds", "posture", "props", "words")


def running_order(entries: Sequence[Entry]) -> str:
    """The running order; a cell that a spreadsheet would take for a formula begins with an apostrophe."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for entry in entries:
        move = entry.item.move if isinstance(entry.item, MoveItem) else None
        row = [
            entry.section.name or str(entry.section.role),
            entry.number,
            entry.item.name,
            entry.round if entry.rounds > 1 else "",
            entry.dose,
            "/".join(entry.sides),
            clock(entry.start_s),
            entry.seconds,
            str(move.posture) if move else "",
            ", ".join(entry.props),
            " ".join(line.text for line in entry.lines if not line.private),
        ]
        writer.writerow([no_formula(cell) for cell in row])
    return out.getvalue()


def no_formula(cell: object) -> object:
    """A cell that no spreadsheet takes for a formula, also after spaces and line breaks, and in full-width signs."""
    return f"'{cell}" if isinstance(cell, str) and _FORMULA.match(cell) else cell
