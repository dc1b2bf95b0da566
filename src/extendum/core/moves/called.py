"""What people call areas and positions, and the words of a text as they are compared."""

from __future__ import annotations

import re

from extendum.core.model.body import Posture, Region

#: What people also call it.
ALSO = {
    Region.BACK_THIGH: "hamstring hamstrings",
    Region.FRONT_THIGH: "quads quadriceps thighs",
    Region.DEEP_HIP: "glutes seat buttock hips",
    Region.HIP_SIDE: "outer hip hips",
    Region.HIP_FRONT: "hip flexor flexors hips",
    Region.INNER_THIGH: "groin adductors thighs",
    Region.SPINE: "back",
    Region.SIDE_BODY: "waist ribs",
    Region.ABDOMINALS: "belly core stomach trunk",
    Region.UPPER_ARM: "arms triceps biceps",
    Region.FOREARM: "arms",
    Region.HAND: "fingers thumb",
    Region.FOOT: "feet toes",
    Region.SHOULDERS: "shoulder",
    Region.CALF: "calves",
    Region.WRIST: "wrists",
}
_SEATED, _LYING = "seated sitting chair", "lying"
POSTURE_ALSO = {
    Posture.CHAIR: _SEATED,
    Posture.CHAIR_EDGE: _SEATED,
    Posture.SUPINE: f"{_LYING} back",
    Posture.PRONE: f"{_LYING} front",
    Posture.SIDE_LYING: _LYING,
    Posture.ALL_FOURS: "hands and knees kneeling",
    Posture.HEELS: "kneeling",
    Posture.HALF_KNEELING: "kneeling",
}
#: Words that say nothing about a move.
_IDLE = frozenset(("a", "an", "and", "at", "for", "in", "of", "on", "the", "to", "with", "your"))
_NUMBERS = dict(
    zip("0123456789", ["zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"], strict=True)
)


def words_in(text: str) -> list[str]:
    """The words of a text as they are compared: small, in the singular, numbers spelled out, idle words left out.

    What is left of a text of idle words only is those words, so that "on" still finds something.
    """
    plain = re.sub(r"[\u2019']", "", text.casefold())
    found = [_NUMBERS.get(word, word) for word in re.findall(r"\w+", plain)]
    told = [_singular(word) for word in found if word not in _IDLE]
    return told or [_singular(word) for word in found]


def _singular(word: str) -> str:
    """A word without the ending of its plural."""
    if len(word) < 4 or word.endswith(("ss", "us", "is")):
        return word
    if word.endswith("ves"):
        return f"{word[:-3]}f" if word not in ("moves", "waves") else word[:-1]
    return word.removesuffix("s")
