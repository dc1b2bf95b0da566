"""How long words take to say: as they were read, or words at a rate while speaking and a short pause per sentence."""

from __future__ import annotations

import re
from functools import lru_cache

from extendum.core.listening.spelled import number_words
from extendum.core.model.marks import parted
from extendum.core.model.voice import Speech

SENTENCE_MS = 300
_WORD = re.compile(r"[^\W_]+(?:['’][^\W_]+)*")
_NUMBER = re.compile(r"\d+(?:\.\d+)?")
_SENTENCE = re.compile(r".*?[.!?…]+[\"'”’)*]*(?=\s|$)|.+$", re.S)


def _spell(match: re.Match[str]) -> str:
    whole, _, decimals = match.group().partition(".")
    spoken = number_words(int(whole)) if len(whole) <= 6 else " ".join(number_words(int(d)) for d in whole)
    return f" {spoken} " + (" point " + " ".join(number_words(int(d)) for d in decimals) if decimals else "")


@lru_cache(maxsize=8192)
def word_count(words: str) -> int:
    """Words as spoken: numbers spelled out, hyphens parted, waits left out."""
    return sum(len(_WORD.findall(_NUMBER.sub(_spell, text))) for text in parted(words) if isinstance(text, str))


@lru_cache(maxsize=8192)
def sentences(words: str) -> tuple[str, ...]:
    """The sentences of a text, each trimmed; what has no end mark counts as one, and a wait ends one."""
    texts = (text for text in parted(words) if isinstance(text, str))
    found = (part.strip() for text in texts for part in _SENTENCE.findall(text))
    return tuple(part for part in found if _WORD.search(part))


def speaking_ms(words: str, speech: Speech) -> int:
    """Milliseconds to say a text: as it was read, otherwise by the voice's rate, otherwise by the class's rate."""
    if speech.voice and words:
        read = speech.read_ms(words)
        if read is not None:
            return read
        if speech.voice.word_ms:
            return speech.voice.word_ms * word_count(words) + speech.voice.sentence_ms * len(sentences(words))
    return at_rate_ms(words, speech.words_per_minute)


def in_rhythm_ms(words: str, speech: Speech) -> int:
    """Milliseconds of a count: as it was read, otherwise without the pause of a sentence, since it follows the beat."""
    read = speech.read_ms(words)
    if read is not None:
        return read
    pause = speech.voice.sentence_ms if speech.voice and speech.voice.word_ms else SENTENCE_MS
    return max(1, speaking_ms(words, speech) - pause)


@lru_cache(maxsize=8192)
def at_rate_ms(words: str, words_per_minute: int) -> int:
    """Milliseconds to say a text: words x 60000 / rate, rounded, plus 300 ms a sentence.

    Coaches speak at 140 to 200 words a minute while they speak; the pause at a sentence's end is a
    part of speaking and not of the silence around it.
    """
    count = word_count(words)
    return (count * 60_000 + words_per_minute // 2) // words_per_minute + SENTENCE_MS * len(sentences(words))


def in_sentences_ms(words: str, speech: Speech) -> int:
    """Milliseconds to say a text sentence by sentence, each rounded by itself, as talks and cadences do."""
    return sum(speaking_ms(sentence, speech) for sentence in sentences(words))


def ceil_s(ms: int) -> int:
    """Whole seconds that hold these milliseconds."""
    return -(-ms // 1000)
