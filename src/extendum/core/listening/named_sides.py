"""Left and right as sides of the body, told from ``right now`` and ``what is left`` by what they go with."""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise

from extendum.core.listening.words import BREAKS, Sentence, Word, sentences_of, stem

_SIDES = frozenset({"left", "right"})
_PARTS = (
    "side half one hand arm leg foot heel toe ankle calf shin knee thigh hip buttock seat cheek waist flank rib lung "
    "chest breast shoulder blade armpit elbow forearm wrist palm fist finger fingertip thumb ear eye eyebrow nostril "
    "temple jaw neck hamstring quad glute sole arch instep bone collarbone kidney groin kneecap direction corner edge "
    "sock shoe body torso back front"
)
_MOVES = (
    "look turn lean tip tilt reach step twist roll drop swing bend slide shift rotate face start begin move circle go "
    "come glance gaze sway rock walk point stretch facing to from towards toward far further first then"
)


def _stems(words: str) -> frozenset[str]:
    return frozenset(map(stem, words.split()))


#: What has a left one and a right one, and what may stand before it.
_PAIRED, _LIKE = _stems(_PARTS), _stems("big little outer inner upper lower front back sit sitting")
#: What makes it a place: ``to the right``, ``over to your left``.
_WHOSE = _stems("the your my our their")
#: What goes one way: ``lean right``, ``from left to right``.
_GOES = _stems(_MOVES)
#: After these a side can end its clause.
_JOINS = _stems("and then first with so as while until for to or but")
_OVER = _stems("over under on across above behind in")
#: What one of two does: ``the right goes behind``.
_DOES = _OVER | _stems("goes is stays comes of can takes holds rests follows")
_LEAVES = _stems("over out behind")


@lru_cache(maxsize=8192)
def sides_named(text: str) -> tuple[Word, ...]:
    """Each left or right of a text that names a side of the body or the way to it, in their order.

    Left and right said alike in one sentence mean both, ``look left, look right``, and with an *or* either.
    """
    return tuple(word for sentence in sentences_of(text) for word in _of_sentence(sentence))


@lru_cache(maxsize=8192)
def crossed(text: str) -> str:
    """Which side goes over the other, as written: ``right leg over the left``; empty where both do."""
    found = {}
    for sentence in sentences_of(text):
        for a, b in pairwise(n for n, word in enumerate(sentence) if word.text in _SIDES):
            between = {word.stem for word in sentence[a + 1 : b]}
            if sentence[a].text != sentence[b].text and between & _OVER and not between & {"or", ","}:
                found[sentence[a].text] = text[sentence[a].start : sentence[b].end]
    return next(iter(found.values())) if len(found) == 1 else ""


@lru_cache(maxsize=8192)
def _of_sentence(sentence: Sentence) -> tuple[Word, ...]:
    at = [n for n, word in enumerate(sentence) if word.text in _SIDES]
    parts = [n for n in at if _has_part(sentence, n)]
    if any(word.stem == "or" for a, b in pairwise(at) for word in sentence[a:b]):
        return ()
    ways = [n for n in at if n not in parts and _is_way(sentence, n)]
    if {sentence[n].text for n in ways} == _SIDES and not parts and len({sentence[n - 1].stem for n in ways}) == 1:
        return ()
    return tuple(sentence[n] for n in sorted((*parts, *ways)))


def _has_part(sentence: Sentence, n: int) -> bool:
    """``The left heel``, ``right sit bone``, ``left and right foot``, ``right over left``."""
    after = [word.stem for word in sentence[n + 1 : n + 4]]
    if after[:1] == ["hand"] and after[1:2] == ["side"]:
        return True
    if len(after) > 1 and after[0] in _OVER and after[1] in _SIDES:
        return True
    if n > 1 and sentence[n - 1].stem in _OVER and sentence[n - 2].stem in _SIDES:
        return True
    while after and (after[0] in _LIKE) and len(after) > 1 and after[1] in _PAIRED:
        after = after[1:]
    return bool(after) and after[0] in _PAIRED and not (after[0] == "back" and sentence[n].text == "right")


def _is_way(sentence: Sentence, n: int) -> bool:
    """``To the right.``, ``on your left``, ``turn right``, where nothing follows that it could belong to."""
    after = sentence[n + 1].stem if n + 1 < len(sentence) else ""
    ends = not after or after in BREAKS or after in _JOINS
    before = sentence[n - 1].stem if n else ""
    if n and sentence[n - 1].text in ("looks", "feels", "seems", "is", "sounds"):
        return False
    if sentence[n].text == "left" and after in _LEAVES:
        return False
    if before in _WHOSE:
        return ends or after in _DOES or sentence[n].text == "left"
    if not before or before in BREAKS:
        return after in ("first", "then")
    return ends and after != "?" and before in _GOES
