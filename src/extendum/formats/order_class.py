"""Rows of a running order matched to the library, and the class that they make once the person has checked them."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher
from functools import lru_cache

from extendum.core.edit.script_edits import new_script, set_target
from extendum.core.edit.take_up import take_up
from extendum.core.model.dose import Hold
from extendum.core.model.dose_values import tapered
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move, Sidedness
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.model.words import Words
from extendum.core.moves.called import words_in
from extendum.core.moves.find import searchable
from extendum.core.timing.compile import compile_script
from extendum.formats.dose_text import read_dose
from extendum.formats.order_reader import Order, Row

#: From so like a name on a move is possible, is taken for it, and is surely it; so many others are offered.
POSSIBLE, LIKE, SURE, ALTERNATIVES = 0.25, 0.45, 0.75, 4

_ROLES = (
    (Role.OPENING, r"open|arriv|welcome|intro|begin|start"),
    (Role.TEACHING, r"teach|lectur|theory|explain|learn|why we"),
    (Role.WARM_UP, r"warm|loosen|mobil|prepar"),
    (Role.CLOSING, r"clos|cool|settle|relax|finish|end\b|goodbye"),
)
_TALKS = (
    (TalkKind.CHECK_IN, r"\bcheck[ -]?in\b"),
    (TalkKind.WATER, r"\bwater\b|\bdrink\b|\bsip\b"),
    (TalkKind.REST, r"\brest\b|\bbreak\b|\bpause\b"),
    (TalkKind.TALK, r"\bwelcome\b|\bintro(?:duction)?\b|\btalk\b|\bgoodbye\b|\bthank|\bannounce|\bexplain|\boutro\b"),
)
_QUIET = re.compile(r"\bclosing quiet\b")


@dataclass(frozen=True, slots=True)
class Match:
    """What a row is taken for: a move of the library, time without a move, or its own; and what else it may be."""

    row: Row
    entry: LibraryMove | None
    talk: TalkKind | None
    others: tuple[LibraryMove, ...] = ()
    sure: bool = True


def match_order(order: Order, library: Sequence[LibraryMove]) -> list[Match]:
    """Each row with the move that it is most like, and the next best ones."""
    return [_match(row, library) for row in order.rows]


def _match(row: Row, library: Sequence[LibraryMove]) -> Match:
    words = _words_of(row.name)
    letters = SequenceMatcher(None, "", " ".join(words))
    ranked = sorted(((_likest(words, one, letters), -n) for n, one in enumerate(library)), reverse=True)
    best = [library[-n] for score, n in ranked[: ALTERNATIVES + 1] if score > POSSIBLE]
    score = ranked[0][0] if ranked else 0.0
    talk = next((kind for kind, pattern in _TALKS if re.search(pattern, row.name.casefold())), None)
    if row.still:
        return Match(row, None, talk or TalkKind.TALK)
    if talk and score < SURE and row.still is None:
        return Match(row, None, talk, tuple(best[:ALTERNATIVES]))
    entry = best[0] if best and score >= LIKE else None
    others = tuple(one for one in best if one is not entry)[:ALTERNATIVES]
    return Match(row, entry, None, others, sure=score >= SURE)


_SMALL = frozenset(
    (
        "a",
        "an",
        "and",
        "at",
        "by",
        "for",
        "from",
        "in",
        "into",
        "of",
        "on",
        "or",
        "over",
        "the",
        "to",
        "up",
        "w",
        "with",
    )
)


@lru_cache(maxsize=4096)
def _words_of(name: str) -> tuple[str, ...]:
    """The words of a name that tell something, as they are found by."""
    return tuple(word for word in words_in(name) if word not in _SMALL)


def _likest(words: tuple[str, ...], entry: LibraryMove, letters: SequenceMatcher[str]) -> float:
    """How well words fit a move by the best of its names; one that it is also called by counts a little less."""
    also = max((like(words, entry.move, letters, name) for name in entry.aliases), default=0.0)
    return max(like(words, entry.move, letters, entry.move.name), 0.98 * also)


def like(words: tuple[str, ...], move: Move, letters: SequenceMatcher[str], called: str) -> float:
    """How well words fit a move, 0 to 1: found in a name, or in what else it is found by; and the name in them."""
    if not words:
        return 0.0
    name, about = _words_of(called), tuple(searchable(move))
    found = sum(1.0 if _among(word, name) else 0.6 if _among(word, about) else 0.0 for word in words) / len(words)
    told = sum(_among(word, words) for word in name) / max(1, len(name))
    if 0.55 * found + 0.25 * told + 0.2 <= POSSIBLE:
        return 0.0  # however its letters are: nothing is counted for nothing
    letters.set_seq1(" ".join(name))
    return 0.55 * found + 0.25 * told + 0.2 * letters.ratio()


@lru_cache(maxsize=4096)
def _begun(words: tuple[str, ...]) -> frozenset[str]:
    """Words and the beginnings by which longer ones are known: breathing and breaths are one."""
    return frozenset((*words, *(f"{word[:5]}…" for word in words if len(word) >= 5)))


def _among(word: str, words: tuple[str, ...]) -> bool:
    """Whether a word or one that begins like it is among others."""
    known = _begun(words)
    return word in known or (len(word) >= 5 and f"{word[:5]}…" in known)


# ---- making a class of it -----------------------------------------------------------------------------


def class_of(title: str, matches: Sequence[Match], target_s: int = 0) -> Script:
    """The class that the rows make: sections with roles by their names, doses as told, words where a move has none.

    Rows of a later round are the same items again, and their doses tell its taper; without a length of its own the
    class is as long as it comes to.
    """
    script = new_script(title, target_s or 600)
    *_, closing = script.sections
    parts: list[tuple[str, list[MoveItem | Talk], list[tuple[MoveItem, int, int]]]] = []
    rounds: dict[int, int] = {}
    for n, match in enumerate(matches, 1):
        row = match.row
        if _QUIET.search(row.name.casefold()):
            continue
        if not parts or parts[-1][0] != row.section:
            parts.append((row.section, [], []))
        _, items, later = parts[-1]
        again = next((item for item in items if item.name == _called(match)), None)
        if row.round > 1 and again is not None:
            rounds[len(parts)] = max(rounds.get(len(parts), 1), row.round)
            if isinstance(again, MoveItem) and row.told.dose is not None:
                value = row.told.dose.quantity.value
                wider = _reaching(again, value)
                items[items.index(again)] = wider
                later[:] = [(wider if one is again else one, n, told) for one, n, told in later]
                later.append((wider, row.round, value))
            continue
        items.append(_item(f"r{n}", match, script))
    sections = []
    for n, (name, items, later) in enumerate(parts, 1):
        taper = _taper(later, script.style.breath_ms)
        group = Group(f"g{n}", items=tuple(items), rounds=rounds.get(n, 1), taper_percent=taper)
        sections.append(Section(f"s{n}", name, _role(name), (group,)))
    quiet = replace(closing.groups[0], id="end-g")
    if sections and sections[-1].role is Role.CLOSING:
        sections[-1] = replace(sections[-1], groups=(*sections[-1].groups, quiet))
    else:
        sections.append(replace(closing, id="end", groups=(quiet,)))
    made = replace(script, sections=tuple(sections))
    return made if target_s else set_target(made, compile_script(made).length_s)


def _taper(later: Sequence[tuple[MoveItem, int, int]], breath_ms: int) -> int:
    """The share of a round in the one before that comes nearest to the doses told there: (item, round, value)."""

    def off(percent: int) -> int:
        return sum(
            abs(tapered(item.dose, item.dose.quantity.value, round_, percent, breath_ms, even=item.even(1)) - value)
            for item, round_, value in later
        )

    return min(range(100, 9, -1), key=lambda percent: (off(percent), percent % 10, percent % 5)) if later else 100


def _reaching(item: MoveItem, value: int) -> MoveItem:
    """The item with limits that let a later round have what the list says."""
    now = item.quantity
    return item.having(replace(now, least=min(now.least, value), most=max(now.most, value)))


def _called(match: Match) -> str:
    return match.entry.move.name if match.entry else match.row.name


def _role(section: str) -> Role:
    return next((role for role, pattern in _ROLES if re.search(pattern, section.casefold())), Role.MAIN)


def _item(name: str, match: Match, script: Script) -> MoveItem | Talk:
    row, told = match.row, match.row.told
    if match.talk is not None:
        wanted = told.dose.quantity.value if told.dose is not None else 30
        return Talk(name, Elastic(max(0, wanted - 10), wanted, wanted + 30), row.words, row.name, match.talk)
    if match.entry is None:
        dose = told.dose or Hold(Elastic(15, 30, 45))
        move = Move(row.name, sidedness=told.sides or Sidedness.TOGETHER)
        return MoveItem(name, move, dose, Words(there=row.words[:1000]), sets=told.sets)
    item = take_up(match.entry, name, script.style)
    in_turn = item.move.sidedness.alternates and row.lead is None and told.sides is Sidedness.EACH_SIDE
    if row.still is not None and told.sides is not None and not in_turn:
        item = replace(item, move=replace(item.move, sidedness=told.sides))
    if row.lead is not None and item.move.sidedness.by_side:
        item = replace(item, lead_side=row.lead)
    if told.dose is None:
        return item
    again = read_dose(row.dose, item.dose)  # bare numbers and phases follow the move
    item = replace(item, dose=again.dose or item.dose, then=(), sets=again.sets)
    return replace(item, count_is=again.count_is) if item.move.sidedness.alternates else item
