"""The speaker's own words for a move: the way into it, what is said in it, and the way out, without fillers.

Sides become placeholders, so that the words fit each side.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from extendum.core.heard.assembled import AFTER_S
from extendum.core.heard.recording import HeardMove
from extendum.core.heard.said import Word, sentences, written
from extendum.core.heard.sides import OTHER
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.words import Words

#: So many words of a set-up and of a way out are taken over; of longer ones the sentences that fit.
SET_UP_WORDS, OUT_WORDS = 60, 20
#: Prompts have so many words, and a move so many of them.
PROMPT_WORDS, PROMPTS = (3, 18), 3
#: Fewer words tell no way.
LEAST_WORDS = 3
#: A sentence that begins so many words before a part belongs to it.
NEAR_WORDS = 2
_FILLERS = re.compile(
    r"\b(?:um+|uh+|er+m?|you know|i mean|kind of|sort of|okay so|all right so|right then)\b,?\s*", re.IGNORECASE
)
#: What a prompt is about, the first that fits; a sentence that fits none is chatter.
_KINDS = (
    (PromptKind.CAUTION, re.compile(r"\b(?:pain|hurts?|pinch|sharp|dizzy|tingl\w+|numb)\b")),
    (PromptKind.EASIER, re.compile(r"\b(?:if (?:that|this|it|you)|or (?:just|simply|stay)|easier|instead)\b")),
    (PromptKind.BREATH, re.compile(r"\b(?:breath\w*|exhale|inhale|sigh)\b")),
    (PromptKind.FEEL, re.compile(r"\b(?:feel\w*|notice|stretch(?:ing)?)\b")),
    (
        PromptKind.FORM,
        re.compile(
            r"\b(?:keep|let|soften|relax|drop|lift|press|sink|lengthen|point|straight\w*|long|heavy|tall|level|low)\b"
            r".*\b(?:head|neck|chin|jaw|shoulders?|elbows?|arms?|wrists?|hands?|fingers|chest|ribs|back|spine|belly|hips?|"
            r"knees?|legs?|thighs?|heels?|f(?:oo|ee)t|toes|face|seat|tail)\b"
        ),
    ),
)
#: What is true of this one time: counts, seconds that are left, people, what happened once.
_ONCE = re.compile(
    r"\b(?:seconds?|minutes?|half ?way|more|last|left to go|one two|three two|i|i'm|i've|he|she|they|my|his|her|we|us|"
    r"was|were|said|told|yesterday|next|now then|going to|\d+)\b"
)
#: Sentences that are no way out of a move.
_GOODBYE = re.compile(r"(?:^| )(?:and )?(?:thank\w*|see you|goodbye|bye|well done)\b[^.!?]*[.!?]", re.IGNORECASE)
#: Where nothing is punctuated a piece may be cut off after one of these; it is left out.
_HANGING = frozenset(
    re.findall(
        "[a-z']+",
        "a an and as at because but for from if in into is just last my next no not of on or our so that the then "
        "there this to we well when where which while with you your i i'll i'm it's",
    )
)


@dataclass(frozen=True)
class Wording:
    """The words of a recording, and its sentences: from which word to before which."""

    words: tuple[Word, ...]
    sentences: tuple[tuple[int, int], ...]
    begins: tuple[float, ...]

    def told(self, first: int, last: int, longest: int, most: int, *, begun: bool = False) -> str:
        """Some words as a text: without fillers and braces, in sentences, as far as they fit."""
        found = ""
        for part in self.parts(first, last, begun=begun):
            if len(found) + len(part) + 1 > longest or len(found.split()) > most:
                break
            found = f"{found} {part}".strip()
        return found

    def parts(self, first: int, last: int, *, whole: bool = False, begun: bool = False) -> Iterator[str]:
        """The sentences that lie in some words for the greater part; what is not punctuated ends where those do.

        ``whole``: only what is punctuated; ``begun``: the sentences that begin in those words, or just before.
        """
        for a, b in self.sentences:
            if self.words[b - 1].ends:
                at = min(a + NEAR_WORDS, (a + b) // 2) if begun else (a + b) // 2
                if first <= at < last:
                    yield from _plain(self.words[a:b])
            elif not whole and max(a, first) < min(b, last):
                yield from _plain(_unhung(self.words[max(a, first) : min(b, last)]))

    def since(self, seconds: float) -> int:
        """The first word that is said at a time or later."""
        return bisect_left(self.begins, seconds)


def wording_of(words: tuple[Word, ...]) -> Wording:
    """The words of a recording in sentences."""
    return Wording(words, tuple(sentences(words)), tuple(word.at for word in words))


def own_words(said: Wording, move: HeardMove, words: Words, *, by_side: bool) -> Words:
    """The words of a move as the speaker had them; those of the library stay where the speaker had none.

    ``by_side``: it has passes on each side, so that left and right become placeholders.
    """
    side = move.passes[0].side if by_side else ""
    first, last = move.passes[0], move.passes[-1]
    into = _placed(said.told(move.first, move.work, 1000, SET_UP_WORDS, begun=True), side)
    if len(into.split()) < LEAST_WORDS:
        return words
    work = max(move.work, said.since(first.start))
    prompts = tuple(
        _prompts(said.parts(work, said.since(first.end), whole=True, begun=True), lambda text: _placed(text, side))
    )
    way_out = said.told(said.since(last.end - AFTER_S), said.since(last.out), 400, OUT_WORDS)
    out = _placed(_GOODBYE.sub("", way_out).strip(), side)
    switch = ""
    other = next((n for n, one in enumerate(move.passes) if one.side != first.side), 0)
    if by_side and other:
        before, after = move.passes[other - 1], move.passes[other]
        turned = said.told(said.since(max(before.out, before.end)), said.since(after.start), 600, SET_UP_WORDS)
        switch = _placed(turned, OTHER.get(side, ""))
    return Words(
        moving=into,
        switch=switch if len(switch.split()) >= LEAST_WORDS else words.switch,
        turn=words.turn,
        release=out if len(out.split()) > 1 else words.release,
        prompts=prompts or words.prompts,
    )


def _plain(words: Sequence[Word]) -> Iterator[str]:
    """A sentence as it is written, where anything is left of it."""
    plain = _FILLERS.sub("", written(words))
    plain = re.sub(r"[{}\[\]]", "", plain).strip(" ,;")
    if plain:
        plain = re.sub(r"\bi\b", "I", plain[:1].upper() + plain[1:])
        yield plain if plain[-1] in ".!?" else f"{plain}."


def _unhung(words: Sequence[Word]) -> Sequence[Word]:
    """Words without the beginning of what comes next."""
    last = len(words)
    while last and words[last - 1].text in _HANGING:
        last -= 1
    return words[:last]


def _prompts(parts: Iterator[str], sided: Callable[[str], str]) -> Iterator[Prompt]:
    """What is said in a move and can be said again: the first few, no two about the same."""
    kinds: set[PromptKind] = set()
    for one in parts:
        small = one.casefold()
        if not PROMPT_WORDS[0] <= len(one.split()) <= PROMPT_WORDS[1] or _ONCE.search(small):
            continue
        kind = next((kind for kind, pattern in _KINDS if pattern.search(small)), None)
        if kind and kind not in kinds and len(kinds) < PROMPTS:
            kinds.add(kind)
            yield Prompt(kind, sided(one))


def _placed(text: str, side: str) -> str:
    """A text of one side, with placeholders for it and the other."""
    if side not in ("left", "right"):
        return text
    text = re.sub(rf"\b{side}\b", "{side}", text, flags=re.IGNORECASE)
    return re.sub(rf"\b{OTHER[side]}\b", "{other}", text, flags=re.IGNORECASE)
