"""From a script to its timeline."""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.body import Stance
from extendum.core.cues import Placed, pass_cues, talk_cues
from extendum.core.passes import Facts, Part, Pass, Situation, parts, passes
from extendum.core.script import Item, MoveItem, Quiet, Script, Talk
from extendum.core.timeline import Cue, Segment, SegmentKind, Timeline, Unsaid
from extendum.core.words import mentions

#: What is announced as next after the last move.
AFTER_THE_LAST = "the close"
_MINUTE_ROUNDS = 4


def start_situation(script: Script) -> Situation:
    """Bodies and hands at the start of the class."""
    return Situation(Stance(script.start_posture))


def facts_of(script: Script, minutes: int) -> dict[str, dict[str, str]]:
    """What words may say of the class, per item: next, minutes, moves and moves_left."""
    moves = script.moves()
    shared = {"minutes": str(minutes), "moves": str(len(moves))}
    found: dict[str, dict[str, str]] = {}
    to_come = list(moves)
    for item in script.items():
        if to_come and to_come[0] is item:
            to_come.pop(0)
        following = to_come[0].name if to_come else AFTER_THE_LAST
        found[item.id] = {**shared, "next": following, "moves_left": str(len(to_come))}
    return found


def whole_minutes(length_s: int) -> int:
    """The minutes that a length is announced as: the nearest whole one, at least 1."""
    return max(1, (length_s + 30) // 60)


def item_parts(
    item: Item, before: Situation, script: Script, facts: Facts
) -> tuple[list[tuple[Pass | None, Part]], Situation]:
    """Every part of an item with its pass, in order, and the situation after it."""
    if not isinstance(item, MoveItem):
        seconds = item.quantity.value
        kind = SegmentKind.TALK if isinstance(item, Talk) else SegmentKind.QUIET
        return ([(None, Part(kind, seconds, _seconds_reason(item)))] if seconds else []), before
    found: list[tuple[Pass | None, Part]] = []
    for this in passes(item, script.style):
        some, before = parts(this, before, script.style, facts)
        found += [(this, part) for part in some]
    return found, before


def _seconds_reason(item: Talk | Quiet) -> str:
    q = item.quantity
    if q.locked:
        return f"{q.value} s, locked"
    origin = "as wanted" if q.value == q.wanted else f"fitted; wanted {q.wanted}"
    return f"{q.value} s, {origin}; may be {q.least} to {q.most}"


def length_of(script: Script) -> int:
    """Whole seconds that the class lasts."""
    return _lay_out(script)[0]


Laid = list[tuple[Item, list[tuple[Pass | None, Part]]]]


def _lay_out(script: Script) -> tuple[int, Laid, dict[str, dict[str, str]]]:
    """The length, the parts of every item and the facts.

    {minutes} may be spoken in a set-up and so change what it counts: laid out again until it is true.
    """
    minutes = whole_minutes(script.brief.target_s)
    for _ in range(_MINUTE_ROUNDS):
        facts = facts_of(script, minutes)
        before, length = start_situation(script), 0
        laid: Laid = []
        for item in script.items():
            found, before = item_parts(item, before, script, facts[item.id])
            laid.append((item, found))
            length += sum(part.seconds for _, part in found)
        if whole_minutes(length) == minutes or not says_minutes(script):
            break
        minutes = whole_minutes(length)
    return length, laid, facts


def says_minutes(script: Script) -> bool:
    """Whether any words of the class speak of its minutes."""
    return any(
        mentions(words, {"minutes"})
        for item in script.items()
        for words in (
            item.words.all() if isinstance(item, MoveItem) else [item.words] if isinstance(item, Talk) else []
        )
    )


def compile_script(script: Script) -> Timeline:
    """The timeline of a script: segments that tile it, placed cues, and what stays unsaid."""
    length, laid, facts = _lay_out(script)
    last_move = script.moves()[-1:]
    segments: list[Segment] = []
    placed: list[Placed] = []
    at = 0
    for item, found in laid:
        timed = list(_timed(item, found, at))
        at = timed[-1][0].end_s if timed else at
        segments += [segment for segment, _, _ in timed]
        calls_next = script.style.next_call and (item,) != last_move
        placed += _cues(item, timed, script, facts[item.id], calls_next)
    cues = sorted((p for p in placed if isinstance(p, Cue)), key=lambda c: (c.start_ms, c.end_ms, c.id))
    unsaid = tuple(p for p in placed if isinstance(p, Unsaid))
    return Timeline(length, tuple(segments), tuple(cues), unsaid)


Timed = tuple[Segment, Part, Pass | None]


def _timed(item: Item, found: list[tuple[Pass | None, Part]], at: int) -> Iterator[Timed]:
    for this, part in found:
        number, round_ = (this.number, this.round) if this else (1, 1)
        yield (
            Segment(
                id=f"{item.id}.{number}.{round_}.{part.kind}",
                kind=part.kind,
                start_s=at,
                end_s=at + part.seconds,
                item=item.id,
                name=item.name,
                side=this.side if this else None,
                pass_number=number,
                round=round_,
                stage=1 if part.kind.works else None,
                reason=part.reason,
            ),
            part,
            this,
        )
        at += part.seconds


def _cues(item: Item, timed: list[Timed], script: Script, facts: Facts, calls_next: bool) -> Iterator[Placed]:
    if isinstance(item, Talk):
        yield from talk_cues(item, timed[0][0] if timed else None, script.style, facts)
        return
    for number in sorted({segment.pass_number for segment, _, _ in timed}):
        own = [(segment, part, this) for segment, part, this in timed if segment.pass_number == number]
        this = own[0][2]
        if this is not None:
            pairs = [(segment, part) for segment, part, _ in own]
            calls = calls_next and this.last
            yield from pass_cues(this, pairs, script.style, facts, calls_next=calls)
