"""What is played under a class: its own music and that of its sections, one after the other."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.sound.bed import Bed, Drone, InTurn
from extendum.core.sound.speech import RATE

#: Nothing, under one section of a class with music.
SILENCE = "silence"


class Music(NamedTuple):
    """A bed, and whose it is, in the instructor's words."""

    bed: Bed
    rights: str = ""


#: What ships: made from numbers, so that nobody has a right in it.
SHIPPED = {"drone": Music(Drone(), "Made by Extendum; free to use.")}


def music_of(script: Script) -> set[str]:
    """The names of everything that is played under a class."""
    names = {section.music or script.music for section in script.sections}
    return names - {"", SILENCE}


def bedding(script: Script, timeline: Timeline, beds: Mapping[str, Music]) -> Bed | None:
    """The music of a class in the order of its sections; None where there is none, or none of it is at hand."""
    if not music_of(script) & beds.keys():
        return None
    turns: list[tuple[int, Bed | None]] = []
    before = None
    for section in script.sections:
        own = {item.id for item in section.items}
        begins = next((one.start_s for one in timeline.segments if one.item in own), None)
        name = section.music or script.music
        if begins is None or name == before:
            continue
        music = beds.get(name)
        turns.append((begins * RATE if turns else 0, music.bed if music else None))
        before = name
    return InTurn(turns)
