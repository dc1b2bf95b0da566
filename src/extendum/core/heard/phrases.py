"""The phrases that a recording is heard by, and what each of them tells in a sentence."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from functools import partial

from extendum.core.heard.guess import Guess, What, Word
from extendum.core.model.limits import whole_number

#: Without the word seconds, so few are breaths or reps.
FEW = 5
#: Nobody counts, or tells seconds left, beyond it.
MOST_COUNTED = 1000

_UP_TO_TWENTY = (
    "zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen "
    "eighteen nineteen twenty"
)
NUMBERS = {word: n for n, word in enumerate(_UP_TO_TWENTY.split())} | {"thirty": 30, "forty": 40, "sixty": 60}
_NUMBER = "|".join(sorted(NUMBERS, key=len, reverse=True)) + r"|\d{1,2}"


def _any(*patterns: str) -> re.Pattern[str]:
    return re.compile("|".join(patterns))


_LEFT = _any(
    rf"\b(?:last|final) ({_NUMBER})\b(?! (?:reps?|times|breaths?|moves?))",
    rf"\b({_NUMBER}) (?:more|to go|left)\b(?! (?:reps?|times|breaths?|moves?|of))",
    rf"\b({_NUMBER}) (?:more )?seconds?(?: (?:left|to go|more|now))?$",
    rf"\b({_NUMBER}) (?:more )?seconds? (?:left|to go|more)\b",
    rf"\b({_NUMBER}) more seconds?\b",
)
_LASTING = re.compile(rf"\b(?:for|of|is|hold|about)(?: about)? (?:{_NUMBER}) seconds?\b")
_HALF = _any(r"\bhalf ?way\b", r"\bthat's (?:the )?half\b", r"^half$", r"\bat (?:the )?half\b")
_HOLD = re.compile(
    r"\b(?:and |just |then )?(?:hold|stay)(?: (?:here|there|it|that|hold|with))*\b"
    r"(?! (?:on|of|the shins|the wall|the back|something))"
)
_NOT_HOLD = _any(
    r"\bhold (?:on|of|it with)\b", r"\bhold the (?:back|wall|ankle|chair|shins)\b", r"\bor hold\b", r"\bcan hold\b"
)
_RELEASE = _any(
    r"\brelease\b",
    r"\blet (?:it|that|them|the (?:hands?|strap|foot)|her|him)?\s?go\b",
    r"\bcome (?:up|out|back)\b",
    r"\bcoming out\b",
    r"\bstep in\b",
    r"\blower (?:that|it|the)\b",
    r"^and (?:down|up)\b",
    r"^and sit back\b",
    r"\bbring (?:it|that|the knees|the leg) (?:down|together|to the middle)",
    r"\band bring the knees\b",
    r"\bthe knees together with\b",
    r"\bback to the middle\b",
    r"\broll up\b",
    r"\bpush the floor\b",
)
_SWITCH = _any(
    r"\b(?:switch|swap|change)(?:s|ing)?\b(?: (?:sides?|legs?|arms?|feet|over|the strap|hands))?",
    r"\bother (?:side|leg|arm|one|foot|knee|ear|wrist|hip)\b",
    r"\bsecond side\b",
)
_NOT_SWITCH = _any(
    r"\bchange (?:the|your) (?:tempo|pace|music|grip)\b",
    r"\bno change\b",
    r"\b(?:one|each) (?:and|then) the other\b",
)
_SIDE = re.compile(r"\b(left|right)\b")
_NO_SIDE = _any(
    rf"\b(?:{_NUMBER}|seconds?|more|breaths?|is|are) left\b",
    r"\bleft (?:to go|over|now)\b",
    r"\b(?:all|that's|just|is|be) right\b",
    r"^right (?:then|so|okay|now|let's|well|everybody|everyone)\b",
    r"\bright (?:there|here|now|away|through|up to|down to|back)\b",
    r"^right$",
)
_HEADS = (
    "stretch|stretches|circles?|rolls?|reach|hinge|lunge|swings?|twists?|drop|push|opener|hang|pose|raises?|bridge|"
    "march|kneeling|squats?|needle|rocks?|turns?|lifts?|shrugs?|press"
)
_NAMED = re.compile(rf"\b((?:[a-z']+ ){{1,3}})({_HEADS})\b")
_NEXT = re.compile(
    r"\b(?:next|first|last|then|now)(?: one| up| thing)?(?: is| we do| we have| we go|'s)? "
    r"(?:the |a |an |our )((?:[a-z']+ ?){1,4})"
)
_OPENING = _any(
    r"\bfigure four\b",
    r"\bthread the needle\b",
    r"\bcat (?:and )?cow\b",
    r"\bchild's pose\b",
    r"\bmarch\b",
    r"\barm across the chest\b",
)
_SMALL_WORDS = (
    "the a an this that your you his her my our of and or to in on at so is it one next first last now then for with "
    "some do we lets let's okay alright again more other each both here there feel off into from as slow slowly big "
    "good nice"
)
_SMALL = frozenset(_SMALL_WORDS.split())
_LIMBS = frozenset(("left", "right", "knee", "foot", "arm", "leg", "hand", "knees", "feet", "arms", "legs", "hands"))
_BREATH = _any(
    r"\bbreathe?s? (?:in|out)\b",
    r"\b(?:in|out) for (?:four|five|six)\b",
    r"^in,? and out\b",
    r"\bkeep breathing\b",
)


def in_sentence(sentence: Sequence[Word], known: Sequence[re.Pattern[str]]) -> Iterator[Guess]:
    """The guesses of one sentence; a long one without stops is read in parts."""
    for part in _parts(sentence):
        text = " ".join(word.text for word in part)
        at = partial(_time_at, part)
        yield from _moves(text, at, known)
        if not _NOT_SWITCH.search(text) and (found := _SWITCH.search(text)):
            yield Guess(at(found.start()), What.SWITCH, "other", found.group(), 0.85)
        bare = _NO_SIDE.sub(lambda match: " " * len(match.group()), text)
        if side := _SIDE.search(bare):
            yield Guess(at(side.start()), What.SIDE, side.group(1), text[:60], 0.9)
        if half := _HALF.search(text):
            yield Guess(at(half.start()), What.HALFWAY, "half", half.group(), 0.95)
        if left := _LEFT.search(_LASTING.sub(lambda match: " " * len(match.group()), text)):
            number = value(next(group for group in left.groups() if group)) or 0
            if number >= FEW or "second" in left.group():
                yield Guess(at(left.start()), What.LEFT, f"{number} s", left.group(), 0.85, number)
        if not _NOT_HOLD.search(text) and (hold := _HOLD.search(text)):
            yield Guess(at(hold.start()), What.HOLD, "hold", hold.group(), 0.8)
        if release := _RELEASE.search(text):
            yield Guess(at(release.start()), What.RELEASE, "release", release.group(), 0.8)
        if breath := _BREATH.search(text):
            yield Guess(at(breath.start()), What.BREATH, "breath", breath.group(), 0.9)


def _time_at(part: Sequence[Word], place: int) -> float:
    """When the word at a place of the joined text is said."""
    passed = 0
    for word in part:
        passed += len(word.text) + 1
        if place < passed:
            return word.at
    return part[-1].at


def _parts(sentence: Sequence[Word]) -> Iterator[Sequence[Word]]:
    """A sentence, or where it runs on, its pieces of up to a dozen words that begin at joints."""
    if len(sentence) <= 16:
        yield sentence
        return
    begin = 0
    for n, word in enumerate(sentence):
        joint = word.text in ("and", "so", "okay", "next", "then", "now", "if", "maybe", "because", "other")
        if n - begin >= 5 and joint:
            yield sentence[begin:n]
            begin = n
    yield sentence[begin:]


def _moves(text: str, place: Callable[[int], float], known: Sequence[re.Pattern[str]]) -> Iterator[Guess]:
    """The move that is named: one that is known, one by its last word, or what comes after next."""
    for pattern in known:
        if match := pattern.search(text):
            yield Guess(place(match.start()), What.MOVE, match.group(), text[:60], 0.95)
            return
    if match := _OPENING.search(text):
        yield Guess(place(match.start()), What.MOVE, match.group(), text[:60], 0.9)
        return
    if match := _NAMED.search(text):
        before = [word for word in match.group(1).split() if word not in _SMALL and word not in NUMBERS]
        sided = {"left", "right"} & set(match.group(1).split())  # the left foot lifts: what is done, and no name
        if before and not sided and match.group(1).split()[-1] not in _SMALL:
            yield Guess(place(match.start(2)), What.MOVE, " ".join([*before[-2:], match.group(2)]), text[:60], 0.75)
            return
    if match := _NEXT.search(text):
        named = [word for word in match.group(1).split() if word not in _SMALL]
        if named and named[0] not in _LIMBS:
            yield Guess(place(match.start(1)), What.MOVE, " ".join(named[:3]), text[:60], 0.5)


def value(word: str) -> int | None:
    """The number that a word or digits tell; None for none that is ever counted."""
    return NUMBERS.get(word, whole_number(word, most=MOST_COUNTED))
