"""Which support words send people to: standing up, having a seat, coming down to the floor, lying down."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

from extendum.core.listening.tokens import Tokens, heard, negated
from extendum.core.model.body import Base

_FLOOR, _LYING = frozenset({Base.FLOOR}), frozenset({Base.LYING})
_STANDING, _CHAIR = frozenset({Base.STANDING}), frozenset({Base.CHAIR})
#: One word that says it by itself. To sit may mean a chair or the floor: those who hear it see which is there.
_WORDS = {
    **dict.fromkeys(("stand", "stands", "standing", "rise"), _STANDING),
    **dict.fromkeys(("sit", "sits", "sitting", "seated"), _CHAIR | _FLOOR),
    **dict.fromkeys(("kneel", "kneels", "kneeling", "plank", "straddle"), _FLOOR),
    **dict.fromkeys(("lie", "lies", "lying", "prone", "supine"), _LYING),
}
#: Words in a row that say it.
_PHRASES: tuple[tuple[tuple[str, ...], frozenset[Base]], ...] = (
    (("have", "a", "seat"), _CHAIR),
    (("take", "a", "seat"), _CHAIR),
    (("your", "seats"), _CHAIR),
    (("to", "your", "seat"), _CHAIR),
    (("to", "your", "chair"), _CHAIR),
    (("to", "your", "chairs"), _CHAIR),
    (("get", "up"), _STANDING),
    (("to", "your", "feet"), _STANDING),
    (("onto", "your", "feet"), _STANDING),
    (("come", "up"), _STANDING),
    (("come", "back", "up"), _STANDING),
    (("all", "fours"), _FLOOR),
    (("hands", "and", "knees"), _FLOOR),
    (("hands", "and", "toes"), _FLOOR),
    (("come", "down"), _FLOOR),
    (("go", "down"), _FLOOR),
    (("cross", "legged"), _FLOOR),
    (("onto", "your", "knees"), _FLOOR),
    (("onto", "one", "knee"), _FLOOR),
    (("to", "the", "floor"), _FLOOR),
    (("on", "the", "floor"), _FLOOR),
    (("to", "the", "mat"), _FLOOR),
    (("on", "the", "mat"), _FLOOR),
    (("to", "your", "mat"), _FLOOR),
    (("on", "your", "back"), _LYING),
    (("onto", "your", "back"), _LYING),
    (("on", "your", "front"), _LYING),
    (("onto", "your", "front"), _LYING),
    (("on", "your", "belly"), _LYING),
    (("onto", "your", "belly"), _LYING),
    (("on", "your", "side"), _LYING),
    (("onto", "your", "side"), _LYING),
    (("face", "down"), _LYING),
    (("your", "back", "rests"), _LYING),
    (("onto", "the", "back"), _LYING),
    (("onto", "the", "belly"), _LYING),
    (("down", "to", "your", "back"), _LYING),
    (("lay", "down"), _LYING),
    (("lay", "yourself"), _LYING),
    (("lower", "yourself", "to"), _FLOOR),
    (("lower", "yourself", "down"), _FLOOR),
    (("get", "down"), _FLOOR),
    (("back", "on", "your", "feet"), _STANDING),
    (("on", "your", "feet"), _STANDING),
    (("to", "standing"), _STANDING),
    (("upright", "again"), _STANDING),
    (("perch", "on"), _CHAIR),
    (("settle", "on", "the", "chair"), _CHAIR),
    (("settle", "on", "your", "chair"), _CHAIR),
    (("onto", "the", "chair"), _CHAIR),
    (("onto", "your", "chair"), _CHAIR),
)
#: What stands or sits is a part of the body: "your standing leg", "your sit bones".
_PARTS = frozenset({"leg", "legs", "foot", "knee", "hip", "side", "heel", "bones", "bone"})
#: Where only a hand or a thing is put: "hands on your back", "a foot on the floor".
_PLACED = frozenset(
    {"hand", "hands", "palm", "palms", "foot", "feet", "heel", "heels", "toes", "knee", "knees", "arm", "arms", "elbow"}
    | {"elbows", "fingers", "fingertips", "forearm", "forearms", "block", "towel", "strap", "forehead", "head", "chin"}
)


@lru_cache(maxsize=4096)
def sends_to(words: str) -> frozenset[Base]:
    """The supports that words send people to; several where they may mean either."""
    return frozenset(base for tokens in heard(words) for base in _of_sentence(tokens))


def _of_sentence(tokens: Tokens) -> Iterator[Base]:
    for at, token in enumerate(tokens):
        if negated(tokens, at):
            continue
        if token in _WORDS and _PARTS.isdisjoint(tokens[at + 1 : at + 2]):
            yield from _WORDS[token]
        for phrase, bases in _PHRASES:
            if phrase[0] == token and tokens[at : at + len(phrase)] == phrase and not _only_placed(tokens, at):
                yield from bases


def _only_placed(tokens: Tokens, at: int) -> bool:
    """Whether what is put there is a hand or a thing: the nearest words before name one."""
    return tokens[at] in ("on", "to", "onto") and not _PLACED.isdisjoint(tokens[max(0, at - 3) : at])
