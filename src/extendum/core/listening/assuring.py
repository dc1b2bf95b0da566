"""Words that tell people something is safe for them, or that they need not ask."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

SAFE = (
    Phrase(
        "says that it is safe",
        (
            "safe for|with|even",
            "suitable|fine|good|okay|ok|right|possible for everybody|all|anybody|every|any",
            "suit everybody|anybody|all|every",
            "everybody can|may do|join|take",
            "whatever your condition|age|shape|body|injury|history|problem",
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
            "no side effect",
            "without ?any ?a ?second worry|risk|danger|fear|thought|hesitation|concern",
            "even with ?a|an|your ?bad ?sore @ill",
            "nothing .. happen|wrong|break",
            "can|could not .. injure|overdo|break|strain|wrong",
            "can|could|will not .. do|cause .. harm|damage",
            "impossible to .. hurt|injure|overdo|wrong",
            "zero risk",
            "nobody|no_one .. ever .. hurt|injured|injure",
            "doctor approve|approved|recommended",
            "approved by",
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


def says_safe(words: str) -> tuple[str, ...]:
    """Where words call something safe for people, or say that they need not ask."""
    return _SAFE(words)
