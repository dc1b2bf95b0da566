"""Words as they are meant: in sentences, with their stems and places, contractions opened and numbers told apart."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from snowballstemmer.english_stemmer import EnglishStemmer

#: What separates clauses without ending the sentence; it is kept as a word of its own.
BREAKS = frozenset({",", ";", ":", "–", "—", "(", "?"})
_PART = re.compile(r"\[[^\]]*\]|\{[a-z_]+\}|[^\W\d_]+(?:['’][^\W\d_]+)*|\d+|[.!…]+|\?+|[,;:–—(]|\n")
_ENDS = re.compile(r"[.!…\n\[]")
_SAID = {"let's": ("let", "us"), "can't": ("can", "not"), "cannot": ("can", "not"), "won't": ("will", "not")}
_SUFFIXES = (("n't", "not"), ("'ll", "will"), ("'re", "be"), ("'ve", "have"), ("'m", "be"), ("'d", "would"))
#: After these ``'s`` is the verb; after other words it says whose something is.
_IS = frozenset(
    ["it", "that", "there", "what", "who", "he", "she", "here", "where", "this", "how", "everything", "nothing"]
)
_IRREGULAR = {
    **dict.fromkeys(("am", "is", "are", "was", "were", "been", "being"), "be"),
    **dict.fromkeys(("has", "had", "having"), "have"),
    **dict.fromkeys(("does", "did", "done", "doing"), "do"),
    **dict.fromkeys(("goes", "went", "gone", "going"), "go"),
    **dict.fromkeys(("got", "gotten", "getting"), "get"),
    **dict.fromkeys(("held",), "hold"),
    **dict.fromkeys(("felt",), "feel"),
    **dict.fromkeys(("kept",), "keep"),
    **dict.fromkeys(("made", "making"), "make"),
    **dict.fromkeys(("took", "taken", "taking"), "take"),
    **dict.fromkeys(("came", "coming"), "come"),
    **dict.fromkeys(("gave", "given", "giving"), "give"),
    **dict.fromkeys(("said",), "say"),
    **dict.fromkeys(("told",), "tell"),
    **dict.fromkeys(("shown",), "show"),
    **dict.fromkeys(("sped",), "speed"),
    **dict.fromkeys(("lost",), "lose"),
    **dict.fromkeys(("stood",), "stand"),
    **dict.fromkeys(("sat",), "sit"),
    **dict.fromkeys(("grew", "grown"), "grow"),
    **dict.fromkeys(("broke", "broken"), "break"),
    **dict.fromkeys(("better", "best"), "good"),
    **dict.fromkeys(("farther", "furthest", "farthest", "further"), "further"),
    **dict.fromkeys(("lying", "lies", "lain"), "lie"),
    **dict.fromkeys(("dying", "dies"), "die"),
    **dict.fromkeys(("feet",), "foot"),
    **dict.fromkeys(("calves",), "calf"),
    **dict.fromkeys(("shut", "shutting"), "shut"),
    **dict.fromkeys(("breath", "breaths"), "breath"),
    **dict.fromkeys(("breathe", "breathes", "breathed", "breathing"), "breathe"),
    **dict.fromkeys(("hardly", "barely", "scarcely"), "hardly"),
    **dict.fromkeys(("this", "that"), "this"),
    **dict.fromkeys(("these", "those"), "these"),
    **dict.fromkeys(("anyone", "anybody", "everyone", "everybody", "someone", "somebody"), "everybody"),
    **dict.fromkeys(("nobody", "none"), "nobody"),
    "i": "i",
}
#: How medical names of ills end, and the one that stands for them.
_ILLS, _AN_ILL = ("itis", "algia", "opathy"), "arthriti"
_STEMMER = EnglishStemmer()


@dataclass(frozen=True, slots=True)
class Word:
    """One word: its stem, how it is written in small letters, and where it stands in the text."""

    stem: str
    text: str
    start: int
    end: int


Sentence = tuple[Word, ...]


@lru_cache(maxsize=8192)
def stem(word: str) -> str:
    """What the forms of a word have in common: ``reducing`` and ``reduced`` are one.

    Medical names of ills, told by their ends (``fasciitis``, ``neuralgia``), are all one.
    """
    if word.endswith(_ILLS) and len(word) > max(map(len, _ILLS)):
        return _AN_ILL
    return _IRREGULAR.get(word) or str(_STEMMER.stemWord(word))


@lru_cache(maxsize=4096)
def sentences_of(text: str) -> tuple[Sentence, ...]:
    """The words of each sentence; breaks between clauses are words of their own, ends are not."""
    found: list[list[Word]] = [[]]
    for match in _PART.finditer(text):
        part = match.group()
        if _ENDS.match(part):
            if found[-1]:
                found.append([])
            continue
        if part.startswith("?"):
            found[-1].append(Word("?", "?", match.start(), match.end()))
            continue
        for told in _opened(part.casefold().replace("’", "'")):
            found[-1].append(Word(told if told in BREAKS else stem(told), told, match.start(), match.end()))
    return tuple(tuple(one) for one in found if one)


@lru_cache(maxsize=4096)
def stems_of(text: str) -> tuple[frozenset[str], ...]:
    """The stems in each sentence, to see quickly what cannot be said in it."""
    return tuple(frozenset(word.stem for word in sentence) for sentence in sentences_of(text))


def _opened(word: str) -> tuple[str, ...]:
    if "'" not in word and word != "cannot":
        return (word,)
    if word in _SAID:
        return _SAID[word]
    for suffix, means in _SUFFIXES:
        if word.endswith(suffix) and word != suffix:
            return word.removesuffix(suffix), means
    if word.endswith("'s"):
        return (word[:-2], "be") if word[:-2] in _IS else (word[:-2],)
    return (word.replace("'", ""),)
