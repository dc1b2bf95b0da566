"""Reminders: which of them say the same, however they are worded."""

from __future__ import annotations

from functools import lru_cache

from extendum.core.listening.classes import CLASSES
from extendum.core.listening.phrases import Listener, Match, Phrase
from extendum.core.listening.words import BREAKS, Sentence, Word, sentences_of, stem

REMINDERS = (
    Phrase(
        "breathe on",
        (
            "keep|remember|continue|carry on ?to|on breathe $",
            "breathe $",
            "^ ?and|now breathe ,",
            "not forget|hold ?to|your|the breathe|breath",
            "still|always breathe",
            "breath .. flow|move|go ?on|come|free|freely",
            "easy|steady|slow|free|calm|smooth breath $",
            "breathe on|easily|freely|steadily|normally|calmly|slowly|smoothly $",
            "keep .. breath|breathe go|move|flow|come|easy|steady|slow|free|calm",
        ),
        ("Keep breathing.", "Don't forget your breath.", "Let the breath keep flowing.", "And breathe, please."),
        ("Breathe out as the foot lands.", "Soft elbow, quiet breath.", "Let the breath lengthen the neck."),
        denied=True,
    ),
    Phrase(
        "shoulders down",
        (
            "shoulder ?be|stay|stays|remain|nice|nicely|well away|down|low|lower|drop|sink|relax|heavy|soft|loose|melt",
            "drop|lower|relax|soften|sink|loosen|release|melt ?down ?your|the|those|these|both shoulder",
            "keep|let|leave|pull|draw ?your|the|those|both shoulder .. down|low|drop|sink|relax|heavy|soft|loose|away",
            "shoulder .. creep|crept|hunch|climb|rise|ear",
            "no shrug|hunch|hunching",
        ),
        ("Shoulders away from the ears.", "Your shoulders have crept up.", "Drop those shoulders."),
        (
            "Draw the shoulders round.",
            "Shoulders quiet, only the hips move.",
            "Leave the shoulders alone.",
        ),
        denied=True,
    ),
    Phrase(
        "only so far",
        (
            "as|so far|much|deep|low|high .. comfortable|comfortably|pleasant|good|nice|fine|okay|feel|like",
            "stay|keep|remain|stop|only|just|never|not|within|where .. comfortable|comfort|pleasant|pleasantly",
            "not|never|nothing .. hurt|painful|pain",
            "mild|gentle stretch|tension|pull .. enough|only|no",
            "not|never|no beyond|past|further|deeper|more .. good|nice|comfortable|pleasant|fine|easy",
        ),
        ("Only as far as it feels good.", "Never further than pleasant.", "Keep to the comfortable range."),
        ("Reach far over your head.",),
        denied=True,
    ),
    Phrase(
        "tall",
        (
            "sit|stand|stay|grow|keep|get|be ?up tall|taller|long|upright",
            "keep|lengthen|straighten ?your|the ?whole back|spine straight|long|tall|flat",
            "^ ?long|straight|tall|upright back|spine $",
            "lengthen ?through|up your|the spine|back",
            "crown .. up|ceil|sky|high",
            "not|no slump|slouch|collapse|rounding|round",
        ),
        ("Sit tall.", "Long spine.", "Don't slump.", "Grow taller."),
        ("Lie long on the mat.", "Stand up."),
        denied=True,
    ),
    Phrase(
        "soft knees",
        (
            "knee ?stay|be|nice soft|unlocked|loose|springy",
            "soft|soften|unlock|loosen ?your|the|both|those knee",
            "not|never lock|locking ?out ?your|the knee",
        ),
        ("Soft knees.", "Don't lock the knees.", "Keep your knees soft."),
        ("Bend your knee.",),
        denied=True,
    ),
    Phrase(
        "soft face",
        (
            "jaw|face|forehead|brow|tongue ?be|stay|go soft|loose|relax|smooth|easy|heavy",
            "soften|relax|unclench|loosen|smooth ?your|the jaw|face|forehead|brow|tooth|teeth|tongue",
        ),
        ("Relax your jaw.", "Let the face go soft.", "Unclench your teeth."),
        ("Open your jaw wide.",),
    ),
    Phrase(
        "no hurry",
        (
            "no rush|hurry",
            "not hurry|rush",
            "take|use ?all your time",
            "^ ?nice|go|and slow|slowly ?now $",
            "slow down",
        ),
        ("No rush.", "Take your time.", "Nice and slow."),
        ("Slowly bend your knee.",),
        denied=True,
    ),
    Phrase(
        "stay still",
        ("stay|hold|keep ?it ?nice|quite ?and still", "not|no bounce|bounces|bouncing|wobble"),
        ("Stay still.", "No bouncing."),
        ("Still standing on one leg?",),
        denied=True,
    ),
)
_HEARD = Listener(REMINDERS, CLASSES)
#: What makes no difference to what a reminder says.
_SMALL = (
    "please everybody all a the your my our those these both still just so really very again nice nicely good now "
    "then for me us you it to from of at in on as while be have not do up down away out too here there let check"
)
_SAYS_NOTHING = frozenset(map(stem, _SMALL.split()))
_JOINS = frozenset({"and", *BREAKS})
#: A reminder may have so many words of its own beside what it reminds of.
_MORE = 2


@lru_cache(maxsize=8192)
def reminder(words: str) -> str:
    """What a reminder says: the name of what it means, or else its stems without those that say nothing.

    One that adds something of its own, ``keep your shoulders low and your elbows wide``, means only itself.
    """
    sentences = sentences_of(words)
    heard = {phrase.name: match for phrase, match in _HEARD.heard(words)}
    if len(heard) == 1 and len(sentences) == 1:
        name, match = next(iter(heard.items()))
        if not _adds(match):
            return name
    return " ".join(word.stem for one in sentences for word in one if _tells(word))


def reminded(words: str) -> tuple[tuple[str, str], ...]:
    """What the sentences of a text remind of, beside whatever else they say: the name of it, and the words."""
    return tuple({phrase.name: (phrase.name, _words(match)) for phrase, match in _HEARD.heard(words)}.values())


def _words(match: Match) -> str:
    return " ".join(word.text for word in match.sentence[match.first : match.last])


def _tells(word: Word) -> bool:
    return word.stem not in _JOINS and word.stem not in _SAYS_NOTHING


def _adds(match: Match) -> bool:
    """Whether a sentence says something else beside a match: much, or in a part of its own."""
    before, after = match.sentence[: match.first], match.sentence[match.last :]
    return _own_part(before[::-1]) or _own_part(after) or sum(map(_tells, (*before, *after))) > _MORE


def _own_part(words: Sentence) -> bool:
    """Whether there is a part of its own: words that tell something, with a join between them and the match."""
    joined = next((n for n, word in enumerate(words) if word.stem in _JOINS), len(words))
    return any(map(_tells, words[joined:]))
