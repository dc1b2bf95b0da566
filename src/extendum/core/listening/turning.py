"""Changes: whether words say that the other side comes, or the other direction."""

from __future__ import annotations

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase

_SIDES = "side|leg|arm|foot|hand|knee|hip|shoulder|calf|thigh|half|heel|ankle|wrist|elbow|ear|one|pair|body|way|{side}"
OTHER_SIDE = Listener(
    (
        Phrase(
            "the other side",
            (
                f"other|second|opposite|remaining|free|unused ?whole|new {_SIDES}",
                "the other|opposite $",
                f"change|switch|swap|trade ?over ?your|the|to ?other {_SIDES}|over|round|please|and|now",
                "^ ?and|now ?we ?and change|switch|swap|changeover",
                "change|switch|swap $",
                f"{_SIDES} .. wait|rest|miss",
                "not ?have ?its turn",
                "its|your|his twin|partner|sister|brother|neighbour|counterpart|opposite",
                f"same|again|repeat .. other|opposite|second ?{_SIDES}",
                "mirror|left and right change",
                "same on the|your {side}",
            ),
            (
                "And the other side.",
                "Swap legs.",
                "Change over.",
                "And the leg that has been waiting.",
                "Now its twin.",
                "And change.",
            ),
            ("Hold it for a second.", "Same thing again.", "Once more, from the top.", "Change nothing."),
            unless=("change nothing",),
        ),
    ),
    CLASSES,
)
OTHER_WAY = Listener(
    (
        Phrase(
            "the other way",
            (
                "other|second|opposite|reverse|new ?way|direction|time|round|around|$",
                "change|switch|swap|turn|reverse ?the ?it|them|this ?way|direction|round|around|over|back|circle|$",
                "reverse",
                "^ ?and|now back|backwards|forwards|round|around|anticlockwise|clockwise ?now|again|the|$",
                "go|come|circle|roll|draw|turn|send|make|take ?it|them ?right back|backwards|round|around|about",
                "the way you|it|they came|come",
                "undo|unwind|rewind ?it|them|the",
                "in reverse",
            ),
            (
                "And reverse.",
                "Now the other way.",
                "Change direction.",
                "And back the way you came.",
                "Turn them round.",
            ),
            ("Keep them going, nice and round.", "Make them bigger.", "Lift your other arm."),
            unless=("nice and round", "other arm|leg|hand|foot|knee"),
        ),
    ),
    CLASSES,
)


def says_other_side(words: str) -> bool:
    """Whether people hear that the other side comes."""
    return bool(OTHER_SIDE.heard(words))


def says_other_way(words: str) -> bool:
    """Whether people hear that it goes the other way round."""
    return bool(OTHER_WAY.heard(words))
