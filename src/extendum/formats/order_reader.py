"""A running order from a spreadsheet (CSV), read forgivingly into rows; `order_class` makes a class of them.

Columns are found by their names in any order; without a heading the first text is the item and what holds a number is
its dose. A row with one cell begins a section. What cannot be read is told with its line; the rest stays.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.limits import whole_number
from extendum.core.model.move import Sidedness
from extendum.core.model.placeholders import CLASS_PLACEHOLDERS, check_placeholders
from extendum.formats.dose_text import Told, read_dose
from extendum.formats.plain import decoded
from extendum.formats.running_order import COLUMNS

LARGEST, MOST_ROWS, MOST_COLUMNS, LONGEST_CELL = 1_000_000, 250, 40, 1000
#: What parts the cells is judged by so many lines.
SAMPLE = 40

_COLUMNS: Mapping[str, tuple[str, ...]] = {
    "section": ("section", "part", "block", "phase", "group"),
    "item": ("item", "move", "exercise", "stretch", "name", "what", "activity", "pose", "position"),
    "dose": (
        "dose",
        "time",
        "duration",
        "length",
        "hold",
        "reps",
        "how long",
        "secs",
        "seconds",
        "minutes",
        "min",
        "amount",
    ),
    "sides": ("sides", "side", "each"),
    "sets": ("sets", "set"),
    "round": ("round", "rounds"),
    "words": ("words", "cue", "cues", "notes", "note", "say", "instructions", "script", "text"),
}
_PREFERRED = {"dose": ("dose", "hold", "reps", "duration", "time", "how long")}


@dataclass(frozen=True, slots=True)
class Row:
    """One line of the list that is an item: where it stood, what it says, and what is wrong with it.

    ``lead``: the side named first. ``still``: whether it is time without a move, where an own list tells it.
    """

    line: int
    section: str
    name: str
    told: Told
    dose: str = ""
    words: str = ""
    round: int = 1
    lead: Side | None = None
    still: bool | None = None
    problems: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Order:
    """A list as it was read."""

    rows: tuple[Row, ...]
    columns: tuple[str, ...]
    skipped: tuple[tuple[int, str], ...] = ()


def read_order(text: str | bytes) -> Order:
    """A list as rows; RefusedError where it is no list at all."""
    plain = decoded(text, LARGEST)
    table = _table(plain)
    if not table:
        raise RefusedError("file", "lines with the name of an item and how long it lasts", "nothing")
    if len(table) > MOST_ROWS:
        raise RefusedError("file", f"at most {MOST_ROWS} lines", f"{len(table)}")
    heads = _heads(table)
    own = [cell.casefold() for cell in table[0][1]] == list(COLUMNS)
    if own:
        heads["posture"] = COLUMNS.index("posture")
    rows: list[Row] = []
    skipped: list[tuple[int, str]] = []
    section = ""
    for line, cells in table[1:] if heads else table:
        filled = [cell for cell in cells if cell]
        at = heads or _guessed(cells)
        name = _cell(cells, at, "item")
        if len(filled) == 1 and not (heads and name and _has_number(name)) and not _dose_like(filled[0]):
            section = filled[0].strip(" :#-*")
            continue
        if not name:
            skipped.append((line, f"no name of an item in {', '.join(filled)[:60]}"))
            continue
        section = _cell(cells, at, "section") or section
        rows.append(_row(line, cells, at, section, name, own=own))
    if not rows:
        raise RefusedError("file", "at least one line with the name of an item", f"{len(table)} lines without")
    return Order(tuple(rows), tuple(heads), tuple(skipped))


def _table(plain: str) -> list[tuple[int, list[str]]]:
    """The cells of each line that has any, with its number."""
    sample = "\n".join(plain.splitlines()[:SAMPLE])
    delimiter = max(("\t", ";", "|", ","), key=sample.count)
    found = []
    try:
        reader = csv.reader(io.StringIO(plain), delimiter=delimiter)
        for cells in reader:
            kept = [" ".join(cell.split())[:LONGEST_CELL] for cell in cells[:MOST_COLUMNS]]
            if any(kept):
                found.append((reader.line_num, kept))
    except csv.Error as error:
        raise RefusedError("file", "a table of comma-separated values", str(error)) from None
    return found


def _heads(table: Sequence[tuple[int, list[str]]]) -> dict[str, int]:
    """Which column is what, where the first line is a heading; empty where it is none."""
    first = [cell.casefold().strip(" :()[]") for cell in table[0][1]]
    found: dict[str, int] = {}
    for column, names in _COLUMNS.items():
        ranked = (*_PREFERRED.get(column, ()), *names)
        places = [first.index(name) for name in ranked if name in first]
        if not places:
            places = [n for n, head in enumerate(first) if any(re.search(rf"\b{name}\b", head) for name in ranked)]
        free = [place for place in places if place not in found.values()]
        if free:
            found[column] = free[0]
    return found if "item" in found and len(found) > 1 else {}


def _guessed(cells: Sequence[str]) -> dict[str, int]:
    """Without a heading: the first cell that is no number is the item, the first other one with a number the dose."""
    found: dict[str, int] = {}
    for n, cell in enumerate(cells):
        if not cell or re.fullmatch(r"\d{1,3}[.)]?", cell):
            continue
        if "item" not in found:
            found["item"] = n
        elif "dose" not in found and _has_number(cell):
            found["dose"] = n
        elif "sides" not in found and len(cell) < 24 and re.search(r"side|leg|arm|left|way|direction", cell.casefold()):
            found["sides"] = n
        elif "words" not in found:
            found["words"] = n
    return found


def _has_number(cell: str) -> bool:
    return bool(re.search(r"\d", cell))


def _dose_like(cell: str) -> bool:
    """Whether one cell holds an item with its dose: 'Calf stretch 30 s each side'."""
    return bool(re.search(r"\d\s*(?:s|sec|min|x|reps?|breaths?|m)\b|\d:\d\d|\d\s*[x×]\s*\d", cell.casefold()))


def _cell(cells: Sequence[str], at: Mapping[str, int], column: str) -> str:
    place = at.get(column)
    return cells[place] if place is not None and place < len(cells) else ""


def _without_braces(words: str) -> str:
    """Words whose braces are placeholders that a class knows; other braces become brackets."""
    try:
        check_placeholders("words", words, CLASS_PLACEHOLDERS)
    except RefusedError:
        return words.translate(str.maketrans("{}", "()"))
    return words


_IN_NAME = re.compile(r"^(.*?[a-z)])[\s,:(-]+((?:\d).*)$", re.IGNORECASE)


def _row(line: int, cells: Sequence[str], at: Mapping[str, int], section: str, name: str, *, own: bool) -> Row:
    problems: list[str] = []
    dose_text = _cell(cells, at, "dose")
    if not dose_text and (inside := _IN_NAME.match(name)) and _dose_like(name):
        name, dose_text = inside.group(1).strip(" ,:(-"), inside.group(2).strip(" )")
    sides = _cell(cells, at, "sides").casefold()
    if sides in ("yes", "y", "x", "l/r", "2", "both"):
        sides = "each side"
    try:
        told = read_dose(f"{dose_text} {sides}".strip()) if dose_text or sides else Told(None)
    except RefusedError as error:
        told = Told(None)
        problems.append(str(error))
    sets = _cell(cells, at, "sets")
    if sets:
        if (times := whole_number(sets, 1, 20)) is not None:
            told = replace(told, sets=times)
        else:
            problems.append(f"sets: must be from 1 to 20; found {sets[:20]}")
    round_ = _cell(cells, at, "round")
    number = whole_number(round_, 1, 20) or 1
    lead = next((side for side in (Side.LEFT, Side.RIGHT) if sides.startswith(side.value)), None)
    still = None
    if own:  # says of every item whether it has sides, and a posture where it is a move
        still = not _cell(cells, at, "posture")
        told = replace(told, sides=told.sides or Sidedness.TOGETHER)
    said, words = f"{dose_text} {sides}".strip(), _without_braces(_cell(cells, at, "words"))
    return Row(line, section[:200], name[:120], told, said, words, number, lead, still, tuple(problems))
