"""Announcements: which move words say comes next, instead of ``{next}``, and what they promise for later."""

from __future__ import annotations

from enum import StrEnum
from functools import lru_cache
from itertools import pairwise
from typing import NamedTuple

from extendum.core.listening.areas import areas
from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import DENIALS, Listener, Phrase, conditional
from extendum.core.listening.words import BREAKS, Sentence, sentences_of, stem


def _stems(words: str) -> frozenset[str]:
    return frozenset(map(stem, words.split()))


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
                "we|i ?will ?now|then|all go|move|carry|come|continue ?right ?straight on|over|along|across to|with",
                "we ?will ?now|then ?all go|move|come|turn to|into|onto|for",
                "let us go|move|carry|come|continue ?right ?straight on|over|along ?to|with",
                "^ ?and now for",
                "now ?it be time|turn for ?of",
                "follow by",
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
#: A name is no longer than this.
_NAME_WORDS = 4
#: The same move goes on: its other side, its next round.
_SAME = frozenset(map(stem, ("other", "same", "second", "again", "side", "one", "last", "{other}", "{side}")))


#: Words that say that something comes, wherever they stand in the sentence; in words that end a move a few more do.
_COMES = frozenset({"next", "coming", "follows"})
_COMES_AT_END = _COMES | frozenset({"now", "then", "onwards", "ready", "continue"})
#: What may stand beside them and the name: nothing that the class would do.
_FILLS = (
    _stems("and so a an the your our my we i you it this that one these us be is are will go going move come walk head")
    | _stems("get take bring lead start begin continue carry do with to into onto for of in on over up right straight")
    | _stems("wall mat chair floor all again more some time ready let shall back quick quickly nice lovely good well")
    | _stems("okay ok exercise stretch move part bit round turn right about comes stay still here there")
)
#: Before these stands a name, after others an instruction: ``now the bridge``, and not ``now rest``.
_NAMES = _stems("the your our a some we next coming follows on")


@lru_cache(maxsize=8192)
def next_named(text: str, *, ending: bool = False) -> tuple[str, ...]:
    """What a text says comes next, as written in its clause; ``{next}`` names the right one by itself.

    ``ending`` where the text ends a move: there ``and now the bridge`` is an announcement too.
    """
    found = [said for _, match in _NEXT.heard(text) if (said := _up_to_break(match.sentence[match.last :]))]
    found += [said for sentence in sentences_of(text) if (said := _only_named(sentence, ending=ending))]
    named = [said for said in found if not said[0].text.startswith("{") and not _SAME & {word.stem for word in said}]
    return tuple(dict.fromkeys(text[said[0].start : said[-1].end] for said in named))


def _up_to_break(words: Sentence) -> Sentence:
    return words[: next((n for n, word in enumerate(words) if word.stem in BREAKS), len(words))]


def _only_named(sentence: Sentence, *, ending: bool) -> Sentence:
    """What a sentence names that says nothing else than that it comes: ``we go over to the wall for the calf lean``."""
    comes = _COMES_AT_END if ending else _COMES
    words = [word for word in sentence if word.stem not in BREAKS]
    after = any(a.text == "after" and b.text in ("this", "that") for a, b in pairwise(words))
    if not (after or any(word.text in comes for word in words)) or any(word.stem in DENIALS for word in words):
        return ()
    rest = [word for word in words if word.text not in comes and word.text != "after" and word.stem not in _FILLS]
    if not rest or len(rest) > _NAME_WORDS:
        return ()
    at, last = sentence.index(rest[0]), sentence.index(rest[-1])
    before = {word.stem for word in sentence[:at]}
    named = after or before & _NAMES or {word.text for word in sentence[last + 1 :]} & _COMES
    return sentence[at : last + 1] if named else ()


class Promised(NamedTuple):
    """What words say comes later: the kind of thing, its stem, and the words as written."""

    kind: Thing
    stem: str
    told: str


class Thing(StrEnum):
    """What can be promised for later."""

    AREA = "area"
    PROP = "prop"
    MOVE = "move"
    AGAIN = "again"
    BREAK = "break"


_OTHER_DAY = (
    "some other|another day|time|class|week",
    "next time|week|month|class|@day",
    "tomorrow|home|if|unless|maybe|perhaps|once upon",
    "last time|week|class",
    "end of the|each|every|this breath|breathe|movement|move|hold|stretch|range|rep|mat|strap|chair|bench",
)
_LATER = (
    Phrase(
        "later",
        (
            "today|later|afterwards|finally|tonight ?, .. we|i|you ?will ?all ?also ?then @works",
            "today|this|class|session|morning|evening be ?all for|about|on",
            "in a bit|minute|moment|while ?, we|i|you ?will ?all ?also @works",
            "at|towards the ?very end ?, .. we|i|you|it|there ?will ?all ?also ?then @works",
            "we|i|you will ?all ?also|then|even|first ?later @works",
            "we|i|you @works ... today|later|afterwards|tonight",
            "we|i|you @works ... at|towards|in|before the ?very end",
            "we|i ?will finish|end|close|start|begin with|on|by",
            "there will|be ?go ?to be",
            "there be ?also ... later|afterwards|today",
            "later|afterwards|finally , ?there ?will ?be",
            "you|we will get|have|need",
            "halfway|between ?through ?it ?the ?move|round ?, ?there ?you|we|i ?will|can ?be @works",
            "in the middle ?of ?it ?, ?there ?you|we|i ?will|can ?be @works",
            "after ?each ?every ?two ?three ?few move|stretch|round|minute .. @works",
            "we|i be go to @works",
        ),
        (
            "Today we look after hips and calves.",
            "Later I show you a version with a ball.",
            "We'll finish on the floor.",
        ),
        ("Some other day we will do the neck.", "At the end of the breath, lift your chest."),
        unless=_OTHER_DAY,
    ),
)
_AGAIN = (
    Phrase(
        "again",
        (
            "come|coming|go|get back to this|it|these ?one|move|stretch|exercise ?again later|at|towards|before|in|$",
            "return to this|it|these ?one|move|stretch|exercise ?again later|at|towards|before|in|$",
            "do|repeat|meet|see this|it|these ?one|move|stretch|exercise ?again later|at|towards|before|afterwards",
        ),
        ("We come back to this one at the end of the class.", "We'll meet it again later."),
        ("Come back to the middle.", "We do it again on the other side.", "Go back to it slowly."),
        unless=(*_OTHER_DAY, "other|second side|leg|arm", "slow|slowly"),
    ),
)
_THINGS = (
    Phrase("prop", ("@things",), ("A ball.",), ("A wallet.",), unless=("no|without ?a|the @things",)),
    Phrase("move", ("@moves",), ("The bridge.",), ("The bride.",)),
    Phrase("break", ("@break",), ("Time for a drink.",), ("Take the brake off.",)),
)
_hears_later, _hears_again = Listener(_LATER, CLASSES), Listener(_AGAIN, CLASSES)
_hears_things = Listener(_THINGS, CLASSES)
PROMISES = (*_LATER, *_AGAIN, *_THINGS)


@lru_cache(maxsize=8192)
def promised(text: str) -> tuple[Promised, ...]:
    """What a text promises for later in the class: areas, props, moves, a break, the same move again."""
    found = [
        Promised(Thing.AGAIN, "", match.told(text)) for _, match in _hears_again.heard(text) if not conditional(match)
    ]
    for _, match in _hears_later.heard(text):
        rest = match.sentence[match.first :]
        said = text[rest[0].start : rest[-1].end]
        found += [
            Promised(Thing(phrase.name), one.sentence[one.first].stem, one.told(said))
            for phrase, one in _hears_things.heard(said)
        ]
        found += [Promised(Thing.AREA, one.told, one.told) for one in areas(said)]
    return tuple(dict.fromkeys(found))
