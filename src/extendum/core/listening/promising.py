"""Promises that a stretch class cannot keep, and words that tell people it is safe for them."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase, asked, conditional, hedged

PROMISES = (
    Phrase(
        "takes an ill away",
        (
            "@rids .. @ill",
            "@rids .. @inside",
            "keep|drive|chase|take .. @ill .. away",
            "@doer .. @eases .. @ill",
            "@doer .. @eases .. @inside",
        ),
        ("It alleviates muscle soreness.", "Stretching prevents injuries.", "This releases emotional tension."),
        ("Stop if your neck gets sore.", "Bend less if your knee is sore.", "Ease off at any pain."),
        unless=("in .. trial|study",),
    ),
    Phrase(
        "less of an ill",
        ("@eases .. risk|chance|danger .. @ill", "less|few|fewer .. @ill .. @later"),
        ("It reduces the risk of injury.", "Fewer injuries for good."),
        ("For less stretch, bend your knee.",),
    ),
    Phrase(
        "for those who want to avoid it",
        ("want|like|wish .. avoid|prevent|escape .. @ill",),
        ("If you want to avoid pulled muscles, this is the class.",),
        ("Do as you want, and avoid any strain.",),
    ),
    Phrase(
        "an ill that will not come",
        (
            "will .. not|never .. @ill",
            "not|never|no .. @becomes .. @ill .. @later",
            "@later .. not|no|never .. @ill",
            "no|not|never|without .. @ill .. @later",
            "never .. @becomes .. hurt|@ill",
            "so that .. not|never .. @becomes .. @ill",
            "@ill .. will .. @gone",
            "@ill .. be .. @gone",
            "free of|from .. @ill",
            "not @becomes .. @ill .. next",
            "@ill ? not|never|gone",
            "without a single @ill",
        ),
        ("You won't be sore tomorrow.", "Your back pain will be gone by Friday.", "You'll be free of low back pain."),
        ("You may feel a little sore tomorrow.", "It will not cure anything.", "There should be no pain."),
        denied=True,
        unless=("should .. no|not", "i|we make no promise"),
    ),
    Phrase(
        "protected against an ill",
        ("protect|immune|proof|safe|shield|armour .. against|from|to .. @ill", "protect .. against|from .. @ill"),
        ("You are protected against strains for your run.",),
        ("This will not make you immune to anything.",),
    ),
    Phrase(
        "makes the body better",
        (
            "boost|accelerate|realign|rejuvenate|detoxify|rebalance .. @frame",
            "speed up .. recovery|metabolism|healing",
            "@doer .. @betters .. @frame",
            "@doer .. @trains:s .. @system",
            "@betters .. posture|spine|back .. @later",
            "~ing .. @betters:s .. @frame",
            "~ing .. @eases:s .. @ill",
        ),
        ("It speeds up recovery.", "This realigns your neck.", "Opening the chest corrects your posture."),
        ("Lengthen your spine.", "Straighten your knee.", "Strengthen your back with us next week."),
    ),
    Phrase(
        "cleans the body",
        ("detox", "toxin", "chakra", "meridian", "energy channel|line|centre", "cellulite", "flush out .. @inside"),
        ("We are here to detox the body.",),
        ("There are no toxins to flush out.",),
    ),
    Phrase(
        "makes people slimmer or younger",
        (
            "burn|melt|lose|shed .. fat|calorie|weight|inch|kilo|pound",
            "keep|make .. young|slim|taller",
            "live longer",
            "add year",
            "turn back .. clock",
        ),
        ("This burns fat.", "It keeps your discs young."),
        ("Feel the weight of your arms.",),
    ),
    Phrase(
        "is certain",
        ("guarantee", "miracle", "prove to|it @betters .. @system", "be prove to .. boost|prevent|cure|stop|reduce"),
        ("You'll sleep better tonight, that is guaranteed.",),
        ("Nothing is guaranteed.",),
    ),
    Phrase(
        "cures",
        ("cure|heal .. everything|anything|it|you", "this|it|which cure|heal"),
        ("This cures it.",),
        ("It will not cure anything.",),
    ),
)
_PROMISES = Listener(PROMISES, CLASSES)

SAFE = (
    Phrase(
        "says that it is safe",
        (
            "safe for|with|even",
            "perfectly|completely|totally|absolutely|entirely|always safe",
            "risk free",
            "harmless",
            "this|it|everything be safe",
        ),
        ("This is safe for everyone.", "It's perfectly safe even with a bad back."),
        ("Put the chair where it stands safely.", "Whether it is safe for you is for your doctor to say."),
        unless=("whether", "not .. safe", "ask .. safe", "if .. safe"),
    ),
    Phrase(
        "says that nothing can happen",
        (
            "nothing|nobody .. can|could|will .. harm|hurt|damage|wrong|injure",
            "nothing .. do .. harm",
            "can|could not .. harm|hurt|damage .. you|anybody|everybody",
            "no problem ?at ?all",
            "no risk|danger",
            "can not go wrong",
        ),
        ("Nothing here can do you any harm.", "With a herniated disc this is no problem at all."),
        ("Nothing should hurt.",),
        denied=True,
        unless=("should", "if .. no problem", "no problem if"),
    ),
    Phrase(
        "says that nobody need ask",
        (
            "no need to|for .. @asks",
            "not need|have to .. @asks .. @doctor",
            "not need to .. @asks",
            "no reason to .. @asks .. @doctor",
            "without .. ask .. @doctor",
        ),
        ("You don't need to ask your doctor.", "There's no need to check with anyone."),
        ("You don't need to hold on.",),
        denied=True,
    ),
)
_SAFE = Listener(SAFE, CLASSES)
#: These promise too much even as a possibility.
_STRONG = frozenset({"cleans the body", "is certain", "for those who want to avoid it"})


def claims(words: str) -> tuple[str, ...]:
    """Promises about soreness, injury, healing, posture, weight or energy, each as written; hedged ones are none."""
    found = (
        match.told(words)
        for phrase, match in _PROMISES.heard(words)
        if phrase.name in _STRONG or not (hedged(match) or conditional(match) or _only_asked(phrase, match))
    )
    return tuple(dict.fromkeys(found))


def _only_asked(phrase: Phrase, match: object) -> bool:
    return asked(match) and phrase.name != "an ill that will not come"  # type: ignore[arg-type]


def says_safe(words: str) -> tuple[str, ...]:
    """Where people are told that something is safe for them, or that they need not ask."""
    return _SAFE(words)
