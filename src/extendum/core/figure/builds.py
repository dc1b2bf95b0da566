"""The radii of a body in centimetres, measured across its bones: two builds on one skeleton.

Each table gives the share of the bone (for the trunk: centimetres above the hips) and the radii there to the front,
to the back and to either side. Of an arm the front is where the forearm bends to; of a leg, where the kneecap is.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from extendum.core.figure.rings import Radii

Table = tuple[tuple[float, Radii], ...]


class Build(StrEnum):
    """How broad somebody is."""

    SLIGHT = "slight"
    BROAD = "broad"


@dataclass(frozen=True, slots=True)
class Girths:
    """The tables of a build."""

    thigh: Table
    shin: Table
    upper_arm: Table
    forearm: Table
    pelvis: Table
    trunk: Table
    neck: Table
    shoulder: float
    hand: float = 1.0


_SLIGHT = Girths(
    thigh=(
        *((0.0, (8.6, 9.6, 8.6)), (0.14, (8.9, 9.2, 8.6)), (0.35, (8.4, 7.8, 7.8)), (0.6, (7.2, 6.6, 6.7))),
        *((0.82, (6.0, 5.6, 5.6)), (1.0, (5.6, 4.9, 5.1))),
    ),
    shin=(
        *((0.0, (5.6, 4.9, 5.1)), (0.12, (5.0, 5.3, 5.0)), (0.28, (4.4, 6.4, 5.4)), (0.45, (4.1, 5.8, 5.0))),
        *((0.68, (3.6, 4.2, 4.0)), (0.86, (3.2, 3.5, 3.3)), (1.0, (3.3, 3.6, 3.1))),
    ),
    upper_arm=(
        *((0.0, (4.6, 4.6, 4.4)), (0.2, (4.9, 4.8, 4.6)), (0.45, (4.4, 4.4, 4.0)), (0.72, (3.9, 4.0, 3.5))),
        (1.0, (3.3, 3.6, 3.6)),
    ),
    forearm=(
        *((0.0, (3.3, 3.6, 3.6)), (0.2, (3.7, 3.5, 4.0)), (0.42, (3.4, 3.2, 3.6)), (0.7, (2.5, 2.6, 2.9))),
        (1.0, (1.9, 2.0, 2.6)),
    ),
    pelvis=((-8.0, (5.5, 7.5, 10.0)), (-4.0, (8.2, 10.8, 14.8)), (1.0, (9.2, 11.2, 16.2)), (6.0, (9.3, 10.0, 15.4))),
    trunk=(
        *((2.0, (9.6, 10.9, 16.4)), (7.0, (9.7, 9.8, 15.6)), (12.0, (9.5, 8.7, 14.3)), (18.0, (9.0, 7.8, 12.8))),
        *((23.0, (9.3, 8.3, 12.9)), (30.0, (10.4, 9.4, 14.2)), (36.0, (10.6, 9.9, 14.7)), (42.0, (8.8, 9.1, 14.2))),
        *((46.0, (6.9, 8.2, 12.4)), (49.5, (5.4, 6.4, 7.6))),
    ),
    neck=((0.0, (5.2, 5.9, 6.3)), (0.25, (4.9, 5.3, 5.4)), (0.6, (4.8, 5.2, 5.1)), (1.0, (4.6, 6.2, 5.3))),
    shoulder=4.7,
)
_BROAD = Girths(
    thigh=tuple((t, (f * 1.1, b * 1.08, s * 1.1)) for t, (f, b, s) in _SLIGHT.thigh),
    shin=tuple((t, (f * 1.08, b * 1.08, s * 1.1)) for t, (f, b, s) in _SLIGHT.shin),
    upper_arm=tuple((t, (f * 1.18, b * 1.16, s * 1.18)) for t, (f, b, s) in _SLIGHT.upper_arm),
    forearm=tuple((t, (f * 1.14, b * 1.14, s * 1.14)) for t, (f, b, s) in _SLIGHT.forearm),
    pelvis=tuple((t, (f * 1.18, b * 1.08, s * 1.05)) for t, (f, b, s) in _SLIGHT.pelvis),
    trunk=(
        *((2.0, (11.6, 11.6, 17.4)), (7.0, (12.2, 10.8, 17.2)), (12.0, (12.2, 9.9, 16.7)), (18.0, (11.8, 9.2, 16.0))),
        *((23.0, (11.4, 9.6, 15.9)), (30.0, (11.9, 10.6, 16.6)), (36.0, (11.8, 11.0, 16.8)), (42.0, (9.7, 10.1, 15.8))),
        *((46.0, (7.6, 8.9, 13.6)), (49.5, (5.9, 6.9, 8.4))),
    ),
    neck=tuple((t, (f * 1.12, b * 1.1, s * 1.14)) for t, (f, b, s) in _SLIGHT.neck),
    shoulder=5.4,
    hand=1.06,
)
GIRTHS = {Build.SLIGHT: _SLIGHT, Build.BROAD: _BROAD}
