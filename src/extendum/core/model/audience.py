"""Who a class is for: audience profiles, the conditions that cautions name, and what comes after the class.

A profile is a starting point that a class takes over and may change; it never clears anybody for anything.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.model.body import Posture, Region
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.style import HoldConvention


class Condition(StrEnum):
    """What somebody in a group may have; the cautions of the library's moves use these names.

    A caution in a class may name any other condition in words of its own.
    """

    BALANCE = "poor balance"
    BLOOD_PRESSURE = "high blood pressure"
    BLOOD_THINNERS = "blood thinners or fragile bone"
    BREATH = "short of breath or heart trouble"
    DIZZINESS = "dizziness"
    GLAUCOMA = "glaucoma"
    HIP_REPLACEMENT = "hip replacement"
    HYPERMOBILITY = "hypermobility"
    JAW = "jaw pain or clicking"
    DISLOCATION = "past shoulder dislocation"
    KNEES = "knee replacement or sore knees"
    LOW_BACK = "low back pain"
    NECK = "neck trouble or dizziness with the head moving"
    NERVES = "tingling or nerve pain"
    OSTEOPOROSIS = "osteoporosis"
    PREGNANCY = "later pregnancy"
    SHOULDERS = "sore shoulders"
    WRISTS = "sore wrists"


class WhatNext(StrEnum):
    """What the group does after the class: long static holds are for some of it the wrong thing before."""

    NOTHING = "nothing in particular"
    GENTLE = "gentle activity"
    STRENGTH = "strength or speed"


class Setting(StrEnum):
    """Where the class is given."""

    LIVE = "live"
    RECORDED = "recorded"


class When(StrEnum):
    """Whether people do something before the class or after it."""

    COMES_AFTER = "after it"
    COMES_BEFORE = "before it"


@dataclass(frozen=True, slots=True)
class Activity(Checked):
    """What people do beside a class: the areas that it loads, what it is for muscles, and a usual caution.

    The areas are those that teachers of the activity stretch by habit; none is a diagnosis.
    """

    name: str = text(80, shortest=1)
    areas: tuple[Region, ...] = ()
    next: WhatNext = WhatNext.NOTHING
    warms: bool = False
    care: str = text(300, "")
    extra: Extra = extra()


def check_texts(where: str, texts: tuple[str, ...], most: int = 40) -> None:
    """Refuse a list of short texts that is too long or holds an empty or overlong one."""
    if len(texts) > most:
        raise RefusedError(where, f"at most {most}", f"{len(texts)}")
    for index, one in enumerate(texts):
        if not 1 <= len(one) <= 120:
            raise RefusedError(f"{where}[{index}]", "1 to 120 characters", f"{len(one)} characters")


@dataclass(frozen=True, slots=True)
class Audience(Checked):
    """A kind of group: its pace, the rate at which one speaks to it, and what holds for it."""

    name: str = text(80, shortest=1)
    about: str = text(300, "")
    pace_percent: int = whole(50, 300, 100, "of the body seconds; the slowest person decides")
    words_per_minute: int = whole(60, 300, 165)
    postures: tuple[Posture, ...] = ()
    holds: HoldConvention = HoldConvention.STEADY
    one_leg_most_s: int = whole(0, 600, 0, "of a hold on one leg in a fit; 0: no limit of its own")
    conditions: tuple[str, ...] = ()
    before: WhatNext = WhatNext.NOTHING
    warm: bool = False
    extra: Extra = extra()

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        check_texts("conditions", self.conditions)


UPRIGHT = (Posture.STANDING, Posture.ONE_LEG, Posture.LUNGE, Posture.FORWARD_FOLD, Posture.CHAIR, Posture.CHAIR_EDGE)

#: The profiles that ship. Speaking rates and paces are estimates to be calibrated. Holds of 30 to 60 s for
#: older adults: Garber and others, 2011, Medicine & Science in Sports & Exercise 43(7):1334-1359. On one
#: leg no longer than 20 s, or sitting.
PROFILES = (
    Audience("Mixed adults", "All sorts of people who can get down to the floor and up again."),
    Audience(
        "Desk break",
        "A few minutes in everyday clothes beside a desk, standing and on a chair, with nothing on the floor.",
        postures=UPRIGHT,
        holds=HoldConvention.ONCE,
    ),
    Audience(
        "Older adults on chairs",
        "Sitting, or standing with a hand on the chair. Changes are slow, holds long and stands on one leg short.",
        pace_percent=150,
        words_per_minute=145,
        postures=(Posture.CHAIR, Posture.CHAIR_EDGE, Posture.STANDING),
        holds=HoldConvention.LONG,
        one_leg_most_s=20,
        conditions=(Condition.BALANCE, Condition.OSTEOPOROSIS, Condition.KNEES, Condition.BLOOD_PRESSURE),
    ),
    Audience(
        "Before activity",
        "People who are about to work hard. Movement comes first, and holds stay short.",
        holds=HoldConvention.ONCE,
        before=WhatNext.STRENGTH,
    ),
    Audience(
        "After activity",
        "Warm, tired people after their work. Changes are unhurried and holds steady.",
        pace_percent=115,
        warm=True,
    ),
    Audience(
        "Beginners",
        "People who are new to this. They get more time to move, fewer words at once and shorter holds.",
        pace_percent=125,
        words_per_minute=150,
        postures=tuple(p for p in Posture if p not in (Posture.PLANK, Posture.DEEP_SQUAT, Posture.ONE_LEG)),
        holds=HoldConvention.ONCE,
        one_leg_most_s=20,
    ),
)
