"""Briefs made by a generator: every profile, 5 to 45 minutes, places, props, conditions and what comes next."""

from __future__ import annotations

import random
from dataclasses import replace

from extendum.core.edit.brief_edits import apply_audience
from extendum.core.edit.script_edits import new_script
from extendum.core.model.audience import PROFILES, Condition, WhatNext
from extendum.core.model.body import Region
from extendum.core.model.brief import AtHand
from extendum.core.model.script import Script

MINUTES = (5, 6, 8, 10, 12, 15, 20, 25, 30, 45)
PROPS = ("chair", "wall", "mat", "strap", "cushion", "block")
AREAS = (
    *(Region.NECK, Region.SHOULDERS, Region.CHEST, Region.UPPER_BACK, Region.LOWER_BACK, Region.SPINE),
    *(Region.SIDE_BODY, Region.HIP_FRONT, Region.DEEP_HIP, Region.INNER_THIGH, Region.FRONT_THIGH, Region.BACK_THIGH),
    *(Region.CALF, Region.ANKLE, Region.WRIST, Region.FOREARM),
)


def brief_of(seed: int) -> Script:
    """The brief of a number, as a class without items; the same number gives the same brief."""
    rng = random.Random(seed)
    profile, minutes = PROFILES[seed % len(PROFILES)], MINUTES[seed % len(MINUTES)]
    script = apply_audience(new_script(f"Brief {seed}", 60 * minutes), profile)
    areas = tuple(rng.sample(AREAS, rng.randint(1, 2 + (minutes > 5) + (minutes > 10))))
    conditions = rng.sample([one.value for one in Condition], rng.choice((0, 0, 1, 2)))
    props = tuple(AtHand(name) for name in rng.sample(PROPS, rng.randint(2, 5)))
    brief = script.brief
    before = rng.choice((brief.before, brief.before, WhatNext.GENTLE)) if not brief.warm else WhatNext.NOTHING
    brief = replace(
        brief,
        areas=areas,
        props=props,
        before=before,
        conditions=tuple(dict.fromkeys((*brief.conditions, *conditions))),
    )
    return replace(script, brief=brief, sections=())
