"""Areas of the body as headings and announcements name them: in one plain word, wider than a place where one feels."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Match, Phrase
from extendum.core.model.body import Region

_R = Region
_LEG = frozenset({_R.FRONT_THIGH, _R.BACK_THIGH, _R.INNER_THIGH, _R.CALF, _R.HIP_FRONT, _R.HIP_SIDE})
_AREAS: dict[str, frozenset[Region]] = {
    "hip": frozenset({_R.HIP_FRONT, _R.HIP_SIDE, _R.DEEP_HIP, _R.INNER_THIGH}),
    "leg": _LEG,
    "calf": frozenset({_R.CALF}),
    "ankle": frozenset({_R.ANKLE, _R.CALF, _R.FOOT}),
    "foot": frozenset({_R.FOOT, _R.ANKLE}),
    "neck": frozenset({_R.NECK}),
    "jaw": frozenset({_R.JAW}),
    "shoulder": frozenset({_R.SHOULDERS, _R.UPPER_BACK, _R.CHEST}),
    "arm": frozenset({_R.UPPER_ARM, _R.FOREARM, _R.SHOULDERS, _R.WRIST, _R.HAND}),
    "forearm": frozenset({_R.FOREARM, _R.WRIST}),
    "hand": frozenset({_R.HAND, _R.WRIST, _R.FOREARM}),
    "finger": frozenset({_R.HAND, _R.WRIST}),
    "wrist": frozenset({_R.WRIST, _R.FOREARM, _R.HAND}),
    "chest": frozenset({_R.CHEST}),
    "rib": frozenset({_R.SIDE_BODY, _R.BREATH, _R.CHEST}),
    "back": frozenset({_R.UPPER_BACK, _R.LOWER_BACK, _R.SPINE, _R.SIDE_BODY}),
    "spine": frozenset({_R.UPPER_BACK, _R.LOWER_BACK, _R.SPINE, _R.SIDE_BODY}),
    "waist": frozenset({_R.SIDE_BODY, _R.SPINE}),
    "thigh": frozenset({_R.FRONT_THIGH, _R.BACK_THIGH, _R.INNER_THIGH}),
    "hamstring": frozenset({_R.BACK_THIGH}),
    "glute|buttock": frozenset({_R.DEEP_HIP, _R.HIP_SIDE}),
    "breath|breathe": frozenset({_R.BREATH}),
}
_BY_STEM = {name: regions for words, regions in _AREAS.items() for name in words.split("|")}
_NAMED = Listener(
    (
        Phrase(
            "area",
            ("|".join(_BY_STEM),),
            ("Hips", "The neck and the calves"),
            ("Down on the mat",),
        ),
        #: A way to be, to move or to do it names no area: ``on the back``, ``with the breath``.
        Phrase(
            "way",
            (
                "on|onto|over|to ?the|your|our|one|a|both|all hand|back|foot|knee|side",
                "in ?the|your|our hand",
                "with ?the|your|our|every|each|one|a|both breath|hand|arm|foot",
                "by|from hand|foot",
                "back to|in|and|on|up|down|into",
                "come|go|lie|roll|sit|stand|get|turn|bring|step ?right back",
                "hand|foot by|in|over hand|foot",
                "at the back|foot of",
            ),
            ("On the back", "With the breath", "Back to work"),
            ("The mat",),
        ),
    ),
    CLASSES,
)


class Area(NamedTuple):
    """An area as written, and the regions that may be meant by it."""

    told: str
    regions: frozenset[Region]


@lru_cache(maxsize=8192)
def areas(text: str) -> tuple[Area, ...]:
    """The areas that a heading or an announcement names; ``Back to work`` and ``On the back`` name none."""
    heard = _NAMED.heard(text)
    ways = [match for phrase, match in heard if phrase.name == "way"]
    return tuple(
        dict.fromkeys(
            Area(match.told(text), _BY_STEM[match.sentence[match.first].stem])
            for phrase, match in heard
            if phrase.name == "area" and not any(_inside(match, way) for way in ways)
        )
    )


def _inside(match: Match, way: Match) -> bool:
    return way.sentence is match.sentence and way.first <= match.first and match.last <= way.last
