"""What a class is for and has to keep to: group, slot, props, areas, conditions."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.audience import Setting, WhatNext, check_texts
from extendum.core.model.body import Posture, Region
from extendum.core.model.fields import Checked, Extra, extra, text, whole

LONGEST_CLASS_S = 4 * 3600


class Priority(StrEnum):
    """What a fit gives up first, where moves may be left out."""

    MOVES = "keep moves, shorten holds"
    EVEN = "some of both"
    HOLDS = "keep holds, drop moves"


@dataclass(frozen=True, slots=True)
class AtHand(Checked):
    """A prop that the group has, what it is like (``stable, with arms``), and what it counts as: a towel as a strap."""

    name: str = text(60, shortest=1)
    like: str = text(200, "")
    counts_as: str = text(60, "", "the prop that it serves as, besides what it is")
    extra: Extra = extra()


@dataclass(frozen=True, slots=True)
class Brief(Checked):
    """What the class is for and has to keep to, how long its slot is, and what a fit gives up first.

    Empty postures, props or areas mean that nothing was said, not that there are none. ``activities``: what its people
    do, by name. ``warm``: people come to it warm from activity.
    """

    group: str = text(200, "")
    audience: str = text(80, "", "the name of the profile that it started from")
    target_s: int = whole(1, LONGEST_CLASS_S, 600)
    priority: Priority = Priority.EVEN
    setting: Setting = Setting.LIVE
    postures: tuple[Posture, ...] = ()
    props: tuple[AtHand, ...] = ()
    areas: tuple[Region, ...] = ()
    activities: tuple[str, ...] = ()
    before: WhatNext = WhatNext.NOTHING
    warm: bool = False
    conditions: tuple[str, ...] = ()
    avoid: tuple[str, ...] = ()
    notes: str = text(4000, "")
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_texts("conditions", self.conditions)
        check_texts("avoid", self.avoid)
        check_texts("activities", self.activities)
