"""The handout: one page for who took part, with figures, names, doses, what each move is for, and cautions."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence

from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem, dose_words
from extendum.core.model.script import Script
from extendum.core.moves.cautions import ASK_FIRST, USUAL
from extendum.core.outputs.cue_sheet import Entry
from extendum.formats.pdf import MARGIN, USUAL_LOOK, Look, Pages, Paper
from extendum.formats.sources import CUSTOM, short_source


def handout_pdf(script: Script, entries: Sequence[Entry], paper: Paper = Paper.A4, look: Look = USUAL_LOOK) -> bytes:
    """One page for who takes part: figures, names, doses and cautions. It is made smaller until it is one page."""
    items = list({entry.item.id: entry.item for entry in entries if isinstance(entry.item, MoveItem)}.values())
    for columns in range(3, 9):
        pages = Pages(script.title, paper, look)
        end = _handout(pages, script, items, columns)
        if end <= pages.room or columns == 8:
            return pages.finished()
    raise AssertionError("unreachable")


def _handout(pages: Pages, script: Script, items: Sequence[MoveItem], columns: int) -> float:
    small = 9.5 - 0.55 * (columns - 3)
    y = pages.put(script.title, MARGIN, MARGIN, pages.epw, 18, bold=True)
    y = pages.put("To do at home, as you did it in class.", MARGIN, y, pages.epw, 9.5) + 2
    gap = 4.0
    cell = (pages.epw - gap * (columns - 1)) / columns
    picture = min(cell * 0.72, 38.0)
    for first in range(0, len(items), columns):
        ends = []
        for n, item in enumerate(items[first : first + columns]):
            x = MARGIN + n * (cell + gap)
            pages.figure(item, Side.LEFT if item.move.sided else Side.BOTH, x + (cell - picture) / 2, y, picture)
            at = pages.put(f"{first + n + 1}  {item.name}", x, y + picture, cell, small + 0.8, bold=True)
            at = pages.put(_at_home(item), x, at, cell, small)
            ends.append(pages.put(_why(item), x, at, cell, small - 0.9) if item.move.why else at)
        y = max(ends) + 2.5
    y = pages.put("Take care", MARGIN, y, pages.epw, 11, bold=True)
    y = pages.put(USUAL, MARGIN, y, pages.epw, small) + 0.8
    width = (pages.epw - gap) / 2
    ends = [y, y]
    for condition, advice in _cautions(items, script.brief.conditions):
        column = ends.index(min(ends))
        line = f"{condition[0].upper()}{condition[1:]}: {advice}"
        ends[column] = pages.put(line, MARGIN + column * (width + gap), ends[column], width, small - 0.7)
    return pages.put(ASK_FIRST, MARGIN, max(ends) + 0.8, pages.epw, small)


def _at_home(item: MoveItem) -> str:
    needs = f", with {', '.join(prop.name for prop in item.move.props)}" if item.move.props else ""
    return f"{dose_words(item)}{needs}"


def _why(item: MoveItem) -> str:
    """What a move is for, with where that is known from unless it is only custom."""
    source = item.move.why_from
    known = source and source != CUSTOM
    return f"{item.move.why} ({short_source(source)})" if known else item.move.why


def _cautions(items: Sequence[MoveItem], conditions: Collection[str]) -> Iterator[tuple[str, str]]:
    """What to do with a condition of the group, each advice once with the numbers of the moves that it is for.

    Of a group that has named none, every condition is listed.
    """
    found: dict[str, dict[str, list[str]]] = {}
    for n, item in enumerate(items, 1):
        for caution in item.move.cautions:
            if conditions and caution.condition not in conditions:
                continue
            found.setdefault(caution.condition, {}).setdefault(caution.advice, []).append(str(n))
    for condition, advices in found.items():
        yield condition, " ".join(f"({', '.join(numbers)}) {advice}" for advice, numbers in advices.items())
