"""Announcements: which move words say comes next, in so many words instead of ``{next}``."""

from __future__ import annotations

from functools import lru_cache

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Phrase
from extendum.core.listening.words import BREAKS, stem

_NEXT = Listener(
    (
        Phrase(
            "what comes next",
            (
                "next ?up ,|:|–|be|come",
                "next we ?will do|go|move|come|reach|turn|work ?right ?on|over ?to|into|onto",
                "up next ,|:|–|be|come",
                "come|coming up ?next ,|:|–|be",
                "after this ,|:|come|be",
                "after this we ?will do|go|move|come ?right ?on|over ?to|into|onto",
                "^ ?and|now|so ?now on|over to the",
                "then it be",
                "then|now we ?will go|move|come|continue ?right|straight ?on|over to|into|onto|with",
                "continue|proceed with",
                "carry|go on with",
                "ready for ?a|the",
            ),
            ("Next, the twist.", "On to the thighs now.", "Then it's the hinge.", "And then we'll go right into it."),
            (
                "Next time, draw them larger.",
                "Now we'll come to the floor.",
                "Then it's your turn.",
                "On to your hands and knees.",
                "The chair next to you.",
            ),
            unless=(
                "some other|another day|time",
                "next time|week|month",
                "when you be ready",
                "your turn",
                "to|onto ?the|your floor|mat|chair|wall|ground|seat|foot",
            ),
        ),
    ),
    CLASSES,
)
#: The same move goes on: its other side, its next round.
_SAME = frozenset(map(stem, ("other", "same", "second", "again", "side", "one", "last", "{other}", "{side}")))


@lru_cache(maxsize=8192)
def next_named(text: str) -> tuple[str, ...]:
    """What a text says comes next, as written up to the end of its clause; ``{next}`` names the right one by itself."""
    found = []
    for _, match in _NEXT.heard(text):
        rest = match.sentence[match.last :]
        end = next((n for n, word in enumerate(rest) if word.stem in BREAKS), len(rest))
        said = rest[:end]
        if said and not said[0].text.startswith("{") and not _SAME & {word.stem for word in said}:
            found.append(text[said[0].start : said[-1].end])
    return tuple(dict.fromkeys(found))
