"""How a class takes a move of the library up."""

from __future__ import annotations

from dataclasses import replace

from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove, dose_for
from extendum.core.model.prompts import FIRST_PASS_ONLY
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Section
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import CueKind, CueRef
from extendum.core.timing.compile import compile_script


def take_up(entry: LibraryMove, item_id: str, style: CueStyle, taken: str = "") -> MoveItem:
    """An item made of a move: the dose of the class's convention, and the prompts that such a dose has room for.

    Cautions and the easier option are always taken; of the others, those that its first pass can say at the
    class's rate. ``taken`` marks which form of the move this is.
    """
    dose, sets = dose_for(entry, style.holds)
    item = MoveItem(
        item_id,
        entry.move,
        dose,
        entry.words,
        then=entry.then,
        sets=sets,
        rest_s=entry.rest_s,
        facing=entry.facing,
        taken=taken,
    )
    alone = Script(entry.move.name, style=style, sections=(Section("s", groups=(Group("g", items=(item,)),)),))
    unsaid = {one.of for one in compile_script(alone).unsaid}
    prompts = tuple(
        prompt
        for index, prompt in enumerate(entry.words.prompts)
        if prompt.kind in FIRST_PASS_ONLY or CueRef(item_id, 1, 1, 1, CueKind(prompt.kind.value), index) not in unsaid
    )
    return replace(item, words=replace(entry.words, prompts=prompts))
