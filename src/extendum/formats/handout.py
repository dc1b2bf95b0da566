"""The handout for who took part: figures, names, doses, how and why each move is done, and cautions.

One page as long as it can be read; a long class with many cautions takes a second one.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence

import segno

from extendum.core.model.body import Side
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.moves.cautions import ASK_FIRST, USUAL
from extendum.core.outputs.at_home import AtHome, at_home, is_marked
from extendum.core.outputs.cue_sheet import Entry
from extendum.formats.paper import USUAL_LOOK, Look, Paper
from extendum.formats.pdf import MARGIN, Box, Pages, one_scale
from extendum.formats.sources import CUSTOM, short_source

#: Columns of moves, from few to many, and millimetres of the square code.
COLUMNS, CODE_MM = range(3, 7), 24.0


def handout_pdf(
    script: Script,
    entries: Sequence[Entry],
    paper: Paper = Paper.A4,
    look: Look = USUAL_LOOK,
    line: str = "",
    address: str = "",
) -> bytes:
    """A page for who takes part; made smaller, as far as it can be read, until it is one.

    ``line``: what the teacher puts on every handout; ``address``: where the class plays, as text and square code.
    """
    moves = at_home(script, entries)
    for columns in COLUMNS:
        pages = Pages(script.title, paper, look)
        _handout(pages, script, moves, columns, line, address)
        if pages.pages_count == 1:
            break
    return pages.finished()


def _handout(pages: Pages, script: Script, moves: Sequence[AtHome], columns: int, line: str, address: str) -> None:
    small, items = 10.5 - 0.7 * (columns - 3), [one.item for one in moves]
    y = _head(pages, script, len(moves), line, address) + 2
    gap = 4.0
    cell = (pages.epw - gap * (columns - 1)) / columns
    tall = min(cell * 0.72, 38.0)
    scale = one_scale(items, pages.look, tall)
    for first in range(0, len(moves), columns):
        row = moves[first : first + columns]
        texts = [_texts(first + n, one, small) for n, one in enumerate(row, 1)]
        needed = max(sum(pages.tall(text, cell, size, bold=bold) for text, size, bold in some) for some in texts)
        y = _room(pages, y, tall + needed)
        ends = []
        for n, (one, some) in enumerate(zip(row, texts, strict=True)):
            x = MARGIN + n * (cell + gap)
            pages.figure(one.item, one.side, Box(x, y, cell, tall), scale=scale)
            at = y + tall
            for text, size, bold in some:
                at = pages.put(text, x, at, cell, size, bold=bold)
            ends.append(at)
        y = max(ends) + 2.5
    _care(pages, script, items, small, y)


def _room(pages: Pages, y: float, needed: float) -> float:
    """Where something so tall goes: here, or at the top of a further page."""
    if y + needed <= pages.room or y <= MARGIN:
        return y
    pages.add_page()
    return MARGIN


def _head(pages: Pages, script: Script, many: int, line: str, address: str) -> float:
    wide = pages.epw - (CODE_MM + 4 if address else 0)
    y = pages.put(script.title, MARGIN, MARGIN, wide, 18, bold=True)
    y = pages.put(_asked(script, many), MARGIN, y, wide, 10.5)
    if line:
        y = pages.put(line, MARGIN, y, wide, 10.5, bold=True)
    if address:
        _code(pages, address, pages.w - MARGIN - CODE_MM, MARGIN)
        y = pages.put(f"It plays here: {address}", MARGIN, y, wide, 9)
        y = max(y, MARGIN + CODE_MM)
    return y


def _texts(number: int, one: AtHome, small: float) -> list[tuple[str, float, bool]]:
    """What stands under a figure: each text with its size, and whether it is bold."""
    told = [(f"{number}  {one.item.name}", small + 0.8, True), (_dose(one), small, False)]
    return told + [(text, small - 0.9, False) for text in (one.how, _why(one.item)) if text]


def _care(pages: Pages, script: Script, items: Sequence[MoveItem], small: float, y: float) -> None:
    """The cautions in two columns; they stay together, on a page of their own where they must."""
    gap = 4.0
    width = (pages.epw - gap) / 2
    told = [f"{name[0].upper()}{name[1:]}: {advice}" for name, advice in _cautions(items, script.brief.conditions)]
    every = sum(pages.tall(one, width, small - 0.7) for one in told) / 2
    y = _room(pages, y, every + 22)
    y = pages.put("Take care", MARGIN, y, pages.epw, 11, bold=True)
    y = pages.put(USUAL, MARGIN, y, pages.epw, small) + 0.8
    ends = [y, y]
    for one in told:
        column = ends.index(min(ends))
        ends[column] = pages.put(one, MARGIN + column * (width + gap), ends[column], width, small - 0.7)
    pages.put(ASK_FIRST, MARGIN, max(ends) + 0.8, pages.epw, small)


def _asked(script: Script, many: int) -> str:
    """What to do with it, and how often."""
    often = f", {script.often}" if script.often else ""
    if not is_marked(script):
        return f"To do at home, as you did it in class{often}."
    return f"To do at home{often}: {'this one' if many == 1 else f'these {many}'}."


def _code(pages: Pages, address: str, x: float, y: float) -> None:
    """The square code of an address; the quiet zone round it is the page."""
    rows = list(segno.make(address, micro=False).matrix)
    size = CODE_MM / len(rows)
    pages.set_fill_color(0)
    for down, row in enumerate(rows):
        for across, dark in enumerate(row):
            if dark:
                pages.rect(x + across * size, y + down * size, size * 1.02, size * 1.02, style="F")


def _dose(one: AtHome) -> str:
    needs = f", with {', '.join(prop.name for prop in one.item.move.props)}" if one.item.move.props else ""
    begins = f", {one.side} first" if one.side is not Side.BOTH and "each side" in one.dose else ""
    return f"{one.dose}{begins}{needs}"


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
