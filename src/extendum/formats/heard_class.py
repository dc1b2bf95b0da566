"""What was heard of a recording as the draft of a class: its moves with their doses, in the speaker's own words.

The draft lasts as long as the recording: what is no move is talk, and takes up what the ways of the class do not.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial

from extendum.core.heard.recording import Heard, HeardMove
from extendum.core.heard.said import Word, sentences, speaking_rate
from extendum.core.model.body import Side
from extendum.core.model.dose import Hold, Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Sidedness
from extendum.core.model.script import Script
from extendum.core.model.style import RATES
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.model.timeline import Timeline
from extendum.core.timing.compile import compile_script
from extendum.formats.dose_text import Told
from extendum.formats.order_class import Match, class_of
from extendum.formats.order_reader import Row

LEAST_S, ROOM = 5, 10
#: So often talk and holds are set anew until the draft is as long as the recording.
ROUNDS = 10
#: Talk between two moves that lasts longer is an item of its own.
TALK_S = 12
#: While somebody speaks words come so much faster than in paragraphs, pauses for breath included.
QUICKER = 1.25
#: So many words of a set-up are taken over; of longer ones the sentences that fit.
WORDS = 60
_FILLERS = re.compile(r"\b(?:um+|uh+|er+m?|you know|i mean|kind of|sort of|okay so|all right so)\b,?\s*", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Beside:
    """One move: seconds of work in the script, and heard; None where it is in one of them only."""

    name: str
    planned_s: int | None
    heard_s: int | None


def draft(heard: Heard, title: str, library: Sequence[LibraryMove]) -> Script:
    """The class that was heard; RefusedError where no move was."""
    if not heard.moves:
        raise RefusedError("recording", "one in which a move was heard", "none")
    entries = {entry.move.key: entry for entry in library}
    script = class_of(title, list(_matches(heard, entries)), 0)
    spoken = iter(heard.moves)
    worded = _each(
        script, lambda item: _in_own_words(item, next(spoken), heard) if isinstance(item, MoveItem) else item
    )
    style = replace(
        worded.style, words_per_minute=min(RATES[1], max(RATES[0], round(QUICKER * speaking_rate(heard.words))))
    )
    return _as_long(replace(worded, style=style), round(heard.length))


def _matches(heard: Heard, entries: dict[str, LibraryMove]) -> Iterator[Match]:
    """Each move and each talk as a row that was looked at."""
    before = 0.0
    for n, move in enumerate(heard.moves, 1):
        if move.start - before > (1 if n == 1 else TALK_S):
            name = "Welcome" if n == 1 else "Talk"
            yield _talk(n, name, before, move.start, heard, "Opening" if n == 1 else "Main")
        yield Match(_row(n, move, entries.get(move.key)), entries.get(move.key), None)
        before = move.end
    if heard.length - before > 1:
        yield _talk(len(heard.moves) + 1, "Goodbye", before, heard.length, heard, "Closing")


def _talk(n: int, name: str, start: float, end: float, heard: Heard, section: str) -> Match:
    words = [one for one in heard.words if start <= one.at < end - 0.5]
    seconds = max(1, round(end - start))
    told = Told(Hold(Elastic(max(1, seconds - 10), seconds, seconds + 30)))
    return Match(Row(n, section, name, told, f"{seconds} s", _told(words, 4000), still=True), None, TalkKind.TALK)


def _row(n: int, move: HeardMove, entry: LibraryMove | None) -> Row:
    two = len({one.side for one in move.passes}) > 1
    sides = Sidedness.EACH_SIDE if two else None
    if entry and entry.move.sidedness.by_side and not sides:
        sides = Sidedness.TOGETHER  # one pass is what was heard
    elif entry and not entry.move.sidedness.by_side:
        sides = None
    counted = max((one.count for one in move.passes), default=0)
    seconds = max(LEAST_S, round(sum(one.seconds for one in move.passes) / len(move.passes)))
    dose: Hold | Reps = Hold(Elastic(max(1, seconds - ROOM), seconds, seconds + ROOM))
    if counted > 2 and (entry is None or isinstance(entry.dose, Reps)):
        dose = Reps(Elastic(max(1, counted - 4), counted, counted + 4))
    text = f"{dose.quantity.value} {'reps' if isinstance(dose, Reps) else 's'}"
    lead = next((Side(one.side) for one in move.passes[:1] if one.side in ("left", "right")), None)
    return Row(n, "Main", move.name, Told(dose, 1, sides), text, lead=lead if two else None, still=False)


def _in_own_words(item: MoveItem, move: HeardMove, heard: Heard) -> MoveItem:
    """The item with what the speaker said on the way into it; sides become those of each pass."""
    said = _told(heard.words[move.first : move.work], 1000)
    first = move.passes[0].side
    if item.move.sidedness.by_side and first in ("left", "right"):
        other = "right" if first == "left" else "left"
        said = re.sub(rf"\b{first}\b", "{side}", said)
        said = re.sub(rf"\b{other}\b", "{other}", said)
    if len(said.split()) < 3:
        return item
    return replace(item, words=replace(item.words, moving=said, there="", short="", demonstration=""))


def _told(words: Sequence[Word], longest: int) -> str:
    """Words as a text: without fillers and braces, in sentences, as far as they fit."""
    parts: list[str] = []
    for first, last in sentences(words) if words else ():
        plain = _FILLERS.sub("", " ".join(word.shown for word in words[first:last]))
        plain = re.sub(r"[{}\[\]]", "", plain).strip(" ,;")
        if not plain:
            continue
        plain = plain[:1].upper() + plain[1:]
        parts.append(plain if plain[-1] in ".!?" else f"{plain}.")
    told = ""
    for part in parts:
        if len(told) + len(part) + 1 > longest or len(told.split()) > (WORDS if longest <= 1000 else longest):
            break
        told = f"{told} {part}".strip()
    return told


def _as_long(script: Script, length_s: int) -> Script:
    """The same as long as the recording, as nearly as it can be: its talk gives way first, and then its holds."""
    for _ in range(ROUNDS):
        off = length_s - compile_script(script).length_s
        if not off:
            break
        talks = [item for item in script.items() if isinstance(item, Talk)]
        spare = sum(one.seconds.value - 1 for one in talks)
        if talks and (off > 0 or spare > 0):
            script = _each(script, partial(_stretched, talks=talks, off=max(off, -spare)))
        else:
            script = _each(script, partial(_held, by=max(0.3, 1 + off / max(1, _work(script)))))
    return replace(script, brief=replace(script.brief, target_s=max(1, length_s)))


def _held(item: Item, by: float) -> Item:
    """An item with its hold a share as long: the recording had no time for more."""
    if not isinstance(item, MoveItem) or not isinstance(item.dose, Hold):
        return item
    seconds = max(LEAST_S, round(item.dose.quantity.value * by))
    return item.having(Elastic(max(1, seconds - ROOM), seconds, seconds + ROOM))


def _work(script: Script) -> int:
    return sum(one.seconds for one in compile_script(script).segments if one.kind.works)


def _each(script: Script, change: Callable[[Item], Item]) -> Script:
    """A class with each of its items changed."""
    sections = tuple(
        replace(
            section, groups=tuple(replace(group, items=tuple(map(change, group.items))) for group in section.groups)
        )
        for section in script.sections
    )
    return replace(script, sections=sections)


def _stretched(item: Item, talks: Sequence[Talk], off: int) -> Item:
    if not isinstance(item, Talk):
        return item
    whole = sum(one.seconds.value for one in talks) or 1
    seconds = max(1, round(item.seconds.value + off * item.seconds.value / whole))
    return replace(item, seconds=Elastic(max(0, seconds - 10), seconds, seconds + 30))


def beside(script: Script, timeline: Timeline, heard: Heard, library: Sequence[LibraryMove]) -> list[Beside]:
    """The moves of a class beside what was heard of them: seconds of work, both sides together."""
    planned: dict[str, int] = {}
    for segment in timeline.segments:
        if segment.kind.works:
            planned[segment.name] = planned.get(segment.name, 0) + segment.seconds
    called = {item.move.key: item.name for item in script.moves() if item.move.key}
    real: dict[str, float] = {}
    for move in heard.moves:
        likely = [offer.key for offer in move.offers if offer.key in called]
        name = called.get(move.key) or (called[likely[0]] if likely else move.name)
        real[name] = real.get(name, 0.0) + sum(one.seconds for one in move.passes)
    return [Beside(name, planned.get(name), round(real.get(name, 0)) or None) for name in {**planned, **real}]
