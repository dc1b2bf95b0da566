"""What somebody says besides the moves: what is promised, claimed, pushed, cautioned and said again and again."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from extendum.core.heard.calling import value
from extendum.core.heard.said import Word, running, sentences, written
from extendum.core.listening.asking import forces_breath, pushes
from extendum.core.listening.caring import says_easier, says_professional, says_tension
from extendum.core.listening.conditions import names_some_condition
from extendum.core.listening.promising import claims
from extendum.core.listening.reminding import reminded

#: An announcement is looked for in so many seconds.
ANNOUNCED_WITHIN_S = 75.0
_N = (
    r"(?:a )?(?:one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|fifteen|sixteen|twenty|thirty|forty|"
    r"\d{1,2})"
)
_MINUTES = re.compile(rf"\b(?P<n>{_N})[ -]minutes?\b")
_THINGS = (
    r"(?:stretches|moves|movements|things|exercises|stations|positions|pieces|stops|of them|items|bits|jobs|poses)"
)
_MOVES = re.compile(rf"\b(?P<n>{_N}) (?:(?!{_N}\b|minutes?\b)\w+ ){{0,2}}{_THINGS}\b")
#: Words of a condition or of pain, after words that speak to whoever has it.
_WHO = r"\b(?:if|when|anyone|anybody|those|whoever|people|folks?|you(?:'ve| have) got)\b"
_ILL_PART = (
    r"(?:backs?|knees?|kneecaps?|hips?|shoulders?|necks?|wrists?|ankles?|bones?|discs?|joints?|heart|balance|feet)"
)
_HURTS = (
    r"\b(?:hurts?|pain|pinch(?:es)?|twinges?|complains?|grumbles?|dizzy|dizziness|giddy|blood pressure|replaced|"
    r"replacement|pregnant|injur\w+|operation|surgery|sore|osteoporosis|glaucoma|arthritis|sciatica|hernia|vertigo|"
    r"light ?headed|tingl\w+|fizzy|numb|sharp(?:er)?|warning|doesn't like|don't like|hates? it|disc problem|"
    r"pacemaker|stents?|stitches|sprain\w*|hernias?|migraines?|faint\w*|epilep\w*|eye pressure|heart trouble|"
    rf"unsteady|{_ILL_PART} (?:objects?|protests?|moans?|shouts?|argues?|flares? up|says? no|is(?:n't| not) happy)|"
    r"new (?:hip|knee|shoulder)|(?:hip|knee|shoulder|back) (?:done|fused|fixed)|"
    rf"(?:bad|cranky|dodgy|gammy|brittle|tender|weak|painful|stiff|slipped|troublesome|poorly|grumpy|delicate|creaky) "
    rf"(?:\w+ )?{_ILL_PART}|"
    rf"anything (?:\w+ ){{0,2}}in the {_ILL_PART})\b"
)
_ILL = re.compile(
    rf"{_WHO}.{{0,60}}{_HURTS}|\b(?:nothing|it should not|shouldn't)\b.{{0,20}}\bhurt\b|"
    r"\b(?:any|no) (?:pain|pinch|pinching)\b.{0,50}|\bpins and needles\b|"
    rf"\bwith (?:a |the |your )?(?:bad|cranky|dodgy|gammy|brittle|tender|weak|painful|sore|new) (?:\w+ )?{_ILL_PART}\b"
)
#: Where a condition is named, words that speak to whoever has it: without them somebody only tells of it.
_TO_WHOM = re.compile(rf"{_WHO}|\b(?:who|with|someone|somebody|whenever|for you|any of you)\b")
#: What to take care of: how to come up, what not to do with a part of the body, what may be slippery.
_PART = r"(?:neck|back|knees?|heads?|spine|shoulders?|elbows?|wrists?|ankles?|hips?|breath)"
_CARE = re.compile(
    r"\bhead (?:comes |is )?(?:up )?last\b|\bhead last of all\b|\brise (?:very )?slowly\b|"
    r"\b(?:come|get|stand|sit|roll|rise) up (?:very |really )?(?:slowly|gently|carefully|in your own time)\b|"
    r"\b(?:never|don't|do not) (?:ever )?(?:round|lock|force|jerk|crank|throw|snap|twist|drop|hang|push) "
    rf"(?:\w+ ){{0,3}}{_PART}\b|\b(?:mind|watch) your {_PART}\b|\b(?:be )?careful\b|\btake care\b|"
    rf"\bno (?:bouncing|pulling|yanking|jerking|hands on (?:the|your) {_PART})\b|\bdo less\b|"
    r"\bslippery\b|\bwet floor\b|\bhold on to something\b|\b(?:need|want|like)(?: to)?,? hold on to\b|"
    r"\b(?:stop|come out|back off|ease off) (?:straight ?away|at once)\b|\b(?:stop|back off|ease off) if\b|"
    r"\bif (?:anything|something|it|that) (?:\w+ )?(?:hurts|pinches|tingles|stabs|bites|feels wrong|is sharp)\b|"
    r"\b(?:no|nothing) (?:sudden|forced|jerky)\b|\bwait (?:a moment|a second|a bit) (?:until|before|if|till)\b|"
    r"\b(?:take|get|come) (?:\w+ ){0,3}up in stages\b|\bstay (?:close to|near|within reach of) (?:the|a|your) "
    r"(?:wall|chair|rail|table|post)\b|\bwhat(?:ever)? your (?:doctor|physio|surgeon|midwife)\b|"
    r"\b(?:ask|asked|tell|told|check with) (?:\w+ ){0,2}(?:doctor|physio\w*|surgeon|midwife|nurse)\b|"
    r"\bkeep (?:a |one )?hand on the\b"
)
#: Words that set a limit, so that what is asked for is no push: *go deep, as deep as feels all right, no deeper*.
_LIMITED = re.compile(
    "|".join(
        (
            r"\b(?:as|so) (?:far|deep|much|low|high|long|hard|strong|wide) as (?:\w+ ){0,4}?(?:comfortable|kind|right|"
            r"likes?|pleasant|nice|happy|good|fine|allows?|lets?|wants?|goes|okay|easy|feels?|can)\b",
            r"\bno (?:further|deeper|more|harder|lower|higher)\b",
            r"\bnever (?:so|past|beyond|further|into)\b",
            r"\b(?:within|inside) (?:reason|comfort|your)\b",
            r"\bonly (?:as|so|until|to where)\b",
            r"\b(?:stop|back off|ease off|short of|before) (?:\w+ ){0,4}?(?:pain|hurts?|sharp|pinch\w*)\b",
            r"\bif (?:it|that|you) (?:is |feels? |are |like)?(?:comfortable|good|fine|allowed|happy|it)\b",
            r"\bcomfortabl[ey]\b",
            r"\bwithout (?:pain|forcing|strain)\b",
        )
    )
)
#: So many words on each side of a sentence are looked at for a limit.
BESIDE_WORDS = 9
#: How something is to be is said so many words before or after it; it is said again after so long, and so often.
BESIDE_BEFORE, BESIDE_AFTER, AGAIN_S, REMINDED = 4, 6, 8.0, 3


@dataclass(frozen=True, slots=True)
class Remark:
    """Something that was said: what it is, when, in which words."""

    what: str
    at: float
    said: str
    number: int = 0


def remarks(words: Sequence[Word]) -> list[Remark]:
    """Claims, words that push, forced breath, cautions and easier ways, in order."""
    found = []

    def around(first: int, last: int) -> str:
        """A sentence with the words beside it, in which a limit may stand."""
        return running(words[max(0, first - BESIDE_WORDS) : last + BESIDE_WORDS]).text

    for first, last in sentences(words):
        text = written(words[first:last])
        at = words[first].at
        told = running(words[first:last]).text
        for what, listen in (("claim", claims), ("push", pushes), ("forces the breath", forces_breath)):
            if (heard := listen(text)) and not (what == "push" and _LIMITED.search(around(first, last))):
                found.append(Remark(what, at, max(heard, key=len)))
        if _cautions(text, told):
            found.append(Remark("caution", at, text))
        if says_easier(text):
            found.append(Remark("easier way", at, text))
    return found


def _cautions(text: str, told: str) -> bool:
    """Whether a sentence, as written and as it runs, says who is to take care, or of what."""
    whom = _TO_WHOM.search(told) is not None and names_some_condition(text)
    return bool(whom or _ILL.search(told) or _CARE.search(told) or says_tension(text) or says_professional(text))


def promises(words: Sequence[Word]) -> list[Remark]:
    """How many minutes and how many moves were announced near the beginning."""
    early = [word for word in words if word.at <= ANNOUNCED_WITHIN_S]
    told = running(early)
    found = {}
    for kind, pattern in (("minutes", _MINUTES), ("moves", _MOVES)):
        for match in pattern.finditer(told.text):
            number = value(match.group("n").removeprefix("a "))
            if number and (kind == "minutes" or 2 <= number <= 40) and kind not in found:
                n = told.word(match.start())
                found[kind] = Remark(kind, early[n].at, match.group(), number)
    return list(found.values())


@dataclass(frozen=True)
class Reminder:
    """Something that people are reminded of: words for it, and for how it is to be; ``phrase``: as texts are heard."""

    name: str
    of: re.Pattern[str]
    so: re.Pattern[str] | None
    phrase: str

    def at(self, words: Sequence[Word], told: Sequence[bool]) -> Iterator[float]:
        """When it is spoken of; ``told``: which words lead nobody into a move."""
        for n, word in enumerate(words):
            near = words[max(0, n - BESIDE_BEFORE) : n + BESIDE_AFTER]
            so = self.so is None or any(self.so.fullmatch(one.text) for one in near)
            if told[n] and so and self.of.fullmatch(word.text):
                yield word.at


def reminders(
    words: Sequence[Word], told: Sequence[bool], some: Sequence[Reminder]
) -> list[tuple[str, tuple[float, ...]]]:
    """What was said at least three times in whatever words, and when; ``told``: which words are no way into a move."""
    said: dict[str, list[float]] = defaultdict(list)
    for first, last in sentences(words):
        for name, _ in reminded(written(words[first:last])):
            said[name].append(words[first].at)
    found = []
    for one in some:
        times: list[float] = []
        for at in sorted([*one.at(words, told), *said[one.phrase]]):
            if not times or at - times[-1] > AGAIN_S:
                times.append(at)
        if len(times) >= REMINDED:
            found.append((one.name, tuple(times)))
    return found
