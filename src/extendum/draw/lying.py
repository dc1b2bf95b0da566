"""Where in its picture a figure has what it works: on a screen that people follow, left is left as in a mirror."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from extendum.core.figure.figure import Figure, body_in
from extendum.core.figure.pose import other_side
from extendum.core.model.body import Side
from extendum.draw.figures.eye import Eye

#: Nearer than this, in centimetres, two sides lie one behind the other in the picture and tell nothing.
_APART, _HIPS_APART = 15.0, 6.0


@lru_cache(maxsize=512)
def lies(figure: Figure) -> Side:
    """The half of the picture in which a figure, as drawn for the left, has its left.

    A leg is where it stands beside the other one. Arms cross over, so for them, and where the move has no limb of its
    own, the hips tell; seen from the side it is where the limb is, beside the middle of the hips.
    """
    joints = body_in(figure.poses[figure.held]).joints
    eye = Eye(figure.view, figure.above)

    def across(one: str, other: str) -> float:
        seen = eye(np.array([joints[one], joints[other]]))
        return float(seen[0, 0] - seen[1, 0])

    hips, tag = across("hip_l", "hip_r"), figure.tag
    limb = tag if other_side(tag) in joints and other_side(tag) != tag else "shoulder_l"
    apart = across(limb, other_side(limb))
    leg = limb.startswith(("knee", "ankle", "toes", "heel"))
    told = [(apart, _APART), (hips, _HIPS_APART)] if leg else [(hips, _HIPS_APART), (apart, _APART)]
    middle = (across(limb, "hip_l") + across(limb, "hip_r")) / 2
    by = next((far for far, least in told if abs(far) >= least), middle)
    return Side.RIGHT if by > 0 else Side.LEFT
