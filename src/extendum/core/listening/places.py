"""Places of the body that words name: which regions each may mean, and on which side it is said to be."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Match, Phrase, conditional
from extendum.core.listening.words import BREAKS
from extendum.core.model.body import Region

_R = Region
_ITS = "?the|your|each|both|this|{side}|{other} ?same|front|back|{side}|{other}"
#: Each place by its patterns, the regions that it may mean, and words that name it and that do not.
_PLACES: tuple[tuple[str, tuple[str, ...], frozenset[Region], tuple[str, ...], tuple[str, ...]], ...] = (
    (
        "back of the thigh",
        (
            f"behind {_ITS} thigh|leg",
            f"back of {_ITS} thigh|leg",
            "hamstring",
            f"behind {_ITS} knee",
            f"back of {_ITS} knee",
        ),
        frozenset({_R.BACK_THIGH, _R.CALF}),
        ("Behind the {side} thigh", "The backs of your legs", "In the hamstrings"),
        ("Your back and legs",),
    ),
    (
        "front of the thigh",
        (f"front of {_ITS} thigh|leg", "front thigh", "quad|quads|quadriceps"),
        frozenset({_R.FRONT_THIGH, _R.HIP_FRONT}),
        ("The front of your {side} thigh",),
        ("The front leg",),
    ),
    (
        "inner thigh",
        (f"inside ?of {_ITS} thigh|leg", f"inner ?side ?of {_ITS} thigh", "groin", "adductor"),
        frozenset({_R.INNER_THIGH}),
        ("Along the inner thighs", "In the groin"),
        ("Inside the shoe",),
    ),
    (
        "front of the hip",
        (f"front|fold|crease of {_ITS} hip|groin", "hip flexor|crease"),
        frozenset({_R.HIP_FRONT, _R.FRONT_THIGH}),
        ("In the fold of the {side} hip",),
        ("Your hips",),
    ),
    (
        "side of the hip",
        (f"side|outside of {_ITS} hip|thigh", f"outer ?side ?of {_ITS} hip|thigh", "outside hip|thigh"),
        frozenset({_R.HIP_SIDE, _R.DEEP_HIP}),
        ("On the outside of your {side} hip",),
        ("The hips, side by side",),
    ),
    (
        "seat",
        (f"deep in {_ITS} hip|seat", "buttock|glute|bottom", f"in {_ITS} seat", "piriformis"),
        frozenset({_R.DEEP_HIP, _R.HIP_SIDE}),
        ("Deep in your {side} seat", "In the buttocks"),
        ("Sit on the seat",),
    ),
    (
        "calf",
        ("calf", f"back of {_ITS} shin"),
        frozenset({_R.CALF, _R.ANKLE}),
        ("Your {side} calf", "In both calves"),
        (),
    ),
    ("ankle", ("ankle",), frozenset({_R.ANKLE, _R.CALF, _R.FOOT}), ("Around the ankles",), ()),
    ("shin", ("shin",), frozenset({_R.ANKLE, _R.FOOT}), ("Along the shins",), ("Feel it shine",)),
    (
        "sole",
        (f"sole|arch|arches|instep of {_ITS} foot", "sole"),
        frozenset({_R.FOOT}),
        ("The sole of your {side} foot",),
        ("Arch your back",),
    ),
    (
        "lower back",
        ("low|lower back", f"small of {_ITS} back"),
        frozenset({_R.LOWER_BACK, _R.SPINE, _R.BREATH, _R.WHOLE_BODY}),
        ("In your lower back",),
        ("Lower, and back again",),
    ),
    (
        "upper back",
        (f"between {_ITS} ?shoulder blade", "shoulder blade", "upper back"),
        frozenset({_R.UPPER_BACK, _R.SHOULDERS, _R.CHEST, _R.SPINE}),
        ("Between your shoulder blades",),
        ("Drop your shoulders",),
    ),
    (
        "chest",
        ("chest", "breastbone", "pecs|pectorals"),
        frozenset({_R.CHEST, _R.SHOULDERS, _R.BREATH, _R.UPPER_ARM, _R.UPPER_BACK}),
        ("Across the chest",),
        (),
    ),
    ("neck", ("neck",), frozenset({_R.NECK, _R.SHOULDERS, _R.UPPER_BACK, _R.JAW}), ("The side of your neck",), ()),
    (
        "upper shoulders",
        ("trap|traps|trapezius", "delt|delts|deltoid|deltoids|rhomboid|rhomboids|lat|lats"),
        frozenset({_R.SHOULDERS, _R.NECK, _R.UPPER_BACK, _R.SIDE_BODY, _R.UPPER_ARM}),
        ("In your traps",),
        ("Late in the hold",),
    ),
    (
        "belly",
        ("core|abs|abdominals|abdominal", f"in|across {_ITS} belly|stomach|tummy"),
        frozenset({_R.ABDOMINALS, _R.BREATH, _R.SPINE}),
        ("In your core", "Across the belly"),
        ("Belly to the mat",),
    ),
    (
        "obliques",
        ("oblique|obliques",),
        frozenset({_R.SIDE_BODY, _R.ABDOMINALS, _R.SPINE}),
        ("In the obliques",),
        (),
    ),
    ("heel cord", ("achilles",), frozenset({_R.CALF, _R.ANKLE, _R.FOOT}), ("In your Achilles",), ()),
    ("jaw", ("jaw",), frozenset({_R.JAW}), ("Around the jaw",), ()),
    (
        "side of the body",
        (
            "flank|waist",
            f"side of {_ITS} body|trunk|rib|waist",
            "side|outer|{side}|{other}|low|lower rib",
            f"in|along|across|between|into|through {_ITS} ?low|lower rib",
        ),
        frozenset({_R.SIDE_BODY, _R.BREATH, _R.SPINE, _R.CHEST}),
        ("Your {side} flank", "Along the side of your body", "The side ribs"),
        ("The side of the chair",),
    ),
    (
        "forearm",
        ("forearm", "lower arm"),
        frozenset({_R.FOREARM, _R.WRIST, _R.HAND}),
        ("The inside of your lower arm",),
        ("Lower your arm",),
    ),
    ("wrist", ("wrist",), frozenset({_R.WRIST, _R.FOREARM, _R.HAND}), ("In the wrists",), ()),
    (
        "upper arm",
        ("upper ?{side}|{other} arm", f"back of {_ITS} arm", "triceps|biceps"),
        frozenset({_R.UPPER_ARM, _R.SHOULDERS, _R.CHEST}),
        ("Along the back of your {side} arm",),
        ("Arms up",),
    ),
    (
        "shoulders",
        (f"in|across|over|through|along {_ITS} ?whole ?tops_of ?the ?your shoulder",),
        frozenset({_R.SHOULDERS, _R.UPPER_BACK, _R.CHEST, _R.UPPER_ARM, _R.NECK}),
        ("Across your shoulders",),
        ("Drop your shoulders",),
    ),
    (
        "hips",
        (f"in|around|across|through {_ITS} hip",),
        frozenset({_R.HIP_FRONT, _R.HIP_SIDE, _R.DEEP_HIP, _R.INNER_THIGH, _R.FRONT_THIGH, _R.LOWER_BACK}),
        ("In the hips",),
        ("Hips back",),
    ),
    (
        "thighs",
        (f"in|along|through {_ITS} thigh",),
        frozenset({_R.FRONT_THIGH, _R.BACK_THIGH, _R.INNER_THIGH, _R.HIP_FRONT, _R.HIP_SIDE}),
        ("In your thighs",),
        ("Hands on your thighs",),
    ),
    ("knee", (f"in|inside {_ITS} knee|kneecap",), frozenset[Region](), ("In your {side} knee",), ("Knees bent",)),
)
LISTENERS: Mapping[str, Listener] = {
    name: Listener((Phrase(name, patterns, examples, misses),), CLASSES)
    for name, patterns, _, examples, misses in _PLACES
}
_FEELING = Listener(
    (
        Phrase(
            "to feel",
            ("feel|sense|notice", "get|have this|it|a|the ... in|along|across|through", "stretch .. in|along|across"),
            ("Lean until you sense it there.", "You should get this in the arm."),
            ("Get up.",),
            unless=("feel free|good|right|wrong|well|ready|sick|dizzy",),
        ),
    ),
    CLASSES,
)
#: What may stand between a side and its place, and between a place and its side.
_BETWEEN = "side of your the my outer inner whole lower upper back front in neck edge"
_LINKS = frozenset(_BETWEEN.split())


@dataclass(frozen=True, slots=True)
class Place:
    """A place as written, the regions that it may mean, and ``side`` or ``other`` where it is said which."""

    told: str
    regions: frozenset[Region]
    side: str = ""


@lru_cache(maxsize=8192)
def places(text: str) -> tuple[Place, ...]:
    """The places of the body that a text sends to; what is denied, or only said for a case, sends nobody there."""
    found = [
        (match, regions)
        for name, _, regions, _, _ in _PLACES
        for _, match in LISTENERS[name].heard(text)
        if not conditional(match)
    ]
    return tuple(
        Place(match.told(text), regions, _side(match)) for match, regions in found if not _within_another(match, found)
    )


_TOUCH = "strap|floor|mat|chair|wall|ground|weight|air|support|cushion|towel|belt|block|stick|band"
touches = Listener(
    (
        Phrase(
            "to touch",
            (f"feel|sense|notice ?how ?the|your|a {_TOUCH}", f"{_TOUCH} on|under|against|behind ?the|your|both"),
            ("Feel the strap on your sole.",),
            ("Feel it in your sole.",),
        ),
    ),
    CLASSES,
)


@lru_cache(maxsize=8192)
def places_felt(text: str) -> tuple[Place, ...]:
    """The places in the sentences that say where something is felt."""
    felt = {match.sentence for _, match in _FEELING.heard(text)}
    if not felt:
        return ()
    return tuple(place for sentence in felt for place in places(text[sentence[0].start : sentence[-1].end]))


def _within_another(one: Match, found: list[tuple[Match, frozenset[Region]]]) -> bool:
    return any(
        other.sentence is one.sentence
        and other.first <= one.first
        and one.last <= other.last
        and other.last - other.first > one.last - one.first
        for other, _ in found
    )


def _side(match: Match) -> str:
    """The side that a placeholder gives a place: in it, or before it with nothing between that ends the thought."""
    for at in range(match.last - 1, max(-1, match.first - 5), -1):
        word = match.sentence[at]
        if word.text in ("{side}", "{other}"):
            return word.text[1:-1]
        if at < match.first and (word.stem in BREAKS or word.text not in _LINKS):
            break
    after = match.sentence[match.last : match.last + 4]
    if after and after[0].text in ("of", "on", "in"):
        return next((word.text[1:-1] for word in after if word.text in ("{side}", "{other}")), "")
    return ""
