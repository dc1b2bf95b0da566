"""Who a sentence is for: the conditions that it names, or describes as people speak of them."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from itertools import pairwise

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase
from extendum.core.listening.words import BREAKS, sentences_of
from extendum.core.model.audience import Condition

_ABOUT_CONDITIONS: dict[str, tuple[str, ...]] = {
    # What a part does or is that gives trouble.
    "troubled": (
        "sore", "hurt", "ache", "achy", "painful", "pain", "complain", "bother", "trouble", "troublesome", "bad",
        "tender", "injured", "injury", "grumble", "protest", "cranky", "dodgy", "arthritis", "arthritic", "sensitive",
        "weak", "problem", "issue", "act up", "play up", "plays up", "unhappy", "twinge", "nag", "pinch", "inflamed",
        "irritated", "swollen", "stiff", "operation", "operated", "surgery", "condition", "not happy", "not like",
        "catch", "worry", "uncomfortable", "delicate", "recovering", "give you grief", "flare", "flare up", "niggle",
        "niggly", "gripe", "object", "moan", "speak up", "rebel", "not agree", "resent",
    ),
    "renewed": (
        "new", "replaced", "replacement", "artificial", "operated", "operation", "prosthesis", "prosthetic", "titanium",
        "metal", "surgery", "redone", "swapped",
    ),
    "giddy": (
        "dizzy", "dizziness", "giddy", "light-headed", "light headed", "light in the head", "light in your head",
        "faint", "woozy", "swim", "spin", "spinning", "vertigo", "see stars", "seeing stars", "the room turns",
        "head turns", "off balance",
    ),
    "frail": ("fragile", "brittle", "thin", "weak", "soft", "porous", "thinning", "break easily", "density", "loss"),
    "lumbar": ("lower back", "low back", "lumbar", "back", "spine", "disc", "small of the back", "small of your back"),
    "high-up": ("above", "higher than", "over", "level with", "no lower than", "not below", "not under"),
}  # fmt: skip
_ALL = {**CLASSES, **_ABOUT_CONDITIONS}


def _of(part: str, *more: str, renewed: bool = False) -> tuple[str, ...]:
    """Patterns of a part of the body that gives trouble, said before or after it."""
    told = (f"{part} .. @troubled", f"@troubled .. {part}")
    new = (f"{part} ?that|which ?be|have ?be|have @renewed", f"@renewed ?joint ?in ?the|your {part}")
    return (
        *told,
        *(new if renewed else ()),
        *more,
    )


_SAID: tuple[tuple[Condition, tuple[str, ...], tuple[str, ...], tuple[str, ...]], ...] = (
    (
        Condition.BALANCE,
        (
            "balance .. @troubled|poor|lose|loss|lost|shaky|not",
            "@troubled|poor|lose|lost .. balance",
            "wobbly|wobble|unsteady|unstable|shaky|sway|topple|fall|steady",
            "not .. steady|stable|sure on|of|, ?your foot|leg|?",
            "sure|steady footed",
        ),
        ("If your balance is poor, hold on.", "A bit wobbly? Fingertips on the wall."),
        ("Find your balance between heel and toe.",),
    ),
    (
        Condition.BLOOD_PRESSURE,
        (
            "blood pressure",
            "hypertension|hypertensive",
            "pressure .. head|high|tablet|pill|medication",
            "head .. @high-up .. hip|heart|chest",
        ),
        ("Anyone treated for hypertension stays up.", "If the pressure in your head bothers you, stop halfway."),
        ("Press the head into your hands.",),
    ),
    (
        Condition.BLOOD_THINNERS,
        (
            "blood thinner|thinning|thin",
            "thin|thins .. blood",
            "anticoagulant|anticoagulants",
            "bruise .. easily|quickly|fast",
            "@frail .. bone",
            "bone .. @frail",
            "osteoporosis",
        ),
        ("If you take something to thin the blood, leave it out.", "You bruise easily? Go softly."),
        ("Let the blood flow.",),
    ),
    (
        Condition.BREATH,
        (
            "short|out of breath",
            "breathless|puffed|asthma|copd|asthmatic",
            "@troubled .. breathe|lung",
            "heart .. @troubled|disease|failure|patient|problem",
            "@troubled|weak .. heart",
            "breathe as usual",
            "@giddy",
        ),
        ("With a weak heart, go slower.", "Breathless? Make it small."),
        ("Let the heart float up.",),
    ),
    (
        Condition.DIZZINESS,
        ("@giddy",),
        ("If you come over light in the head, sit back down.", "Feeling giddy? Sit."),
        ("Look straight ahead.",),
    ),
    (
        Condition.GLAUCOMA,
        ("glaucoma", "pressure .. eye", "eye pressure", "eye .. @troubled", "head .. @high-up .. hip|heart|chest"),
        ("With pressure in the eyes, head above the hips.",),
        ("Close your eyes.",),
    ),
    (
        Condition.HIP_REPLACEMENT,
        (
            "@renewed ?joint ?in ?the|your hip",
            "hip ?that|which ?be|have ?be|have @renewed",
            "have .. hip .. do",
            "hip .. replaced|prosthesis|operated",
        ),
        ("Had a hip replaced? Keep it low.", "With an artificial joint in the hip, stay higher."),
        ("Let the hip sink.",),
    ),
    (
        Condition.HYPERMOBILITY,
        (
            "flexible|bendy|stretchy|supple",
            "hypermobile|hypermobility",
            "double-jointed",
            "double jointed",
            "loose joint",
        ),
        ("If you are very bendy, stop earlier.",),
        ("Bend your knees.",),
    ),
    (
        Condition.JAW,
        _of("jaw", "jaw .. click|lock|grind|crack"),
        ("If your jaw clicks, open less.",),
        ("Drop the jaw.",),
    ),
    (
        Condition.DISLOCATION,
        ("dislocate|dislocation", "shoulder .. pop|popped|slip|slipped|come|came out", "unstable|loose .. shoulder"),
        ("If your shoulder has ever popped out, keep the arm low.",),
        ("Roll the shoulders out.",),
    ),
    (
        Condition.KNEES,
        _of("knee|kneecap", renewed=True),
        ("If your knees grumble, fold the mat.", "With a new knee, sit on a chair."),
        ("Bend your knees.", "Hold the knee for a new breath, without pain."),
    ),
    (
        Condition.LOW_BACK,
        _of("@lumbar", "sciatica|lumbago"),
        ("If your lumbar spine complains, use a cushion.", "With a bad back, stay higher."),
        ("Lower the low back first, then the hips.", "No pain in the back."),
    ),
    (
        Condition.NECK,
        _of("neck", "whiplash", "@giddy", "never with .. head back"),
        ("If the room begins to spin, look ahead.", "With neck trouble, turn only your eyes."),
        ("The neck is long.",),
    ),
    (
        Condition.NERVES,
        ("tingle|tingly|tingles|tingling|numb|numbness", "pins and needles", "nerve|sciatica", "electric"),
        ("Any pins and needles, let the foot relax.",),
        ("Never sharp pain, numbness or tingling.",),
    ),
    (
        Condition.OSTEOPOROSIS,
        ("osteoporosis|osteoporotic|osteopenia", "@frail .. bone", "bone .. @frail"),
        ("Told you have brittle bones? Keep it small.", "Low bone density means small turns."),
        ("Roll up bone by bone.", "Lift the breastbone.", "Sit on your sit bones."),
    ),
    (
        Condition.PREGNANCY,
        (
            "pregnant|pregnancy",
            "expect .. baby|child",
            "trimester|bump",
            "mum|mother to be",
            "carry .. baby",
            "baby .. way",
        ),
        ("Those expecting a baby do this one seated.",),
        ("You can expect a stretch.",),
    ),
    (
        Condition.SHOULDERS,
        _of("shoulder", "frozen shoulder", "rotator cuff", renewed=True),
        ("If one shoulder is grumbling, keep that arm low.",),
        ("Shoulders down and back.",),
    ),
    (
        Condition.WRISTS,
        _of("wrist", "carpal tunnel"),
        ("With sore wrists, make fists.",),
        ("Circle your wrists.",),
    ),
)
#: "Never sharp pain, numbness or tingling" speaks to everybody, not to those with nerve pain; a knee that falls open
#: and whoever falls asleep do not lose their balance.
_NOT_OF = {
    Condition.NERVES: ("sharp",),
    Condition.BALANCE: ("let .. fall", "fall open|asleep|apart|away|down|forward|back|to|into|like"),
}
LISTENERS: Mapping[str, Listener] = {
    condition: Listener((Phrase(str(condition), patterns, examples, misses, unless=_NOT_OF.get(condition, ())),), _ALL)
    for condition, patterns, examples, misses in _SAID
}
#: What an advice may say in other words without becoming another.
_ALIKE = {"higher": "abov", "bigger": "larg", "sofa": "chair", "tiny": "small", "littl": "small", "half": "halfway"}
_LITTLE = "a an the your you it its this that in on of to and with for at is are be as or if so do not let keep stay"
_SMALL = frozenset(_LITTLE.split())
#: This share of an advice is as good as all of it, where it has so many words that count; a shorter one is literal.
_ENOUGH, _LONG = 0.75, 3


@lru_cache(maxsize=8192)
def names_condition(condition: str, words: str) -> bool:
    """Whether words name a condition, or describe what somebody feels who has it; a denial of it is not."""
    listener = LISTENERS.get(condition)
    if listener is not None:
        return bool(listener.heard(words))
    stems = _content(condition)
    return bool(stems) and any(stems <= said for said in _contents(words))


def names_some_condition(words: str) -> bool:
    """Whether words name any of the conditions that moves have cautions for."""
    return any(listener.heard(words) for listener in LISTENERS.values())


@lru_cache(maxsize=8192)
def gives_advice(advice: str, words: str) -> bool:
    """Whether one sentence, or two in a row, of what is said hold most of what an advice says, in whatever order."""
    asked = _content(advice)
    if len(asked) < _LONG:
        return bool(advice) and advice.rstrip(".").casefold() in words.casefold()
    said = _contents(words)
    pairs = [one | other for one, other in pairwise(said)]
    return any(len(asked & one) >= _ENOUGH * len(asked) for one in (*said, *pairs))


def _content(text: str) -> frozenset[str]:
    return frozenset(stem for one in _contents(text) for stem in one)


@lru_cache(maxsize=8192)
def _contents(text: str) -> tuple[frozenset[str], ...]:
    return tuple(
        frozenset(_ALIKE.get(w.stem, w.stem) for w in sentence if w.text not in _SMALL and w.stem not in BREAKS)
        for sentence in sentences_of(text)
    )
