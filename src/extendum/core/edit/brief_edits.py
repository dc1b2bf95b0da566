"""Edits of the brief: setting it, and taking an audience profile over."""

from __future__ import annotations

from dataclasses import replace

from extendum.core.model.audience import Audience
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
