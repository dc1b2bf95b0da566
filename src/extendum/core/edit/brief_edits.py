"""Edits of the brief: taking over an audience profile, and what activities ask for."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from extendum.core.model.audience import Activity, Audience, WhatNext, When
from extendum.core.model.body import Region
from extendum.core.model.script import Script


def apply_audience(script: Script, audience: Audience) -> Script:
    """Take an audience profile over into the brief and the cueing style; a class that begins elsewhere begins anew."""
    brief = replace(
        script.brief,
        audience=audience.name,
        postures=audience.postures,
        conditions=audience.conditions,
        before=audience.before,
        warm=audience.warm,
    )
    style = replace(
        script.style,
        pace_percent=audience.pace_percent,
        words_per_minute=audience.words_per_minute,
        holds=audience.holds,
        one_leg_most_s=audience.one_leg_most_s,
    )
    start = script.start_posture
    if audience.postures and start not in audience.postures[:1] and not script.moves():
        start = audience.postures[0]
    return replace(script, brief=brief, style=style, start_posture=start)


def apply_activities(script: Script, activities: Sequence[Activity], known: Iterable[Activity], when: When) -> Script:
    """Take over what activities load, and what kind of class goes before or after them.

    Areas that only an activity wanted which is not meant any more go with it; ``known``: every activity there is.
    """
    had = [one for one in known if one.name in script.brief.activities and one not in activities]
    loaded = {area for one in activities for area in one.areas}
    gone = {area for one in had for area in one.areas} - loaded
    areas = tuple(area for area in Region if area in loaded or (area in script.brief.areas and area not in gone))
    names = tuple(one.name for one in activities)
    brief = replace(script.brief, activities=names, areas=areas)
    if activities:
        hardest = max((one.next for one in activities), key=list(WhatNext).index)
        after = when is When.COMES_AFTER
        before = WhatNext.NOTHING if after else hardest
        brief = replace(brief, before=before, warm=after and any(one.warms for one in activities))
    return replace(script, brief=brief)


def audience_of(script: Script, name: str) -> Audience:
    """The class's own settings as a profile under a name."""
    brief, style = script.brief, script.style
    return Audience(
        name,
        brief.group,
        style.pace_percent,
        style.words_per_minute,
        brief.postures,
        style.holds,
        style.one_leg_most_s,
        brief.conditions,
        brief.before,
        brief.warm,
    )
