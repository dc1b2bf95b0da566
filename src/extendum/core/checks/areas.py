"""Coverage: whether the class reaches what the brief wants it to reach."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from extendum.core.checks.finding import Check, Family, Found, Mend, Severity, checked
from extendum.core.checks.mends import listed
from extendum.core.checks.subject import Subject
from extendum.core.edit.script_edits import add_move
from extendum.core.model.body import Region
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.moves.suggest import suggest

#: How many moves are tried where the first one would bring up something else.
OTHERS = 5


@checked(
    Family.COVERAGE,
    "area-missing",
    Severity.CONSIDER,
    "whether a move targets each area of the brief",
    "It is easy to lose count of what a class has worked, and to forget an area that was asked for.",
)
def area_missing(subject: Subject) -> Iterator[Found]:
    """No move targets an area of the brief."""
    main = {region for item in subject.moves for region in item.move.main_regions}
    missing = [region for region in subject.brief.areas if region not in main]
    if missing:
        also = {target.region for item in subject.moves for target in item.move.targets}
        aside = [region for region in missing if region in also]
        told = f" (the {listed(aside)} only besides)" if aside else ""
        yield Found(
            f"No move targets the {listed(missing)}{told}.",
            facts=tuple((str(region), "besides" if region in aside else "none") for region in missing),
            mend=Mend(
                f"Add a move for the {missing[0]}",
                partial(_added, subject=subject, area=missing[0]),
                tuple(partial(_added, subject=subject, area=missing[0], nth=nth) for nth in range(1, OTHERS)),
            )
            if subject.library
            else None,
        )


def _added(script: Script, subject: Subject, area: Region, nth: int = 0) -> Script:
    """The class with a move that would be suggested next for an area: the first, or another in its place."""
    found = suggest(script, [entry for entry in subject.library if area in entry.move.main_regions], most=nth + 1)
    if len(found) <= nth:
        raise RefusedError("area", f"a move for the {area} that keeps to the brief", "none in the library")
    entry = found[nth].entry
    return add_move(script, entry, taken=subject.taken(entry.move.key))[0]


CHECKS: tuple[Check, ...] = (area_missing,)
