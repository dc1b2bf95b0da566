"""Phrases as data: what is said in many wordings, and whether it is meant where it is said.

A phrase is one or more patterns over stems. A pattern is words with spaces between them:

- ``word`` any form of it; ``a|b`` one of several, ``a|b_c`` also two words; ``@class`` one of a class in ``CLASSES``;
- ``@class:s``, ``a|b:s`` as somebody else does it (``corrects``), ``@class:b`` as it is asked for (``correct``);
- ``~ing`` a word that ends so, longer than four letters;
- ``?word`` may be left out; ``..`` up to four words of the same clause; ``...`` up to nine of the sentence;
- ``^`` the beginning of a clause, ``$`` its end.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import NamedTuple

from extendum.core.listening.words import BREAKS, Sentence, sentences_of, stem, stems_of

#: How many words a gap may have: within a clause, and within a sentence.
_GAPS = {"..": (4, False), "...": (9, True)}


@dataclass(frozen=True, slots=True)
class Match:
    """Where a phrase stands: its sentence and the words from and to, the last one not included."""

    sentence: Sentence
    first: int
    last: int

    def told(self, text: str) -> str:
        """The phrase as it is written."""
        return text[self.sentence[self.first].start : self.sentence[self.last - 1].end]


@dataclass(frozen=True, slots=True)
class Phrase:
    """Something that can be said in many ways: its patterns, and words that mean it and that do not."""

    name: str
    patterns: tuple[str, ...]
    examples: tuple[str, ...] = ()
    misses: tuple[str, ...] = ()
    #: Patterns that, in the same sentence, say that it is not meant.
    unless: tuple[str, ...] = ()
    denied: bool = field(default=False)  # a denial before it makes no difference


#: Kinds of steps, with the stems that each takes, by the first of them, and whether it may be left out.
Steps = tuple[tuple[str, Mapping[str, tuple[tuple[str, ...], ...]], bool], ...]


_NONE: Mapping[str, tuple[tuple[str, ...], ...]] = {}


def compiled(pattern: str, classes: Mapping[str, tuple[str, ...]]) -> Steps:
    """A pattern as steps: its kind, the stems that it takes, and whether it may be left out."""
    steps = []
    for part in pattern.split():
        if part in _GAPS or part in ("^", "$"):
            steps.append((part, _NONE, False))
            continue
        if part == "~ing":
            steps.append(("ing", _NONE, False))
            continue
        maybe, words = part.startswith("?") and part != "?", part.removeprefix("?") or "?"
        words, form = (words[:-2], words[-1]) if words.endswith((":s", ":b")) else (words, "")
        taken: set[tuple[str, ...]] = set()
        for told_as in words.split("|"):
            one = told_as.removesuffix(":s").removesuffix(":b")
            form = form or told_as[len(one) + 1 :]
            if one.startswith("@"):
                taken |= {tuple(map(stem, told.split())) for told in classes[one[1:]]}
            else:
                taken.add(tuple(part if part in BREAKS or part[0] == "{" else stem(part) for part in one.split("_")))
        first = {one[0]: tuple(sorted(other for other in taken if other[0] == one[0])) for one in taken}
        steps.append((form or "words", first, maybe))
    return tuple(steps)


def matches(steps: Steps, sentence: Sentence) -> Iterator[Match]:
    """The places of a sentence at which a pattern stands, the first ones first, none within another."""
    at, (_, opening, maybe) = 0, steps[0]
    while at < len(sentence):
        if opening and not maybe and sentence[at].stem not in opening:
            at += 1
            continue
        last = _end(steps, 0, sentence, at)
        if last is not None and last > at:
            yield Match(sentence, at, last)
            at = last
        else:
            at += 1


def _end(steps: Steps, n: int, sentence: Sentence, at: int) -> int | None:
    """Where a pattern ends that goes on at a word; None where it does not stand there."""
    if n == len(steps):
        return at
    kind, taken, maybe = steps[n]
    if kind == "^":
        opens = at == 0 or sentence[at - 1].stem in BREAKS or sentence[at - 1].stem in _JOINS
        return _end(steps, n + 1, sentence, at) if opens else None
    if kind == "$":
        ends = at == len(sentence) or sentence[at].stem in BREAKS or sentence[at].stem in _JOINS
        return _end(steps, n + 1, sentence, at) if ends else None
    if kind in _GAPS:
        most, across = _GAPS[kind]
        for skip in range(most + 1):
            if skip and (at + skip > len(sentence) or (not across and sentence[at + skip - 1].stem in BREAKS)):
                return None
            found = _end(steps, n + 1, sentence, at + skip)
            if found is not None:
                return found
        return None
    if kind == "ing":
        fits = at < len(sentence) and len(sentence[at].text) > 4 and sentence[at].text.endswith("ing")
        return _end(steps, n + 1, sentence, at + 1) if fits else None
    if at < len(sentence) and sentence[at].stem in taken and _formed(kind, sentence[at].text):
        for stems in taken[sentence[at].stem]:
            if len(stems) == 1 or tuple(word.stem for word in sentence[at : at + len(stems)]) == stems:
                found = _end(steps, n + 1, sentence, at + len(stems))
                if found is not None:
                    return found
    return _end(steps, n + 1, sentence, at) if maybe else None


def _formed(kind: str, text: str) -> bool:
    """Whether a word has the form that a step asks for: as somebody else does it, or as it is asked for."""
    if kind == "s":
        return text.endswith("s") and not text.endswith("ss")
    return kind != "b" or not text.endswith(("s", "ing", "ed"))


#: Words that begin another clause.
_JOINS = frozenset(
    map(stem, ["and", "but", "so", "because", "then", "or", "if", "when", "while", "that", "which", "whether"])
)
#: A denial reaches so many words further in its clause.
_REACH = 6
#: Words that deny.
DENIALS = frozenset(
    map(stem, ["not", "no", "never", "without", "nobody", "nothing", "neither", "nor", "avoid", "instead", "hardly"])
)
#: Right after a denial, these take it back: "not only", "never just".
_CONTRASTS = frozenset(map(stem, ("but", "only", "rather", "just")))
_HEDGES = frozenset(map(stem, ("may", "might", "perhaps", "maybe", "could", "whether", "some", "promise")))


def denied(match: Match) -> bool:
    """Whether what is said is said not to be so, or not to be done."""
    words = match.sentence
    for back in range(1, _REACH + 1):
        at = match.first - back
        if at < 0 or words[at].stem in BREAKS:
            return False
        if words[at].stem in DENIALS or (words[at].text == "rather" and words[at + 1].text == "than"):
            return not (_CONTRASTS & {words[n].stem for n in range(at + 1, min(at + 2, match.first))})
    return False


def refused(match: Match) -> bool:
    """Whether a match holds a denial of its own: ``stretching does not prevent`` is no ``stretching prevents``."""
    words = match.sentence[match.first : match.last]
    return any(
        word.stem in DENIALS and not (n + 1 < len(words) and words[n + 1].stem in _CONTRASTS)
        for n, word in enumerate(words)
    )


def _denies(steps: Steps) -> bool:
    """Whether a pattern itself asks for a denial."""
    return any(stem in DENIALS for _, taken, _ in steps for stem in taken)


def hedged(match: Match) -> bool:
    """Whether what is said is only said to be possible, or of some people."""
    return any(word.stem in _HEDGES for word in match.sentence[max(0, match.first - 8) : match.last])


def asked(match: Match) -> bool:
    """Whether the sentence is a question."""
    return next((word.stem for word in match.sentence[match.last - 1 :] if word.stem in BREAKS), "") == "?"


def clause_of(match: Match) -> Sentence:
    """The words of the clause that a match begins in, up to the match."""
    first = match.first
    while first > 0 and match.sentence[first - 1].stem not in BREAKS:
        first -= 1
    return match.sentence[first : match.first]


_CONDITIONS = frozenset(map(stem, ("if", "when", "whenever", "unless", "where", "should", "once", "as soon")))


def conditional(match: Match) -> bool:
    """Whether it is only said for a case: ``if``, ``when``, ``stop as soon as``."""
    clause = clause_of(match)
    return any(word.stem in _CONDITIONS and (word.text != "should" or word is clause[0]) for word in clause)


class _Pattern(NamedTuple):
    """A pattern of a phrase: its steps, and for each that has to stand the stems that begin it, the rarest first."""

    phrase: Phrase
    steps: Steps
    needed: tuple[frozenset[str], ...]
    denies: bool

    @staticmethod
    def of(phrase: Phrase, pattern: str, classes: Mapping[str, tuple[str, ...]]) -> _Pattern:
        """A pattern read from its words."""
        steps = compiled(pattern, classes)
        needed = sorted((frozenset(taken) for _, taken, maybe in steps if taken and not maybe), key=len)
        return _Pattern(phrase, steps, tuple(needed), phrase.denied or _denies(steps))

    def may_stand(self, stems: frozenset[str]) -> bool:
        """Whether every stem that it needs is in a sentence."""
        return not any(one.isdisjoint(stems) for one in self.needed)


def _within(one: Match, other: Match) -> bool:
    """Whether a match is a part of another, longer one."""
    longer = other.last - other.first > one.last - one.first
    return longer and one.sentence is other.sentence and other.first <= one.first and one.last <= other.last


class Listener:
    """Hears what a set of phrases mean, in any text; the same text is listened to once."""

    def __init__(self, phrases: tuple[Phrase, ...], classes: Mapping[str, tuple[str, ...]]) -> None:
        self.phrases = phrases
        self._unless = {one: [_Pattern.of(one, pattern, classes) for pattern in one.unless] for one in phrases}
        self._patterns = [_Pattern.of(one, pattern, classes) for one in phrases for pattern in one.patterns]
        #: Which patterns may stand where a stem does: the rarest step of each leads to it.
        self._led: dict[str, list[int]] = {}
        for n, pattern in enumerate(self._patterns):
            for anchor in pattern.needed[0]:
                self._led.setdefault(anchor, []).append(n)
        self.heard = lru_cache(maxsize=8192)(self._heard)
        self._told = lru_cache(maxsize=8192)(self._tell)

    def _heard(self, text: str) -> tuple[tuple[Phrase, Match], ...]:
        found: list[tuple[Phrase, Match]] = []
        for sentence, stems in zip(sentences_of(text), stems_of(text), strict=True):
            leads = self._led.keys() & stems
            if leads:
                tried = (self._patterns[n] for n in sorted({n for stem in leads for n in self._led[stem]}))
                found += [
                    (one.phrase, match)
                    for one in tried
                    if one.may_stand(stems)
                    for match in matches(one.steps, sentence)
                    if (one.phrase.denied or not denied(match)) and (one.denies or not refused(match))
                    if not self._unmeant(one.phrase, sentence, stems)
                ]
        return tuple(
            (phrase, one)
            for phrase, one in found
            if not any(same is phrase and _within(one, other) for same, other in found)
        )

    def _unmeant(self, phrase: Phrase, sentence: Sentence, stems: frozenset[str]) -> bool:
        """Whether something else in the sentence says that a phrase is not meant."""
        return any(True for one in self._unless[phrase] if one.may_stand(stems) for _ in matches(one.steps, sentence))

    def __call__(self, text: str) -> tuple[str, ...]:
        """What is said of it, each as written."""
        return self._told(text)

    def _tell(self, text: str) -> tuple[str, ...]:
        return tuple(dict.fromkeys(match.told(text) for _, match in self.heard(text)))
