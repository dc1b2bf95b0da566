"""What a class is published with: a text for the place where its film is, and a small picture."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from io import BytesIO

from extendum.core.model.body import Region
from extendum.core.model.item import MoveItem
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline, clock
from extendum.core.moves.cautions import ASK_FIRST, USUAL
from extendum.core.outputs.captions import Chapter
from extendum.core.outputs.coverage import coverage, on_each_side
from extendum.core.outputs.cue_sheet import Entry
from extendum.formats.captions import chapters_list
from extendum.formats.paper import USUAL_LOOK, Look

#: So many areas are named.
AREAS_MOST = 6


def publishing_text(
    script: Script,
    timeline: Timeline,
    entries: Sequence[Entry],
    found: Sequence[Chapter],
    line: str = "",
    rights: Collection[str] = (),
) -> str:
    """Name, length, for whom, areas, needs, cautions, chapters, and whose music it is."""
    moves = {e.item.id: e.item for e in entries if isinstance(e.item, MoveItem)}
    props = dict.fromkeys(prop.name for item in moves.values() for prop in item.move.props)
    many = f"{len(moves)} {'move' if len(moves) == 1 else 'moves'}"
    head = [script.title, " · ".join(filter(None, (clock(timeline.length_s), many, script.brief.group))), line]
    needs = f"You need: {', '.join(props)}." if props else "You need nothing but some space."
    about = [_areas(script, timeline), needs]
    care = ["Take care", USUAL, ASK_FIRST]
    told = ["Chapters", chapters_list(found).rstrip()]
    parts = ["\n".join(filter(None, some)) for some in (head, about, care, told, sorted(rights))]
    return "\n\n".join(filter(None, parts)) + "\n"


def _areas(script: Script, timeline: Timeline) -> str:
    """The areas that the class works most, those with the most seconds first."""
    found = on_each_side(coverage(script, timeline))
    named = sorted((one for one in found if found[one] and one is not Region.WHOLE_BODY), key=lambda one: -found[one])
    return f"Areas: {', '.join(str(one) for one in named[:AREAS_MOST])}." if named else ""


def thumbnail(script: Script, timeline: Timeline, look: Look = USUAL_LOOK) -> bytes:
    """The title card of the film, 1280 by 720, as PNG."""
    from extendum.formats.film import Film, painter_of  # it paints: only where it is wanted

    out = BytesIO()
    painter_of(script, timeline, Film(), look).cover().save(out, "PNG", optimize=True)
    return out.getvalue()
