"""What was heard of a recording as the draft of a class: its moves with their doses, in the speaker's own words.

The draft lasts as long as the recording: what is no move is talk, and takes up what the ways of the class do not.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import partial

from extendum.core.edit.script_edits import new_script
from extendum.core.edit.take_up import take_up
from extendum.core.heard.directions import DIRECTED, ROUND
from extendum.core.heard.recording import Heard, HeardMove, Pass
from extendum.core.heard.repeats import Block, blocks_of
from extendum.core.heard.said import speaking_rate
from extendum.core.heard.talking import OF_CLASS, Kind, Talked, talks_of
from extendum.core.heard.wording import Wording, own_words, wording_of
from extendum.core.model.body import Side
from extendum.core.model.dose import Hold, Reps
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move, Sidedness
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section, SidePlan
from extendum.core.model.style import RATES
from extendum.core.model.talk import Talk, TalkKind
from extendum.core.model.words import Words
from extendum.core.timing.compile import compile_script
from extendum.core.timing.speech import at_rate_ms

LEAST_S, ROOM = 5, 10
#: So often talk and holds are set anew until the draft is as long as the recording.
ROUNDS = 10
#: While somebody speaks words come so much faster than in paragraphs, pauses for breath included.
QUICKER = 1.25
#: Fewer reps than this were a count of something else.
LEAST_REPS = 3


def draft(heard: Heard, title: str, library: Sequence[LibraryMove]) -> Script:
    """The class that was heard; RefusedError where no move was."""
    if not heard.moves:
        raise RefusedError("recording", "one in which a move was heard", "none")
    script = new_script(title, 600)
    rate = min(RATES[1], max(RATES[0], round(QUICKER * speaking_rate(heard.words))))
    script = replace(script, style=replace(script.style, words_per_minute=rate))
    entries = {entry.move.key: entry for entry in library}
    talks = {one.before: one for one in talks_of(heard)}
    said = wording_of(heard.words)
    groups: list[Group] = []
    for block in blocks_of(heard.moves):
        groups += _groups(block, heard.moves, said, talks, entries, script)
    main = tuple(replace(group, id=f"g{n}") for n, group in enumerate(groups, 1))
    sections = [Section("main", "Main", Role.MAIN, main)]
    if 0 in talks:
        welcome = Group("welcome", items=(_talk(talks[0], said, "Welcome"),))
        sections.insert(0, Section("opening", "Opening", Role.OPENING, (welcome,)))
    if len(heard.moves) in talks:
        goodbye = Group("goodbye", items=(_talk(talks[len(heard.moves)], said, "Goodbye"),))
        sections.append(Section("closing", "Closing", Role.CLOSING, (goodbye,)))
    return _as_long(replace(script, sections=tuple(sections)), round(heard.length))


def _groups(
    block: Block,
    heard: Sequence[HeardMove],
    said: Wording,
    talks: dict[int, Talked],
    entries: dict[str, LibraryMove],
    script: Script,
) -> list[Group]:
    """A block as groups; talk inside of one that comes again is a group of its own before it."""
    items: list[Item] = []
    talked: list[Item] = []
    whole = block.rounds == 1 and not block.chain
    for returns in block.moves:
        talk = talks.get(returns[0])
        if talk and talk.kind is not Kind.WELCOME:
            (items if whole else talked).append(_talk(talk, said, talk.kind.value.capitalize()))
        moves = [heard[n] for n in returns]
        items.append(_item(f"m{returns[0] + 1}", moves, said, entries.get(moves[0].key), script, chain=block.chain))
    leads = [lead for returns in block.moves if (lead := _lead(heard[returns[0]]))] if block.chain else []
    plan = SidePlan.CHAIN if block.chain else SidePlan.EACH_MOVE
    own = Group("g", items=tuple(items), rounds=block.rounds, side_plan=plan, lead_side=leads[0] if leads else None)
    return [Group("t", items=tuple(talked)), own] if talked else [own]


def _talk(one: Talked, said: Wording, name: str) -> Talk:
    seconds = max(1, round(one.end - one.start))
    text = said.told(said.since(one.start), said.since(one.end - 0.5), 4000, 4000)
    kind = OF_CLASS.get(one.kind, TalkKind.TALK)
    return Talk(f"t{one.before}", Elastic(max(0, seconds - 10), seconds, seconds + 30), text, name, kind)


def _item(
    name: str, moves: Sequence[HeardMove], said: Wording, entry: LibraryMove | None, script: Script, *, chain: bool
) -> MoveItem:
    """A move as it was heard, all its returns together."""
    passes = [one for move in moves for one in move.passes]
    two = chain or len({one.side for one in moves[0].passes}) > 1
    heard_s = sum(one.seconds for one in passes) / len(passes)
    seconds = max(LEAST_S, round(heard_s) - script.style.settle_s)  # settling is part of what is heard as a pass
    dose: Hold | Reps = Hold(Elastic(max(1, seconds - ROOM), seconds, seconds + ROOM))
    counted = max(one.count for one in passes)
    if counted >= LEAST_REPS and (entry is None or isinstance(entry.dose, Reps)):
        dose = Reps(Elastic(max(1, counted - 4), counted, counted + 4))
    if entry is None:
        move = Move(moves[0].name, sidedness=Sidedness.EACH_SIDE if two else Sidedness.TOGETHER)
        item = MoveItem(name, _directed(move, passes), dose, Words())
    else:
        item = replace(take_up(entry, name, script.style), dose=dose, then=(), sets=1)
        if item.move.sidedness.by_side and not two:
            item = replace(item, move=replace(item.move, sidedness=Sidedness.TOGETHER))  # one pass is what was heard
        item = replace(item, move=_directed(item.move, passes))
    by_side = item.move.sidedness.by_side
    if by_side and not chain:
        item = replace(item, lead_side=_lead(moves[0]))
    return replace(item, words=own_words(said, moves[0], item.words, by_side=by_side))


def _directed(move: Move, passes: Sequence[Pass]) -> Move:
    """A move with the directions that were heard of it, on each side or on both at once; else with sides alone."""
    sides = {"left", "right"} <= {one.side for one in passes}
    ways = tuple(dict.fromkeys(one.direction for one in passes if one.direction))
    if len(ways) == 2:
        each = Sidedness.EACH_SIDE_AND_DIRECTION if sides else Sidedness.EACH_DIRECTION
        named = move.directions if ways == ROUND and move.sidedness in DIRECTED else ways
        return replace(move, sidedness=each, directions=named)
    if sides and move.sidedness is Sidedness.EACH_DIRECTION:
        return replace(move, sidedness=Sidedness.EACH_SIDE)
    return move


def _lead(move: HeardMove) -> Side | None:
    side = move.passes[0].side
    return Side(side) if side in ("left", "right") else None


def _as_long(script: Script, length_s: int) -> Script:
    """The same as long as the recording, as nearly as it can be.

    Talk gives way first, as far as its words need no longer; then holds; then what is left of the talk.
    """
    rate = script.style.words_per_minute
    for n in range(ROUNDS):
        off = length_s - compile_script(script).length_s
        if not off:
            break
        talks = [item for item in script.items() if isinstance(item, Talk)]
        least = {one.id: _spoken_s(one, rate) if n < ROUNDS // 2 else 1 for one in talks}
        spare = sum(max(0, one.seconds.value - least[one.id]) for one in talks)
        if talks and (off > 0 or spare > 0):
            script = _each(script, partial(_stretched, talks=talks, least=least, off=max(off, -spare)))
        else:
            script = _each(script, partial(_held, by=max(0.5, 1 + off / max(1, _work(script)))))
    return replace(script, brief=replace(script.brief, target_s=max(1, length_s)))


def _spoken_s(one: Talk, rate: int) -> int:
    """Seconds that the words of a talk need; a talk without words has at least one."""
    return 1 + -(-at_rate_ms(one.words, rate) // 1000) if one.words else 1


def _held(item: Item, by: float) -> Item:
    """An item with its hold a share as long: the recording had no time for more."""
    if not isinstance(item, MoveItem) or not isinstance(item.dose, Hold):
        return item
    seconds = max(LEAST_S, round(item.dose.quantity.value * by))
    return item.having(Elastic(max(1, seconds - ROOM), seconds, seconds + ROOM))


def _stretched(item: Item, talks: Sequence[Talk], least: Mapping[str, int], off: int) -> Item:
    """A talk with its share of what is missing, or of what each can spare."""
    if not isinstance(item, Talk):
        return item
    shares = {one.id: one.seconds.value if off > 0 else max(0, one.seconds.value - least[one.id]) for one in talks}
    seconds = max(1, round(item.seconds.value + off * shares[item.id] / max(1, sum(shares.values()))))
    return replace(item, seconds=Elastic(max(0, seconds - 10), seconds, seconds + 30))


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
